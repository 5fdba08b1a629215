"""The one kind of error the core raises when it is asked for something that makes no sense."""

from __future__ import annotations

from velmot.core.remedy import Remedy


class RequestError(ValueError):
    """Says what was wrong (`message`), where (`place`), what would be right (`accepted`), and may offer a remedy."""

    def __init__(
        self, code: str, message: str, *, place: str, accepted: str = "", remedy: Remedy | None = None
    ) -> None:
        super().__init__(message)
        self.code = code
        self.message = message
        self.place = place
        self.accepted = accepted
        self.remedy = remedy
