"""Names: tracks and phrases that cannot be told apart."""

from __future__ import annotations

from collections import Counter

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.words import counted


def names(session: Session) -> list[Finding]:
    """Every name that several tracks or several phrases have, or several regions of a track that start in one bar; whoever has
    it first is named.
    """
    found = []
    for noun, things in (("track", session.tracks), ("phrase", session.phrases)):
        many = {name: count for name, count in Counter(x.name for x in things).items() if count > 1}
        for name, count in many.items():
            said = f"{counted(count, noun)} are called “{name}”"
            first = next(t.id for t in session.tracks if t.name == name) if noun == "track" else ""
            found.append(Finding(KIND.name, "", 0, session.length, said, sure=0.6, track=first, about=name))
    for track in session.tracks:
        bars = [(r.name, session.tempo.position(r.start).bar, r.start) for r in track.regions if not r.container]
        for (name, bar), count in Counter((name, bar) for name, bar, _ in bars).items():
            if count > 1:
                start = min(at for said, there, at in bars if (said, there) == (name, bar))
                said = f"{counted(count, 'region')} of {track.name} in bar {bar} are called “{name}”"
                found.append(Finding(KIND.name, "", start, start + 1, said, sure=0.4, track=track.id, about=name))
    return found


KIND = Kind("names", "names that cannot be told apart", None, look_all=names)
