"""Paste."""
