"""Markers."""
