"""Many files, the same steps: several at a time, each whole, refused ones named, gone on after a stop, shared out."""

import json
import os
import re
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from velmot.command import main
from velmot.formats import session_file
from velmot.site.demo import skerry_light

STEPS = [{"verb": "carry", "lanes": ["Bell buoy Level"], "targets": ["Gulls"], "start": 32, "end": 48},
         {"verb": "set mode", "tracks": ["Kelp choir"], "mode": "read"}]  # fmt: skip
DEMO = session_file.write(skerry_light.session())


@pytest.fixture
def folder(tmp_path, monkeypatch):
    """Six songs, one of them nothing that can be read, and the steps."""
    monkeypatch.chdir(tmp_path)
    Path("songs").mkdir()
    for n in range(5):
        Path(f"songs/song{n}.velmot.json").write_bytes(DEMO)
    Path("songs/song5.velmot.json").write_bytes(b"{}")
    Path("steps.json").write_text(json.dumps(STEPS))
    return tmp_path


def batch(*more: str) -> int:
    return main(["batch", "songs", "--do", "steps.json", "--folder", "done", *more])


def report() -> list[dict]:
    return [json.loads(line) for line in Path("done/velmot-batch.jsonl").read_text().splitlines()]


@pytest.mark.parametrize("jobs", ["1", "2"])
def test_each_file_is_done_by_names_and_one_that_cannot_be_read_is_refused(folder, capsys, jobs):
    assert batch("--jobs", jobs) == 1
    said = capsys.readouterr()
    assert (
        "6 files: 5 done, 1 refused" in said.out and "song5.velmot.json: " in said.err and "Traceback" not in said.err
    )
    done = session_file.read(Path("done/song3.velmot.json").read_bytes())[0]
    assert done.lane_at("gulls.level") is not None and done.track("choir").reads
    rows = {Path(row["source"]).name: row for row in report()}
    assert rows["song3.velmot.json"]["titles"] == [
        "Carry Bell buoy Level from 9.1.00 to 13.1.00 to Gulls, the same place, copied; edges jump",
        "Set Kelp choir to read",
    ]
    assert rows["song5.velmot.json"]["happened"] == "refused" and rows["song5.velmot.json"]["refused"]
    assert not Path("done/song5.velmot.json").exists()


def test_what_is_done_is_not_done_again_but_what_has_changed_or_gone_is(folder, capsys):
    batch("--jobs", "1")
    first = {path.name: path.stat().st_mtime_ns for path in Path("done").glob("*.velmot.json")}
    capsys.readouterr()
    assert batch("--jobs", "1") == 1
    assert "6 files: 0 done, 1 refused, 5 done before" in capsys.readouterr().out
    assert {path.name: path.stat().st_mtime_ns for path in Path("done").glob("*.velmot.json")} == first
    Path("done/song0.velmot.json").unlink()
    Path("songs/song1.velmot.json").write_bytes(DEMO.replace(b"Skerry Light", b"Skerry Night"))
    batch("--jobs", "1")
    assert "2 done, 1 refused, 3 done before" in capsys.readouterr().out
    assert session_file.read(Path("done/song1.velmot.json").read_bytes())[0].name == "Skerry Night"
    Path("steps.json").write_text(json.dumps(STEPS[:1]))
    batch("--jobs", "1")
    assert "5 done, 1 refused" in capsys.readouterr().out


def test_a_file_of_somebody_elses_is_never_written_over(folder, capsys):
    Path("done").mkdir()
    Path("done/song2.velmot.json").write_text("mine")
    assert batch() == 2
    assert "song2.velmot.json is there already" in capsys.readouterr().err
    assert Path("done/song2.velmot.json").read_text() == "mine" and not Path("done/song0.velmot.json").exists()


def test_killed_in_the_middle_it_goes_on_and_every_file_is_whole(folder):
    for n in range(6, 40):
        Path(f"songs/song{n}.velmot.json").write_bytes(DEMO)
    command = [
        sys.executable,
        "-m",
        "velmot.command",
        "batch",
        "songs",
        "--do",
        "steps.json",
        "--folder",
        "done",
        "--jobs",
        "2",
    ]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, start_new_session=True)
    for _ in range(4):
        process.stdout.readline()
    os.killpg(process.pid, signal.SIGKILL)
    process.wait()
    time.sleep(0.1)
    with Path("done/velmot-batch.jsonl").open("a") as half:
        half.write('{"source": "songs/so')  # as a kill may leave it
    before = len(list(Path("done").glob("*.velmot.json")))
    assert 0 < before < 39
    for path in Path("done").glob("*.velmot.json"):
        session_file.read(path.read_bytes())
    said = subprocess.run(command, capture_output=True, text=True)
    found = re.search(r"40 files: (\d+) done, 1 refused(?:, (\d+) done before)?", said.stdout)
    assert found and int(found[1]) + int(found[2] or 0) == 39 and int(found[2] or 0) >= before - 2
    assert len(list(Path("done").glob("*.velmot.json"))) == 39


def test_shares_have_every_file_once(folder, capsys):
    for share in ("1/3", "2/3", "3/3"):
        main(["batch", "songs", "--do", "steps.json", "--folder", f"done{share[0]}", "--share", share, "--jobs", "1"])
    names = sorted(path.name for n in "123" for path in Path(f"done{n}").glob("*.velmot.json"))
    assert names == [f"song{n}.velmot.json" for n in range(5)]
    capsys.readouterr()
    for wrong in ("0/3", "4/3", "three", "1/"):
        assert batch("--share", wrong) == 2
        assert "is no share of the files; expected: 3/20" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("steps", "said"),
    [
        ("spoon", "the request is not JSON"),
        ("[]", "the steps are not a list of requests"),
        ('[{"verb": 4}]', "the steps are not a list of requests"),
        ('{"verb": "carry", "lanes": ["Nobody"], "targets": ["Gulls"]}', "no lane is called “Nobody”"),
        ('{"verb": "spoon"}', "“spoon” is no verb"),
    ],
)
def test_steps_that_are_none_are_refused(folder, capsys, steps, said):
    Path("songs/song5.velmot.json").unlink()
    Path("steps.json").write_text(steps)
    assert batch("--jobs", "1") == 2
    assert said in capsys.readouterr().err and not list(Path("done").glob("*.velmot.json"))


def test_other_formats_and_names_that_meet(folder, capsys):
    assert batch("--as", ".csv", "--jobs", "1") == 1
    assert Path("done/song1.csv").read_text().startswith("track,")
    Path("more").mkdir()
    Path("more/song1.velmot.json").write_bytes(DEMO)
    assert main(["batch", "songs", "more", "--do", "steps.json", "--folder", "other"]) == 2
    assert "files of different names" in capsys.readouterr().err
