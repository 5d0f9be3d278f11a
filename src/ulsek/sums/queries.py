"""Materials and liquids that fill the inputs of a sum."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.http import Http404

from ulsek.batches.models import Lot
from ulsek.core.properties.alcohol import abv
from ulsek.core.properties.density import volume_ml
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.sums.catalogue import work_out
from ulsek.core.sums.sheet import SumAnswer
from ulsek.stores.queries import resolve
from ulsek.team.models import House
from ulsek.team.register import equipment_of

from .schemas import LiquidOut

_FIGURES = ("brix", "sugar_g_100ml", "acid_g_100ml", "abv", "density_g_ml")


def own(house: House, figures: Mapping[str, Any]) -> Mapping[str, Mapping[str, Any]]:
    """Returns the materials that a sum's inputs name, as this house has them: made by it, or typical with the current delivery's reading."""
    return resolve(house, {value for value in figures.values() if isinstance(value, str)}).bodies


def answer_of(house: House, name: str, figures: Mapping[str, Any]) -> SumAnswer:
    """Returns the answer of a named sum with this house's materials and limits. Raises Refusal as `work_out` does."""
    return work_out(name, figures, own(house, figures), read_rules(house.rules).limits, equipment_of(house))


def liquid(house: House, code: str) -> LiquidOut:
    """Returns sugar, acid, strength and volume of a lot by its code, or of a material by its key. Raises Http404 for neither."""
    lot = Lot.objects.filter(house=house, code=code, gone_at=None).first()
    if lot is not None:
        final = lot.final or {}
        figures = {name: final[name]["value"] for name in _FIGURES if name in final}
        for reading in final.get("readings", []):
            if reading["agrees"] and reading["property"] in figures:
                figures[reading["property"]] = reading["value"]
        return LiquidOut(code=lot.code, name=lot.name, figures=figures, left=lot.left, unit=lot.unit)
    known = resolve(house, [code]).materials
    if code not in known:
        raise Http404
    material = known[code]
    figures = {name: value for name, value in material.measured().items() if name in _FIGURES}
    made_of = material.per_gram().solution
    if figures:
        figures["abv"] = abv(made_of.of("ethanol"), volume_ml(made_of))
    return LiquidOut(code=code, name=material.delivery or material.name, figures=figures, left=None, unit="")
