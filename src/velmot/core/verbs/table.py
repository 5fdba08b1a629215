"""The table of verbs: one line for each verb of the worksheet. Registry, worksheet, hints, key list, docs and command line ask it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Purpose = Literal["move", "shape", "regions", "reuse", "record"]


@dataclass(frozen=True)
class Verb:
    """A verb as people meet it on the worksheet.

    `modules` are those of its operations, in `core/verbs/`, as folder.module; `hint` says what to do first, `then` what is still to
    do once lanes are chosen.
    """

    name: str
    key: str
    purpose: Purpose
    modules: tuple[str, ...]
    hint: str
    then: str = ""

    @property
    def id(self) -> str:
        """What its sheet is filed under: the first word of its name."""
        return self.name.split()[0].lower()


def _of(folder: str, *modules: str) -> tuple[str, ...]:
    return tuple(f"{folder}.{module}" for module in modules)


_POINTS = _of("points", "add_points", "move_points", "set_values", "remove_points", "shape_segments")
_REGIONS = _of(
    "regions",
    *("carry_regions", "cut_regions", "join_regions", "change_regions"),
    *("remove_regions", "make_region", "place_container"),
)
_EMBED = _of("regions", "embed", "lift", "fill_gap", "set_precedence")
_MARKERS = _of("markers", "add_marker", "change_markers", "remove_markers")
_RESHAPE = _of("shape", "reshape", "same_values", "raise_span")
_PLACE = _of("reuse", "place", "keep_phrase", "change_places", "set_free", "change_phrase", "pool")
_GROUPS = _of("groups", "fold", "gather", "change_group", "make_group", "dissolve_group")
_MODES = _of("modes", "set_mode", "set_switch")
_TIDY = _of(".tidy", "mend", "let_be", "clean_up")  # a room of its own beside the verbs, above the findings

_ALTERNATIVES = _of(
    "alternatives",
    *("keep_aside", "use_alternatives", "take_range", "rename_alternative", "remove_alternatives", "bring_back"),
)

VERBS: tuple[Verb, ...] = (
    Verb("Carry", "c", "move", ("carry.carry",), "Drag over a strip to choose what to carry.", "Choose a track to carry it to."),
    Verb("Retarget", "t", "move", ("retarget.retarget",), "Drag over a strip to choose what to retarget.", "Choose a parameter for it to drive."),
    Verb("Place", "z", "reuse", _PLACE, "Drag over a strip to choose where to place a phrase.", "Choose a phrase or a shape to place."),
    Verb("Regions", "g", "regions", _REGIONS, "Click a region’s name on a strip, or choose one here."),
    Verb("Embed / lift", "m", "regions", _EMBED, "Click a region’s name on a strip, or choose one here."),
    Verb("Groups", "G", "move", _GROUPS, "Choose a group.", "Choose a group."),
    Verb("Modes", "M", "move", _MODES, "Choose tracks to set to read, or off.", "Choose what they are set to."),
    Verb("Markers", "J", "move", _MARKERS, "Type a name, and where it stands.", "Type a name, and where it stands."),
    Verb("Points", "p", "shape", _POINTS, "Click a point on a strip, or drag over some with Shift.", "Type a value or choose a shape."),
    Verb("Reshape", "r", "shape", _RESHAPE, "Drag over a strip to choose what to reshape.", "Pull a rail on the strip, or type an amount."),
    Verb("Retime", "R", "shape", ("retime.retime",), "Drag over a strip to choose what to stretch or shift.", "Type a length, or pull the range’s end with Ctrl."),
    Verb("Draw", "d", "shape", ("draw.draw",), "Draw on a strip."),
    Verb("Thin", "T", "shape", ("thin.thin",), "Choose lanes to thin."),
    Verb("Clear", "x", "shape", ("clear.clear",), "Choose lanes to clear."),
    Verb("Alternatives", "B", "reuse", _ALTERNATIVES, "Choose lanes, to keep what they do or use another go.", "Choose an alternative."),
    Verb("Tidy", "Y", "shape", (*_TIDY, "notes.set_note"), "Tick what to mend."),
    Verb("Ride", "D", "record", ("ride.ride",), "Choose lanes to ride.", "Press play, and take hold of a control."),
    Verb("Follow", "F", "record", _of("follow", "follow", "make_anew"), "Choose a track or a lane to follow.", "Choose what it drives."),
    Verb("Sound", "S", "record", ("sound.set_sound",), "Choose tracks, and what they sound like.", "Choose what they sound like."),
    Verb("Paste", "v", "move", ("paste.paste",), "Copy a range with Ctrl C, then paste it with Ctrl V."),
)  # fmt: skip
