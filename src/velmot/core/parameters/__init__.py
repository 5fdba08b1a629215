"""Parameters: what values there are, how they are said, and how those of one become those of another."""
