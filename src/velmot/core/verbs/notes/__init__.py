"""Notes."""
