"""Long work: how far it has come by its ticket, and stopped it leaves nothing behind."""

import threading

import numpy as np
import pytest

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level
from velmot.core.progress import come, part, watched
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.verbs import plan
from velmot.core.verbs.thin.request import Thin
from velmot.formats.files import LARGE, taking_turns
from velmot.presentation.waiting import stop, ticketed, waiting_out


def ridden(moving=True, points=90_000, lanes=3) -> Session:
    """A session of hand-ridden levels, or of levels that rise all along."""
    ridden = np.random.default_rng(1).normal(0, 0.05, points).cumsum() % 6
    steps = (ridden if moving else np.arange(points) * 2.0**-14) - 20.0
    curve = Envelope(np.arange(points) * 1000, steps, np.zeros(points), Axis.LEVEL)
    tracks = tuple(Track(f"t{n}", f"T{n}", parameters=(level(f"l{n}"),)) for n in range(lanes))
    return Session("s", points * 1000, tracks, tuple(Lane(f"L{n}", f"l{n}", "track", curve) for n in range(lanes)))


def test_parts_of_parts_are_told_as_parts_of_the_whole():
    told = []
    with watched(lambda so_far: told.append(so_far) or True):
        with part(0.5, 1.0), part(0.0, 0.5):
            come(0.0)
            come(0.5)
        come(1.0)
    come(0.3)
    assert told == [0.5, 0.625, 1.0]


@pytest.mark.parametrize("way", ["within", "without loss"])
def test_thinning_tells_how_far_it_is_for_every_lane(way):
    told = []
    with watched(lambda so_far: told.append(so_far) or True):
        plan(ridden(way == "within"), "thin", Thin(("L0", "L1", "L2"), way=way))
    assert told[0] == 0 and max(told) <= 1 and len(told) > 8
    assert all(any(third < x < third + 1 / 3 for x in told) for third in (0, 1 / 3, 2 / 3))


def test_stopped_from_another_thread_it_is_refused_and_forgotten():
    on, caught = ridden(), []
    before = on.lane("L0").envelope

    def work():
        with ticketed("ticket-1"):
            for _ in range(1000):  # until it is stopped
                try:
                    plan(on, "thin", Thin(("L0", "L1", "L2")))
                except RequestError as refused:
                    caught.append(refused.code)
                    return

    thread = threading.Thread(target=work)
    assert waiting_out("ticket-1").part is None
    thread.start()
    while not waiting_out("ticket-1").part:
        pass
    assert 0 < stop("ticket-1").part <= 1
    thread.join(20)
    assert caught == ["stopped"] and waiting_out("ticket-1").part is None and on.lane("L0").envelope is before
    assert stop("ticket-1").part is None


def test_who_waits_in_line_is_told_how_many_are_before_and_leaves_it_when_stopped():
    """Three large files at once: the second waits for one, the third for two, and is stopped there."""
    go, had, refused = threading.Event(), [], []

    def read(name, holds):
        try:
            with ticketed(name) as work, taking_turns(LARGE, work.behind):
                had.append(name)
                if holds:
                    go.wait(20)
        except RequestError as problem:
            refused.append((name, problem.code))

    threads = []
    for n, name in enumerate(("ticket-a", "ticket-b", "ticket-c")):
        threads.append(threading.Thread(target=read, args=(name, n == 0)))
        threads[-1].start()
        until(lambda n=n, name=name: waiting_out(name).before == n and (n or had))
    with ticketed("ticket-d") as small, taking_turns(LARGE - 1, small.behind):
        assert small.before == 0, "small ones wait for none"
    stop("ticket-c")
    threads[2].join(20)
    assert (refused, had) == ([("ticket-c", "stopped")], ["ticket-a"])
    go.set()
    threads[1].join(20)
    assert had == ["ticket-a", "ticket-b"]


def until(holds):
    for _ in range(2000):
        if holds():
            return
        threading.Event().wait(0.005)
    pytest.fail("never came true")
