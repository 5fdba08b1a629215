"""What a file format has to say for itself; `formats/table.py` lists them all."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from velmot.core.session.session import Session
from velmot.formats.report import MEGABYTE, FormatError, Report


@dataclass(frozen=True)
class Format:
    """A format of whole sessions: what it is called, how its files are told, read and written, and how large they may be.

    `endings` are lower case, the first is the one written; `fits` tells a file by its bytes; `largest` is in bytes.
    `into` writes a session back into the bytes it came from, where the format holds more than Velmot works on.
    """

    called: str
    endings: tuple[str, ...]
    fits: Callable[[bytes], bool]
    read: Callable[[bytes, str], tuple[Session, Report]]
    write: Callable[[Session], tuple[bytes, Report]]
    largest: int
    media: str
    into: Callable[[Session, bytes], tuple[bytes, Report]] | None = None

    @property
    def in_words(self) -> str:
        """“a Standard MIDI File (.mid)”."""
        return f"{self.called} ({self.endings[0]})"

    def names(self, file_name: str) -> bool:
        """Whether a file's name ends as this format's do."""
        return file_name.lower().endswith(self.endings)

    def stem(self, file_name: str) -> str:
        """A file's name without the ending."""
        ending = next((e for e in self.endings if file_name.lower().endswith(e)), "")
        return file_name[: len(file_name) - len(ending)]

    def check_size(self, size: int) -> None:
        """Raise FormatError for an empty file, or one that is too large."""
        if not size:
            raise FormatError("file-empty", "the file is empty (0 bytes)", place="file", accepted=self.called)
        if size > self.largest:
            accepted = f"{self.called} of at most {self.largest // MEGABYTE} MB"
            raise FormatError("file-large", f"the file has {size / MEGABYTE:.0f} MB", place="file", accepted=accepted)
