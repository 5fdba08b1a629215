"""Carry."""
