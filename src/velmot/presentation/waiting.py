"""Waiting: how far long work has come, by the ticket it was asked with, and a way to stop it."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from threading import Lock

from pydantic import BaseModel, Field

from velmot.core.progress import watched


class WaitingOut(BaseModel):
    """How far it has come."""

    part: float | None = Field(description="0 to 1; nothing where no work has this ticket.")


@dataclass
class _Work:
    part: float = 0.0
    stopped: bool = False

    def told(self, part: float) -> bool:
        self.part = max(self.part, part)  # some work begins a piece anew, a little more narrowly
        return not self.stopped


_works: dict[str, _Work] = {}
_lock = Lock()


@contextmanager
def ticketed(ticket: str | None) -> Iterator[None]:
    """Work that can be looked at and stopped by its ticket while it goes on; without a ticket plain work."""
    if ticket is None:
        yield
        return
    work = _Work()
    with _lock:
        _works[ticket] = work
    try:
        with watched(work.told):
            yield
    finally:
        with _lock:
            if _works.get(ticket) is work:
                del _works[ticket]


def waiting_out(ticket: str) -> WaitingOut:
    """How far the work of a ticket has come."""
    work = _works.get(ticket)
    return WaitingOut(part=work.part if work else None)


def stop(ticket: str) -> WaitingOut:
    """Have the work of a ticket stop at the next place where it can."""
    work = _works.get(ticket)
    if work is not None:
        work.stopped = True
    return WaitingOut(part=work.part if work else None)
