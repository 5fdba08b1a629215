"""Retime."""
