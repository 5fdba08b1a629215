"""The table of keys and gestures: what the screen listens to, what its key list says, and what docs/keys.md says."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.verbs.table import VERBS


@dataclass(frozen=True)
class Key:
    """A key, or a gesture with the pointer, and what it does.

    `action` is what the screen calls it (empty for gestures, and for keys that every browser has); `keys` are as a
    browser names them, `where` says where it works if not everywhere, `said` how it is written if not as `keys`.
    """

    says: str
    action: str = ""
    keys: tuple[str, ...] = ()
    where: str = ""
    said: str = ""

    @property
    def written(self) -> str:
        """The key as people read it."""
        keys = self.said or ", ".join(written(k) for k in self.keys)
        return f"{keys} {self.where}".strip()


def written(key: str) -> str:
    """One key as people read it.

    >>> written("T"), written("-"), written("q")
    ('Shift t', '−', 'q')
    """
    return _NAMES.get(key, f"Shift {key.lower()}" if key.isupper() and len(key) == 1 else key)


_NAMES = {
    "Shift ArrowLeft": "Shift Left",
    "Shift ArrowRight": "Shift Right",
    ",": "comma",
    ".": "full stop",
    "ArrowLeft": "Left",
    "ArrowRight": "Right",
    "ArrowUp": "Up",
    "ArrowDown": "Down",
    "-": "−",
    " ": "Space",
}
_STRIP = "on a strip"
_POINTS = "with points picked"

KEYS: tuple[Key, ...] = (
    Key("find a lane in the ledger", "find", ("/",)),
    Key("go to anything by its name: a lane, a track, a region, a bar; or start a verb", "finder", ("j",)),
    Key("walk through the lanes; Enter goes to one", said="Up, Down", where="in the ledger"),
    Key("next lane of the track", "next lane", ("w",)),
    Key("previous lane of the track", "previous lane", ("W",)),
    Key("the same parameter on the next track", "next track", ("e",)),
    Key("the same parameter on the previous track", "previous track", ("E",)),
    Key("next set of pinned lanes", "next set", ("s",)),
    *(Key(f"{verb.name}, on the worksheet", verb.id, (verb.key,)) for verb in VERBS),
    Key("open the whole sheet, or fold it into a sentence", "fold", ("q",)),
    Key("fold the ledger away, or back", "fold ledger", ("Q",)),
    Key("what is heard, drawn on every strip, or on none", "heard everywhere", ("u",)),
    Key("strips low, middle or tall", "strip size", ("y",)),
    Key("the chosen strip large for fine work, or all as they were", "large strip", ("f",)),
    Key("look closer at the chosen region, or back at the session", "look closer", ("k",)),
    Key("keep aside what the chosen lanes do", "keep aside", ("K",)),
    Key("take out a picture of the strips on view, with what would come", "picture", ("P",)),
    Key("apply what the worksheet shows", said="Ctrl Enter"),
    Key("undo, redo", said="Ctrl Z, Ctrl Shift Z"),
    Key("copy, cut (sealed) and paste to the same place", said="Ctrl C, Ctrl X, Ctrl V"),
    Key("pick every point of the chosen lanes", said="Ctrl A"),
    Key("next point", "next point", ("n",), _STRIP),
    Key("previous point", "previous point", ("b",), _STRIP),
    Key("add a point at the cursor", "add point", ("a",), _STRIP),
    Key("nudge by the grid or by a step; with Alt finer, with Shift coarser", said="arrows", where=_POINTS),
    Key("the strip above, or below", said="Up, Down", where=_STRIP),
    Key("type their value", said="Enter", where=_POINTS),
    Key("remove them", "remove points", ("Delete", "Backspace"), _POINTS, "Delete"),
    Key("a straight line after each", "straighten", ("l",), _POINTS),
    Key("hold after each", "hold", ("h",), _POINTS),
    Key("move the window of bars earlier", "earlier", ("ArrowLeft",)),
    Key("move the window of bars later", "later", ("ArrowRight",)),
    Key("the cursor a step of the grid earlier", "cursor earlier", ("Shift ArrowLeft",)),
    Key("the cursor a step of the grid later", "cursor later", ("Shift ArrowRight",)),
    Key("the range starts at the cursor", "range from", (",",)),
    Key("the range ends at the cursor", "range to", (".",)),
    Key("on to the next place: ledger, strips, worksheet, what it comes to", "next place", ("F6",)),
    Key("back to the place before", "previous place", ("Shift F6",)),
    Key("move that edge of the range by a beat; with Alt finer", said="Left, Right", where="on a flag of the range"),
    Key("zoom in", "zoom in", ("+", "="), said="+"),
    Key("zoom out", "zoom out", ("-",)),
    Key("zoom to the range", "zoom to range", ("i",)),
    Key("zoom to the whole session", "zoom to session", ("o",)),
    Key("let go of the range, the points and the regions", "let go", ("Escape",)),
    Key("play from the cursor, or stop", "play", (" ",)),
    Key("hear what would come, or what is there now", "swap", ("N",)),
    Key("hear the tracks of the chosen lanes alone, or all again", "alone", ("A",)),
    Key("back to the start", "to the start", ("Home",)),
    Key("ride the controls in hand; with Alt finer, with Shift coarser", said="Up, Down", where="on the desk"),
    Key("take that control in hand, or let go of it", said="1 to 9", where="on the desk"),
    Key("this list", "keys", ("?",)),
    Key("scroll the strips; sideways or with Shift move in time; with Ctrl or Alt zoom in and out", said="wheel"),
    Key("drag free of the grid; with Shift keep to one direction", said="Alt", where="while dragging"),
    Key("pick one more point; with Ctrl on the chart choose one more lane", said="Shift or Ctrl", where="with a click"),
    Key("pick the points inside a box", said="Shift and drag"),
    Key("add a point", said="double click"),
    Key("choose it, or move it (with Ctrl copy it); double click looks closer", said="click or drag", where="a region’s name"),
    Key("choose it, move it, at an end stretch it; with Shift turn what is inside, with Ctrl deeper or less deep", said="click or drag", where="a place’s rule"),
)  # fmt: skip


def keys_page() -> str:
    """docs/keys.md."""
    rows = [f"| {key.written} | {key.says} |" for key in KEYS]
    head = [
        "# Keys",
        "",
        "The same list is in the application: press `?`.",
        "",
        "| key | what it does |",
        "| --- | --- |",
    ]
    return "\n".join([*head, *rows]) + "\n"
