"""The one kind of error the core raises when it is asked for something that makes no sense."""

from __future__ import annotations

from velmot.core.refusals import WORDS
from velmot.core.remedy import Remedy
from velmot.core.words import Arg, written


class RequestError(ValueError):
    """Says what was wrong (`message`), where (`place`), what would be right (`accepted`), and may offer a remedy.

    What is wrong is a kind with arguments (`velmot.core.refusals`); its code is what stands before the kind's slash.
    """

    def __init__(self, kind: str, *, place: str, accepted: str = "", remedy: Remedy | None = None, **args: Arg) -> None:
        self.kind = kind
        self.code = kind.partition("/")[0]
        self.said = tuple(args.items())
        self.message = written(WORDS[kind], self.said)
        self.place = place
        self.accepted = accepted
        self.remedy = remedy
        super().__init__(self.message)

    def said_at(self, place: str, accepted: str) -> RequestError:
        """The same of another place, where something else would be right."""
        return RequestError(self.kind, place=place, accepted=accepted, remedy=self.remedy, **dict(self.said))
