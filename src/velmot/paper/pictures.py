"""Strips as a picture: SVG, PNG or PDF, drawn from the core's own curves, in the look of the paper."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from io import BytesIO
from itertools import pairwise
from typing import Any, Literal

import matplotlib
import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.backends.backend_pdf import FigureCanvasPdf
from matplotlib.backends.backend_svg import FigureCanvasSVG
from matplotlib.figure import Figure

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.outline import columns_between, outline
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import heard, reading, speaking
from velmot.core.session.session import Session
from velmot.core.session.summary import ink_of
from velmot.core.session.wording import clock_text, parameter_name, span_text
from velmot.core.time.ticks import Floats

Form = Literal["svg", "png", "pdf"]
FORMS: tuple[Form, ...] = ("svg", "png", "pdf")
MEDIA: dict[Form, str] = {"svg": "image/svg+xml", "png": "image/png", "pdf": "application/pdf"}
Shows = Literal["now", "applied", "both"]
MOST_STRIPS = 60
SAME = 1e-9
_MANY, _COLUMNS, _CORNERS, _APART = 3000, 1600, 24, 0.11

SHEET, INK, SOFT, LINE, QUIET, FRESH, PENCIL, SOUND = (
    "#fffdf7", "#1b2430", "#6b6455", "#d9d0be", "#ebe4d5", "#b8380b", "#7d776b", "#e6dcc4",
)  # fmt: skip
INKS = {"level": "#1f3f86", "pan": "#1f5f3a", "mute": "#6a2f5b", "send": "#7a5a12", "device": "#2c5d6b"}

# Text stays text: searched in a PDF, set in whatever there is in an SVG. No name is read as a formula.
matplotlib.rcParams.update(
    {
        "svg.fonttype": "none",
        "pdf.fonttype": 42,
        "svg.hashsalt": "velmot",
        "font.family": "DejaVu Sans",
        "text.parse_math": False,
    }
)


@dataclass(frozen=True)
class Wanted:
    """What is shown: which parameters, over which ticks; now, if applied (then `after` is the session then), or both."""

    parameters: tuple[str, ...]
    start: int
    end: int
    shows: Shows = "now"
    after: Session | None = None

    def checked(self, session: Session) -> Wanted:
        """Itself, if it can be drawn; RequestError."""
        if not self.parameters:
            raise RequestError("lanes-none", place="parameters", accepted="at least one")
        if len(self.parameters) > MOST_STRIPS:
            raise RequestError(
                "picture-strips", count=len(self.parameters), place="parameters", accepted=f"at most {MOST_STRIPS}"
            )
        if not 0 <= self.start < self.end <= session.length:
            where = str(session.tempo.position(session.length))
            raise RequestError(
                "range-beyond", where=where, place="start/end", accepted=span_text(session, 0, session.length)
            )
        for id in self.parameters:
            session.parameter(id)
        return self


Silhouettes = Mapping[str, Floats]
"""For parameters whose track sounds: how high it reaches in equal parts of the span, 0 to 1."""


def drawn(session: Session, wanted: Wanted, form: Form, sound: Silhouettes | None = None) -> bytes:
    """The picture's bytes; the same for the same session."""
    wanted = wanted.checked(session)
    strips = len(wanted.parameters)
    figure = Figure(figsize=(11.0, 1.0 + 1.15 * strips), facecolor=SHEET)
    rows: Any = figure.subplots(strips, 1, squeeze=False, sharex=True)[:, 0]
    top = 1 - 0.52 / figure.get_figheight()
    figure.subplots_adjust(left=0.03, right=0.93, top=top, bottom=0.5 / figure.get_figheight(), hspace=0.42)
    figure.text(
        0.03, 1 - 0.2 / figure.get_figheight(), session.name, fontsize=13, fontweight="bold", color=INK, va="center"
    )
    a, b = (clock_text(float(session.tempo.seconds(t))) for t in (wanted.start, wanted.end))
    said = f"{span_text(session, wanted.start, wanted.end)}, {a} to {b}"
    figure.text(0.93, 1 - 0.2 / figure.get_figheight(), said, fontsize=9, color=SOFT, ha="right", va="center")
    for axes, id in zip(rows, wanted.parameters, strict=True):
        _strip(axes, session, wanted, id, (sound or {}).get(id))
    _bars(rows[-1], session, wanted)
    figure.text(0.03, 0.14 / figure.get_figheight(), _legend(wanted, bool(sound)), fontsize=8, color=SOFT, va="center")
    return _bytes(figure, form)


def _legend(wanted: Wanted, sound: bool) -> str:
    words = {
        "now": "Line: what each does now.",
        "applied": "Orange: what each would do if it was applied.",
        "both": "Line: what each does now; dashed where it would be otherwise, and orange what it would do there.",
    }
    return (
        words[wanted.shows] + " Thin: a lane that another one speaks over." + (" Ground: the sound." if sound else "")
    )


def _strip(axes: Axes, session: Session, wanted: Wanted, id: str, sound: Floats | None) -> None:
    parameter = session.parameter(id)
    axes.set_xlim(wanted.start, wanted.end)
    axes.set_ylim(-0.04, 1.04)
    axes.set_facecolor(SHEET)
    owner = session.owner(id)
    silent = "" if owner.reads or not session.lanes_of(id) else "   its track is off: these lanes are not heard"
    axes.set_title(f"{parameter_name(session, id)}{silent}", fontsize=8.5, loc="left", color=INK, pad=2.5)
    axes.tick_params(length=0, labelsize=7, labelcolor=SOFT, pad=2)
    axes.yaxis.tick_right()
    for side in axes.spines.values():
        side.set_color(LINE)
    marks = list(_apart((float(parameter.position(value)), text) for value, text in parameter.marks()))
    axes.set_yticks([place for place, _ in marks], [text for _, text in marks])
    axes.set_xticks([])
    if sound is not None:
        places = np.linspace(wanted.start, wanted.end, len(sound))
        axes.fill_between(places, 0.5 - sound / 2, 0.5 + sound / 2, color=SOUND, linewidth=0)
    ink = INKS.get(ink_of(parameter), INK)
    whole = wanted.start, wanted.end
    after = (
        wanted.after if wanted.after and any(p.id == id for t in wanted.after.tracks for p in t.parameters) else session
    )
    first, last = (
        (whole if wanted.shows == "applied" else _otherwise(session, after, id, *whole))
        if wanted.shows != "now"
        else (wanted.end,) * 2
    )
    for start, end in ((wanted.start, first), (last, wanted.end)):
        _curves(axes, session, parameter, start, end, ink, dashed=False)
    if wanted.shows == "both":
        _curves(axes, session, parameter, first, last, PENCIL, dashed=True)
    _curves(axes, after, after.parameter(id), first, last, FRESH, dashed=False)
    _regions(axes, session, wanted, id)


def _apart(marks: Iterable[tuple[float, str]]) -> Iterator[tuple[float, str]]:
    """Marks that can be read beside each other."""
    last = -1.0
    for place, text in sorted(marks):
        if place - last >= _APART:
            yield place, text
            last = place


def _otherwise(session: Session, after: Session, id: str, start: int, end: int) -> tuple[int, int]:
    """From where to where inside a span a parameter would be otherwise; its end twice where it stays as it is."""
    one, other = (heard(reading(s), id, groups=False).envelope for s in (session, after))
    ticks = np.unique(np.concatenate(([start, end], one.ticks, other.ticks, (one.ticks[1:] + one.ticks[:-1]) // 2)))
    ticks = ticks[(ticks >= start) & (ticks <= end)]
    left, right = (np.abs(one.at(ticks, side) - other.at(ticks, side)) > SAME for side in ("left", "right"))
    found = np.flatnonzero(left | right)
    if not len(found):
        return end, end
    first, last = int(found[0]), int(found[-1])
    return int(ticks[max(first - int(left[first]), 0)]), int(ticks[min(last + int(right[last]), len(ticks) - 1)])


def _curves(axes: Axes, session: Session, parameter: Parameter, start: int, end: int, ink: str, dashed: bool) -> None:
    """What speaks between two ticks, and thinner what something else speaks over."""
    if start >= end:
        return
    for lane in session.lanes_of(parameter.id):
        own = session.span(lane)
        a, b = max(own[0], start), min(own[1], end)
        if a < b:
            _line(axes, session.in_session_time(lane), parameter, a, b, PENCIL, 0.4, dashed=False)
    for one, other, spoken in speaking(reading(session), parameter.id).over(session.length):
        a, b = max(one, start), min(other, end)
        if a < b:
            curve = session.in_session_time(spoken) if spoken else Envelope.constant(parameter.value, parameter.axis)
            _line(axes, curve, parameter, a, b, ink, 1.4 if spoken else 0.8, dashed)


def _line(
    axes: Axes, curve: Envelope, parameter: Parameter, start: int, end: int, ink: str, width: float, dashed: bool
) -> None:
    dashes = (0, (4, 2.5)) if dashed else "solid"
    if curve.count(start, end) > _MANY:
        edges = columns_between(start, end, _COLUMNS)
        lows, highs = (parameter.position(x) for x in outline(curve, edges))
        axes.fill_between(edges[:-1], lows, highs, color=ink, linewidth=0.5, step="post")
        return
    ticks, places = corners(curve, parameter, start, end)
    axes.plot(ticks, places, color=ink, linewidth=width, linestyle=dashes, solid_joinstyle="round")


def corners(curve: Envelope, parameter: Parameter, start: int, end: int) -> tuple[Floats, Floats]:
    """(ticks, places 0 to 1) of a curve's corners over a span: both sides of each point, and some along each bend."""
    inner = curve.ticks[(curve.ticks > start) & (curve.ticks < end)]
    knots = np.unique(np.concatenate(([start], inner, [end])))
    between = [np.linspace(a, b, _CORNERS + 1)[1:-1] for a, b in pairwise(knots) if _bends(curve, int(a))]
    ticks = np.unique(np.concatenate((knots, *between)).astype(np.int64))
    sides = np.stack((curve.at(ticks, "left"), curve.at(ticks, "right")), axis=1).ravel()[1:-1]
    return np.repeat(ticks.astype(float), 2)[1:-1], parameter.position(sides)


def _bends(curve: Envelope, tick: int) -> bool:
    """Whether the segment at a tick is neither straight nor held."""
    at = int(np.searchsorted(curve.ticks, tick, "right")) - 1
    return 0 <= at < len(curve) - 1 and bool(np.isfinite(curve.bends[at])) and curve.bends[at] != 0


def _regions(axes: Axes, session: Session, wanted: Wanted, id: str) -> None:
    """Where regions of the track lie, by name at the foot."""
    for region in session.owner(id).regions:
        start, end = max(region.start, wanted.start), min(region.end, wanted.end)
        if start < end:
            axes.plot(
                [start, end],
                [-0.02, -0.02],
                color=INK if session.lane_at(id, region.id) else LINE,
                linewidth=2,
                solid_capstyle="butt",
            )
            if (end - start) * 40 > wanted.end - wanted.start:
                axes.text(
                    start,
                    0.01,
                    f" {region.name}{', muted' if region.muted else ''}",
                    fontsize=6,
                    color=SOFT,
                    va="bottom",
                    clip_on=True,
                )


def _bars(axes: Axes, session: Session, wanted: Wanted) -> None:
    """Bars on the lowest strip's foot, as many as can be read, with seconds under them; lines on all."""
    bars = [(number, tick) for number, tick, _ in session.tempo.bar_starts(wanted.end) if wanted.start <= tick]
    each = max(-(-len(bars) // 16), 1)
    some = [(n, t) for n, t in bars if (n - 1) % each == 0]
    places = [(t, f"{n}\n{clock_text(float(session.tempo.seconds(t)))}") for n, t in some]
    axes.set_xticks([t for t, _ in places], [text for _, text in places])
    for strip in axes.figure.axes:
        for tick, _ in places:
            strip.axvline(tick, color=QUIET, linewidth=0.7, zorder=0)


def _bytes(figure: Figure, form: Form) -> bytes:
    out = BytesIO()
    if form == "svg":
        FigureCanvasSVG(figure).print_svg(  # type: ignore[no-untyped-call]
            out, metadata={"Date": None, "Creator": "Velmot"}
        )
    elif form == "pdf":
        FigureCanvasPdf(figure).print_pdf(  # type: ignore[no-untyped-call]
            out, metadata={"CreationDate": None, "Creator": "Velmot", "Producer": None}
        )
    else:
        figure.set_dpi(150)
        FigureCanvasAgg(figure).print_png(  # type: ignore[no-untyped-call]
            out, metadata={"Software": "Velmot"}
        )
    return out.getvalue()
