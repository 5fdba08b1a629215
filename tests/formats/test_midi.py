"""MIDI files: bytes by hand as other programs write them, the round trip, and damage."""

import io

import mido
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import envelopes
from velmot.core.axes import Axis
from velmot.core.envelope import Envelope
from velmot.core.heard import heard
from velmot.core.parameters import level
from velmot.core.session import Lane, Session, Track
from velmot.core.time import TICKS_PER_BEAT as BEAT
from velmot.formats import midi
from velmot.formats.midi.table import NAMED
from velmot.formats.midi.write import usual_choices
from velmot.formats.report import FormatError


def chunk(kind: bytes, body: bytes) -> bytes:
    return kind + len(body).to_bytes(4, "big") + body


def file_of(*tracks: bytes, kind: int = 1, ticks: int = 96) -> bytes:
    head = b"".join(n.to_bytes(2, "big") for n in (kind, len(tracks), ticks))
    return chunk(b"MThd", head) + b"".join(chunk(b"MTrk", t + b"\x00\xff\x2f\x00") for t in tracks)


# Written by hand, as a sequencer does, 96 ticks to the beat.
CONDUCTOR = (
    b"\x00\xff\x58\x04\x03\x02\x18\x08"  # 3/4
    b"\x00\xff\x51\x03\x07\xa1\x20"  # 500,000 µs a beat: 120 bpm
    b"\x83\x00\xff\x51\x03\x0f\x42\x40"  # after 384 ticks, 1,000,000 µs: 60 bpm
)
PLAYER = (
    b"\x00\xff\x03\x04Reed"
    b"\x00\xb0\x07\x64"  # level 100
    b"\x60\x07\x50"  # running status: level 80 a beat later
    b"\x60\x07\x3c"  # 60, running status again
    b"\x00\xb1\x0a\x40"  # channel 2: pan 64
    b"\x00\x0a\x7f"  # overtaken at once by 127
    b"\x00\xb0\x0b\x40\x00\x2b\x20"  # expression, high 64 and low 32 together: 64·128 + 32
    b"\x00\xe0\x00\x60"  # bend 0x60·128 − 8192 = 4096
    b"\x00\xb0\x65\x00\x00\x64\x00\x00\x06\x0c"  # registered 0/0: bend range 12
    b"\x00\xb0\x40\x7f\x60\x40\x00"  # sustain down for a beat
    b"\x00\xc0\x05"  # program 6
    b"\x00\xb0\x7b\x00"  # all notes off: a command
    b"\x00\x90\x3c\x40\x60\x3c\x00"  # a note of a beat, ended by velocity 0
)


def test_a_file_by_hand_with_running_status_pairs_bend_and_two_channels():
    session, report = midi.read(file_of(CONDUCTOR, PLAYER), "hand")
    assert [t.name for t in session.tracks] == ["Reed, channel 1", "Reed, channel 2"]
    curves = {x.parameter: [(t / BEAT, v) for t, v, _ in x.envelope.points()] for x in session.lanes}
    assert curves["t1.cc7"] == [(0, 100), (1, 80), (2, 60)]
    assert curves["t1.cc11"] == [(2, 64 * 128 + 32)]
    assert curves["t1.bend"] == [(2, 4096 * 12 / 8192)], "half way up a range of 12 semitones"
    assert session.parameter("t1.bend").unit == "semitones"
    assert curves["t1.cc64"] == [(2, 1), (3, 0)]
    assert curves["t1.program"] == [(3, 5)]
    assert curves["t1.rpn0-0"] == [(2, 12 << 7)]
    assert curves["t2.cc10"] == [(2, 127)]
    assert [(t.tick // BEAT, t.bpm) for t in session.tempo.tempos] == [(0, 120), (4, 60)]
    assert str(session.tempo.position(4 * BEAT)) == "2.2.00", "in 3/4"
    assert [(r.start // BEAT, r.length // BEAT) for r in session.tracks[0].regions] == [(3, 1)]
    assert "Reed, channel 2, cc 10: 1 event overtaken by a later one at the same moment" in report.changed
    assert "Reed, channel 1: 1 channel command kept, not as lanes" in report.changed
    assert report.left_out == ["1 note: only where they sound is kept, as regions"]


def test_writing_back_gives_the_same_lanes_and_commands():
    session, _ = midi.read(file_of(CONDUCTOR, PLAYER), "hand")
    data, report = midi.write(session, usual_choices(session))
    again, _ = midi.read(data, "hand")
    for lane in session.lanes:
        other = again.lane_at(lane.parameter)
        ticks = np.arange(int(lane.envelope.ticks[0]), session.length, BEAT // 2)
        assert np.allclose(lane.envelope.at(ticks), other.envelope.at(ticks), rtol=0, atol=1e-9), lane.parameter
    assert dict(again.tracks[0].extra)["midi"] == dict(session.tracks[0].extra)["midi"]
    assert again.tempo == session.tempo and len(report.came) == len(session.lanes)


@pytest.mark.parametrize("row", NAMED, ids=lambda r: r.key)
def test_every_controller_of_the_table_reads_back_within_half_a_step(row):
    message = {
        "program": mido.Message("program_change", program=3),
        "pressure": mido.Message("aftertouch", value=55),
        "bend": mido.Message("pitchwheel", pitch=-1234),
    }.get(row.key) or mido.Message("control_change", control=int(row.key.split()[1]), value=127)
    out = io.BytesIO()
    mido.MidiFile(tracks=[mido.MidiTrack([message])]).save(file=out)
    session, _ = midi.read(out.getvalue(), "one")
    (lane,) = session.lanes
    data, _ = midi.write(session, usual_choices(session))
    (again,) = midi.read(data, "one")[0].lanes
    assert again.envelope.values[-1] == lane.envelope.values[-1]
    assert session.parameter(lane.parameter).name == row.name


@given(envelopes(Axis.LEVEL), st.sampled_from([96, 480, 960]))
def test_a_curve_stays_within_half_a_step_with_no_event_too_many(curve, per_beat):
    track = Track("t", "t", parameters=(level("t.level"),))
    session = Session("s", 64 * BEAT, (track,), (Lane("L", "t.level", "track", curve),))
    data, _ = midi.write(session, [midi.Choice("t.level", "cc 7", -96, 12)], per_beat)
    events = midi.read(data, "s")[0].lanes[0].envelope
    ticks = np.unique(np.concatenate((curve.ticks, np.linspace(0, 64 * BEAT - 1, 400).astype(np.int64))))
    ticks = (ticks // (BEAT // per_beat)) * (BEAT // per_beat)
    wanted = (heard(session, "t.level").envelope.at(ticks) + 96) / 108 * 127
    assert np.abs(events.at(ticks) - wanted).max() <= 0.5 + 1e-6
    assert (np.diff(events.values) != 0).all(), "every event changes something"


@given(st.binary(min_size=0, max_size=80), st.integers(0, 200))
def test_no_damage_is_ever_more_than_a_clear_message(noise, cut):
    whole = file_of(CONDUCTOR, PLAYER)
    for data in (whole[:cut], whole[:cut] + noise + whole[cut:], b"MThd" + noise):
        try:
            midi.read(data, "damaged")
        except FormatError as error:
            assert error.message and error.place and error.accepted


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (file_of(CONDUCTOR, PLAYER)[:-30], "midi-damaged"),
        (file_of(PLAYER, kind=2), "midi-type"),
        (file_of(PLAYER, ticks=0xE728), "midi-frames"),
        (file_of(PLAYER, ticks=0), "midi-ticks"),
        (file_of(PLAYER).replace(b"\x00\x01\x00\x01", b"\x00\x01\x00\x09"), "midi-damaged"),
    ],
)
def test_damaged_files_are_named(data, code):
    with pytest.raises(FormatError) as caught:
        midi.read(data, "bad")
    assert caught.value.code == code


@pytest.mark.parametrize(
    ("controller", "low", "high", "code"),
    [("cc 300", -96, 12, "controller-unknown"), ("spoon", -96, 12, "controller-unknown"), ("cc 7", 3, 3, "span-empty")],
)
def test_choices_that_cannot_be_written(controller, low, high, code):
    track = Track("t", "t", parameters=(level("t.level"),))
    lane = Lane("L", "t.level", "track", Envelope.constant(-3.0, Axis.LEVEL))
    with pytest.raises(FormatError) as caught:
        midi.write(Session("s", 64 * BEAT, (track,), (lane,)), [midi.Choice("t.level", controller, low, high)])
    assert caught.value.code == code


def test_a_file_another_library_wrote():
    """Two changes of tempo, two channels in one track, a 14-bit pair, pitch bend and its range, a program."""
    from midiutil import MIDIFile

    file = MIDIFile(1, deinterleave=False)
    file.addTrackName(0, 0, "Shore")
    for beat, bpm in ((0, 96), (8, 120), (16, 60)):
        file.addTempo(0, beat, bpm)
    for beat, value in ((0, 20), (2, 90), (4, 60)):
        file.addControllerEvent(0, 3, beat, 7, value)
        file.addControllerEvent(0, 3, beat, 39, 5)
        file.addControllerEvent(0, 5, beat + 1, 10, 127 - value)
    file.makeRPNCall(0, 3, 0, 0, 0, 2, 0)
    file.addPitchWheelEvent(0, 3, 6, 4096)
    file.addProgramChange(0, 5, 0, 11)
    file.addNote(0, 3, 60, 4, 2, 90)
    file.addNote(0, 3, 62, 40, 1, 90)
    out = io.BytesIO()
    file.writeFile(out)
    session, report = midi.read(out.getvalue(), "shore")
    assert [t.name for t in session.tracks] == ["Shore, channel 4", "Shore, channel 6"]
    assert [(t.tick // BEAT, round(t.bpm)) for t in session.tempo.tempos] == [(0, 96), (8, 120), (16, 60)]
    curves = {x.parameter: [(t / BEAT, v) for t, v, _ in x.envelope.points()] for x in session.lanes}
    assert curves["t1.cc7"] == [(b, v * 128 + 5) for b, v in ((0, 20), (2, 90), (4, 60))]
    assert curves["t1.bend"] == [(6, 1.0)], "half of two semitones"
    assert curves["t2.cc10"] == [(1, 107), (3, 37), (5, 67)]
    assert curves["t2.program"] == [(0, 11)]
    assert [(r.start // BEAT, r.length // BEAT) for r in session.tracks[0].regions] == [(4, 2), (40, 1)]
    assert report.left_out == ["2 notes: only where they sound is kept, as regions"]
