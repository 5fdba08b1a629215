"""Regions, and the lanes they hold."""
