"""Every verb Velmot knows, one module each; each has a request type and a plan."""

from velmot.core.change import Change
from velmot.core.operations import (
    add_points,
    carry,
    clear,
    draw,
    move_points,
    paste,
    raise_span,
    remove_points,
    retarget,
    set_values,
    shape_segments,
)
from velmot.core.operations.frame import Operation, Request
from velmot.core.session import Session

_MODULES = (
    carry,
    retarget,
    raise_span,
    clear,
    add_points,
    move_points,
    set_values,
    remove_points,
    shape_segments,
    draw,
    paste,
)
OPERATIONS: dict[str, Operation] = {module.OPERATION.verb: module.OPERATION for module in _MODULES}


def plan(session: Session, verb: str, request: Request) -> Change:
    """The change a verb would make. Preview shows it, apply saves it: there is no other path."""
    return OPERATIONS[verb].plan(session, request)
