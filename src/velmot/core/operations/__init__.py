"""Every verb Velmot knows, one module each; each has a request type and a plan."""

from velmot.core.change import Change
from velmot.core.operations import carry
from velmot.core.operations.frame import Operation, Request
from velmot.core.session import Session

OPERATIONS: dict[str, Operation] = {op.verb: op for op in (carry.OPERATION,)}


def plan(session: Session, verb: str, request: Request) -> Change:
    """The change a verb would make. Preview shows it, apply saves it: there is no other path."""
    return OPERATIONS[verb].plan(session, request)
