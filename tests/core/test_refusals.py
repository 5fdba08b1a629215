"""Every refusal is worded in the registry: whoever refuses gives its kind what the wording says, and no wording is idle."""

import ast
from pathlib import Path
from string import Formatter

import numpy as np
import pytest

import velmot
from velmot.core.errors import RequestError
from velmot.core.refusals import WORDS
from velmot.core.words import Figure, plain_args, written

FIXED = {"place", "accepted", "remedy"}


def sources() -> list[Path]:
    return sorted(Path(velmot.__file__).parent.rglob("*.py"))


def refusals():
    """(where, kind, names of its arguments, whether more are given in a mapping) of every refusal in the sources.

    A part of a kind that is only known when it is refused is a star.
    """
    for path in sources():
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and node.args and _refuses(node.func, path):
                names = {word.arg for word in node.keywords} - FIXED
                for kind in _kinds(node.args[0]):
                    yield f"{path.name}:{node.lineno}", kind, names - {None}, None in names


def _refuses(called: ast.expr, path: Path) -> bool:
    named = ast.unparse(called)
    return named == "RequestError" or (named == "super().__init__" and "(RequestError)" in path.read_text())


def _kinds(kind: ast.expr) -> list[str]:
    if isinstance(kind, ast.IfExp):
        return _kinds(kind.body) + _kinds(kind.orelse)
    if isinstance(kind, ast.JoinedStr):
        return ["".join(part.value if isinstance(part, ast.Constant) else "*" for part in kind.values)]
    return [kind.value] if isinstance(kind, ast.Constant) else ["*"]


def fields(words: str) -> set[str]:
    return {name for _, name, _, _ in Formatter().parse(words) if name}


def fitting(kind: str) -> list[str]:
    if kind == "*":
        return []
    first, star, last = kind.partition("*")
    return [known for known in WORDS if known == kind or (star and known.startswith(first) and known.endswith(last))]


def test_every_refusal_gives_its_wording_what_it_says():
    for where, kind, names, more in refusals():
        assert kind == "*" or fitting(kind), f"{where}: {kind} has no words"
        for known in fitting(kind):
            said = fields(WORDS[known])
            assert names == said or (more and names <= said) or "*" in kind, (
                f"{where}: {known} says {said}, not {names}"
            )


def test_no_wording_is_idle():
    trees = [ast.parse(path.read_text()) for path in sources() if path.name != "refusals.py"]
    said = {node.value for tree in trees for node in ast.walk(tree) if isinstance(node, ast.Constant)}
    made = {known for _, kind, _, _ in refusals() if "*" in kind for known in fitting(kind)}
    assert set(WORDS) <= said | made


def test_counts_bring_their_noun_and_numbers_their_format():
    said = written(
        "{n:group} of {of:}, {step:g}, {far:,.0f}, {many:,}",
        tuple(zip(("n", "of", "step", "far", "many"), (2, 1200, 0.5, 12345.6, 1000), strict=True)),
    )
    assert said == "2 groups of 1,200, 0.5, 12,346, 1,000"


def test_machines_are_told_numbers_that_json_has():
    said = plain_args(
        (
            ("n", np.int64(3)),
            ("far", np.float64(0.5)),
            ("odd", float("nan")),
            ("name", "a"),
            ("huge", 10**400),
            ("much", Figure(2.0, "2 dB")),
        )
    )
    assert (
        said == {"n": 3, "far": 0.5, "odd": "nan", "name": "a", "huge": str(10**400), "much": 2.0}
        and type(said["n"]) is int
    )


def test_a_refusal_keeps_what_it_is_made_of():
    refused = RequestError("switch-not", name="Mute", place="parameters")
    elsewhere = refused.said_at("switches", "a mute")
    assert (elsewhere.message, elsewhere.code, elsewhere.place) == ("Mute is no switch", "switch-not", "switches")
    assert elsewhere.said == (("name", "Mute"),) and elsewhere.accepted == "a mute"
    counted = RequestError("named/several", count=1200, noun="track", name="Horn", place="--tracks")
    assert (counted.message, counted.code) == ("1,200 tracks are called “Horn”", "named")
    with pytest.raises(KeyError):
        RequestError("nothing-known", place="nowhere")
