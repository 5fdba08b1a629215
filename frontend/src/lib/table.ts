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
export const CHOICES = {
  "carry/how": {
    "label": "Keep the original",
    "words": [
      {
        "value": "copy",
        "words": "yes, copy"
      },
      {
        "value": "move",
        "words": "no, move"
      }
    ]
  },
  "carry/edges": {
    "label": "At the edges",
    "words": [
      {
        "value": "seal",
        "words": "jump"
      },
      {
        "value": "ramp",
        "words": "ramp"
      }
    ]
  },
  "carry/missing": {
    "label": "What is missing there",
    "words": [
      {
        "value": "leave out",
        "words": "leave out"
      },
      {
        "value": "add",
        "words": "add it"
      }
    ]
  },
  "carry/match_static": {
    "label": "Static values",
    "words": [
      {
        "value": "no",
        "words": "stay"
      },
      {
        "value": "yes",
        "words": "match the source"
      }
    ]
  },
  "retarget/how": {
    "label": "Keep the original",
    "words": [
      {
        "value": "copy",
        "words": "yes, copy"
      },
      {
        "value": "move",
        "words": "no, move"
      }
    ]
  },
  "retarget/mapping": {
    "label": "Carry over",
    "words": [
      {
        "value": "fit",
        "words": "fitted"
      },
      {
        "value": "range",
        "words": "range"
      },
      {
        "value": "around",
        "words": "around"
      },
      {
        "value": "unit",
        "words": "number"
      }
    ]
  },
  "retarget/edges": {
    "label": "At the edges",
    "words": [
      {
        "value": "seal",
        "words": "jump"
      },
      {
        "value": "ramp",
        "words": "ramp"
      }
    ]
  },
  "place/deep": {
    "label": "Deep",
    "words": [
      {
        "value": "range",
        "words": "range"
      },
      {
        "value": "between",
        "words": "between"
      },
      {
        "value": "static",
        "words": "its value"
      },
      {
        "value": "unit",
        "words": "own numbers"
      }
    ]
  },
  "place/edges": {
    "label": "At the edges",
    "words": [
      {
        "value": "seal",
        "words": "jump"
      },
      {
        "value": "ramp",
        "words": "ramp"
      }
    ]
  },
  "place/linked": {
    "label": "It stays",
    "words": [
      {
        "value": "yes",
        "words": "linked"
      },
      {
        "value": "no",
        "words": "plain points"
      }
    ]
  },
  "keep phrase/place": {
    "label": "Here",
    "words": [
      {
        "value": "yes",
        "words": "its first place, linked"
      },
      {
        "value": "no",
        "words": "the lane is left alone"
      }
    ]
  },
  "carry regions/how": {
    "label": "How",
    "words": [
      {
        "value": "move",
        "words": "move"
      },
      {
        "value": "copy",
        "words": "copy"
      },
      {
        "value": "repeat",
        "words": "repeat"
      }
    ]
  },
  "carry regions/automation": {
    "label": "Automation",
    "words": [
      {
        "value": "with",
        "words": "goes along"
      },
      {
        "value": "without",
        "words": "stays"
      },
      {
        "value": "alone",
        "words": "it alone"
      }
    ]
  },
  "carry regions/under": {
    "label": "The track’s, under them",
    "words": [
      {
        "value": "stays",
        "words": "stays"
      },
      {
        "value": "goes along",
        "words": "goes along"
      }
    ]
  },
  "carry regions/missing": {
    "label": "Missing",
    "words": [
      {
        "value": "leave out",
        "words": "leave out"
      },
      {
        "value": "add",
        "words": "add"
      }
    ]
  },
  "remove regions/automation": {
    "label": "Their automation",
    "words": [
      {
        "value": "stays",
        "words": "stays on the track"
      },
      {
        "value": "goes",
        "words": "goes too"
      }
    ]
  },
  "make region/container": {
    "label": "As",
    "words": [
      {
        "value": "yes",
        "words": "a container"
      },
      {
        "value": "no",
        "words": "a region"
      }
    ]
  },
  "fill gap/how": {
    "label": "In the gap",
    "words": [
      {
        "value": "hold",
        "words": "hold what was before"
      },
      {
        "value": "join",
        "words": "join both sides"
      }
    ]
  },
  "set precedence/wins": {
    "label": "Where both speak",
    "words": [
      {
        "value": "region",
        "words": "the region’s wins"
      },
      {
        "value": "track",
        "words": "the track’s wins"
      }
    ]
  },
  "gather/what": {
    "label": "What",
    "words": [
      {
        "value": "common",
        "words": "common"
      },
      {
        "value": "member",
        "words": "member"
      }
    ]
  },
  "change group/heard": {
    "label": "What is heard",
    "words": [
      {
        "value": "stays",
        "words": "stays"
      },
      {
        "value": "changes",
        "words": "changes"
      }
    ]
  },
  "dissolve group/heard": {
    "label": "What is heard",
    "words": [
      {
        "value": "stays",
        "words": "stays"
      },
      {
        "value": "changes",
        "words": "changes"
      }
    ]
  },
  "set mode/mode": {
    "label": "Mode",
    "words": [
      {
        "value": "read",
        "words": "read"
      },
      {
        "value": "off",
        "words": "off"
      },
      {
        "value": "touch",
        "words": "touch"
      },
      {
        "value": "latch",
        "words": "latch"
      },
      {
        "value": "write",
        "words": "write"
      }
    ]
  },
  "same values/to": {
    "label": "To",
    "words": [
      {
        "value": "mean",
        "words": "the mean"
      },
      {
        "value": "value",
        "words": "one value"
      },
      {
        "value": "step",
        "words": "rounded"
      }
    ]
  },
  "retime/way": {
    "label": "Way",
    "words": [
      {
        "value": "stretch",
        "words": "stretch"
      },
      {
        "value": "shift",
        "words": "shift"
      },
      {
        "value": "backwards",
        "words": "backwards"
      }
    ]
  },
  "retime/following": {
    "label": "What follows",
    "words": [
      {
        "value": "stays",
        "words": "stays"
      },
      {
        "value": "moves along",
        "words": "moves along"
      }
    ]
  },
  "thin/way": {
    "label": "Way",
    "words": [
      {
        "value": "within",
        "words": "within a bound"
      },
      {
        "value": "without loss",
        "words": "without loss"
      },
      {
        "value": "steps to slopes",
        "words": "steps to slopes"
      }
    ]
  },
  "thin/region_edges": {
    "label": "Region edges",
    "words": [
      {
        "value": "yes",
        "words": "stays where regions start and end"
      }
    ]
  },
  "thin/holds": {
    "label": "Holds",
    "words": [
      {
        "value": "stay",
        "words": "what is held stays"
      },
      {
        "value": "steps",
        "words": "what is held may become slopes"
      }
    ]
  },
  "clear/scope": {
    "label": "Scope",
    "words": [
      {
        "value": "range",
        "words": "this range"
      },
      {
        "value": "lanes",
        "words": "these lanes"
      },
      {
        "value": "tracks",
        "words": "the tracks"
      },
      {
        "value": "session",
        "words": "the session"
      }
    ]
  },
  "clear/way": {
    "label": "Inside the range",
    "words": [
      {
        "value": "seal",
        "words": "seal: outside stays"
      },
      {
        "value": "bridge",
        "words": "bridge: neighbours join"
      }
    ]
  },
  "clear/static": {
    "label": "Rest at",
    "words": [
      {
        "value": "keep",
        "words": "static"
      },
      {
        "value": "default",
        "words": "default"
      },
      {
        "value": "cursor",
        "words": "at the cursor"
      },
      {
        "value": "mean",
        "words": "mean"
      }
    ]
  },
  "use alternatives/aside": {
    "label": "What was in use",
    "words": [
      {
        "value": "no",
        "words": "is let go"
      },
      {
        "value": "yes",
        "words": "is kept aside"
      }
    ]
  },
  "take range/edges": {
    "label": "At the edges",
    "words": [
      {
        "value": "seal",
        "words": "jump"
      },
      {
        "value": "ramp",
        "words": "ramp"
      }
    ]
  },
  "bring back/edges": {
    "label": "At the edges",
    "words": [
      {
        "value": "seal",
        "words": "jump"
      },
      {
        "value": "ramp",
        "words": "ramp"
      }
    ]
  },
  "note/about": {
    "label": "About",
    "words": [
      {
        "value": "lane",
        "words": "lane"
      },
      {
        "value": "parameter",
        "words": "parameter"
      },
      {
        "value": "region",
        "words": "region"
      },
      {
        "value": "track",
        "words": "track"
      }
    ]
  },
  "ride/lands": {
    "label": "Lands",
    "words": [
      {
        "value": "where it is heard",
        "words": "where it is heard"
      },
      {
        "value": "on the track",
        "words": "on the track"
      }
    ]
  },
  "follow/does": {
    "label": "What it does",
    "words": [
      {
        "value": "follows",
        "words": "follows"
      },
      {
        "value": "makes room",
        "words": "makes room"
      },
      {
        "value": "opens",
        "words": "opens"
      },
      {
        "value": "evens out",
        "words": "evens out"
      },
      {
        "value": "lags",
        "words": "lags"
      }
    ]
  },
  "follow/after_level": {
    "label": "The sound",
    "words": [
      {
        "value": "no",
        "words": "as it stands"
      },
      {
        "value": "yes",
        "words": "as heard"
      }
    ]
  },
  "follow/measure": {
    "label": "By its",
    "words": [
      {
        "value": "peak",
        "words": "peak"
      },
      {
        "value": "mean",
        "words": "mean"
      },
      {
        "value": "momentary",
        "words": "loudness"
      },
      {
        "value": "short-term",
        "words": "loudness, 3 s"
      }
    ]
  },
  "follow/upside_down": {
    "label": "Which way",
    "words": [
      {
        "value": "no",
        "words": "the same way"
      },
      {
        "value": "yes",
        "words": "upside down"
      }
    ]
  },
  "follow/instead": {
    "label": "What is there",
    "words": [
      {
        "value": "no",
        "words": "is added to"
      },
      {
        "value": "yes",
        "words": "is replaced"
      }
    ]
  },
  "paste/how": {
    "label": "Where units differ",
    "words": [
      {
        "value": "unit",
        "words": "refuse"
      },
      {
        "value": "range",
        "words": "same position in the range"
      }
    ]
  }
} as const
export type VerbId = (typeof VERBS)[number]['id']
export type Action = keyof typeof ACTIONS
