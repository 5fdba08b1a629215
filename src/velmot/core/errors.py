"""The one kind of error the core raises when it is asked for something that makes no sense."""


class RequestError(ValueError):
    """Says what was wrong (`message`), where (`place`), and what would be right (`accepted`)."""

    def __init__(self, code: str, message: str, *, place: str = "", accepted: str = "") -> None:
        super().__init__(message)
        self.code = code
        self.message = message
        self.place = place
        self.accepted = accepted
