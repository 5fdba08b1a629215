"""Sound."""
