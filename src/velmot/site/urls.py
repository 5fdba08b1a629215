"""The addresses: the API, and the one page that holds the screen."""

from __future__ import annotations

import re
from typing import Annotated, Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Query

from velmot.api.routes import make_api
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.sessions import Imported
from velmot.site.demo import skerry_light
from velmot.site.middleware import problem
from velmot.storage import sessions

api = make_api()


@api.post("/demo", response={200: Imported} | PROBLEMS, operation_id="openDemo")
def open_demo(request: HttpRequest, asked: Annotated[str, Query(max_length=64)] = "") -> Any:
    """A fresh copy of the demo session; asked for again under the same name, the one that was made."""
    there = sessions.made_as(asked) if asked else None
    return {"id": there.pk if there else sessions.create(skerry_light.session(), name=asked), "report": {}}


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The one page; it is told to fetch its typefaces, and its session, while its script is still being read."""
    found = re.match(r"/sessions/(\d{1,18})(?:/|$)", request.path)
    return render(request, "index.html", {"session": found[1] if found else None, "fonts": settings.FIRST_FONTS})


def nothing_here(request: HttpRequest) -> HttpResponse:
    return problem(404, "not-found", "there is nothing at this address", request.path, "an address under /api/")


def handler500(request: HttpRequest) -> HttpResponse:
    """What is left when even an error could not be answered as one."""
    return problem(
        500, "unforeseen", "something went wrong inside Velmot; nothing was saved", request.path, "trying again"
    )


urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?:api|static)/", nothing_here),
    re_path(r"^", page),
]
