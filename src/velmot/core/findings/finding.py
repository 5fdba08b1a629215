"""What a finding is, and what a kind of finding has to say for itself."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, NamedTuple

from velmot.core.session.session import Session
from velmot.core.session.wording import parameter_name


@dataclass(frozen=True)
class Finding:
    """Something in a session that is likely to surprise someone who listens.

    `words` say what is odd about it, `start` and `end` (session ticks) where it is, `size` how large in axis units (0
    where that says nothing), `sure` from 0 to 1 how likely it is a mistake. `lane` is the lane it is about, if it is
    about one; `parameter` is empty for what is about a track, which `track` names then, or about neither: `about` is then
    the id of a phrase, or a name. `mend` is the
    request that would mend it, ready for a preview; None where no verb can. `lossless` says that the mend changes nothing
    of what is heard.
    """

    kind: str
    parameter: str
    start: int
    end: int
    words: str
    lane: str | None = None
    size: float = 0.0
    sure: float = 1.0
    mend: Any = None
    track: str = ""
    lossless: bool = False
    about: str = ""

    @property
    def of(self) -> str:
        """The id of what it is about."""
        return self.lane or self.parameter or self.track or self.about

    def name(self, session: Session) -> str:
        """What it is about, in words: “Bell buoy Level in A”, a track; empty where that is a phrase or a name."""
        if self.lane:
            return session.lane_name(session.lane(self.lane))
        if self.parameter:
            return parameter_name(session, self.parameter)
        return session.track(self.track).name if self.track else ""

    def known_as(self, session: Session) -> Known:
        """What it is known by, also when its region was moved: its kind, whose it is, and where from its home's start."""
        zero = session.zero_of(session.lane(self.lane)) if self.lane else 0
        return Known(self.kind, self.of, self.start - zero)


class Known(NamedTuple):
    """What a finding is known by."""

    kind: str
    of: str
    at: int


@dataclass(frozen=True)
class Kind:
    """A kind of finding: its name, what it is called in a list, and how it is found on one parameter.

    `of_lanes` says that it is about whole lanes and quickly told, so that lists of lanes can be filtered by it; others
    are looked for where they are seen. `on_strips` says that strips mark it. A kind that is about the session as a whole
    has `look_all` in place of `look`; what it works out of single lanes their envelopes
    remember. `keeping` makes a `look_all` that keeps what it can from one session to the next.
    """

    name: str
    called: str
    look: Callable[[Session, str], list[Finding]] | None
    of_lanes: bool = False
    on_strips: bool = False
    look_all: Callable[[Session], list[Finding]] | None = None
    keeping: Callable[[], Callable[[Session], list[Finding]]] | None = None
