"""Every verb Velmot knows, one module each; each has a request type and a plan."""

from velmot.core.change import Change
from velmot.core.operations import (
    add_points,
    carry,
    carry_regions,
    change_regions,
    clear,
    cut_regions,
    draw,
    embed,
    fill_gap,
    join_regions,
    lift,
    make_region,
    move_points,
    paste,
    place_container,
    raise_span,
    remove_points,
    remove_regions,
    retarget,
    set_precedence,
    set_values,
    shape_segments,
)
from velmot.core.operations.elsewhere import with_elsewhere
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
    embed,
    lift,
    carry_regions,
    cut_regions,
    join_regions,
    change_regions,
    remove_regions,
    make_region,
    place_container,
    fill_gap,
    set_precedence,
)
OPERATIONS: dict[str, Operation] = {module.OPERATION.verb: module.OPERATION for module in _MODULES}
_VERBS = {operation.request: verb for verb, operation in OPERATIONS.items()}


def verb_of(request: Request) -> str:
    """The verb whose request this is."""
    return _VERBS[type(request)]


def plan(session: Session, verb: str, request: Request) -> Change:
    """The change a verb would make. Preview shows it, apply saves it: there is no other path.

    What it does to what is heard outside the spans it names is found here, for every verb alike.
    """
    return with_elsewhere(session, OPERATIONS[verb].plan(session, request))
