"""Groups and their faders."""
