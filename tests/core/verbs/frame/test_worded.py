"""Cautions: every kind is worded, every wording is used, and the arguments are what was worked out."""

import re
from pathlib import Path
from string import Formatter

import pytest

from tests.core.verbs.test_regions import b
from velmot.core import verbs
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import level
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.verbs import plan
from velmot.core.verbs.frame.worded import PLAIN, WORDS, in_words
from velmot.core.verbs.points.request import MovePoints, SetValues
from velmot.core.verbs.request import Picked
from velmot.core.verbs.shape.request import SameValues
from velmot.core.verbs.thin.request import Thin, Within
from velmot.core.words import Figure, Several, plain_args

LITERAL = re.compile(r'"([a-z-]+(?:/[a-z-]+)?)"')


def test_every_kind_is_used_and_worded():
    folder = Path(verbs.__file__).parents[1]  # the whole core
    sources = [f.read_text() for f in folder.rglob("*.py") if f.name not in ("worded.py", "refusals.py")]
    used = {literal for text in sources for literal in LITERAL.findall(text)}
    assert not set(WORDS) - used
    asked = {
        kind for text in sources for kind in re.findall(r'(?:caution|about_region|_about)\((?:one, )?"([^"]+)"', text)
    }
    assert len(asked) > 50 and asked <= set(WORDS)
    assert {kind.partition("/")[0] for kind in WORDS} >= PLAIN


def test_counts_bring_their_nouns_and_figures_their_texts():
    assert in_words("limited/lane", (("name", "Bell Level"), ("count", 1))) == "Bell Level: 1 span limited"
    assert (
        in_words("stopped/markers", (("count", 2), ("edge", "its end")))
        == "2 markers stop where the session has its end"
    )
    assert in_words("takes", (("what", Several(1200, "lane")), ("points", 1))) == "Takes 1,200 lanes with 1 point"
    args = (("far", Figure(0.25, "0.25 dB")), ("what", Several(3, "place")), ("count", 2), ("name", "x"))
    assert plain_args(args) == {"far": 0.25, "what": 3, "count": 2, "name": "x"}


@pytest.mark.parametrize("kind", WORDS)
def test_no_wording_asks_for_what_nobody_knows(kind):
    fields = {name for _, name, _, _ in Formatter().parse(WORDS[kind]) if name}
    assert all(re.fullmatch(r"[a-z]+", name) for name in fields)
    said = in_words(kind, tuple((name, "§") for name in fields))
    assert said.count("§") == len(re.findall(r"\{", WORDS[kind]))


def lanes(*points):
    track = Track("t", "Bell", parameters=(level("t.level"),))
    return Session("s", b(16), (track,), (Lane("L", "t.level", "track", Envelope.of([*points], level("x").axis)),))


def cautions(session, verb, request):
    return {c.kind: c for c in plan(session, verb, request).cautions}


def test_the_arguments_are_what_was_worked_out():
    session = lanes((b(0), -12.0), (b(4), 0.0), (b(8), 10.0), (b(12), -6.0))
    limited = cautions(session, "set values", SetValues((Picked("L", (1, 2)),), text="+6"))["limited/values"]
    assert plain_args(limited.args) == {"count": 1, "reach": "−∞ dB to 12.0 dB"}
    mean = cautions(lanes((b(0), -12.0), (b(16), 0.0)), "same values", SameValues(("L",), to="mean"))["mean"]
    assert plain_args(mean.args)["mean"] == pytest.approx(-6.0) and mean.lane == "L"
    assert mean.message == "Bell Level: the mean is −6.0 dB"
    stopped = cautions(session, "move points", MovePoints((Picked("L", (1,)),), by=b(6)))["stopped/points"]
    assert plain_args(stopped.args) == {"name": "Bell Level"} and stopped.lane == "L"
    apart = lanes((b(0), 0.0), (b(4), 0.4), (b(8), 0.0))
    thinned = cautions(apart, "thin", Thin(("L",), within=(Within("dB", 0.5),)))["apart"]
    assert plain_args(thinned.args)["before"] == 3 and plain_args(thinned.args)["after"] < 3
    assert plain_args(thinned.args)["far"] <= 0.5 and (thinned.code, thinned.plain) == ("apart", False)
