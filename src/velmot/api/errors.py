"""One table from exceptions to responses; every error has the same shape."""

from __future__ import annotations

import logging
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from velmot.api.remedies import remedy_out
from velmot.api.schemas import Problem
from velmot.core.errors import RequestError
from velmot.storage.errors import Conflict, NotFound

log = logging.getLogger("velmot")

STATUS = {"file-large": 413}


def install(api: NinjaAPI) -> None:
    """Give the API its answers for everything that can go wrong."""

    def answer(request: HttpRequest, status: int, **problem: Any) -> HttpResponse:
        return api.create_response(request, Problem(**problem), status=status)

    @api.exception_handler(RequestError)
    def refused(request: HttpRequest, error: RequestError) -> HttpResponse:
        status = 409 if isinstance(error, Conflict) else STATUS.get(error.code, 422)
        said = {"code": error.code, "message": error.message, "place": error.place, "accepted": error.accepted}
        return answer(request, status, **said, head=getattr(error, "head", None), remedy=remedy_out(error.remedy))

    @api.exception_handler(NotFound)
    def missing(request: HttpRequest, error: NotFound) -> HttpResponse:
        return answer(request, 404, code="not-found", message=str(error), accepted="a session from the start page")

    @api.exception_handler(ValidationError)
    def unfitting(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        place = ".".join(str(part) for part in first["loc"][1:])
        said = f"{place}: {first['msg'].lower()}"
        return answer(request, 422, code="not-fitting", message=said, place=place, accepted=first["msg"])

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
