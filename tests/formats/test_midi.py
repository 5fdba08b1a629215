"""MIDI files: bytes by hand as other programs write them, the round trip, and damage."""

import io
from dataclasses import replace

import mido
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import envelopes
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family, Parameter, level
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.formats import midi
from velmot.formats.midi.events import chunks_of, events_of
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
    assert "Reed, channel 1: 1 channel command kept, not as lanes: all notes off at 2.1.00" in report.changed
    assert report.came[-1] == "its resolution is 96 ticks a beat"
    assert report.left_out == ["1 note: only where they sound is kept, as regions"]


def lanes_of(session):
    return {x.parameter: [(t / BEAT, v) for t, v, _ in x.envelope.points()] for x in session.lanes}


LEVELS = b"\x60\xb0\x07\x10\x60\x07\x20"  # a beat in, level 16; another beat, running status, level 32


@pytest.mark.parametrize(
    ("before", "said"),
    [
        (b"\x60\xff\x4b\x02\x01\x02", "1 meta event of the kind 0x4b"),  # nobody knows it, its beat counts
        (b"\x60\xff\x59\x02\x00\x07", "1 key signature"),  # a key of a mode nobody defined
        (b"\x60\xff\x51\x02\x01\x02", "1 tempo that cannot be"),  # two bytes where three belong
        (b"\x60\xff\x51\x03\x00\x00\x00", "1 tempo that cannot be"),
        (b"\x60\xff\x58\x01\x04", "1 meter that cannot be"),
        (b"\x60\xf7\x03\xf3\x81\xff", "1 system event"),  # an escape event, with bytes above 127
        (b"\x60\xf0\x03\x43\x12\xf7", "1 system exclusive event"),
        (b"\x60\xf8", "1 system event"),  # a clock, which belongs on a wire
        (b"\x60\xf2\x10\x20", "1 system event"),
        (b"\x60\xa0\x3c\x40", "1 key pressure event"),
        (b"\x60\xb0\x60\x00", "1 step of a parameter that was not chosen"),
        (b"\x60\xff\x01\x02Hi", "1 text"),
        (b"\x60\xff\x03\x04Lead\x00\xff\x03\x05Other", "1 name that no track here has: “Other”"),
    ],
)
def test_what_is_not_kept_is_told_and_its_time_counts(before, said):
    session, report = midi.read(file_of(before + LEVELS))
    assert lanes_of(session)["t1.cc7"] == [(2, 16), (3, 32)]
    assert said in report.left_out
    assert session.tracks[0].name == ("Lead" if b"Lead" in before else "Channel 1")


def test_chunks_of_other_kinds_and_tracks_beyond_the_header_are_read_past_and_told():
    whole = file_of(LEVELS)
    other = chunk(b"XFIH", b"anything")
    data = whole[:14] + other + whole[14:] + chunk(b"MTrk", b"\x00\xc0\x05\x00\xff\x2f\x00") + b"\x00\x01"
    session, report = midi.read(data)
    assert lanes_of(session) == {"t1.cc7": [(1, 16), (2, 32)], "t2.program": [(0, 5)]}
    assert "1 chunk of the kind “XFIH”" in report.left_out and "2 bytes after the last whole chunk" in report.left_out
    assert "the header promises 1 track; all 2 were read" in report.changed


def test_texts_are_read_as_they_were_written():
    """UTF-8 where it is that, else Latin-1, which is said; zeros at the end are none of it; a title is told."""
    named = b"\x00\xff\x03\x05Fl\xf6te" + LEVELS
    utf = b"\x00\xff\x03\x07Fl\xc3\xb6te\x00" + LEVELS
    session, report = midi.read(file_of(b"\x00\xff\x03\x07Evening", named, utf))
    assert [t.name for t in session.tracks] == ["Flöte", "Flöte"]
    assert "1 text not written in UTF-8: read as Latin-1" in report.changed
    assert "1 name that no track here has: “Evening”" in report.left_out
    _, told = midi.read(file_of(*[named + b"\x00\xb0\x7b\x00"] * 2))
    assert [c.split(":")[0] for c in told.changed if "command" in c] == ["Flöte (track 1 here)", "Flöte (track 2 here)"]


def test_a_parameter_is_stepped_up_and_down():
    """Registered 0/1 set to 64·128, two up, one down: four points, and no lane of its own for the steps."""
    steps = b"\x00\xb0\x65\x00\x00\x64\x01\x00\x06\x40\x60\x60\x00\x60\x60\x7f\x60\x61\x00"
    session, _ = midi.read(file_of(steps))
    assert lanes_of(session) == {"t1.rpn0-1": [(0, 8192), (1, 8193), (2, 8194), (3, 8193)]}


def test_a_meter_that_cannot_be_at_the_start_is_left_out_like_any_other():
    session, report = midi.read(file_of(b"\x00\xff\x58\x04\x00\x02\x18\x08\x60\xff\x58\x04\x03\xff\x18\x08" + LEVELS))
    assert [(m.tick, m.count, m.unit) for m in session.tempo.meters] == [(0, 4, 4)]
    assert report.left_out[:2] == ["a meter of 0/4 at beat 0", "a meter of 3/65536 at beat 1"]


@pytest.mark.parametrize(
    ("track", "said"),
    [
        (b"\x81\x82\x83\x84\x05\xb0\x07\x10", "a delta time of more than 4 bytes"),
        (b"\x00\x07\x10", "a data byte stands where an event has to begin"),
        (b"\x00\xb0\x87\x10", "a data byte above 127"),
        (b"\x00\xff\x01\x7ftoo short", "a meta event of 127 bytes is longer than its track"),
    ],
)
def test_damage_is_named_with_its_byte(track, said):
    with pytest.raises(FormatError) as caught:
        midi.read(file_of(track))
    assert said in caught.value.message and caught.value.place.startswith("byte ") and caught.value.accepted


def test_more_events_than_can_become_lanes_are_refused(monkeypatch):
    monkeypatch.setattr(midi.reading, "MOST_EVENTS", 2)
    with pytest.raises(FormatError) as caught:
        midi.read(file_of(LEVELS))
    assert caught.value.code == "midi-many"


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


@given(envelopes(Axis.LEVEL), st.sampled_from([96, 480, 960, 1001, 32749]))
def test_a_curve_stays_within_half_a_step_with_no_event_too_many(curve, per_beat):
    track = Track("t", "t", parameters=(level("t.level"),))
    session = Session("s", 64 * BEAT, (track,), (Lane("L", "t.level", "track", curve),))
    data, _ = midi.write(session, [midi.Choice("t.level", "cc 7", -96, 12)], per_beat)
    events = midi.read(data, "s")[0].lanes[0].envelope
    ticks = np.unique(np.concatenate((curve.ticks, np.linspace(0, 64 * BEAT - 1, 400).astype(np.int64))))
    file_ticks = np.unique(ticks * per_beat // BEAT)
    ticks = (2 * file_ticks * BEAT + per_beat) // (2 * per_beat)  # as they are read
    wanted = (heard(session, "t.level").envelope.at(ticks) + 96) / 108 * 127
    assert np.abs(events.at(ticks) - wanted).max() <= 0.5 + 1e-6
    assert (np.diff(events.values) != 0).all(), "every event changes something"


STEADY, LEVELED = TempoMap(), (level("t.level"),)


def written(*lanes, parameters=LEVELED, choices=(), extra=(), tempo=STEADY, per_beat=960, length=64 * BEAT):
    """What a session of one track becomes: its bytes and the report."""
    track = Track("t", "t", parameters=tuple(parameters), extra=extra)
    session = Session(
        "s", length, (track,), tuple(Lane(f"L{n}", p, "track", e) for n, (p, e) in enumerate(lanes)), tempo
    )
    return midi.write(session, choices or usual_choices(session), per_beat)


def plain(*rows):
    return Envelope.of([(round(beat * BEAT), *rest) for beat, *rest in rows])


CC = Parameter("t.x", "X", Family.DEVICE, low=0, high=127)
AS_CC = (midi.Choice("t.x", "cc 20", 0, 127),)


@pytest.mark.parametrize(
    ("curve", "events"),
    [
        (plain((0, 0.5), (64, 1.4)), [(0, 1)]),  # either will do at 0.5, one event for all
        (plain((0, 0.5), (64, 0.5)), [(0, 0)]),
        (plain((0, 0.4), (1, 2.4)), [(0, 0), (0.06, 1), (0.56, 2)]),  # at 0.05 and 0.55 exactly between two
        (plain((8, 5.0)), [(8, 5)]),  # nothing before its first point
        (plain((0, 3.0, HOLD), (4, 3.0, HOLD), (6, 4.0)), [(0, 3), (6, 4)]),
    ],
)
def test_as_few_events_as_stay_within_half_a_step(curve, events):
    data, _ = written(("t.x", curve), parameters=[CC], choices=AS_CC, per_beat=100)
    (lane,) = midi.read(data)[0].lanes
    assert [(round(t / BEAT, 2), v) for t, v, _ in lane.envelope.points()] == events


@given(envelopes(Axis.LINEAR, most=5), st.sampled_from([24, 96]))
def test_no_file_could_say_it_in_fewer_events(curve, per_beat):
    """Beside a plain walk over every tick of the file that changes its number only when it must."""
    x = replace(CC, low=-100.0, high=100.0)
    data, _ = written(
        ("t.x", curve), parameters=[x], choices=(midi.Choice("t.x", "cc 20", -100, 100),), per_beat=per_beat
    )
    (lane,) = midi.read(data)[0].lanes
    start = int(lane.envelope.ticks[0]) * per_beat // BEAT
    ticks = np.arange(start, 64 * per_beat + 1)
    y = (curve.coordinate_at(ticks * BEAT // per_beat) + 100) / 200 * 127
    read = lane.envelope.at(ticks * BEAT // per_beat)
    assert np.abs(read - y).max() <= 0.5 + 1e-6
    count, low, high = 0, 1, 0
    for least, most in zip(np.ceil(y - 0.5 - 1e-9), np.floor(y + 0.5 + 1e-9), strict=True):
        low, high = max(low, least), min(high, most)
        if low > high:
            count, low, high = count + 1, least, most
    assert len(lane.envelope) <= count


def test_a_program_after_a_bank_is_sent_again_though_it_is_the_same():
    """Bank 0, program 6; a beat later bank 1 and program 6 again."""
    bank = b"\x00\xb0\x00\x00\x00\xc0\x05\x60\xb0\x00\x01\x00\xc0\x05"
    session, _ = midi.read(file_of(bank))
    again = midi.read(midi.write(session, usual_choices(session))[0])[0]
    assert lanes_of(again) == lanes_of(session) == {"t1.cc0": [(0, 0), (1, 1)], "t1.program": [(0, 5), (1, 5)]}


def test_what_a_file_cannot_say_is_named():
    y = replace(CC, id="t.y", name="Y")
    lanes = [("t.x", plain((0, 10.0), (4, 90.0))), ("t.y", plain((0, 5.0)))]
    choices = (midi.Choice("t.x", "cc 20", 20, 80), midi.Choice("t.y", "cc 20", 0, 127))
    slow = TempoMap((TempoEvent(0, 2.0),))
    _, report = written(*lanes, parameters=[CC, y], choices=choices, tempo=slow)
    assert report.left_out == ["t Y: cc 20 is taken by X"]
    assert "t X goes beyond 20.0 to 80.0: clipped there" in report.changed
    assert "a tempo of 2 bpm raised to the slowest a MIDI file can say, 3.58" in report.changed
    _, report = written(("t.level", line((0, -60.0), (4, 0.0))), choices=[midi.Choice("t.level", "cc 7", -96, 12)])
    assert report.changed == ["t Level is written in steps of 0.85 dB; 14 bits or a narrower span make them finer"]
    assert report.came[0].startswith("t Level as cc 7, −∞ dB to 12.0 dB in steps of 0.85 dB: 72 events")
    usual = (
        "t Level as cc 7, −30.0 dB to 0.0 dB in steps of 0.24 dB",
        "t Level as cc 7 fine, −60.0 dB to 6.0 dB in steps of 0.004 dB",
    )
    for rows, said in zip((((0, -30.0), (4, 0.0)), ((0, -60.0), (4, 6.0))), usual, strict=True):
        _, report = written(("t.level", line(*rows)))
        assert report.changed == [] and report.came[0].startswith(said), (
            "no wider than it is, with 14 bits where it must be"
        )
    _, report = written(("t.level", line((0, -60.0))), parameters=[level("t.level"), CC], choices=AS_CC)
    assert report.left_out == ["t Level: no controller was chosen for it"]
    many = [replace(CC, id=f"t.{n}", name=f"{n}") for n in range(60)]
    _, report = written(
        *((p.id, plain((0, 1.0))) for p in many), ("t.level", line((0, -3.0))), parameters=[*many, level("t.level")]
    )
    assert len(report.came) == 37 and report.came[-1].startswith("t Level as cc 7") and len(report.left_out) == 24


def line(*rows):
    return Envelope.of([(round(beat * BEAT), *rest) for beat, *rest in rows], Axis.LEVEL)


def test_a_tempo_ramp_moves_nothing_behind_it():
    tempo = TempoMap((TempoEvent(0, 60.0, True), TempoEvent(16 * BEAT, 180.0), TempoEvent(20 * BEAT, 97.3)))
    data, _ = written(("t.level", line((0, -6.0))), tempo=tempo)
    again = midi.read(data)[0].tempo
    bars = np.arange(0, 61, 4) * BEAT
    assert np.abs(again.seconds(bars[4:]) - tempo.seconds(bars[4:])).max() < 1e-3
    assert np.abs(again.seconds(bars) - tempo.seconds(bars)).max() < 1e-3
    assert len(again.tempos) == 16 * 4 + 2, "a step each quarter of a beat"


@pytest.mark.parametrize(("channel", "kept"), [(0, 0), (15, 15), (16, 0), (-1, 0)])
def test_a_track_keeps_the_channel_it_came_on(channel, kept):
    data, _ = written(("t.level", line((0, -6.0))), extra=(("midi", f'{{"channel": {channel}}}'),))
    assert midi.read(data)[0].tracks[0].extra == (("midi", f'{{"channel": {kept}, "commands": []}}'),)


@pytest.mark.parametrize(
    "kept",
    ["{", "7", '{"channel": 99}', '{"channel": true}', '{"channel": "x", "commands": 3}',
     '{"commands": [[0, 300, 1], [0, 123, 900], ["a", 123, 0], [0, 123], [-1, 123, 0], 5]}'],
)  # fmt: skip
def test_anything_kept_of_a_file_is_taken_only_as_far_as_it_can_be(kept):
    data, _ = written(("t.level", line((0, -6.0))), extra=(("midi", kept),))
    assert dict(midi.read(data)[0].tracks[0].extra)["midi"] == '{"channel": 0, "commands": []}'


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
    [
        *(
            (key, -96, 12, "controller-unknown")
            for key in (
                "cc 300",
                "spoon",
                "program fine",
                "cc ²",
                "cc 6",
                "cc 98",
                "cc 7 7",
                "bend 1",
                "nrpn 1",
                "rpn 127/127",
                "cc 40 fine",
                "nrpn 1/128",
            )
        ),
        ("cc 7", 3, 3, "span-empty"),
    ],
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


@pytest.mark.parametrize("bent", [25.0, -25.0, 60.0])
def test_a_bend_that_leaves_a_place_exactly_between_two_numbers_is_within_half_a_step(bent):
    """It starts at 40.5, where either number will do, and stays there almost to the end, or leaves at once."""
    curve = plain((0, 40.5, bent), (16, 70.0))
    made = midi.read(written(("t.x", curve), parameters=(CC,), choices=AS_CC)[0])[0].lanes[0].envelope
    at = np.arange(0, 16 * 960) * (BEAT // 960)
    assert np.abs(made.at(at) - curve.at(at)).max() <= 0.5 + 1e-6


def test_what_goes_on_after_a_reset_is_said_again():
    """Level 80 from the start, all controllers reset at beat 1, level 80 sounds on: it has to be sent again there."""
    told = b"\x00\xb0\x07\x50\x60\xb0\x79\x00\x60\xb0\x07\x50\x00\x07\x51"
    session, _ = midi.read(file_of(told))
    data, _ = midi.write(session, usual_choices(session), 96)
    events = [e for e in events_of(data, chunks_of(data).tracks[1]) if e[1] == 0xB0]
    assert [(tick, first, second) for tick, _, first, second in events] == [
        (0, 7, 80), (96, 121, 0), (96, 7, 80), (192, 7, 81),
    ]  # fmt: skip


def test_of_very_many_the_first_are_worded_and_the_rest_counted(monkeypatch):
    """Markers, commands and tempos by the ten thousand: as many as a session holds, and 24 told each, in few words."""
    worded = []
    position = TempoMap.position
    monkeypatch.setattr(TempoMap, "position", lambda self, tick: worded.append(tick) or position(self, tick))
    markers = b"".join(b"\x01\xff\x06\x01" + bytes((65 + n % 26,)) for n in range(10_004))
    commands = b"".join(b"\x01\xb0\x7b\x00" for _ in range(9000))
    tempos = b"".join(b"\x01\xff\x51\x03\x00\x00\x01" for _ in range(9000))
    session, report = midi.read(file_of(markers, b"\x00\xb0\x07\x40" + commands, tempos))
    told = " ".join(report.changed + report.left_out)
    assert "4 markers beyond the first 10,000" in told and len(session.markers) == 10_000
    assert told.count("and 8976 more") == 1
    assert "and 8,976 more tempos limited like these" in told and len(worded) < 200
    many = b"".join(b"\x01\xff\x51\x03\x07\xa1\x20" for _ in range(20_002))
    with pytest.raises(FormatError, match="the file has 20,002 tempos"):
        midi.read(file_of(many))


def test_what_stands_behind_a_tracks_end_and_data_for_no_parameter_are_told():
    behind = b"\x00\xb0\x06\x10\x00\xb0\x65\x7f\x00\xb0\x64\x7f\x00\xb0\x26\x01\x00\xff\x2f\x00junk"
    _, report = midi.read(file_of(behind))
    assert "2 data entries without a parameter that was chosen" in report.left_out
    assert any(line.endswith(" behind the end of a track") for line in report.left_out)


def test_markers_and_cues_come_with_their_places_and_names():
    body = b"\x30\xff\x06\x05Verse\x30\xff\x07\x04 Go \x60\xff\x06\x00"
    session, report = midi.read(file_of(body, LEVELS))
    said = [(m.id, m.name, m.tick / BEAT, m.cue) for m in session.markers]
    assert said == [("m1", "Verse", 0.5, False), ("m2", "Go", 1, True), ("m3", "", 2, False)]
    assert "3 markers" in report.came and not report.left_out
    again, _ = midi.read(midi.write(session, ())[0])
    assert [(m.name, m.tick, m.cue) for m in again.markers] == [(m.name, m.tick, m.cue) for m in session.markers]


@pytest.mark.parametrize(
    ("texts", "names", "told"),
    [
        ([b"{@JP}" + "海の朝".encode("cp932"), "夜".encode("cp932")], ["海の朝", "夜"], "JP"),
        ([b"{@LATIN}caf\xe9", b"{@UTF-8}caf\xc3\xa9"], ["café", "café"], "LATIN, UTF-8"),
        ([b"{@UTF-16LE}" + "tide".encode("utf-16-le"), "海".encode("utf-16-le")], ["tide", "海"], "UTF-16LE"),
        (
            [b"{@UTF-16LE}" + "tide".encode("utf-16-le"), "{@LATIN}".encode("utf-16-le") + b"caf\xe9"],
            ["tide", "café"],
            "UTF-16LE, LATIN",
        ),
        ([b"\xff\xfe" + "海".encode("utf-16-le"), b"tide"], ["海", "tide"], None),
        ([b"{@WHAT}tide", b"{#Title=x}"], ["{@WHAT}tide", "{#Title=x}"], None),
    ],
)
def test_texts_are_read_in_the_coding_the_file_declares(texts, names, told):
    tag = b"".join(b"\x01\xff\x06" + bytes((len(t),)) + t for t in texts)
    session, report = midi.read(file_of(tag, LEVELS))
    assert [m.name for m in session.markers] == names
    assert [line for line in report.came if "declares" in line] == (
        [f"its texts are written as it declares: {told}"] if told else []
    )


def test_a_tag_in_a_plain_text_declares_the_coding_of_what_follows():
    name = "夜".encode("cp932")
    session, _ = midi.read(file_of(b"\x00\xff\x01\x05{@JP}\x00\xff\x03" + bytes((len(name),)) + name + LEVELS))
    assert session.tracks[0].name == "夜"
