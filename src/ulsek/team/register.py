"""What a house has told of its equipment, places and suppliers."""

from __future__ import annotations

from collections.abc import Mapping

from ulsek.core.base.register import Equipment, equipment
from ulsek.core.base.vocabulary import plain

from .models import House, RegisterRow


def equipment_of(house: House) -> Equipment:
    """Returns what a house weighs and measures with; what most bars do as far as it has told nothing."""
    rows = RegisterRow.objects.filter(house=house, kind__in=("scale", "jigger", "dropper")).order_by("kind", "name")
    return equipment(row.entry for row in rows)


def figures_of(house: House, kind: str) -> Mapping[str, Mapping[str, float]]:
    """Returns a mapping from the name of each entry of a kind, in the spelling of `plain`, to its figures by key, in the units of `RegisterKind`."""
    rows = RegisterRow.objects.filter(house=house, kind=kind).order_by("name").values_list("name", "figures")
    return {plain(name): figures for name, figures in rows}
