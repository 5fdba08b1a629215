"""Sessions: listed, brought in, opened, renamed, put away, brought back, removed."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import File, Query, Router, Status
from ninja.files import UploadedFile

from velmot.api.routes.answers import quick, text
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.sessions import Head, Imported, Rename
from velmot.formats import files, table
from velmot.formats.report import MEGABYTE, FormatError
from velmot.presentation.benches import Bench
from velmot.presentation.formats import FormatOut, formats_out
from velmot.presentation.sessions import SessionLine, SessionOut, line_text, session_out
from velmot.presentation.waiting import ticketed
from velmot.storage import benches, sessions
from velmot.storage.sources import Source

router = Router()
Ticket = Annotated[str, Query(min_length=8, max_length=64)]


@router.get("/formats", response={200: list[FormatOut]} | PROBLEMS, operation_id="listFormats")
def list_formats(request: HttpRequest) -> Any:
    """The formats that are read."""
    return formats_out()


@router.get("/sessions", response={200: list[SessionLine]} | PROBLEMS, operation_id="listSessions")
def list_sessions(request: HttpRequest, deleted: bool = False) -> Any:
    return text(f"[{', '.join(line_text(row) for row in sessions.listed(deleted))}]")


@router.post("/sessions/import", response={200: Imported} | PROBLEMS, operation_id="importSession")
def import_session(request: HttpRequest, file: File[UploadedFile], ticket: Ticket | None = None) -> Any:
    """Let a file in as a session. With a `ticket` it can be asked how far reading it has come, and it can be stopped; sent
    again with the same ticket, as the answer was lost, it comes in once.
    """
    _only_one(request)
    if ticket and (there := sessions.made_as(ticket)):
        return {"id": there.pk, "report": there.report}
    size = file.size or 0
    largest = (table.by_name(file.name or "") or max(table.FORMATS, key=lambda f: f.largest)).largest
    if size > largest:
        said = f"the file has {size // MEGABYTE} MB"
        raise FormatError("file-large", said, place="file", accepted=f"at most {largest // MEGABYTE} MB")
    with ticketed(ticket) as work, files.taking_turns(size, work.behind):
        data, name = file.read(), file.name or ""
        session, report = files.read(data, name)
        source = Source(name, data) if files.comes_back(data) else None
        return {"id": sessions.create(session, report, source, ticket), "report": vars(report)}


def _only_one(request: HttpRequest) -> None:
    """Raise FormatError for an upload of several files: each is a session of its own, with a report of its own."""
    count = sum(len(request.FILES.getlist(name)) for name in request.FILES)
    if count > 1:
        said = f"{count} files came at once"
        raise FormatError("files-many", said, place="file", accepted="one file in each upload")


@router.get("/sessions/{id}", response={200: SessionOut} | PROBLEMS, operation_id="openSession")
def open_session(request: HttpRequest, id: int, first: bool = False) -> Any:
    """Everything but the curves; with `first` those of the first strips too."""
    return quick(session_out(id, first))


@router.get("/sessions/{id}/head", response={200: Head} | PROBLEMS, operation_id="sessionHead")
def session_head(request: HttpRequest, id: int) -> Any:
    row = sessions.row(id)
    return {"revision": row.head, "step": row.step}


@router.patch("/sessions/{id}", response={204: None} | PROBLEMS, operation_id="renameSession")
def rename_session(request: HttpRequest, id: int, body: Rename) -> Any:
    sessions.rename(id, body.name)
    return Status(204, None)


@router.patch("/sessions/{id}/bench", response={204: None} | PROBLEMS, operation_id="keepBench")
def keep_bench(request: HttpRequest, id: int, body: Bench) -> Any:
    """Keep what a window has changed of how the session is looked at; no step of its history."""
    benches.keep(id, body.model_dump(exclude_unset=True))
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
