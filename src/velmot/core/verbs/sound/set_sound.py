"""Set the sound of tracks or regions: a stand-in, the notes of a MIDI file, a file of one's own, or as is usual."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.sounds import FILE, Audio, Excerpt, Excerpts, Sound
from velmot.core.session.track import Region, Track, TrackKind
from velmot.core.session.wording import listed
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, TrackSwap
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.sound.request import SetSound


def plan(session: Session, request: SetSound) -> Change:
    """The tracks with another sound; groups are faders and have none."""
    if not request.tracks and not request.regions:
        raise RequestError("sound-none", place="tracks", accepted="a track, or a region")
    sound = _sound(request)
    changed = {id: replace(_able(session.track(id)), sound=sound) for id in dict.fromkeys(request.tracks)}
    for id in dict.fromkeys(request.regions):
        track = session.track_of_region(id)
        now = changed.get(track.id, track)
        made = replace(session.region(id), sound=_clips(session.region(id), sound))
        changed[track.id] = replace(now, regions=tuple(made if r.id == id else r for r in now.regions))
    swaps = tuple(TrackSwap(session.track(id), t) for id, t in changed.items() if session.track(id) != t)
    return Change(tracks=swaps, cautions=() if swaps else (say.no_change(),))


def _sound(request: SetSound) -> Sound | None:
    given = request.sound
    if given is None:
        return None
    if given.kind == FILE and not given.digest:
        raise RequestError("sound/no-file", place="sound.digest", accepted="a file of your own")
    audio = Audio(given.name, given.digest) if given.kind == FILE else None
    numbers = {name: getattr(given, name) for name in ("hz", "amplitude", "density", "brightness", "seed", "offset")}
    return Sound(given.kind, audio=audio, start=request.at if audio and request.tracks else 0, **numbers)


def _able(track: Track) -> Track:
    if track.kind is TrackKind.GROUP:
        raise RequestError("sound-group", name=track.name, place="tracks", accepted="its members")
    return track


def _clips(region: Region, sound: Sound | None) -> Excerpts:
    """A region as one clip of a sound of its own; a file from its offset on."""
    return () if sound is None else (Excerpt(0, region.length, region.id, sound.offset if sound.audio else 0.0, sound),)


def sentence(session: Session, request: SetSound) -> tell.Told:
    """“Let Keeper sound as a murmur.” or “Let Keeper sound as take 3.wav from 9.1.00 on.”"""
    names = [session.track(id).name for id in request.tracks] + [session.region(id).name for id in request.regions]
    field = "regions" if request.regions and not request.tracks else "tracks"
    who = listed(names, "track", 2) or tell.Asked("choose a track")
    given = request.sound
    if given is None:
        return tell.told(f"Let {{{field}}} sound as is usual.", **{field: who})
    if given.kind == FILE:
        name = given.name or tell.Asked("choose a file")
        where = "" if field == "regions" else " from {at} on"
        return tell.told(
            f"Let {{{field}}} sound as {{sound}}{where}.",
            **{field: who},
            sound=name,
            at=tell.position(session, request.at),
        )
    words = {
        "notes": "the notes it came with",
        "nothing": "nothing",
        "voices": "voices",
        "birds": "birds",
        "rain": "rain",
        "noise": "noise",
    }
    return tell.told(
        f"Let {{{field}}} sound as {{sound}}.", **{field: who}, sound=words.get(given.kind, f"a {given.kind}")
    )


OPERATION = Operation("set sound", SetSound, plan, sentence, "moving")
