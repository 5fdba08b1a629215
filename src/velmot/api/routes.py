"""The routes: sessions, curves, preview and apply, undo and redo, reading what was typed, taking out."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator
from typing import Annotated, Any
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from ninja import File, NinjaAPI, Query, Router, Status
from ninja.files import UploadedFile
from pydantic import BaseModel, TypeAdapter

from velmot.api import drawing, errors, reuse
from velmot.api import schemas as s
from velmot.api.problems import PROBLEMS
from velmot.core import operations, selection
from velmot.core.errors import RequestError
from velmot.core.operations.chosen_points import Picked
from velmot.core.operations.frame import need_range
from velmot.core.operations.paste import Paste
from velmot.core.operations.place_container import PlaceContainer
from velmot.core.parameters import Parameter
from velmot.core.time import beats_of, parse_length, parse_position, ticks_of
from velmot.formats import clipboard, container_file, files, midi, session_file, table
from velmot.formats.midi.write import usual_choices
from velmot.formats.report import MEGABYTE, FormatError
from velmot.formats.requests import to_core, to_row
from velmot.storage import history, sessions

router = Router()
_Number = Annotated[int, Query(ge=0, le=2**31)]
_PageSize = Annotated[int, Query(ge=1, le=1000)]
_CURVES = TypeAdapter(list[s.Curve])
_HEARD = TypeAdapter(list[s.HeardOut])


def make_api() -> NinjaAPI:
    """The API with its routes and its errors."""
    api = NinjaAPI(title="Velmot", version="1", docs_url=None, openapi_url="/openapi.json", urls_namespace="velmot")
    api.add_router("", router)
    api.add_router("", reuse.router)
    errors.install(api)
    return api


# ── sessions ──────────────────────────────────────────────────────────────────────────────────


@router.get("/sessions", response={200: list[s.SessionLine]} | PROBLEMS, operation_id="listSessions")
def list_sessions(request: HttpRequest, deleted: bool = False) -> Any:
    lines = ", ".join(drawing.line_text(row) for row in sessions.listed(deleted))
    return HttpResponse(f"[{lines}]", content_type="application/json")


@router.post("/sessions/import", response={200: s.Imported} | PROBLEMS, operation_id="importSession")
def import_session(request: HttpRequest, file: File[UploadedFile]) -> Any:
    _only_one(request)
    if (file.size or 0) > table.LARGEST:
        said = f"the file has {(file.size or 0) // MEGABYTE} MB"
        raise FormatError("file-large", said, place="file", accepted=f"at most {table.LARGEST // MEGABYTE} MB")
    with files.taking_turns(file.size or 0):
        session, report = files.read(file.read(), file.name or "")
        return {"id": sessions.create(session, report), "report": vars(report)}


def _only_one(request: HttpRequest) -> None:
    """Raise FormatError for an upload of several files: each is a session of its own, with a report of its own."""
    count = sum(len(request.FILES.getlist(name)) for name in request.FILES)
    if count > 1:
        said = f"{count} files came at once"
        raise FormatError("files-many", said, place="file", accepted="one file in each upload")


@router.get("/sessions/{id}", response={200: s.SessionOut} | PROBLEMS, operation_id="openSession")
def open_session(request: HttpRequest, id: int) -> Any:
    return _quick(drawing.session_out(id))


@router.get("/sessions/{id}/head", response={200: s.Head} | PROBLEMS, operation_id="sessionHead")
def session_head(request: HttpRequest, id: int) -> Any:
    return {"revision": sessions.row(id).head}


@router.patch("/sessions/{id}", response={204: None} | PROBLEMS, operation_id="renameSession")
def rename_session(request: HttpRequest, id: int, body: s.Rename) -> Any:
    sessions.rename(id, body.name)
    return Status(204, None)


@router.delete("/sessions/{id}", response={204: None} | PROBLEMS, operation_id="deleteSession")
def delete_session(request: HttpRequest, id: int) -> Any:
    sessions.put_away(id)
    return Status(204, None)


@router.post("/sessions/{id}/remove", response={204: None} | PROBLEMS, operation_id="removeSession")
def remove_session(request: HttpRequest, id: int) -> Any:
    """Remove a deleted session for good, with its history."""
    sessions.remove(id)
    return Status(204, None)


@router.post("/sessions/{id}/restore", response={204: None} | PROBLEMS, operation_id="restoreSession")
def restore_session(request: HttpRequest, id: int) -> Any:
    sessions.put_away(id, away=False)
    return Status(204, None)


def _quick(answer: BaseModel) -> HttpResponse:
    """A model that is sure to fit, written without being validated a second time."""
    return HttpResponse(answer.model_dump_json(), content_type="application/json")


# ── seeing ────────────────────────────────────────────────────────────────────────────────────


@router.get("/sessions/{id}/curves", response={200: list[s.Curve]} | PROBLEMS, operation_id="curves")
def curves(request: HttpRequest, id: int, lanes: str, start: float, end: float, columns: int = 1000) -> Any:
    session = sessions.load(id)
    view = _view(start, end, columns)
    drawn = [drawing.curve(session, session.lane(lane), view) for lane in _ids(lanes)]
    return HttpResponse(_CURVES.dump_json(drawn), content_type="application/json")


@router.get("/sessions/{id}/values", response={200: list[s.ReadOut]} | PROBLEMS, operation_id="values")
def values(request: HttpRequest, id: int, parameters: str, beat: float) -> Any:
    """What is heard at a moment, and why."""
    _view(beat, beat, 1)
    return drawing.read_outs(sessions.load(id), _ids(parameters), ticks_of(beat))


@router.get("/sessions/{id}/heard", response={200: list[s.HeardOut]} | PROBLEMS, operation_id="heard")
def heard(request: HttpRequest, id: int, parameters: str, start: float, end: float, columns: int = 1000) -> Any:
    """What is heard of parameters in view, and the reason for each span."""
    session, view = sessions.load(id), _view(start, end, columns)
    drawn = [drawing.heard_out(session, parameter, view) for parameter in _ids(parameters)]
    return HttpResponse(_HEARD.dump_json(drawn), content_type="application/json")


@router.get("/sessions/{id}/gaps", response={200: list[s.GapOut]} | PROBLEMS, operation_id="gaps")
def gaps(request: HttpRequest, id: int, parameters: str) -> Any:
    """Where parameters jump at regions' edges, or drift through the gaps between them."""
    return drawing.gaps_out(sessions.load(id), _ids(parameters))


@router.post("/sessions/{id}/typed", response={200: s.Understood} | PROBLEMS, operation_id="typed")
def typed(request: HttpRequest, id: int, body: s.Typed) -> Any:
    session = sessions.load(id)
    if body.kind == "position":
        tick = parse_position(body.text, session.tempo)
        return {"number": beats_of(tick), "text": str(session.tempo.position(tick))}
    if body.kind == "length":
        length = parse_length(body.text, session.tempo, ticks_of(body.start))
        return {"number": beats_of(length), "text": body.text.strip()}
    parameter = session.parameter(body.parameter or "")
    value = parameter.parse(body.text)
    return {"number": value, "text": parameter.format(value)}


@router.post("/sessions/{id}/pick", response={200: list[s.PickedIO]} | PROBLEMS, operation_id="pick")
def pick(request: HttpRequest, id: int, body: s.PickIn) -> Any:
    """The points that a way of picking means."""
    found = selection.picked_points(
        sessions.load(id), tuple(body.lanes), body.way, ticks_of(body.start), ticks_of(body.end), _picked(body.picked)
    )
    return [{"lane": p.lane, "points": list(p.points)} for p in found]


@router.post("/sessions/{id}/selection", response={200: s.NumbersOut} | PROBLEMS, operation_id="selection")
def selection_numbers(request: HttpRequest, id: int, body: s.SelectionIn) -> Any:
    """Start, end, count, lowest, highest and mean of what is selected."""
    session = sessions.load(id)
    if body.picked:
        numbers = selection.numbers_of_points(session, _picked(body.picked))
        lane = body.picked[0].lane
    else:
        need_range(ticks_of(body.start), ticks_of(body.end))
        numbers = selection.numbers_of_range(session, tuple(body.lanes), ticks_of(body.start), ticks_of(body.end))
        lane = body.lanes[0] if body.lanes else ""
    values = (numbers.lowest, numbers.highest, numbers.mean)
    texts = [None if v is None else session.parameter(session.lane(lane).parameter).format(v) for v in values]
    return {
        "start": beats_of(numbers.start),
        "end": beats_of(numbers.end),
        "points": numbers.points,
        "lowest": texts[0],
        "highest": texts[1],
        "mean": texts[2],
        "low": numbers.lowest,
        "high": numbers.highest,
    }


def _picked(rows: list[s.PickedIO]) -> tuple[Picked, ...]:
    return tuple(Picked(p.lane, tuple(p.points)) for p in rows)


@router.get("/sessions/{id}/clipboard", response={200: s.ClipOut} | PROBLEMS, operation_id="copyLanes")
def copy_lanes(request: HttpRequest, id: int, lanes: str, start: float, end: float) -> Any:
    """What lanes do over a range, as text for the clipboard."""
    _view(start, end, 1)
    return {"text": clipboard.write(sessions.load(id), tuple(_ids(lanes)), ticks_of(start), ticks_of(end))}


@router.post("/sessions/{id}/clipboard", response={200: s.PasteOut} | PROBLEMS, operation_id="readClipboard")
def read_clipboard(request: HttpRequest, id: int, body: s.ClipIn) -> Any:
    """The paste request that clipboard text means."""
    sessions.row(id)
    clips, start, length = clipboard.read(body.text)
    at = None if body.at is None else ticks_of(body.at)
    return {"request": to_row("paste", Paste(clips, start, length, at, body.onto, body.how))}


def _ids(text: str) -> list[str]:
    """Ids in a query, parted by new lines, which no id holds."""
    ids = [id for id in text.split("\n") if id]
    if len(ids) > 500:
        raise RequestError("lanes-many", f"{len(ids)} lanes at once", place="lanes", accepted="at most 500")
    return ids


def _view(start: float, end: float, columns: int) -> s.View:
    limit = 1_000_000
    if not (-limit <= start <= end <= limit and 1 <= columns <= 8192):
        raise RequestError(
            "view", "this view cannot be drawn", place="view", accepted="start before end, 1 to 8192 columns"
        )
    return s.View(start=start, end=end, columns=columns)


# ── doing ─────────────────────────────────────────────────────────────────────────────────────


@router.post("/sessions/{id}/preview", response={200: s.ChangeOut} | PROBLEMS, operation_id="preview")
def preview(request: HttpRequest, id: int, body: s.Ask) -> Any:
    session = history.standing_at(id, body.revision).session
    verb, wanted = to_core(body.request)
    return _quick(drawing.change_out(session, operations.plan(session, verb, wanted), body.view))


@router.post("/sessions/{id}/apply", response={200: s.Applied} | PROBLEMS, operation_id="apply")
def apply(request: HttpRequest, id: int, body: s.Ask) -> Any:
    session = history.standing_at(id, body.revision).session
    verb, wanted = to_core(body.request)
    change = operations.plan(session, verb, wanted)
    if change.empty:
        said = change.cautions[0].message if change.cautions else "this would change nothing"
        raise RequestError("nothing-to-do", said, place="request", accepted="a request that changes something")
    return {"revision": history.apply(id, body.revision, change, to_row(verb, wanted)).number, "title": change.title}


@router.post("/sessions/{id}/undo", response={200: s.Applied} | PROBLEMS, operation_id="undo")
def undo(request: HttpRequest, id: int, body: s.OnRevision) -> Any:
    return {"revision": history.undo(id, body.revision).number}


@router.post("/sessions/{id}/redo", response={200: s.Applied} | PROBLEMS, operation_id="redo")
def redo(request: HttpRequest, id: int, body: s.OnRevision) -> Any:
    return {"revision": history.redo(id, body.revision).number}


@router.get("/sessions/{id}/log", response={200: s.LogOut} | PROBLEMS, operation_id="log")
def log(request: HttpRequest, id: int, before: _Number | None = None, most: _PageSize = 100) -> Any:
    """A page of what was applied, newest first: from the revision `before` (not in it) down."""
    page = history.log(id, before, most)
    return {"lines": [_log_line(entry) for entry in page.entries], "more": page.more}


def _log_line(entry: history.LogEntry) -> dict[str, Any]:
    return {
        "number": entry.number,
        "title": entry.title,
        "made": entry.made,
        "undone": entry.undone,
        "request": entry.request if entry.current else None,
        "lanes": len(entry.touched),
        "touched": [
            {
                "lane": t["lane"],
                "parameter": t["parameter"],
                "start": beats_of(t["start"]),
                "end": beats_of(t["end"]),
            }
            for t in entry.touched[: drawing.MOST_LISTED]
        ],
    }


# ── taking out ────────────────────────────────────────────────────────────────────────────────


@router.get("/sessions/{id}/export/session", response={200: None} | PROBLEMS, operation_id="exportSession")
def export_session(request: HttpRequest, id: int) -> HttpResponseBase:
    session = sessions.load(id)
    return _download(session_file.parts(session), session.name + session_file.FORMAT.endings[0], "application/json")


@router.get(
    "/sessions/{id}/export/container/{path:region}", response={200: None} | PROBLEMS, operation_id="exportContainer"
)
def export_container(request: HttpRequest, id: int, region: str) -> HttpResponseBase:
    """One region's automation as a file of its own."""
    session = sessions.load(id)
    name = session.region(region).name + container_file.ENDING
    return _download(container_file.write(session, region), name, "application/json")


@router.post("/sessions/{id}/container", response={200: s.ContainerUsed} | PROBLEMS, operation_id="readContainer")
def read_container(request: HttpRequest, id: int, file: File[UploadedFile], track: str, at: float) -> Any:
    """The request that lays a container from a file over a track, ready to preview."""
    _view(at, at, 1)
    if (file.size or 0) > clipboard.MOST_BYTES:
        raise FormatError("file-large", "the file is too large", place="file", accepted=container_file.ACCEPTED)
    name, length, clips = container_file.read(file.read())
    wanted = PlaceContainer(sessions.load(id).track(track).id, name, ticks_of(at), length, clips)
    return {"request": to_row("place container", wanted)}


@router.get("/sessions/{id}/export/midi", response={200: s.MidiOut} | PROBLEMS, operation_id="midiChoices")
def midi_choices(request: HttpRequest, id: int) -> Any:
    session = sessions.load(id)
    choices = [
        {
            "parameter": c.parameter,
            "name": f"{session.owner(c.parameter).name} {session.parameter(c.parameter).name}",
            "controller": c.controller,
            "low": c.low,
            "high": c.high,
        }
        for c in usual_choices(session)
    ]
    return {"choices": choices}


@router.post("/sessions/{id}/export/midi", response={200: s.ReportOut} | PROBLEMS, operation_id="planMidi")
def plan_midi(request: HttpRequest, id: int, body: s.MidiOut) -> Any:
    """What a MIDI file with these choices would hold."""
    return vars(_midi(id, body)[1])


@router.post("/sessions/{id}/export/midi/file", response={200: None} | PROBLEMS, operation_id="exportMidi")
def export_midi(request: HttpRequest, id: int, body: s.MidiOut) -> HttpResponseBase:
    return _download(_midi(id, body)[0], sessions.load(id).name + ".mid", midi.FORMAT.media)


def _midi(id: int, body: s.MidiOut) -> Any:
    session = sessions.load(id)
    choices = [midi.Choice(c.parameter, c.controller, c.low, c.high) for c in body.choices]
    if not choices:
        raise RequestError("choices-none", "no lane is chosen", place="choices", accepted="at least one lane")
    for choice in choices:
        _in_range(session.parameter(choice.parameter), choice)
    return midi.write(session, choices, body.per_beat)


def _in_range(parameter: Parameter, choice: midi.Choice) -> None:
    if choice.low < parameter.low or choice.high > parameter.high:
        said = f"{parameter.name} cannot be written over {choice.low:g} to {choice.high:g}"
        accepted = f"{parameter.format(parameter.low)} to {parameter.format(parameter.high)}"
        raise RequestError("span-range", said, place=f"choices.{parameter.id}", accepted=accepted)


def _download(data: bytes | Iterator[bytes], name: str, kind: str) -> HttpResponseBase:
    """A file to save. Names beyond ASCII travel as RFC 6266 says, beside one that every reader knows."""
    safe = "".join(c if c.isalnum() or c in " ._-" else "_" for c in name)
    plain = unicodedata.normalize("NFKD", safe).encode("ascii", "ignore").decode().strip(" .") or "velmot"
    made = HttpResponse if isinstance(data, bytes) else StreamingHttpResponse
    response = made(data, content_type=kind)
    disposition = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(safe, safe='')}"
    response.headers["Content-Disposition"] = disposition
    return response
