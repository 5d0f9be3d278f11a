"""Materials: name, composition, price, allergens, cautions and process figures."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal, InvalidOperation
from functools import cached_property
from typing import Any

from ..base.figures import FIGURES
from ..base.messages import message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..properties import density, sugar
from ..properties.acidity import acid_g_100ml
from .composition import Composition, read_composition
from .reference_materials import defined_keys, loose_fill, typical_keys
from .softening import Softening, kind_of, softening
from .supply import material_of_key

_JIGGER_LIQUID = 0.3
"""Mass share of water or spirit from which a jigger measures it well enough. House experience."""
_LEAST_SOLUTION, _LEAST_LIQUID = 0.5, 0.05
"""Mass shares of solution, and of water or spirit in it, below which a material has no readings. House judgement."""
_BULK_G_ML = (0.003, 5.0)
"""Least and largest bulk density [g/mL]: popped grain, and more than any powder of the kitchen. House judgement."""
_A_LIQUID, _PULP_POURS = 0.14, 0.05
"""From so much water or spirit a material pours as a liquid (crystals hold up to an eighth of their weight), as long as so little plant matter floats in it [g/g]."""


@dataclass(frozen=True, slots=True)
class Hue:
    """The colour of a material: (pH, #rrggbb, word) in order of pH; `strength` relative to other colours per gram; `minutes` until 63 % of it is extracted."""

    points: tuple[tuple[float, str, str], ...]
    strength: float
    minutes: float


@dataclass(frozen=True)
class Material:
    """One thing that goes into a vessel. Prices per kilogram in the house's currency; `hold_g_g` is liquid kept back per gram strained out.

    `pieces`: it keeps its inside to itself until a step draws it out (whole fruit, peel), `drawn_g_g` and `draw_hours` say how sugar does, `softening` how heat does;
    `browns_min`: minutes until it browns in the open, unprotected; `keeps_days`: its own date, which caps every product of it, and `use_by` the last day
    [ISO date] of the very lot; `contains_mg_g`: restricted substances in it, mg per gram; `defined`: its composition follows from its name and label (water,
    white sugar, a single acid, spirit), so that what is weighed of it is known; `allergens_known`: somebody has said which allergens it holds, or that it
    holds none.
    """

    key: str
    name: str
    kind: str
    composition: Composition
    price_per_kg: Decimal | None = None
    allergens: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    keeping_class: str | None = None
    hold_g_g: Range | None = None
    bulk_density_g_ml: Range | None = None
    piece_g: Range | None = None
    vegan: bool = True
    heat_sensitive: bool = False
    delivery: str | None = None
    colour: str = ""
    note: str = ""
    pieces: bool = False
    drawn_g_g: Range | None = None
    draw_hours: Range | None = None
    softening: Softening | None = None
    browns_min: float | None = None
    hue: Hue | None = None
    keeps_days: int | None = None
    use_by: str = ""
    defined: bool = False
    allergens_known: bool = True
    contains_mg_g: Mapping[str, Range] = field(default_factory=dict)
    _cache: dict[tuple[float, float], Contents] = field(default_factory=dict, repr=False, compare=False)

    def per_gram(self, z: float = 0.0, z_acid: float = 0.0) -> Contents:
        """Returns the contents of one gram [g by substance] with an uncertain composition moved by `z` half-ranges (a juice: its °Bx by `z`, its acid by
        `z_acid`). Raises Refusal, placed at the material, for a composition that cannot be.
        """
        # Cached: every pass asks for each material at the few positions of its groups.
        if (z, z_acid) not in self._cache:
            try:
                self._cache[z, z_acid] = self.composition.per_gram(z, z_acid)
            except Refusal as refusal:
                raise refusal.at(f"materials/{self.key}") from refusal
        return self._cache[z, z_acid]

    def parts_per_gram(self, z: float = 0.0, z_acid: float = 0.0) -> dict[str, Contents]:
        """Returns the contents of each part in one gram, moved as in `per_gram`. Raises Refusal as `per_gram` does."""
        try:
            return self.composition.parts_per_gram(z, z_acid)
        except Refusal as refusal:
            raise refusal.at(f"materials/{self.key}") from refusal

    @property
    def pours(self) -> bool:
        """True for a liquid that a jigger can measure: mostly water or spirit, with few solids and no pieces."""
        contents = self.per_gram()
        return (
            not self.pieces and contents.of("water") + contents.of("ethanol") >= _JIGGER_LIQUID and contents.of("insolubles") < _PULP_POURS
        )

    def density_g_ml(self) -> float:
        """Returns the mass of one mL as it is measured out [g/mL]: the density of a liquid, the bulk density of powders and pieces.

        Raises Refusal for a solid whose bulk density is unknown, for it and for its kind.
        """
        return self.poured_g_ml.value

    @cached_property
    def poured_g_ml(self) -> Range:
        """`density_g_ml` with its range [g/mL]: exact for a liquid; for powders and pieces the loose fill, its own or that of its kind. Raises Refusal as
        `density_g_ml` does. Source: `loose_fill`.
        """
        # Its own figure first, then that of a liquid, then that of its kind.
        loose = self.bulk_density_g_ml
        if loose is None:
            made_of = self.per_gram()
            if not self.pieces and made_of.of("water") + made_of.of("ethanol") >= _A_LIQUID and made_of.of("insolubles") <= _PULP_POURS:
                return Range.exact(density.density_g_ml(made_of))
            of_kind = loose_fill().get(f"kind:{self.kind}", {}).get("bulk_density_g_ml")
            loose = Range(**of_kind) if of_kind else None
        if loose is None:
            raise Refusal(
                message("{name} has no bulk density", name=self.name),
                f"materials/{self.key}",
                remedy=message("Weigh it, or give its bulk density once"),
                code="no_bulk_density",
            )
        return loose

    def measured(self, z: float = 0.0, z_acid: float = 0.0) -> dict[str, float]:
        """Returns brix, brix_reading, acid_g_100ml, sugar_g_100ml and density_g_ml of the material, each in its unit; nothing for plant matter and powders."""

        made_of = self.per_gram(z, z_acid).solution
        if made_of.mass_g < _LEAST_SOLUTION or made_of.of("water") + made_of.of("ethanol") < _LEAST_LIQUID:
            return {}
        return {
            "brix": sugar.brix(made_of),
            "brix_reading": sugar.brix_reading(made_of),
            "acid_g_100ml": acid_g_100ml(made_of),
            "sugar_g_100ml": sugar.sugar_g_100ml(made_of),
            "density_g_ml": density.density_g_ml(made_of),
        }

    def measured_ranges(self) -> dict[str, Range]:
        """Returns the figures of `measured` with their ranges: the extremes over °Bx and acid at their 5 and 95 % points; nothing for plant matter and powders."""
        middle = self.measured()
        # A figure may fall as °Bx rises, so all four corners are looked at.
        corners = [self.measured(z, w) for z in (-1.0, 1.0) for w in (-1.0, 1.0)] if middle else []
        return {
            name: Range(
                value, min(value, *(item.get(name, value) for item in corners)), max(value, *(item.get(name, value) for item in corners))
            )
            for name, value in middle.items()
        }


def _words(data: Mapping[str, Any], name: str, where: str) -> tuple[str, ...]:
    """Returns a list of words; none where it is left out. Raises Refusal for what is no list of texts."""
    found = data.get(name)
    if found is None:
        return ()
    if not isinstance(found, (list, tuple)) or not all(isinstance(word, str) for word in found):
        raise Refusal(message("This is no list of words"), f"{where}/{name}", remedy=message("Write it as a list"), code="unreadable")
    return tuple(found)


def _unsaid(data: Mapping[str, Any], where: str) -> bool:
    """Returns whether the file says that allergens of it are unknown: true, or the names of what went in that nobody has said them of."""
    if isinstance(data.get("allergens_unknown"), bool):
        return _flag(data, "allergens_unknown", where)
    return bool(_words(data, "allergens_unknown", where))


def _by_name(data: Mapping[str, Any], name: str, where: str) -> Mapping[str, Any]:
    """Returns amounts by name; none where they are left out. Raises Refusal for what is no object."""
    found = data.get(name)
    if found is None:
        return {}
    if not isinstance(found, dict):
        raise Refusal(
            message("These are no amounts by name"),
            f"{where}/{name}",
            remedy=message("Write it as names with their amounts"),
            code="unreadable",
        )
    return found


def _flag(data: Mapping[str, Any], name: str, where: str, *, usual: bool = False) -> bool:
    """Returns a yes or no; the `usual` one where it is left out. Raises Refusal for anything else."""
    found = data.get(name)
    if found is None:
        return usual
    if not isinstance(found, bool):
        raise Refusal(message("This is neither yes nor no"), f"{where}/{name}", message("it is true or false"), code="unreadable")
    return found


def _hue(data: Any, where: str) -> Hue | None:
    if data is None:
        return None
    points = data.get("points") if isinstance(data, dict) else None
    if not isinstance(points, list) or not points:
        raise Refusal(message("A hue needs its points"), where, remedy=message("Give pH, colour and word for each"))
    read = []
    for point in points:
        if not isinstance(point, dict) or not re.fullmatch(r"#[0-9a-fA-F]{6}", str(point.get("colour"))):
            raise Refusal(message("“{point}” is no point of a hue", point=point), where, message("it needs ph, colour as #rrggbb and word"))
        read.append(
            (
                Range.read(point.get("ph"), f"{where}/ph", ceiling=FIGURES["ph"].readable.high).value,
                str(point["colour"]).lower(),
                str(point.get("word") or ""),
            )
        )
    strength = Range.read(data.get("strength", 1), f"{where}/strength", ceiling=1e4).value
    return Hue(tuple(sorted(read)), strength, Range.read(data.get("minutes", 5), f"{where}/minutes", floor=0.01, ceiling=1e6).value)


def _day(data: Any, where: str) -> str:
    """Returns a day in ISO form; an empty text if none is given. Raises Refusal for what is not a day."""
    if not data:
        return ""
    try:
        return date.fromisoformat(str(data)).isoformat()
    except ValueError:
        raise Refusal(
            message("“{data}” is no day", data=data), where, remedy=message("Write it as 2026-11-25"), code="unreadable"
        ) from None


def _price(data: Any, where: str) -> Decimal | None:
    if data is None:
        return None
    try:
        price = Decimal(str(data))
    except InvalidOperation:
        raise Refusal(message("“{data}” is no price", data=data), where) from None
    if not price.is_finite() or price < 0:
        raise Refusal(message("A price of {data} cannot be", data=data), where, message("it must be nothing or more"))
    return price


def _bulk(data: Mapping[str, Any], where: str) -> Range | None:
    """Returns the bulk density [g/mL, 0.003 to 5] of a loose fill. Raises Refusal outside these bounds; the lower one is that of popped grain."""
    at = f"{where}/bulk_density_g_ml"
    return (
        None
        if data.get("bulk_density_g_ml") is None
        else Range.read(data["bulk_density_g_ml"], at, floor=_BULK_G_ML[0], ceiling=_BULK_G_ML[1])
    )


def _softening(key: str, data: Mapping[str, Any], where: str) -> Softening | None:
    """Returns how the flesh softens in heat: as the file says (`softens`), else by its kind. Raises Refusal for an unknown kind."""
    named = data.get("softens") or kind_of(material_of_key(key), str(data.get("kind") or ""))
    try:
        return softening(str(named)) if named else None
    except Refusal as refusal:
        raise refusal.at(where) from refusal


def read_material(key: str, data: Any, where: str = "") -> Material:
    """Returns a material from an open file; see ``docs/formats``. Raises Refusal, at its place, for what cannot be used."""
    where = where or f"materials/{key}"
    if not isinstance(data, dict):
        raise Refusal(message("“{key}” is not described", key=key), where, remedy=message("Add it to the materials"))

    def optional(name: str, ceiling: float) -> Range | None:
        return Range.read(data[name], f"{where}/{name}", ceiling=ceiling) if data.get(name) is not None else None

    def optional_value(name: str, ceiling: float) -> float | None:
        found = optional(name, ceiling)
        return found.value if found else None

    try:
        return Material(
            key=key,
            name=str(data.get("name") or key.replace("_", " ").capitalize()),
            kind=str(data.get("kind") or "other"),
            composition=read_composition(data.get("makeup"), f"{where}/makeup"),
            price_per_kg=_price(data.get("price_per_kg"), f"{where}/price_per_kg"),
            allergens=_words(data, "allergens", where),
            # Allergens of shipped materials are complete; for any other material somebody must have stated them.
            allergens_known=not _unsaid(data, where) and (data.get("allergens") is not None or material_of_key(key) in typical_keys()),
            cautions=_words(data, "cautions", where),
            keeping_class=str(data["keeping_class"]) if data.get("keeping_class") else None,
            hold_g_g=optional("hold_g_g", 20.0),
            bulk_density_g_ml=_bulk(data, where),
            piece_g=optional("piece_g", 20000.0),
            vegan=_flag(data, "vegan", where, usual=True),
            heat_sensitive=_flag(data, "heat_sensitive", where),
            delivery=str(data["delivery"]) if data.get("delivery") else None,
            colour=str(data.get("colour") or ""),
            note=str(data.get("note") or ""),
            pieces=_flag(data, "pieces", where) or (data.get("makeup") or {}).get("by") == "parts",
            drawn_g_g=optional("drawn_g_g", 1.0),
            draw_hours=optional("draw_hours", 200.0),
            softening=_softening(key, data, where),
            browns_min=optional_value("browns_min", 1e6),
            contains_mg_g={
                str(name): Range.read(value, f"{where}/contains_mg_g/{name}", ceiling=1000.0)
                for name, value in _by_name(data, "contains_mg_g", where).items()
            },
            use_by=_day(data.get("use_by"), f"{where}/use_by"),
            # Files from before this was written down hold the shipped materials without it.
            defined=_flag(data, "defined", where, usual=material_of_key(key) in defined_keys()),
            keeps_days=int(keeps) if (keeps := optional_value("keeps_days", 36500.0)) is not None else None,
            hue=_hue(data.get("hue"), f"{where}/hue"),
        )
    except Refusal as refusal:
        raise refusal.at(where) from refusal
