"""The log as the screen shows it."""

from datetime import UTC, datetime

from velmot.core.time.ticks import ticks_of as b
from velmot.presentation import log
from velmot.presentation.log import log_out
from velmot.storage.history import LogEntry, LogPage

MADE = datetime(2026, 11, 30, tzinfo=UTC)


def entry(number: int, current: bool, lanes: int = 1) -> LogEntry:
    touched = [{"lane": f"L{n}", "parameter": "p", "start": b(4), "end": b(8)} for n in range(lanes)]
    return LogEntry(number, f"step {number}", MADE, number == 3, touched, {"verb": "carry"}, current)


def test_lines_say_where_they_were_and_settings_only_where_the_session_stands(monkeypatch):
    monkeypatch.setattr(log, "MOST_LISTED", 2)
    said = log_out(LogPage([entry(3, False), entry(2, True, lanes=3)], more=True))
    undone, current = said.lines
    assert said.more and undone.undone and undone.request is None and not current.undone
    assert current.request == {"verb": "carry"} and current.lanes == 3, "all are counted"
    assert [(t.lane, t.start, t.end, t.name) for t in current.touched] == [("L0", 4, 8, ""), ("L1", 4, 8, "")]
