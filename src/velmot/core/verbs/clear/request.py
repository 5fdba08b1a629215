"""What can be asked for, and how: clear."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class Clear:
    """Take automation away: inside a range (bridged or sealed), or whole lanes by an ever wider scope."""

    scope: Literal["range", "lanes", "tracks", "session"] = says(
        "A range of the lanes, the lanes whole, all lanes of the tracks, or every lane there is.",
        words={"range": "this range", "lanes": "these lanes", "tracks": "the tracks", "session": "the session"},
    )
    lanes: tuple[str, ...] = says("The lanes, for the scopes range and lanes.", most=MOST_IDS, default=())
    tracks: tuple[str, ...] = says("The tracks, for the scope tracks.", most=MOST_IDS, default=())
    start: Tick | None = says("Where the range starts.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    way: Literal["bridge", "seal"] = says(
        "Bridge joins the neighbours outside; seal keeps everything outside and lays one straight segment.",
        default="seal",
        label="Inside the range",
        words={"seal": "seal: outside stays", "bridge": "bridge: neighbours join"},
    )
    static: Literal["keep", "default", "cursor", "mean"] = says(
        "What the static value of a parameter whose track lane goes becomes.",
        default="keep",
        label="Rest at",
        words={"keep": "static", "default": "default", "cursor": "at the cursor", "mean": "mean"},
    )
    cursor: Tick = says("The cursor's place, for static cursor.", default=Tick(0))
