"""What every request passes: host check, content security policy, upload limit, CSRF for the API too."""

from __future__ import annotations

import json
import re
import secrets
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse, HttpResponseBase, HttpResponseForbidden, JsonResponse
from django.middleware.csrf import CsrfViewMiddleware

from velmot.api.schemas.problems import Problem

Next = Callable[[HttpRequest], HttpResponseBase]

POLICY = "; ".join(
    (
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self'" + (" 'unsafe-inline'" if settings.DEVELOPING else ""),  # as styles are reloaded in place
        "font-src 'self'",
        "img-src 'self' data:",
        "connect-src 'self'",
        "form-action 'self'",
        "base-uri 'none'",
        "frame-ancestors 'none'",
    )
)


def problem(status: int, code: str, message: str, place: str, accepted: str) -> JsonResponse:
    """An error in the API's one shape."""
    said = Problem(code=code, message=message, place=place, accepted=accepted)
    return JsonResponse(said.model_dump(), status=status)


class HostCheckMiddleware:
    """Answers only when addressed as this machine, so that no other site's name can point here."""

    def __init__(self, get_response: Next) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        try:
            request.get_host()
        except DisallowedHost:
            hosts = " or ".join(settings.ALLOWED_HOSTS[:2])
            return problem(400, "host", "this host is not served here", "Host", hosts)
        return self.get_response(request)


class ProxyMiddleware:
    """Served to a network, only what comes through the proxy, with its secret and over TLS, is answered."""

    def __init__(self, get_response: Next) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if settings.BEHIND:
            told = request.headers.get("X-Velmot-Proxy", "")
            if not secrets.compare_digest(told.encode(), settings.PROXY_SECRET.encode()):
                said = "this did not come through the proxy that stands in front"
                return problem(403, "proxy", said, "X-Velmot-Proxy", "the secret that both know")
            if not request.is_secure():
                return problem(403, "plain", "this did not come over TLS", "X-Forwarded-Proto", "https")
        return self.get_response(request)


class SafetyHeadersMiddleware:
    """Nothing from another origin is loaded, run or sent to, and nothing is framed."""

    def __init__(self, get_response: Next) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        response = self.get_response(request)
        response.headers["Content-Security-Policy"] = POLICY
        response.headers["X-Frame-Options"] = "DENY"
        return response


AUDIO = "/api/audio"
"""Where files of sound are sent to, which are larger than all others."""


class UploadLimitMiddleware:
    """Refuses a body that is too large before anything reads it."""

    def __init__(self, get_response: Next) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        said = str(request.META.get("CONTENT_LENGTH") or 0)
        if not said.isascii() or not said.isdigit():
            return problem(400, "length", "the length of what was sent is no number", "Content-Length", "a number")
        size = int(said)
        upload = request.content_type == "multipart/form-data"
        largest = settings.LARGEST_AUDIO if request.path == AUDIO else settings.LARGEST_UPLOAD
        most = largest if upload else settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        if size > most:
            noun, place = ("the file", "file") if upload else ("what was sent or pasted", "body")
            message = f"{noun} has {size / 1024 / 1024:.0f} MB"
            return problem(413, "file-large", message, place, f"at most {most // 1024 // 1024} MB")
        return self.get_response(request)


_HALF = re.compile(rb"\\u[dD][89a-fA-F]")


class TextMiddleware:
    """Refuses a body in which some text, a key or a value, holds half of a character: no file could hold it."""

    def __init__(self, get_response: Next) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if request.content_type == "application/json" and _HALF.search(request.body):
            place = _half_in(request.body)
            if place is not None:
                where = f"{place} holds" if place else "what was sent holds"
                return problem(422, "text", f"{where} half of a character", place or "body", "valid text")
        return self.get_response(request)


def _half_in(body: bytes) -> str | None:
    """Where in a body text is that cannot be written; None where there is none, or the body is no JSON at all."""
    try:
        todo: list[tuple[str, Any]] = [("", json.loads(body))]
    except (ValueError, RecursionError):
        return None
    while todo:
        place, item = todo.pop()
        if isinstance(item, dict):
            if any(not _is_text(key) for key in item):
                return place or "a key"
            todo += [(f"{place}.{key}" if place else key, x) for key, x in item.items()]
        elif isinstance(item, list):
            todo += [(f"{place}[{n}]", x) for n, x in enumerate(item)]
        elif isinstance(item, str) and not _is_text(item):
            return place
    return None


def _is_text(text: str) -> bool:
    try:
        text.encode("utf-8")
    except UnicodeEncodeError:
        return False
    return True


class ApiCsrfMiddleware(CsrfViewMiddleware):
    """Django's CSRF check for every view, those of the API included, which mark themselves exempt."""

    def process_view(
        self,
        request: HttpRequest,
        callback: Callable[..., HttpResponseBase],
        callback_args: tuple[Any, ...],
        callback_kwargs: dict[str, Any],
    ) -> HttpResponseForbidden | None:
        def checked() -> HttpResponseBase:
            raise NotImplementedError("stands for a view that is not exempt; never called")

        return super().process_view(request, checked, callback_args, callback_kwargs)

    def _reject(self, request: HttpRequest, reason: str) -> HttpResponse:
        said = "this request did not come from Velmot's own page"
        return problem(403, "csrf", said, "X-CSRFToken", "reload the page and try again")
