"""Matching: which parameter of another track is “the same” one."""

from __future__ import annotations

from velmot.core.parameters import Family, Parameter
from velmot.core.session import Session, Track


def same_parameter(session: Session, parameter: Parameter, target: Track) -> Parameter | None:
    """The target track's parameter that a lane for `parameter` belongs to, or None.

    Family, kind and axis must agree. Sends are the same when they feed the same bus; devices'
    parameters when the devices are of one kind, the same one in order among several; all else by name.
    """
    source = session.owner(parameter.id)
    if source.id == target.id:
        return parameter
    alike = [p for p in target.parameters if _same_form(p, parameter) and _same_name(p, parameter)]
    if parameter.family is not Family.DEVICE:
        return alike[0] if alike else None
    return _in_same_slot(source, parameter, target, alike)


def _same_form(one: Parameter, other: Parameter) -> bool:
    return (one.family, one.kind, one.axis, one.unit) == (other.family, other.kind, other.axis, other.unit)


def _same_name(one: Parameter, other: Parameter) -> bool:
    if one.target and other.target:
        return one.target == other.target and one.name == other.name
    return one.name.casefold() == other.name.casefold()


def _in_same_slot(source: Track, parameter: Parameter, target: Track, alike: list[Parameter]) -> Parameter | None:
    device = source.device_of(parameter)
    if device is None:
        return next((p for p in alike if p.device is None), None)
    slot = [d.id for d in source.devices if d.kind == device.kind].index(device.id)
    there = [d.id for d in target.devices if d.kind == device.kind]
    found = {p.device: p for p in alike if p.device and p.device in there}
    by_slot = there[slot] if slot < len(there) else ""
    return found.get(by_slot) or next(iter(found.values()), None)
