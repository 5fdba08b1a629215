"""Waiting: how far long work has come, by the ticket it was asked with, and a way to stop it."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from threading import Lock

from pydantic import BaseModel, Field

from velmot.core.progress import stopped, watched


class WaitingOut(BaseModel):
    """How far it has come."""

    part: float | None = Field(description="0 to 1; nothing where no work has this ticket.")
    before: int = Field(description="How much other work has its turn first.")


@dataclass
class Work:
    """Work that someone waits for."""

    part: float = 0.0
    stopped: bool = False
    before: int = 0

    def told(self, part: float) -> bool:
        self.part = max(self.part, part)  # some work begins a piece anew, a little more narrowly
        return not self.stopped

    def behind(self, before: int) -> None:
        """Say how much other work has its turn first; RequestError where nobody waits any more."""
        self.before = before
        if self.stopped:
            raise stopped()


_works: dict[str, Work] = {}
_lock = Lock()


@contextmanager
def ticketed(ticket: str | None) -> Iterator[Work]:
    """Work that can be looked at and stopped by its ticket while it goes on; without a ticket plain work."""
    work = Work()
    if ticket is None:
        yield work
        return
    with _lock:
        _works[ticket] = work
    try:
        with watched(work.told):
            yield work
    finally:
        with _lock:
            if _works.get(ticket) is work:
                del _works[ticket]


def waiting_out(ticket: str) -> WaitingOut:
    """How far the work of a ticket has come."""
    return _out(_works.get(ticket))


def _out(work: Work | None) -> WaitingOut:
    return WaitingOut(part=work.part, before=work.before) if work else WaitingOut(part=None, before=0)


def stop(ticket: str) -> WaitingOut:
    """Have the work of a ticket stop at the next place where it can."""
    work = _works.get(ticket)
    if work is not None:
        work.stopped = True
    return _out(work)
