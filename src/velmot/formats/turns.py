"""Turns: what needs much memory is done one after the other, in the order it came, and told how many are before it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import Condition

LOOKS = 0.25
"""Seconds between two looks of one who waits at whether it still shall."""


class Turns:
    """A line of those who wait. Whoever comes is told how many are before it, and again as that changes."""

    def __init__(self) -> None:
        self._line: list[object] = []
        self._moved = Condition()

    @contextmanager
    def taken(self, told: Callable[[int], None]) -> Iterator[None]:
        """Wait for one's turn, and have it. What `told` raises leaves the line."""
        me = object()
        try:
            with self._moved:
                self._line.append(me)
                while before := self._line.index(me):
                    told(before)
                    self._moved.wait(LOOKS)
                told(0)
            yield
        finally:
            with self._moved:
                self._line.remove(me)
                self._moved.notify_all()
