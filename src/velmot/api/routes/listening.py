"""Listening: scores for the page's audio graph, sounds in pieces, outlines, readings, files of one's own, and taking out."""

from __future__ import annotations

import tempfile
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from ninja import File, Query, Router
from ninja.files import UploadedFile

from velmot.api.routes.answers import quick
from velmot.api.routes.taking_out import download
from velmot.api.schemas.listening import AudioOut, FollowedIn, Hear, SoundWanted
from velmot.api.schemas.problems import PROBLEMS
from velmot.core import verbs
from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_SOUND
from velmot.core.session.session import Session
from velmot.core.time.ticks import ticks_of
from velmot.core.verbs.follow.request import Follow
from velmot.formats import sound_out
from velmot.formats.audio_file import form_of
from velmot.formats.requests import to_core
from velmot.formats.sound_out import Wanted
from velmot.presentation.following import FollowedOut, followed_out
from velmot.presentation.listening import (
    CHUNK,
    OutlineOut,
    ReadingsOut,
    ScoresOut,
    chunk,
    detector_for,
    impulse_bytes,
    library_for,
    outline_out,
    readings_out,
    scores_out,
)
from velmot.presentation.waiting import ticketed
from velmot.sound.library import Library
from velmot.sound.path import Score
from velmot.sound.stand_ins.hall import DECAYS
from velmot.storage import history, own_audio, sessions

router = Router()
FOREVER = "private, max-age=31536000, immutable"
_MEDIA = {".wav": "audio/wav", ".flac": "audio/flac"}


@router.post("/sessions/{id}/score", response={200: ScoresOut} | PROBLEMS, operation_id="score")
def score(request: HttpRequest, id: int, body: Hear) -> Any:
    """What sounds over a span, now and if a request were applied."""
    now, applied = _states(id, body)
    return quick(scores_out(now, applied, body.start, body.end, body.tracks))


def _states(id: int, body: Hear) -> tuple[Session, Session | None]:
    now = sessions.load(id)
    if body.request is None:
        return now, None
    return now, verbs.plan(
        now, *to_core(body.request), body.links, history.past_of(id), detector_for(id, now)
    ).applied_to(now)


@router.post("/sessions/{id}/followed", response={200: FollowedOut} | PROBLEMS, operation_id="followed")
def followed(request: HttpRequest, id: int, body: FollowedIn) -> Any:
    """What the source of a follow does in view."""
    session = sessions.load(id)
    verb, wanted = to_core(body.request)
    if not isinstance(wanted, Follow):
        raise RequestError("verb", verb=verb, place="request", accepted="follow")
    with ticketed(body.ticket):
        return quick(followed_out(session, wanted, body.view, detector_for(id, session)))


@router.get("/sessions/{id}/sound", response={200: None} | PROBLEMS, operation_id="soundChunk")
def sound(
    request: HttpRequest,
    id: int,
    key: Annotated[str, Query(max_length=4000)],
    n: Annotated[int, Query(ge=0, le=LONGEST_SOUND // CHUNK)],
) -> HttpResponseBase:
    """The n-th four seconds of a sound, as 32-bit floats at 48 kHz; what a key names never changes."""
    data, sides = chunk(id, sessions.load(id), key, n)
    response = HttpResponse(data, content_type="application/octet-stream")
    response.headers["Cache-Control"] = FOREVER
    response.headers["X-Sides"] = str(sides)
    return response


@router.get("/sound/impulse/{i}", response={200: None} | PROBLEMS, operation_id="impulse")
def hall_impulse(request: HttpRequest, i: int) -> HttpResponseBase:
    """A hall's impulse, as 32-bit floats at 48 kHz, two sides."""
    if not 0 <= i < len(DECAYS):
        raise RequestError("impulse", i=i, place="i", accepted=f"0 to {len(DECAYS) - 1}")
    response = HttpResponse(impulse_bytes(i), content_type="application/octet-stream")
    response.headers["Cache-Control"] = FOREVER
    return response


@router.get("/sessions/{id}/outline", response={200: OutlineOut} | PROBLEMS, operation_id="outline")
def track_outline(request: HttpRequest, id: int, track: str) -> Any:
    """How far a track's sound reaches, for the silhouette behind its strips."""
    session = sessions.load(id)
    return outline_out(id, session, session.track(track))


@router.post("/sessions/{id}/readings", response={200: ReadingsOut} | PROBLEMS, operation_id="readings")
def meters(request: HttpRequest, id: int, body: Hear) -> Any:
    """Peak, mean and loudness of every track over a span, now and if a request were applied."""
    now, applied = _states(id, body)
    with ticketed(body.ticket):
        return readings_out(id, now, applied, body.start, body.end, body.each)


@router.post("/audio", response={200: AudioOut} | PROBLEMS, operation_id="keepAudio")
def keep_audio(request: HttpRequest, file: File[UploadedFile]) -> Any:
    """Keep a file of one's own sound; the same file twice is one."""
    return own_audio.keep(file.chunks(1 << 20), file.name or "")


@router.post("/sessions/{id}/export/sound", response={200: None} | PROBLEMS, operation_id="exportSound")
def export_sound(request: HttpRequest, id: int, body: SoundWanted) -> HttpResponseBase:
    """The mix as a file, or an archive with a file for each track."""
    session = sessions.load(id)
    tracks = None if body.tracks is None else frozenset(body.tracks)
    wanted = Wanted(ticks_of(body.start), ticks_of(body.end), tracks, body.rate, body.bits).checked(session)
    form_of(f"x{body.ending}", body.bits)
    made = sound_out.scored(session, wanted, own_audio.find)
    library = library_for(id, session)
    folder = tempfile.TemporaryDirectory(prefix="velmot-sound-")
    try:
        with ticketed(body.ticket):
            if body.each:
                path, name, media = _archive(Path(folder.name), session, made, library, wanted, body.ending)
            else:
                name, media = f"{session.name}{body.ending}", _MEDIA[body.ending]
                path = Path(folder.name) / f"mix{body.ending}"
                sound_out.write_mix(made, library, wanted, path, path.name)
    except BaseException:
        folder.cleanup()
        raise
    return download(_sent(path, folder), name, media)


def _archive(
    folder: Path, session: Session, made: Score, library: Library, wanted: Wanted, ending: str
) -> tuple[Path, str, str]:
    names = dict(sound_out.names_of(made, ending))
    sound_out.write_each(made, library, wanted, {id: folder / name for id, name in names.items()})
    path = folder / "tracks.zip"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as archive:
        for name in names.values():
            archive.write(folder / name, name)
    return path, f"{session.name}.zip", "application/zip"


def _sent(path: Path, folder: tempfile.TemporaryDirectory[str]) -> Iterator[bytes]:
    """A file's bytes, and then nothing is left of it."""
    with folder, path.open("rb") as file:
        while piece := file.read(1 << 20):
            yield piece
