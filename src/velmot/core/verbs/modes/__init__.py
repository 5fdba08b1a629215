"""Modes and switches."""
