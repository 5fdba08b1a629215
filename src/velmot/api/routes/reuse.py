"""The routes of using work again: match tables, mapping graphs, comparing, recipes."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.reuse import CompareIn, RecipeIn, RecipeLine, RecipeUse, RecipeUsed, WorkedOut
from velmot.core.errors import RequestError
from velmot.core.time.ticks import ticks_of
from velmot.core.verbs import recipes as core_recipes
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.retarget.request import Retarget
from velmot.core.verbs.reuse.request import Place
from velmot.formats.requests import to_core, to_row
from velmot.presentation.comparing import Asked, CompareOut, compare_out
from velmot.presentation.mapping_graph import MappingOut, mapping_out, placing_out
from velmot.presentation.matching import MatchTableOut, match_table_out
from velmot.storage import recipes, sessions

router = Router()


@router.post("/sessions/{id}/matches", response={200: MatchTableOut} | PROBLEMS, operation_id="matchTable")
def matches(request: HttpRequest, id: int, body: WorkedOut) -> Any:
    """Where each lane of a carry lands, and which static values of the tracks differ."""
    return match_table_out(sessions.load(id), _of_kind(body.request, Carry))


@router.post("/sessions/{id}/mapping", response={200: MappingOut} | PROBLEMS, operation_id="mapping")
def mapping(request: HttpRequest, id: int, body: WorkedOut) -> Any:
    """The mapping graph of a retarget or of a placing: spans, time spent, and spans on offer."""
    _, wanted = to_core(body.request)
    if isinstance(wanted, Place):
        return placing_out(sessions.load(id), wanted)
    return mapping_out(sessions.load(id), _of_kind(body.request, Retarget))


def _of_kind(body: Any, kind: type[Any]) -> Any:
    verb, wanted = to_core(body)
    if not isinstance(wanted, kind):
        raise RequestError("verb", verb=verb, place="request", accepted=kind.__name__.lower())
    return wanted


@router.post("/sessions/{id}/compare", response={200: CompareOut} | PROBLEMS, operation_id="compare")
def compare(request: HttpRequest, id: int, body: CompareIn) -> Any:
    """Two lanes, two tracks or two revisions: what differs, by how much, and where."""
    one, other = (Asked(**side.model_dump()) for side in (body.one, body.other))
    return compare_out(id, one, other, body.row, body.view)


@router.get("/recipes", response={200: list[RecipeLine]} | PROBLEMS, operation_id="listRecipes")
def list_recipes(request: HttpRequest) -> Any:
    return [{"id": r.pk, "name": r.name, "verb": r.content["request"]["verb"]} for r in recipes.listed()]


@router.delete("/recipes/{recipe}", response={204: None} | PROBLEMS, operation_id="forgetRecipe")
def forget_recipe(request: HttpRequest, recipe: int) -> Any:
    recipes.forget(recipe)
    return Status(204, None)


@router.post("/sessions/{id}/recipes", response={200: RecipeLine} | PROBLEMS, operation_id="keepRecipe")
def keep_recipe(request: HttpRequest, id: int, body: RecipeIn) -> Any:
    """Keep a carry's or retarget's settings under a name."""
    verb, wanted = to_core(body.request)
    return {"id": recipes.keep(sessions.load(id), body.name, verb, wanted), "name": body.name.strip(), "verb": verb}


@router.post("/sessions/{id}/recipes/{recipe}", response={200: RecipeUsed} | PROBLEMS, operation_id="useRecipe")
def use_recipe(request: HttpRequest, id: int, recipe: int, body: RecipeUse) -> Any:
    """A recipe's request on another selection, ready to preview."""
    kept = recipes.load(recipe)
    start, end = (None if b is None else ticks_of(b) for b in (body.start, body.end))
    on = core_recipes.Selection(tuple(body.lanes), start, end)
    wanted, missing = core_recipes.used(sessions.load(id), kept, on)
    return {"request": to_row(kept.verb, wanted), "missing": missing}
