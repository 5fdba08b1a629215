"""Tests of what a session sounds like."""
