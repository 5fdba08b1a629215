"""docs/add-a-verb.md, followed by the letter in a copy of the tree: the verb it adds is there everywhere at once."""

import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
BLOCK = re.compile(r"^```\w+\n# (\S+?)(?:: (in [^\n]+))?\n(.*?)^```$", re.M | re.S)
USED = """
import json
from velmot.core import verbs
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import level
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs.rounding.request import RoundTimes
from velmot.site.generated import _table
points = [(b(0.4), -6.0), (b(1.6), 0.0), (b(2.2), -3.0), (b(2.3), -4.0), (b(1.75) + b(0.6), -5.0), (b(5), 1.0)]
track = Track("t", "Bell", parameters=(level("t.level"),), regions=(Region("r", "toll", b(0.5), b(8)),))
lane = Envelope.of(points, level("x").axis)
session = Session("s", b(16), (track,), (Lane("L", "t.level", "track", lane), Lane("M", "t.level", "r", lane)))
request = RoundTimes(("L", "M"))
change = verbs.plan(session, "round times", request)
after = change.applied_to(session)
rounded = {x.id: [(t / b(1), v) for t, v in zip(x.envelope.ticks.tolist(), x.envelope.values.tolist())] for x in after.lanes}
refused = []
for asked in (RoundTimes(()), RoundTimes(("L",), 0)):
    try:
        verbs.plan(session, "round times", asked)
    except Exception as error:
        refused.append(error.message)
table = _table()
sheet = json.loads(table.split("export const PLAIN_SHEETS = ")[1].split(" as const")[0])["round"]
row = '  "round times/'
fields = {line[len(row):].split('"')[0]: json.loads(line.split(": ", 1)[1].rstrip(",")) for line in table.splitlines() if line.startswith(row)}
print(json.dumps({"rounded": rounded, "title": change.title, "refused": refused, "sheet": sheet, "fields": fields}))
"""


@pytest.fixture(scope="module")
def followed(tmp_path_factory) -> Path:
    """A copy of the tree in which the page was followed."""
    folder = tmp_path_factory.mktemp("round") / "velmot"
    for part in ("src", "docs", "frontend/src/worksheet"):
        skipped = shutil.ignore_patterns("__pycache__", "*.egg-info", "screenshots")
        shutil.copytree(ROOT / part, folder / part, ignore=skipped)
    shutil.copy(ROOT / "pyproject.toml", folder)
    for name, where, text in BLOCK.findall((ROOT / "docs/add-a-verb.md").read_text()):
        path = folder / name
        if not where:
            path.parent.mkdir(exist_ok=True)
            path.write_text(text)
        elif where == "in VERBS":
            path.write_text(path.read_text().replace('\n    Verb("Paste"', f'\n{text}    Verb("Paste"'))
        elif where == "in WORDS":
            path.write_text(path.read_text().replace('    "group-circle"', f'{text}    "group-circle"'))
        else:
            path.write_text(
                path.read_text().replace('    "velmot.core.verbs.carry",', f'{text}    "velmot.core.verbs.carry",')
            )
    return folder


def told(folder: Path, *command: str) -> subprocess.CompletedProcess:
    surroundings = os.environ | {"PYTHONPATH": str(folder / "src"), "VELMOT_DATA": str(folder / "data")}
    surroundings["DJANGO_SETTINGS_MODULE"] = "velmot.site.settings"
    return subprocess.run(command, cwd=folder, env=surroundings, capture_output=True, text=True, timeout=120)


def test_its_verb_does_what_it_says_and_has_a_sheet(followed):
    done = told(followed, sys.executable, "-c", USED)
    assert done.returncode == 0, done.stderr
    said = json.loads(done.stdout)
    on_track = [[0, -6], [2, 0], [2, -5], [5, 1]]  # of four on one line the outermost
    assert said["rounded"]["L"] == on_track
    in_region = [[0.5, -6], [1.5, 0], [2.5, -3], [2.5, -5], [5.5, 1]]  # lines count from the session's start
    assert said["rounded"]["M"] == in_region
    assert said["title"] == "Round the times of Bell Level, Bell Level in toll to a grid of 1 beat"
    assert said["refused"] == ["no lane is chosen", "lines that are 0 ticks apart lie on each other"]
    assert said["sheet"] == [{"verb": "round times", "fields": ["lanes", "grid"]}]
    assert said["fields"]["lanes"] == {"kind": "lanes", "label": "Lanes", "says": "The lanes, by id.", "needed": True}
    grid = {"kind": "length", "label": "Grid", "says": "How far apart the lines are.", "usual": 1.0}
    assert said["fields"]["grid"] == grid


def test_the_command_line_lists_it_and_the_layers_hold(followed):
    listed = told(followed, sys.executable, "-m", "velmot.command", "verbs").stdout
    assert "Round (on the worksheet: O)" in listed and "grid: How far apart the lines are." in listed
    layers = told(followed, str(Path(sys.executable).parent / "lint-imports"))
    assert layers.returncode == 0, layers.stdout[-2000:]
    inside = followed / "src/velmot/core/verbs/rounding/round_times.py"
    inside.write_text(inside.read_text() + "\nfrom velmot.core.verbs.thin.thin import plan as other  # noqa\n")
    assert told(followed, str(Path(sys.executable).parent / "lint-imports")).returncode == 1
