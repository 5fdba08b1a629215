"""Matching: which parameter of another track is “the same” one."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Device, Track


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
    device = session.owner(parameter.id).device_of(parameter)
    if device is None:
        return _with(session, _with_parameter(session, target, parameter, None))
    session, here = _with_slot(session, target.id, device, 0)
    return _with(session, _with_parameter(session, session.track(target.id), parameter, here))


def with_device(session: Session, device_id: str, target: Track) -> Session:
    """The session with a whole device on `target`: in the same slot of its kind, every static value alike.

    The device, and parameters of it that are missing there, are added. Raises RequestError for no such device.
    """
    source, device = device_named(session, device_id)
    if source.id == target.id:
        return session
    slot = [d.id for d in source.devices if d.kind == device.kind].index(device.id)
    session, here = _with_slot(session, target.id, device, slot)
    for parameter in source.parameters:
        if parameter.device == device.id:
            session = _with(session, _with_value(session, session.track(target.id), parameter, here))
    return session


def device_named(session: Session, id: str) -> tuple[Track, Device]:
    """A device and the track it is on; RequestError if there is none of this id."""
    for track in session.tracks:
        for device in track.devices:
            if device.id == id:
                return track, device
    known = ", ".join(d.id for t in session.tracks for d in t.devices)
    raise RequestError("device-unknown", id=id, place="devices", accepted=known or "no device")


def static_differences(session: Session, source: Track, target: Track) -> list[tuple[Parameter, Parameter]]:
    """(source's, target's) parameters that are the same one and rest at different values."""
    pairs = ((p, same_parameter(session, p, target)) for p in source.parameters)
    return [(p, q) for p, q in pairs if q is not None and q.id != p.id and q.value != p.value]


def resting_like(target: Track, pairs: list[tuple[Parameter, Parameter]]) -> Track:
    """The target with the static values of its partners, as far as its ranges allow."""
    values = {q.id: min(max(p.value, q.low), q.high) for p, q in reversed(pairs)}
    new = (replace(p, value=p.nearest(values[p.id])) if p.id in values else p for p in target.parameters)
    return replace(target, parameters=tuple(new))


def _with(session: Session, track: Track) -> Session:
    return session.with_tracks(track if t.id == track.id else t for t in session.tracks)


def _with_slot(session: Session, target: str, device: Device, slot: int) -> tuple[Session, Device]:
    """The session with at least slot + 1 devices of the kind on a track, and the one in that slot."""
    track = session.track(target)
    there = [d for d in track.devices if d.kind == device.kind]
    if slot < len(there):
        return session, there[slot]
    added = replace(device, id=next(session.new_ids(f"{target}.device")))
    return _with(session, replace(track, devices=(*track.devices, added))), added


def _with_parameter(session: Session, target: Track, parameter: Parameter, device: Device | None) -> Track:
    id = next(session.new_ids(f"{target.id}.added"))
    added = replace(parameter, id=id, device=device.id if device else None)
    return replace(target, parameters=(*target.parameters, added))


def _with_value(session: Session, target: Track, parameter: Parameter, device: Device) -> Track:
    """The track with the device's parameter at the source's static value, added if it has none like it."""
    own = next(
        (
            p
            for p in target.parameters
            if p.device == device.id and _same_form(p, parameter) and _same_name(p, parameter)
        ),
        None,
    )
    if own is None:
        return _with_parameter(session, target, parameter, device)
    return resting_like(target, [(parameter, own)])
