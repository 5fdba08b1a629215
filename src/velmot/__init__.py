"""Velmot moves, reshapes and tidies automation envelopes."""

__version__ = "0.1.0"
