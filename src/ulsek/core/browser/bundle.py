"""A house's data as one bundle, and the house that a browser reads from it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from ..base.answer import OpenForm, encode
from ..base.register import USUAL_EQUIPMENT, Equipment
from ..base.units import Locale
from ..materials.material import Material, read_material
from ..materials.shipped import shipped_bodies, shipped_material
from ..results.spec_card import SecondMeasure
from ..safety.house_rules import Rules, read_rules
from ..workbench.house import Measures


@dataclass(frozen=True, slots=True)
class HouseBundle:
    """What a house adds to the materials and rules that ship.

    `materials` are its own materials, what its specs make, and typical ones with the reading and price of their current delivery, in the open form by key.
    `rules` is its rules file. `beside` and `locale` say how masses are shown beside grams, `equipment` what is weighed
    and measured with.
    """

    materials: Mapping[str, OpenForm]
    rules: OpenForm
    beside: SecondMeasure
    locale: Locale
    equipment: Equipment = USUAL_EQUIPMENT


class BundledHouse:
    """The house of a bundle. Each material is read once, so that the evaluation of an edit knows it again."""

    def __init__(self, bundle: Mapping[str, Any]) -> None:
        """`bundle` is the JSON of a HouseBundle."""
        self._bodies: Mapping[str, Mapping[str, Any]] = bundle["materials"]
        self._read: dict[str, Material] = {}
        self.rules: Rules = read_rules(bundle["rules"])
        # A browser may hold a bundle from before the equipment was in it.
        at: Mapping[str, Any] = bundle.get("equipment") or encode(USUAL_EQUIPMENT)
        self.equipment = Equipment(tuple(at["scales_g"]), tuple(at["jiggers_ml"]), at["drop_ml"])
        self.measures = Measures(bundle["beside"], bundle["locale"], self.equipment.jiggers_ml)

    @property
    def own(self) -> Mapping[str, Mapping[str, Any]]:
        """The materials of the bundle, in the open form by key."""
        return self._bodies

    def materials(self, keys: Iterable[str]) -> dict[str, Material]:
        """Returns the named materials. Unknown keys are omitted."""
        return {key: self._material(key) for key in dict.fromkeys(keys) if key in self._bodies or key in shipped_bodies()}

    def _material(self, key: str) -> Material:
        if key not in self._bodies:
            return shipped_material(key)
        if key not in self._read:
            self._read[key] = read_material(key, self._bodies[key])
        return self._read[key]

    @cached_property
    def _described(self) -> Mapping[str, Mapping[str, Any]]:
        return {**shipped_bodies(), **self._bodies}

    def described(self) -> Mapping[str, Mapping[str, Any]]:
        """Returns every material that the house may use, in the open form."""
        return self._described
