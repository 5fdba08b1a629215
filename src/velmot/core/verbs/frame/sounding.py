"""Sounding: what a verb that follows sound asks for; the core knows how loud something is, and not how that is found."""

from __future__ import annotations

from typing import Literal, Protocol

from velmot.core.curves.followed import Frames
from velmot.core.session.session import Session

Measure = Literal["peak", "mean", "momentary", "short-term"]


class Sounding(Protocol):
    """Tells how loud tracks are."""

    def levels(
        self,
        session: Session,
        tracks: tuple[str, ...],
        start: float,
        end: float,
        *,
        after_level: bool,
        measure: Measure,
        window: float,
        centred: bool,
    ) -> Frames:
        """The level of tracks together, in dB of full scale (`SILENT` or less for none), from a second to another.

        A peak or a mean is taken over `window` seconds that end with a frame, or lie about it where it is `centred`.
        """
        ...

    def missing(self, session: Session, tracks: tuple[str, ...]) -> tuple[str, ...]:
        """The files of these tracks that are not there: stand-ins sound for them."""
        ...
