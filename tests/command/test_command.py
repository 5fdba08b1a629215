"""The command line: every example of its page is run, results are checked in files, refusals end with 2."""

import re
import shlex
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest

from tests.formats.test_midi import CONDUCTOR, PLAYER, file_of
from velmot.command import main
from velmot.core.time import ticks_of
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
    assert main(["convert", "reed.velmot.json", "x.mid", "--into", "reed.velmot.json"]) == 2
