"""Draw."""
