"""`make bench`: how long things take, as percentiles, and as ratios to a bare numpy copy of the points."""

from __future__ import annotations

import contextlib
import json
import os
import re
import shutil
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from io import BytesIO
from pathlib import Path

import numpy as np
import soundfile

_DATA = tempfile.mkdtemp(prefix="velmot-bench-")
os.environ["VELMOT_DATA"] = _DATA
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "velmot.site.settings")
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"  # Playwright keeps a loop running in this thread

import django  # noqa: E402

django.setup()

from django.conf import settings  # noqa: E402
from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: E402
from django.test import Client  # noqa: E402

from velmot.core.curves import editing  # noqa: E402
from velmot.core.curves.axes import Axis  # noqa: E402
from velmot.core.curves.envelope import Envelope  # noqa: E402
from velmot.core.curves.staircases import in_steps  # noqa: E402
from velmot.core.curves.within_bound import thinned_within  # noqa: E402
from velmot.core.findings import KINDS, Looked  # noqa: E402
from velmot.core.findings.where_else import where_else  # noqa: E402
from velmot.core.parameters.parameter import level, pan  # noqa: E402
from velmot.core.session.session import Session  # noqa: E402
from velmot.core.session.sounds import FILE, Audio, Sound  # noqa: E402
from velmot.core.session.track import Lane, Region, Track, TrackKind  # noqa: E402
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT  # noqa: E402
from velmot.core.time.ticks import ticks_of  # noqa: E402
from velmot.core.verbs import plan  # noqa: E402
from velmot.core.verbs.alternatives.request import KeepAside  # noqa: E402
from velmot.core.verbs.points.request import SetValues  # noqa: E402
from velmot.core.verbs.request import Picked  # noqa: E402
from velmot.core.verbs.reuse.request import (  # noqa: E402
    KeepPhrase,
    Place,
    PlaceOn,
)
from velmot.core.verbs.reuse.starter_phrases import STARTERS  # noqa: E402
from velmot.core.verbs.shape.request import Move, Reshape  # noqa: E402
from velmot.core.verbs.thin.request import Thin  # noqa: E402
from velmot.formats.phrases_file import Kept  # noqa: E402
from velmot.site.demo import skerry_light  # noqa: E402
from velmot.sound.library import Library  # noqa: E402
from velmot.sound.meters import readings  # noqa: E402
from velmot.sound.path import score_of  # noqa: E402
from velmot.sound.render import rendered  # noqa: E402
from velmot.storage import book, history, own_audio, sessions, upkeep  # noqa: E402
from velmot.storage.models import Revision, StoredSession  # noqa: E402

HEADERS = ("what", "median", "p95", "worst", "× copy")


def timed(work: Callable[[], object], runs: int = 15) -> list[float]:
    """Milliseconds of each run after one to warm up."""
    work()
    out = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        out.append((time.perf_counter() - start) * 1000)
    return out


def row(what: str, times: list[float], copy: float | None = None) -> None:
    middle = statistics.median(times)
    p95 = sorted(times)[max(int(len(times) * 0.95) - 1, 0)]
    ratio = f"{middle / copy:8.0f}" if copy else ""
    print(f"{what:<52}{middle:9.1f}{p95:9.1f}{max(times):9.1f}{ratio}", flush=True)


def curve(points: int, seed: int = 1) -> Envelope:
    chance = np.random.default_rng(seed)
    ticks = np.sort(chance.choice(256 * BEAT, points, replace=False))
    return Envelope(ticks, chance.uniform(-60, 6, points), chance.choice([0.0, 2.0], points), Axis.LEVEL)


def pair(points: int) -> Session:
    tracks = tuple(Track(id, id, parameters=(level(f"{id}.level"),)) for id in ("one", "two"))
    lanes = (
        Lane("L1", "one.level", "track", curve(points)),
        Lane("L2", "two.level", "track", curve(points, 2)),
    )
    return Session(f"pair of {points}", 256 * BEAT, tracks, lanes)


def crowd(tracks: int = 200, lanes: int = 1000, points: int = 1_000_000) -> Session:
    each, per_track = points // lanes, lanes // tracks
    made, all_lanes = [], []
    for t in range(tracks):
        parameters = tuple(level(f"t{t}.p{n}", f"Level {n}") for n in range(per_track))
        made.append(Track(f"t{t}", f"Track {t}", parameters=parameters))
        all_lanes += [Lane(f"t{t}.L{n}", p.id, "track", curve(each, t * 7 + n)) for n, p in enumerate(parameters)]
    return Session("crowd", 256 * BEAT, tuple(made), tuple(all_lanes))


def panning(strips: int = 24, points: int = 5000) -> Session:
    tracks = tuple(
        Track(f"t{n}", f"Track {n}", parameters=(level(f"t{n}.level"), pan(f"t{n}.pan"))) for n in range(strips)
    )
    lanes = tuple(Lane(f"L{n}", f"t{n}.level", "track", curve(points, n)) for n in range(strips))
    return Session("panning", 256 * BEAT, tracks, lanes)


def bench_operations(client: Client) -> None:
    for points in (100, 10_000, 100_000):
        id = sessions.create(pair(points))
        request = {"verb": "carry", "lanes": ["L1"], "targets": ["two"], "start": 64, "end": 192, "at": 60}
        view = {"start": 0, "end": 256, "columns": 2800}
        source = sessions.load(id).lanes[0].envelope
        copy = statistics.median(timed(lambda s=source: [a.copy() for a in s.arrays()], 50))

        def ask(path: str, body: dict, id: int = id) -> dict:
            answer = client.post(f"/api/sessions/{id}/{path}", body, content_type="application/json")
            assert answer.status_code == 200, answer.content
            return answer.json()

        body = {"request": request, "view": view}
        row(f"preview a carry, {points:,} points", timed(lambda a=ask, b=body: a("preview", b | {"revision": 0})), copy)
        applied, undone = [], []
        for _ in range(10):
            start = time.perf_counter()
            head = ask("apply", body | {"revision": 0})["revision"]
            middle = time.perf_counter()
            ask("undo", {"revision": head})
            undone.append((time.perf_counter() - middle) * 1000)
            applied.append((middle - start) * 1000)
        row(f"apply it, {points:,} points", applied, copy)
        row(f"undo it, {points:,} points", undone, copy)


def forty_lanes(tracks: int = 9, lanes: int = 40, points: int = 2000) -> Session:
    made = tuple(
        Track(f"t{t}", f"Track {t}", parameters=tuple(level(f"t{t}.p{n}", f"Level {n}") for n in range(lanes)))
        for t in range(tracks)
    )
    curves = tuple(
        Lane(f"L{t}.{n}", f"t{t}.p{n}", "track", curve(points, 40 * t + n)) for t in range(tracks) for n in range(lanes)
    )
    return Session("forty lanes", 256 * BEAT, made, curves)


def bench_carrying_much(client: Client) -> None:
    id = sessions.create(forty_lanes())
    lanes, targets = [f"L0.{n}" for n in range(40)], [f"t{t}" for t in range(1, 9)]
    view = {"start": 0, "end": 64, "columns": 1100, "strips": ["t1.p0", "t1.p1", "t1.p2", "t1.p3"]}
    body = {"revision": 0, "request": {"verb": "carry", "lanes": lanes, "targets": targets}, "view": view}
    ask = lambda: client.post(f"/api/sessions/{id}/preview", body, content_type="application/json")  # noqa: E731
    assert ask().status_code == 200
    row("preview a carry of 40 lanes of 2,000 points to 8 tracks", timed(ask))


def bench_links(client: Client) -> None:
    """A phrase at 200 places edited at one of them; a shape laid on 64 lanes, staggered and wrapped; a book of 2,000."""
    made = tuple(Track(f"t{n}", f"Track {n}", parameters=(level(f"t{n}.level"),)) for n in range(200))
    session = Session("linked", 256 * BEAT, made, (Lane("L0", "t0.level", "track", curve(200)),))
    state = plan(session, "keep phrase", KeepPhrase("L0", 0, 64 * BEAT, "swell")).applied_to(session)
    on = tuple(PlaceOn(f"t{n}.level") for n in range(1, 200))
    state = plan(state, "place", Place(on, 64 * BEAT, phrase=state.phrases[0].id, deep="unit")).applied_to(state)
    id = sessions.create(state)
    view = {"start": 0, "end": 128, "columns": 1100, "strips": ["t0.level", "t1.level", "t2.level", "t3.level"]}
    edit = {"verb": "move points", "picked": [{"lane": "L0", "points": [9]}], "rise": -1}
    sine = {"kind": "sine"}
    targets = [{"parameter": f"t{n}.level"} for n in range(64)]
    wave = {"verb": "place", "targets": targets, "start": 128, "end": 160, "shape": sine, "length": 4, "times": None}
    wave |= {"deep": "static", "depth": 10, "stagger": 0.5, "wrap": True}
    for what, request in (
        ("preview an edit that reaches 200 places", edit),
        ("preview a shape on 64 lanes, staggered and wrapped", wave),
    ):
        body = {"revision": 0, "request": request, "view": view}
        ask = lambda b=body: client.post(f"/api/sessions/{id}/preview", b, content_type="application/json")  # noqa: E731
        assert ask().status_code == 200, ask().content
        row(what, timed(ask))
    book.keep(
        [Kept(replace(x.phrase, name=f"{x.phrase.name} {n}"), x.says, x.tags) for n in range(77) for x in STARTERS]
    )
    row("list a book of 2,000 phrases", timed(lambda: client.get("/api/book"), 5))


def straight(session: Session) -> Session:
    """The same without bends, as lanes that were ridden are."""
    flat = (x.envelope.with_points(x.envelope.ticks, x.envelope.values, x.envelope.bends * 0) for x in session.lanes)
    return replace(session, lanes=tuple(replace(x, envelope=e) for x, e in zip(session.lanes, flat, strict=True)))


def bench_reshaping(client: Client) -> None:
    """24 lanes of 2,000 points between tilted rails, all on view; and 100,000 points moved up."""
    for what, session, moves in (
        ("a tilted rail on 24 lanes of 2,000 points", straight(panning(24, 2000)), {"shift": {"high_end": -6}}),
        ("24 lanes of 2,000 points moved up", straight(panning(24, 2000)), {"by": 2}),
        ("100,000 points moved up", panning(1, 100_000), {"by": 2}),
    ):
        id = sessions.create(session)
        ids, strips = [x.id for x in session.lanes], [x.parameter for x in session.lanes]
        wanted = {"verb": "reshape", "lanes": ids, "start": 64, "end": 192, "moves": [{"unit": "dB"} | moves]}
        view = {"start": -13, "end": 269, "columns": 530, "strips": strips, "pencil": False}  # as a drag asks
        body = {"revision": 0, "request": wanted, "view": view}
        ask = lambda b=body, i=id: client.post(f"/api/sessions/{i}/preview", b, content_type="application/json")  # noqa: E731
        assert ask().status_code == 200, ask().content
        row(f"preview {what}", timed(ask))


def bench_folding(client: Client) -> None:
    """A group of 40 members with 2,000 points each, under a fader that moves."""
    tracks = [Track(f"t{n}", f"Track {n}", parameters=(level(f"t{n}.level"),)) for n in range(40)]
    group = Track("g", "Group", TrackKind.GROUP, parameters=(level("g.level"),), members=tuple(t.id for t in tracks))
    lanes = [Lane(f"L{n}", f"t{n}.level", "track", curve(2000, n)) for n in range(40)]
    lanes.append(Lane("G", "g.level", "track", Envelope.of([(0, 0.0), (128 * BEAT, -9.0)], Axis.LEVEL)))
    id = sessions.create(straight(Session("fold", 256 * BEAT, (*tracks, group), tuple(lanes))))
    view = {"start": 0, "end": 256, "columns": 1190, "strips": [f"t{n}.level" for n in range(4)]}
    body = {"revision": 0, "request": {"verb": "fold", "groups": ["g"], "accept": True}, "view": view}
    ask = lambda: client.post(f"/api/sessions/{id}/preview", body, content_type="application/json")  # noqa: E731
    assert ask().status_code == 200, ask().content
    row("preview a fold into 40 members of 2,000 points", timed(ask, 5))


def bench_riding(client: Client) -> None:
    """A pass of three minutes with four controls, a hundred events a second on each."""
    id = sessions.create(skerry_light.session())
    chance = np.random.default_rng(5)
    controls = []
    for parameter in ("gulls.level", "rain.level", "bell.level", "keeper.level"):
        hand = np.cumsum(np.convolve(chance.normal(0, 0.03, 18_000), np.ones(40) / 40, "same")) - 14
        does = ["touch", *["move"] * 17_999]
        columns = {"at": np.linspace(0, 250, 18_000).round(4).tolist(), "does": does, "value": hand.round(2).tolist()}
        controls.append({"parameter": parameter, "mode": "latch", "hand": columns})
    request = {"verb": "ride", "passes": [{"start": 0, "end": 252, "controls": controls}]}
    view = {"start": 0, "end": 64, "columns": 1190, "strips": ["bell.level", "keeper.level"]}
    body = json.dumps({"revision": 0, "request": request, "view": view})
    ask = lambda: client.post(f"/api/sessions/{id}/preview", body, content_type="application/json")  # noqa: E731
    assert ask().status_code == 200, ask().content
    row("preview a pass, 4 controls of 18,000 events", timed(ask, 5))


def bench_thinning() -> None:
    """The core alone: a recorded lane of 100,000 points, and a session of 1,000,000 cleaned without loss."""
    chance = np.random.default_rng(3)
    y = np.cumsum(chance.normal(0, 0.02, 100_000)) + chance.normal(0, 0.03, 100_000)
    lane = Envelope(np.arange(100_000) * 4000, np.clip(y - 20, -90, 12), np.zeros(100_000), Axis.LEVEL)
    row("thin 100,000 points to within 0.1 dB", timed(lambda: thinned_within(lane, 0.1), 3))
    for kind, (curve, within) in kinds_of_lane().items():
        row(f"thin {len(curve):,} points, {kind}", timed(partial(thinned_within, curve, within), 3))
    session = crowd()
    ids = tuple(x.id for x in session.lanes)
    request = Thin(ids, way="without loss")
    row("clean 1,000,000 points without loss", timed(lambda: plan(session, "thin", request), 1))


def kinds_of_lane() -> dict[str, tuple[Envelope, float]]:
    """Five kinds of lane of 100,000 points or so, a hundred in a second, each with a bound to thin it by."""
    chance = np.random.default_rng(5)
    ticks = np.arange(100_000) * 32256
    slow = np.convolve(chance.normal(0, 1, 100_100), np.hanning(101) / 50, "valid")
    ride = np.cumsum(slow) / 30 + chance.normal(0, 0.02, 100_000)
    jumps = -20 + np.where(np.arange(100_000) // 500 % 2, 6.0, 0.0) + chance.normal(0, 0.02, 100_000)
    near = np.where(np.arange(100_000) % 500 == 0, -(32256 - chance.integers(1, 10_000, 100_000)), 0)
    kinds = {
        "a ride": (ride, 0.05, ticks),
        "recorded": (np.cumsum(slow), 0.1, ticks),
        "white noise": (chance.normal(0, 1, 100_000), 0.1, ticks),
        "near-jumps": (jumps, 0.05, np.maximum(ticks + near, 0)),
    }
    made = {k: (Envelope(t, y, np.zeros(len(y))), within) for k, (y, within, t) in kinds.items()}
    steps = Envelope(ticks, np.round(60 * np.sin(np.arange(100_000) / 700)), np.full(100_000, np.inf))
    return made | {"a staircase": (in_steps(steps), 0.6)}


def wavy(tracks: int = 1, lanes: int = 40, regions: int = 64, points: int = 2000) -> Session:
    """Tracks with lanes over regions of three beats in every four."""
    made, all_lanes = [], []
    for t in range(tracks):
        own = tuple(level(f"t{t}.p{n}", f"Level {n}") for n in range(lanes))
        spans = tuple(Region(f"t{t}.r{n}", f"wave {n}", 4 * n * BEAT, 3 * BEAT) for n in range(regions))
        made.append(Track(f"t{t}", f"Track {t}", parameters=own, regions=spans))
        all_lanes += [Lane(f"L{t}.{n}", p.id, "track", curve(points, 40 * t + n)) for n, p in enumerate(own)]
    return Session("wavy", 256 * BEAT, tuple(made), tuple(all_lanes))


def bench_embedding(client: Client) -> None:
    id = sessions.create(wavy())
    view = {"start": 0, "end": 112, "columns": 1100, "strips": ["t0.p0", "t0.p1", "t0.p2", "t0.p3"]}
    body = {"revision": 0, "request": {"verb": "embed", "regions": [f"t0.r{n}" for n in range(64)]}, "view": view}
    ask = lambda: client.post(f"/api/sessions/{id}/preview", body, content_type="application/json")  # noqa: E731
    assert ask().status_code == 200
    row("preview embedding 40 lanes over 64 regions", timed(ask))


def heard_crowd() -> Session:
    """200 tracks; on the first 24 every region speaks, and all are in a group that moves."""
    session = wavy(200, 1, 16, 500)
    regions = tuple(
        Lane(f"R{t}.{n}", f"t{t}.p0", f"t{t}.r{n}", editing.cut(curve(20, t * 16 + n), 0, 3 * BEAT).envelope)
        for t in range(24)
        for n in range(16)
    )
    group = Track(
        "group", "Group", TrackKind.GROUP, parameters=(level("group.level"),), members=tuple(f"t{t}" for t in range(24))
    )
    fader = Lane("G", "group.level", "track", curve(12, 9))
    return replace(session, tracks=(*session.tracks, group), lanes=(*session.lanes, *regions, fader)).checked()


def bench_opening(client: Client) -> tuple[int, int]:
    demo, big = sessions.create(skerry_light.session()), sessions.create(crowd())
    for name, id in (("the demo", demo), ("200 tracks, 1,000 lanes, 1,000,000 points", big)):
        row(f"open {name}, remembered", timed(lambda i=id: client.get(f"/api/sessions/{i}"), 5))

        def cold(i: int = id) -> None:
            sessions._cache.clear()
            client.get(f"/api/sessions/{i}")

        row(f"open {name}, from disk", timed(cold, 5))
    return demo, big


FRAMES = """([distance, steps]) => new Promise(done => {
  const stage = document.querySelector('main.stage'), box = stage.getBoundingClientRect()
  const times = []
  let last = performance.now(), n = 0
  const frame = now => {
    times.push(now - last); last = now
    if (n++ >= steps) return done(times.slice(3))
    stage.dispatchEvent(new WheelEvent('wheel', { deltaX: n < steps / 2 ? distance : -distance, bubbles: true,
      cancelable: true, clientX: box.x + 400, clientY: box.y + 200 }))
    requestAnimationFrame(frame)
  }
  requestAnimationFrame(frame)
})"""


TYPE = """([into, words]) => new Promise(done => {
  const field = document.querySelector(into)
  const times = []
  const type = n => {
    if (n > words.length) return done(times)
    const start = performance.now()
    field.value = words.slice(0, n)
    field.dispatchEvent(new Event('input', { bubbles: true }))
    requestAnimationFrame(() => setTimeout(() => { times.push(performance.now() - start); type(n + 1) }))
  }
  type(1)
})"""

DRAG = """([x, y, steps]) => new Promise(done => {
  const canvas = document.querySelector('section.strip .plot'), times = []
  let last = performance.now(), n = 0
  const send = (kind, dy) => canvas.dispatchEvent(new PointerEvent(kind, { bubbles: true, pointerId: 1, button: 0,
    clientX: x, clientY: y + dy, altKey: true }))
  canvas.setPointerCapture = () => {}
  send('pointerdown', 0)
  const frame = now => {
    times.push(now - last); last = now
    if (n++ >= steps) { send('pointercancel', 0); return done(times.slice(3)) }
    send('pointermove', 6 + 20 * Math.sin(n / 9))
    requestAnimationFrame(frame)
  }
  requestAnimationFrame(frame)
})"""


LATENCIES = """() => {
  window.latencies = []
  let moved = 0
  addEventListener('pointermove', () => (moved = performance.now()), true)
  const real = window.fetch
  window.fetch = async (...all) => {
    const from = moved, address = all[0].url ?? String(all[0]), answer = await real(...all)
    if (moved && address.endsWith('/preview')) {
      const text = answer.text.bind(answer), json = answer.json.bind(answer)
      const told = said => {
        // The frame after the one in which it is drawn: it stands on the screen by then.
        requestAnimationFrame(() => requestAnimationFrame(now => window.latencies.push(now - from)))
        return said
      }
      answer.text = () => text().then(told)
      answer.json = () => json().then(told)
    }
    return answer
  }
}"""
"""From the newest move of the pointer when a preview is asked for to when its picture stands on the screen."""


def bench_kept(client: Client) -> None:
    """Listing many sessions, the log of many revisions, and what edits of a long lane take."""
    for _ in range(200):
        sessions.create(skerry_light.session())
    row("list 200 sessions and more", timed(lambda: client.get("/api/sessions")))
    long = sessions.create(pair(100_000))
    file = settings.DATA / settings.DATABASE
    size, head, times = _size(file), 0, []
    for n in range(200):
        start = time.perf_counter()
        wanted = SetValues((Picked("L1", (n * 499,)),), f"=-{n / 7 + 1:.3f}")
        head = history.apply(long, head, plan(sessions.load(long), "set values", wanted)).number
        times.append((time.perf_counter() - start) * 1000)
    row("edit one of 100,000 points and save it", times)
    row("a page of the log of 200 revisions", timed(lambda: client.get(f"/api/sessions/{long}/log")))
    row(
        "open a session of 200 revisions, from disk",
        timed(lambda: (sessions._cache.clear(), client.get(f"/api/sessions/{long}"))),
    )
    print(f"{'  one such edit takes of the disk, in kB':<52}{(_size(file) - size) / 200 / 1000:9.1f}")
    sessions.put_away(long)
    sessions.remove(long)
    print(f"{'  all of them once the session is removed, in kB':<52}{(_size(file) - size) / 1000:9.1f}")


def bench_alternatives(client: Client) -> None:
    """40 parameters switched at once; a session of 10,000 steps and 200 alternatives, and one of its size without."""
    session = wavy(40, 1, 4, 500)
    aside = KeepAside(tuple(p.id for t in session.tracks for p in t.parameters), "calm", when="2026-12-01T14:10:00")
    kept = plan(session, "keep aside", aside).applied_to(session)
    lowered = plan(kept, "reshape", Reshape(tuple(x.id for x in kept.lanes), moves=(Move("dB", by=-3.0),))).applied_to(
        kept
    )
    id = sessions.create(lowered)
    use = {"verb": "use alternatives", "alternatives": [x.id for x in kept.alternatives], "aside": True}
    view = {"start": 0, "end": 112, "columns": 1100, "strips": list(aside.parameters[:4])}

    def ask():
        return client.post(
            f"/api/sessions/{id}/preview",
            {"revision": 0, "request": use, "view": view},
            content_type="application/json",
        )

    assert ask().status_code == 200
    row("preview switching 40 parameters", timed(ask))
    took = []
    for _ in range(8):
        other = sessions.create(lowered)
        start = time.perf_counter()
        body = {"revision": 0, "request": use, "when": "2026-12-01T14:11:00"}
        done = client.post(f"/api/sessions/{other}/apply", body, content_type="application/json")
        took.append((time.perf_counter() - start) * 1000)
        assert done.status_code == 200
    row("switch 40 parameters", took)
    goes = kept
    for n in range(4):
        goes = plan(goes, "keep aside", KeepAside(aside.parameters, f"go {n}")).applied_to(goes)
    bare, full = sessions.create(session), sessions.create(goes)
    _many_steps(full, 10_000)
    for what, which in (("neither", bare), ("10,000 steps and 200 alternatives", full)):
        ask = lambda which=which: (sessions._cache.clear(), client.get(f"/api/sessions/{which}?first=true"))  # noqa: E731
        row(f"open a session with {what}, from disk", timed(ask))
    row("the first page of its log", timed(lambda: client.get(f"/api/sessions/{full}/log")))
    row("a search in it that finds nothing", timed(lambda: client.get(f"/api/sessions/{full}/log?lane=nowhere"), 5))
    row("its state 5,000 steps ago", timed(lambda: (sessions._cache.clear(), history.at_revisions(full, 5_000)), 3))


def _many_steps(id: int, count: int) -> None:
    """A session's one edit, done and taken back in turn, so many steps: as rows, as applying each would take minutes."""
    lane = sessions.load(id).lanes[0]
    change = plan(sessions.load(id), "reshape", Reshape((lane.id,), moves=(Move("dB", by=-1.0),)))
    history.apply(id, 0, change)
    first = Revision.objects.get(session=id, number=1)
    there, back = (
        first.swaps,
        {"tracks": [], "lanes": [s | {"before": s["after"], "after": s["before"]} for s in first.swaps["lanes"]]},
    )
    rows = [
        Revision(session_id=id, number=n, parent=n - 1, title=first.title, request={"verb": "reshape"},
                 swaps=there if n % 2 else back, touched=first.touched)
        for n in range(2, count + 2)
    ]  # fmt: skip
    Revision.objects.bulk_create(rows, batch_size=400)
    StoredSession.objects.filter(pk=id).update(head=count + 1, latest=count + 1)


def bench_findings() -> None:
    """What is found in a large session, and again after an edit of one lane; where else a curve runs alike."""
    session, looked = crowd(), Looked()
    row("all that is found in 1,000 lanes, 1,000,000 points", once(lambda: looked.all(session)))
    lane = session.lanes[500]
    for n in range(4):
        values = lane.envelope.values.copy()
        values[n] = -9.0 - n
        edited = replace(lane, envelope=lane.envelope.with_points(lane.envelope.ticks, values, lane.envelope.bends))
        session = replace(session, lanes=tuple(edited if x.id == lane.id else x for x in session.lanes))
        row("  again, after an edit of one of them", once(lambda s=session: looked.all(s)))
    for kind in KINDS.values():
        if kind.look_all:
            row(f"  of that, what is asked of all lanes: {kind.name}", once(lambda k=kind: k.look_all(session)))
    for beats in (8, 32):
        ask = lambda beats=beats: where_else(session, session.lanes[5].id, ticks_of(16), ticks_of(16 + beats))  # noqa: E731
        row(f"where else: {beats} beats among them, first", once(ask))
        row(f"where else: {beats} beats among them", timed(ask, 3))


def once(work: Callable[[], object]) -> list[float]:
    """Milliseconds of one run, with nothing worked out before."""
    start = time.perf_counter()
    work()
    return [(time.perf_counter() - start) * 1000]


def bench_sound(client: Client, demo: int) -> None:
    """The demo as sound: its score, all of it rendered, and what it measures."""
    session = sessions.load(demo)
    row("the score of the whole demo", timed(lambda: score_of(session, 0, session.length)))
    body = json.dumps({"start": 0, "end": 24, "request": None})
    ask = lambda: client.post(f"/api/sessions/{demo}/score", body, content_type="application/json")  # noqa: E731
    row("its first 24 s as the page asks for them", timed(ask))
    row(
        "render the demo: 168 s, 10 tracks", timed(lambda: rendered(score_of(session, 0, session.length), Library()), 3)
    )
    score = score_of(session, ticks_of(36), ticks_of(52))
    row("readings of 10 s, every track", timed(lambda: readings(score, Library()), 5))


def bench_following(client: Client) -> None:
    """Five minutes of a stereo file at 48 kHz drive a level: the first preview, and another number."""
    rate, seconds = 48_000, 300
    t = np.arange(rate * seconds) / rate
    tone = np.sin(2 * np.pi * 220 * t) * (0.02 + 0.5 * np.clip(np.sin(2 * np.pi * 0.4 * t), 0, 1))
    data = BytesIO()
    soundfile.write(data, np.column_stack([tone, 0.8 * tone]).astype(np.float32), rate, "PCM_24", format="wav")
    named = SimpleUploadedFile("voice.wav", data.getvalue())
    digest = client.post("/api/audio", {"file": named}).json()["digest"]
    sound = Sound(FILE, audio=Audio("voice.wav", digest))
    tracks = (
        Track("voice", "Voice", parameters=(level("voice.level"),), sound=sound),
        Track("rain", "Rain", parameters=(level("rain.level"),)),
    )
    id = sessions.create(Session("Five minutes", ticks_of(600), tracks))
    asked = {"verb": "follow", "does": "makes room", "targets": [{"parameter": "rain.level"}], "tracks": ["voice"]}

    def ask(**more: object) -> None:
        view = {"start": 0, "end": 600, "columns": 1100}
        body = json.dumps({"revision": 0, "request": asked | more, "view": view})
        answer = client.post(f"/api/sessions/{id}/preview", body, content_type="application/json")
        assert answer.status_code == 200, answer.content

    row("follow: 5 min of stereo sound, first", once(lambda: ask(attack=20, release=300)))
    numbers = iter(range(-40, -10))
    row("follow: the same, another number", timed(lambda: ask(attack=20, release=300, threshold=next(numbers)), 9))


def measure_listening(browser, url: str, demo: int) -> None:
    """Space to sound, the other of the two, and frames while it plays."""
    page = browser.new_page(viewport={"width": 1920, "height": 1080})
    page.goto(f"{url}/sessions/{demo}")
    wait_until_drawn(page)
    page.wait_for_timeout(6000)  # what would be heard first is there by then
    begins = []
    for _ in range(6):
        begins.append(page.evaluate(BEGINS))
        page.wait_for_timeout(1200)
        page.keyboard.press("Space")
        page.wait_for_timeout(600)
    row("Space to sound", begins)
    plot = page.locator("[data-strip$='.level'] > .plot").first.bounding_box()
    page.mouse.move(plot["x"] + 300, plot["y"] + 30)
    page.mouse.down()
    page.mouse.move(plot["x"] + 600, plot["y"] + 30, steps=4)
    page.mouse.up()
    page.keyboard.press("q")
    page.keyboard.press("r")
    page.get_by_label("By how many dB").fill("3")
    page.keyboard.press("Tab")
    page.keyboard.press("Space")
    page.wait_for_timeout(1500)
    row("the other one heard (its slope of 10 ms with it)", [page.evaluate(SWAPS) for _ in range(8)])
    row("a frame while the demo plays", page.evaluate(WAITING_FRAMES, 240))
    page.close()


def ten_stems() -> int:
    """A session of ten tracks, each ten minutes of noise from a file."""
    chance = np.random.default_rng(5)
    minutes, rate = 10, 48_000
    some = (chance.standard_normal((rate * 30, 2)) * 3000).astype("<i2")
    tracks = []
    for n in range(10):
        with tempfile.NamedTemporaryFile(suffix=".wav") as file:
            with soundfile.SoundFile(file.name, "w", rate, 2, "PCM_16") as out:
                for _ in range(minutes * 2):
                    out.write(np.roll(some, n * 1000, axis=0))
            file.seek(0)
            kept = own_audio.keep(iter(lambda: file.read(1 << 20), b""), f"stem {n + 1}.wav")
        sound = Sound("file", audio=Audio(kept.name, kept.digest))
        tracks.append(Track(f"s{n}", f"Stem {n + 1}", parameters=(level(f"s{n}.level"),), sound=sound))
    return sessions.create(Session("Ten stems", 1200 * BEAT, tuple(tracks)))


def measure_stems(playwright, url: str, server: int, id: int, path, flags: list[str]) -> None:
    """How much memory the page and the server take while ten stems of ten minutes play.

    Nobody looks on meanwhile: while a page is looked at from outside, its browser keeps 100 MB of what it was sent.
    """
    folder = tempfile.mkdtemp()
    more = ["--headless", "--remote-debugging-port=0", f"--user-data-dir={folder}", "--window-size=1280,800"]
    command = [path, *flags, *more, f"{url}/sessions/{id}"]
    browser = subprocess.Popen(command, stderr=subprocess.PIPE, text=True, start_new_session=True)
    try:
        address = next(line.split()[-1] for line in browser.stderr if "DevTools listening" in line)
        looked = playwright.chromium.connect_over_cdp(address)
        seen = looked.contexts[0].pages[0]
        wait_until_drawn(seen)
        seen.keyboard.press("Space")
        until_it_runs(seen)
        page, on_server = [], []
        for quarter in range(4):
            looked.close()
            for _ in range(15):
                time.sleep(1)
                page.append(max(pages_of_browser().values()))
                on_server.append(memory_of(server))
            looked = playwright.chromium.connect_over_cdp(address)
            seen = looked.contexts[0].pages[0]
            heard = seen.locator(".where").inner_text().split()[0]
            box = seen.locator(".ruler").bounding_box()
            seen.mouse.click(box["x"] + 150 + 100 * quarter, box["y"] + 35)  # so that other pieces are wanted
            until_it_runs(seen)
        print(f"{'the page while ten stems of ten minutes play, in MB':<52}{max(page):9.0f}   (at last {heard})")
        print(f"{'  the server then, in MB':<52}{max(on_server):9.0f}", flush=True)
    finally:
        os.killpg(browser.pid, signal.SIGKILL)  # with all its processes, which would play on
        shutil.rmtree(folder, ignore_errors=True)


def until_it_runs(page) -> None:
    """Wait until time runs."""
    before = page.locator(".where").inner_text()
    page.wait_for_function("before => document.querySelector('.where').innerText !== before", arg=before)


def memory_of(pid: int) -> float:
    """Megabytes of the machine's memory that a process holds, shared ones by its share."""
    said = Path(f"/proc/{pid}/smaps_rollup").read_text()
    return int(re.search(r"^Pss: +([0-9]+)", said, re.M)[1]) / 1024


def pages_of_browser() -> dict[int, float]:
    """Process → its memory, of every page that is open."""
    found = {}
    for folder in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            if b"--type=renderer" in (folder / "cmdline").read_bytes():
                found[int(folder.name)] = memory_of(int(folder.name))
    return found


SWAPS = """() => new Promise(done => {
  const words = [...document.querySelectorAll('[aria-label="What is heard"] [role=radio]')]
  const other = words.findIndex(w => w.ariaChecked !== 'true'), start = performance.now()
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'N', shiftKey: true, bubbles: true }))
  const look = () => (words[other].ariaChecked === 'true' ? done(performance.now() - start + 10) : setTimeout(look))
  look()
})"""


BEGINS = """() => new Promise(done => {
  const where = document.querySelector('.where b'), before = where.textContent, start = performance.now()
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true }))
  const look = () => (where.textContent !== before ? done(performance.now() - start) : requestAnimationFrame(look))
  look()
})"""

WAITING_FRAMES = """steps => new Promise(done => {
  const times = []
  let last = performance.now(), n = 0
  const frame = now => { times.push(now - last); last = now; n++ < steps ? requestAnimationFrame(frame) : done(times.slice(3)) }
  requestAnimationFrame(frame)
})"""


def _size(file: Path) -> int:
    return sum(part.stat().st_size for part in file.parent.glob(file.name + "*"))


def bench_screen(demo: int, big: int, pan_id: int, stems: int) -> None:
    from playwright.sync_api import sync_playwright

    from tests.browser.conftest import CHROMIUM, FLAGS

    server = subprocess.Popen(
        [sys.executable, "-m", "velmot.site", "--port", "0"],
        env=os.environ,
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
    )
    url = f"http://127.0.0.1:{re.search(r':([0-9]+)/', server.stdout.readline())[1]}"
    try:
        _measure_screen(sync_playwright, url, demo, big, pan_id, CHROMIUM, FLAGS)
        with sync_playwright() as p:
            measure_stems(p, url, server.pid, stems, CHROMIUM, FLAGS)
    finally:
        server.kill()


def wait_until_drawn(page) -> None:
    while not page.evaluate("performance.getEntriesByName('strips drawn').length"):
        time.sleep(0.005)


def _measure_screen(sync_playwright, url, demo: int, big: int, pan_id: int, path, flags: list[str]) -> None:
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path=path, args=flags)
        for name, id in (("the demo", demo), ("200 tracks, 1,000,000 points", big)):
            times = []
            for _ in range(4):
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                start = time.perf_counter()
                page.goto(f"{url}/sessions/{id}")
                wait_until_drawn(page)
                times.append((time.perf_counter() - start) * 1000)
                page.close()
            row(f"first strips drawn, {name}", times)
        page = browser.new_page(viewport={"width": 1920, "height": 1080})
        pins = [f"t{n}.level" for n in range(24)]
        kept = {"view": {"start": 40, "end": 104}, "pins": pins, "heights": dict.fromkeys(pins, 56)}
        page.add_init_script(f"localStorage['velmot.bench.{pan_id}'] ??= {json.dumps(json.dumps(kept))}")
        page.goto(f"{url}/sessions/{pan_id}")
        wait_until_drawn(page)
        page.wait_for_timeout(800)
        row("a frame while panning 24 strips of 5,000 points", page.evaluate(FRAMES, [24, 240]))
        page.get_by_role("button", name="Play", exact=True).click()
        row("a frame while time runs over 24 strips", page.evaluate(STILL, 240))
        page.keyboard.press("D")
        page.wait_for_selector("[data-control]")
        page.wait_for_timeout(600)
        row("a frame while time runs, 8 controls on the desk", page.evaluate(STILL, 240))
        page.close()
        measure_heard(browser, url)
        measure_mapping(browser, url, demo)
        measure_sentence(browser, url, demo)
        measure_find_and_drag(browser, url)
        measure_rails(browser, url)
        measure_book(browser, url)
        measure_listening(browser, url, demo)
        browser.close()


def measure_heard(browser, url: str) -> None:
    """24 strips of 200 tracks that all draw what is heard, panned."""
    id = sessions.create(heard_crowd())
    page = browser.new_page(viewport={"width": 1920, "height": 1080})
    pins = [f"t{n}.p0" for n in range(24)]
    kept = {"view": {"start": 8, "end": 40}, "pins": pins, "heights": dict.fromkeys(pins, 56), "heardOn": pins}
    page.add_init_script(f"localStorage['velmot.bench.{id}'] ??= {json.dumps(json.dumps(kept))}")
    page.goto(f"{url}/sessions/{id}")
    wait_until_drawn(page)
    page.wait_for_timeout(1200)
    row("a frame while panning 24 strips with what is heard", page.evaluate(FRAMES, [16, 240]))
    page.wait_for_timeout(1200)
    row("the same again, all of it fetched once", page.evaluate(FRAMES, [16, 240]))
    page.close()


GRAPH = """steps => new Promise(done => {
  const circle = document.querySelector('figure svg circle'), box = circle.getBoundingClientRect()
  const times = []
  let last = performance.now(), n = 0
  circle.setPointerCapture = () => {}
  const send = (kind, dy) => circle.dispatchEvent(new PointerEvent(kind, { bubbles: true, pointerId: 1, button: 0,
    clientX: box.x + 5, clientY: box.y + 5 + dy }))
  send('pointerdown', 0)
  const frame = now => {
    times.push(now - last); last = now
    if (n++ >= steps) { send('pointerup', 0); return done(times.slice(3)) }
    send('pointermove', -20 + 20 * Math.sin(n / 9))
    requestAnimationFrame(frame)
  }
  requestAnimationFrame(frame)
})"""


def measure_mapping(browser, url: str, demo: int) -> None:
    """An end of the mapping graph dragged, with its preview as it goes."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    kept = {
        "view": {"start": 0, "end": 64},
        "pins": ["bell.level"],
        "range": {"start": 32, "end": 48},
        "chosen": ["L1"],
    }
    page.add_init_script(f"localStorage['velmot.bench.{demo}'] ??= {json.dumps(json.dumps(kept))}")
    page.add_init_script("localStorage['velmot.folded'] ??= 'no'")
    page.goto(f"{url}/sessions/{demo}")
    wait_until_drawn(page)
    page.get_by_role("button", name="Retarget t").click()
    field = page.get_by_role("combobox", name="Parameters to drive")
    page.locator(".el-select", has=field).click()
    page.keyboard.type("vowel filter")
    page.get_by_role("option", name="Kelp choir Vowel filter", exact=True).click()
    page.wait_for_selector("figure svg circle")
    page.wait_for_timeout(500)
    row("a frame while dragging on the mapping graph", page.evaluate(GRAPH, 180))
    page.close()


def measure_rails(browser, url: str) -> None:
    """A rail pulled over 24 lanes of 2,000 points, all of them on view."""
    id = sessions.create(straight(panning(24, 2000)))
    pins = [f"t{n}.level" for n in range(24)]
    kept = {"view": {"start": 0, "end": 256}, "pins": pins, "range": {"start": 64, "end": 192}}
    kept |= {"chosen": [f"L{n}" for n in range(24)]}
    page = browser.new_page(viewport={"width": 1920, "height": 1080})
    page.add_init_script(f"localStorage['velmot.bench.{id}'] ??= {json.dumps(json.dumps(kept))}")
    page.add_init_script(f"({LATENCIES})()")
    page.goto(f"{url}/sessions/{id}")
    wait_until_drawn(page)
    page.wait_for_selector("section.worksheet")
    page.keyboard.press("r")
    page.wait_for_timeout(900)
    box = page.locator("section.strip .plot").first.bounding_box()
    x = box["x"] + box["width"] / 2
    for y in range(round(box["y"]), round(box["y"] + box["height"])):
        page.mouse.move(x, y)
        if "on-rail" in page.locator("section.strip .plot").first.get_attribute("class"):
            break
    page.evaluate("latencies.length = 0")
    row("a frame while a rail of 24 lanes is pulled", page.evaluate(DRAG, [x, y, 180]))
    row("from the pointer to its picture", page.evaluate("latencies"))
    page.close()


def measure_sentence(browser, url: str, demo: int) -> None:
    """Typing into a part of the sentence, its preview coming as it goes."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    kept = {"pins": ["bell.level"], "range": {"start": 32, "end": 48}, "chosen": ["L1"]}
    page.add_init_script(f"localStorage['velmot.bench.{demo}'] ??= {json.dumps(json.dumps(kept))}")
    page.goto(f"{url}/sessions/{demo}")
    wait_until_drawn(page)
    page.wait_for_selector("section.worksheet")
    if not page.locator(".sentence .verb").count():
        page.keyboard.press("q")
    page.wait_for_selector(".sentence .verb")
    page.keyboard.press("r")
    page.locator(".sentence").get_by_role("button", name="pull a rail, or type an amount").click()
    page.wait_for_timeout(500)
    row("a key in the sentence, drawn", page.evaluate(TYPE, ["[aria-label='By how many dB']", "-3.25125"]))
    page.close()


def _a_point(page, id: int, view: tuple[float, float]) -> list[float]:
    """Where the middle point of the range stands on screen, by the strip's own scale: its span and a tenth."""
    lane = sessions.load(id).lanes[0].envelope
    box = page.locator("section.strip .plot").bounding_box()
    width = box["width"] - 76
    low, high = float(lane.values.min()), float(lane.values.max())
    low, high = low - (high - low) * 0.1, min(high + (high - low) * 0.1, 12 + 108 * 0.02)
    beat, value = float(lane.ticks[10_000]) / BEAT, float(lane.values[10_000])
    x = box["x"] + 12 + (beat - view[0]) / (view[1] - view[0]) * width
    return [x, box["y"] + 290 - (value - low) / (high - low) * (290 - 24)]


STILL = """steps => new Promise(done => {
  const times = []
  let last = performance.now()
  const frame = now => {
    times.push(now - last); last = now
    if (times.length >= steps) return done(times.slice(3))
    requestAnimationFrame(frame)
  }
  requestAnimationFrame(frame)
})"""


SCROLL = """steps => new Promise(done => {
  const box = document.querySelector('main.book .scroller')
  const times = []
  let last = performance.now(), n = 0
  const frame = now => {
    times.push(now - last); last = now
    if (n++ >= steps) return done(times.slice(3))
    box.scrollTop += 240
    requestAnimationFrame(frame)
  }
  requestAnimationFrame(frame)
})"""


def measure_book(browser, url: str) -> None:
    """A book of 2,000 phrases scrolled by almost four rows a frame."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.goto(f"{url}/phrases")
    page.wait_for_selector("main.book li")
    page.wait_for_timeout(600)
    row("a frame while scrolling a book of 2,000 phrases", page.evaluate(SCROLL, 240))
    page.close()


def measure_find_and_drag(browser, url: str) -> None:
    """Typing into find over 2,000 lanes; dragging 500 of a lane's 20,000 points, previewed as it goes."""
    many = sessions.create(crowd(lanes=2000, points=40_000))
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.goto(f"{url}/sessions/{many}")
    wait_until_drawn(page)
    page.wait_for_selector("nav.ledger input[type=search]")
    row("a key of find in 2,000 lanes, drawn", page.evaluate(TYPE, ["nav.ledger input[type=search]", "track 17 level"]))
    dense = sessions.create(pair(20_000))
    ticks = sessions.load(dense).lanes[0].envelope.ticks
    start, first, last, end = (float(t) / BEAT for t in ticks[[9750, 9980, 10_020, 10_250]])
    kept = {
        "view": {"start": first, "end": last},
        "pins": ["one.level"],
        "heights": {"one.level": 300},
        "range": {"start": start, "end": end},
        "chosen": ["L1"],
    }
    page.add_init_script("localStorage['velmot.folded'] ??= 'no'")
    page.add_init_script(f"localStorage['velmot.bench.{dense}'] ??= {json.dumps(json.dumps(kept))}")
    page.goto(f"{url}/sessions/{dense}")
    wait_until_drawn(page)
    page.get_by_role("button", name="Points p").click()
    page.get_by_role("button", name="all in range").click()
    page.wait_for_timeout(600)
    asked: list[float] = []
    sent: dict[str, float] = {}
    page.on("request", lambda r: sent.update({r.url + str(id(r)): time.perf_counter()}))
    page.on(
        "requestfinished",
        lambda r: asked.append((time.perf_counter() - sent[r.url + str(id(r))]) * 1000) if "preview" in r.url else None,
    )
    spot = _a_point(page, dense, (first, last))
    times = page.evaluate(DRAG, [*spot, 120])
    row("a frame while dragging 500 of 20,000 points", times)
    if asked:
        row("a preview answered while dragging", asked)


def main() -> None:
    upkeep.prepare(settings.DATA / settings.DATABASE)
    print(f"{HEADERS[0]:<52}" + "".join(f"{h:>9}" for h in HEADERS[1:]) + "   (milliseconds)")
    client = Client(SERVER_NAME="localhost")
    bench_operations(client)
    bench_carrying_much(client)
    bench_embedding(client)
    bench_links(client)
    bench_reshaping(client)
    bench_folding(client)
    bench_riding(client)
    bench_thinning()
    demo, big = bench_opening(client)
    bench_sound(client, demo)
    bench_following(client)
    bench_findings()
    bench_alternatives(client)
    bench_kept(client)
    bench_screen(demo, big, sessions.create(panning()), ten_stems())
    shutil.rmtree(_DATA, ignore_errors=True)


if __name__ == "__main__":
    main()
