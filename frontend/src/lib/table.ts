// Made by `make docs` from core/verbs/table.py and presentation/keys.py: change those.
export const VERBS = [
  {
    "id": "carry",
    "name": "Carry",
    "key": "c",
    "written": "c",
    "purpose": "move",
    "hint": "Drag over a strip to choose what to carry.",
    "then": "Choose a track to carry it to."
  },
  {
    "id": "retarget",
    "name": "Retarget",
    "key": "t",
    "written": "t",
    "purpose": "move",
    "hint": "Drag over a strip to choose what to retarget.",
    "then": "Choose a parameter for it to drive."
  },
  {
    "id": "place",
    "name": "Place",
    "key": "z",
    "written": "z",
    "purpose": "reuse",
    "hint": "Drag over a strip to choose where to place a phrase.",
    "then": "Choose a phrase or a shape to place."
  },
  {
    "id": "regions",
    "name": "Regions",
    "key": "g",
    "written": "g",
    "purpose": "regions",
    "hint": "Click a region’s name on a strip, or choose one here.",
    "then": ""
  },
  {
    "id": "embed",
    "name": "Embed / lift",
    "key": "m",
    "written": "m",
    "purpose": "regions",
    "hint": "Click a region’s name on a strip, or choose one here.",
    "then": ""
  },
  {
    "id": "groups",
    "name": "Groups",
    "key": "G",
    "written": "Shift g",
    "purpose": "move",
    "hint": "Choose a group.",
    "then": "Choose a group."
  },
  {
    "id": "modes",
    "name": "Modes",
    "key": "M",
    "written": "Shift m",
    "purpose": "move",
    "hint": "Choose tracks to set to read, or off.",
    "then": "Choose what they are set to."
  },
  {
    "id": "markers",
    "name": "Markers",
    "key": "J",
    "written": "Shift j",
    "purpose": "move",
    "hint": "Type a name, and where it stands.",
    "then": "Type a name, and where it stands."
  },
  {
    "id": "points",
    "name": "Points",
    "key": "p",
    "written": "p",
    "purpose": "shape",
    "hint": "Click a point on a strip, or drag over some with Shift.",
    "then": "Type a value or choose a shape."
  },
  {
    "id": "reshape",
    "name": "Reshape",
    "key": "r",
    "written": "r",
    "purpose": "shape",
    "hint": "Drag over a strip to choose what to reshape.",
    "then": "Pull a rail on the strip, or type an amount."
  },
  {
    "id": "retime",
    "name": "Retime",
    "key": "R",
    "written": "Shift r",
    "purpose": "shape",
    "hint": "Drag over a strip to choose what to stretch or shift.",
    "then": "Type a length, or pull the range’s end with Ctrl."
  },
  {
    "id": "draw",
    "name": "Draw",
    "key": "d",
    "written": "d",
    "purpose": "shape",
    "hint": "Draw on a strip.",
    "then": ""
  },
  {
    "id": "thin",
    "name": "Thin",
    "key": "T",
    "written": "Shift t",
    "purpose": "shape",
    "hint": "Choose lanes to thin.",
    "then": ""
  },
  {
    "id": "clear",
    "name": "Clear",
    "key": "x",
    "written": "x",
    "purpose": "shape",
    "hint": "Choose lanes to clear.",
    "then": ""
  },
  {
    "id": "alternatives",
    "name": "Alternatives",
    "key": "B",
    "written": "Shift b",
    "purpose": "reuse",
    "hint": "Choose lanes, to keep what they do or use another go.",
    "then": "Choose an alternative."
  },
  {
    "id": "tidy",
    "name": "Tidy",
    "key": "Y",
    "written": "Shift y",
    "purpose": "shape",
    "hint": "Tick what to mend.",
    "then": ""
  },
  {
    "id": "ride",
    "name": "Ride",
    "key": "D",
    "written": "Shift d",
    "purpose": "record",
    "hint": "Choose lanes to ride.",
    "then": "Press play, and take hold of a control."
  },
  {
    "id": "follow",
    "name": "Follow",
    "key": "F",
    "written": "Shift f",
    "purpose": "record",
    "hint": "Choose a track or a lane to follow.",
    "then": "Choose what it drives."
  },
  {
    "id": "sound",
    "name": "Sound",
    "key": "S",
    "written": "Shift s",
    "purpose": "record",
    "hint": "Choose tracks, and what they sound like.",
    "then": "Choose what they sound like."
  },
  {
    "id": "paste",
    "name": "Paste",
    "key": "v",
    "written": "v",
    "purpose": "move",
    "hint": "Copy a range with Ctrl C, then paste it with Ctrl V.",
    "then": ""
  }
] as const
export const VERBS_ASKED = [
  "add marker",
  "add points",
  "bring back",
  "carry",
  "carry regions",
  "change group",
  "change markers",
  "change phrase",
  "change places",
  "change regions",
  "clean up",
  "clear",
  "cut regions",
  "dissolve group",
  "draw",
  "embed",
  "fill gap",
  "fold",
  "follow",
  "gather",
  "join regions",
  "keep aside",
  "keep phrase",
  "let be",
  "lift",
  "make anew",
  "make group",
  "make region",
  "mend",
  "move points",
  "note",
  "paste",
  "place",
  "place container",
  "pool",
  "raise",
  "remove alternatives",
  "remove markers",
  "remove points",
  "remove regions",
  "rename alternative",
  "reshape",
  "retarget",
  "retime",
  "ride",
  "same values",
  "set free",
  "set mode",
  "set precedence",
  "set sound",
  "set switch",
  "set values",
  "shape segments",
  "take range",
  "thin",
  "use alternatives"
] as const
export const ACTIONS = {
  "find": [
    "/"
  ],
  "finder": [
    "j"
  ],
  "next lane": [
    "w"
  ],
  "previous lane": [
    "W"
  ],
  "next track": [
    "e"
  ],
  "previous track": [
    "E"
  ],
  "next set": [
    "s"
  ],
  "carry": [
    "c"
  ],
  "retarget": [
    "t"
  ],
  "place": [
    "z"
  ],
  "regions": [
    "g"
  ],
  "embed": [
    "m"
  ],
  "groups": [
    "G"
  ],
  "modes": [
    "M"
  ],
  "markers": [
    "J"
  ],
  "points": [
    "p"
  ],
  "reshape": [
    "r"
  ],
  "retime": [
    "R"
  ],
  "draw": [
    "d"
  ],
  "thin": [
    "T"
  ],
  "clear": [
    "x"
  ],
  "alternatives": [
    "B"
  ],
  "tidy": [
    "Y"
  ],
  "ride": [
    "D"
  ],
  "follow": [
    "F"
  ],
  "sound": [
    "S"
  ],
  "paste": [
    "v"
  ],
  "fold": [
    "q"
  ],
  "fold ledger": [
    "Q"
  ],
  "heard everywhere": [
    "u"
  ],
  "strip size": [
    "y"
  ],
  "large strip": [
    "f"
  ],
  "look closer": [
    "k"
  ],
  "keep aside": [
    "K"
  ],
  "picture": [
    "P"
  ],
  "next point": [
    "n"
  ],
  "previous point": [
    "b"
  ],
  "add point": [
    "a"
  ],
  "remove points": [
    "Delete",
    "Backspace"
  ],
  "straighten": [
    "l"
  ],
  "hold": [
    "h"
  ],
  "earlier": [
    "ArrowLeft"
  ],
  "later": [
    "ArrowRight"
  ],
  "cursor earlier": [
    "Shift ArrowLeft"
  ],
  "cursor later": [
    "Shift ArrowRight"
  ],
  "range from": [
    ","
  ],
  "range to": [
    "."
  ],
  "next place": [
    "F6"
  ],
  "previous place": [
    "Shift F6"
  ],
  "zoom in": [
    "+",
    "="
  ],
  "zoom out": [
    "-"
  ],
  "zoom to range": [
    "i"
  ],
  "zoom to session": [
    "o"
  ],
  "let go": [
    "Escape"
  ],
  "play": [
    " "
  ],
  "swap": [
    "N"
  ],
  "alone": [
    "A"
  ],
  "to the start": [
    "Home"
  ],
  "keys": [
    "?"
  ]
} as const
export const KEYS = [
  {
    "written": "/",
    "says": "find a lane in the ledger"
  },
  {
    "written": "j",
    "says": "go to anything by its name: a lane, a track, a region, a bar; or start a verb"
  },
  {
    "written": "Up, Down in the ledger",
    "says": "walk through the lanes; Enter goes to one"
  },
  {
    "written": "w",
    "says": "next lane of the track"
  },
  {
    "written": "Shift w",
    "says": "previous lane of the track"
  },
  {
    "written": "e",
    "says": "the same parameter on the next track"
  },
  {
    "written": "Shift e",
    "says": "the same parameter on the previous track"
  },
  {
    "written": "s",
    "says": "next set of pinned lanes"
  },
  {
    "written": "c",
    "says": "Carry, on the worksheet"
  },
  {
    "written": "t",
    "says": "Retarget, on the worksheet"
  },
  {
    "written": "z",
    "says": "Place, on the worksheet"
  },
  {
    "written": "g",
    "says": "Regions, on the worksheet"
  },
  {
    "written": "m",
    "says": "Embed / lift, on the worksheet"
  },
  {
    "written": "Shift g",
    "says": "Groups, on the worksheet"
  },
  {
    "written": "Shift m",
    "says": "Modes, on the worksheet"
  },
  {
    "written": "Shift j",
    "says": "Markers, on the worksheet"
  },
  {
    "written": "p",
    "says": "Points, on the worksheet"
  },
  {
    "written": "r",
    "says": "Reshape, on the worksheet"
  },
  {
    "written": "Shift r",
    "says": "Retime, on the worksheet"
  },
  {
    "written": "d",
    "says": "Draw, on the worksheet"
  },
  {
    "written": "Shift t",
    "says": "Thin, on the worksheet"
  },
  {
    "written": "x",
    "says": "Clear, on the worksheet"
  },
  {
    "written": "Shift b",
    "says": "Alternatives, on the worksheet"
  },
  {
    "written": "Shift y",
    "says": "Tidy, on the worksheet"
  },
  {
    "written": "Shift d",
    "says": "Ride, on the worksheet"
  },
  {
    "written": "Shift f",
    "says": "Follow, on the worksheet"
  },
  {
    "written": "Shift s",
    "says": "Sound, on the worksheet"
  },
  {
    "written": "v",
    "says": "Paste, on the worksheet"
  },
  {
    "written": "q",
    "says": "open the whole sheet, or fold it into a sentence"
  },
  {
    "written": "Shift q",
    "says": "fold the ledger away, or back"
  },
  {
    "written": "u",
    "says": "what is heard, drawn on every strip, or on none"
  },
  {
    "written": "y",
    "says": "strips low, middle or tall"
  },
  {
    "written": "f",
    "says": "the chosen strip large for fine work, or all as they were"
  },
  {
    "written": "k",
    "says": "look closer at the chosen region, or back at the session"
  },
  {
    "written": "Shift k",
    "says": "keep aside what the chosen lanes do"
  },
  {
    "written": "Shift p",
    "says": "take out a picture of the strips on view, with what would come"
  },
  {
    "written": "Ctrl Enter",
    "says": "apply what the worksheet shows"
  },
  {
    "written": "Ctrl Z, Ctrl Shift Z",
    "says": "undo, redo"
  },
  {
    "written": "Ctrl C, Ctrl X, Ctrl V",
    "says": "copy, cut (sealed) and paste to the same place"
  },
  {
    "written": "Ctrl A",
    "says": "pick every point of the chosen lanes"
  },
  {
    "written": "n on a strip",
    "says": "next point"
  },
  {
    "written": "b on a strip",
    "says": "previous point"
  },
  {
    "written": "a on a strip",
    "says": "add a point at the cursor"
  },
  {
    "written": "arrows with points picked",
    "says": "nudge by the grid or by a step; with Alt finer, with Shift coarser"
  },
  {
    "written": "Up, Down on a strip",
    "says": "the strip above, or below"
  },
  {
    "written": "Enter with points picked",
    "says": "type their value"
  },
  {
    "written": "Delete with points picked",
    "says": "remove them"
  },
  {
    "written": "l with points picked",
    "says": "a straight line after each"
  },
  {
    "written": "h with points picked",
    "says": "hold after each"
  },
  {
    "written": "Left",
    "says": "move the window of bars earlier"
  },
  {
    "written": "Right",
    "says": "move the window of bars later"
  },
  {
    "written": "Shift Left",
    "says": "the cursor a step of the grid earlier"
  },
  {
    "written": "Shift Right",
    "says": "the cursor a step of the grid later"
  },
  {
    "written": "comma",
    "says": "the range starts at the cursor"
  },
  {
    "written": "full stop",
    "says": "the range ends at the cursor"
  },
  {
    "written": "F6",
    "says": "on to the next place: ledger, strips, worksheet, what it comes to"
  },
  {
    "written": "Shift F6",
    "says": "back to the place before"
  },
  {
    "written": "Left, Right on a flag of the range",
    "says": "move that edge of the range by a beat; with Alt finer"
  },
  {
    "written": "+",
    "says": "zoom in"
  },
  {
    "written": "−",
    "says": "zoom out"
  },
  {
    "written": "i",
    "says": "zoom to the range"
  },
  {
    "written": "o",
    "says": "zoom to the whole session"
  },
  {
    "written": "Escape",
    "says": "let go of the range, the points and the regions"
  },
  {
    "written": "Space",
    "says": "play from the cursor, or stop"
  },
  {
    "written": "Shift n",
    "says": "hear what would come, or what is there now"
  },
  {
    "written": "Shift a",
    "says": "hear the tracks of the chosen lanes alone, or all again"
  },
  {
    "written": "Home",
    "says": "back to the start"
  },
  {
    "written": "Up, Down on the desk",
    "says": "ride the controls in hand; with Alt finer, with Shift coarser"
  },
  {
    "written": "1 to 9 on the desk",
    "says": "take that control in hand, or let go of it"
  },
  {
    "written": "?",
    "says": "this list"
  },
  {
    "written": "wheel",
    "says": "scroll the strips; sideways or with Shift move in time; with Ctrl or Alt zoom in and out"
  },
  {
    "written": "Alt while dragging",
    "says": "drag free of the grid; with Shift keep to one direction"
  },
  {
    "written": "Shift or Ctrl with a click",
    "says": "pick one more point; with Ctrl on the chart choose one more lane"
  },
  {
    "written": "Shift and drag",
    "says": "pick the points inside a box"
  },
  {
    "written": "double click",
    "says": "add a point"
  },
  {
    "written": "click or drag a region’s name",
    "says": "choose it, or move it (with Ctrl copy it); double click looks closer"
  },
  {
    "written": "click or drag a place’s rule",
    "says": "choose it, move it, at an end stretch it; with Shift turn what is inside, with Ctrl deeper or less deep"
  }
] as const
export const PLAIN_SHEETS = {} as const
export const FIELDS = {
  "carry/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes to carry, by id.", "needed": true},
  "carry/targets": {"kind": "other", "label": "Tracks", "says": "The tracks to carry them to, by id.", "needed": true},
  "carry/devices": {"kind": "other", "label": "Devices whole", "says": "Devices to take along whole, by id: their static values and all their lanes."},
  "carry/matches": {"kind": "other", "label": "Matches", "says": "Where lanes land, in place of the usual match."},
  "carry/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range the whole lane goes."},
  "carry/end": {"kind": "range", "label": "End", "says": "Where the range ends; this position is not in it any more."},
  "carry/at": {"kind": "position", "label": "Starting at", "says": "Where it lands; nothing means the same place."},
  "carry/how": {"kind": "choice", "label": "Keep the original", "says": "Copy leaves the source as it is, move clears it.", "usual": "copy", "words": [{"value": "copy", "words": "yes, copy"}, {"value": "move", "words": "no, move"}]},
  "carry/edges": {"kind": "choice", "label": "At the edges", "says": "Seal lets values jump at the edges, ramp leads in and out.", "usual": "seal", "words": [{"value": "seal", "words": "jump"}, {"value": "ramp", "words": "ramp"}]},
  "carry/ramp": {"kind": "length", "label": "Ramp", "says": "How long a ramp lasts, inside the range.", "usual": 0.0},
  "carry/times": {"kind": "count", "label": "How often", "says": "How often it lands, one after the other.", "usual": 1, "least": 1, "most": 1000},
  "carry/every": {"kind": "length", "label": "How far apart", "says": "How far apart; nothing means back to back."},
  "carry/missing": {"kind": "choice", "label": "What is missing there", "says": "What to do where a target has no such parameter: leave the lane out, or add the parameter with its device or send and its static value.", "usual": "leave out", "words": [{"value": "leave out", "words": "leave out"}, {"value": "add", "words": "add it"}]},
  "carry/match_static": {"kind": "switch", "label": "Static values", "says": "Also give the targets the static values of the source tracks.", "usual": false, "words": [{"value": "no", "words": "stay"}, {"value": "yes", "words": "match the source"}]},
  "carry/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Also switch target tracks that are off to read.", "usual": false},
  "carry/linked": {"kind": "switch", "label": "Linked", "says": "Source and targets share phrases from then on: edit one, all follow.", "usual": false},
  "carry/alternative": {"kind": "text", "label": "Alternative", "says": "The alternative whose lanes are carried, by id, in place of what is used."},
  "retarget/lane": {"kind": "text", "label": "Lane", "says": "The source lane's id.", "needed": true},
  "retarget/targets": {"kind": "other", "label": "Parameters", "says": "Where it lands.", "needed": true},
  "retarget/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range the whole lane goes."},
  "retarget/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "retarget/at": {"kind": "position", "label": "Starting at", "says": "Where it lands; nothing means the same place."},
  "retarget/how": {"kind": "choice", "label": "Keep the original", "says": "Copy leaves the source as it is, move clears it.", "usual": "copy", "words": [{"value": "copy", "words": "yes, copy"}, {"value": "move", "words": "no, move"}]},
  "retarget/mapping": {"kind": "choice", "label": "Carry over", "says": "Same number, same position in the range, fit into a span, or movement around an anchor.", "usual": "fit", "words": [{"value": "fit", "words": "fitted"}, {"value": "range", "words": "range"}, {"value": "around", "words": "around"}, {"value": "unit", "words": "number"}]},
  "retarget/upside_down": {"kind": "switch", "label": "Upside down", "says": "High becomes low.", "usual": false, "words": [{"value": "yes", "words": "upside down"}]},
  "retarget/anchor": {"kind": "amount", "label": "Anchor", "says": "Around: the source value that lands on the target's anchor.", "usual": 0.0},
  "retarget/to_anchor": {"kind": "amount", "label": "To anchor", "says": "Around: the target value it lands on; nothing means its static value."},
  "retarget/depth": {"kind": "amount", "label": "Depth", "says": "Around: target axis units for one source axis unit.", "usual": 1.0},
  "retarget/hysteresis": {"kind": "amount", "label": "Hysteresis", "says": "For named values: how far past the middle a step takes, in steps.", "usual": 0.0, "unit": "steps", "least": 0, "most": 0.99},
  "retarget/edges": {"kind": "choice", "label": "At the edges", "says": "Seal lets values jump at the edges, ramp leads in and out.", "usual": "seal", "words": [{"value": "seal", "words": "jump"}, {"value": "ramp", "words": "ramp"}]},
  "retarget/ramp": {"kind": "length", "label": "Ramp", "says": "How long a ramp lasts, inside the range.", "usual": 0.0},
  "retarget/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Also switch target tracks that are off to read.", "usual": false},
  "place/targets": {"kind": "other", "label": "Onto", "says": "What it is placed on, in the order of the stagger.", "needed": true},
  "place/start": {"kind": "range", "label": "Start", "says": "Where it starts.", "needed": true},
  "place/end": {"kind": "range", "label": "End", "says": "Where the range ends, if there is one."},
  "place/phrase": {"kind": "text", "label": "Phrase", "says": "A phrase of the session, by id."},
  "place/given": {"kind": "other", "label": "Given", "says": "Or a phrase that is brought along."},
  "place/shape": {"kind": "other", "label": "Shape", "says": "Or a shape, made here."},
  "place/name": {"kind": "text", "label": "Name", "says": "What a shape is called; nothing means by its kind."},
  "place/length": {"kind": "length", "label": "Length", "says": "How long each is; nothing means a phrase's own length, and the range for a shape."},
  "place/times": {"kind": "count", "label": "How often", "says": "How often, one after the other; nothing means as often as the range holds.", "usual": 1, "least": 1},
  "place/deep": {"kind": "choice", "label": "Deep", "says": "About the middle of the range, between two values, about the static value, or with its own numbers.", "usual": "range", "words": [{"value": "range", "words": "range"}, {"value": "between", "words": "between"}, {"value": "static", "words": "its value"}, {"value": "unit", "words": "own numbers"}]},
  "place/depth": {"kind": "amount", "label": "Depth", "says": "How deep, in percent of the parameter's range.", "usual": 100.0},
  "place/to_each_side": {"kind": "amount", "label": "To each side", "says": "How deep instead: how far to each side of its middle, in the parameter's axis units (dB, octaves)."},
  "place/upside_down": {"kind": "switch", "label": "Upside down", "says": "High becomes low.", "usual": false, "words": [{"value": "yes", "words": "upside down"}]},
  "place/backwards": {"kind": "switch", "label": "Backwards", "says": "From its end to its start.", "usual": false, "words": [{"value": "yes", "words": "backwards"}]},
  "place/stagger": {"kind": "length", "label": "Each further lane later by", "says": "How much later each further parameter comes.", "usual": 0.0},
  "place/wrap": {"kind": "switch", "label": "Wrap", "says": "What a stagger pushes past the end comes back in at the start.", "usual": false, "words": [{"value": "yes", "words": "wrap round"}]},
  "place/edges": {"kind": "choice", "label": "At the edges", "says": "Plain points only: seal lets values jump at the edges, ramp leads in and out.", "usual": "seal", "words": [{"value": "seal", "words": "jump"}, {"value": "ramp", "words": "ramp"}]},
  "place/ramp": {"kind": "length", "label": "Ramp", "says": "How long a ramp lasts, inside the span.", "usual": 0.0},
  "place/linked": {"kind": "switch", "label": "It stays", "says": "Linked to the phrase, or plain points.", "usual": true, "words": [{"value": "yes", "words": "linked"}, {"value": "no", "words": "plain points"}]},
  "place/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Also switch tracks that are off to read.", "usual": false},
  "keep phrase/lane": {"kind": "text", "label": "Lane", "says": "The lane, by id.", "needed": true},
  "keep phrase/start": {"kind": "range", "label": "Start", "says": "Where the range starts.", "needed": true},
  "keep phrase/end": {"kind": "range", "label": "End", "says": "Where it ends.", "needed": true},
  "keep phrase/name": {"kind": "text", "label": "Call it", "says": "What it is called.", "needed": true},
  "keep phrase/place": {"kind": "switch", "label": "Here", "says": "Also make the range its first place, linked.", "usual": true, "words": [{"value": "yes", "words": "its first place, linked"}, {"value": "no", "words": "the lane is left alone"}]},
  "keep phrase/alternative": {"kind": "text", "label": "Alternative", "says": "The alternative that does it, by id, in place of what is used; the lane is then left alone."},
  "change places/placements": {"kind": "other", "label": "Placements", "says": "The placements, by id.", "needed": true},
  "change places/move": {"kind": "shift", "label": "Move", "says": "How much later they lie (negative: earlier).", "usual": 0},
  "change places/length": {"kind": "length", "label": "Length", "says": "How long each is."},
  "change places/low": {"kind": "amount", "label": "Low", "says": "Where the lowest lands, in each parameter's unit."},
  "change places/high": {"kind": "amount", "label": "High", "says": "Where the highest lands."},
  "change places/depth": {"kind": "amount", "label": "Depth", "says": "How deep, in percent of the parameter's range, about the middle it has."},
  "change places/to_each_side": {"kind": "amount", "label": "To each side", "says": "How deep instead: how far to each side of that middle, in the parameter's axis units."},
  "change places/upside_down": {"kind": "switch", "label": "Upside down", "says": "High becomes low, or is high again.", "words": [{"value": "yes", "words": "upside down"}]},
  "change places/backwards": {"kind": "switch", "label": "Backwards", "says": "From the end to the start, or forwards again.", "words": [{"value": "yes", "words": "backwards"}]},
  "change places/turn": {"kind": "length", "label": "Turn", "says": "How much later the content comes inside the length."},
  "change places/phrase": {"kind": "text", "label": "Phrase", "says": "Another phrase in its place, by id."},
  "set free/placements": {"kind": "other", "label": "Placements", "says": "The placements, by id.", "needed": true},
  "set free/all": {"kind": "switch", "label": "All", "says": "Every other place of their phrases as well.", "usual": false},
  "change phrase/phrase": {"kind": "text", "label": "Phrase", "says": "The phrase, by id.", "needed": true},
  "change phrase/name": {"kind": "text", "label": "Its name", "says": "Another name."},
  "change phrase/points": {"kind": "other", "label": "Points", "says": "Other points, from 0 to its length; none leaves them."},
  "change phrase/shape": {"kind": "other", "label": "Shape", "says": "Another recipe."},
  "change phrase/length": {"kind": "length", "label": "Length", "says": "Another length, for other points or another recipe."},
  "change phrase/delete": {"kind": "switch", "label": "Delete", "says": "Take it out of the session; its places become plain points.", "usual": false},
  "pool/lane": {"kind": "text", "label": "Lane", "says": "The lane, by id.", "needed": true},
  "pool/start": {"kind": "range", "label": "Start", "says": "Where the range starts.", "needed": true},
  "pool/end": {"kind": "range", "label": "End", "says": "Where it ends.", "needed": true},
  "pool/name": {"kind": "text", "label": "Name", "says": "What the phrase is called.", "needed": true},
  "pool/places": {"kind": "other", "label": "Places", "says": "The other places."},
  "pool/within": {"kind": "other", "label": "Within", "says": "How far from the model a place may be, for each unit; nothing means the usual bound."},
  "carry regions/regions": {"kind": "regions", "label": "Regions", "says": "The regions, by id.", "needed": true},
  "carry regions/how": {"kind": "choice", "label": "How", "says": "Move them, copy them once, or repeat them one after the other behind themselves.", "usual": "move", "words": [{"value": "move", "words": "move"}, {"value": "copy", "words": "copy"}, {"value": "repeat", "words": "repeat"}]},
  "carry regions/at": {"kind": "position", "label": "Starting at", "says": "Where the first of them lands; nothing means the same place."},
  "carry regions/targets": {"kind": "other", "label": "To tracks", "says": "The tracks they go to; nothing means their own."},
  "carry regions/times": {"kind": "count", "label": "How many more", "says": "Repeat: how many more there will be.", "usual": 1, "least": 1, "most": 1000},
  "carry regions/until": {"kind": "position", "label": "Fill up to", "says": "Repeat: fill up to here instead, the last one cut to fit."},
  "carry regions/every": {"kind": "length", "label": "How far apart", "says": "Repeat: how far apart; nothing means back to back."},
  "carry regions/automation": {"kind": "choice", "label": "Automation", "says": "The regions with their automation, without it (it stays where it was), or the automation alone.", "usual": "with", "words": [{"value": "with", "words": "goes along"}, {"value": "without", "words": "stays"}, {"value": "alone", "words": "it alone"}]},
  "carry regions/under": {"kind": "choice", "label": "The track’s, under them", "says": "Whether the track's own automation under the regions stays or goes along.", "usual": "stays", "words": [{"value": "stays", "words": "stays"}, {"value": "goes along", "words": "goes along"}]},
  "carry regions/missing": {"kind": "choice", "label": "Missing", "says": "What to do where a target lacks a parameter: leave its lane out, or add the parameter.", "usual": "leave out", "words": [{"value": "leave out", "words": "leave out"}, {"value": "add", "words": "add"}]},
  "carry regions/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Also switch target tracks that are off to read.", "usual": false},
  "cut regions/regions": {"kind": "regions", "label": "Regions", "says": "The regions, by id.", "needed": true},
  "cut regions/at": {"kind": "position", "label": "Cut at", "says": "Where to cut; it has to lie inside, edges aside.", "needed": true},
  "join regions/regions": {"kind": "regions", "label": "Regions", "says": "The regions, by id; all on one track.", "needed": true},
  "change regions/regions": {"kind": "regions", "label": "Regions", "says": "The regions, by id.", "needed": true},
  "change regions/name": {"kind": "text", "label": "Name", "says": "Their new name; nothing keeps it."},
  "change regions/muted": {"kind": "switch", "label": "Muted", "says": "Whether their lanes are silent; nothing keeps it."},
  "remove regions/regions": {"kind": "regions", "label": "Regions", "says": "The regions, by id.", "needed": true},
  "remove regions/automation": {"kind": "choice", "label": "Their automation", "says": "Whether their automation goes too, or stays on the track.", "words": [{"value": "stays", "words": "stays on the track"}, {"value": "goes", "words": "goes too"}], "needed": true},
  "make region/track": {"kind": "text", "label": "Track", "says": "The track it lies on, by id.", "needed": true},
  "make region/name": {"kind": "text", "label": "Name", "says": "Its name.", "needed": true},
  "make region/start": {"kind": "range", "label": "Start", "says": "Where it starts.", "needed": true},
  "make region/end": {"kind": "range", "label": "End", "says": "Where it ends.", "needed": true},
  "make region/container": {"kind": "switch", "label": "As", "says": "Whether it holds nothing but automation.", "usual": true, "words": [{"value": "yes", "words": "a container"}, {"value": "no", "words": "a region"}]},
  "make region/parameters": {"kind": "parameters", "label": "Parameters", "says": "Parameters whose track lanes it takes over in its span."},
  "place container/track": {"kind": "text", "label": "Track", "says": "The track it lies on, by id.", "needed": true},
  "place container/name": {"kind": "text", "label": "Name", "says": "Its name.", "needed": true},
  "place container/at": {"kind": "position", "label": "At", "says": "Where it starts.", "needed": true},
  "place container/length": {"kind": "length", "label": "Length", "says": "How long it is.", "needed": true},
  "place container/clips": {"kind": "other", "label": "Clips", "says": "What it holds.", "needed": true},
  "place container/muted": {"kind": "switch", "label": "Muted", "says": "Whether its lanes are silent until it is unmuted.", "usual": false},
  "embed/regions": {"kind": "regions", "label": "Regions", "says": "The regions, by id.", "needed": true},
  "embed/parameters": {"kind": "parameters", "label": "Parameters", "says": "The parameters; none means all that have a lane on the track."},
  "lift/regions": {"kind": "regions", "label": "Regions", "says": "The regions, by id.", "needed": true},
  "lift/parameters": {"kind": "parameters", "label": "Parameters", "says": "The parameters; none means all that have a lane in them."},
  "fill gap/parameter": {"kind": "text", "label": "Parameter", "says": "The parameter's id.", "needed": true},
  "fill gap/start": {"kind": "range", "label": "Start", "says": "Where the gap starts.", "needed": true},
  "fill gap/end": {"kind": "range", "label": "End", "says": "Where it ends.", "needed": true},
  "fill gap/how": {"kind": "choice", "label": "In the gap", "says": "Hold the value before the gap, or go straight to the value after it.", "words": [{"value": "hold", "words": "hold what was before"}, {"value": "join", "words": "join both sides"}], "needed": true},
  "set precedence/wins": {"kind": "choice", "label": "Where both speak", "says": "Whose lane wins where both speak.", "words": [{"value": "region", "words": "the region’s wins"}, {"value": "track", "words": "the track’s wins"}], "needed": true},
  "fold/groups": {"kind": "other", "label": "Groups", "says": "The groups, by the ids of their tracks.", "needed": true},
  "fold/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range everywhere, resting values too."},
  "fold/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "fold/members": {"kind": "other", "label": "Members", "says": "Some members, who leave the group; nothing means all of them, who stay."},
  "fold/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Whether members who do not read their lanes do from now on.", "usual": false},
  "fold/accept": {"kind": "switch", "label": "Accept", "says": "Go on where something is heard differently; how much is said.", "usual": false, "words": [{"value": "yes", "words": "accept what is heard differently"}]},
  "fold/within": {"kind": "amount", "label": "Thinned within", "says": "Thin what it comes to, so that every level is heard within so many decibels; 0 leaves every point.", "usual": 0.0, "unit": "dB", "least": 0},
  "gather/group": {"kind": "text", "label": "Group", "says": "The group, by the id of its track.", "needed": true},
  "gather/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range everywhere."},
  "gather/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "gather/what": {"kind": "choice", "label": "What", "says": "What is common to the members (the mean of their moves about each one's own mean), or what one of them does.", "usual": "common", "words": [{"value": "common", "words": "common"}, {"value": "member", "words": "member"}]},
  "gather/member": {"kind": "text", "label": "Member", "says": "That member, with `member`."},
  "gather/members": {"kind": "other", "label": "Looked at", "says": "Whose moves are looked at for what is common; nothing means all."},
  "gather/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Whether members who do not read their lanes do from now on.", "usual": false},
  "gather/accept": {"kind": "switch", "label": "Accept", "says": "Go on where something is heard differently; how much is said.", "usual": false, "words": [{"value": "yes", "words": "accept what is heard differently"}]},
  "gather/within": {"kind": "amount", "label": "Thinned within", "says": "Thin what it comes to, so that every level is heard within so many decibels; 0 leaves every point.", "usual": 0.0, "unit": "dB", "least": 0},
  "change group/group": {"kind": "text", "label": "Group", "says": "The group, by the id of its track.", "needed": true},
  "change group/take_in": {"kind": "other", "label": "Comes in", "says": "Tracks that become members, by id; groups may be nested."},
  "change group/let_go": {"kind": "other", "label": "Goes", "says": "Members that leave."},
  "change group/heard": {"kind": "choice", "label": "What is heard", "says": "Whether what is heard of them stays (their own levels take over what the group adds) or changes.", "usual": "stays", "words": [{"value": "stays", "words": "stays"}, {"value": "changes", "words": "changes"}]},
  "change group/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Whether members who do not read their lanes do from now on.", "usual": false},
  "change group/accept": {"kind": "switch", "label": "Accept", "says": "Go on where something is heard differently; how much is said.", "usual": false, "words": [{"value": "yes", "words": "accept what is heard differently"}]},
  "make group/name": {"kind": "text", "label": "Name", "says": "The group's name.", "needed": true},
  "make group/members": {"kind": "other", "label": "In it", "says": "The tracks in it, by id.", "needed": true},
  "dissolve group/group": {"kind": "text", "label": "Group", "says": "The group, by the id of its track.", "needed": true},
  "dissolve group/heard": {"kind": "choice", "label": "What is heard", "says": "Whether what is heard of the members stays (their own levels take over what the group adds) or changes.", "usual": "stays", "words": [{"value": "stays", "words": "stays"}, {"value": "changes", "words": "changes"}]},
  "dissolve group/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Whether members who do not read their lanes do from now on.", "usual": false},
  "dissolve group/accept": {"kind": "switch", "label": "Accept", "says": "Go on where something is heard differently; how much is said.", "usual": false, "words": [{"value": "yes", "words": "accept what is heard differently"}]},
  "set mode/tracks": {"kind": "tracks", "label": "Tracks", "says": "The tracks, by id.", "needed": true},
  "set mode/mode": {"kind": "choice", "label": "Mode", "says": "Off, read, or read and how a ride on them writes: touch, latch or write.", "usual": "read", "words": [{"value": "read", "words": "read"}, {"value": "off", "words": "off"}, {"value": "touch", "words": "touch"}, {"value": "latch", "words": "latch"}, {"value": "write", "words": "write"}]},
  "set switch/parameters": {"kind": "parameters", "label": "Switches", "says": "The switches, by id.", "needed": true},
  "set switch/start": {"kind": "range", "label": "Start", "says": "Where the range starts.", "needed": true},
  "set switch/end": {"kind": "range", "label": "End", "says": "Where it ends.", "needed": true},
  "set switch/on": {"kind": "switch", "label": "On", "says": "At their higher value (on, muted), or at their lower one.", "usual": true},
  "add marker/at": {"kind": "position", "label": "At", "says": "Where it stands.", "needed": true},
  "add marker/name": {"kind": "text", "label": "Name", "says": "Its name; it may be empty."},
  "add marker/cue": {"kind": "switch", "label": "Cue", "says": "Whether it is a cue, for whoever runs a show.", "usual": false, "words": [{"value": "yes", "words": "a cue, for whoever runs the show"}]},
  "change markers/markers": {"kind": "markers", "label": "Markers", "says": "The markers, by id.", "needed": true},
  "change markers/by": {"kind": "shift", "label": "By", "says": "How much later (earlier if negative).", "usual": 0},
  "change markers/at": {"kind": "position", "label": "At", "says": "Where the first of them comes to stand, instead of `by`; the others keep their distance."},
  "change markers/name": {"kind": "text", "label": "Name", "says": "Their new name; nothing keeps it."},
  "change markers/cue": {"kind": "switch", "label": "Cue", "says": "Whether they are cues; nothing keeps it."},
  "remove markers/markers": {"kind": "markers", "label": "Markers", "says": "The markers, by id.", "needed": true},
  "add points/parameter": {"kind": "text", "label": "Parameter", "says": "The parameter's id.", "needed": true},
  "add points/spots": {"kind": "other", "label": "Spots", "says": "The points to add.", "needed": true},
  "add points/home": {"kind": "text", "label": "Home", "says": "The lane's home: track, or a region's id.", "usual": "track"},
  "move points/picked": {"kind": "other", "label": "Picked", "says": "The points to move.", "needed": true},
  "move points/by": {"kind": "shift", "label": "By", "says": "How much later (earlier if negative).", "usual": 0},
  "move points/rise": {"kind": "amount", "label": "Rise", "says": "How far up, in axis units: dB, octaves, or the parameter's own.", "usual": 0.0},
  "set values/picked": {"kind": "other", "label": "Picked", "says": "The points.", "needed": true},
  "set values/text": {"kind": "text", "label": "Text", "says": "What was typed: -3 dB, =-3, +2, *0.5, muted.", "needed": true},
  "remove points/picked": {"kind": "other", "label": "Picked", "says": "The points to remove.", "needed": true},
  "shape segments/picked": {"kind": "other", "label": "Picked", "says": "The points the segments start at.", "needed": true},
  "shape segments/bend": {"kind": "amount", "label": "Bend", "says": "A bend number, 0 for straight; nothing means hold.", "usual": 0.0},
  "reshape/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes, by id."},
  "reshape/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range whole lanes move."},
  "reshape/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "reshape/moves": {"kind": "other", "label": "Moves", "says": "What lanes of each unit get; others stay."},
  "reshape/before": {"kind": "length", "label": "Ramp before the range", "says": "How long the ramp before the range lasts.", "usual": 0.0},
  "reshape/after": {"kind": "length", "label": "Ramp after it", "says": "How long the ramp after it lasts.", "usual": 0.0},
  "reshape/resting": {"kind": "switch", "label": "Resting", "says": "Whether resting values move with whole lanes.", "usual": true, "words": [{"value": "yes", "words": "the resting values too"}]},
  "reshape/tracks": {"kind": "tracks", "label": "All levels of", "says": "Tracks of which all levels move: on the track and in its regions."},
  "same values/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes, by id; their range becomes the same."},
  "same values/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range whole lanes."},
  "same values/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "same values/picked": {"kind": "other", "label": "Picked", "says": "Points, instead of lanes and a range."},
  "same values/to": {"kind": "choice", "label": "To", "says": "One value; the mean (over time, or of the picked points); or each rounded to a step.", "usual": "mean", "words": [{"value": "mean", "words": "the mean"}, {"value": "value", "words": "one value"}, {"value": "step", "words": "rounded"}]},
  "same values/text": {"kind": "text", "label": "Value", "says": "The value as it was typed, with `value`."},
  "same values/step": {"kind": "amount", "label": "To steps of", "says": "The step in the parameters' own unit, with `step`.", "usual": 1.0},
  "raise/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes, by id.", "needed": true},
  "raise/start": {"kind": "range", "label": "Start", "says": "Where the range starts.", "needed": true},
  "raise/end": {"kind": "range", "label": "End", "says": "Where it ends.", "needed": true},
  "raise/amount": {"kind": "amount", "label": "Amount", "says": "How far up, in the unit: dB, octaves, or the parameters' own.", "needed": true},
  "raise/before": {"kind": "length", "label": "Before", "says": "How long the ramp before the range lasts.", "usual": 0.0},
  "raise/after": {"kind": "length", "label": "After", "says": "How long the ramp after it lasts.", "usual": 0.0},
  "raise/unit": {"kind": "text", "label": "Unit", "says": "The unit of the amount; lanes of others stay. Nothing means that of the first lane."},
  "retime/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes, by id.", "needed": true},
  "retime/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range whole lanes."},
  "retime/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "retime/way": {"kind": "choice", "label": "Way", "says": "What to do with it.", "usual": "stretch", "words": [{"value": "stretch", "words": "stretch"}, {"value": "shift", "words": "shift"}, {"value": "backwards", "words": "backwards"}]},
  "retime/factor": {"kind": "amount", "label": "To", "says": "How many times as long it gets, with `stretch` and no length.", "usual": 1.0, "unit": "times its length"},
  "retime/length": {"kind": "length", "label": "or to a length of", "says": "How long it gets, with `stretch`."},
  "retime/following": {"kind": "choice", "label": "What follows", "says": "Whether what follows stays where it is, or moves along with the end of what is stretched.", "usual": "stays", "words": [{"value": "stays", "words": "stays"}, {"value": "moves along", "words": "moves along"}]},
  "retime/by": {"kind": "shift", "label": "Later by", "says": "How much later, with `shift` (negative: earlier).", "usual": 0},
  "retime/milliseconds": {"kind": "amount", "label": "and by", "says": "How many milliseconds later, with `shift`, added to that.", "usual": 0.0, "unit": "ms"},
  "draw/parameter": {"kind": "text", "label": "Parameter", "says": "The parameter's id.", "needed": true},
  "draw/stroke": {"kind": "other", "label": "Stroke", "says": "The stroke, in any direction; two spots are a straight line.", "needed": true},
  "draw/tolerance": {"kind": "amount", "label": "Thinned to within", "says": "How far the thinned line may be from the stroke, in axis units.", "usual": 0.0, "unit": "of the unit (dB, octaves, …)", "least": 0},
  "draw/home": {"kind": "text", "label": "Home", "says": "The lane's home: track, or a region's id.", "usual": "track"},
  "thin/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes, by id.", "needed": true},
  "thin/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range whole lanes are thinned."},
  "thin/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "thin/way": {"kind": "choice", "label": "Way", "says": "Within a bound of what it was, without changing anything, or a staircase of steps as the slope it came from.", "usual": "within", "words": [{"value": "within", "words": "within a bound"}, {"value": "without loss", "words": "without loss"}, {"value": "steps to slopes", "words": "steps to slopes"}]},
  "thin/within": {"kind": "other", "label": "Within", "says": "The bound for each unit; nothing means the usual one."},
  "thin/protected": {"kind": "other", "label": "Protected", "says": "Points that stay."},
  "thin/region_edges": {"kind": "switch", "label": "Region edges", "says": "Whether lanes of tracks also stay exactly what they are where a region of their track starts or ends.", "usual": false, "words": [{"value": "yes", "words": "stays where regions start and end"}]},
  "thin/holds": {"kind": "choice", "label": "Holds", "says": "Within a bound: whether what is held stays held, or is a step among others, which a slope may pass.", "usual": "stay", "words": [{"value": "stay", "words": "what is held stays"}, {"value": "steps", "words": "what is held may become slopes"}]},
  "thin/step": {"kind": "amount", "label": "Steps of", "says": "Steps to slopes: how far apart the steps are, in the unit of distances; nothing finds it in each lane.", "least": 0},
  "clear/scope": {"kind": "choice", "label": "Scope", "says": "A range of the lanes, the lanes whole, all lanes of the tracks, or every lane there is.", "words": [{"value": "range", "words": "this range"}, {"value": "lanes", "words": "these lanes"}, {"value": "tracks", "words": "the tracks"}, {"value": "session", "words": "the session"}], "needed": true},
  "clear/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes, for the scopes range and lanes."},
  "clear/tracks": {"kind": "tracks", "label": "Tracks", "says": "The tracks, for the scope tracks."},
  "clear/start": {"kind": "range", "label": "Start", "says": "Where the range starts."},
  "clear/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "clear/way": {"kind": "choice", "label": "Inside the range", "says": "Bridge joins the neighbours outside; seal keeps everything outside and lays one straight segment.", "usual": "seal", "words": [{"value": "seal", "words": "seal: outside stays"}, {"value": "bridge", "words": "bridge: neighbours join"}]},
  "clear/static": {"kind": "choice", "label": "Rest at", "says": "What the static value of a parameter whose track lane goes becomes.", "usual": "keep", "words": [{"value": "keep", "words": "static"}, {"value": "default", "words": "default"}, {"value": "cursor", "words": "at the cursor"}, {"value": "mean", "words": "mean"}]},
  "clear/cursor": {"kind": "position", "label": "Cursor", "says": "The cursor's place, for static cursor.", "usual": 0.0},
  "keep aside/parameters": {"kind": "parameters", "label": "Parameters", "says": "The parameters, by id.", "needed": true},
  "keep aside/name": {"kind": "text", "label": "Called", "says": "What it is called; nothing says what it was."},
  "keep aside/start": {"kind": "range", "label": "Start", "says": "Where the range it is about starts; with no range it is all of it."},
  "keep aside/end": {"kind": "range", "label": "End", "says": "Where the range ends."},
  "keep aside/when": {"kind": "text", "label": "When", "says": "When that is, as ISO 8601 says it; nothing leaves it open."},
  "use alternatives/alternatives": {"kind": "other", "label": "Alternatives", "says": "The alternatives, by id: one for each parameter.", "needed": true},
  "use alternatives/aside": {"kind": "switch", "label": "What was in use", "says": "Keep aside what was in use.", "usual": true, "words": [{"value": "no", "words": "is let go"}, {"value": "yes", "words": "is kept aside"}]},
  "use alternatives/when": {"kind": "text", "label": "When", "says": "When that is, as ISO 8601 says it; nothing leaves it open."},
  "take range/alternatives": {"kind": "other", "label": "Alternatives", "says": "The alternatives, by id: one for each parameter.", "needed": true},
  "take range/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range it is all, or what it was kept for."},
  "take range/end": {"kind": "range", "label": "End", "says": "Where the range ends."},
  "take range/edges": {"kind": "choice", "label": "At the edges", "says": "Seal lets values jump at the edges, ramp leads in and out.", "usual": "seal", "words": [{"value": "seal", "words": "jump"}, {"value": "ramp", "words": "ramp"}]},
  "take range/ramp": {"kind": "length", "label": "Ramp", "says": "How long a ramp lasts, inside the range.", "usual": 0.0},
  "rename alternative/alternative": {"kind": "text", "label": "Alternative", "says": "The alternative, by id.", "needed": true},
  "rename alternative/name": {"kind": "text", "label": "Called", "says": "What it is called from now on.", "needed": true},
  "remove alternatives/alternatives": {"kind": "other", "label": "Alternatives", "says": "The alternatives, by id.", "needed": true},
  "bring back/revision": {"kind": "count", "label": "Revision", "says": "The revision it comes from.", "needed": true},
  "bring back/tracks": {"kind": "tracks", "label": "Tracks", "says": "The tracks, by id: they become as they were, with their regions and lanes; over a range all their parameters."},
  "bring back/parameters": {"kind": "parameters", "label": "Parameters", "says": "The parameters, by id."},
  "bring back/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range it is all of it."},
  "bring back/end": {"kind": "range", "label": "End", "says": "Where the range ends."},
  "bring back/edges": {"kind": "choice", "label": "At the edges", "says": "Seal lets values jump at the edges, ramp leads in and out.", "usual": "seal", "words": [{"value": "seal", "words": "jump"}, {"value": "ramp", "words": "ramp"}]},
  "bring back/ramp": {"kind": "length", "label": "Ramp", "says": "How long a ramp lasts, inside the range.", "usual": 0.0},
  "mend/found": {"kind": "other", "label": "Found", "says": "What is to be mended.", "needed": true},
  "let be/found": {"kind": "other", "label": "Found", "says": "What is to be let be."},
  "let be/kinds": {"kind": "other", "label": "Kinds", "says": "All of these kinds, also what is yet to come."},
  "let be/again": {"kind": "switch", "label": "Again", "says": "List them again instead.", "usual": false},
  "clean up/within": {"kind": "other", "label": "Within", "says": "Also thin, within a bound for each of these units; none leaves all other points."},
  "note/about": {"kind": "choice", "label": "About", "says": "What it is about.", "words": [{"value": "lane", "words": "lane"}, {"value": "parameter", "words": "parameter"}, {"value": "region", "words": "region"}, {"value": "track", "words": "track"}], "needed": true},
  "note/of": {"kind": "text", "label": "Of", "says": "Its id.", "needed": true},
  "note/text": {"kind": "text", "label": "Text", "says": "The words; none takes the note away."},
  "ride/passes": {"kind": "other", "label": "Passes", "says": "The passes, in the order they were ridden.", "needed": true},
  "ride/return_over": {"kind": "length", "label": "Touch goes back over", "says": "In touch, how long a control takes back to what is there.", "usual": 1.0},
  "ride/within": {"kind": "other", "label": "Within", "says": "How far the thinned line may be from the hand's, for each unit; 0 keeps every point, nothing means the usual bound."},
  "ride/lands": {"kind": "choice", "label": "Lands", "says": "In a region's own lane where that speaks, or always on the track.", "usual": "where it is heard", "words": [{"value": "where it is heard", "words": "where it is heard"}, {"value": "on the track", "words": "always on the track"}]},
  "ride/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Whether ridden tracks that are off read their lanes from now on.", "usual": false},
  "follow/targets": {"kind": "other", "label": "Drives", "says": "What is driven."},
  "follow/tracks": {"kind": "tracks", "label": "Tracks", "says": "The tracks whose sound is followed, together, by id."},
  "follow/source": {"kind": "text", "label": "Lane", "says": "Or the parameter whose lanes are followed, as heard, by id."},
  "follow/does": {"kind": "choice", "label": "What it does", "says": "Follows its level; makes room while it is above a threshold; opens while it is; evens out its level; or lags behind.", "usual": "follows", "words": [{"value": "follows", "words": "follows"}, {"value": "makes room", "words": "makes room"}, {"value": "opens", "words": "opens"}, {"value": "evens out", "words": "evens out"}, {"value": "lags", "words": "lags"}]},
  "follow/start": {"kind": "range", "label": "Start", "says": "Where the range starts; with no range it is the whole session."},
  "follow/end": {"kind": "range", "label": "End", "says": "Where it ends."},
  "follow/after_level": {"kind": "switch", "label": "The sound", "says": "Whether the sound is taken as heard, after its level; else as it stands in its regions.", "usual": false, "words": [{"value": "no", "words": "as it stands"}, {"value": "yes", "words": "as heard"}]},
  "follow/measure": {"kind": "choice", "label": "By its", "says": "The highest peak, the mean (RMS), or the standard's loudness over 400 ms or 3 s.", "usual": "mean", "words": [{"value": "peak", "words": "peak"}, {"value": "mean", "words": "mean"}, {"value": "momentary", "words": "loudness"}, {"value": "short-term", "words": "loudness, 3 s"}]},
  "follow/window": {"kind": "amount", "label": "Taken over", "says": "Over how many milliseconds a peak or a mean is taken.", "usual": 10.0, "unit": "ms", "least": 0},
  "follow/low": {"kind": "amount", "label": "Low", "says": "The lower value of the source, in dB or its own unit; nothing means −48 dB, or its lowest."},
  "follow/high": {"kind": "amount", "label": "High", "says": "The upper value of the source; nothing means −6 dB, or its highest."},
  "follow/upside_down": {"kind": "switch", "label": "Which way", "says": "High becomes low.", "usual": false, "words": [{"value": "no", "words": "the same way"}, {"value": "yes", "words": "upside down"}]},
  "follow/attack": {"kind": "amount", "label": "In", "says": "Milliseconds in which it comes 63 % of the way to what is higher.", "usual": 10.0, "unit": "ms", "least": 0},
  "follow/release": {"kind": "amount", "label": "Out", "says": "Milliseconds to what is lower.", "usual": 120.0, "unit": "ms", "least": 0},
  "follow/hold": {"kind": "amount", "label": "Held for", "says": "Milliseconds before it begins to fall.", "usual": 0.0, "unit": "ms", "least": 0},
  "follow/lookahead": {"kind": "amount", "label": "Before the sound by", "says": "Milliseconds by which the curve comes before the sound.", "usual": 0.0, "unit": "ms", "least": 0},
  "follow/threshold": {"kind": "amount", "label": "Above", "says": "From which level on, in dB (or the source's unit).", "usual": -30.0, "unit": "dB"},
  "follow/depth": {"kind": "amount", "label": "By", "says": "Makes room: by how many dB at most.", "usual": 6.0, "unit": "dB"},
  "follow/ratio": {"kind": "amount", "label": "Ratio", "says": "Makes room: of what is above the threshold one in so many is left; nothing takes all of the depth at once.", "unit": ": 1"},
  "follow/knee": {"kind": "amount", "label": "Softly over", "says": "Makes room by a ratio: over how many dB it begins.", "usual": 0.0, "unit": "dB", "least": 0},
  "follow/hysteresis": {"kind": "amount", "label": "Shuts below it by", "says": "Opens: how far below the threshold it shuts again.", "usual": 3.0, "unit": "dB", "least": 0},
  "follow/least": {"kind": "amount", "label": "For at least", "says": "Opens: how many milliseconds it stays open, or shut, at least.", "usual": 50.0, "unit": "ms", "least": 0},
  "follow/to": {"kind": "amount", "label": "To", "says": "Evens out: the level it is brought to, in dB.", "usual": -20.0, "unit": "dB"},
  "follow/band": {"kind": "amount", "label": "Left within", "says": "Evens out: how far from it a level is left as it is; what is twice as far is brought to it wholly.", "usual": 1.0, "unit": "dB", "least": 0},
  "follow/most": {"kind": "amount", "label": "By at most", "says": "Evens out: by how many dB at most, up or down.", "usual": 6.0, "unit": "dB", "least": 0},
  "follow/delay": {"kind": "shift", "label": "Later by", "says": "Lags: how much later.", "usual": 0},
  "follow/smooth": {"kind": "amount", "label": "Smoothed over", "says": "Lags: milliseconds of smoothing.", "usual": 0.0, "unit": "ms", "least": 0},
  "follow/grid": {"kind": "length", "label": "In steps of", "says": "Lags: in steps of a grid, each with the value at its line."},
  "follow/slope": {"kind": "amount", "label": "No faster than", "says": "Lags: by how much a second it moves at most, in the source's unit of distance.", "unit": "a second"},
  "follow/instead": {"kind": "switch", "label": "What is there", "says": "Whether it replaces what a level does there, or is added to it.", "usual": false, "words": [{"value": "no", "words": "is added to"}, {"value": "yes", "words": "is replaced"}]},
  "follow/within": {"kind": "other", "label": "Within", "says": "The bound for each unit; nothing means the usual one."},
  "follow/set_to_read": {"kind": "switch", "label": "Set to read", "says": "Also switch target tracks that are off to read.", "usual": false},
  "make anew/lanes": {"kind": "lanes", "label": "Lanes", "says": "The lanes, by id.", "needed": true},
  "set sound/tracks": {"kind": "tracks", "label": "Tracks", "says": "The tracks, by id."},
  "set sound/regions": {"kind": "regions", "label": "Regions", "says": "Regions that are to sound otherwise than their tracks, by id."},
  "set sound/sound": {"kind": "other", "label": "Sound", "says": "What they sound like; nothing means as is usual."},
  "set sound/at": {"kind": "position", "label": "Begins at", "says": "Of a track’s file: where it begins.", "usual": 0.0},
  "paste/clips": {"kind": "other", "label": "Clips", "says": "What was copied.", "needed": true},
  "paste/start": {"kind": "position", "label": "Start", "says": "Where the copied range started.", "needed": true},
  "paste/length": {"kind": "length", "label": "Length", "says": "How long it is.", "needed": true},
  "paste/at": {"kind": "position", "label": "Starting at", "says": "Where it lands; nothing means the same place."},
  "paste/onto": {"kind": "text", "label": "Onto", "says": "A parameter to paste a single clip onto, instead of the one of its name."},
  "paste/how": {"kind": "choice", "label": "Where units differ", "says": "Keep the numbers (units must agree), or keep the position in the range.", "usual": "unit", "words": [{"value": "unit", "words": "refuse"}, {"value": "range", "words": "same position in the range"}]},
  "paste/linked": {"kind": "switch", "label": "Linked", "says": "Copies of linked places that are still what was copied are linked too.", "usual": false},
} as const
export type VerbId = (typeof VERBS)[number]['id']
export type Action = keyof typeof ACTIONS
