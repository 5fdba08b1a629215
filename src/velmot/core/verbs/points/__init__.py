"""Points."""
