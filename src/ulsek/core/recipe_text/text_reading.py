"""What one reading of a text knows: its language and words, the materials, the house's vague words, what was read, and the doubts so far."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from ..base.numerals import Numeral
from ..base.refusals import Refusal
from ..base.units import METRIC, Locale
from ..base.vocabulary import plain
from ..materials.material import Material, read_material
from ..written.lexicon import Lexicon
from ..written.quantities import MEASURED, Quantity, QuantityReader
from ..written.tokens import Token, tokens_of
from .doubts import Answer, Doubt, doubt_about
from .ingredient import Ingredient
from .material_names import MaterialNames, Named
from .spellings import fruit_of, part_key
from .stand_ins import stand_in
from .usual import usual

_SAID_FORMS = ("syrup", "cordial", "liqueur", "extract", "tincture", "concentrate", "jam")
"""Forms that make another thing of what is named: “demerara syrup” is no demerara."""
_METRIC = frozenset({*METRIC, "tsp", "tbsp", "celsius"})
"""Units that do not contradict a metric text: metric units, spoons, °C."""
Words = Mapping[str, Mapping[str, Any]]
Shelf = Mapping[str, str] | None
"""The material that a house means by a name which several have, by the key that the name is read as: citric acid. None where that is not asked about."""


@dataclass
class TextReading:
    """One reading. `doubts` grow in the order in which they come up; `listed` are the ingredients read so far, `alternatives` pairs of one of them
    and what may stand instead; `waiting` are calls that settle what hangs on a line further down; `own` the materials that only this draft has."""

    text: str
    words: Lexicon
    locale: Locale
    names: MaterialNames
    vague: Words
    shelf: Shelf = None

    def __post_init__(self) -> None:
        self.quantities = QuantityReader(self.words, self.locale)
        self.doubts: list[Doubt] = []
        self.listed: list[Ingredient] = []
        self.alternatives: list[tuple[Ingredient, Ingredient]] = []
        self.waiting: list[Callable[[], None]] = []
        self.own: dict[str, Mapping[str, Any]] = {}
        self._materials: dict[str, Material] = {}

    def material(self, key: str) -> Material:
        """Returns a material, the house's or the draft's own."""
        if key not in self._materials:
            self._materials[key] = read_material(key, self.names.known.get(key) or self.own[key])
        return self._materials[key]

    @cached_property
    def metric_only(self) -> bool:
        """Returns True if the locale is metric and every measured unit of the text is metric or a spoon, so that bare degrees are °C."""
        units = {q.unit for q in self.quantities.all(tokens_of(self.text)) if q.kind in (*MEASURED, "celsius")}
        return self.locale == "metric" and units <= _METRIC

    @cached_property
    def named_first(self) -> tuple[Named, ...]:
        """The materials that the first line of the text names: its title."""
        return tuple(self.names.mentions(tokens_of(self.text.strip().split("\n", 1)[0])))

    @cached_property
    def _harmful(self) -> frozenset[str]:
        return frozenset(usual()["never_assumed"])

    def tokens_at(self, start: int, end: int) -> list[Token]:
        """Returns the tokens of the text from one place to another [letters]."""
        return tokens_of(self.text[start:end], start)

    def knows(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a row that names a known material, a kind of one, or a part of one."""
        said = self.words.phrases["to_taste"].within(tokens)
        named = self.names.named([*tokens[: said[0]], *tokens[said[0] + said[1] :]] if said else tokens)
        return named is not None and (named.key is not None or bool(named.vague or named.part))

    def speaks_of_listed(self, tokens: Sequence[Token]) -> bool:
        """Returns True for words of which one is in the name of an ingredient so far, known or not."""
        said = {token.stem for item in self.listed for token in tokens_of(item.named.said) if token.kind == "word"}
        return any(token.stem in said for token in tokens)

    def may_hurt(self, key: str) -> bool:
        """Returns True for what is never assumed: restricted materials, barks, essential oils, spirits, strong acids."""
        return key in self._harmful or self.material(key).kind in usual()["never_assumed_kinds"]

    def part_of(self, named: Named, part: str) -> Named | None:
        """Returns a part of the fruit that is named: its zest, peel or juice; None if there is no such material."""
        key = part_key(named.key, part, self.names.known) if named.key else None
        return replace(named, key=key, part=part) if key else None

    def key_of(self, named: Named, *, volume: bool) -> str:
        """Returns the key of what is named; an unknown thing becomes a material of the draft, as what its words seem to say."""
        if volume and named.key in usual()["brewed"]:
            named = replace(named, form="tea")
        another_form = self._other_form(named) if named.form and named.key is not None else False
        if named.key is not None and not another_form:
            return named.key
        if isinstance(another_form, str):
            return another_form
        # “Acid” alone is taken as the usual one, and asked about.
        taken = {"acid": "citric_acid", "zest": "lemon_zest", "peel": "lemon_peel", "spirit": "vodka", "vinegar": "white_wine_vinegar"}
        if named.vague in taken and taken[named.vague] in self.names.known:
            return taken[named.vague]
        if named.vague == "juice" and (juice := self._juice_of_the_title()):
            return juice
        if named.form in _SAID_FORMS and named.key is not None and named.form not in plain(named.said):
            named = replace(named, said=f"{named.said} {named.form}")
        key = "_".join(re.findall(r"\w+", plain(named.said).replace("'", "")))[:40] or "unknown"
        while key in self.names.known:
            key += "_2"
        if key not in self.own:
            self.own[key] = stand_in(named, key, volume=volume)
        return key

    def _juice_of_the_title(self) -> str | None:
        """Returns the key of the juice of the only fruit in the title of the text; None for none or several."""
        fruits = dict.fromkeys(fruit_of(str(item.key), self.names.known) or str(item.key) for item in self.named_first if item.key)
        juices = [key for fruit in fruits if (key := part_key(fruit, "juice", self.names.known))]
        return juices[0] if len(juices) == 1 else None

    def _other_form(self, named: Named) -> str | bool:
        """What is made of the thing named: its extract, oil, tincture or purée where that is known; True where it is not."""
        made = {
            "extract": (f"extract_of_{named.key}", f"extract_of_{(named.key or '').split('_')[0]}"),
            "tincture": (f"tincture_of_{named.key}", f"tincture_of_{(named.key or '').split('_')[0]}"),
            "puree": (f"{named.key}_puree", f"{named.key}_juice", str(named.key) if str(named.key).endswith("_juice") else ""),
        }.get(named.form, ())
        if named.form == "solution" and named.key and self.material(named.key).kind in ("acid", "salt"):
            return True if named.key != "saline_20" else named.key
        if named.form == "tea" and named.key and self.material(named.key).kind not in ("leaf", "flower", "spice", "root"):
            return str(named.key)
        return next((key for key in made if key in self.names.known), True)

    def measured_at(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True if the tokens from a position on are a quantity of mass or volume."""
        found = self.quantities.at(tokens, at)
        return found is not None and found.kind in MEASURED

    def unit_alone(self, tokens: Sequence[Token], at: int) -> tuple[tuple[str, float], int] | None:
        """Returns ((mass or volume, g or mL of one), end) of a unit without a number: the “kg” of “600 g per kg”."""
        if at >= len(tokens):
            return None
        one = tokens_with_one(tokens, at)
        found = self.quantities.at(one, 0)
        if found is None or found.kind not in MEASURED:
            return None
        return (found.kind, found.amount.value), at + found.end - 1

    def mass_g(self, kind: str, value: float, key: str) -> float | None:
        """Returns the mass [g] of an amount of a material: grams, mL or pieces, as `kind` says; None where that does not tell it."""
        if kind == "mass":
            return value
        if kind == "volume":
            try:
                return value * self.material(key).density_g_ml()
            except Refusal:
                return None
        piece = self.material(key).piece_g
        return value * piece.value if kind == "count" and piece is not None else None

    def grams_of(self, quantity: Quantity, key: str) -> float | None:
        """Returns the mass of a quantity of a material [g]; None where its amount does not tell it."""
        return self.mass_g(quantity.kind, quantity.amount.value, key)

    def grams(self, item: Ingredient) -> float | None:
        """Returns the mass of an ingredient [g], where its amount tells it."""
        if item.per is not None:
            other = self.grams(item.per[0])
            return None if other is None else other * item.per[1]
        return self.mass_g(item.amount.kind, item.amount.amount.value, item.key)

    def said(self, tokens: Sequence[Token], quantity: Quantity) -> str:
        """Returns the words of a quantity."""
        return self.text[tokens[quantity.start].start : tokens[quantity.end - 1].end]

    def ask(self, code: str, made: Ingredient, question: str, *answers: Answer) -> None:
        """Adds a doubt about an ingredient."""
        self.doubts.append(doubt_about(made, code, question, answers))

    def settle(self, start: int, end: int, codes: Collection[str] = ()) -> None:
        """Drops the doubts about the words from `start` to `end` in the text [letters]: those of these codes, or all if none is given."""
        self.doubts[:] = [d for d in self.doubts if (d.start, d.end) != (start, end) or (codes and d.code not in codes)]

    def called(self, made: Ingredient) -> str:
        """Returns the name of what an ingredient is, as in a sentence."""
        name = self.material(made.key).name
        return name.split(",")[0].lower() if made.own is None else name


def tokens_with_one(tokens: Sequence[Token], at: int) -> list[Token]:
    """Returns the tokens from a position on with a “1” before them, so that a unit alone is read as one of it."""
    here = tokens[at].start
    return [Token("number", "1", "1", "1", here, here, Numeral(1.0)), *tokens[at : at + 3]]
