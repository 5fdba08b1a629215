"""Taking out: session files, MIDI files, and containers both ways."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator
from typing import Any
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from ninja import File, Router
from ninja.files import UploadedFile

from velmot.api.routes.seeing import view_of
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.seeing import RequestOut
from velmot.core.time.ticks import ticks_of
from velmot.core.verbs.regions.request import PlaceContainer
from velmot.formats import clipboard, container_file, files, midi, points_table, session_file
from velmot.formats.report import FormatError
from velmot.formats.requests import to_row
from velmot.presentation.sessions import ReportOut
from velmot.presentation.taking_out import MidiOut, midi_choices, midi_file
from velmot.storage import sessions, sources

router = Router()


@router.get("/sessions/{id}/export/session", response={200: None} | PROBLEMS, operation_id="exportSession")
def export_session(request: HttpRequest, id: int) -> HttpResponseBase:
    session, format = sessions.load(id), session_file.FORMAT
    return download(session_file.parts(session), session.name + format.endings[0], format.media)


@router.get("/sessions/{id}/export/table", response={200: None} | PROBLEMS, operation_id="exportTable")
def export_table(request: HttpRequest, id: int, lanes: str = "") -> HttpResponseBase:
    """The points of some lanes, their ids a line each, or of all, as a table."""
    session, format = sessions.load(id), points_table.FORMAT
    chosen = [session.lane(lane).id for lane in lanes.splitlines() if lane]
    return download(points_table.write(session, chosen or None)[0], session.name + format.endings[0], format.media)


@router.get(
    "/sessions/{id}/export/container/{path:region}", response={200: None} | PROBLEMS, operation_id="exportContainer"
)
def export_container(request: HttpRequest, id: int, region: str) -> HttpResponseBase:
    """One region's automation as a file of its own."""
    session = sessions.load(id)
    name = session.region(region).name + container_file.ENDING
    return download(container_file.write(session, region), name, session_file.FORMAT.media)


@router.post("/sessions/{id}/container", response={200: RequestOut} | PROBLEMS, operation_id="readContainer")
def read_container(request: HttpRequest, id: int, file: File[UploadedFile], track: str, at: float) -> Any:
    """The request that lays a container from a file over a track, ready to preview."""
    view_of(at, at)
    if (file.size or 0) > clipboard.MOST_BYTES:
        raise FormatError("file-large", "the file is too large", place="file", accepted=container_file.ACCEPTED)
    name, length, clips, muted = container_file.read(file.read())
    wanted = PlaceContainer(sessions.load(id).track(track).id, name, ticks_of(at), length, clips, muted)
    return {"request": to_row("place container", wanted)}


@router.get("/sessions/{id}/export/midi", response={200: MidiOut} | PROBLEMS, operation_id="midiChoices")
def choices(request: HttpRequest, id: int) -> Any:
    """What would usually be written to a MIDI file, and as what."""
    session, source = sessions.load(id), sources.known(id)
    return midi_choices(session, source.data if source else None)


@router.post("/sessions/{id}/export/midi", response={200: ReportOut} | PROBLEMS, operation_id="planMidi")
def plan_midi(request: HttpRequest, id: int, body: MidiOut) -> Any:
    """What a MIDI file with these choices would hold."""
    return vars(midi_file(sessions.load(id), body)[1])


@router.post("/sessions/{id}/export/midi/file", response={200: None} | PROBLEMS, operation_id="exportMidi")
def export_midi(request: HttpRequest, id: int, body: MidiOut) -> HttpResponseBase:
    session = sessions.load(id)
    return download(midi_file(session, body)[0], session.name + midi.FORMAT.endings[0], midi.FORMAT.media)


@router.get("/sessions/{id}/export/into/report", response={200: ReportOut} | PROBLEMS, operation_id="planInto")
def plan_into(request: HttpRequest, id: int) -> Any:
    """What the file that the session came from would hold, with what was changed written into it."""
    return vars(files.into(sessions.load(id), sources.source_of(id).data)[1])


@router.get("/sessions/{id}/export/into", response={200: None} | PROBLEMS, operation_id="exportInto")
def export_into(request: HttpRequest, id: int) -> HttpResponseBase:
    """The file that the session came from, with what was changed written into it; all else is as it was."""
    source = sources.source_of(id)
    return download(files.into(sessions.load(id), source.data)[0], source.name, midi.FORMAT.media)


def download(data: bytes | Iterator[bytes], name: str, kind: str) -> HttpResponseBase:
    """A file to save. Names beyond ASCII travel as RFC 6266 says, beside one that every reader knows."""
    safe = "".join(c if c.isalnum() or c in " ._-" else "_" for c in name)
    plain = unicodedata.normalize("NFKD", safe).encode("ascii", "ignore").decode().strip(" .") or "velmot"
    made = HttpResponse if isinstance(data, bytes) else StreamingHttpResponse
    response = made(data, content_type=kind)
    disposition = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(safe, safe='')}"
    response.headers["Content-Disposition"] = disposition
    return response
