"""What requests say of their fields: how each is filled in, and a number's reach, which is what the plan accepts."""

import pytest

from tests.core.verbs.test_every_option import ASKED, DEMO, DETECTOR
from velmot.core.errors import RequestError
from velmot.core.verbs import OPERATIONS, plan
from velmot.core.verbs.fields import Field, fields_of

FIELDS = {(o.verb, f.name): f for o in OPERATIONS.values() for f in fields_of(o.request)}
REACHING = [key for key, field in FIELDS.items() if field.reach != (None, None)]


def refused(verb: str, name: str, number: float) -> str:
    """What is said of a request with a number in a field; nothing where it is planned or refused for another one."""
    asked, otherwise = ASKED[verb, name]
    request = OPERATIONS[verb].request(**(asked | otherwise | {name: number}))
    try:
        plan(DEMO, verb, request, sounding=DETECTOR)
    except RequestError as error:
        return error.message if name in (error.place or "") else ""
    return ""


@pytest.mark.parametrize(("verb", "name"), REACHING)
def test_what_a_sheet_lets_through_is_what_the_plan_accepts(verb, name):
    least, most = FIELDS[verb, name].reach
    step = 1 if FIELDS[verb, name].kind == "count" else 0.01
    if least is not None:
        assert refused(verb, name, least - step), f"{least - step} is planned"
        assert not refused(verb, name, least if step == 1 else least + step)
    if most is not None:
        assert refused(verb, name, most + step), f"{most + step} is planned"
        assert not refused(verb, name, most)


def test_times_are_filled_in_by_what_they_are():
    kinds = {key: FIELDS[key].kind for key in [("carry", "at"), ("carry", "every"), ("carry", "start"), ("carry regions", "until"),
             ("retime", "by"), ("retime", "length"), ("change places", "move"), ("follow", "delay")]}  # fmt: skip
    assert list(kinds.values()) == ["position", "length", "range", "position", "shift", "length", "shift", "shift"]


def test_a_field_says_what_stands_on_its_line():
    said = Field(
        "hysteresis", "amount", "For named values: how far past the middle a step takes, in steps.",
        default=0.0, label="Hysteresis", unit="steps", reach=(0, 0.99),
    )  # fmt: skip
    assert FIELDS["retarget", "hysteresis"] == said
    assert FIELDS["retarget", "upside_down"].words == (("yes", "upside down"),)
