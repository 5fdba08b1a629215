"""Every option of every request does something: asked otherwise, another thing is planned. What it does is held elsewhere."""

from dataclasses import fields, is_dataclass, replace
from typing import get_args, get_type_hints

import pytest

from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import cut
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.curves.shapes import Shape
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.tidy.request import Found
from velmot.core.time.ticks import TICKS_PER_BEAT, Tick
from velmot.core.verbs import OPERATIONS, plan
from velmot.core.verbs.alternatives.request import KeepAside
from velmot.core.verbs.carry.request import Carry, Match
from velmot.core.verbs.follow.request import Follow, FollowOn
from velmot.core.verbs.paste.request import Clip
from velmot.core.verbs.points.request import Spot
from velmot.core.verbs.request import ClipPoint, GivenPhrase, Picked
from velmot.core.verbs.retarget.request import Target
from velmot.core.verbs.reuse.request import KeepPhrase, Place, PlaceOn, PoolPlace
from velmot.core.verbs.ride.request import Hand, Pass, Ridden
from velmot.core.verbs.shape.request import Ends, Move, Reshape
from velmot.core.verbs.sound.request import GivenSound
from velmot.core.verbs.thin.request import Within
from velmot.site.demo import skerry_light
from velmot.sound.detectors import Detector
from velmot.sound.library import Library

DEMO = skerry_light.session()


def b(beats: float) -> Tick:
    return Tick(round(beats * TICKS_PER_BEAT))


def clip(**other) -> Clip:
    points = other.pop("points", (ClipPoint(b(0), -9.0, 2.0), ClipPoint(b(4), -3.0)))
    form = {
        "family": Family.LEVEL,
        "kind": Kind.CONTINUOUS,
        "unit": "dB",
        "axis": Axis.LEVEL,
        "low": -96.0,
        "high": 12.0,
    }
    return Clip(**({"track": "Bell buoy", "name": "Level"} | form | other), points=points)


def match(**other) -> Match:
    return Match(**({"parameter": "bell.pan", "track": "choir", "onto": "choir.vowel.vowel-filter"} | other))


SPAN = {"start": b(32), "end": b(48)}
CARRY = {"lanes": ("L1",), "targets": ("gulls",)} | SPAN
MATCHED = CARRY | {"lanes": ("L2",), "targets": ("choir",)}
RETARGET = {"lane": "L1", "targets": (Target("engine.rumble.rumble-cutoff"),)} | SPAN
AROUND = RETARGET | {"mapping": "around", "anchor": -20.0, "depth": 0.05}
LANES = {"lanes": ("L1",)}
SOUND = {"tracks": ("bell",), "sound": GivenSound("rain", hz=300.0)}
OWN = {"tracks": ("bell",), "sound": GivenSound("file", name="a.wav", digest="0" * 64)}
MARK = {"at": b(8), "name": "tide"}
MARKS = {"markers": ("mark2",)}
POINTS = {"picked": (Picked("L1", (3, 4)),)}
DRAW = {"parameter": "bell.level", "stroke": tuple(Spot(b(34 + n), -20.0 + n % 3) for n in range(8))}
PASTE = {"clips": (clip(),), "start": b(8), "length": b(4)}
REGION = {"regions": ("foghorn.r2",)}
REPEAT = REGION | {"how": "repeat"}
TO_CHOIR = REGION | {"targets": ("choir",), "at": b(100)}
PLACE = {"track": "bell", "name": "cue", "at": b(8), "length": b(8), "clips": (clip(),)}

FOLD = {"groups": ("swell",), "accept": True} | SPAN
GATHER = {"group": "swell", "member": "bell", "accept": True} | SPAN
JOIN = {"group": "swell", "take_in": ("keeper",), "heard": "changes"}
MAKE = {"name": "wings", "members": ("gulls", "keeper")}
RESHAPE = {"lanes": ("L1",), "moves": (Move("dB", by=-2.0),)} | SPAN
TWICE = Move("dB", times=2.0)
MOVES = {"times": 0.5, "pivot": "mean", "by": 1.0, "shift": Ends(low_end=1.0), "to": Ends(high_end=-9.0)}
ENDS = ("low_start", "low_end", "high_start", "high_end")
RETIME = {"lanes": ("L1",), "factor": 0.5} | SPAN
THIN = {"lanes": ("L1",), "within": (Within("dB", 4.0),)} | SPAN
RIDDEN = Ridden("gulls.level", Hand((b(36), b(40)), ("touch", "release"), (-9.0, -3.0)), "touch")
RIDE = {"passes": (Pass(b(32), b(48), (RIDDEN,)),)}


def ridden(span=(), **other):
    """The demo's gulls ridden otherwise than in RIDE."""
    return {"passes": (replace(RIDE["passes"][0], **dict(span), controls=(replace(RIDDEN, **other),)),)}


WOBBLE = Hand(tuple(b(36 + n / 4) for n in range(9)), ("touch", *["move"] * 8), tuple(-9.0 - n % 2 for n in range(9)))
WOBBLED = ridden(hand=WOBBLE)
WAVE = Shape("saw up", cycles=2.5)
WAVES = {"kind": "sine", "cycles": 3.0, "cycle": b(3), "phase": 0.25, "skew": 0.25, "grow_from": 50.0, "grow_to": 50.0,
         "hurry": 0.5, "lean": 0.5}  # fmt: skip
ON = {"targets": (PlaceOn("gulls.level"),), "shape": Shape("saw up")} | SPAN
BETWEEN = ON | {"deep": "between", "targets": (PlaceOn("gulls.level", low=-20.0, high=-8.0),)}
TWO = ON | {"targets": (PlaceOn("gulls.level"), PlaceOn("rain.level")), "length": b(8)}
KEEP = {"lane": "L1", "name": "swell"} | SPAN
PLACES = {"placements": ("place1",)}
SWELL = {"targets": (PlaceOn("gulls.level"),), "start": b(60), "phrase": "phrase1"}


POOL_PLACE = PoolPlace("L5", b(60), b(68))
POOL = KEEP | {"places": (POOL_PLACE,), "within": (Within("dB", 50.0),)}
MEND = {"found": (Found("dense", "L21"),)}


def given(**other) -> GivenPhrase:
    points = (ClipPoint(b(0), 0.0, 2.0), ClipPoint(b(4), 1.0))
    return GivenPhrase(**({"name": "rise", "length": b(4), "points": points} | other))


def linked() -> Session:
    """The demo with a swell kept from the bell and linked to the gulls, and a saw on the rain."""
    state = plan(DEMO, "keep phrase", KeepPhrase(**KEEP)).applied_to(DEMO)
    state = plan(state, "place", Place((PlaceOn("gulls.level"),), b(80), phrase="phrase1")).applied_to(state)
    return plan(state, "place", Place((PlaceOn("rain.level"),), b(32), b(48), shape=Shape("saw up"))).applied_to(state)


LINKED = linked()
AFTER_CARRY = plan(DEMO, "carry", Carry(**CARRY)).applied_to(DEMO)


def stairs() -> Session:
    """The demo with a pan that goes up and down in steps of 2."""
    free = next(
        p.id for t in DEMO.tracks for p in t.parameters if p.unit == "" and not p.labels and not DEMO.lanes_of(p.id)
    )
    rows = [(b(n), 2.0 * (n if n < 20 else 40 - n), HOLD) for n in range(40)]
    return replace(DEMO, lanes=(*DEMO.lanes, Lane("stairs", free, "track", Envelope.of(rows)))).checked()


STAIRS = stairs()


def louder(session: Session, by: float, *lanes: str) -> Session:
    asked = Reshape(lanes, b(30), b(50), (Move("dB", by=by),))
    return plan(session, "reshape", asked).applied_to(session)


def kept(session: Session) -> Session:
    """A session with a go at two levels kept aside, which are otherwise by now."""
    aside = KeepAside(("bell.level", "keeper.level"), "calm", when="2026-11-30T14:10")
    session = plan(session, "keep aside", aside).applied_to(session)
    return louder(session, 3.0, *(session.lane_at(f"{t}.level").id for t in ("bell", "keeper")))


KEPT = kept(DEMO)
DETECTOR = Detector(Library)
FOLLOW = {"targets": (FollowOn("gulls.pan", -20, 20),), "tracks": ("keeper",)} | SPAN
ROOM = {"targets": (FollowOn("rain.level"),), "tracks": ("keeper",), "does": "makes room"} | SPAN
EVEN = {"targets": (FollowOn("keeper.level"),), "tracks": ("keeper",), "does": "evens out", "threshold": -60.0} | SPAN
LAG = {"targets": (FollowOn("gulls.level"),), "source": "keeper.level", "does": "lags"} | SPAN


def follows(session: Session) -> Session:
    """The demo with two lanes that follow."""
    for asked in (FOLLOW, ROOM):
        session = plan(session, "follow", Follow(**asked, after_level=True), sounding=DETECTOR).applied_to(session)
    return louder(session, 3.0, session.lane_at("keeper.level").id)


FOLLOWS = follows(DEMO)
FOLLOWING = [FOLLOWS.lane_at(p).id for p in ("gulls.pan", "rain.level")]
LOUD, LOUDER = louder(DEMO, 2.0, "L1"), louder(DEMO, 4.0, "L1")
KEPT_VERBS = ("keep aside", "use alternatives", "take range", "rename alternative", "remove alternatives", "bring back")
ASIDE = {"parameters": ("bell.level",), "name": "calm"}
GO = {"alternatives": ("alternative1",)}
CALLED = {"alternative": "alternative1", "name": "calmer"}
BACK = {"revision": 1, "parameters": ("bell.level",)} | SPAN
STEPS = {"lanes": ("stairs",), "within": (Within("", 3.0),)}


def copied() -> dict:
    """The saw on the rain, as it comes from the clipboard."""
    rows = cut(LINKED.lane_at("rain.level").envelope, *SPAN.values()).envelope.points()
    rain = clip(track="Glass rain", points=tuple(ClipPoint(Tick(t), v, k) for t, v, k in rows))
    return {"clips": (rain,), "start": SPAN["start"], "length": b(16), "at": b(80)}


COPIED = copied()

# (verb, option) → the request without it, and what is asked otherwise. Inner options are named after the list they are in.
ASKED: dict[tuple[str, str], tuple[dict, dict]] = {
    ("carry", "lanes"): (CARRY, {"lanes": ("L2",)}),
    ("carry", "targets"): (CARRY, {"targets": ("rain",)}),
    ("carry", "devices"): (CARRY | {"targets": ("rain",)}, {"devices": ("bell.cut",)}),
    ("carry", "matches"): (CARRY | {"lanes": ("L1", "L2")}, {"matches": (Match("bell.level", "gulls", "leave out"),)}),
    ("carry", "start"): (CARRY, {"start": b(36)}),
    ("carry", "end"): (CARRY, {"end": b(44)}),
    ("carry", "at"): (CARRY, {"at": b(60)}),
    ("carry", "how"): (CARRY, {"how": "move"}),
    ("carry", "edges"): (CARRY | {"ramp": b(2)}, {"edges": "ramp"}),
    ("carry", "ramp"): (CARRY | {"ramp": b(2), "edges": "ramp"}, {"ramp": b(3)}),
    ("carry", "times"): (CARRY, {"times": 2}),
    ("carry", "every"): (CARRY | {"times": 2}, {"every": b(20)}),
    ("carry", "missing"): (CARRY | {"lanes": ("L4",)}, {"missing": "add"}),
    ("carry", "match_static"): (CARRY, {"match_static": True}),
    ("carry", "linked"): (CARRY, {"linked": True}),
    ("carry", "set_to_read"): (CARRY | {"targets": ("choir",)}, {"set_to_read": True}),
    ("carry", "matches.parameter"): (MATCHED | {"matches": (match(),)}, {"matches": (match(parameter="bell.level"),)}),
    ("carry", "matches.track"): (MATCHED | {"matches": (match(),)}, {"matches": (match(track="engine"),)}),
    ("carry", "matches.do"): (MATCHED | {"matches": (match(),)}, {"matches": (match(do="leave out"),)}),
    ("carry", "matches.onto"): (MATCHED | {"matches": (match(),)}, {"matches": (match(onto="choir.cut.low-cut"),)}),
    ("carry", "matches.low"): (
        MATCHED | {"matches": (match(low=300.0, high=3000.0),)},
        {"matches": (match(low=400.0, high=3000.0),)},
    ),
    ("carry", "matches.high"): (
        MATCHED | {"matches": (match(low=300.0, high=3000.0),)},
        {"matches": (match(low=300.0, high=2000.0),)},
    ),
    ("retarget", "lane"): (RETARGET, {"lane": "L2"}),
    ("retarget", "targets"): (RETARGET, {"targets": (Target("choir.vowel.vowel-filter"),)}),
    ("retarget", "start"): (RETARGET, {"start": b(36)}),
    ("retarget", "end"): (RETARGET, {"end": b(44)}),
    ("retarget", "at"): (RETARGET, {"at": b(60)}),
    ("retarget", "how"): (RETARGET, {"how": "move"}),
    ("retarget", "mapping"): (RETARGET, {"mapping": "range"}),
    ("retarget", "upside_down"): (RETARGET, {"upside_down": True}),
    ("retarget", "anchor"): (AROUND, {"anchor": -10.0}),
    ("retarget", "to_anchor"): (AROUND, {"to_anchor": 900.0}),
    ("retarget", "depth"): (AROUND, {"depth": 0.1}),
    ("retarget", "hysteresis"): (
        {"lane": "L1", "targets": (Target("weather.dust.step"),)},
        {"hysteresis": 0.6},
    ),
    ("retarget", "edges"): (RETARGET | {"ramp": b(2)}, {"edges": "ramp"}),
    ("retarget", "ramp"): (RETARGET | {"ramp": b(2), "edges": "ramp"}, {"ramp": b(3)}),
    ("retarget", "set_to_read"): (RETARGET | {"targets": (Target("choir.vowel.vowel-filter"),)}, {"set_to_read": True}),
    ("retarget", "targets.parameter"): (RETARGET, {"targets": (Target("choir.vowel.vowel-filter"),)}),
    ("retarget", "targets.low"): (
        RETARGET | {"targets": (Target("engine.rumble.rumble-cutoff", 100.0, 900.0),)},
        {"targets": (Target("engine.rumble.rumble-cutoff", 200.0, 900.0),)},
    ),
    ("retarget", "targets.high"): (
        RETARGET | {"targets": (Target("engine.rumble.rumble-cutoff", 100.0, 900.0),)},
        {"targets": (Target("engine.rumble.rumble-cutoff", 100.0, 800.0),)},
    ),
    ("raise", "lanes"): (LANES | SPAN | {"amount": 2.0}, {"lanes": ("L5",)}),
    ("raise", "start"): (LANES | SPAN | {"amount": 2.0}, {"start": b(36)}),
    ("raise", "end"): (LANES | SPAN | {"amount": 2.0}, {"end": b(44)}),
    ("raise", "amount"): (LANES | SPAN | {"amount": 2.0}, {"amount": 3.0}),
    ("raise", "before"): (LANES | SPAN | {"amount": 2.0}, {"before": b(2)}),
    ("raise", "unit"): (SPAN | {"lanes": ("L1", "L4"), "amount": 2.0}, {"unit": "octaves"}),
    ("raise", "after"): (LANES | SPAN | {"amount": 2.0}, {"after": b(2)}),
    ("reshape", "lanes"): (RESHAPE, {"lanes": ("L5",)}),
    ("reshape", "start"): (RESHAPE, {"start": b(36)}),
    ("reshape", "end"): (RESHAPE, {"end": b(44)}),
    ("reshape", "moves"): (RESHAPE, {"moves": (Move("dB", by=-3.0),)}),
    ("reshape", "moves.unit"): (RESHAPE | {"lanes": ("L1", "L2")}, {"moves": (Move("", by=-2.0),)}),
    **{("reshape", f"moves.{name}"): (RESHAPE | {"moves": (TWICE,)}, {"moves": (replace(TWICE, **{name: other}),)}) for name, other in MOVES.items()},
    **{("reshape", f"moves.shift.{end}"): (RESHAPE, {"moves": (Move("dB", by=-2.0, shift=Ends(**{end: 1.0})),)}) for end in ENDS},
    **{("reshape", f"moves.to.{end}"): (RESHAPE, {"moves": (Move("dB", by=-2.0, to=Ends(**{end: -9.5})),)}) for end in ENDS},
    ("reshape", "moves.about"): (RESHAPE | {"moves": (replace(TWICE, pivot="value"),)}, {"moves": (replace(TWICE, pivot="value", about=-9.0),)}),
    ("reshape", "before"): (RESHAPE, {"before": b(2)}),
    ("reshape", "after"): (RESHAPE, {"after": b(2)}),
    ("reshape", "resting"): ({"lanes": ("L1",), "moves": (Move("dB", by=-2.0),)}, {"resting": False}),
    ("reshape", "tracks"): (RESHAPE, {"tracks": ("gulls",)}),
    ("same values", "lanes"): (LANES | SPAN, {"lanes": ("L5",)}),
    ("same values", "start"): (LANES | SPAN, {"start": b(36)}),
    ("same values", "end"): (LANES | SPAN, {"end": b(44)}),
    ("same values", "picked"): (LANES | SPAN, {"picked": (Picked("L1", (3, 4)),)}),
    ("same values", "to"): (LANES | SPAN, {"to": "step"}),
    ("same values", "text"): (LANES | SPAN | {"to": "value", "text": "-6"}, {"text": "-7"}),
    ("same values", "step"): (LANES | SPAN | {"to": "step"}, {"step": 0.25}),
    ("retime", "lanes"): (RETIME, {"lanes": ("L5",)}),
    ("retime", "start"): (RETIME, {"start": b(36)}),
    ("retime", "end"): (RETIME, {"end": b(44)}),
    ("retime", "way"): (RETIME, {"way": "backwards"}),
    ("retime", "factor"): (RETIME, {"factor": 0.75}),
    ("retime", "length"): (RETIME, {"length": b(20)}),
    ("retime", "following"): (RETIME, {"following": "moves along"}),
    ("retime", "by"): (RETIME | {"way": "shift", "by": b(2)}, {"by": b(1)}),
    ("retime", "milliseconds"): (RETIME | {"way": "shift", "by": b(2)}, {"milliseconds": 300.0}),
    ("fold", "groups"): (FOLD, {"groups": ("bell",)}),
    ("fold", "start"): (FOLD, {"start": b(36)}),
    ("fold", "end"): (FOLD, {"end": b(44)}),
    ("fold", "members"): (FOLD | {"start": None, "end": None}, {"members": ("bell",)}),
    ("fold", "set_to_read"): (FOLD, {"set_to_read": True}),
    ("gather", "set_to_read"): (GATHER, {"set_to_read": True}),
    ("change group", "set_to_read"): (JOIN | {"let_go": ("choir",)}, {"set_to_read": True}),
    ("fold", "within"): (FOLD | {"start": None, "end": None}, {"within": 0.5}),
    ("fold", "accept"): (FOLD | {"accept": False}, {"accept": True}),
    ("gather", "within"): (GATHER | {"start": None, "end": None}, {"within": 0.1}),
    ("change group", "accept"): ({"group": "swell", "let_go": ("choir",)}, {"accept": True}),
    ("dissolve group", "accept"): ({"group": "swell"}, {"accept": True}),
    ("gather", "group"): (GATHER, {"group": "bell"}),
    ("gather", "start"): (GATHER, {"start": b(36)}),
    ("gather", "end"): (GATHER, {"end": b(44)}),
    ("gather", "what"): (GATHER, {"what": "member"}),
    ("gather", "member"): (GATHER | {"what": "member"}, {"member": "foghorn"}),
    ("gather", "members"): (GATHER, {"members": ("bell",)}),
    ("gather", "accept"): (GATHER | {"accept": False}, {"accept": True}),
    ("make group", "name"): (MAKE, {"name": "others"}),
    ("make group", "members"): (MAKE, {"members": ("gulls",)}),
    ("dissolve group", "group"): ({"group": "swell"}, {"group": "bell"}),
    ("dissolve group", "heard"): ({"group": "swell", "set_to_read": True}, {"heard": "changes"}),
    ("dissolve group", "set_to_read"): ({"group": "swell", "heard": "changes"}, {"set_to_read": True}),
    ("change group", "group"): (JOIN, {"group": "bell"}),
    ("change group", "take_in"): (JOIN, {"take_in": ("rain",)}),
    ("change group", "let_go"): (JOIN, {"let_go": ("bell",)}),
    ("change group", "heard"): (JOIN, {"heard": "stays"}),
    ("clear", "scope"): (LANES | SPAN | {"scope": "range"}, {"scope": "lanes"}),
    ("clear", "lanes"): (LANES | SPAN | {"scope": "range"}, {"lanes": ("L2",)}),
    ("clear", "tracks"): ({"scope": "tracks", "tracks": ("bell",)}, {"tracks": ("gulls",)}),
    ("clear", "start"): (LANES | SPAN | {"scope": "range"}, {"start": b(36)}),
    ("clear", "end"): (LANES | SPAN | {"scope": "range"}, {"end": b(44)}),
    ("clear", "way"): (LANES | SPAN | {"scope": "range"}, {"way": "bridge"}),
    ("clear", "static"): (LANES | {"scope": "lanes"}, {"static": "mean"}),
    ("clear", "cursor"): (LANES | {"scope": "lanes", "static": "cursor"}, {"cursor": b(40)}),
    ("add points", "parameter"): ({"parameter": "bell.level", "spots": (Spot(b(33), -9.0),)}, {"parameter": "choir.level"}),
    ("add points", "spots"): ({"parameter": "bell.level", "spots": (Spot(b(33), -9.0),)}, {"spots": (Spot(b(33), -8.0),)}),
    ("add points", "spots.at"): ({"parameter": "bell.level", "spots": (Spot(b(33), -9.0),)}, {"spots": (Spot(b(35), -9.0),)}),
    ("add points", "spots.value"): ({"parameter": "bell.level", "spots": (Spot(b(33), -9.0),)}, {"spots": (Spot(b(33), -7.0),)}),
    ("add points", "home"): ({"parameter": "foghorn.level", "spots": (Spot(b(35), -9.0),)}, {"home": "foghorn.r2"}),
    ("move points", "picked"): (POINTS | {"by": b(0.25)}, {"picked": (Picked("L1", (6,)),)}),
    ("move points", "by"): (POINTS | {"by": b(0.25)}, {"by": b(0.5)}),
    ("move points", "rise"): (POINTS | {"by": b(0.25)}, {"rise": 2.0}),
    ("move points", "picked.lane"): (POINTS | {"rise": 2.0}, {"picked": (Picked("L5", (3, 4)),)}),
    ("move points", "picked.points"): (POINTS | {"rise": 2.0}, {"picked": (Picked("L1", (3,)),)}),
    ("set values", "picked"): (POINTS | {"text": "-9"}, {"picked": (Picked("L1", (6,)),)}),
    ("set values", "text"): (POINTS | {"text": "-9"}, {"text": "=-9"}),
    ("remove points", "picked"): (POINTS, {"picked": (Picked("L1", (6,)),)}),
    ("shape segments", "picked"): (POINTS | {"bend": 2.0}, {"picked": (Picked("L1", (6,)),)}),
    ("shape segments", "bend"): (POINTS | {"bend": 2.0}, {"bend": None}),
    ("draw", "parameter"): (DRAW, {"parameter": "choir.level"}),
    ("draw", "stroke"): (DRAW, {"stroke": DRAW["stroke"][:4]}),
    ("draw", "tolerance"): (DRAW, {"tolerance": 5.0}),
    ("draw", "home"): (DRAW | {"parameter": "foghorn.level"}, {"home": "foghorn.r2"}),
    ("paste", "clips"): (PASTE, {"clips": (clip(track="Gulls"),)}),
    ("paste", "start"): (PASTE, {"start": b(9)}),
    ("paste", "length"): (PASTE, {"length": b(3)}),
    ("paste", "at"): (PASTE, {"at": b(20)}),
    ("paste", "onto"): (PASTE, {"onto": "gulls.level"}),
    ("paste", "how"): (PASTE | {"onto": "bell.cut.low-cut"}, {"how": "range"}),
    ("paste", "linked"): (COPIED, {"linked": True}),
    ("paste", "clips.track"): (PASTE, {"clips": (clip(track="Gulls"),)}),
    ("paste", "clips.name"): (PASTE, {"clips": (clip(name="Send"),)}),
    ("paste", "clips.family"): (PASTE, {"clips": (clip(family=Family.SEND),)}),
    ("paste", "clips.kind"): (PASTE | {"onto": "bell.level"}, {"clips": (clip(kind=Kind.SWITCH),)}),
    ("paste", "clips.unit"): (PASTE, {"clips": (clip(unit="%"),)}),
    ("paste", "clips.axis"): (PASTE, {"clips": (clip(axis=Axis.LINEAR),)}),
    ("paste", "clips.low"): (PASTE | {"onto": "bell.pan", "how": "range"}, {"clips": (clip(low=-48.0),)}),
    ("paste", "clips.high"): (PASTE | {"onto": "bell.pan", "how": "range"}, {"clips": (clip(high=0.0),)}),
    ("paste", "clips.points"): (PASTE, {"clips": (clip(points=(ClipPoint(b(0), -9.0),)),)}),
    ("embed", "regions"): ({"regions": ("bell.r2",)}, {"regions": ("bell.r3",)}),
    ("embed", "parameters"): ({"regions": ("bell.r2",)}, {"parameters": ("bell.pan",)}),
    ("lift", "regions"): (REGION, {"regions": ("foghorn.r3",)}),
    ("lift", "parameters"): (REGION, {"parameters": ("foghorn.pan",)}),
    ("carry regions", "regions"): (REGION | {"at": b(100)}, {"regions": ("foghorn.r3",)}),
    ("carry regions", "how"): (REGION | {"at": b(100)}, {"how": "copy"}),
    ("carry regions", "at"): (REGION | {"at": b(100)}, {"at": b(101)}),
    ("carry regions", "targets"): (REGION | {"at": b(100)}, {"targets": ("gulls",)}),
    ("carry regions", "times"): (REPEAT, {"times": 2}),
    ("carry regions", "until"): (REPEAT, {"until": b(60)}),
    ("carry regions", "every"): (REPEAT, {"every": b(12)}),
    ("carry regions", "automation"): (REGION | {"at": b(100)}, {"automation": "alone"}),
    ("carry regions", "under"): (REGION | {"at": b(100)}, {"under": "goes along"}),
    ("carry regions", "missing"): (
        {"regions": ("foghorn.r2",), "targets": ("swell",), "at": b(100), "under": "goes along"},
        {"missing": "add"},
    ),
    ("carry regions", "set_to_read"): (TO_CHOIR, {"set_to_read": True}),
    ("cut regions", "regions"): ({"regions": ("bell.r2",), "at": b(40)}, {"regions": ("engine.r1",)}),
    ("cut regions", "at"): ({"regions": ("bell.r2",), "at": b(40)}, {"at": b(41)}),
    ("join regions", "regions"): ({"regions": ("bell.r1", "bell.r2")}, {"regions": ("bell.r1",)}),
    ("change regions", "regions"): ({"regions": ("bell.r2",), "name": "cue"}, {"regions": ("bell.r3",)}),
    ("change regions", "name"): ({"regions": ("bell.r2",), "name": "cue"}, {"name": "sign"}),
    ("change regions", "muted"): ({"regions": ("bell.r2",), "name": "cue"}, {"muted": True}),
    ("remove regions", "regions"): (REGION | {"automation": "goes"}, {"regions": ("foghorn.r3",)}),
    ("remove regions", "automation"): (REGION | {"automation": "goes"}, {"automation": "stays"}),
    ("make region", "track"): ({"track": "bell", "name": "cue"} | SPAN, {"track": "gulls"}),
    ("make region", "name"): ({"track": "bell", "name": "cue"} | SPAN, {"name": "sign"}),
    ("make region", "start"): ({"track": "bell", "name": "cue"} | SPAN, {"start": b(36)}),
    ("make region", "end"): ({"track": "bell", "name": "cue"} | SPAN, {"end": b(44)}),
    ("make region", "container"): ({"track": "bell", "name": "cue"} | SPAN, {"container": False}),
    ("make region", "parameters"): ({"track": "bell", "name": "cue"} | SPAN, {"parameters": ("bell.level",)}),
    ("add marker", "at"): (MARK, {"at": b(9)}),
    ("add marker", "name"): (MARK, {"name": "ebb"}),
    ("add marker", "cue"): (MARK, {"cue": True}),
    ("change markers", "markers"): (MARKS | {"by": b(4)}, {"markers": ("mark3",)}),
    ("change markers", "by"): (MARKS | {"by": b(4)}, {"by": b(-4)}),
    ("change markers", "at"): (MARKS, {"at": b(40)}),
    ("change markers", "name"): (MARKS, {"name": "ebb"}),
    ("change markers", "cue"): (MARKS, {"cue": False}),
    ("remove markers", "markers"): (MARKS, {"markers": ("mark3",)}),
    ("place container", "track"): (PLACE, {"track": "gulls"}),
    ("place container", "name"): (PLACE, {"name": "sign"}),
    ("place container", "at"): (PLACE, {"at": b(9)}),
    ("place container", "length"): (PLACE, {"length": b(6)}),
    ("place container", "muted"): (PLACE, {"muted": True}),
    ("place container", "clips"): (PLACE, {"clips": ()}),
    ("fill gap", "parameter"): ({"parameter": "foghorn.level", "start": b(30), "end": b(33), "how": "join"}, {"parameter": "bell.level"}),
    ("fill gap", "start"): ({"parameter": "foghorn.level", "start": b(30), "end": b(33), "how": "join"}, {"start": b(31)}),
    ("fill gap", "end"): ({"parameter": "foghorn.level", "start": b(30), "end": b(33), "how": "join"}, {"end": b(32)}),
    ("fill gap", "how"): ({"parameter": "foghorn.level", "start": b(30), "end": b(33), "how": "join"}, {"how": "hold"}),
    ("ride", "passes"): (RIDE, {"passes": RIDE["passes"] * 2} | ridden(mode="latch")),
    ("ride", "passes.start"): (ridden(spread="to the start"), ridden({"start": b(34)}, spread="to the start")),
    ("ride", "passes.end"): (ridden(spread="to the end"), ridden({"end": b(44)}, spread="to the end")),
    ("ride", "passes.controls"): (RIDE, ridden(parameter="gulls.pan")),
    ("ride", "passes.controls.parameter"): (RIDE, ridden(parameter="rain.level")),
    ("ride", "passes.controls.hand.at"): (RIDE, ridden(hand=replace(RIDDEN.hand, at=(b(36), b(41))))),
    ("ride", "passes.controls.hand.does"): (RIDE, ridden(hand=replace(RIDDEN.hand, does=("touch", "move")))),
    ("ride", "passes.controls.hand.value"): (RIDE, ridden(hand=replace(RIDDEN.hand, value=(-9.0, -4.0)))),
    ("ride", "passes.controls.mode"): (RIDE, ridden(mode="write")),
    ("ride", "passes.controls.trim"): (RIDE, ridden(trim=True)),
    ("ride", "passes.controls.shows"): (ridden(parameter="bell.level"), ridden(parameter="bell.level", shows="heard")),
    ("ride", "passes.controls.spread"): (RIDE, ridden(spread="everywhere")),
    ("ride", "passes.controls.first_from"): (RIDE, ridden(first_from="the pass's start")),
    ("ride", "return_over"): (RIDE, {"return_over": b(2)}),
    ("ride", "within"): (WOBBLED, {"within": (Within("dB", 9.0),)}),
    ("ride", "within.unit"): (WOBBLED | {"within": (Within("dB", 9.0),)}, {"within": (Within("%", 9.0),)}),
    ("ride", "within.amount"): (WOBBLED | {"within": (Within("dB", 9.0),)}, {"within": (Within("dB", 0.0),)}),
    ("ride", "lands"): (ridden(parameter="foghorn.level"), {"lands": "on the track"}),
    ("ride", "set_to_read"): (ridden(parameter="choir.level"), {"set_to_read": True}),
    ("thin", "lanes"): (THIN, {"lanes": ("L6",)}),
    ("thin", "start"): (THIN, {"start": b(36)}),
    ("thin", "end"): (THIN, {"end": b(44)}),
    ("thin", "way"): (THIN, {"way": "without loss"}),
    ("thin", "within"): (THIN, {"within": (Within("dB", 9.0),)}),
    ("thin", "within.unit"): (THIN | {"within": (Within("dB", 9.0),)}, {"within": (Within("%", 9.0),)}),
    ("thin", "within.amount"): (THIN | {"within": (Within("dB", 9.0),)}, {"within": (Within("dB", 0.01),)}),
    ("thin", "region_edges"): (THIN | {"start": None, "end": None}, {"region_edges": True}),
    ("thin", "holds"): (STEPS, {"holds": "steps"}),
    ("thin", "step"): (STEPS | {"way": "steps to slopes"}, {"step": 9.0}),
    ("thin", "protected"): (THIN, {"protected": (Picked("L1", (5,)),)}),
    ("set mode", "tracks"): ({"tracks": ("choir",), "mode": "off"}, {"tracks": ("bell",)}),
    ("set mode", "mode"): ({"tracks": ("choir",), "mode": "off"}, {"mode": "touch"}),
    ("set switch", "parameters"): ({"parameters": ("choir.vowel.on",), "start": b(36), "end": b(40), "on": False}, {"parameters": ("gulls.mute",), "on": True}),
    ("set switch", "on"): ({"parameters": ("choir.vowel.on",), "start": b(36), "end": b(40), "on": False}, {"on": True}),
    ("set switch", "start"): ({"parameters": ("choir.vowel.on",), "start": b(36), "end": b(40), "on": False}, {"start": b(37)}),
    ("set switch", "end"): ({"parameters": ("choir.vowel.on",), "start": b(36), "end": b(40), "on": False}, {"end": b(41)}),
    ("set sound", "tracks"): (SOUND, {"tracks": ("rain",)}),
    ("set sound", "regions"): (SOUND, {"regions": ("foghorn.r1",)}),
    ("set sound", "sound"): (SOUND, {"sound": None}),
    ("set sound", "at"): (OWN, {"at": b(9)}),
    **{("set sound", f"sound.{name}"): (SOUND, {"sound": replace(SOUND["sound"], **{name: other})})
       for name, other in (("kind", "horn"), ("hz", 99.0), ("amplitude", 0.1), ("density", 0.1), ("brightness", 0.1), ("seed", 8))},
    **{("set sound", f"sound.{name}"): (OWN, {"sound": replace(OWN["sound"], **{name: other})})
       for name, other in (("name", "b.wav"), ("digest", "1" * 64), ("offset", 2.5))},
    ("set precedence", "wins"): ({"wins": "track"}, {"wins": "region"}),
    ("place", "targets"): (ON, {"targets": (PlaceOn("gulls.pan"),)}),
    ("place", "targets.parameter"): (ON, {"targets": (PlaceOn("gulls.pan"),)}),
    ("place", "targets.home"): (ON | {"targets": (PlaceOn("foghorn.level"),), "start": b(36), "length": b(2)}, {"targets": (PlaceOn("foghorn.level", "foghorn.r2"),)}),
    ("place", "targets.low"): (BETWEEN, {"targets": (PlaceOn("gulls.level", low=-30.0, high=-8.0),)}),
    ("place", "targets.high"): (BETWEEN, {"targets": (PlaceOn("gulls.level", low=-20.0, high=-10.0),)}),
    ("place", "start"): (ON, {"start": b(36)}),
    ("place", "end"): (ON | {"times": None, "length": b(4)}, {"end": b(44)}),
    ("place", "phrase"): (SWELL, {"phrase": "phrase2"}),
    ("place", "given"): (ON | {"shape": None, "given": given()}, {"given": given(name="other")}),
    ("place", "given.name"): (ON | {"shape": None, "given": given()}, {"given": given(name="other")}),
    ("place", "given.length"): (ON | {"shape": None, "given": given()}, {"given": given(length=b(3))}),
    ("place", "given.points"): (ON | {"shape": None, "given": given()}, {"given": given(points=(ClipPoint(b(0), 1.0), ClipPoint(b(4), 0.0)))}),
    ("place", "given.shape"): (ON | {"shape": None, "given": given()}, {"given": given(shape=Shape("s"))}),
    ("place", "given.unit"): (ON | {"shape": None, "given": given(), "deep": "unit", "targets": (PlaceOn("gulls.pan"),)}, {"given": given(unit="Hz")}),
    ("place", "given.axis"): (ON | {"shape": None, "given": given(low=0.1)}, {"given": given(low=0.1, axis=Axis.LOG, points=(ClipPoint(b(0), 0.5), ClipPoint(b(4), 1.0)))}),
    ("place", "given.low"): (ON | {"shape": None, "given": given()}, {"given": given(low=-1.0)}),
    ("place", "given.high"): (ON | {"shape": None, "given": given()}, {"given": given(high=2.0)}),
    ("place", "shape"): (ON, {"shape": Shape("sine")}),
    **{("place", f"shape.{name}"): (ON | {"shape": WAVE}, {"shape": replace(WAVE, **{name: other})}) for name, other in WAVES.items()},
    ("place", "shape.seed"): (ON | {"shape": Shape("glides of chance", 4)}, {"shape": Shape("glides of chance", 4, seed=9)}),
    ("place", "shape.edition"): (ON | {"shape": Shape("sine", 4, grow_to=20.0)}, {"shape": Shape("sine", 4, grow_to=20.0, edition=1)}),
    ("place", "name"): (ON, {"name": "ripple"}),
    ("place", "length"): (ON, {"length": b(8)}),
    ("place", "times"): (ON | {"length": b(4)}, {"times": 2}),
    ("place", "deep"): (ON, {"deep": "static"}),
    ("place", "depth"): (ON, {"depth": 50.0}),
    ("place", "to_each_side"): (ON, {"to_each_side": 3.0}),
    ("place", "upside_down"): (ON, {"upside_down": True}),
    ("place", "backwards"): (ON, {"backwards": True}),
    ("place", "stagger"): (TWO, {"stagger": b(1)}),
    ("place", "wrap"): (TWO | {"stagger": b(10)}, {"wrap": True}),
    ("place", "edges"): (ON | {"linked": False, "ramp": b(2)}, {"edges": "ramp"}),
    ("place", "ramp"): (ON | {"linked": False, "ramp": b(2), "edges": "ramp"}, {"ramp": b(3)}),
    ("place", "linked"): (ON, {"linked": False}),
    ("place", "set_to_read"): (ON | {"targets": (PlaceOn("choir.level"),)}, {"set_to_read": True}),
    ("keep phrase", "lane"): (KEEP, {"lane": "L5"}),
    ("keep phrase", "start"): (KEEP, {"start": b(36)}),
    ("keep phrase", "end"): (KEEP, {"end": b(44)}),
    ("keep phrase", "name"): (KEEP, {"name": "tide"}),
    ("keep phrase", "place"): (KEEP, {"place": False}),
    ("change places", "placements"): (PLACES | {"move": b(1)}, {"placements": ("place2",)}),
    ("change places", "move"): (PLACES, {"move": b(1)}),
    ("change places", "length"): (PLACES, {"length": b(8)}),
    ("change places", "low"): (PLACES, {"low": -60.0}),
    ("change places", "high"): (PLACES, {"high": 0.0}),
    ("change places", "depth"): (PLACES, {"depth": 50.0}),
    ("change places", "to_each_side"): (PLACES, {"to_each_side": 3.0}),
    ("change places", "upside_down"): (PLACES, {"upside_down": True}),
    ("change places", "backwards"): (PLACES, {"backwards": True}),
    ("change places", "turn"): (PLACES, {"turn": b(2)}),
    ("change places", "phrase"): (PLACES, {"phrase": "phrase2"}),
    ("set free", "placements"): (PLACES, {"placements": ("place2",)}),
    ("set free", "all"): (PLACES, {"all": True}),
    ("change phrase", "phrase"): ({"phrase": "phrase1", "name": "tide"}, {"phrase": "phrase2"}),
    ("change phrase", "name"): ({"phrase": "phrase1", "name": "tide"}, {"name": "wave"}),
    ("change phrase", "points"): ({"phrase": "phrase1"}, {"points": (ClipPoint(b(0), -9.0, 2.0), ClipPoint(b(16), -3.0))}),
    ("change phrase", "shape"): ({"phrase": "phrase2"}, {"shape": Shape("square")}),
    ("change phrase", "length"): ({"phrase": "phrase2", "shape": Shape(cycle=b(3))}, {"length": b(8)}),
    ("change phrase", "delete"): ({"phrase": "phrase1"}, {"delete": True}),
    ("pool", "lane"): (POOL, {"lane": "L2"}),
    ("pool", "start"): (POOL | {"places": ()}, {"start": b(34)}),
    ("pool", "end"): (POOL | {"places": ()}, {"end": b(46)}),
    ("pool", "name"): (POOL, {"name": "tide"}),
    ("pool", "places"): (POOL, {"places": ()}),
    ("pool", "places.lane"): (POOL, {"places": (PoolPlace("L6", b(60), b(68)),)}),
    ("pool", "places.start"): (POOL, {"places": (replace(POOL_PLACE, start=b(61)),)}),
    ("pool", "places.end"): (POOL, {"places": (replace(POOL_PLACE, end=b(67)),)}),
    ("pool", "within"): (POOL, {"within": (Within("dB", 0.5),)}),
    ("pool", "within.unit"): (POOL, {"within": (Within("Hz", 50.0),)}),
    ("pool", "within.amount"): (POOL, {"within": (Within("dB", 0.5),)}),
    ("mend", "found"): (MEND, {"found": (Found("late", "L28"),)}),
    ("mend", "found.kind"): (MEND, {"found": (Found("flat", "L21"),)}),
    ("mend", "found.of"): (MEND, {"found": (Found("dense", "L1"),)}),
    ("mend", "found.at"): (MEND, {"found": (Found("dense", "L21", b(1)),)}),
    ("let be", "found"): (MEND, {"found": (Found("late", "L28"),)}),
    ("let be", "kinds"): (MEND, {"kinds": ("dense",)}),
    ("let be", "again"): (MEND, {"again": True}),
    ("note", "about"): ({"about": "lane", "of": "L1", "text": "x"}, {"about": "track"}),
    ("note", "of"): ({"about": "lane", "of": "L1", "text": "x"}, {"of": "L2"}),
    ("note", "text"): ({"about": "lane", "of": "L1", "text": "x"}, {"text": "y"}),
    ("follow", "does"): (FOLLOW, {"does": "opens"}),
    ("follow", "targets"): (FOLLOW, {"targets": (FollowOn("gulls.level"),)}),
    ("follow", "targets.parameter"): (FOLLOW, {"targets": (FollowOn("gulls.level", -20, 20),)}),
    ("follow", "targets.low"): (FOLLOW, {"targets": (FollowOn("gulls.pan", -30, 20),)}),
    ("follow", "targets.high"): (FOLLOW, {"targets": (FollowOn("gulls.pan", -20, 30),)}),
    ("follow", "targets.home"): (FOLLOW, {"targets": (FollowOn("gulls.pan", -20, 20, "gulls.r1"),)}),
    ("follow", "tracks"): (FOLLOW, {"tracks": ("bell",)}),
    ("follow", "source"): (FOLLOW | {"tracks": ()}, {"source": "keeper.level"}),
    ("follow", "start"): (FOLLOW, {"start": b(33)}),
    ("follow", "end"): (FOLLOW, {"end": b(47)}),
    ("follow", "after_level"): (FOLLOW, {"after_level": True}),
    ("follow", "measure"): (FOLLOW, {"measure": "peak"}),
    ("follow", "window"): (FOLLOW, {"window": 400.0}),
    ("follow", "low"): (FOLLOW, {"low": -60.0}),
    ("follow", "high"): (FOLLOW, {"high": -12.0}),
    ("follow", "upside_down"): (FOLLOW, {"upside_down": True}),
    ("follow", "attack"): (FOLLOW, {"attack": 200.0}),
    ("follow", "release"): (FOLLOW, {"release": 600.0}),
    ("follow", "hold"): (FOLLOW, {"hold": 300.0}),
    ("follow", "lookahead"): (FOLLOW, {"lookahead": 200.0}),
    ("follow", "within"): (FOLLOW, {"within": (Within("", 10.0),)}),
    ("follow", "set_to_read"): (FOLLOW | {"targets": (FollowOn("choir.level", -40, -10),)}, {"set_to_read": True}),
    ("follow", "threshold"): (ROOM, {"threshold": -20.0}),
    ("follow", "depth"): (ROOM, {"depth": 9.0}),
    ("follow", "ratio"): (ROOM, {"ratio": 2.0}),
    ("follow", "knee"): (ROOM | {"ratio": 2.0}, {"knee": 12.0}),
    ("follow", "instead"): (ROOM, {"instead": True}),
    ("follow", "hysteresis"): (ROOM | {"does": "opens"}, {"hysteresis": 15.0}),
    ("follow", "least"): (ROOM | {"does": "opens"}, {"least": 700.0}),
    ("follow", "to"): (EVEN, {"to": -30.0}),
    ("follow", "band"): (EVEN, {"band": 4.0}),
    ("follow", "most"): (EVEN, {"most": 2.0}),
    ("follow", "delay"): (LAG, {"delay": b(1)}),
    ("follow", "smooth"): (LAG, {"smooth": 300.0}),
    ("follow", "grid"): (LAG, {"grid": b(2)}),
    ("follow", "slope"): (LAG, {"slope": 4.0}),
    ("make anew", "lanes"): ({"lanes": (FOLLOWING[0],)}, {"lanes": (FOLLOWING[1],)}),
    ("carry", "alternative"): (CARRY, {"alternative": "alternative1"}),
    ("keep phrase", "alternative"): (KEEP, {"alternative": "alternative1"}),
    ("keep aside", "parameters"): (ASIDE, {"parameters": ("keeper.level",)}),
    ("keep aside", "name"): (ASIDE, {"name": "loud"}),
    ("keep aside", "start"): (ASIDE | SPAN, {"start": b(33)}),
    ("keep aside", "end"): (ASIDE | SPAN, {"end": b(47)}),
    ("keep aside", "when"): (ASIDE, {"when": "2026-12-01T10:31"}),
    ("use alternatives", "alternatives"): (GO, {"alternatives": ("alternative2",)}),
    ("use alternatives", "aside"): (GO, {"aside": False}),
    ("use alternatives", "when"): (GO, {"when": "2026-12-01T10:31"}),
    ("take range", "alternatives"): (GO | SPAN, {"alternatives": ("alternative2",)}),
    ("take range", "start"): (GO | SPAN, {"start": b(33)}),
    ("take range", "end"): (GO | SPAN, {"end": b(47)}),
    ("take range", "edges"): (GO | SPAN | {"ramp": b(1)}, {"edges": "ramp"}),
    ("take range", "ramp"): (GO | SPAN | {"ramp": b(1), "edges": "ramp"}, {"ramp": b(2)}),
    ("rename alternative", "alternative"): (CALLED, {"alternative": "alternative2"}),
    ("rename alternative", "name"): (CALLED, {"name": "calmest"}),
    ("remove alternatives", "alternatives"): (GO, {"alternatives": ("alternative2",)}),
    ("bring back", "parameters"): (BACK, {"parameters": ("keeper.level",)}),
    ("bring back", "revision"): (BACK, {"revision": 2}),
    ("bring back", "tracks"): (BACK, {"tracks": ("keeper",)}),
    ("bring back", "start"): (BACK, {"start": b(33)}),
    ("bring back", "end"): (BACK, {"end": b(47)}),
    ("bring back", "edges"): (BACK | {"ramp": b(1)}, {"edges": "ramp"}),
    ("bring back", "ramp"): (BACK | {"ramp": b(1), "edges": "ramp"}, {"ramp": b(2)}),
    ("clean up", "within"): ({}, {"within": (Within("dB", 1.0),)}),
}  # fmt: skip


def state_for(verb) -> Session:
    """The demo; with phrases in it for the verbs that ask for them."""
    if verb == "thin":
        return STAIRS
    if verb == "make anew":
        return FOLLOWS
    if verb in KEPT_VERBS or verb in ("carry", "keep phrase"):
        return KEPT
    return LINKED if verb in ("place", "change places", "set free", "change phrase", "paste") else DEMO


def outcome(verb, asked):
    """What a request leads to, its title aside: that only repeats what was asked."""
    try:
        change = plan(
            state_for(verb),
            verb,
            OPERATIONS[verb].request(**asked),
            past=[DEMO, LOUD, LOUDER].__getitem__,
            sounding=DETECTOR,
        )
    except RequestError as refused:
        return refused.code, refused.message
    lanes = [(s.id, s.after and (s.after.home, s.after.envelope.points())) for s in change.lanes]
    cautions = [(c.code, c.message, c.track, c.lane, c.start, c.end) for c in change.cautions]
    links = [
        (s.before, s.after)
        for s in (
            *(*change.placements, *change.phrases, *change.markers, *change.let_be, *change.notes),
            *change.alternatives,
        )
    ]
    shown = [
        (a and replace(a, curve=None), b and replace(b, curve=None)) if hasattr(a or b, "curve") else (a, b)
        for a, b in links
    ]
    return lanes, [(s.before, s.after) for s in change.tracks], cautions, change.precedence, shown


@pytest.mark.parametrize(("verb", "option"), ASKED)
def test_asked_otherwise_another_thing_is_planned(verb, option):
    base, otherwise = ASKED[verb, option]
    assert option.partition(".")[0] in otherwise
    assert outcome(verb, base | otherwise) != outcome(verb, base)


def test_no_option_is_forgotten():
    wanted, inner = set(), set()
    for verb, operation in OPERATIONS.items():
        hints = get_type_hints(operation.request)
        for f in fields(operation.request):
            wanted.add((verb, f.name))
            kinds = [x for x in get_args(hints[f.name]) if is_dataclass(x)]
            if verb == "change phrase":
                continue  # its points and recipes are those of a paste and of place
            if kinds and kinds[0] not in inner and verb != "place container":  # its clips are those of paste
                inner.add(kinds[0])
                wanted |= {(verb, f"{f.name}.{x.name}") for x in fields(kinds[0])}
    missing = wanted - set(ASKED)
    assert missing <= {("paste", "clips.points.at")}, missing
