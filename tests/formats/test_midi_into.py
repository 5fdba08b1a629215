"""Back into the file it came from: what was worked on is written anew, everything else stays event for event."""

import io
from dataclasses import replace

import mido
import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.formats.test_midi import CONDUCTOR, PLAYER, chunk, file_of
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.session.track import Lane
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.groups.request import MakeGroup
from velmot.core.verbs.markers.request import AddMarker, ChangeMarkers, RemoveMarkers
from velmot.core.verbs.points.request import Spot
from velmot.formats import midi
from velmot.formats.midi.events import chunks_of, events_of
from velmot.formats.midi.into import write
from velmot.formats.midi.table import parameter_of
from velmot.formats.midi.track_bytes import number_bytes

ODD = (
    b"\x00\xff\x01\x03abc"  # a text
    b"\x00\xf0\x05\x7e\x7f\x09\x01\xf7"  # exclusive
    b"\x00\xf7\x02\x01\x02"  # an escape
    b"\x00\xb0\x00\x01\x00\x20\x02\x00\xc0\x05"  # bank 1/2, program 6
    b"\x00\x90\x3c\x40"  # and a note, all at once
    b"\x30\xff\x05\x02la"  # a lyric
    b"\x30\xb0\x07\x50\x00\xff\x71\x01\x00"  # level 80; a meta event nobody knows
    b"\x00\x80\x3c\x00\x60\x07\x07"  # the note's end, and by running status … another note's
)
FILE = file_of(CONDUCTOR, PLAYER, ODD)


def read(data):
    return midi.read(data, "hand")[0]


def drawn(session, parameter, *spots):
    stroke = tuple(Spot(Tick(round(b * BEAT)), float(v)) for b, v in spots)
    return plan(session, "draw", Draw(parameter, stroke)).applied_to(session)


def rows(data, track):
    """Every event of a track, one a row."""
    chunks = chunks_of(data)
    return list(events_of(data, chunks.tracks[track]))


def without(events, *gone):
    """The events but those of some (status, first)."""
    return [e for e in events if (e[1], e[2]) not in gone]


def by_another_library(data):
    file = mido.MidiFile(file=io.BytesIO(data))
    return [[(m.type, m.time if m.is_meta else 0, m.bytes()) for m in t] for t in file.tracks]


def test_a_file_that_nothing_was_done_to_is_the_same_bytes():
    for data in (FILE, file_of(PLAYER, kind=0), file_of(CONDUCTOR, ODD) + chunk(b"XFIH", b"own"), FILE + b"rest"):
        made, report = write(read(data), data)
        assert made == data and "the file as it came, byte for byte" in report.came


def test_one_lane_drawn_is_written_and_all_else_stays():
    session = read(FILE)
    after = drawn(session, "t1.cc7", (0, 20), (2, 120))
    made, report = write(after, FILE)
    assert rows(made, 0) == rows(FILE, 0) and rows(made, 2) == rows(FILE, 2), "other tracks are not touched"
    assert without(rows(made, 1), (0xB0, 7)) == without(rows(FILE, 1), (0xB0, 7))
    mine = [(tick, value) for tick, status, first, value in rows(made, 1) if (status, first) == (0xB0, 7)]
    assert mine[0] == (0, 20) and mine[-1] == (192, 60), "the line ends at beat 2, where 60 was"
    levels = dict(mine)
    assert all(abs(v - (20 + 100 * t / 192)) <= 0.5 + 1e-9 for t, v in levels.items() if t < 192)
    assert (
        report.came[0].startswith("Reed, channel 1 Level as cc 7, 0.0 cc to 127.0 cc")
        and "9 lanes as the file says them" in report.came
    )
    assert len(by_another_library(made)) == 3
    again = read(made)
    others = [x for x in again.lanes if x.parameter != "t1.cc7"]
    assert others == [x for x in session.lanes if x.parameter != "t1.cc7"]


def test_a_lane_of_14_bits_takes_both_its_halves_with_it_and_one_that_grew_longer_is_noticed():
    session = read(FILE)
    lane = session.lane_at("t1.cc11")
    longer = replace(
        lane, envelope=Envelope.of([*lane.envelope.points()[:-1], (2 * BEAT, 8224.0, HOLD), (3 * BEAT, 5.0)])
    )
    made, _ = write(session.with_lanes(longer if x is lane else x for x in session.lanes), FILE)
    said = [e for e in rows(made, 1) if e[1:3] in ((0xB0, 11), (0xB0, 43))]
    assert said == [(192, 0xB0, 11, 64), (192, 0xB0, 43, 32), (288, 0xB0, 11, 0), (288, 0xB0, 43, 5)]


def test_a_program_stays_between_its_bank_and_the_note():
    on_channel_4 = ODD.replace(b"\xb0", b"\xb3").replace(b"\xc0", b"\xc3").replace(b"\x90", b"\x93")
    source = file_of(CONDUCTOR, PLAYER, on_channel_4)
    session = read(source)
    program = next(x for x in session.lanes if x.parameter.endswith("program") and not x.parameter.startswith("t1"))
    after = session.with_lanes(
        replace(x, envelope=Envelope.of([(0, 9.0, HOLD)])) if x is program else x for x in session.lanes
    )
    made, _ = write(after, source)
    said = [(e[1], e[2], e[3]) for e in rows(made, 2) if e[0] == 0 and e[1] < 0xF0]
    assert said == [(0xB3, 0, 1), (0xB3, 32, 2), (0xC3, 9, 0), (0x93, 0x3C, 0x40)]


def test_a_lane_that_is_new_comes_before_the_notes_of_its_tick_and_one_that_is_gone_goes():
    session = read(FILE)
    breath = parameter_of("t3.cc2", "cc 2", False)
    tracks = [replace(t, parameters=(*t.parameters, breath)) if t.id == "t3" else t for t in session.tracks]
    lane = Lane("N", "t3.cc2", "track", Envelope.of([(0, 11.0, HOLD), (BEAT, 12.0, HOLD)]))
    more = replace(session, tracks=tuple(tracks), lanes=(*session.lanes, lane))
    level = next(x.id for x in session.lanes if x.parameter == "t3.cc7")
    after = plan(more, "clear", Clear("lanes", (level,))).applied_to(more)
    made, report = write(after, FILE)
    said = [e[1:] for e in rows(made, 2) if e[0] == 0]
    assert said.index((0xB0, 2, 11)) == said.index((0x90, 0x3C, 0x40)) - 1
    assert (96, 0xB0, 2, 12) in rows(made, 2) and not [e for e in rows(made, 2) if e[1:3] == (0xB0, 7)]
    assert without(rows(made, 2), (0xB0, 2), (0xB0, 7)) == without(rows(FILE, 2), (0xB0, 7))
    assert any("its events are taken out" in said for said in report.changed)
    grouped = plan(after, "make group", MakeGroup("g", ("t1",))).applied_to(after)
    fader = Lane(
        "G", f"{grouped.tracks[-1].id}.level", "track", Envelope.of([(0, -3.0)], grouped.tracks[-1].parameters[0].axis)
    )
    made, report = write(replace(grouped, lanes=(*grouped.lanes, fader)), FILE)
    assert report.left_out == ["g Level: the file has no track for it"]


def test_numbered_parameters_of_a_channel_are_written_together_as_they_share_their_selectors():
    numbered = (
        b"\x00\xb0\x63\x01\x00\x62\x08\x00\x06\x10"  # non-registered 1/8: 16 · 128
        b"\x00\x65\x00\x00\x64\x00\x00\x06\x02"  # registered 0/0: 2 semitones
        b"\x60\x06\x03"  # … and 3, a beat later
        b"\x60\x01\x40"  # modulation
    )
    data = file_of(numbered)
    session = read(data)
    after = drawn(session, "t1.nrpn1-8", (0, 100), (1, 100))
    again = read(write(after, data)[0])
    assert again.lane_at("t1.rpn0-0").envelope.points() == session.lane_at("t1.rpn0-0").envelope.points()
    assert again.lane_at("t1.nrpn1-8").envelope.at(np.array([0, BEAT])).tolist() == [100, 2048]
    assert again.lane_at("t1.cc1") == session.lane_at("t1.cc1")
    gone = plan(session, "clear", Clear("lanes", (session.lane_at("t1.nrpn1-8").id,))).applied_to(session)
    again = read(write(gone, data)[0])
    assert "t1.nrpn1-8" not in again._parameters
    assert again.lane_at("t1.rpn0-0").envelope.points() == session.lane_at("t1.rpn0-0").envelope.points()


def test_regions_that_were_moved_leave_the_notes_where_they_are_and_say_so():
    session = read(FILE)
    tracks = [replace(t, regions=tuple(replace(r, start=r.start + BEAT) for r in t.regions)) for t in session.tracks]
    made, report = write(session.with_tracks(tracks), FILE)
    assert made == FILE and report.changed == [
        "regions were moved, cut or muted here: the file’s notes stay as they were"
    ]


def _event(draw_tuple):
    kind, channel, first, second = draw_tuple
    if kind == 0xFF:
        return b"\xff" + bytes((first % 0x50, 2, second, first))
    if kind == 0xF0:
        return b"\xf0\x03" + bytes((first, second, 0xF7))
    return bytes((kind | channel, first)) + (b"" if kind in (0xC0, 0xD0) else bytes((second,)))


STATUS = st.sampled_from([0x80, 0x90, 0xA0, 0xB0, 0xB0, 0xB0, 0xC0, 0xD0, 0xE0, 0xF0, 0xFF])
CONTROLS = st.sampled_from([0, 1, 6, 7, 10, 32, 39, 64, 98, 99, 100, 101, 121, 0x2E])
EVENTS = st.tuples(STATUS, st.integers(0, 2), CONTROLS, st.integers(0, 127)).map(_event)
BODIES = st.lists(st.tuples(st.integers(0, 200), EVENTS), max_size=40).map(
    lambda rows: b"".join(number_bytes(delta) + event for delta, event in rows)
)


@given(st.lists(BODIES, min_size=1, max_size=3), st.sampled_from([24, 96, 480, 1001]), st.data())
def test_over_random_files_only_what_was_changed_is_otherwise(bodies, per_beat, data):
    source = file_of(*bodies, ticks=per_beat)
    session = read(source)
    assert write(session, source)[0] == source
    plain = [x for x in session.lanes if not session.parameter(x.parameter).controller.startswith(("rpn", "nrpn"))]
    assume(plain)
    lane = data.draw(st.sampled_from(plain))
    p = session.parameter(lane.parameter)
    value = data.draw(st.sampled_from([p.low, p.high]))
    changed = replace(lane, envelope=Envelope.of([(int(lane.envelope.ticks[0]), value, HOLD)], lane.envelope.axis))
    after = session.with_lanes(changed if x is lane else x for x in session.lanes)
    made, _ = write(after, source)
    again = read(made)
    assert [x for x in again.lanes if x.parameter != lane.parameter] == [x for x in session.lanes if x is not lane]
    back = again.lane_at(lane.parameter).envelope
    assert back.at(lane.envelope.ticks).tolist() == [pytest.approx(value)] * len(lane.envelope)
    assert [t.regions for t in again.tracks] == [t.regions for t in session.tracks]
    keep = lambda e: e[1] >= 0xF0 or e[1] & 0xF0 in (0x80, 0x90, 0xA0)  # noqa: E731 - what Velmot never works on
    for n in range(len(bodies)):
        assert [e for e in rows(made, n) if keep(e)][:-1] == [e for e in rows(source, n) if keep(e)][:-1]


def test_a_bank_that_is_changed_comes_before_its_program():
    """Only the bank moves at beat 1: there it stands before the program change that it is for, and the note after both."""
    odd = read(FILE)
    bank = next(p for t in odd.tracks for p in t.parameters if p.controller == "cc 0 fine")
    lane = odd.lane_at(bank.id)
    other = odd.with_lanes(
        replace(x, envelope=Envelope.of([(0, 3 * 128, HOLD)])) if x is lane else x for x in odd.lanes
    )
    made, _ = write(other, FILE)
    place = [(e[1], e[2], e[3]) for e in rows(made, 2) if e[0] == 0]
    order = [place.index(x) for x in ((0xB0, 0, 3), (0xC0, 5, 0), (0x90, 60, 64))]
    assert order == sorted(order)


def test_a_second_lane_of_one_controller_is_left_out_and_said():
    session = read(FILE)
    track = next(t for t in session.tracks if any(p.controller == "cc 7" for p in t.parameters))
    own = next(p for p in track.parameters if p.controller == "cc 7")
    twin = replace(own, id="twin", name="Twin", controller="cc 7 fine")
    wider = session.with_tracks(
        replace(t, parameters=(*t.parameters, twin)) if t.id == track.id else t for t in session.tracks
    )
    both = replace(wider, lanes=(*wider.lanes, Lane("Z", "twin", "track", Envelope.of([(0, 1.0), (BEAT, 90.0)]))))
    made, report = write(both, FILE)
    assert made == FILE and [line for line in report.left_out if line.endswith(f"is taken by {own.name}")]


def test_a_file_in_a_riff_wrapper_is_a_midi_file():
    body = b"RMID" + b"LIST\x03\x00\x00\x00abc\x00" + b"data" + len(FILE).to_bytes(4, "little") + FILE
    wrapped = b"RIFF" + len(body).to_bytes(4, "little") + body
    session, report = midi.read(wrapped, "hand")
    assert session == read(FILE) and "RIFF wrapper" in report.changed[-1]
    assert midi.FORMAT.fits(wrapped) and midi.FORMAT.into(session, wrapped)[0] == FILE


MARKED = b"\x30\xff\x06\x04dusk\x00\xff\x01\x02Hi\x30\xff\x07\x04 go \x60\xff\x06\x04dawn"
"""A marker, a text, a cue with air around its name, and another marker: at half a beat, one, and two."""


def marks(data):
    """(tick, kind, text) of a file's first track, as bytes have them."""
    return [
        (tick, first, second)
        for tick, status, first, second in events_of(data, chunks_of(data).tracks[0])
        if status == 0xFF
    ]


def test_markers_that_stay_are_the_same_bytes_and_changed_ones_stand_where_they_came_from():
    source = file_of(MARKED, PLAYER)
    session = read(source)
    assert write(session, source)[0] == source
    for verb, asked, expected in (
        (
            "change markers",
            ChangeMarkers(("m1",), name="ebb"),
            [(48, 6, b"ebb"), (48, 1, b"Hi"), (96, 7, b" go "), (192, 6, b"dawn")],
        ),
        (
            "change markers",
            ChangeMarkers(("m2",), by=Tick(BEAT // 2), cue=False),
            [(48, 6, b"dusk"), (48, 1, b"Hi"), (144, 6, b"go"), (192, 6, b"dawn")],
        ),
        ("remove markers", RemoveMarkers(("m1", "m3")), [(48, 1, b"Hi"), (96, 7, b" go ")]),
        (
            "add marker",
            AddMarker(Tick(BEAT), "x"),
            [(48, 6, b"dusk"), (48, 1, b"Hi"), (96, 7, b" go "), (96, 6, b"x"), (192, 6, b"dawn")],
        ),
    ):
        made, report = write(plan(session, verb, asked).applied_to(session), source)
        assert [m for m in marks(made) if m[1] != 0x2F] == expected
        assert made.endswith(source[-len(PLAYER) - 12 :]), "the other track is the same bytes"
        count = 2 if verb == "remove markers" else 1
        assert f"{count} marker{'s' * (count > 1)} changed" in report.came and not report.left_out


def test_a_session_from_before_there_were_markers_takes_none_out_of_its_file():
    source = file_of(MARKED, PLAYER)
    old = replace(read(source), markers=(), extra=())
    assert write(old, source)[0] == source
    made = write(plan(old, "add marker", AddMarker(Tick(0), "new")).applied_to(old), source)[0]
    assert [m.name for m in read(made).markers] == ["new", "dusk", "go", "dawn"]


def test_a_changed_name_is_written_in_the_files_own_coding():
    name = "海".encode("cp932")
    source = file_of(b"\x00\xff\x06" + bytes((len(name) + 5,)) + b"{@JP}" + name + b"\x60\xff\x06\x01x", PLAYER)
    session = read(source)
    for new, poor in (("夜", False), ("café", True)):
        made, report = write(
            plan(session, "change markers", ChangeMarkers(("m2",), name=new)).applied_to(session), source
        )
        assert read(made).markers[1].name == ("caf?" if poor else new)
        assert report.changed == (["1 name of markers with letters that the file’s texts do not have"] if poor else [])


BENT = (
    b"\x00\xb0\x65\x00\x00\x64\x00\x00\x06\x02\x00\x26\x00"  # the bend range is 2 semitones
    b"\x00\xe0\x00\x60"  # a bend of +1
    b"\x60\xe0\x00\x40"
)


def test_another_bend_range_says_what_it_does_to_bends_that_were_not_touched():
    """2 semitones become 12: what was drawn as +1 sounds as +6."""
    source = file_of(CONDUCTOR, BENT)
    session = read(source)
    reach = next(p for t in session.tracks for p in t.parameters if (p.controller or "").startswith("rpn 0/0"))
    twelve = 12 if reach.high == 127 else 12 * 128
    wider = session.with_lanes(
        replace(x, envelope=Envelope.constant(twelve, reach.axis)) if x.parameter == reach.id else x
        for x in session.lanes
    )
    said = [x for x in write(wider, source)[1].changed if "semitones" in x]
    name = session.tracks[-1].name
    assert said == [
        f"{name} Pitch bend: its bends are drawn for 2 semitones, and the bend range ends at 12: "
        "where they were not touched they sound 6 times as wide"
    ]
    assert midi.write(wider, midi.usual_choices(wider))[1].changed == said, "a file made anew says the same"
    assert not any("semitones" in x for x in write(session, source)[1].changed)
