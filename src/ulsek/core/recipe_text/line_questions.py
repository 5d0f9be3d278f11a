"""Questions about a line: what it is, how much, which of two amounts, each with the answers that settle it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from ..base import number_format
from ..base.ranges import Range
from ..base.units import KITCHEN_ML
from ..base.vocabulary import plain
from ..materials.material import Material
from ..safety.shelf_choices import ON_THE_SHELF
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .doubts import Answer, Change, Doubt, risky_names, to_amount, to_material
from .ingredient import Amount, Ingredient
from .spellings import fruit_of, part_key
from .stand_ins import may_be
from .text_reading import TextReading

_APART = 0.06
"""Share by which two units for one amount may differ: that is rounding, and cups of two sizes."""
_ROUNDINGS = (
    (28.3495, 28.0),
    (28.3495, 30.0),
    (29.5735, 30.0),
    (236.588, 240.0),
    (236.588, 250.0),
    (453.592, 450.0),
    (453.592, 500.0),
    (14.787, 15.0),
    (4.929, 5.0),
)
_LEAST_PERCENT = 0.1
_LEAST_STRENGTH = 20.0
"""Percent in a line from which it is the strength of what is sold, not a share [%]."""
_HAVE_STRENGTH = ("acid", "spirit", "wine", "vinegar", "tincture", "extract")
"""Kinds that are sold by their strength: a percentage in brackets is that."""
_OTHERS_OF_THE_NAME = ("spirit", "wine", "dairy", "nut", "fat", "vinegar", "sweetener", "water", "salt")
"""Kinds in which a word before the name makes another thing of it: coconut rum, cocoa butter, rose water."""


class LineQuestions:
    """Asks about the lines of one reading."""

    def __init__(self, reading: TextReading) -> None:
        self._reading = reading

    def what(self, made: Ingredient) -> None:
        """Asks what the thing is, where its words leave that open."""
        named, known = made.named, self._reading.names.known
        lower = plain(made.text)
        if self._risky(made, lower):
            return
        if named.vague == "acid":
            self._reading.ask("which_acid", made, "Which acid?", *self._keys("citric_acid", "malic_acid", "tartaric_acid"))
            return
        if named.vague in ("zest", "peel"):
            part = named.vague
            fruits = [fruit_of(item.key, known) or item.key for item in self._reading.listed if item is not made]
            fruits += [fruit_of(item.key, known) or item.key for item in self._reading.named_first if item.key]
            here = [key for key in dict.fromkeys(part_key(fruit, part, known) for fruit in fruits) if key]
            if here and here[0]:
                made.key = here[0]
            if len(here) == 1:
                # Only one fruit in the recipe has it.
                return
            self._reading.ask(
                "which_fruit",
                made,
                f"The {part} of which fruit?",
                *self._keys(*(here or [f"lemon_{part}", f"lime_persian_{part}", f"orange_sweet_{part}"])),
            )
            return
        asked = made.own is not None and any(other.key == made.key for other in self._reading.listed if other is not made)
        if asked or (made.own is not None and "taken_as" not in made.own) or (made.own is None and named.vague == "juice"):
            # One answer tells what both are; a spirit at the strength that the text says, the juice of the only fruit in its title
            return
        if made.own is not None:
            taken = str(made.own.get("taken_as") or "")
            self._reading.ask(
                "unknown_material",
                made,
                f"“{self._reading.called(made)}” is not in Stores: it is taken as {taken}. What is it?",
                *self._keys(*named.near),
                *(Answer(word, (Change({"own": {"key": made.key, "body": body}}),)) for word, body in may_be(made.own)),
            )
            return
        if named.key is None:
            self._reading.ask(
                "vague_material",
                made,
                f"Which {named.vague or named.said} is it? It is taken as {self._reading.called(made)}.",
                *self._keys(made.key),
            )
            return
        if named.near:
            self._reading.ask("unknown_material", made, f"Is “{named.said}” {self._reading.called(made)}?", *self._keys(*named.near))
            return
        if self._on_the_shelf(made, lower):
            return
        material = self._reading.material(made.key)
        if named.beside and material.kind in _OTHERS_OF_THE_NAME:
            self._reading.ask("partly_read", made, f"Read as {material.name}: does “{' '.join(named.beside)}” make it another thing?")
        self._ask_of_acids(made, material, lower)

    def _on_the_shelf(self, made: Ingredient, lower: str) -> bool:
        """Takes the citric acid that the house keeps, where the words leave it open; asks which, where the house has not said. True if it asked."""
        shelf, known = self._reading.shelf, self._reading.names.known
        kinds = {key: word for key, word in ON_THE_SHELF.get(made.key, {}).items() if key in known}
        if shelf is None or len(kinds) < 2 or any(word in lower for word in ("anhydr", "mono")):
            return False
        if made.key in shelf:
            made.key = shelf[made.key]
            return False
        name = self._reading.called(made)
        self._reading.ask(
            "on_the_shelf",
            made,
            f"Which {name} stands on the shelf? It is asked once.",
            *(to_material(word, key) for key, word in kinds.items()),
        )
        return True

    def _risky(self, made: Ingredient, lower: str) -> bool:
        """Asks about a name that is confused with that of another, harmful plant or substance; True if it is one."""
        padded = f" {lower} "
        for word, confusion in risky_names().items():
            if f" {word} " in padded or f" {word}," in padded:
                self._reading.ask("confusable_name", made, f"{confusion.why} {confusion.ask}")
                return True
        return False

    def _ask_of_acids(self, made: Ingredient, material: Material, lower: str) -> None:
        if material.kind != "acid":
            return
        if "%" in material.name and "%" not in made.text:
            self._reading.ask("which_strength", made, f"Is it {material.name}? Strengths differ by the bottle.")
        if any(word in lower for word in ("technical", "cleaning", "industrial", "lab grade", "photo")):
            self._reading.ask("acid_grade", made, "That names a technical grade: only food grade goes into a drink.")

    def of_what(self, line: int, tokens: Sequence[Token]) -> None:
        """Asks what an amount without a name is."""
        start, end = tokens[0].start, tokens[-1].end
        text = self._reading.text[start:end]
        self._reading.doubts.append(Doubt("no_name", line, text, "An amount of what? Nothing goes in for it.", (), start, end))

    def _keys(self, *keys: str) -> tuple[Answer, ...]:
        known = self._reading.names.known
        return tuple(to_material(str(known[key].get("name") or key), key) for key in keys if key in known)

    def thousands(self, made: Ingredient, quantity: Quantity) -> None:
        unit = "g" if quantity.kind == "mass" else "mL"
        smaller = Amount("mass" if quantity.kind == "mass" else "volume", quantity.amount, quantity.unit)
        self._reading.ask(
            "thousands",
            made,
            f"Is that {number_format.figure(quantity.other or 0.0)} {unit}, or {number_format.figure(quantity.amount.value)} {unit}?",
            to_amount(f"{number_format.figure(quantity.other or 0.0)} {unit}", made.amount),
            to_amount(f"{number_format.figure(quantity.amount.value)} {unit}", smaller),
        )

    def no_unit(self, made: Ingredient, count: Range) -> None:
        """Asks about a number without a unit, read as grams."""
        number = f"{count.value:g}"
        answers = (
            to_amount(f"{number} g", Amount("mass", count, "g")),
            to_amount(f"{number} mL", Amount("volume", count, "ml")),
        )
        taken = "grams" if made.amount.kind == "mass" else "millilitres"
        self._reading.ask("no_unit", made, f"{number} of what? It is read as {taken}.", *answers)

    def how_much(self, made: Ingredient, one: str, code: str = "imprecise") -> None:
        """Asks about an amount that is assumed, to two digits: nobody knows more of it."""
        unit = "g" if made.amount.kind == "mass" else "mL"
        ends = [_two_digits(part) for part in (made.amount.amount.low, made.amount.amount.value, made.amount.amount.high)]
        low, value, high = (number_format.given(part) for part in ends)
        question = f"{value} {unit} is usual here, {low} to {high}: how much is it?"
        if not one:
            question = f"No amount is written. {value} {unit} is taken, {low} to {high} is usual: how much is it?"
        elif code == "count_of_fruit":
            question = f"Fruit differs: {one} is {value} {unit} in all, {low} to {high}. How much is it?"
        answers = [
            to_amount(f"{number_format.given(part)} {unit}", replace(made.amount, amount=Range.exact(part), assumed=False))
            for part in dict.fromkeys(ends)
        ]
        self._reading.ask(code, made, question, *answers, Answer("weigh it at the bench", (Change({"to_taste": True}),)))

    def which_pint(self, made: Ingredient, quantity: Quantity, tokens: Sequence[Token]) -> None:
        """Adds a doubt about a pint, quart, gallon or gill in the metric locale: UK and US sizes differ by a fifth. Adds none if another measure stands in the row."""
        settled = any(other.kind in MEASURED and other.unit != quantity.unit for other in self._reading.quantities.all(tokens))
        if self._reading.locale != "metric" or quantity.unit not in ("pint", "quart", "gallon", "gill") or settled:
            return
        smaller = KITCHEN_ML["us"][quantity.unit] / KITCHEN_ML["metric"][quantity.unit]
        american = replace(made.amount, amount=made.amount.amount.times(smaller))
        self._reading.ask(
            "which_pint",
            made,
            f"A {quantity.unit} of the United Kingdom, or of the United States?",
            to_amount("UK", made.amount),
            to_amount("US", american),
        )

    def two_amounts(self, made: Ingredient, tokens: Sequence[Token], counted: Quantity, others: Sequence[Quantity]) -> None:
        """Asks where two amounts of one line cannot both be right."""
        mine = self._reading.mass_g(made.amount.kind, made.amount.amount.value, made.key)
        for other in others:
            # “1 % (80 % lactic)”, “vodka (40 %)”: a strength, not a share.
            if other.kind == "percent" and (self._of_strength(made, other) or self._sold_so(made, other)):
                continue
            if other.kind == "percent" and (counted.kind == "percent" or self._reading.material(made.key).kind in _HAVE_STRENGTH):
                continue
            if other.kind == "percent":
                self._percent_beside(made, mine, other)
                continue
            theirs = self._reading.mass_g(other.kind, other.amount.value, made.key)
            if mine is None or theirs is None or other.kind == "count" or min(mine, theirs) <= 0:
                continue
            low, high = self._loose(other, theirs, made.key)
            sizes = self._cup_sizes(other)
            if any(low * size <= mine <= high * size or _agree(mine, theirs * size) for size in sizes):
                continue
            first, second = (self._reading.said(tokens, quantity) for quantity in (counted, other))
            share = number_format.figure(100 * abs(mine - theirs) / min(mine, theirs), 0)
            self._reading.ask(
                "units_disagree",
                made,
                f"“{first}” and “{second}” are {share} % apart: which is right?",
                to_amount(first, made.amount),
                to_amount(second, Amount(other.kind, other.amount, other.unit)),  # type: ignore[arg-type]
            )

    def _cup_sizes(self, quantity: Quantity) -> tuple[float, ...]:
        """Returns the sizes of a unit of volume in other locales, relative to that of the house [mL/mL], 1.0 first: “6 cups (1.4 l)” are US cups."""
        own = KITCHEN_ML[self._reading.locale].get(quantity.unit) if quantity.kind == "volume" else None
        # Nobody measures by the imperial cup.
        sizes = [KITCHEN_ML["us"], KITCHEN_ML["metric" if quantity.unit in ("cup", "tbsp", "tsp") else "imperial"]]
        return (1.0, *(size[quantity.unit] / own for size in sizes)) if own else (1.0,)

    def or_so_much(self, made: Ingredient, tokens: Sequence[Token], offered: Quantity) -> None:
        """Asks where a line offers another amount of what it names: “300 g dried apricots (or 600 g fresh)”."""
        said = self._reading.said(tokens, offered)
        amount = Amount("mass" if offered.kind == "mass" else "volume", offered.amount, offered.unit)
        self._reading.ask(
            "alternatives",
            made,
            f"Which is it: as it is written first, or “{said}”?",
            to_amount("as it is written first", made.amount),
            to_amount(said, amount),
        )

    def _of_strength(self, made: Ingredient, percent: Quantity) -> bool:
        """Asks where a strength is written that Stores does not have: “lactic (88 %)” by the one of 80 %. True if it asked."""
        material = self._reading.material(made.key)
        sold = re.search(r"(\d+(?:\.\d+)?)\s*%", material.name)
        if sold is None or material.kind != "acid" or made.amount.kind not in ("mass", "volume", "percent"):
            return False
        ratio = percent.amount.value / float(sold[1])
        if percent.amount.value < _LEAST_STRENGTH or abs(ratio - 1.0) <= _APART:
            return False
        written = f"{percent.amount.value:g}"
        self._reading.ask(
            "other_strength",
            made,
            f"It is written for {written} %, and Stores has {material.name}. Is it weighed so that as much goes in?",
            to_amount(f"{ratio:.3g} times as much", replace(made.amount, amount=made.amount.amount.times(ratio))),
            to_amount("as it is written", made.amount),
        )
        return True

    def _sold_so(self, made: Ingredient, percent: Quantity) -> bool:
        """Returns True if a percentage is the strength in the name of a material: “saline (20 %)”."""
        sold = re.search(r"(\d+(?:\.\d+)?)\s*%", self._reading.material(made.key).name)
        return sold is not None and abs(percent.amount.value - float(sold[1])) <= _APART * float(sold[1])

    def _loose(self, other: Quantity, grams: float, key: str) -> tuple[float, float]:
        """Returns the grams [low, high] that a cup of it may hold, with a tenth to either side for rounding."""
        if other.kind != "volume":
            return grams, grams
        density = self._reading.material(key).poured_g_ml
        spread = 0.04 if density.is_exact else 0.03
        return other.amount.low * density.low * (1 - spread), other.amount.high * density.high * (1 + spread)

    def _percent_beside(self, made: Ingredient, grams: float | None, percent: Quantity) -> None:
        largest = max((self._reading.grams(other) or 0.0 for other in self._reading.listed if other is not made), default=0.0)
        if grams is None or largest <= 0:
            self._reading.ask("percent_of_what", made, "Percent of what?")
        elif abs(grams / largest * 100.0 - percent.amount.value) > _LEAST_PERCENT * percent.amount.value:
            self._reading.ask(
                "percent_disagrees",
                made,
                f"{number_format.grams(grams)} is {number_format.figure(100 * grams / largest, 1)} % of {number_format.grams(largest)}, not {percent.amount.value:g} %: which is right?",
            )


def _agree(a: float, b: float) -> bool:
    """Returns True if two masses [g] of one amount differ by no more than customary rounding."""
    return abs(a - b) <= _APART * min(a, b) or _is_rounding(a, b)


def _is_rounding(a: float, b: float) -> bool:
    """Returns True if two figures differ only by a customary rounding: an ounce as 30, a cup as 240 or 250."""
    ratio = max(a, b) / min(a, b)
    return any(abs(ratio - max(x, y) / min(x, y)) < 0.003 for x, y in _ROUNDINGS)


def _two_digits(value: float) -> float:
    return float(f"{value:.2g}")
