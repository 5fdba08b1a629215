"""Outlines of sounds, made once and kept: what they are of names them."""

from __future__ import annotations

import zlib
from collections.abc import Callable
from hashlib import sha256

from velmot.storage.models import StoredOutline

MOST = 2_000
"""Outlines that are kept; the oldest go."""


def kept(said: str, make: Callable[[], bytes]) -> bytes:
    """The outline of what is said, made where it is not kept yet."""
    digest = sha256(said.encode()).hexdigest()
    known = StoredOutline.objects.filter(digest=digest).first()
    if known is not None:
        return zlib.decompress(known.data)
    data = make()
    StoredOutline.objects.bulk_create([StoredOutline(digest=digest, data=zlib.compress(data))], ignore_conflicts=True)
    if (over := StoredOutline.objects.count() - MOST) > 0:
        old = StoredOutline.objects.order_by("made").values_list("digest", flat=True)[:over]
        StoredOutline.objects.filter(digest__in=list(old)).delete()
    return data
