"""The phrase book: listed, kept, changed, put away; brought in and taken out as a file."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, Status
from ninja.files import UploadedFile

from velmot.api.schemas.book import BookChange, BookIn, BookMade, GivenIO
from velmot.api.schemas.problems import PROBLEMS
from velmot.core.verbs.request import GivenPhrase
from velmot.formats import phrases_file
from velmot.formats.phrases_file import Kept
from velmot.formats.requests import from_plain, to_plain
from velmot.presentation.book import BookEntry, BookLine, book_entry, book_lines
from velmot.storage import book, sessions

router = Router()

Asked = Annotated[str, Query(max_length=64, description="A name of its own: asked for again under it, it comes once.")]


@router.get("/sessions/{id}/phrases/{path:phrase}", response={200: GivenIO} | PROBLEMS, operation_id="openPhrase")
def session_phrase(request: HttpRequest, id: int, phrase: str) -> Any:
    """A phrase of a session, whole."""
    return to_plain(phrases_file.given_from(sessions.load(id).phrase(phrase)))


@router.get("/book", response={200: list[BookLine]} | PROBLEMS, operation_id="listBook")
def list_book(request: HttpRequest, deleted: bool = False) -> Any:
    """Every phrase of the book; those put away only when asked for."""
    return book_lines(deleted)


@router.post("/book", response={200: BookMade} | PROBLEMS, operation_id="keepInBook")
def keep_in_book(request: HttpRequest, body: BookIn, asked: Asked = "") -> Any:
    phrase = from_plain(GivenPhrase, body.phrase)
    return {"ids": book.keep([Kept(phrase, body.says, tuple(body.tags))], asked)}


@router.get("/book/file", response={200: None} | PROBLEMS, operation_id="takeOutBook")
def take_out(request: HttpRequest) -> Any:
    """The whole book as a velmot-phrases file."""
    data = phrases_file.write([book.kept(one) for one in book.listed()])
    answer = HttpResponse(data, content_type="application/json")
    answer["Content-Disposition"] = f'attachment; filename="phrases{phrases_file.ENDING}"'
    return answer


@router.post("/book/file", response={200: BookMade} | PROBLEMS, operation_id="bringInBook")
def bring_in(request: HttpRequest, file: File[UploadedFile], asked: Asked = "") -> Any:
    """All phrases of a velmot-phrases file, or none."""
    return {"ids": book.keep(phrases_file.read(file.read()), asked)}


@router.get("/book/{phrase}", response={200: BookEntry} | PROBLEMS, operation_id="openBookPhrase")
def one(request: HttpRequest, phrase: int) -> Any:
    return book_entry(phrase)


@router.patch("/book/{phrase}", response={204: None} | PROBLEMS, operation_id="changeBookPhrase")
def change(request: HttpRequest, phrase: int, body: BookChange) -> Any:
    given = None if body.phrase is None else from_plain(GivenPhrase, body.phrase)
    book.change(phrase, body.name, body.says, body.tags, given, body.deleted)
    return Status(204, None)


@router.post("/book/{phrase}/copy", response={200: BookMade} | PROBLEMS, operation_id="copyBookPhrase")
def copy(request: HttpRequest, phrase: int, asked: Asked = "") -> Any:
    return {"ids": book.duplicate(phrase, asked)}
