"""Files of one's own sound: kept beside the database as they came, named by the digest of their bytes, never changed."""

from __future__ import annotations

import os
import re
import tempfile
import time
from collections.abc import Iterable, Iterator
from hashlib import sha256
from pathlib import Path

from django.conf import settings
from django.db.models import TextField
from django.db.models.functions import Cast

from velmot.core.limits import LONGEST_NAME
from velmot.core.session.sounds import Audio
from velmot.formats import audio_file
from velmot.formats.report import FormatError
from velmot.storage.models import Revision, StoredAudio, StoredSession, StoredTrack

FRESH = 24 * 3600
"""Seconds in which a file that came may still be laid on a track."""


def folder() -> Path:
    """Where they lie."""
    return Path(settings.AUDIO)


def keep(pieces: Iterable[bytes], name: str) -> StoredAudio:
    """Keep a file that comes piece by piece; the same file twice is one. FormatError for what is no sound, and nothing is kept.

    It takes its name when all of it is on the disk and has been read to its end.
    """
    ending = Path(name).suffix.lower()
    if ending not in audio_file.ENDINGS:
        raise FormatError("audio", f"“{name[:80]}” is no sound", place="file", accepted=audio_file.ACCEPTED)
    folder().mkdir(parents=True, exist_ok=True, mode=0o700)
    digest, size = sha256(), 0
    handle, beside = tempfile.mkstemp(dir=folder(), prefix=".coming-", suffix=ending)
    try:
        with os.fdopen(handle, "wb") as file:
            for piece in pieces:
                digest.update(piece)
                size += len(piece)
                file.write(piece)
            file.flush()
            os.fsync(file.fileno())
        said = audio_file.checked_through(Path(beside))
        Path(beside).replace(folder() / f"{digest.hexdigest()}{ending}")
    finally:
        Path(beside).unlink(missing_ok=True)
    about = {"seconds": said.seconds, "rate": said.rate, "channels": said.channels, "size": size, "ending": ending}
    plain = Path(name).name[-LONGEST_NAME:] or f"sound{ending}"
    return StoredAudio.objects.get_or_create(digest=digest.hexdigest(), defaults=about | {"name": plain})[0]


def find(audio: Audio) -> Path | None:
    """Where a file lies; None where it does not."""
    known = StoredAudio.objects.filter(digest=audio.digest).first()
    path = _path(known) if known else None
    return path if path and path.exists() else None


def forget_unused() -> None:
    """Remove the files that no session names any more, in no step of its history either, and what never came whole.

    The row goes first: a file without its row is nobody's, and goes with the next call.
    """
    named = set(_named())
    for known in StoredAudio.objects.exclude(digest__in=named):
        if not _fresh(_path(known)):
            known.delete()
    lying = {known.digest for known in StoredAudio.objects.all()}
    for path in folder().glob("*"):
        if path.stem not in lying and not _fresh(path):
            path.unlink(missing_ok=True)


def _named() -> Iterator[str]:
    """The digests that sessions and their histories name; others that look like one do no harm."""
    for model, field in ((StoredTrack, "content"), (StoredSession, "structure"), (Revision, "swaps")):
        texts = model.objects.annotate(said=Cast(field, TextField())).filter(said__contains='"digest"')
        for said in texts.values_list("said", flat=True).iterator(chunk_size=16):
            yield from re.findall(r'"digest": ?"([0-9a-f]{64})"', said)


def _fresh(path: Path) -> bool:
    return path.exists() and time.time() - path.stat().st_mtime < FRESH


def _path(known: StoredAudio) -> Path:
    return folder() / f"{known.digest}{known.ending}"
