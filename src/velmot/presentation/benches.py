"""The bench as it is kept: what a window of a session shows, for the next one that opens it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from velmot.core.limits import LONGEST_NAME, MOST_IDS

Id = Annotated[str, Field(max_length=LONGEST_NAME)]
Beat = Annotated[float, Field(ge=-1e9, le=1e9)]
Ids = Annotated[list[Id], Field(max_length=MOST_IDS)]


class Window(BaseModel):
    """A span of beats."""

    model_config = ConfigDict(extra="forbid")

    start: Beat
    end: Beat


class KeptSet(BaseModel):
    """Pinned parameters under a name."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(max_length=60)]
    pins: Ids


class Bench(BaseModel):
    """What is kept of a bench; what is None was never changed. Ids that are no longer there are passed over."""

    model_config = ConfigDict(extra="forbid")

    view: Window | None = None
    pins: Ids | None = None
    heights: Annotated[dict[str, Annotated[float, Field(ge=0, le=10_000)]], Field(max_length=MOST_IDS)] | None = None
    size: Literal["low", "middle", "tall"] | None = None
    range: Window | None = None
    cursor: Beat | None = None
    grid: Annotated[str, Field(max_length=10)] | None = None
    chosen: Ids | None = None
    sets: Annotated[list[KeptSet], Field(max_length=1000)] | None = None
    shares: Annotated[dict[str, Ids], Field(max_length=MOST_IDS)] | None = None
    heard_on: Ids | None = None
    folded: bool | None = None
    ledger: Annotated[int, Field(ge=0, le=4000)] | None = Field(None, description="Its width in pixels; 0 if folded.")
