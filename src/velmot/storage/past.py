"""The past of a session: the rows as they stood at any revision, and a number under which that state is looked at.

A session at a revision has a number of its own, so that all that reads a session reads that state as well.
"""

from __future__ import annotations

import math
from operator import itemgetter
from typing import Any, NamedTuple

from velmot.storage.errors import NotFound
from velmot.storage.lane_rows import columns_of
from velmot.storage.models import StoredSession

_APART = 2**32
"""Numbers of sessions are below this; above it they are those of states: (revision + 1) of these and the session's."""

LISTS = ("phrases", "placements", "markers", "let_be", "notes", "alternatives")
"""What a session's structure lists."""


def number_of(id: int, revision: int) -> int:
    """The number of a session's state at a revision."""
    return (revision + 1) * _APART + id


def parted(id: int) -> tuple[int, int | None]:
    """The number of the session, and the revision that is meant; None for as it stands."""
    revision, session = divmod(id, _APART)
    return session, revision - 1 if revision else None


class State(NamedTuple):
    """The rows of a session: its structure, and by their keys (position, content) of tracks, and columns of lanes."""

    structure: dict[str, Any]
    tracks: dict[str, tuple[int, Any]]
    lanes: dict[str, dict[str, Any]]

    @property
    def in_order(self) -> list[dict[str, Any]]:
        """The tracks' contents in their order."""
        return [content for _, content in sorted(self.tracks.values(), key=itemgetter(0))]

    def copied(self) -> State:
        """The same, to be moved elsewhere."""
        return State(self.structure, dict(self.tracks), dict(self.lanes))

    def moved(self, swaps: dict[str, Any], side: str) -> State:
        """The rows with a revision's swaps done, to one side of them; these are no more, as histories are long."""
        for swap in swaps["lanes"]:
            self.lanes.pop(swap["key"], None)
            if swap[side] is not None:
                self.lanes[swap["key"]] = swap[side]
        for swap in swaps["tracks"]:
            position, _ = self.tracks.pop(swap["key"], (swap.get("at"), None))
            if swap[side] is not None:
                self.tracks[swap["key"]] = position, swap[side]
        structure = self.structure
        if "session" in swaps:
            structure = structure | {"precedence": swaps["session"][side]["precedence"]}
        return State(linked(structure, swaps, side), self.tracks, self.lanes)


def standing_rows(row: StoredSession) -> State:
    """The rows as they stand."""
    return State(
        row.structure,
        {t.key: (t.position, t.content) for t in row.tracks.all()},
        {x.key: columns_of(x) for x in row.lanes.all()},
    )


def rows_at(row: StoredSession, number: int, head: int | None = None) -> State:
    """The rows at a revision, from where they stand (at `head`); NotFound where there is none, or it was tidied away."""
    parents = dict(row.revisions.values_list("number", "parent"))
    if number and number not in parents:
        raise NotFound(f"there is no revision {number}")
    back, forth = way(parents, row.head if head is None else head, number)
    known = dict(row.revisions.filter(number__in=[*back, *forth]).values_list("number", "swaps"))
    state = standing_rows(row)
    for n, side in [(n, "before") for n in back] + [(n, "after") for n in forth]:
        state = state.moved(known[n], side)
    return state


def way(parents: dict[int, int], start: int, end: int) -> tuple[list[int], list[int]]:
    """The revisions to take back from `start`, and then forth, to come to `end`."""
    up, down = path(parents, end), path(parents, start)
    common = set(up) & set(down)
    return [n for n in down if n not in common], [n for n in reversed(up) if n not in common]


def path(parents: dict[int, int], at: int) -> list[int]:
    """The revisions from one up to the first, the newest first."""
    found = []
    while at in parents:
        found.append(at)
        at = parents[at]
    return found


def linked(structure: dict[str, Any], swaps: dict[str, Any], side: str) -> dict[str, Any]:
    """A session's structure with its lists as a side of the swaps says: entry by entry, or whole."""
    made: dict[str, Any] = structure | swaps.get("lists", {}).get(side, {})
    for what, some in swaps.get("links", {}).items():
        changed = {s["key"]: s for s in some}
        rows = [changed.pop(row["id"])[side] if row["id"] in changed else row for row in made.get(what, [])]
        rows = [row for row in rows if row is not None]
        back = [s for s in changed.values() if s[side] is not None]
        for s in sorted(back, key=lambda s: math.inf if s["at"] is None else s["at"]):
            rows.insert(len(rows) if s["at"] is None else s["at"], s[side])
        made[what] = rows
    return made


def between(before: State, after: State, number: int | None = None) -> dict[str, Any]:
    """The swaps that make one state the other, bit for bit and in the same order; lanes are then touched last by revision
    `number`, if that is said.
    """
    lanes = []
    for key in dict.fromkeys((*before.lanes, *after.lanes)):
        was, now = before.lanes.get(key), after.lanes.get(key)
        if _untouched(was) != _untouched(now):
            touched = now if now is None or number is None else now | {"changed": number}
            lanes.append({"key": key, "before": was, "after": touched})
    tracks = []
    for key in dict.fromkeys((*before.tracks, *after.tracks)):
        one, other = before.tracks.get(key), after.tracks.get(key)
        if one != other:
            at = (one or other or (0, None))[0]
            tracks.append({"key": key, "before": one and one[1], "after": other and other[1], "at": at})
    made: dict[str, Any] = {"lanes": lanes, "tracks": tracks}
    lists = [{name: state.structure.get(name, []) for name in LISTS} for state in (before, after)]
    if lists[0] != lists[1]:
        made["lists"] = {"before": lists[0], "after": lists[1]}
    wins = [{"precedence": state.structure["precedence"]} for state in (before, after)]
    if wins[0] != wins[1]:
        made["session"] = {"before": wins[0], "after": wins[1]}
    return made


def _untouched(columns: dict[str, Any] | None) -> dict[str, Any] | None:
    """A lane's columns but for which revision touched it."""
    return columns and {name: value for name, value in columns.items() if name != "changed"}


def digests_of(swaps: dict[str, Any]) -> list[str]:
    """The digests of all envelopes that swaps name, each once."""
    columns = [s[side] for s in swaps["lanes"] for side in ("before", "after") if s[side]]
    rows = [s[side] for s in swaps.get("links", {}).get("alternatives", []) for side in ("before", "after") if s[side]]
    rows += [row for side in swaps.get("lists", {}).values() for row in side.get("alternatives", [])]
    return list(dict.fromkeys([*(c["envelope_id"] for c in columns), *kept_digests(rows)]))


def kept_digests(rows: list[dict[str, Any]]) -> list[str]:
    """The digests of the envelopes in the rows of alternatives."""
    return [lane["envelope"] for row in rows for lane in row["lanes"]]
