"""Clear."""
