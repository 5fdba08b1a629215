"""Listening: the page's sound beside the core's, now or if applied while it plays, alone, by silhouette, one's own file."""

import base64
import io
import json
from dataclasses import replace
from pathlib import Path
from random import Random

import numpy as np
import pytest
import soundfile
from playwright.sync_api import expect

from tests import strategies
from tests.browser.conftest import Desk
from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import ticks_of
from velmot.core.verbs import plan
from velmot.formats import session_file
from velmot.formats.requests import from_row
from velmot.sound.library import Library
from velmot.sound.path import score_of
from velmot.sound.render import rendered

RATE = 48_000
DIST = Path(__file__).parents[2] / "frontend" / "dist"


@pytest.fixture
def desk(page, server) -> Desk:
    """Time sounds here as it does."""
    return Desk(page, server, heard=True)


def page_sound(page, id, score):
    """What the page's graph makes of a score: (frames, 2)."""
    script = json.loads((DIST / "manifest.json").read_text())["src/sound/offline.ts"]["file"]
    sides = page.evaluate(
        "async ([script, id, score]) => (await import(script)).rendered(id, score)", [f"/static/{script}", id, score]
    )
    return np.column_stack([np.frombuffer(base64.b64decode(side), "<f4") for side in sides]).astype(float)


def asked(page, id, body):
    return page.evaluate(
        """async ([id, body]) => {
          const token = /velmot_csrf=([^;]*)/.exec(document.cookie)[1]
          const headers = { 'X-CSRFToken': token, 'Content-Type': 'application/json' }
          return (await fetch(`/api/sessions/${id}/score`, { method: 'POST', headers, body: JSON.stringify(body) })).json()
        }""",
        [id, body],
    )


def levels(samples, seconds=0.05):
    """RMS of each side in every 50 ms, in dB."""
    frames = round(seconds * RATE)
    whole = len(samples) // frames * frames
    return 10 * np.log10((samples[:whole].reshape(-1, frames, 2) ** 2).mean(axis=1) + 1e-14)


def apart(one, other, within, quiet=-70.0):
    """The parts of some time, of those where anything is heard, in which two sounds are further apart than so many dB."""
    a, b = levels(one), levels(other)
    heard = (a > quiet) | (b > quiet)
    assert heard.mean() > 0.3, "something is heard"
    return float((abs(a - b) > within)[heard].mean())


@pytest.mark.parametrize(
    ("tracks", "within"),
    [
        (["keeper"], 0.3),  # presence, a hall, rides, mutes
        (["bell", "foghorn"], 0.3),  # low cut, drive, groups, region lanes
        (["gulls", "rain", "engine"], 0.3),  # pans that circle, buses
        (None, 0.3),
    ],
)
def test_the_page_sounds_as_the_core_renders(page, server, tracks, within):
    page.goto(server.url)
    session = server.session()
    start, end = 24.0, 36.0
    said = asked(page, 1, {"start": start, "end": end, "tracks": tracks})["now"]
    made = page_sound(page, 1, said)
    a, b = (session.tempo.tick_at(x) for x in (start, end))
    expected = rendered(score_of(session, a, b, tracks and frozenset(tracks)), Library())
    frames = min(len(made), len(expected))
    assert abs(len(made) - len(expected)) <= 2
    assert apart(made[:frames], expected[:frames], within) == 0


def test_levels_and_pans_are_within_a_twentieth_of_a_decibel(page, server):
    """Without filters and halls: a tone under a level and a pan that move, bend and jump."""
    session = server.session()
    row = json.loads(session_file.write(session))
    row["tracks"] = [t for t in row["tracks"] if t["id"] in ("gulls", "swell")]
    row["tracks"][1]["members"] = ["gulls"]
    for track in row["tracks"]:
        track["parameters"] = [p for p in track["parameters"] if p["family"] != "send"]
        track.pop("regions", None)
    row["tracks"][0]["sound"] = {"kind": "tone", "hz": 440, "amplitude": 0.5}
    kept = {p["id"] for t in row["tracks"] for p in t["parameters"]}
    row["lanes"] = [x for x in row["lanes"] if x["parameter"] in kept and x.get("home", "track") == "track"]
    page.goto(server.url)
    page.get_by_label("File to import").set_input_files(
        {"name": "tone.velmot.json", "mimeType": "application/json", "buffer": json.dumps(row).encode()}
    )
    expect(page.get_by_role("region", name="Import report")).to_contain_text("tone.velmot.json")
    id = max(x["id"] for x in server.json("sessions"))
    made = page_sound(page, id, asked(page, id, {"start": 30, "end": 50})["now"])
    tone = server.session(id)
    a, b = (tone.tempo.tick_at(x) for x in (30.0, 50.0))
    expected = rendered(score_of(tone, a, b), Library())
    frames = min(len(made), len(expected))
    assert apart(made[:frames], expected[:frames], 0.05) == 0


def test_now_and_if_applied_differ_where_and_as_the_preview_says(page, server):
    page.goto(server.url)
    session = server.session()
    lane = next(x for x in session.lanes if x.parameter == "keeper.level")
    rows = {"verb": "reshape", "lanes": [lane.id], "start": 36, "end": 44, "moves": [{"unit": "dB", "by": 3}]}
    verb, request = from_row(rows)
    change = plan(session, verb, request)
    said = asked(page, 1, {"start": 22, "end": 30, "tracks": ["keeper"], "request": rows})
    now, come = (page_sound(page, 1, said[x]) for x in ("now", "applied"))
    first, last = (float(session.tempo.seconds(ticks_of(x))) for x in (36, 44))
    difference = levels(come) - levels(now)
    times = 22 + (np.arange(len(difference)) + 0.5) * 0.05
    speaks = levels(now)[:, 0] > -60
    inside = speaks & (times > first + 0.1) & (times < last - 0.1)
    assert inside.sum() > 20 and difference[inside].mean() == pytest.approx(3, abs=0.25)
    assert abs(difference[(times < first - 0.1)]).max() < 0.05
    assert change.touched[0].difference == pytest.approx(3)


def test_one_word_is_raised_heard_both_ways_put_right_and_applied(desk, server, page):
    """Space plays; Shift n goes over to what would come and back; the figure says by how much it is louder."""
    desk.open()
    desk.drag_range("keeper.level", 36, 44)
    page.keyboard.press("r")
    page.get_by_label("By how many dB").fill("3")
    page.keyboard.press("Tab")
    expect(desk.result).to_contain_text("up to 3.00 dB")
    desk.canvas_of("keeper.level").focus()
    page.keyboard.press("Space")
    group = page.get_by_role("radiogroup", name="What is heard")
    expect(page.get_by_role("button", name="Stop").first).to_be_visible()
    expect(page.get_by_role("button", name="Readings")).to_be_visible()
    desk.until("!/−∞/.test(document.querySelector('.master').textContent)")
    page.keyboard.press("Shift+N")
    expect(group.get_by_role("radio", name="if applied")).to_be_checked()
    page.get_by_role("button", name="equally loud").click()
    expect(page.get_by_role("button", name="equally loud")).to_contain_text("dB")
    page.keyboard.press("Shift+N")
    expect(group.get_by_role("radio", name="now")).to_be_checked()
    page.get_by_label("By how many dB").fill("2.5")
    page.keyboard.press("Tab")
    expect(desk.result).to_contain_text("up to 2.50 dB")
    desk.canvas_of("keeper.level").focus()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Play").first).to_be_visible()
    page.wait_for_timeout(150)  # what was heard is let go of
    desk.canvas_of("keeper.level").focus()
    page.keyboard.press("Space")
    desk.until("!/−∞/.test(document.querySelector('.master')?.textContent ?? '−∞')")
    page.keyboard.press("Space")
    before = server.session().lane_at("keeper.level").envelope.at([ticks_of(40)])[0]
    desk.apply()
    desk.at_revision(1)
    assert server.session().lane_at("keeper.level").envelope.at([ticks_of(40)])[0] == pytest.approx(before + 2.5)
    expect(group.get_by_role("radio", name="if applied")).to_be_disabled()


def test_alone_and_silent_are_for_listening_only_and_said(desk, server, page):
    desk.open()
    before = server.file()
    row = page.locator("[data-row='group:bell']")
    row.hover()
    row.get_by_role("button", name="alone").click()
    expect(page.get_by_text("listening to 1 of 9")).to_be_visible()
    row = page.locator("[data-row='group:foghorn']")
    row.hover()
    row.get_by_role("button", name="silent").click()
    page.get_by_role("group", name="What is listened to").get_by_role("button", name="all", exact=True).click()
    expect(page.get_by_text("listening to")).to_have_count(0)
    desk.drag_range("keeper.level", 36, 44)
    desk.canvas_of("keeper.level").focus()
    page.keyboard.press("Shift+A")
    expect(page.get_by_text("listening to 1 of 9")).to_be_visible()
    page.keyboard.press("Shift+A")
    expect(page.get_by_text("listening to")).to_have_count(0)
    assert server.file() == before and server.json("sessions/1/head")["revision"] == 0


def test_a_click_on_the_ruler_goes_there_while_it_plays_and_stopping_leaves_the_cursor(desk, page):
    desk.open()
    desk.canvas_of("keeper.level").focus()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Readings")).to_be_visible()
    ruler = page.locator(".ruler").bounding_box()
    page.mouse.click(desk.x_of("bell.level", 48), ruler["y"] + 35)
    expect(page.locator(".where")).to_contain_text("13.")
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Play").first).to_be_visible()
    where = page.locator(".where b").inner_text()
    assert where.startswith(("13.", "14.", "15.")) and where == page.locator(".where b").inner_text()


def test_a_file_of_ones_own_sounds_on_its_track_and_with_a_copied_region_in_both_places(desk, server, page):
    data = io.BytesIO()
    t = np.arange(2 * 44_100) / 44_100
    soundfile.write(data, 0.5 * np.sin(2 * np.pi * 500 * t), 44_100, format="WAV")
    desk.open()
    x, y = desk.foot_of("bell.level", 40)
    page.mouse.click(x, y)
    page.keyboard.press("Shift+S")
    expect(page.get_by_text("toll 2 on Bell buoy")).to_be_visible()
    desk.choose("What they sound like", "a file of your own")
    file = {"name": "knock.wav", "mimeType": "audio/wav", "buffer": data.getvalue()}
    page.get_by_label("Your file", exact=True).set_input_files(file)
    expect(page.get_by_text("knock.wav, 2.0 s")).to_be_visible()
    desk.apply()
    desk.at_revision(1)
    region = server.session().region("bell.r2")
    assert region.sound[0].sound.audio.name == "knock.wav"
    page.keyboard.press("g")
    page.get_by_role("radio", name="repeat").check(force=True)
    desk.apply()
    desk.at_revision(2)
    said = asked(page, 1, {"start": 0, "end": 60, "tracks": ["bell"]})["now"]
    pieces = [p for c in said["channels"] if c["id"] == "bell" for p in c["pieces"]]
    key = next(p["key"] for p in pieces if abs(p["start"] - 20) < 1e-6)
    assert [round(p["start"], 3) for p in pieces if p["key"] == key] == [20.0, 35.0]


def test_what_is_rendered_is_taken_out_as_a_file(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 36)
    page.get_by_role("link", name="Take out…").click()
    with page.expect_download() as taken:
        page.get_by_role("button", name="Take out the sound").click()
    samples, rate = soundfile.read(taken.value.path())
    assert taken.value.suggested_filename == "Skerry Light.wav"
    assert (rate, len(samples)) == (48_000, round(2.5 * 48_000)) and abs(samples).max() > 0.01


@pytest.mark.parametrize("seed", [3, 11, 19])
def test_random_sessions_sound_as_the_core_renders(page, server, seed):
    """Groups, regions, near-jumps, steep bends, silence, mutes and pans under tones of different pitch."""
    drawn = strategies._linked(Random(seed), "fold")
    tones = [
        replace(
            t,
            sound=Sound("tone", hz=110.0 * (n + 2), amplitude=0.5),
            regions=tuple(replace(r, sound=()) for r in t.regions),
        )
        for n, t in enumerate(drawn.tracks)
    ]
    data = session_file.write(drawn.with_tracks(tones))
    page.goto(server.url)
    file = {"name": "drawn.velmot.json", "mimeType": "application/json", "buffer": data}
    page.get_by_label("File to import").set_input_files(file)
    expect(page.get_by_role("region", name="Import report")).to_contain_text("drawn.velmot.json")
    id = max(x["id"] for x in server.json("sessions"))
    session = server.session(id)
    end = float(session.tempo.seconds(session.length))
    span = (end * 0.2, min(end * 0.2 + 14, end))
    made = page_sound(page, id, asked(page, id, {"start": span[0], "end": span[1]})["now"])
    a, b = (session.tempo.tick_at(x) for x in span)
    expected = rendered(score_of(session, a, b), Library())
    frames = min(len(made), len(expected))
    one, other = levels(made[:frames]), levels(expected[:frames])
    loud = (one > -70) | (other > -70)
    assert loud.any() and (abs(one - other)[loud] < 0.1).mean() > 0.995


def test_a_file_dropped_on_a_strip_is_laid_there(desk, server, page):
    data = io.BytesIO()
    soundfile.write(data, np.full(48_000, 0.25), 48_000, format="FLAC")
    desk.open()
    x, box = desk.x_of("keeper.level", 8), desk.canvas_of("keeper.level").bounding_box()
    page.evaluate(
        """([bytes, x, y]) => {
          const file = new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], 'air.flac')
          const dataTransfer = new DataTransfer()
          dataTransfer.items.add(file)
          const at = document.elementFromPoint(x, y)
          const told = { bubbles: true, cancelable: true, clientX: x, clientY: y, dataTransfer }
          at.dispatchEvent(new DragEvent('dragover', told))
          at.dispatchEvent(new DragEvent('drop', told))
        }""",
        [base64.b64encode(data.getvalue()).decode(), x, box["y"] + 40],
    )
    expect(page.get_by_text("air.flac, 1.0 s")).to_be_visible()
    desk.apply()
    desk.at_revision(1)
    sound = server.session().track("keeper").sound
    assert (sound.audio.name, sound.start) == ("air.flac", ticks_of(8))
    expect(page.locator("[data-strip='keeper.level']")).to_be_visible()


def test_what_has_no_stand_in_says_so_on_its_strip_and_card(desk, page):
    desk.open()
    page.get_by_label("Find a lane or a track").fill("shimmer")
    page.locator("[data-lane]").first.click()
    expect(page.locator("[data-strip='rain.shimmer.shimmer']")).to_contain_text("no sound for it")
    expect(page.locator("[data-strip='bell.level']")).not_to_contain_text("no sound for it")


FOOT_OF_STRIP = """plot => {
  const canvas = document.querySelector('canvas.paper'), paper = canvas.getBoundingClientRect()
  const box = plot.getBoundingClientRect(), ratio = canvas.width / paper.width
  const [x, y] = [(box.left - paper.left) * ratio, (box.bottom - paper.top - 22) * ratio]
  const { data } = canvas.getContext('2d').getImageData(Math.round(x), Math.round(y), Math.round(box.width * ratio), 1)
  return Array.from({ length: Math.floor(box.width) }, (_, x) => data.slice(4 * x * ratio, 4 * x * ratio + 3).join())
}"""


def test_a_word_is_found_by_its_silhouette_and_raised(desk, server, page):
    desk.open()
    page.wait_for_timeout(1500)
    row = desk.canvas_of("keeper.level").evaluate(FOOT_OF_STRIP)
    left = desk.canvas_of("keeper.level").bounding_box()["x"]
    view = desk.view()
    outline = server.json("sessions/1/outline?track=keeper")
    reach = np.frombuffer(base64.b64decode(outline["columns"]), np.uint8)
    tempo = server.session().tempo
    beats = np.arange(view["start"] + 1.27, view["end"] - 1, 0.5)  # between the lines
    seconds = tempo.seconds(np.array([ticks_of(b) for b in beats]))
    sounds = np.array([reach[int(at * outline["per_second"]) - 2 :][:5].min() > 40 for at in seconds])
    silent = np.array([reach[int(at * outline["per_second"]) - 9 :][:19].max() == 0 for at in seconds])
    inks = [row[round(desk.x_of("keeper.level", b) - left)] for b in beats]
    dark = {ink for ink, heard in zip(inks, sounds, strict=True) if heard}
    plain = {ink for ink, none in zip(inks, silent, strict=True) if none}
    assert sounds.sum() > 8 and silent.sum() > 8 and len(dark) == 1 and not dark & plain
    runs = np.split(np.flatnonzero(sounds), np.flatnonzero(np.diff(np.flatnonzero(sounds)) > 3) + 1)
    word = max(runs, key=len)
    first, last = float(beats[word[0]]) - 0.27, float(beats[word[-1]]) + 0.23
    desk.drag_range("keeper.level", first, last)
    page.keyboard.press("r")
    page.get_by_label("By how many dB").fill("3")
    page.keyboard.press("Tab")
    before = server.session().lane_at("keeper.level").envelope
    desk.apply()
    desk.at_revision(1)
    after = server.session().lane_at("keeper.level").envelope
    ticks = np.array([ticks_of(x) for x in (first - 1, (first + last) / 2, last + 1)])
    assert after.at(ticks) - before.at(ticks) == pytest.approx([0, 3, 0], abs=1e-9)


def test_a_range_goes_round_and_is_trimmed_on_the_desk_by_ear(desk, server, page):
    desk.open()
    before = server.session().lane_at("keeper.level").envelope
    desk.drag_range("keeper.level", 36, 44)
    page.keyboard.press("Shift+D")
    column = page.locator("[data-control='keeper.level']")
    column.get_by_role("button", name="trim").click()
    rule = column.get_by_role("slider").bounding_box()
    page.keyboard.press("Space")
    meter = "document.querySelector('[data-control=\"keeper.level\"] .meter').ariaLabel"
    desk.until(f"/Peak −\\d/.test({meter})")
    page.mouse.move(rule["x"] + 40, rule["y"] + 60)
    page.mouse.down()
    page.mouse.move(rule["x"] + 40, rule["y"] + 30, steps=3)
    desk.until("document.querySelector('.where b').textContent.startsWith('10.')")
    page.mouse.up()
    page.get_by_role("group", name="Transport").get_by_role("button", name="Stop").click()
    expect(column.locator(".meter")).to_have_attribute("aria-label", "Peak −∞ dB")
    desk.apply()
    desk.at_revision(1)
    inside = np.arange(ticks_of(36), ticks_of(44), ticks_of(0.05))
    apart = server.session().lane_at("keeper.level").envelope.at(inside) - before.at(inside)
    assert apart.max() > 1 and apart.min() > -1e-9
    outside = np.array([ticks_of(35), ticks_of(46)])
    assert server.session().lane_at("keeper.level").envelope.at(outside) == pytest.approx(before.at(outside), abs=1e-9)


def test_a_browser_without_sound_lets_time_run_and_says_so(desk, page):
    page.add_init_script("delete window.AudioContext")
    desk.open()
    where = page.locator(".where b").inner_text()
    desk.canvas_of("keeper.level").focus()
    page.keyboard.press("Space")
    expect(page.get_by_text("This browser plays no sound just now")).to_be_visible()
    expect(page.locator(".where b")).not_to_have_text(where)
