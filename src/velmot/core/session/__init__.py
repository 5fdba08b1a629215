"""The session: tracks, regions, lanes, phrases, markers, sounds; what is heard of it; how it is said."""
