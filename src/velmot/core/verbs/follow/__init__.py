"""Follow."""
