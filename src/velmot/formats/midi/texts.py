"""Texts of MIDI files: read in the coding the file declares, else in UTF-8 or Latin-1; and written in the same."""

from __future__ import annotations

import codecs
import re
from dataclasses import dataclass, field

_CODINGS = {"LATIN": "latin-1", "JP": "cp932", "UTF-8": "utf-8", "UTF-16LE": "utf-16-le", "UTF-16BE": "utf-16-be"}
"""The tags of the MIDI Association's recommended practice for texts (RP-026), and those that files have besides."""

_TAG = re.compile(rb"\{@(" + "|".join(_CODINGS).encode() + rb")\}", re.IGNORECASE)
_MARKS = ((codecs.BOM_UTF8, "utf-8"), (codecs.BOM_UTF16_LE, "utf-16-le"), (codecs.BOM_UTF16_BE, "utf-16-be"))


@dataclass
class Texts:
    """What a file's texts are written in: what the last tag declares, from there on. `latin` counts those not in UTF-8."""

    coding: str = ""
    latin: int = 0
    declared: list[str] = field(default_factory=list)

    def read(self, body: bytes) -> str:
        """A text; a tag in it counts from itself on. Without the zeros some programs end it with."""
        if self.coding.startswith("utf-16"):
            return self._of_wide(body)
        parts, at = list[str](), 0
        for tag in _TAG.finditer(body):
            parts.append(self._decoded(body[at : tag.start()]))
            at = tag.end()
            self._declare(tag[1].decode("ascii").upper())
        return "".join((*parts, self._decoded(body[at:]))).rstrip("\x00")

    def written(self, text: str) -> tuple[bytes, bool]:
        """A text in the file's coding, and whether all of it could be said."""
        coding = self.coding or "utf-8"
        try:
            return text.encode(coding), True
        except UnicodeEncodeError:
            return text.encode(coding, "replace"), False

    def _declare(self, tag: str) -> None:
        self.coding = _CODINGS[tag]
        self.declared.append(tag)

    def _of_wide(self, body: bytes) -> str:
        for name, coding in _CODINGS.items():
            tag = ("{@" + name + "}").encode(self.coding)
            if body.startswith(tag) and coding != self.coding:
                self._declare(name)
                return self.read(body[len(tag) :])
        return body[: len(body) // 2 * 2].decode(self.coding, "replace").strip("\ufeff").rstrip("\x00")

    def _decoded(self, body: bytes) -> str:
        for mark, coding in _MARKS:
            if body.startswith(mark) and (coding == "utf-8" or len(body) % 2 == 0):
                return body[len(mark) :].decode(coding, "replace")
        if self.coding:
            return body.decode(self.coding, "replace")
        try:
            return body.decode("utf-8")
        except UnicodeDecodeError:
            self.latin += 1
            return body.decode("latin-1")
