"""Materials that a house describes itself: what may be said of one, and what is refused."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from ..base.answer import OpenForm
from ..base.free_text import free_text
from ..base.messages import NOTHING, Message, listed, message
from ..base.refusals import Refusal
from ..chemistry.substances import ACIDS, SUBSTANCES, SUGARS
from ..materials.material import Material, read_material
from ..materials.shipped import shipped_bodies
from .house_rules import Rules
from .shelf_life import class_rules

_TEXTS = {"name": 80, "kind": 40, "colour": 80, "note": 300}
"""Letters of each text."""
_MOST_ALLERGENS, _MOST_ALLERGEN = 30, 40
_OF_OTHERS = ("made_by", "delivery", "use_by", "taken_as")
_DECLARED = (
    "celery",
    "crustaceans",
    "egg",
    "fish",
    "gluten",
    "lupin",
    "milk",
    "molluscs",
    "mustard",
    "nuts",
    "peanuts",
    "sesame",
    "soya",
    "sulphites",
)
"""What a label in the European Union declares. Source: Regulation (EU) 1169/2011, annex II."""


@dataclass(frozen=True, slots=True)
class Word:
    """A key with its words."""

    key: str
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MaterialChoices:
    """What may be chosen for a material: kinds, substances, of which sugars and acids can be split, allergens, and classes of keeping."""

    kinds: tuple[str, ...]
    substances: tuple[Word, ...]
    sugars: tuple[str, ...]
    acids: tuple[str, ...]
    allergens: tuple[str, ...]
    classes: tuple[Word, ...]


@cache
def _of_shipped(name: str) -> tuple[str, ...]:
    found = (body.get(name) or () for body in shipped_bodies().values())
    return tuple(sorted({word for item in found for word in ((item,) if isinstance(item, str) else item)}))


def material_choices(rules: Rules) -> MaterialChoices:
    """Returns what may be chosen for a material of a house with these `rules`."""
    return MaterialChoices(
        kinds=(*_of_shipped("kind"), "other"),
        substances=tuple(Word(key, item.name) for key, item in SUBSTANCES.items()),
        sugars=SUGARS,
        acids=ACIDS,
        allergens=tuple(sorted({*_DECLARED, *_of_shipped("allergens")})),
        classes=tuple(Word(key, str(rule["words"])) for key, rule in class_rules(rules.keeping).items()),
    )


def checked_material(key: str, body: Mapping[str, Any], rules: Rules) -> Material:
    """Returns the material that an open form describes.

    Raises Refusal, at its place in the form (`name`, `makeup/sugars_g`), for a missing name, a text that is too long, an unknown kind or class of keeping, allergens
    that are no list of words, and for what `read_material` refuses.
    """
    free_text(body.get("name"), "name", _TEXTS["name"], message("It has no name"), message("Write what stands on it"))
    for part in ("kind", "colour", "note"):
        free_text(body.get(part), part, _TEXTS[part])
    choices = material_choices(rules)
    _known(
        body.get("kind") or "other", choices.kinds, "kind", message("“{value}” is no kind of material", value=str(body.get("kind"))[:40])
    )
    if body.get("keeping_class") is not None:
        classes = [word.key for word in choices.classes]
        named = message("There is no keeping rule of that name")
        _known(body["keeping_class"], classes, "keeping_class", named)
    allergens = body.get("allergens")
    if allergens is not None and (not isinstance(allergens, list) or len(allergens) > _MOST_ALLERGENS):
        raise Refusal(message("Allergens are a list"), "allergens", message("at most {most}", most=_MOST_ALLERGENS), code="unreadable")
    for word in allergens or ():
        free_text(word, "allergens", _MOST_ALLERGEN, message("An allergen has no name"), NOTHING)
    try:
        made = read_material(key, body, "material")
        # What cannot be worked out is refused now, and not in the spec that uses it.
        for z in (-1.0, 0.0, 1.0):
            made.per_gram(z, z)
    except Refusal as refusal:
        raise _placed(refusal, key) from refusal
    return made


def kept_form(key: str, body: Mapping[str, Any]) -> OpenForm:
    """Returns the open form of a material as it is stored: without the members that a spec, a delivery or a lot sets, and `defined` only for unchanged typical ones.

    Raises Refusal, at its place, under a typical key of which an allergen, a caution or a restricted substance is missing or changed.
    """
    typical = shipped_bodies().get(key, {})
    for part in ("allergens", "cautions"):
        missing = next((word for word in typical.get(part) or () if word not in (body.get(part) or ())), None)
        if missing is not None:
            raise Refusal(
                message("“{missing}” belongs to this material", missing=str(missing)),
                part,
                remedy=message("Leave it, or describe the other thing as a material of its own"),
                code="hazard",
            )
    if any((body.get("contains_mg_g") or {}).get(name) != amount for name, amount in (typical.get("contains_mg_g") or {}).items()):
        raise Refusal(message("What is restricted in it stays as it ships"), "contains_mg_g", code="hazard")
    kept = {name: value for name, value in body.items() if name not in _OF_OTHERS}
    # Only what ships as one substance or a weighed mixture of such counts as shown by weighing.
    return {**kept, "defined": bool(typical.get("defined")) and body.get("makeup") == typical.get("makeup")}


def with_hazards(key: str, body: Mapping[str, Any]) -> OpenForm:
    """Returns a material of a table, which has no room for all of it, with what can hurt somebody of the typical material under its key; unchanged under any other."""
    typical = shipped_bodies().get(key, {})
    kept = dict(body)
    for part in ("allergens", "cautions"):
        if typical.get(part):
            kept[part] = list(dict.fromkeys((*typical[part], *(body.get(part) or ()))))
    return {**kept, "contains_mg_g": typical["contains_mg_g"]} if typical.get("contains_mg_g") else kept


def _placed(refusal: Refusal, key: str) -> Refusal:
    """Returns a refusal at the place in the form of the material itself: “makeup/sugars_g”."""
    where = refusal.where
    for before in ("material", f"materials/{key}"):
        # What cannot be worked out at all is the makeup's fault.
        where = "makeup" if where == before else where.removeprefix(f"{before}/")
    return Refusal(refusal.what, where, refusal.bound, refusal.remedy, refusal.code)


def _known(value: Any, known: tuple[str, ...] | list[str], where: str, refused: Message) -> None:
    if value not in known:
        raise Refusal(
            refused, where, message("there are {known}", known=listed(known, "comma")), message("Choose one of them"), "unknown_word"
        )
