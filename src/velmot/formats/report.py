"""The import report: what came, what was changed, what was left out, and the errors readers raise."""

from __future__ import annotations

from dataclasses import dataclass, field

from velmot.core.errors import RequestError

MEGABYTE = 1024 * 1024


@dataclass
class Report:
    """What a reader did with a file, in sentences the user sees. Nothing is left out in silence."""

    came: list[str] = field(default_factory=list)
    changed: list[str] = field(default_factory=list)
    left_out: list[str] = field(default_factory=list)


class FormatError(RequestError):
    """A file that cannot be read: what is wrong, where in the file, and what was expected.

    A reader words it itself, as what can be wrong with a file belongs to its format.
    """

    def __init__(self, code: str, message: str, *, place: str, accepted: str = "") -> None:
        ValueError.__init__(self, message)
        self.kind = self.code = code
        self.said = ()
        self.message = message
        self.place = place
        self.accepted = accepted
        self.remedy = None
