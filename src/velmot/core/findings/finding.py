"""What a finding is, and what a kind of finding has to say for itself."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from velmot.core.session.session import Session


@dataclass(frozen=True)
class Finding:
    """Something in a session that is likely to surprise someone who listens.

    `words` say what is odd about it, `start` and `end` (session ticks) where it is, `size` how large in axis units (0
    where that says nothing), `sure` from 0 to 1 how likely it is a mistake. `lane` is the lane it is about, if it is
    about one; `parameter` is empty for what is about a track (or a phrase), which `track` names then. `mend` is the
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


@dataclass(frozen=True)
class Kind:
    """A kind of finding: its name, what it is called in a list, and how it is found on one parameter.

    `of_lanes` says that it is about whole lanes and quickly told, so that lists of lanes can be filtered by it; others
    are looked for where they are seen. `on_strips` says that strips mark it. A kind that is about the session as a whole
    has `look_all` in place of `look`.
    """

    name: str
    called: str
    look: Callable[[Session, str], list[Finding]] | None
    of_lanes: bool = False
    on_strips: bool = False
    look_all: Callable[[Session], list[Finding]] | None = None
