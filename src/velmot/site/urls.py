"""The addresses: the API, and the one page that holds the screen."""

from __future__ import annotations

import re
from typing import Annotated, Any

from django.conf import settings
from django.core.exceptions import SuspiciousOperation
from django.http import Http404, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.static import serve
from ninja import Query

from velmot import __version__
from velmot.api.routes import make_api
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.sessions import Imported
from velmot.site.demo import skerry_light
from velmot.site.middleware import problem
from velmot.site.paths import HELP
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
    said = {"session": found[1] if found else None, "fonts": settings.FIRST_FONTS, "version": __version__}
    return render(request, "index.html", said | {"help": (HELP / "index.html").exists()})


def help_page(request: HttpRequest, path: str) -> HttpResponseBase:
    """A page of the docs, or what belongs to one."""
    if not (HELP / "index.html").exists():
        return problem(404, "not-found", "the docs are not built here", request.path, "`make docs-site`")
    if not path:
        return redirect("/help/index.html")
    try:
        return serve(request, path, document_root=str(HELP))
    except (Http404, SuspiciousOperation):
        return problem(404, "not-found", "there is no such page of the docs", request.path, "/help/index.html")


def nothing_here(request: HttpRequest) -> HttpResponse:
    return problem(404, "not-found", "there is nothing at this address", request.path, "an address under /api/")


def handler500(request: HttpRequest) -> HttpResponse:
    """What is left when even an error could not be answered as one."""
    return problem(
        500, "unforeseen", "something went wrong inside Velmot; nothing was saved", request.path, "trying again"
    )


urlpatterns = [
    path("api/", api.urls),
    re_path(r"^help/(?P<path>.*)$", help_page),
    re_path(r"^(?:api|static)/", nothing_here),
    re_path(r"^", page),
]
