"""The phrase book: phrases that belong to the person, kept, listed, changed, put away and brought back."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import asdict
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME, MOST_BOOK
from velmot.core.session.phrases import Phrase
from velmot.core.verbs.frame.checks import name_of
from velmot.core.verbs.frame.given import phrase_of
from velmot.core.verbs.request import GivenPhrase
from velmot.core.verbs.reuse.starter_phrases import STARTERS
from velmot.formats.phrases_file import Kept, given_of, given_row
from velmot.storage.errors import NotFound
from velmot.storage.models import BookPhrase, DoneOnce

LONGEST_TAG = 40
MOST_TAGS = 20
LONGEST_SAYING = 2000


def listed(deleted: bool = False) -> QuerySet[BookPhrase]:
    """Every phrase by name; those put away only when asked for."""
    return BookPhrase.objects.filter(deleted__isnull=not deleted)


def row(id: int) -> BookPhrase:
    """The phrase of a number; NotFound if there is none."""
    try:
        return BookPhrase.objects.get(pk=id)
    except (BookPhrase.DoesNotExist, OverflowError):  # no number that large is ever given
        raise NotFound(f"there is no phrase {id} in the book") from None


def kept(one: BookPhrase) -> Kept:
    """A row with its phrase as requests bring it along."""
    return Kept(given_of(one.content | {"name": one.name}), one.says, tuple(one.tags))


def keep(phrases: Sequence[Kept], asked: str = "") -> list[int]:
    """Put phrases into the book, all or none; gives their numbers. What comes again as `asked` is there already."""
    with transaction.atomic():
        if there := _brought_by(asked):
            return there
        if listed().count() + len(phrases) > MOST_BOOK:
            raise RequestError("book-full", most=MOST_BOOK, place="phrases", accepted="deleting some first")
        made = BookPhrase.objects.bulk_create((_row_of(one, asked) for one in phrases), batch_size=500)
        return [one.pk for one in made]


def _brought_by(asked: str) -> list[int]:
    """The numbers of what a request of this name has brought, whatever has become of it since."""
    return [*BookPhrase.objects.filter(asked=asked).order_by("pk").values_list("pk", flat=True)] if asked else []


def _row_of(one: Kept, asked: str) -> BookPhrase:
    said = {"name": name_of(one.phrase.name, "phrase"), "says": _saying(one.says), "tags": _tags(one.tags)}
    return BookPhrase(asked=asked, **said, **_phrase_columns(one.phrase))


def _phrase_columns(phrase: GivenPhrase) -> dict[str, Any]:
    summary = asdict(phrase_of(phrase, "phrase").summary)
    return {"content": {k: v for k, v in given_row(phrase).items() if k != "name"}, "summary": summary}


def change(id: int, name: str | None = None, says: str | None = None, tags: Sequence[str] | None = None,
           phrase: GivenPhrase | None = None, deleted: bool | None = None) -> None:  # fmt: skip
    """Rename a phrase, describe it, give it other tags, or other points; delete it or bring it back: all of it or nothing."""
    columns: dict[str, Any] = {}
    if name is not None:
        columns["name"] = name_of(name, "phrase")
    if says is not None:
        columns["says"] = _saying(says)
    if tags is not None:
        columns["tags"] = _tags(tags)
    if phrase is not None:
        columns |= _phrase_columns(phrase)
    if deleted is not None:
        columns["deleted"] = timezone.now() if deleted else None
    if columns:
        BookPhrase.objects.filter(pk=row(id).pk).update(**columns)


def duplicate(id: int, asked: str = "") -> list[int]:
    """Another one like it, under a name that says so; gives its number. What comes again as `asked` is there already."""
    with transaction.atomic():
        if there := _brought_by(asked):
            return there
        one = row(id)
        name = f"{one.name[: LONGEST_NAME - 6]} again"
        same = {"says": one.says, "tags": one.tags, "content": one.content, "summary": one.summary}
        return [BookPhrase.objects.create(name=name, asked=asked, **same).pk]


def keep_applied(request: dict[str, Any], phrase: GivenPhrase | None) -> None:
    """What a step keeps as a phrase is in the book too; where that is full the step is refused."""
    if request.get("verb") == "keep phrase" and phrase is not None:
        keep([Kept(phrase)])


def kept_by(request: dict[str, Any]) -> BookPhrase | None:
    """The phrase that a step has put into the book, if it is still there."""
    if request.get("verb") != "keep phrase":
        return None
    return listed().filter(name=str(request.get("name", "")).strip()).order_by("-pk").first()


def begin() -> None:
    """Put the starter set into a book that has never had it."""
    with transaction.atomic():
        if DoneOnce.objects.get_or_create(what="starter phrases")[1]:
            keep([Kept(x.phrase, x.says, x.tags) for x in STARTERS])


def _saying(text: str) -> str:
    if len(text) > LONGEST_SAYING:
        raise RequestError("says", place="says", accepted=f"at most {LONGEST_SAYING:,} characters")
    return text.strip()


def _tags(tags: Sequence[str]) -> list[str]:
    made = [*dict.fromkeys(t.strip() for t in tags if t.strip())]
    if len(made) > MOST_TAGS or any(len(t) > LONGEST_TAG for t in made):
        accepted = f"at most {MOST_TAGS}, of {LONGEST_TAG} characters"
        raise RequestError("tags", place="tags", accepted=accepted)
    return made


def all_phrases() -> list[Phrase]:
    """Every phrase of the book as one of a session's would be, its id “book” and its number; what cannot be one is left out."""
    found = []
    for one in listed():
        with suppress(RequestError):
            found.append(phrase_of(kept(one).phrase, f"book{one.pk}"))
    return found
