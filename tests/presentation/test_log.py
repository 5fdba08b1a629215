"""The log as the screen shows it."""

from datetime import UTC, datetime

from velmot.core.time.ticks import ticks_of as b
from velmot.presentation import log
from velmot.presentation.log import log_out
from velmot.storage.logbook import LogEntry, LogPage, Mark

MADE = datetime(2026, 11, 30, tzinfo=UTC)


def entry(number: int, current: bool, lanes: int = 1) -> LogEntry:
    touched = [{"lane": f"L{n}", "parameter": "p", "start": b(4), "end": b(8)} for n in range(lanes)]
    undone = number == 3
    verb = {"verb": "carry"}
    return LogEntry(number, 1, f"step {number}", MADE, undone, undone, touched, verb, current, "w2", 4)


def test_lines_say_where_they_were_and_settings_only_where_the_session_stands(monkeypatch):
    monkeypatch.setattr(log, "MOST_LISTED", 2)
    marks = [Mark(2, "as played", "on Friday", MADE)]
    said = log_out(LogPage([entry(3, False), entry(2, True, lanes=3)], True, marks))
    undone, current = said.lines
    assert said.more and undone.undone and undone.request is None and not current.undone
    assert (undone.aside, current.aside, current.current, current.window, current.folds) == (True, False, True, "w2", 4)
    assert (current.parent, current.verb) == (1, "carry")
    assert [(m.number, m.name, m.note, m.made) for m in said.marks] == [(2, "as played", "on Friday", MADE)]
    assert current.request == {"verb": "carry"} and current.lanes == 3, "all are counted"
    assert [(t.lane, t.start, t.end, t.name) for t in current.touched] == [("L0", 4, 8, ""), ("L1", 4, 8, "")]
