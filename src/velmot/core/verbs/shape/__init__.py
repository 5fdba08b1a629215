"""Reshape, and values made the same."""
