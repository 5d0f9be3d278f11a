"""Allergens of a drink, through every prep of the house below it and over shared equipment."""

from __future__ import annotations

from datetime import datetime
from functools import lru_cache

from ulsek.core.base.answer import fields_of
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.release.allergen_carryover import LeftOnGear, left_on_gear
from ulsek.core.release.allergens import AllergenAnswer, allergen_answer
from ulsek.stores.models import HouseMaterial
from ulsek.team.models import House

from .library_schemas import AllergensOut, DrinkRow
from .models import Spec, Version
from .queries import version_evaluated

_DEEPEST = 8


def _newest(house: House, key: str) -> Version | None:
    return Version.objects.filter(spec__house=house, spec__key=key, spec__newest__isnull=False).order_by("-number").first()


def _preps_below(house: House, evaluation: Evaluation) -> dict[str, Evaluation]:
    """Returns the newest version of every prep that goes into a spec, by the key of what it makes, at any depth."""
    found: dict[str, Evaluation] = {}
    wave = [evaluation]
    for _ in range(_DEEPEST):
        keys = {material.key for item in wave for material in item.used} - set(found)
        made_by = {
            key: str(body["made_by"])
            for key, body in HouseMaterial.objects.filter(house=house, key__in=keys).values_list("key", "body")
            if body.get("made_by")
        }
        wave = []
        for key, spec_key in made_by.items():
            version = _newest(house, spec_key)
            if version is not None:
                found[key] = version_evaluated(version)
                wave.append(found[key])
        if not wave:
            break
    return found


@lru_cache(maxsize=8192)
def _left_on_gear(version: int, at: datetime) -> LeftOnGear:
    """Returns what a version leaves on equipment, cached; a published version never changes, and `at` tells it from one of another database."""
    return left_on_gear(version_evaluated(Version.objects.select_related("spec__house").get(pk=version, at=at)))


def _others(house: House, spec: Spec) -> list[LeftOnGear]:
    """Returns what the house's other specs leave on its equipment, of those whose newest version holds an allergen."""
    rows = Spec.objects.filter(house=house, newest__isnull=False).exclude(pk=spec.pk).exclude(newest__final__allergens=[])
    return [_left_on_gear(*row) for row in rows.order_by("name").values_list("newest__pk", "newest__at")]


def newest_of(spec: Spec) -> Version:
    """Returns the newest version of a spec. Raises Refusal for a spec that was never published."""
    if spec.newest is None:
        raise Refusal(
            message("This spec has never been published"), "spec", remedy=message("Ask your lead to publish it first"), code="not_published"
        )
    return spec.newest


def answer_of(spec: Spec) -> AllergenAnswer:
    """Returns the allergens of a spec's newest version. Raises Refusal for a spec that was never published."""
    evaluation = version_evaluated(newest_of(spec))
    return allergen_answer(evaluation, _preps_below(spec.house, evaluation), _others(spec.house, spec))


def allergens_of(spec: Spec) -> AllergensOut:
    """Returns the allergens of a spec's newest version, and the house's drinks that contain it. Raises Refusal for a spec that was never published."""
    answer = answer_of(spec)
    drinks = _drinks_above(spec.house, newest_of(spec)) if not answer.is_drink else ()
    return AllergensOut(**fields_of(answer), drinks=drinks)


def _drinks_above(house: House, version: Version) -> tuple[DrinkRow, ...]:
    """Returns id and name of every drink that contains what a version makes, at any depth."""
    keys, seen = set(version.outputs), {version.spec_id}
    found: list[DrinkRow] = []
    for _ in range(_DEEPEST):
        above = (
            Spec.objects.filter(house=house, uses__material__in=keys, newest__isnull=False).exclude(pk__in=seen).select_related("newest")
        )
        rows = list(above.distinct().order_by("name"))
        seen |= {row.pk for row in rows}
        found += [DrinkRow(id=row.pk, name=row.name) for row in rows if row.family == "drink"]
        keys = {key for row in rows if row.family != "drink" and row.newest is not None for key in row.newest.outputs}
        if not keys:
            break
    return tuple(found)
