"""First lanes: a lane that is made on a track where its regions' lanes speak, and the track's win, silences them."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import heard, reading, speaking
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Precedence
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame.change import caution
from velmot.core.verbs.frame.working_copy import WorkingCopy


def silences(session: Session, parameter: Parameter) -> bool:
    """Whether a first lane on the track would keep all its regions' lanes from being heard."""
    wins = session.precedence is Precedence.TRACK and session.lane_at(parameter.id) is None
    return wins and bool(speaking(session, parameter.id).spans)


def take_over(work: WorkingCopy, parameter: Parameter) -> None:
    """Let a first lane on the track do what is heard, regions' lanes included, as it silences them."""
    session = work.session
    curve = heard(reading(session), parameter.id, groups=False).envelope
    work.write(parameter.id, ON_THE_TRACK, curve)
    name = parameter_name(session, parameter.id)
    work.cautions.append(caution("takes-over", name=name, track=session.owner(parameter.id).id))
