"""Retarget."""
