"""The API: its routes by topic, and its errors."""

from __future__ import annotations

from ninja import NinjaAPI

from velmot.api import errors
from velmot.api.routes import (
    book,
    desk,
    doing,
    listening,
    logbook,
    printing,
    reuse,
    seeing,
    sessions,
    taking_out,
    tidying,
)


def make_api() -> NinjaAPI:
    """The API with its routes and its errors."""
    api = NinjaAPI(title="Velmot", version="1", docs_url=None, openapi_url="/openapi.json", urls_namespace="velmot")
    for topic in (sessions, seeing, doing, taking_out, reuse, book, desk, listening, tidying, logbook, printing):
        api.add_router("", topic.router)
    errors.install(api)
    return api
