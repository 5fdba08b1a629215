"""Curves: values over time and what is done to them, whatever they automate."""
