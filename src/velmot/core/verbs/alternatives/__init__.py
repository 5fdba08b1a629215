"""Alternatives."""
