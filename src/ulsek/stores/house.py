"""A house as the core asks for it: its materials and rules from the tables, and as one bundle for a browser."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from hashlib import sha256
from typing import Any

from django.db.models.functions import MD5

from ulsek.core.base.answer import encode
from ulsek.core.base.register import Equipment
from ulsek.core.base.units import Locale
from ulsek.core.browser.bundle import HouseBundle
from ulsek.core.materials.material import Material
from ulsek.core.results.spec_card import SecondMeasure
from ulsek.core.safety.house_rules import Rules, read_rules
from ulsek.core.workbench.house import Measures
from ulsek.team.models import House
from ulsek.team.register import equipment_of

from .models import HouseMaterial, StockItem
from .queries import Resolved, described, resolve, resolved_bodies


class StoredHouse:
    """The `House` of the core's workbench, read from the tables. It remembers the materials that were asked for."""

    def __init__(self, house: House) -> None:
        self._house = house
        self.resolved = Resolved({}, {}, {})

    @property
    def rules(self) -> Rules:
        """The house's rules over those that ship."""
        return read_rules(self._house.rules)

    @property
    def measures(self) -> Measures:
        """How the house shows masses."""
        return _measures(self._house, equipment_of(self._house))

    def materials(self, keys: Iterable[str]) -> Mapping[str, Material]:
        """Returns the named materials with their newest open delivery. Unknown keys are omitted."""
        self.resolved = resolve(self._house, keys)
        return self.resolved.materials

    def described(self) -> Mapping[str, Mapping[str, Any]]:
        """Returns every material that the house may use, in the open form."""
        return described(self._house)


def _measures(house: House, at: Equipment) -> Measures:
    beside: SecondMeasure = "cups" if house.beside == "cups" else "volume" if house.beside == "volume" else "nothing"
    locale: Locale = house.locale  # type: ignore[assignment] # one of LOCALES by the model's choices
    return Measures(beside, locale, at.jiggers_ml)


def house_bundle(house: House) -> HouseBundle:
    """Returns what a browser needs to evaluate the house's drafts by itself."""
    own = HouseMaterial.objects.filter(house=house).values_list("key", flat=True)
    delivered = StockItem.objects.filter(house=house, gone_at=None).values_list("material", flat=True)
    at = equipment_of(house)
    measures = _measures(house, at)
    return HouseBundle(resolved_bodies(house, {*own, *delivered})[0], house.rules, measures.beside, measures.locale, at)


def bundle_tag(house: House) -> str:
    """Returns a tag [32 hex digits] that changes with everything that `house_bundle` returns. The database digests the bodies, which it need not send."""
    own = HouseMaterial.objects.filter(house=house).values_list("key", MD5("body"))
    stock = StockItem.objects.filter(house=house, gone_at=None)
    delivered = stock.values_list("material", "product", "supplier", "colour", "received_at", "price", "pack_g", MD5("makeup"))
    told = [
        house.rules,
        house.beside,
        house.locale,
        encode(equipment_of(house)),
        house.zone,
        sorted(map(str, own)),
        sorted(map(str, delivered)),
    ]
    return sha256(json.dumps(told, sort_keys=True).encode()).hexdigest()[:32]
