"""Remedies: what a caution or a refusal offers to do about itself, for one click."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

Links = Literal["follow", "here", "free"]
"""What happens where a verb writes on a linked place: into its phrase and everywhere, only here, or set free."""


@dataclass(frozen=True)
class Remedy:
    """A button's `words`, and what it stands for: regions to ask for `also`, another verb's request as a `step` to take
    first, or what happens to linked places instead (`links`).
    """

    words: str
    also: tuple[str, ...] = ()
    step: Any = None
    links: Links | None = None
