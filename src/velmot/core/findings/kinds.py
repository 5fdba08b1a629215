"""The kinds of findings there are, in the order in which they are listed."""

from __future__ import annotations

from velmot.core.findings import (
    copies,
    dense,
    disagree,
    figure,
    flat,
    gaps,
    hears_nothing,
    late,
    loud,
    names,
    not_heard,
    open_end,
    otherwise,
    pieces,
    same,
    silent,
    stairs,
    stale,
    step,
    stuck,
    unplaced,
)
from velmot.core.findings.finding import Kind

KINDS: dict[str, Kind] = {
    kind.name: kind
    for kind in (
        *(not_heard.KIND, dense.KIND, gaps.KIND, flat.NOTHING, flat.FLAT, silent.KIND, pieces.KIND, stairs.KIND),
        *(step.KIND, late.KIND, open_end.KIND, stuck.KIND, loud.KIND, same.KIND, copies.KIND, figure.KIND),
        *(hears_nothing.KIND, disagree.KIND, otherwise.KIND, names.KIND, unplaced.KIND, stale.KIND),
    )
}
