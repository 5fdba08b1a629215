"""`python -m tests.drawings`: the drawings of docs/how/mathematics.md, out of the core's own formulas."""

from __future__ import annotations

from io import BytesIO
from pathlib import Path

import numpy as np
from matplotlib.backends.backend_svg import FigureCanvasSVG
from matplotlib.figure import Figure

from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import cut
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.rails import maps_between, moved, rails_of
from velmot.core.curves.segments import bend
from velmot.core.curves.within_bound import thinned_within
from velmot.paper.pictures import FRESH, INK, LINE, PENCIL, QUIET, SHEET, SOFT

FOLDER = Path(__file__).parents[1] / "docs" / "drawings"
X = np.linspace(0, 1, 201)


def figure(title: str, across: str, up: str) -> tuple[Figure, object]:
    """A drawing on the paper, with what its axes are in words."""
    made = Figure(figsize=(6.4, 3.2), facecolor=SHEET)
    axes = made.subplots()
    axes.set_facecolor(SHEET)
    axes.set_title(title, loc="left", fontsize=10, color=INK)
    axes.set_xlabel(across, fontsize=8, color=SOFT)
    axes.set_ylabel(up, fontsize=8, color=SOFT)
    axes.tick_params(labelsize=7, labelcolor=SOFT, color=LINE)
    axes.grid(color=QUIET, linewidth=0.7)
    for side in axes.spines.values():
        side.set_color(LINE)
    made.subplots_adjust(left=0.1, right=0.97, top=0.88, bottom=0.16)
    return made, axes


def bends() -> Figure:
    """How a segment runs for some bends."""
    made, axes = figure(
        "A segment’s way: (e^kx − 1) / (e^k − 1)", "how far through the segment", "how far between its values"
    )
    for k in (-8.0, -3.0, 0.0, 3.0, 8.0):
        axes.plot(X, bend(X, np.full_like(X, k)), color=INK if k else FRESH, linewidth=1.4)
        axes.annotate(
            f"k = {k:g}",
            (0.5, float(bend(np.array([0.5]), np.array([k]))[0])),
            fontsize=7,
            color=SOFT,
            xytext=(4, -8),
            textcoords="offset points",
        )
    axes.step([0, 1, 1], [0, 0, 1], color=PENCIL, linestyle="--", linewidth=1.2)
    axes.annotate("held", (0.8, 0.02), fontsize=7, color=SOFT)
    return made


def octaves() -> Figure:
    """The same two points on two axes."""
    made, axes = figure("From 100 Hz to 1600 Hz, straight on two axes", "beats", "Hz")
    ticks = np.linspace(0, 4000, 201).astype(np.int64)
    for axis, ink, words in ((Axis.LOG, FRESH, "straight in octaves"), (Axis.LINEAR, INK, "straight in Hz")):
        values = Envelope.of([(0, 100.0), (4000, 1600.0)], axis).at(ticks)
        axes.plot(ticks / 1000, values, color=ink, linewidth=1.4)
        axes.annotate(
            words, (2, float(values[100])), fontsize=7, color=ink, xytext=(6, -10), textcoords="offset points"
        )
    return made


def tube() -> Figure:
    """The fewest lines through the tube of a bound."""
    made, axes = figure("Within 1 dB: the fewest lines through the tube", "beats", "dB")
    beats = np.arange(0, 16.01, 0.1)
    ridden = -12 + 5 * np.sin(beats / 2.3) + 0.5 * np.sin(beats * 3.1)
    curve = Envelope.of([(round(float(b) * 10**6), float(v)) for b, v in zip(beats, ridden, strict=True)], Axis.LEVEL)
    thin = thinned_within(curve, 1.0)
    axes.fill_between(beats, ridden - 1, ridden + 1, color=QUIET, linewidth=0)
    axes.plot(beats, ridden, color=PENCIL, linewidth=0.9)
    axes.plot(thin.ticks / 10**6, thin.values, color=FRESH, linewidth=1.4, marker="o", markersize=3)
    axes.annotate(f"{len(curve)} points, then {len(thin)}", (0.4, float(ridden.min())), fontsize=8, color=SOFT)
    return made


def rails() -> Figure:
    """A curve between its rails, one end of which was pulled."""
    made, axes = figure("Between rails: the upper one lifted at its end", "beats", "dB")
    points = [(round(float(x) * 10**6), -14 + 4 * float(np.sin(x * 1.9))) for x in np.linspace(0, 8, 401)]
    curve, end = Envelope.of(points, Axis.LEVEL), 8 * 10**6
    before = rails_of(curve, 0, end)
    after = before._replace(high_end=before.high_end + 6)
    lifted = moved(cut(curve, 0, end), *maps_between(before, after))
    for one, ink, dashes in ((curve, PENCIL, "--"), (lifted, FRESH, "-")):
        axes.plot(one.ticks / 10**6, one.values, color=ink, linewidth=1.2, linestyle=dashes)
    axes.plot([0, 8], [after.low_start, after.low_end], color=INK, linewidth=0.8)
    axes.plot([0, 8], [after.high_start, after.high_end], color=INK, linewidth=0.8)
    return made


DRAWINGS = {"bends": bends, "octaves": octaves, "tube": tube, "rails": rails}


def drawn(name: str) -> bytes:
    """A drawing as SVG; the same bytes each time."""
    out = BytesIO()
    FigureCanvasSVG(DRAWINGS[name]()).print_svg(out, metadata={"Date": None, "Creator": "Velmot"})
    return out.getvalue()


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for name in DRAWINGS:
        (FOLDER / f"{name}.svg").write_bytes(drawn(name))
