"""What a session sounds like: sources, stand-ins of devices, the graph they stand in, and its rendering. No files, no web."""
