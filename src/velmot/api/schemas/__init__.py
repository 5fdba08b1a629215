"""The shapes of what is sent to the server, by topic; those of answers stand with what makes them, in `presentation/`."""
