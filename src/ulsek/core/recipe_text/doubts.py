"""What is doubtful about an ingredient of a pasted recipe: units that disagree, a percentage beside its grams, a unit that cannot be, names that are confused."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from ..base import number_format
from ..base.refusals import Refusal
from ..base.units import Locale
from ..base.vocabulary import Confusion, confusions, plain
from ..materials.material import Material, read_material
from ..materials.reference_materials import typical_materials
from ..safety.shipped_rules import kitchen_words
from .amounts import Words, Written, read_written
from .draft import Ingredient
from .steps import material_meant

_APART = 0.05
"""Two units for one amount may differ by 5 %: that is rounding."""
_KNOWN_ROUNDINGS = (
    (28.3495, 28.0),
    (28.3495, 30.0),
    (29.5735, 30.0),
    (236.588, 240.0),
    (236.588, 250.0),
    (453.592, 450.0),
    (453.592, 454.0),
    (14.787, 15.0),
    (4.929, 5.0),
)
_ACIDS = ("citric", "malic", "tartaric", "ascorbic", "lactic", "phosphoric", "acetic", "succinic")

TO_TASTE = re.compile(r"\b(?:to taste|optional(?:ly)?|as needed|as required)\b", re.IGNORECASE)
_PER = re.compile(r"\d\s*(?:g|mg|ml)\s*(?:/|per )\s*(?:l|litre|liter|kg|100)\b", re.IGNORECASE)
_GRADE = re.compile(r"\b(?:technical|cleaning|industrial|lab(?:oratory)?|photo)\b", re.IGNORECASE)


_OTHERS_OF_THE_NAME = ("spirit", "wine", "dairy", "nut", "fat", "vinegar", "sweetener", "water")
"""Kinds in which a word before the name makes another thing of it: coconut rum, cocoa butter, rose water."""


@dataclass(frozen=True, slots=True)
class Doubt:
    """One reading that may be wrong: what, in which line of the text (counted from 1), and the question to answer."""

    code: str
    line: int
    text: str
    question: str


class Doubter:
    """Asks about the ingredients of one text; `doubts` are kept in the order in which they came up."""

    def __init__(self, locale: Locale, known: Mapping[str, Any], words: Words | None) -> None:
        self.locale, self.known, self.words = locale, known, words
        self.doubts: list[Doubt] = []
        self.ingredients: list[Ingredient] = []
        self._materials: dict[str, Material] = {}

    def doubt(self, code: str, line: int, text: str, question: str) -> None:
        self.doubts.append(Doubt(code, line, text, question))

    def amount(self, text: str) -> Written:
        return read_written(text, self.locale, self.words)

    def material(self, key: str) -> Material:
        if key not in self._materials:
            self._materials[key] = read_material(key, self.known[key])
        return self._materials[key]

    def _unknown(self, item: Ingredient) -> None:
        self.doubt("unknown_material", item.line, item.text, f"“{item.name}” is not in Stores: which material is it?")

    def doubts_of(self, item: Ingredient, *, weighed: bool = False) -> None:
        written, number, line = item.written, item.line, item.text
        lower = plain(line)
        if item.material is None:
            self._unknown(item)
        elif (beside := material_meant(item.name, self.known)[1]) and self.material(item.material).kind in _OTHERS_OF_THE_NAME:
            self.doubt("partly_read", number, line, f"Read as {self.material(item.material).name}: does “{beside}” make it another thing?")
        elif (
            self.material(item.material).kind == "acid"
            and "%" in self.material(item.material).name
            and "%" not in line
            and not re.search(r"\d{2}\b.*\b(?:abv|vol)", lower)
        ):
            self.doubt("which_strength", number, line, f"Is it {self.material(item.material).name}? Strengths differ by the bottle.")
        if written.kind == "missing":
            code = "to_taste" if TO_TASTE.search(line) else "missing_amount"
            self.doubt(
                code,
                number,
                line,
                "How much? Weigh it once, or give a start, a step and bounds."
                if code == "to_taste"
                else "There is no amount: weigh it once.",
            )
        if written.imprecise and written.unit in kitchen_words()["sizes"]:
            grams, low, high = (number_format.grams(part) for part in (written.amount.value, written.amount.low, written.amount.high))
            self.doubt("size", number, line, f"“{written.text}” is taken as {grams} ({low} to {high}): weigh them once.")
        elif written.imprecise:
            unit = "g" if written.kind == "mass" else "mL"
            self.doubt(
                "imprecise",
                number,
                line,
                f"A {written.unit} is taken as {number_format.figure(written.amount.value)} {unit} ({number_format.figure(written.amount.low)} to {number_format.figure(written.amount.high)}): what is it here?",
            )
        if written.kind == "parts":
            self.doubt("parts_basis", number, line, "Parts by weight or by volume?")
        if written.kind == "percent" or _PER.search(line):
            self.doubt("percent_of_what", number, line, "Percent of what, and by weight or by volume?")
        if written.unit == "oz" and written.kind == "mass":
            self.doubt("which_ounce", number, line, "Ounces by weight, or fluid ounces?")
        self._confusable(item, lower)
        if not weighed:
            self._kind_against_unit(item)
        if written.kind == "count" and item.material is not None and self.material(item.material).piece_g is None:
            self.doubt("no_piece_weight", number, line, "Nobody has said what one weighs: weigh one, or give grams.")

    def _confusable(self, item: Ingredient, lower: str) -> None:
        if re.search(r"\bcitric\b", lower) and not re.search(r"anhydrous|monohydrate|solution|stock", lower):
            self.doubt("acid_form", item.line, item.text, "Anhydrous or monohydrate? The monohydrate holds 8.6 % water.")
        if re.search(r"\bacid\b", lower) and _GRADE.search(lower):
            self.doubt("acid_grade", item.line, item.text, "That names a technical grade: only food grade goes into a drink.")
        if re.search(r"\bacid\b", lower) and not any(acid in lower for acid in _ACIDS):
            self.doubt("which_acid", item.line, item.text, "Which acid?")
        for word, confusion in _risky_names().items():
            if re.search(rf"\b{re.escape(word)}\b", lower):
                self.doubt("confusable_name", item.line, item.text, f"{confusion.why} {confusion.ask}")
                return

    def _kind_against_unit(self, item: Ingredient) -> None:
        """Millilitres of a powder, grams of a liquid by the cup: said, with grams advised."""
        if item.material is None or item.written.kind != "volume" or item.written.imprecise:
            return
        material = self.material(item.material)
        if material.pours:
            return
        try:
            density = material.density_g_ml()
        except Refusal:
            self.doubt(
                "no_bulk_density", item.line, item.text, f"{material.name} by volume: nobody has said what a mL weighs. Weigh it once."
            )
        else:
            grams = item.written.amount.value * density
            self.doubt(
                "powder_by_volume",
                item.line,
                item.text,
                f"{material.name} by volume is about {number_format.grams(grams)}: is that right? Grams are surer.",
            )

    def _grams(self, written: Written, key: str | None) -> float | None:
        if written.kind == "mass":
            return written.amount.value
        if written.kind == "volume" and key is not None:
            try:
                return written.amount.value * self.material(key).density_g_ml()
            except Refusal:
                return None
        return None

    def _two_units(self, item: Ingredient, first: str, second: str) -> None:
        one, other = self.amount(f"{first} x"), self.amount(second)
        if other.kind == "percent":
            self._percent_beside(item, one, other)
            return
        if one.kind == other.kind and one.kind in ("mass", "volume"):
            a, b = one.amount.value, other.amount.value
        else:
            first_g, second_g = self._grams(one, item.material), self._grams(other, item.material)
            if first_g is None or second_g is None:
                return
            a, b = first_g, second_g
        if min(a, b) > 0 and abs(a - b) > _APART * min(a, b) and not _is_rounding(a, b):
            self.doubt(
                "units_disagree",
                item.line,
                item.text,
                f"“{first}” and “{second}” are {number_format.figure(100 * abs(a - b) / min(a, b), 0)} % apart: which is right?",
            )

    def _percent_beside(self, item: Ingredient, one: Written, percent: Written) -> None:
        grams = self._grams(one, item.material)
        largest = max((self._grams(other.written, other.material) or 0.0 for other in self.ingredients[:-1]), default=0.0)
        if grams is None or largest <= 0:
            self.doubt("percent_of_what", item.line, item.text, "Percent of what?")
        elif abs(grams / largest * 100.0 - percent.amount.value) > 0.1 * percent.amount.value:
            self.doubt(
                "percent_disagrees",
                item.line,
                item.text,
                f"{number_format.grams(grams)} is {number_format.figure(100 * grams / largest, 1)} % of {number_format.grams(largest)}, not {percent.amount.value:g} %: which is right?",
            )


@cache
def _risky_names() -> dict[str, Confusion]:
    """Names to ask about whenever they stand: both sides of a look-alike, the wrong side alone of a slip of the pen (maleic for malic)."""
    return {
        plain(word.replace("_", " ")): confusion
        for confusion in confusions()
        for word in confusion.words
        if "safe" in confusion.why or "poison" in confusion.why or ("no food" in confusion.why and word not in typical_materials())
    }


def _is_rounding(a: float, b: float) -> bool:
    """Whether two figures differ only by a customary rounding: an ounce as 30, a cup as 240 or 250."""
    ratio = max(a, b) / min(a, b)
    return any(abs(ratio - max(x, y) / min(x, y)) < 0.003 for x, y in _KNOWN_ROUNDINGS)
