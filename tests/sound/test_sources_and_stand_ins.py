"""Sources are the same in whatever pieces they are made; stand-ins do what their formulas say; meters say where."""

from itertools import pairwise

import numpy as np
import pytest

from tests.sound.test_worked_examples import RATE, a_track, db, heard, lane, rms, session
from velmot.core.curves.axes import Axis
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter
from velmot.core.session.sounds import MADE, Sound
from velmot.core.session.track import Device
from velmot.sound.library import Library
from velmot.sound.meters import readings
from velmot.sound.outlines import PER_SECOND, outline
from velmot.sound.outlines import RATE as OUTLINED
from velmot.sound.path import Piece, score_of
from velmot.sound.sources import made
from velmot.sound.sources.notes import DRUMS, Note, played
from velmot.sound.stand_ins.hall import DECAYS, impulse


@pytest.mark.parametrize("kind", MADE)
def test_a_take_is_the_same_in_whatever_pieces_it_is_made(kind):
    """Also backwards, and across the spans in which its events are drawn."""
    sound, rate = Sound(kind, hz=200, density=0.8), 8000
    whole = made(sound, "take", rate, 0, 14 * rate)
    edges = [0, 1, 7000, 31_999, 32_001, 65_000, 100_000, 14 * rate]
    parts = [made(sound, "take", rate, a, b - a) for a, b in reversed([*pairwise(edges)])]
    assert np.concatenate(parts[::-1]) == pytest.approx(whole, abs=1e-6)
    assert 0.02 < abs(whole).max() < 1.6
    another = made(sound, "another", rate, 0, 14 * rate)
    assert (another == whole).all() == (kind == "tone"), "each take is another one"


KEPT = {
    "tone": [0.3536, 0.3536, 0.3536, 0.3536, 0.3536, 0.3536],
    "bell": [0.0273, 0.0011, 0.0318, 0.0013, 0.0001, 0.0],
    "horn": [0.1752, 0.0984, 0.162, 0.1189, 0.1679, 0.1105],
    "voices": [0.2378, 0.28, 0.2813, 0.2787, 0.2838, 0.2671],
    "murmur": [0.1288, 0.0877, 0.1446, 0.0994, 0.1399, 0.0672],
    "birds": [0.0678, 0.0788, 0.0727, 0.0, 0.0787, 0.122],
    "machine": [0.1374, 0.1639, 0.1481, 0.1562, 0.159, 0.1581],
    "rain": [0.1357, 0.1279, 0.1122, 0.1417, 0.1368, 0.1168],
    "noise": [0.0794, 0.0928, 0.0942, 0.1089, 0.1037, 0.097],
    "pulse": [0.0542, 0.0538, 0.0541, 0.054, 0.0543, 0.0543],
}


@pytest.mark.parametrize("kind", MADE)
def test_a_take_is_tomorrow_what_it_was_today(kind):
    """A session keeps the seed of a take and not its sound, so that a source that changes would change every session."""
    sound = made(Sound(kind, hz=200, density=0.6, brightness=0.4, seed=3), "take", 8000, 0, 12 * 8000)
    assert [float(np.sqrt(np.mean(np.square(part)))) for part in np.array_split(sound, 6)] == pytest.approx(
        KEPT[kind], abs=1.5e-4
    )


@pytest.mark.parametrize(
    ("note", "kept"),
    [
        (Note(0.1, 1.5, 36, 100, 0), [0.0348, 0.026, 0.0147, 0.0083, 0.004, 0.0]),
        (Note(0.1, 1.5, 60, 100, 16), [0.0372, 0.0455, 0.0454, 0.0454, 0.0333, 0.0]),
        (Note(0.1, 1.5, 60, 100, 33), [0.0375, 0.0243, 0.0112, 0.0052, 0.0021, 0.0]),
        (Note(0.1, 1.5, 36, 100, 0, DRUMS), [0.0512, 0.0019, 0.0, 0.0, 0.0, 0.0]),
        (Note(0.1, 1.5, 60, 100, 0, DRUMS), [0.0198, 0.0, 0.0, 0.0, 0.0, 0.0]),
    ],
)
def test_a_note_is_tomorrow_what_it_was_today(note, kept):
    sound = played([note], 8000, 0, 16_000)
    assert [float(np.sqrt(np.mean(np.square(part)))) for part in np.array_split(sound, 6)] == pytest.approx(
        kept, abs=1.5e-4
    )


def test_a_note_sounds_from_its_start_to_its_end_with_its_pitch_and_force():
    """An organ: 440 Hz from 1 s to 2 s; half the velocity is a quarter of the size."""
    rate, notes = 48_000, [Note(1.0, 2.0, 69, 127, 16)]
    out = played(notes, rate, 0, 3 * rate)
    assert not out[: rate - 1].any() and not out[round(2.07 * rate) :].any()
    assert np.argmax(abs(np.fft.rfft(out[rate : 2 * rate]))) == 440
    soft = played([Note(1.0, 2.0, 69, 64, 16)], rate, 0, 3 * rate)
    assert abs(soft).max() / abs(out).max() == pytest.approx((64 / 127) ** 2)
    halves = [played(notes, rate, a, rate // 2) for a in range(0, 3 * rate, rate // 2)]
    assert np.concatenate(halves) == pytest.approx(out)


def number(id, name, value, unit, low, high, axis=Axis.LINEAR):
    return Parameter(id, name, Family.DEVICE, unit=unit, axis=axis, low=low, high=high, default=value, value=value,
                     device="d")  # fmt: skip


def through(kind, *parameters, hz=440.0, amplitude=0.5, lanes=()):
    track = a_track(*parameters, sound=Sound("tone", hz=hz, amplitude=amplitude), devices=(Device("d", kind, kind),))
    return heard(session(track, lanes=lanes))[:, 0] * np.sqrt(2)


def test_a_drive_is_its_formula():
    """Half of 24 dB: pre 10^(12/20) = 3.981; tanh(3.981 · x) · 3.981^−0.7."""
    out = through("drive", number("d.d", "Drive", 50, "%", 0, 100))
    x = 0.5 * np.sin(2 * np.pi * 440 * np.arange(len(out)) / RATE)
    pre = 10 ** (12 / 20)
    assert out == pytest.approx(np.tanh(pre * x) * pre**-0.7, abs=1e-9)


@pytest.mark.parametrize(("hz", "gain", "expected"), [(3000, 6, 6.0), (3000, -6, -6.0), (100, 6, 0.0)])
def test_presence_lifts_3_khz_and_leaves_100_hz(hz, gain, expected):
    out = through("presence", number("d.g", "Presence", gain, "dB", -12, 12), hz=hz)
    assert rms(out, 1) == pytest.approx(-9.03 + expected, abs=0.05)


@pytest.mark.parametrize(("hz", "expected"), [(100, 0.0), (500, 3.0103), (2000, 24.1)])
def test_a_high_cut_at_500_hz_takes_12_db_an_octave(hz, expected):
    out = through("high cut", number("d.f", "Corner", 500, "Hz", 20, 20000, Axis.LOG), hz=hz)
    assert rms(out, 1) == pytest.approx(-9.03 - expected, abs=0.15)


def test_a_shelf_lifts_what_is_above_it():
    gain = number("d.g", "Treble", 6, "dB", -12, 12)
    assert rms(through("shelf", gain, hz=15_000), 1) == pytest.approx(-3.03, abs=0.2)
    assert rms(through("shelf", gain, hz=200), 1) == pytest.approx(-9.03, abs=0.05)


def test_a_delay_says_it_again_later_and_softer():
    """A tone that is let through for 0.1 s: after 0.25 s half as loud, after 0.5 s 0.95 · 40 % of that again."""
    parameters = (
        number("d.t", "Time", 250, "ms", 10, 2000),
        number("d.b", "Feedback", 40, "%", 0, 100),
        number("d.m", "Mix", 50, "%", 0, 100),
    )
    out = through("delay", *parameters, hz=1000)
    x = 0.5 * np.sin(2 * np.pi * 1000 * np.arange(len(out)) / RATE)
    late, back = round(0.25 * RATE), 0.95 * 0.4
    line, expected = np.zeros(len(x)), np.zeros(len(x))
    for a in range(0, len(x), late):
        b = min(a + late, len(x))
        came = line[a - late : b - late] if a else np.zeros(b - a)
        line[a:b] = x[a:b] + came * back
        expected[a:b] = x[a:b] + came * 0.5
    assert out == pytest.approx(expected, abs=1e-9)


def test_a_tremolo_goes_down_by_its_depth_as_often_as_it_says():
    """5 Hz, 100 %: nothing at 0.1 s, all at 0.2 s, half (−6 dB) at 0.05 s."""
    out = through(
        "tremolo", number("d.r", "Rate", 5, "Hz", 0.1, 20, Axis.LOG), number("d.d", "Depth", 100, "%", 0, 100), hz=2000
    )
    x = 0.5 * np.sin(2 * np.pi * 2000 * np.arange(len(out)) / RATE)
    gain = 0.5 + 0.5 * np.cos(2 * np.pi * 5 * np.arange(len(out)) / RATE)
    assert abs(out - x * gain).max() < 0.003


def test_a_hall_is_as_loud_however_long_and_rings_for_as_long_as_it_says():
    """Between two lengths (1 and 2 s) their powers add up; 60 dB less a decay after the sound has stopped."""
    size = []
    for decay in (1.0, 1.4, 2.0):
        track = a_track(
            number("d.s", "Decay", decay, "s", 0.1, 12),
            sound=Sound("noise", brightness=0.9, density=1.0),
            devices=(Device("d", "hall", "hall"),),
        )
        size.append(rms(heard(session(track, beats=12)), 3, 6))
        (node,) = score_of(session(track), 0, 100).channels[0].nodes
        shares = {name: ramp.values[0] for name, ramp in node.ramps.items() if name.startswith("decay")}
        assert sorted(shares) == {1.0: ["decay 1"], 1.4: ["decay 1", "decay 2"], 2.0: ["decay 2"]}[decay]
        assert sum(share**2 for share in shares.values()) == pytest.approx(1)
    assert size == pytest.approx([size[0]] * 3, abs=0.4)
    for i, decay in enumerate(DECAYS[:4]):
        room = impulse(i, RATE)
        assert (room**2).sum(axis=0) == pytest.approx([1, 1]) and len(room) == round(decay * RATE)
        late, early = (rms(room, at * decay, (at + 0.1) * decay) for at in (0.85, 0.35))
        assert early - late == pytest.approx(30, abs=3), "half of 60 dB in half of its length"


def test_a_device_is_switched_within_5_ms():
    words = (Label(0.0, "off"), Label(1.0, "on"))
    switch = Parameter("d.on", "On", Family.DEVICE, Kind.SWITCH, labels=words, value=1, device="d")
    corner = number("d.f", "Corner", 5000, "Hz", 20, 20000, Axis.LOG)
    off = lane("d.on", (0, 1, float("inf")), (4, 0, float("inf")))
    out = through("low cut", corner, switch, hz=440, lanes=(off,))
    assert rms(out, 1, 2) < -45 and rms(out, 2.005, 4) == pytest.approx(-9.03, abs=0.01)


def test_readings_say_where_it_is_loudest_and_where_it_goes_over():
    """A level of −20 dB, +12 from 2 s to 3 s: the loudest 300 ms begin there, and 0.5 · 3.98 is over full scale."""
    points = [(0, -20, float("inf")), (4, 12, float("inf")), (6, -20, float("inf"))]
    on = session(a_track(), lanes=[lane("t.level", *points, axis=Axis.LEVEL)])
    master, each = readings(score_of(on, 0, on.length), Library())
    assert 2.0 <= master.at <= 2.71 and master.clips == pytest.approx(2.0, abs=0.01)
    assert master.peak == pytest.approx(-6.02 + 12 - 3.01, abs=0.01) and each["t"] == master
    assert master.mean == pytest.approx(db(0.5 * 10 ** (12 / 20) / 2), abs=0.02)


def test_an_outline_is_what_sounds_also_behind_its_first_half_minute():
    sound = Sound("murmur", hz=120, seed=2)
    piece = Piece(sound, "take", 1.0, 70.0, 2.5, fades=False)
    columns = outline([piece], Library(), 0.0, 80.0)
    samples = abs(made(sound, "take", OUTLINED, round(2.5 * OUTLINED), 70 * OUTLINED))
    expected = samples.reshape(70 * PER_SECOND, -1).max(axis=1)
    assert columns[PER_SECOND : 71 * PER_SECOND] == pytest.approx(expected, abs=1e-6)
    assert not columns[:PER_SECOND].any() and not columns[71 * PER_SECOND :].any()
