"""What a spec makes becomes a material of the house, so that other specs and drinks can draw on it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from ulsek.core.materials import read_material
from ulsek.team.models import House

from ..models import HouseMaterial


@transaction.atomic
def keep_own_material(house: House, bodies: Mapping[str, dict[str, Any]]) -> None:
    """Keeps each body under its key, over what stood there. Refuses what is no material. The caller has checked who asks."""
    for key, body in bodies.items():
        read_material(key, body)
        HouseMaterial.objects.update_or_create(house=house, key=key, defaults={"body": body})
