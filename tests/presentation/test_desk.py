"""The desk: controls in steps, what drives them, and scripted hands."""

from pytest import approx

from velmot.formats.ride_file import HandShape, RideShape
from velmot.presentation import desk
from velmot.presentation.curves import View
from velmot.presentation.desk import desk_out, ride_out


def test_a_control_says_its_own_values_and_what_groups_add(small):
    said = desk_out(small, ["bell.level", "bell.level", "bell.pan"], View(start=0, end=8, columns=4))
    assert said.step == 2 and [c.parameter for c in said.controls] == ["bell.level", "bell.pan"]
    level, pan = said.controls
    assert level.own == approx([-12, -10.5, -9, -7.5, -6]) and level.adds == approx([-4] * 5)
    assert (level.groups, level.mode, pan.adds, pan.groups) == ("Swell", "read", [], "")
    assert pan.own == approx([25] * 5) and [(d.start, d.end) for d in pan.drives] == [(0, 16)]


def test_a_disk_that_is_getting_full_says_what_is_left(monkeypatch):
    assert desk._room_text(None) == ""
    assert "150 MB left" in desk._room_text(150 * desk.MEGABYTE + 5)
    assert "less than 1 MB left" in desk._room_text(9)


def test_a_scripted_ride_takes_what_it_names_and_else_the_desks_next(small):
    events = [(0.0, "touch", -6.0), (2.0, "release", None)]
    hands = [
        HandShape(events=events),
        HandShape(track="Horn", parameter="Level", mode="write", trim=True, events=events),
        HandShape(track="Nobody", parameter="Level", events=events),
        HandShape(events=[]),
        HandShape(events=events),
    ]
    ride = RideShape(format="velmot-ride", version=1, name="dip", length=4.0, hands=hands)
    said = ride_out(small, ride, ["horn.level", "bell.pan", "horn.mute"])
    assert [h.parameter for h in said.hands] == ["bell.pan", "horn.level", "horn.mute"], "the named one is not free"
    assert said.missing == ["Nobody Level", "a control on the desk"]
    assert (said.hands[1].mode, said.hands[1].trim) == ("write", True)
    assert (said.hands[0].at, said.hands[0].does, said.hands[0].value) == ([0, 2], ["touch", "release"], [-6, None])
    assert said.hands[2].at == [] and (said.name, said.length) == ("dip", 4)
