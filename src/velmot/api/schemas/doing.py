"""Requests made on a revision."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.core.remedy import Links
from velmot.presentation.curves import View
from velmot.presentation.requests import AnyRequest

StepName = Annotated[str, Field(pattern=r"^[0-9A-Za-z-]{8,64}$")]


class Ask(Schema):
    """A request made on a revision; with a view, the answer holds the curves to draw.

    `links` is what happens where it writes on a linked place: follow into its phrase, here only, or set free; nothing
    means as is usual for the verb. `counted_at` is the revision in which the request's points were counted, if that is
    an earlier one: they are found again, or it is refused. `instead` puts it in place of the step that led to the
    revision, as long as nothing came after that: it is planned on the session before it. With a `ticket`, any word of
    one's own, how far it has come can be asked for and it can be stopped. With `keep` what it replaces is kept aside, as of
    `when` (ISO 8601); `window` is what the window is called that asks. `step` is a name of one's own for what is
    applied: sent again, it is not done again, and answered as it was.
    """

    revision: Annotated[int, Field(ge=0)]
    request: AnyRequest
    links: Links | None = None
    instead: bool = False
    counted_at: Annotated[int, Field(ge=0)] | None = None
    view: View | None = None
    keep: bool | None = None
    when: Annotated[str, Field(max_length=40)] | None = None
    window: Annotated[str, Field(max_length=40)] | None = None
    step: StepName | None = None
    ticket: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class OnRevision(Schema):
    """The revision the window shows; `step` as for what is applied."""

    revision: int
    step: StepName | None = None
