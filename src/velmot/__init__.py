"""Velmot moves, reshapes and tidies automation envelopes.

As a library: ``velmot.open``, ``plan``, ``apply``, ``heard``, ``findings``, ``write``, and ``RequestError``, which each of
them raises for what cannot be done. What is named here keeps its meaning within a major version.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from velmot.core.errors import RequestError as RequestError
    from velmot.core.session.session import Session as Session
    from velmot.core.time.ticks import beats_of as beats_of
    from velmot.core.time.ticks import ticks_of as ticks_of
    from velmot.library import apply as apply
    from velmot.library import findings as findings
    from velmot.library import heard as heard
    from velmot.library import open as open
    from velmot.library import plan as plan
    from velmot.library import write as write

__version__ = "0.2.0"
__all__ = ["RequestError", "Session", "apply", "beats_of", "findings", "heard", "open", "plan", "ticks_of", "write"]

_HOMES = {
    "RequestError": "velmot.core.errors",
    "Session": "velmot.core.session.session",
    "beats_of": "velmot.core.time.ticks",
    "ticks_of": "velmot.core.time.ticks",
}


def __getattr__(name: str) -> Any:
    """What is named above, loaded when it is first wanted: the server and the command line do without most of it."""
    if name not in __all__:
        raise AttributeError(f"module 'velmot' has no attribute {name!r}")
    from importlib import import_module

    return getattr(import_module(_HOMES.get(name, "velmot.library")), name)
