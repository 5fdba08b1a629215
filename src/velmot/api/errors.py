"""One table from exceptions to responses; every error has the same shape."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import SuspiciousOperation
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from velmot.api.schemas.problems import Problem
from velmot.core.errors import RequestError
from velmot.core.words import plain_args
from velmot.presentation.requests import remedy_out
from velmot.storage.errors import Conflict, NotFound

log = logging.getLogger("velmot")

STATUS = {"file-large": 413}


TROUBLES = (
    ("full", 507, "disk-full", "the disk is full, so nothing was saved by this step", "making room, then trying again"),
    ("readonly", 503, "folder-closed", "Velmot may not write to its folder, so nothing was saved by this step",
     "giving it access to the folder, then trying again"),
    ("unable to open", 503, "folder-closed", "Velmot cannot open its database, so nothing was saved by this step",
     "giving it access to the folder, then trying again"),
    ("locked", 503, "busy", "the database is busy, so nothing was saved by this step", "trying again in a moment"),
    ("malformed", 503, "database-damaged", "the database is damaged, so this cannot be done", "putting a copy of it back"),
    ("not a database", 503, "database-damaged", "the database is damaged, so this cannot be done",
     "putting a copy of it back"),
)  # fmt: skip
"""(what the database says, status, code, message, what would help)."""


def trouble(error: DatabaseError) -> tuple[int, str, str, str]:
    """What a machine's own trouble means for the user: (status, code, message, what would help)."""
    said = str(error).casefold()
    for sign, *answer in TROUBLES:
        if sign in said:
            return answer[0], answer[1], answer[2], answer[3]  # type: ignore[return-value]
    return 503, "storage", "the database cannot be used, so nothing was saved by this step", "trying again"


def install(api: NinjaAPI) -> None:
    """Give the API its answers for everything that can go wrong."""

    def answer(request: HttpRequest, status: int, **problem: Any) -> HttpResponse:
        return api.create_response(request, Problem(**problem), status=status)

    @api.exception_handler(RequestError)
    def refused(request: HttpRequest, error: RequestError) -> HttpResponse:
        status = 409 if isinstance(error, Conflict) else STATUS.get(error.code, 422)
        said = {
            "code": error.code,
            "message": error.message,
            "place": error.place,
            "accepted": error.accepted,
            "args": plain_args(error.said),
        }
        return answer(request, status, **said, head=getattr(error, "head", None), remedy=remedy_out(error.remedy))

    @api.exception_handler(DatabaseError)
    def out_of_order(request: HttpRequest, error: DatabaseError) -> HttpResponse:
        status, code, said, accepted = trouble(error)
        log.error("%s at %s: %s", code, request.path, error)
        return answer(request, status, code=code, message=said, accepted=accepted)

    @api.exception_handler(NotFound)
    def missing(request: HttpRequest, error: NotFound) -> HttpResponse:
        return answer(request, 404, code="not-found", message=str(error), accepted="a session from the start page")

    @api.exception_handler(ValidationError)
    def unfitting(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        place = ".".join(str(part) for part in first["loc"][1:])
        said = f"{place}: {first['msg'].lower()}"
        return answer(request, 422, code="not-fitting", message=said, place=place, accepted=first["msg"])

    @api.exception_handler(MultiPartParserError)
    @api.exception_handler(SuspiciousOperation)
    def unreadable(request: HttpRequest, error: Exception) -> HttpResponse:
        said = "what was sent cannot be read as a form with one file"
        return answer(request, 400, code="form", message=said, place="body", accepted="one file in each upload")

    @api.exception_handler(HttpError)
    def http(request: HttpRequest, error: HttpError) -> HttpResponse:
        return answer(request, error.status_code, code="request", message=str(error))

    @api.exception_handler(Http404)
    def nowhere(request: HttpRequest, error: Http404) -> HttpResponse:
        return answer(request, 404, code="not-found", message="there is nothing at this address")

    @api.exception_handler(Exception)
    def unforeseen(request: HttpRequest, error: Exception) -> HttpResponse:
        log.exception("unforeseen error at %s", request.path)
        said = "something went wrong inside Velmot; nothing was saved by this step"
        return answer(request, 500, code="unforeseen", message=said, accepted="trying again, or undo")
