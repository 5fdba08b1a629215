"""The running site: settings, addresses, the demo session, and the command that serves it all."""
