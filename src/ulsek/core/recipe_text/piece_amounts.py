"""Masses of vague words, pieces and parts of fruit, each with its range. The value of the house comes before the usual one."""

from __future__ import annotations

from dataclasses import replace

from ..base.ranges import Range
from ..materials.material import Material
from ..safety.shipped_rules import kitchen_words
from ..written.quantities import Quantity
from ..written.tokens import tokens_of
from .ingredient import Amount
from .material_names import Named
from .spellings import part_key
from .text_reading import TextReading
from .usual import usual

_SKIN = Range(0.3, 0.15, 0.4)
"""Share of a fruit that is its skin [g/g], where no table has it. House experience."""
_JUICE, _LEAST_PRESSED, _MOST_PRESSED = 0.4, 0.75, 1.2
"""Share of a fruit that is juice, where no table has it, and how much less or more is pressed out of one [g/g]. House experience."""


def of_vague(reading: TextReading, key: str, quantity: Quantity) -> Amount:
    """Returns the usual amount of a vague word such as “handful” for a material [g or mL], marked as assumed."""
    dimension, each = _of_word(reading, quantity.unit, key, reading.material(key))
    return Amount("mass" if dimension == "mass" else "volume", product(quantity.amount, each), quantity.unit, assumed=True)


def _of_word(reading: TextReading, unit: str, key: str, material: Material) -> tuple[str, Range]:
    """Returns ("mass" or "volume", amount of one [g or mL]) of a vague word for a material."""
    if unit == "head" and key in usual()["heads"]:
        return "mass", Range(*usual()["heads"][key])
    if unit in ("stalk", "head", "sprig") and material.piece_g is not None and unit != "sprig":
        return "mass", material.piece_g
    house = reading.vague.get(unit) or kitchen_words()["words"].get(unit)
    shipped = usual()["words"].get(unit)
    entry = (shipped if shipped and (not house or material.kind in shipped.get("kinds", {})) else house) or {
        "unit": "g",
        "value": 10,
        "low": 2,
        "high": 40,
    }
    if material.kind in entry.get("kinds", {}):
        each = Range(*map(float, entry["kinds"][material.kind]))
    else:
        each = Range(float(entry["value"]), float(entry["low"]), float(entry["high"]))
    if entry["unit"] == "piece":
        whole = Range(*usual()["piece_g"].get(material.kind, usual()["piece_g"]["other"]))
        return "mass", product(each, whole)
    return ("mass" if entry["unit"] == "g" else "volume"), each


def part_g(reading: TextReading, fruit: str, part: str) -> Range:
    """Returns the mass of the juice, zest or peel of one fruit [g] that is taken off by hand."""
    if part == "juice":
        return juice_g(reading, fruit)
    key = part_key(fruit, part, reading.names.known)
    one = reading.material(key).piece_g if key is not None else None
    if one is not None:
        return product(one, Range(*usual()["hand_share"][part]))
    piece = reading.material(fruit).piece_g or Range(*usual()["piece_g"]["fruit"])
    return product(piece, product(_SKIN, Range(*usual()["hand_share"][part])))


def juice_g(reading: TextReading, fruit: str) -> Range:
    """Returns the mass of juice of one fruit [g]: mass of the fruit × juice fraction."""
    return product(reading.material(fruit).piece_g or Range(*usual()["piece_g"]["fruit"]), share_of(reading, fruit, "juice"))


def share_of(reading: TextReading, fruit: str, part: str) -> Range:
    """Returns the mass of juice, hand-grated zest or hand-cut peel per mass of whole fruit [g/g], with its range.

    Takes the usual share if the fruit has no such part in the tables. Raises Refusal if the fruit is unknown.
    """
    contents = reading.material(fruit).parts_per_gram().get(part)
    if part == "juice":
        share = contents.mass_g if contents is not None else _JUICE
        return Range(share, share * _LEAST_PRESSED, share * _MOST_PRESSED)
    whole = Range.exact(contents.mass_g) if contents is not None else _SKIN
    return product(whole, Range(*usual()["hand_share"][part]))


def product(one: Range, other: Range) -> Range:
    """Returns the product of two ranges of positive numbers, bound by bound."""
    return Range(one.value * other.value, one.low * other.low, one.high * other.high)


def with_its_unit(reading: TextReading, named: Named, quantity: Quantity) -> Quantity:
    """Returns a number without a unit as grams if the amount before it is in grams and the material is not counted: the 4 of “12 grams of citric and 4 of malic”.

    Other quantities are returned unchanged.
    """
    last = reading.listed[-1] if reading.listed else None
    weighed = named.key is not None and reading.material(named.key).kind in ("acid", "salt", "sweetener", "water", "juice", "vinegar")
    # “Juice 10 limes” counts limes.
    counted = bool(named.part) and not reading.words.says("part_words", tokens_of(named.said)[-1:])
    shared = quantity.unit == "each" and weighed and not counted and last is not None and last.amount.unit == "g"
    return replace(quantity, kind="mass", unit="g") if shared else quantity
