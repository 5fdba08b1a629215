"""Paper: a session as sheets that are read, and strips as pictures."""
