"""Guesses which family of preps a recipe belongs to, and a name for one without a name, from its words, the kinds of its materials and its verbs."""

from __future__ import annotations

from collections.abc import Sequence

from ..base.vocabulary import keys, plain
from .action import Action
from .ingredient import Ingredient
from .text_reading import TextReading

_MOSTLY = 0.4
"""Smallest mass fraction of spirit at which a recipe with a steeping step is a spirit infusion [g/g]. House judgement."""
_BY_KIND: tuple[tuple[str, frozenset[str], frozenset[str]], ...] = (
    ("spirit_infusion", frozenset({"spirit"}), frozenset({"infuse", "freeze"})),
    ("shrub", frozenset({"vinegar"}), frozenset()),
)

_CLARIFIES = frozenset({"agar", "gelatin", "enzyme", "milk_clarify", "egg_raft", "centrifuge", "thaw"})
"""Verbs of steps that clarify a juice: a recipe with one of them, and no spirit, is a clarified juice."""


def family_of(name: str, reading: TextReading, ingredients: Sequence[Ingredient], actions: Sequence[Action]) -> str:
    """Returns the key of a family; "other" where nothing tells it."""
    known = keys("families")
    said = f" {plain(name)} ".replace("'", " ")
    for word, family in reading.words.data.get("families", {}).items():
        if f" {plain(word)}" in said and family in known:
            return _finer(str(family), reading, ingredients)
    kinds = {reading.material(item.key).kind for item in ingredients}
    verbs = {action.verb for action in actions}
    for family, needed, done in _BY_KIND:
        if family in known and needed <= kinds and (not done or done & verbs):
            return family
    if verbs & _CLARIFIES and kinds & {"juice", "fruit", "vegetable"} and "spirit" not in kinds and "clarified_juice" in known:
        return "clarified_juice"
    grams = [(reading.grams(item) or 0.0, reading.material(item.key).kind) for item in ingredients]
    if "steep" in verbs and sum(mass for mass, kind in grams if kind == "spirit") > _MOSTLY * sum(mass for mass, _ in grams):
        return "spirit_infusion"
    if "sweetener" in kinds:
        if "acid" in kinds or ("juice" in kinds and "water" not in kinds):
            return "cordial"
        return _finer("syrup", reading, ingredients)
    return "solution" if kinds and kinds <= {"acid", "water", "salt"} else "other"


def _finer(family: str, reading: TextReading, ingredients: Sequence[Ingredient]) -> str:
    """Tells a plain syrup from one on honey, of fruit, or infused."""
    if family != "syrup":
        return family
    kinds = {reading.material(item.key).kind for item in ingredients}
    if kinds & {"fruit", "juice", "puree"}:
        return "fruit_syrup"
    if kinds & {"leaf", "herb", "flower", "spice", "bark", "root", "peel"}:
        return "infused_syrup"
    keys = {item.key for item in ingredients}
    return "sweetener_syrup" if keys & {"honey", "maple_syrup", "agave_syrup"} else family


_PREPS = {
    "cordial": "cordial",
    "shrub": "shrub",
    "spirit_infusion": "infusion",
    "solution": "solution",
    "oil_sugar": "oil-sugar",
    "nut_puree": "orgeat",
}
"""What a prep of a family is called after what is in it; a syrup for every kind of syrup."""
_NAMELESS = ("water", "sweetener", "acid", "salt", "gum", "fining")
"""Kinds after which no prep is called as long as anything else is in it."""


def name_for(family: str, reading: TextReading, ingredients: Sequence[Ingredient]) -> str:
    """Returns a name for a recipe that has none, after the most of what is in it: "Quince cordial"; an empty text where nothing tells."""
    word = _PREPS.get(family) or ("syrup" if family.endswith("syrup") else "")
    named = [item for item in ingredients if item.named.key and reading.material(item.key).kind not in _NAMELESS]
    most = max(named, key=lambda item: reading.grams(item) or 0.0, default=None)
    if not word or most is None:
        return ""
    return f"{reading.material(most.key).name.split(',')[0].removesuffix(' juice')} {word}"
