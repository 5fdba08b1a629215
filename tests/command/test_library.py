"""`import velmot`: the page's examples, and names that stand for ids."""

import doctest
import re
import subprocess
import sys
from pathlib import Path

import pytest

import velmot
from velmot.formats import session_file
from velmot.named import with_ids
from velmot.site.demo import skerry_light

PAGE = Path(__file__).parents[2] / "docs" / "python.md"
DEMO = skerry_light.session()


def test_every_example_of_the_page_is_so(tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    Path("skerry-light.velmot.json").write_bytes(session_file.write(DEMO))
    text = "\n".join(re.findall(r"^```python\n(.*?)^```", PAGE.read_text(), re.M | re.S))
    test = doctest.DocTestParser().get_doctest(text, {}, "page", str(PAGE), 0)
    outcome = doctest.DocTestRunner().run(test)
    assert outcome.failed == 0 and outcome.attempted >= 14


def test_what_is_named_is_there_and_nothing_is_loaded_before_it_is_wanted():
    for name in velmot.__all__:
        assert getattr(velmot, name).__doc__
    with pytest.raises(AttributeError, match="spoon"):
        velmot.spoon  # noqa: B018
    loaded = "import sys, velmot; print(any(m.startswith(('numpy', 'django', 'velmot.core')) for m in sys.modules))"
    assert subprocess.run([sys.executable, "-c", loaded], capture_output=True, text=True).stdout == "False\n"


def test_names_stand_for_ids_wherever_ids_are_asked_for():
    asked = {
        "verb": "follow",
        "source": "Keeper Level",
        "targets": [{"parameter": "Gulls Pan", "low": -20}],
        "name": "Gulls",
    }
    wanted = {
        "verb": "follow",
        "source": "keeper.level",
        "targets": [{"parameter": "gulls.pan", "low": -20}],
        "name": "Gulls",
    }
    assert with_ids(DEMO, asked) == wanted and with_ids(DEMO, wanted) == wanted
    assert with_ids(DEMO, {"regions": ["toll 2"], "tracks": ["Gulls", "bell"]}) == {
        "regions": ["bell.r2"],
        "tracks": ["gulls", "bell"],
    }


def test_a_name_that_is_nobodys_or_several_is_refused():
    with pytest.raises(velmot.RequestError, match="no lane is called “Gulls”"):
        velmot.plan(DEMO, {"verb": "thin", "lanes": ["Gulls"]})
    with pytest.raises(velmot.RequestError, match="3 regions are called “horn A”"):
        velmot.plan(DEMO, {"verb": "remove regions", "regions": ["horn A"], "automation": "goes"})
    with pytest.raises(velmot.RequestError, match="no parameter is called “Gulls”"):
        velmot.heard(DEMO, "Gulls")


def test_nothing_is_written_over_or_into_what_is_no_format(tmp_path):
    velmot.write(DEMO, tmp_path / "a.velmot.json")
    with pytest.raises(velmot.RequestError, match="there already"):
        velmot.write(DEMO, tmp_path / "a.velmot.json")
    velmot.write(DEMO, tmp_path / "a.velmot.json", overwrite=True)
    with pytest.raises(velmot.RequestError):
        velmot.write(DEMO, tmp_path / "a.doc")
    assert velmot.open(tmp_path / "a.velmot.json") == DEMO
    with pytest.raises(velmot.RequestError):
        (tmp_path / "b.mid").write_bytes(b"nothing")
        velmot.open(tmp_path / "b.mid")


def test_groups_are_in_what_is_heard_unless_they_are_told_not_to_be():
    at = velmot.ticks_of(40)
    own, whole = (float(velmot.heard(DEMO, "Bell buoy Level", groups=g).at(at)) for g in (False, True))
    fader = float(velmot.heard(DEMO, "Swell Level").at(at))
    assert whole == pytest.approx(own + fader, abs=1e-9) and fader != 0
