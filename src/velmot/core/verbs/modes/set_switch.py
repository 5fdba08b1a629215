"""Set a switch over a range: a device on or off, a mute in or out; before it and after it the switch is as it was."""

from __future__ import annotations

from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Kind, Parameter
from velmot.core.session.session import Session
from velmot.core.session.wording import listed, parameter_name
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.first_lane import silences, take_over
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.modes.request import SetSwitch


def plan(session: Session, request: SetSwitch) -> Change:
    """The change that lays one held value over the range; RequestError for what is no switch."""
    need_range(request.start, request.end)
    switches = [_switch(session, id) for id in dict.fromkeys(request.parameters)]
    if not switches:
        every = [parameter_name(session, p.id) for t in session.tracks for p in t.parameters if p.kind is Kind.SWITCH]
        accepted = listed(every, "switch", 8) or "a session with a switch in it"
        raise RequestError("switches-none", place="parameters", accepted=accepted)
    work = WorkingCopy(session)
    for switch in switches:
        if silences(session, switch):
            take_over(work, switch)
        value = switch.labels[1 if request.on else 0].value
        held = Envelope.of([(0, value, HOLD)], switch.axis)
        work.land(switch, [Landed(request.start, Fragment(held, request.end - request.start))])
    owners = {p: session.owner(p.id) for p in switches}
    work.cautions += [say.not_reading(t) for t in dict.fromkeys(owners.values()) if not t.reads]
    return work.change()


def _switch(session: Session, id: str) -> Parameter:
    parameter = session.parameter(id)
    if parameter.kind is not Kind.SWITCH:
        raise RequestError(
            "switch-not", name=parameter_name(session, id), place="parameters", accepted="a parameter that is on or off"
        )
    return parameter


def sentence(session: Session, request: SetSwitch) -> tell.Told:
    """“Set Kelp choir Vowel filter on to off from 9.1.00 to 13.1.00.”"""
    labels = [session.parameter(id).labels for id in request.parameters]
    words = list(dict.fromkeys(x[1 if request.on else 0].text for x in labels if len(x) == 2))
    return tell.told(
        "Set {parameters} to {on} from {start} to {end}.",
        parameters=tell.parameters(session, request.parameters),
        on=" or ".join(words) or ("on" if request.on else "off"),
        start=tell.position(session, request.start),
        end=tell.position(session, request.end),
    )


OPERATION = Operation("set switch", SetSwitch, plan, sentence, "replacing")
