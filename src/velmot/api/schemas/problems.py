"""The one shape of every error, and what every route may refuse."""

from __future__ import annotations

from ninja import Schema

from velmot.presentation.requests import RemedyOut


class Problem(Schema):
    """Every error has this shape: what was wrong, where, what would be right, and what can be done."""

    code: str
    message: str
    place: str = ""
    accepted: str = ""
    args: dict[str, str | int | float] = {}
    head: int | None = None
    remedy: RemedyOut | None = None


PROBLEMS = dict.fromkeys((400, 403, 404, 409, 413, 422, 503, 507), Problem)
