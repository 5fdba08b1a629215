"""The demo session."""
