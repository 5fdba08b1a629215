"""The container file: out and in again, and every way it can be wrong."""

import json

import pytest

from tests.core.verbs.test_regions import b, small
from velmot.core.errors import RequestError
from velmot.core.verbs import plan
from velmot.core.verbs.regions.request import ChangeRegions
from velmot.formats import container_file
from velmot.formats.report import FormatError


def test_out_and_in_again_keeps_name_length_and_every_point():
    made = small()
    name, length, clips, muted = container_file.read(container_file.write(made, "wave"))
    (clip,) = clips
    assert (name, length, clip.name, clip.unit) == ("wave", b(8), "Level", "dB")
    assert [(p.at, p.value, p.bend) for p in clip.points] == [(0, -10.0, 0.0), (b(8), -2.0, 0.0)]
    assert not muted and b"muted" not in container_file.write(made, "wave")
    silent = plan(made, "change regions", ChangeRegions(("wave",), muted=True)).applied_to(made)
    assert container_file.read(container_file.write(silent, "wave"))[3] is True
    with pytest.raises(RequestError, match="ebb holds no automation"):
        container_file.write(made, "ebb")


@pytest.mark.parametrize(
    ("change", "place"),
    [
        ({"version": 2}, "version"),
        ({"format": "velmot-session"}, "format"),
        ({"length": 0}, "length"),
        ({"lanes": []}, "lanes"),
        ({"lanes": [{"name": "Level"}]}, "lanes.0.track"),
    ],
)
def test_what_is_wrong_is_named_with_its_place(change, place):
    good = json.loads(container_file.write(small(), "wave"))
    with pytest.raises(FormatError) as caught:
        container_file.read(json.dumps(good | change).encode())
    assert caught.value.place == place


@pytest.mark.parametrize("data", [b"", b"[", b"\xff", b"[]", b"[" * 100_000])
def test_hostile_bytes_are_refused_in_words(data):
    with pytest.raises(FormatError) as caught:
        container_file.read(data)
    assert caught.value.accepted == container_file.ACCEPTED


def test_points_that_cannot_be_name_their_lane_and_the_point():
    good = json.loads(container_file.write(small(), "wave"))
    good["lanes"][0]["points"] = [[0, -10], [4, "loud"]]
    with pytest.raises(FormatError, match=r"lane 1, “Level”: point 2: \[4, \"loud\"\] is not a point") as caught:
        container_file.read(json.dumps(good).encode())
    assert caught.value.place == "lanes[0].points[1]"
