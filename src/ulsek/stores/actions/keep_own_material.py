"""Store materials of the house: outputs of specs, or rows of a table."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ulsek.core.base.answer import OpenForm
from ulsek.core.materials.material import read_material
from ulsek.core.safety.own_material import with_hazards
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import House

from ..models import HouseMaterial


def keep_own_material(house: House, bodies: Mapping[str, OpenForm]) -> None:
    """Stores each body under its key, in place of an earlier one. Raises Refusal for what is not a material. Part of an action, which has checked the member."""
    for key, body in bodies.items():
        read_material(key, body)
    # In one statement and one order, so that two actions that keep the same materials do not wait for each other in a circle.
    rows = [HouseMaterial(house=house, key=key, body=body) for key, body in sorted(bodies.items())]
    HouseMaterial.objects.bulk_create(rows, update_conflicts=True, update_fields=["body"], batch_size=500)


@action
def import_materials(member: Member, bodies: Mapping[str, Mapping[str, Any]]) -> None:
    """Stores materials that were read from a table as the house's own; what can hurt somebody of a typical one stays. Raises Refusal for what is not a material; nothing is stored then."""
    keep_own_material(member.house, {key: with_hazards(key, body) for key, body in bodies.items()})
    member.wrote("import_materials", f"{len(bodies)} materials")
