"""The command line: every example of its page is run, results are checked in files, refusals end with 2."""

import json
import re
import shlex
import subprocess
import sys
from hashlib import sha256
from pathlib import Path

import numpy as np
import pytest
import soundfile

from tests.formats.test_midi import CONDUCTOR, PLAYER, file_of
from velmot import written
from velmot.command import main
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import level, pan
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.time.ticks import ticks_of
from velmot.formats import midi, session_file
from velmot.site.demo import skerry_light

PAGE = Path(__file__).parents[2] / "docs" / "command-line.md"


@pytest.fixture
def folder(tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    Path("skerry-light.velmot.json").write_bytes(session_file.write(skerry_light.session()))
    return tmp_path


def test_every_example_of_the_page_does_what_it_says(folder, capfd):
    """The first as a process of its own, the others in this one."""
    examples = [
        example
        for block in re.findall(r"```\n(.*?)```", PAGE.read_text(), re.S)
        for example in re.findall(r"^\$ (.*)\n((?:(?!\$ ).*\n)*)", block, re.M)
    ]
    assert len(examples) > 12
    for n, (command, said) in enumerate(examples):
        if n and command.startswith("velmot "):
            assert main(shlex.split(command)[1:]) == 0
        else:
            run = command.replace("velmot ", f"{sys.executable} -m velmot.command ", 1) if n == 0 else command
            subprocess.run(run, shell=True, check=True)
        out = capfd.readouterr().out
        assert not said or out == said
    carried = session_file.read(Path("carried.velmot.json").read_bytes())[0]
    beats = np.array([ticks_of(b) for b in (33, 38, 47)])
    wanted = carried.lane("L1").envelope.at(beats)
    assert np.allclose(carried.lane_at("choir.level").envelope.at(beats), wanted, rtol=0, atol=1e-9)
    driven = (
        session_file.read(Path("driven.velmot.json").read_bytes())[0].lane_at("engine.rumble.rumble-cutoff").envelope
    )
    assert float(driven.at(ticks_of(46))) == pytest.approx(3200), "−5 dB, the highest of the range"


def test_verbs_are_listed_with_their_settings(capsys):
    assert main(["verbs"]) == 0
    out = capsys.readouterr().out
    assert "carry: Take what lanes do over a range" in out and "  targets: The tracks to carry them to" in out


@pytest.mark.parametrize(
    ("request_text", "said"),
    [
        ("spoon", "the request is not JSON"),
        ("[]", "not an object"),
        ('{"verb": "spoon"}', "“spoon” is no verb"),
        ('{"verb": "carry", "lanes": ["L99"], "targets": ["choir"]}', "there is no lane “L99”"),
        ('{"verb": "carry", "lanes": 5, "targets": ["choir"]}', "lanes: input should be a valid list"),
    ],
)
def test_refusals_say_why_and_end_with_2(folder, capsys, request_text, said):
    Path("request.json").write_text(request_text)
    assert main(["apply", "skerry-light.velmot.json", "request.json", "-o", "out.velmot.json"]) == 2
    assert said in capsys.readouterr().err and not Path("out.velmot.json").exists()


def test_some_lanes_are_written_as_a_table(folder, capsys):
    assert main(["convert", "skerry-light.velmot.json", "bell.csv", "--lanes", "L1", "L2"]) == 0
    rows = Path("bell.csv").read_text().splitlines()
    assert {r.split(",")[1] for r in rows[1:]} == {
        "Level",
        "Pan",
    } and "came: 2 lanes, 46 points" in capsys.readouterr().out
    assert main(["convert", "bell.csv", "back.velmot.json"]) == 0
    back = session_file.read(Path("back.velmot.json").read_bytes())[0]
    assert back.lanes[0].envelope == skerry_light.session().lane("L1").envelope
    assert main(["convert", "bell.csv", "out.mid", "--lanes", "L1"]) == 2
    assert "only a table can hold some lanes alone" in capsys.readouterr().err


def test_files_that_are_not_there_or_have_no_format(folder, capsys):
    assert main(["convert", "nothing.mid", "out.velmot.json"]) == 2
    assert main(["convert", "skerry-light.velmot.json", "out.spoon"]) == 2
    assert "names no format" in capsys.readouterr().err


def test_what_was_changed_goes_back_into_the_midi_file_it_came_from(folder, capsys):
    Path("reed.mid").write_bytes(source := file_of(CONDUCTOR, PLAYER))
    assert main(["convert", "reed.mid", "reed.velmot.json"]) == 0
    assert main(["convert", "reed.velmot.json", "same.mid", "--into", "reed.mid"]) == 0
    assert Path("same.mid").read_bytes() == source
    Path("r.json").write_text('{"verb": "clear", "scope": "lanes", "lanes": ["L1"]}')
    assert main(["apply", "reed.velmot.json", "r.json", "-o", "less.velmot.json"]) == 0
    assert main(["convert", "less.velmot.json", "less.mid", "--into", "reed.mid"]) == 0
    assert "changed: Reed, channel 1 Level: its events are taken out" in capsys.readouterr().out
    assert midi.read(Path("less.mid").read_bytes())[0].lanes[0].parameter == "t1.cc11"
    assert main(["convert", "reed.velmot.json", "x.mid", "--into", "reed.velmot.json", "--overwrite"]) == 2


def midi_file(name: str) -> bytes:
    Path(name).write_bytes(data := file_of(CONDUCTOR, PLAYER))
    return data


CLEAR = '{"verb": "clear", "scope": "lanes", "lanes": ["L1"]}'


def test_no_input_is_written_over_and_no_other_file_unasked(folder, capsys):
    before = midi_file("reed.mid")
    Path("r.json").write_text(CLEAR)
    for command in (
        ["convert", "reed.mid", "reed.mid", "--overwrite"],
        ["convert", "reed.mid", "./reed.mid"],
        ["apply", "reed.mid", "r.json", "-o", "reed.mid", "--overwrite"],
        ["convert", "skerry-light.velmot.json", "reed.mid", "--into", "reed.mid", "--overwrite", "--into-another"],
        ["convert", "reed.mid", "--folder", ".", "--overwrite"],
    ):
        assert main(command) == 2, command
        assert Path("reed.mid").read_bytes() == before and "written over" in capsys.readouterr().err
    Path("there.csv").write_text("mine")
    assert main(["convert", "reed.mid", "there.csv"]) == 2
    assert "is there already; expected: another name, or --overwrite" in capsys.readouterr().err
    assert Path("there.csv").read_text() == "mine"
    assert main(["convert", "reed.mid", "there.csv", "--overwrite"]) == 0 and Path("there.csv").read_text() != "mine"


def test_a_midi_file_keeps_its_notes_and_only_its_own_is_written_into(folder, capsys):
    source = midi_file("reed.mid")
    Path("r.json").write_text(CLEAR)
    assert main(["apply", "reed.mid", "r.json", "-o", "less.mid"]) == 0
    notes = [b"\x90", b"\x91"]
    assert any(n in Path("less.mid").read_bytes() for n in notes) and len(Path("less.mid").read_bytes()) < len(source)
    assert "came: " in capsys.readouterr().out, "what was read is told"
    assert main(["convert", "reed.mid", "bare.mid", "--anew"]) == 0
    assert main(["convert", "reed.mid", "reed.velmot.json"]) == 0
    Path("other.mid").write_bytes(source + b"XFIH\x00\x00\x00\x01x")
    assert main(["convert", "reed.velmot.json", "x.mid", "--into", "other.mid"]) == 2
    assert (
        "other.mid is not the file this session came from; expected: that file, or --into-another"
        in capsys.readouterr().err
    )
    assert main(["convert", "reed.velmot.json", "x.mid", "--into", "other.mid", "--into-another"]) == 0
    assert main(["convert", "skerry-light.velmot.json", "y.mid", "--into", "reed.mid"]) == 2
    assert "does not say which file it came from" in capsys.readouterr().err
    assert main(["convert", "reed.velmot.json", "z.mid"]) == 0
    assert "left out: the notes and all else of the MIDI file it came from" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("command", "said"),
    [
        (["convert", "reed.mid", "x.csv", "--into", "reed.mid"], "x.csv is no MIDI file"),
        (["convert", "reed.mid", "x.velmot.json", "--resolution", "960"], "x.velmot.json is no MIDI file"),
        (["convert", "reed.mid", "x.mid", "--controller", "spoon=cc 7"], "names no parameter with a lane"),
        (["convert", "reed.mid", "x.mid", "--span", "t1.cc7=5"], "is no span"),
        (["convert", "reed.mid"], "one file is converted into another"),
        (["convert", "*.spoon", "--folder", "out"], "no file is found there"),
        (["convert", "reed.mid", "--folder", "out", "--as", "spoon"], "names no format"),
        (["apply", "reed.mid"], "a session and a request are needed"),
        (["apply", "reed.mid", "deep.json", "-o", "x.mid"], "nested too deeply"),
        (["apply", "reed.mid", "bytes.json", "-o", "x.mid"], "the request is not text"),
        (["apply", "reed.mid", "r.json"], "one session is written to a file"),
        (["convert", "reed.mid", "nowhere/x.mid"], "nowhere/x.mid: No such file or directory"),
    ],
)
def test_whatever_does_not_go_is_one_sentence(folder, capsys, command, said):
    midi_file("reed.mid")
    Path("r.json").write_text(CLEAR)
    Path("deep.json").write_text("[" * 200_000)
    Path("bytes.json").write_bytes(b"\x80\x81")
    before = sorted(x.name for x in folder.iterdir())
    assert main(command) == 2
    err = capsys.readouterr().err
    assert said in err and len(err.splitlines()) == 1
    assert [x for x in sorted(x.name for x in folder.iterdir()) if x != "out"] == before


def test_requests_in_utf_16_full_disks_and_closed_pipes(folder, capsys, monkeypatch):
    midi_file("reed.mid")
    Path("r.json").write_text(CLEAR, encoding="utf-16")
    assert main(["apply", "reed.mid", "r.json", "-o", "x.mid"]) == 0
    capsys.readouterr()

    def full(*_args, **_more):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("velmot.written.os.fdopen", full)
    assert main(["convert", "reed.mid", "y.csv"]) == 2
    assert capsys.readouterr().err == "velmot: y.csv: No space left on device\n"
    assert not [x for x in folder.iterdir() if x.name.startswith((".velmot", "y"))]
    monkeypatch.undo()
    monkeypatch.chdir(folder)
    ends = subprocess.run(
        f"{sys.executable} -m velmot.command verbs | head -c 1", shell=True, capture_output=True, text=True
    )
    assert ends.stderr == ""


def test_two_hundred_files_and_a_request_in_one_call_that_goes_on_where_it_was_stopped(folder, capsys):
    """Every file keeps its notes; one that is damaged is named, the others go on; nothing else is touched."""
    Path("songs").mkdir()
    source = file_of(CONDUCTOR, PLAYER)
    for n in range(200):
        Path(f"songs/{n:03}.mid").write_bytes(source)
    Path("songs/007.mid").write_bytes(source[:20])
    Path("songs/notes.txt").write_text("no song")
    Path("r.json").write_text(CLEAR)
    Path("done").mkdir()
    Path("done/000.mid").write_bytes(b"made before")
    assert main(["apply", "songs", "r.json", "--folder", "done"]) == 1
    said = capsys.readouterr()
    assert said.out.splitlines()[-1] == "200 files: 1 there already, 198 written, 1 refused"
    assert said.err.count("\n") == 1 and "007.mid" in said.err
    assert len([*Path("done").iterdir()]) == 199 and Path("done/000.mid").read_bytes() == b"made before"
    made = Path("done/150.mid").read_bytes()
    assert midi.read(made)[0].lanes[0].parameter == "t1.cc11" and Path("songs/150.mid").read_bytes() == source
    assert main(["apply", "songs/00?.mid", "r.json", "--folder", "done", "--json", "--overwrite"]) == 1
    rows = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert len(rows) == 10 and [r["happened"] for r in rows].count("written") == 9
    assert rows[0]["title"].startswith("Clear") and rows[0]["target"] == "done/000.mid"
    assert main(["convert", "songs/00[0-6].mid", "--folder", "tables", "--as", ".csv", "--quiet"]) == 0
    assert capsys.readouterr() == ("", "") and len([*Path("tables").iterdir()]) == 7


def test_controllers_spans_and_resolution_are_chosen(folder, capsys):
    chosen = ["--controller", "bell.level=cc 20", "--span", "bell.level=-60..6", "--resolution", "480"]
    assert main(["convert", "skerry-light.velmot.json", "x.mid", *chosen]) == 0
    out = capsys.readouterr().out
    assert "Bell buoy Level as cc 20, −60.0 dB to 6.0 dB" in out
    assert int.from_bytes(Path("x.mid").read_bytes()[12:14]) == 480


def test_stopped_by_its_user_it_says_so_in_a_sentence_and_goes_on_when_asked_again(folder, capsys, monkeypatch):
    for n in range(5):
        Path(f"{n}.mid").write_bytes(file_of(CONDUCTOR, PLAYER))
    Path("r.json").write_text(CLEAR)
    put, there = written.write, []

    def third(path, data):
        there.append(path)
        if len(there) == 3:
            raise KeyboardInterrupt
        put(path, data)

    monkeypatch.setattr(written, "write", third)
    assert main(["apply", "[0-9].mid", "r.json", "--folder", "done", "--quiet"]) == 130
    assert capsys.readouterr().err.startswith("velmot: stopped; what is written is whole")
    assert len([*Path("done").iterdir()]) == 2
    assert main(["apply", "[0-9].mid", "r.json", "--folder", "done"]) == 0
    assert capsys.readouterr().out.splitlines()[-1] == "5 files: 2 there already, 3 written"


def test_a_session_is_rendered_as_a_mix_and_as_a_file_for_each_track(folder, capsys):
    """A sine of half in the middle, 6 dB down: 0.5 · 10^(−6/20) / √2 on each side; two tracks together are the mix."""
    tone = {"kind": "tone", "hz": 500, "amplitude": 0.5}
    fader = {"id": "a.l", "name": "Level", "family": "level", "axis": "level", "unit": "dB", "low": -96, "high": 12,
             "default": 0, "value": -6}  # fmt: skip
    tracks = [
        {"id": "a", "name": "A/B", "parameters": [fader], "sound": tone},
        {"id": "b", "name": "A_B", "parameters": [fader | {"id": "b.l"}], "sound": tone | {"hz": 250}},
    ]
    row = {"format": "velmot-session", "version": 3, "name": "s", "length": 16, "tracks": tracks, "lanes": [],
           "markers": [{"id": "m", "name": "go", "at": 4}]}  # fmt: skip
    Path("s.velmot.json").write_text(json.dumps(row))
    assert main(["render", "s.velmot.json", "-o", "mix.wav", "--range", "go-3.1.00", "--bits", "32f"]) == 0
    assert "wrote mix.wav" in capsys.readouterr().out
    mix, rate = soundfile.read("mix.wav")
    assert (rate, mix.shape) == (48_000, (96_000, 2)), "from beat 4 to beat 8 at 120 bpm"
    assert main(["render", "s.velmot.json", "--each", "each", "--range", "2.1.00-3.1.00", "--bits", "32f"]) == 0
    each = {path.name: soundfile.read(path)[0] for path in Path("each").iterdir()}
    assert sorted(each) == ["A_B 2.wav", "A_B.wav"] and sum(each.values()) == pytest.approx(mix, abs=1e-6)
    assert abs(each["A_B.wav"]).max() == pytest.approx(0.5 * 10 ** (-6 / 20) / 2**0.5, abs=1e-4)
    assert main(["render", "s.velmot.json", "-o", "b.flac", "--tracks", "b", "--rate", "44100", "--bits", "16"]) == 0
    alone, rate = soundfile.read("b.flac")
    assert rate == 44_100 and abs(np.fft.rfft(alone[:44_100, 0])).argmax() == 250
    for wrong, said in (
        (["-o", "mix.wav"], "is there already"),
        (["-o", "s.velmot.json"], "an ending that names no sound"),
        (["-o", "x.wav", "--each", "y"], "a mix is one file"),
        (["-o", "x.wav", "--range", "1.1.00"], "is no range"),
        (["-o", "x.wav", "--range", "3.1.00-2.1.00"], "nothing to render"),
        (["-o", "x.wav", "--tracks", "nobody"], "no track is called “nobody”"),
        (["-o", "x.wav", "--rate", "8000"], "8,000 samples a second are not offered"),
        (["-o", "x.flac", "--bits", "32f"], "FLAC has no floating samples"),
    ):
        assert main(["render", "s.velmot.json", *wrong]) == 2, wrong
        assert said in capsys.readouterr().err, wrong
    assert not [path for path in folder.iterdir() if path.name.startswith(".velmot")]


def test_own_files_are_found_beside_a_session_by_name_and_digest_and_missed_in_words(folder, capsys):
    soundfile.write("knock.wav", np.full(48_000, 0.25), 48_000, "FLOAT")
    digest = sha256(Path("knock.wav").read_bytes()).hexdigest()
    sound = {"kind": "file", "audio": {"name": "knock.wav", "digest": digest}, "start": 2}
    row = {"format": "velmot-session", "version": 3, "name": "s", "length": 8, "lanes": [],
           "tracks": [{"id": "a", "name": "Bell", "sound": sound}]}  # fmt: skip
    Path("s.velmot.json").write_text(json.dumps(row))
    assert main(["render", "s.velmot.json", "-o", "x.wav", "--bits", "32f"]) == 0
    made, _ = soundfile.read("x.wav")
    assert not made[:48_000].any() and made[48_000:96_000] == pytest.approx(0.25 / 2**0.5) and not made[96_000:].any()
    Path("knock.wav").write_bytes(Path("knock.wav").read_bytes() + b"x")
    capsys.readouterr()
    assert main(["render", "s.velmot.json", "-o", "y.wav"]) == 0
    assert "“knock.wav” is not there: a stand-in sounds for it" in capsys.readouterr().out


def odd() -> Session:
    """Eight bars: a level that stays at its resting value, and a pan whose straight way has twenty points."""
    track = Track("a", "Bell", parameters=(level("a.level", value=-6.0), pan("a.pan")))
    idle = Envelope.of([(0, -6.0), (ticks_of(9), -6.0)], Axis.LEVEL)
    ramp = Envelope.of([(ticks_of(n / 2), float(n)) for n in range(20)], Axis.LINEAR)
    lanes = Lane("idle", "a.level", "track", idle), Lane("ramp", "a.pan", "track", ramp)
    return Session("odd", ticks_of(32), (track,), lanes).checked()


def test_what_is_odd_is_listed_for_people_and_programs_and_what_is_idle_goes(folder, capsys):
    Path("odd.velmot.json").write_bytes(session_file.write(odd()))
    assert main(["findings", "odd.velmot.json"]) == 0
    assert capsys.readouterr().out.splitlines() == [
        "does nothing (1)",
        "  Bell Level, 1.1.00 to 9.1.00: stays at its resting value, −6.0 dB",
        "cut to pieces (1)",
        "  Bell Pan, 1.1.00 to 9.1.00: 18 points of 20 could go without changing anything",
    ]
    assert main(["findings", "odd.velmot.json", "--json", "--sure", "0.9", "--kind", "nothing"]) == 3
    (row,) = json.loads(capsys.readouterr().out)
    assert (row["kind"], row["track"], row["lane"], row["start"], row["end"]) == ("nothing", "a", "idle", 0, 32)
    assert (row["unit"], row["sure"]) == ("dB", 1.0) and row["words"].startswith("stays at its resting value")
    Path("mend.json").write_text(json.dumps(row["mend"]))
    assert main(["apply", "odd.velmot.json", "mend.json", "-o", "mended.velmot.json"]) == 0
    assert main(["findings", "mended.velmot.json", "--sure", "0.1", "--kind", "nothing"]) == 0
    assert capsys.readouterr().out.endswith("nothing is found\n")

    assert main(["tidy", "odd.velmot.json"]) == 0
    assert capsys.readouterr().out.splitlines()[-1] == "1 lane gone, 22 → 2 points"
    assert main(["tidy", "odd.velmot.json", "-o", "odd.velmot.json"]) == 2, "no input is written over"
    assert main(["tidy", "odd.velmot.json", "-o", "tidied.velmot.json"]) == 0
    session = session_file.read(Path("tidied.velmot.json").read_bytes())[0]
    assert [(lane.id, len(lane.envelope)) for lane in session.lanes] == [("ramp", 2)]
    Path("other.velmot.json").write_bytes(session_file.write(odd()))
    assert main(["tidy", "odd.velmot.json", "other.velmot.json", "--folder", "clean", "--as", ".csv"]) == 0
    assert sorted(path.name for path in Path("clean").iterdir()) == ["odd.csv", "other.csv"]
    assert main(["tidy", "odd.velmot.json", "other.velmot.json"]) == 2, "many need a folder"
    capsys.readouterr()
    assert main(["tidy", "odd.velmot.json", "--within", "much"]) == 2
    assert "“much” is no bound" in capsys.readouterr().err
