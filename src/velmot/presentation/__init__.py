"""What the screen is told: chosen, measured and worded from sessions, changes and comparisons. No routes, no HTML."""
