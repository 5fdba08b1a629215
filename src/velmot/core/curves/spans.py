"""Half-open spans ``[start, end)``: which of some that overlap lies on top."""

from __future__ import annotations

from collections.abc import Sequence
from heapq import heappop, heappush
from itertools import pairwise


def topmost(spans: Sequence[tuple[int, int]]) -> list[tuple[int, int, int]]:
    """The disjoint (start, end, index) in which each span lies on top, in order; a later one covers an earlier one.

    >>> topmost([(0, 10), (4, 6), (8, 12)])
    [(0, 4, 0), (4, 6, 1), (6, 8, 0), (8, 12, 2)]
    """
    marks = sorted({edge for span in spans for edge in span})
    starting = sorted(range(len(spans)), key=lambda i: spans[i][0])
    open_spans: list[int] = []  # the one on top first, as a heap of negated indices
    out: list[tuple[int, int, int]] = []
    next_start = 0
    for mark, after in pairwise(marks):
        while next_start < len(starting) and spans[starting[next_start]][0] <= mark:
            heappush(open_spans, -starting[next_start])
            next_start += 1
        while open_spans and spans[-open_spans[0]][1] <= mark:
            heappop(open_spans)
        if not open_spans:
            continue
        top = -open_spans[0]
        if out and out[-1][2] == top and out[-1][1] == mark:
            out[-1] = (out[-1][0], after, top)
        else:
            out.append((mark, after, top))
    return out


def runs(spans: Sequence[tuple[int, int]]) -> list[tuple[int, int]]:
    """The spans as few as can be: those that touch or overlap become one; sorted.

    >>> runs([(8, 12), (0, 4), (4, 6)])
    [(0, 6), (8, 12)]
    """
    out: list[tuple[int, int]] = []
    for start, end in sorted(spans):
        if out and start <= out[-1][1]:
            out[-1] = (out[-1][0], max(out[-1][1], end))
        else:
            out.append((start, end))
    return out


def outside(spans: Sequence[tuple[int, int]], length: int) -> list[tuple[int, int]]:
    """What spans leave of ``[0, length)``.

    >>> outside([(2, 4), (3, 6)], 8)
    [(0, 2), (6, 8)]
    """
    edges = [0, *(edge for span in runs(spans) for edge in span), length]
    return [
        (max(a, 0), min(b, length)) for a, b in zip(edges[::2], edges[1::2], strict=True) if max(a, 0) < min(b, length)
    ]
