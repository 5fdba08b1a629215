"""Thin."""
