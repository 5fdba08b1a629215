"""Progress: long work says how far it has come, and stops where whoever waits for it wants that."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from velmot.core.errors import RequestError


@dataclass(frozen=True)
class _Watch:
    """Who is told, and which part of the whole the work at hand is. `told` answers whether to go on."""

    told: Callable[[float], bool]
    start: float = 0.0
    share: float = 1.0


_watch: ContextVar[_Watch | None] = ContextVar("watch", default=None)


@contextmanager
def watched(told: Callable[[float], bool]) -> Iterator[None]:
    """Have long work tell `told` how far it is (0 to 1); it stops with a RequestError where that answers no."""
    token = _watch.set(_Watch(told))
    try:
        yield
    finally:
        _watch.reset(token)


@contextmanager
def part(start: float, end: float) -> Iterator[None]:
    """What is done inside is the part from `start` to `end` of the work around it."""
    watch = _watch.get()
    if watch is None:
        yield
        return
    token = _watch.set(_Watch(watch.told, watch.start + start * watch.share, (end - start) * watch.share))
    try:
        yield
    finally:
        _watch.reset(token)


def come(so_far: float) -> None:
    """Say how far the work at hand has come, 0 to 1."""
    watch = _watch.get()
    if watch is not None and not watch.told(watch.start + so_far * watch.share):
        raise stopped()


def stopped() -> RequestError:
    """What long work ends with where whoever waits for it wants it no more."""
    return RequestError("stopped", place="request")
