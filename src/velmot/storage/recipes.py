"""Recipes under their names: kept, listed, forgotten, and read back."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.verbs import recipes
from velmot.formats.requests import from_row, to_row
from velmot.storage.errors import NotFound
from velmot.storage.models import StoredRecipe

MOST = 500


def keep(session: Session, name: str, verb: str, request: Any) -> int:
    """Keep a request's settings; a recipe of the same name is replaced. Gives its number."""
    name = name.strip()
    if not 0 < len(name) <= 80:
        raise RequestError("name/recipe", place="name", accepted="1 to 80 characters")
    if StoredRecipe.objects.count() >= MOST:
        raise RequestError("recipes-many", most=MOST, place="name", accepted="forgetting some first")
    recipe = recipes.kept(session, verb, request)
    content = {"request": to_row(verb, recipe.request), "names": [list(pair) for pair in recipe.names]}
    return StoredRecipe.objects.update_or_create(name=name, defaults={"content": content})[0].pk


def listed() -> QuerySet[StoredRecipe]:
    """Every recipe by name."""
    return StoredRecipe.objects.all()


def load(id: int) -> recipes.Recipe:
    """The recipe of a number; NotFound if there is none."""
    try:
        content = StoredRecipe.objects.get(pk=id).content
    except (StoredRecipe.DoesNotExist, OverflowError):  # no number that large is ever given
        raise NotFound(f"there is no recipe {id}") from None
    verb, request = from_row(content["request"])
    return recipes.Recipe(verb, request, tuple((a, b) for a, b in content["names"]))


def forget(id: int) -> None:
    """Forget a recipe; nothing that was applied with it changes."""
    if 0 <= id < 2**63:
        StoredRecipe.objects.filter(pk=id).delete()
