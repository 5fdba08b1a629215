"""Matching: which parameter of another track is “the same” one."""

from __future__ import annotations

from dataclasses import replace

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


def with_same_parameter(session: Session, parameter: Parameter, target: Track) -> Session:
    """The session with `parameter` added to a track that has nothing like it, static value and all.

    A device's parameter brings the device along if the track has none of its kind. A send cannot
    feed the track it is on; then the session stays as it is.
    """
    if parameter.target == target.id:
        return session
    ids = session.new_ids(f"{target.id}.added")
    device = session.owner(parameter.id).device_of(parameter)
    here = next((d for d in target.devices if device and d.kind == device.kind), None)
    devices = target.devices
    if device and here is None:
        here = replace(device, id=next(ids))
        devices = (*devices, here)
    added = replace(parameter, id=next(ids), device=here.id if here else None)
    wider = replace(target, parameters=(*target.parameters, added), devices=devices)
    return session.with_tracks(wider if t.id == target.id else t for t in session.tracks)
