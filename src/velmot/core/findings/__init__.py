"""Findings: what in a session is likely to surprise someone who listens, found by looking at what is heard."""
