"""Reuse: phrases, shapes and their places."""
