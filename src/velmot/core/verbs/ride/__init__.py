"""Ride."""
