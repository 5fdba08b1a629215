"""What storage refuses: a session that is not there, a request made on an old revision, a folder it cannot use."""

from __future__ import annotations

from velmot.core.errors import RequestError


class NotFound(LookupError):
    """There is no such session or revision."""


class CannotStart(Exception):
    """Velmot cannot work here: one sentence that says why and what to do."""


class Damaged(Exception):
    """What is stored is not what was put there."""


class Conflict(RequestError):
    """The session has moved on since the request was made; `head` is where it stands."""

    def __init__(self, head: int) -> None:
        super().__init__("revision-old", head=head, place="revision", accepted=f"revision {head}")
        self.head = head
