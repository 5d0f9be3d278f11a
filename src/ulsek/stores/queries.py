"""Materials of a house, for specs, runs and the Stores place."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Any

from django.db.models import Max

from ulsek.core.materials.material import Material, read_material
from ulsek.core.materials.shipped import shipped_bodies, shipped_material
from ulsek.core.results.evaluation_result import Bands
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.shelf_life_rules import last_day
from ulsek.core.safety.spec_quality import dated_material
from ulsek.team.models import House

from .models import HouseMaterial, StockAction, StockItem
from .schemas import MaterialOut, StockActionOut


def is_typical(key: str) -> bool:
    """Returns True for a material that ships; what a house makes never has such a key."""
    return key in shipped_bodies()


def described(house: House) -> dict[str, Mapping[str, Any]]:
    """Returns every material that this house may use, in the open form: typical ones, with the house's own in their place."""
    return {**shipped_bodies(), **dict(HouseMaterial.objects.filter(house=house).values_list("key", "body"))}


@dataclass(frozen=True)
class Resolved:
    """Materials of this house now, each with the reading and price of its current delivery. `stock` names the deliveries."""

    bodies: Mapping[str, Mapping[str, Any]]
    materials: Mapping[str, Material]
    stock: Mapping[str, str]


def body_of(body: Mapping[str, Any], item: StockItem) -> Mapping[str, Any]:
    """Returns the open form of a material with composition, price, colour and name of a delivery."""
    changed = dict(body)
    # Without a price of its own it costs what the material is said to.
    if item.price_per_kg is not None:
        changed["price_per_kg"] = str(item.price_per_kg)
    changed["delivery"] = f"{item.product}, {item.supplier}"
    if item.colour:
        changed["colour"] = item.colour
    if item.makeup:
        changed["makeup"] = item.makeup
    if changed.get("keeps_days") is not None:
        received = item.house.day(item.received_at)
        changed["use_by"] = last_day(received, int(changed["keeps_days"])).isoformat()
    return changed


def resolved_bodies(house: House, keys: Iterable[str]) -> tuple[dict[str, Mapping[str, Any]], dict[str, StockItem]]:
    """Returns the named materials in the open form with their newest open delivery, and those deliveries. Unknown keys are omitted."""
    wanted = set(keys)
    own = dict(HouseMaterial.objects.filter(house=house, key__in=wanted).values_list("key", "body"))
    said = read_rules(house.rules).spec_quality
    known = {
        key: dated_material(key, own.get(key) or shipped_bodies()[key], said) for key in wanted if key in own or key in shipped_bodies()
    }
    newest: dict[str, StockItem] = {}
    # Through the house, which each row then refers to without loading it again.
    for item in house.stockitem_set.filter(material__in=known, gone_at=None).order_by("received_at"):
        newest[item.material] = item
    return {key: body_of(body, newest[key]) if key in newest else body for key, body in known.items()}, newest


def prices_per_kg(house: House, keys: Iterable[str]) -> dict[str, Decimal]:
    """Returns the price of each material [currency/kg]: of its newest delivery that has one, used up or not, else what the material itself says; those without any are omitted."""
    wanted = set(keys)
    own = dict(HouseMaterial.objects.filter(house=house, key__in=wanted).values_list("key", "body__price_per_kg"))
    said = {key: own[key] if key in own else shipped_bodies().get(key, {}).get("price_per_kg") for key in wanted}
    found = {key: Decimal(str(price)) for key, price in said.items() if price is not None}
    priced = StockItem.objects.filter(house=house, material__in=wanted, price__isnull=False)
    newest = dict(priced.values_list("material").annotate(Max("received_at")).order_by("material"))
    for item in priced.filter(received_at__in=newest.values()):
        if item.received_at == newest[item.material] and item.price_per_kg is not None:
            found[item.material] = item.price_per_kg
    return found


@lru_cache(maxsize=512)
def _read_once(key: str, body: str) -> Material:
    """Returns a material from its open form. The same form gives the same object, by which an evaluation knows that nothing has changed in it."""
    return read_material(key, json.loads(body))


def resolve(house: House, keys: Iterable[str]) -> Resolved:
    """Returns the named materials with their newest open delivery. Unknown keys are omitted; the core refuses them at their place."""
    bodies, newest = resolved_bodies(house, keys)
    materials = {
        key: shipped_material(key) if body is shipped_bodies().get(key) else _read_once(key, json.dumps(body, sort_keys=True))
        for key, body in bodies.items()
    }
    return Resolved(bodies, materials, {key: str(item.pk) for key, item in newest.items()})


def had_by(house: House) -> set[str]:
    """Returns the keys of the materials of which the house has ever had a delivery."""
    return set(StockItem.objects.filter(house=house).values_list("material", flat=True).distinct())


def material_view(key: str, body: Mapping[str, Any], material: Material) -> MaterialOut:
    """Returns one material as Stores shows it: figures with their ranges and whether they were read."""
    makeup = body["makeup"]
    return MaterialOut(
        key=key,
        name=material.name,
        kind=material.kind,
        figures=material.measured_ranges(),
        brix_read=bool(makeup.get("brix_read")),
        acid_read=bool(makeup.get("acid_read")),
        readable=makeup["by"] == "reading",
        source=makeup.get("source", ""),
        bands=Bands.of(material.per_gram()),
        price_per_kg=material.price_per_kg,
        allergens=tuple(material.allergens),
        cautions=tuple(material.cautions),
        note=material.note,
    )


def stock_action_row(event: StockAction) -> StockActionOut:
    """Returns a stored action."""
    return StockActionOut(kind=event.kind, body=event.body, by=event.by.display_name, at=event.at)
