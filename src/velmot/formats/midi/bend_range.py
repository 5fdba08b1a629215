"""The bend range of a channel (registered parameter 0/0), and what another one does to bends that were not touched."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.wording import parameter_name

BEND_RANGE = "rpn 0/0"


def semitones(value: int) -> float:
    """The range that a 14-bit value says: the high half semitones, the low half hundredths of one."""
    return (value >> 7) + (value & 127) / 100


def said_of_bends(session: Session, track: Track) -> str | None:
    """What is to be said of a track whose bend range is not the one its bends are drawn for; None if it is."""
    bends, ranges = (_laned(session, track, key) for key in ("bend", BEND_RANGE))
    if bends is None or ranges is None or bends.unit != "semitones":
        return None
    drawn = -bends.low
    values = session.lanes_of(ranges.id)[0].envelope.values
    whole = (ranges.controller or "").endswith(" fine")
    reach = [semitones(round(v) if whole else round(v) << 7) for v in values.tolist()]
    last = next((r for r in reversed(reach) if r), drawn)
    if last == drawn:
        return None
    return (
        f"{parameter_name(session, bends.id)}: its bends are drawn for {drawn:g} semitones, and the bend range ends at "
        f"{last:g}: where they were not touched they sound {last / drawn:.3g} times as wide"
    )


def _laned(session: Session, track: Track, key: str) -> Parameter | None:
    """The parameter of a controller that has a lane on the track."""
    named = (p for p in track.parameters if (p.controller or "").removesuffix(" fine") == key)
    return next((p for p in named if session.lane_at(p.id) is not None), None)
