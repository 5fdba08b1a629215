"""The demo holds the mistakes it promises; the database settings are the safe ones."""

from django.db import connection

from velmot.core.session.heard import heard
from velmot.site.demo import skerry_light


def test_every_promised_mistake_is_there():
    session = skerry_light.session()
    assert not session.track("choir").reads
    assert session.lane_at("rain.shimmer.shimmer").envelope.ticks[0] > session.length / 2
    drift = session.lane_at("rain.level").envelope
    assert max(drift.ticks[1:] - drift.ticks[:-1]) > session.length / 3
    assert len(session.lane_at("gulls.pan").envelope) > 2000
    on, cutoff = session.lane_at("engine.rumble.on").envelope, session.lane_at("engine.rumble.rumble-cutoff").envelope
    assert (on.at(cutoff.ticks) == 0).sum() > 5
    assert {r.source for r in heard(session, "foghorn.level").reasons} == {"track", "region"}
    assert all(session.span(x)[1] <= session.length for x in session.lanes)


def test_every_lane_but_held_starts_really_moves():
    session = skerry_light.session()
    assert [session.lane_name(x) for x in session.lanes if not x.envelope.moves(*[0, session.length])] == []


def test_the_database_keeps_what_it_acknowledged(db):
    with connection.cursor() as cursor:
        pragma = {name: cursor.execute(f"PRAGMA {name}").fetchone()[0] for name in ("synchronous", "foreign_keys")}
    assert pragma == {"synchronous": 2, "foreign_keys": 1}
