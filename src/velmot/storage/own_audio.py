"""Files of one's own sound: kept beside the database as they came, named by the digest of their bytes, never changed."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterable
from hashlib import sha256
from pathlib import Path

from django.conf import settings

from velmot.core.limits import LONGEST_NAME
from velmot.core.session.sounds import Audio
from velmot.formats import audio_file
from velmot.formats.report import FormatError
from velmot.storage.models import StoredAudio


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


def _path(known: StoredAudio) -> Path:
    return folder() / f"{known.digest}{known.ending}"
