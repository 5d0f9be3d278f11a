"""The draft of a recipe that was read: its lines and steps in the spec's open form."""

from __future__ import annotations

from collections.abc import Sequence

from ..base.messages import Message
from ..base.units import Locale
from ..operations.catalogue import VERBS
from ..operations.step import MOST_MINUTES, NumberParam
from ..properties.water import brix_boiling_at
from ..spec.json_form import FORMAT, FORMAT_VERSION
from ..spec.object_reader import MOST_TEXT
from .action import Action
from .alternatives import groups
from .doubts import Form, amount_form
from .ingredient import Ingredient
from .spellings import part_key
from .text_reading import TextReading
from .usual import usual
from .waits import place_c

_TURNED_INTO = {
    "boil": "bring_to",
    "press": "strain",
    "drip": "strain",
    "skim": "strain",
    "centrifuge": "settle",
    "shake": "combine",
    "wait": "rest",
}
_TAKES_PARTS = {
    "juice": ("fruit", "vegetable", "root", "leaf"),
    "zest": ("fruit",),
    "peel": ("fruit",),
    "core": ("fruit",),
}
"""Kinds from which a verb takes a part; of anything else the part was taken before, as the list says: “zest of 3 limes”."""
_CORES = frozenset({"core", "stone", "pips"})
"""Parts of a fruit that coring takes out."""
_HOT = 60.0
"""Temperature from which a bottle is filled hot [°C]."""
_LEAST_BOIL, _MOST_BOIL = 100.0, 125.0
"""Temperatures to which a sugar solution is boiled to its °Bx [°C]."""
MOST_BRIX = 85.0
"""Highest °Bx to which a reduction goes."""
_TEMPERATURES = ("temperature_c", "to_c", "below_c", "fill_c")


def before(one: Ingredient, other: Ingredient, ordered: Sequence[Ingredient]) -> bool:
    """Returns True if one ingredient goes in before another."""
    places = {id(item): place for place, item in enumerate(ordered)}
    return places.get(id(one), len(ordered)) < places.get(id(other), -1)


def line_form(
    item: Ingredient,
    ingredients: Sequence[Ingredient],
    ordered: Sequence[Ingredient],
    reading: TextReading,
    beside: Sequence[Ingredient] = (),
    vessel: str = "pot",
) -> Form:
    """Returns an ingredient as a line of the spec; `beside` are the lines of its step where nothing is in the vessel before it, `vessel` is that of its step."""
    amount, form = item.amount, amount_form(item.amount)
    grams = reading.grams(item) if item.per is not None and not before(item.per[0], item, ordered) else None
    if grams:
        # What is measured against a thing that goes in later stands in grams.
        form = {"kind": "fixed", "mass_g": float(f"{grams:.6g}")}
    elif item.per is not None:
        form = {"kind": "ratio", "to": {"line": item.per[0].id}, "basis": "weight", "ratio": float(f"{item.per[1]:.6g}")}
    elif amount.kind == "brix":
        form = {"kind": "target", "property": "brix", "value": amount.amount.value}
    elif amount.kind == "ratio" and (most := max(beside, key=lambda other: reading.grams(other) or 0.0, default=item)) is not item:
        # Nothing stands in the vessel yet: it is measured against the largest thing that goes in beside it.
        form = {"kind": "ratio", "to": {"line": most.id}, "basis": "weight", "ratio": amount.amount.value}
    elif amount.kind == "ratio":
        form = {"kind": "ratio", "to": {"vessel": vessel}, "basis": "weight", "ratio": amount.amount.value}
    elif amount.kind == "percent":
        form = _percent(item, ingredients, reading, beside)
    elif amount.kind == "parts":
        form = _parts(item, ordered)
    elif amount.kind == "line":
        form = {"kind": "target", "property": "volume_ml", "value": amount.amount.value}
    elif amount.kind == "cover":
        form = {"kind": "state", "state": "cover"}
    return {
        "id": item.id,
        "material": item.key,
        "amount": form,
        "note": item.text[:MOST_TEXT],
        **({"only": item.option} if item.option else {}),
    }


def _percent(item: Ingredient, ingredients: Sequence[Ingredient], reading: TextReading, beside: Sequence[Ingredient]) -> Form:
    """Percent of what: of the line that is written as all of it; of a kilogram where every line is percent; of the largest line beside it where the vessel is empty; else of
    what the vessel holds.
    """
    all_percent = all(other.amount.kind == "percent" for other in ingredients)
    whole = any(other.amount.kind == "percent" and other.amount.amount.value >= 99.9 for other in ingredients)
    if whole or all_percent:
        return {"kind": "fixed", "mass_g": float(f"{item.amount.amount.value * 10.0:.6g}")}
    largest = max((reading.grams(other) or 0.0 for other in beside if other.amount.kind != "percent"), default=0.0)
    # Parts weigh what they are taken as.
    largest = largest or sum(usual()["parts_g"] * other.amount.amount.value for other in beside if other.amount.kind == "parts")
    if largest and "/" not in item.amount.unit:
        return {"kind": "fixed", "mass_g": float(f"{item.amount.amount.value / 100.0 * largest:.6g}")}
    return {"kind": "percent", "percent": item.amount.amount.value, "basis": item.amount.unit if "/" in item.amount.unit else "w/w"}


def _parts(item: Ingredient, ordered: Sequence[Ingredient]) -> Form:
    """Parts measured against the first part's line, by weight until it is said otherwise."""
    first = next(other for other in ordered if other.amount.kind == "parts")
    if first is item:
        return {"kind": "fixed", "mass_g": usual()["parts_g"] * item.amount.amount.value}
    return {
        "kind": "ratio",
        "to": {"line": first.id},
        "basis": "weight",
        "ratio": float(f"{item.amount.amount.value / first.amount.amount.value:.6g}"),
    }


def step_form(action: Action, reading: TextReading, number: int) -> Form:
    """Returns an action as a step of the spec, without its lines."""
    verb = verb_of(action, reading)
    note = reading.text[action.start : action.end][:MOST_TEXT] if action.end else ""
    poured = {"share": action.share, "into": "pot"} if verb == "split" else {}
    return {
        "id": f"s{number}",
        "verb": verb,
        "vessel": action.vessel,
        **poured,
        **({"note": note} if note else {}),
        **params_of(action, verb, reading),
    }


def verb_of(action: Action, reading: TextReading) -> str:
    """Returns the verb of Ulsek for an action, by its word and its figures."""
    words, verb = reading.words, action.verb
    boils = words.says("boil_words", action.tokens)
    if verb in ("simmer", "boil", "bring_to", "dissolve", "hold") and _reduced(action, reading):
        return "reduce"
    if verb == "boil" or (verb == "combine" and words.says("comes_to", action.tokens)):
        # “Whisk over medium heat until it comes to a simmer”
        return "simmer" if action.minutes is not None and verb == "boil" else "bring_to"
    if verb == "simmer" and action.minutes is None:
        # “Simmer the sugar and water until dissolved”
        dissolves, boils = words.says("dissolve_words", action.tokens), action.word.startswith(tuple(words.words["boil_only"]))
        return "dissolve" if dissolves else "bring_to" if boils else verb
    if verb == "bring_to" and boils and action.minutes is not None:
        return "simmer"
    if verb == "bring_to" and action.celsius is None and action.degrees is None and not boils:
        return "dissolve" if words.says("dissolve_words", action.tokens) or action.minutes is None else "bring_to"
    if verb == "bottle" and (action.hot or (action.celsius is not None and action.celsius.value >= _HOT)):
        return "hot_fill"
    if verb == "shake":
        return "dry_shake" if "dry_shake" in VERBS and action.word.startswith("dry") else "combine"
    if verb == "macerate" and action.minutes is None and action.word in words.words["rub_words"]:
        return "combine"
    return _TURNED_INTO.get(verb, verb)


def _reduced(action: Action, reading: TextReading) -> bool:
    """Returns True for a step that boils something down; “reduce to a simmer” alone does not."""
    behind = action.told_from + len(action.word.split())
    said = action.tokens[behind:] if any(word in reading.words.words["simmer_words"] for word in action.word.split()) else action.tokens
    return reading.words.says("reduced_words", said)


def params_of(action: Action, verb: str, reading: TextReading) -> Form:
    """Returns the figures of a step that its verb has: minutes, degrees, where it stops, what it is strained through."""
    params = VERBS[verb].params()
    found: Form = {}
    if action.minutes is not None and "minutes" in params and verb != "store" and action.minutes.value <= MOST_MINUTES:
        found["minutes"] = float(f"{action.minutes.value:.6g}")
    place = next((name for name in _TEMPERATURES if name in params), None)
    if place is not None:
        heat = _heat(action, reading)
        if heat is not None and out_of_bounds(verb, heat) is None:
            found[place] = heat
        elif verb == "bring_to" and (reading.words.says("boil_words", action.tokens) or _to_the_boil(action, reading)):
            found[place] = 100.0
        elif verb in ("steep", "infuse", "rest", "macerate") and (stands := place_c(action.tokens, reading)) is not None:
            found[place] = stands
    if action.lid and "lid" in params:
        found["lid"] = action.lid
    if verb in _TAKES_PARTS and not _has_whole_ones(action, verb, reading):
        found["ready"] = True
    if verb == "strain":
        found |= how_strained(action, reading)
    if verb == "reduce":
        found |= where_it_stops(action, reading)
    if verb == "discard":
        found["of"] = "solids"
    return found


def _to_the_boil(action: Action, reading: TextReading) -> bool:
    """Returns True if a separable prefix at the end of a clause makes the verb one of boiling: “ich koche das Wasser auf”."""
    return bool(action.tokens) and action.tokens[-1].plain in reading.words.words["to_the_boil"]


def _has_whole_ones(action: Action, verb: str, reading: TextReading) -> bool:
    """Returns True if a part is taken here from what is whole in the vessel; False where the list has the part already: “zest of 3 limes”."""
    kinds = _TAKES_PARTS[verb]
    if action.lines:
        found = [reading.material(item.key) for item in action.lines]
        # Hulled strawberries have no core that anybody weighed.
        return any(each.kind in kinds and (verb != "core" or not _CORES.isdisjoint(each.parts_per_gram())) for each in found)
    listed = {item.key for item in reading.listed}
    whole = [key for key in listed if reading.material(key).kind in kinds and part_key(key, verb, reading.names.known) not in listed]
    named = [named for named in reading.names.mentions(action.tokens) if named.key]
    spoken = {part_key(one.key, verb, reading.names.known) for one in named if one.key}
    # “Juice the oranges”, where the list has the juice of blood oranges.
    taken = any(item.named.part == verb and item.named.is_kind_of(one) for item in reading.listed for one in named)
    return bool(whole) and spoken.isdisjoint(listed) and not taken


def out_of_bounds(verb: str, heat: float) -> Message | None:
    """Returns the bounds in words of a temperature [°C] that a step of a verb cannot have; None if it can, or has no temperature."""
    params = VERBS[verb].params()
    bounds = next((params[name] for name in _TEMPERATURES if name in params), None)
    inside = not isinstance(bounds, NumberParam) or bounds.low <= heat <= bounds.high
    return None if inside or not isinstance(bounds, NumberParam) else bounds.words


def _heat(action: Action, reading: TextReading) -> float | None:
    if action.celsius is not None:
        return round(action.celsius.value, 1)
    if action.degrees is not None:
        fahrenheit = reading.locale == "us" and action.degrees > 100
        return round((action.degrees - 32.0) / 1.8, 1) if fahrenheit else action.degrees
    return None


def how_strained(action: Action, reading: TextReading) -> Form:
    """Returns what a step strains through and whether it presses: “through muslin without squeezing” is a cloth left to drip."""
    words = reading.words
    hit = words.phrases["sieve_words"].within(action.tokens)
    # “Remove the bags” strains through none.
    taken = not words.words["take_words"].isdisjoint(action.word.split())
    through = str(hit[2]) if hit and not taken else None
    pressed = action.pressed if action.verb != "press" else action.pressed is not False
    if pressed is False or action.verb == "drip" or words.says("drip_words", action.tokens):
        return {"through": through or "sieve_unstirred"}
    return {**({"through": through} if through else {}), **({"pressed": True} if pressed else {})}


def brix_boiled_to(heat: float) -> float | None:
    """Returns the °Bx at which a sugar solution boils at a temperature [°C]; None outside 100 to 125 °C."""
    return round(brix_boiling_at(heat), 1) if _LEAST_BOIL <= heat <= _MOST_BOIL else None


def where_it_stops(action: Action, reading: TextReading) -> dict[str, float]:
    """Returns the state that a reduction is to reach; half of its weight where nothing is said, which is asked about."""
    # The state stands last: “reduce 750 ml of wine until you have 400 ml”.
    for quantity in reversed(action.quantities):
        if quantity.kind == "volume":
            return {"to_volume_ml": quantity.amount.value}
        if quantity.kind == "mass":
            return {"to_mass_g": quantity.amount.value}
        if quantity.kind == "brix":
            return {"to_brix": quantity.amount.value}
        if quantity.kind == "celsius" and (brix := brix_boiled_to(quantity.amount.value)) is not None:
            # “Cook to 104 °C”; beyond the most that a reduction reaches is asked.
            return {"to_brix": min(MOST_BRIX, brix)}
        if quantity.kind == "count" and 0 < quantity.amount.value < 1:
            # “By 1/3”
            by = any(token.plain in reading.words.words["by"] for token in action.tokens)
            return {"to_fraction": 1.0 - quantity.amount.value if by else quantity.amount.value}
        if quantity.kind == "percent":
            by = any(token.plain in reading.words.words["by"] for token in action.tokens)
            share = quantity.amount.value / 100.0
            return {"to_fraction": 1.0 - share if by else share}
    for at in range(len(action.tokens)):
        said = reading.words.at("shares", action.tokens, at) or reading.words.at("fractions", action.tokens, at)
        if said:
            to = any(token.plain in reading.words.words["to"] for token in action.tokens[max(0, at - 3) : at])
            return {"to_fraction": float(said[1]) if to else 1.0 - float(said[1])}
    return {"to_fraction": 0.5}


def draft_of(name: str, family: str, locale: Locale, reading: TextReading, actions: Sequence[Action]) -> Form:
    """Returns the spec in its open form: what was read, and the text itself."""
    ingredients = reading.listed
    for number, item in enumerate(ingredients, 1):
        item.id = f"l{number}"
    places = {id(item): place for place, item in enumerate(ingredients)}
    ordered = [item for action in actions for item in action.lines]
    steps: list[Form] = []
    for number, action in enumerate(actions, 1):
        step = step_form(action, reading, number)
        if action.lines:
            action.lines.sort(key=lambda item: places[id(item)])
            first = not any(before.get("lines") for before in steps if action.vessel in (before["vessel"], before.get("into")))
            beside = action.lines if first else ()
            step["lines"] = [line_form(item, ingredients, ordered, reading, beside, action.vessel) for item in action.lines]
        steps.append(step)
    options = list(groups(reading))
    own = {key: body for key, body in reading.own.items() if any(item.key == key for item in ingredients)}
    # What may be exchanged sets no batch.
    steady = [item for item in ingredients if not item.option]
    driver = next((item for item in steady if item.amount.kind in ("mass", "volume") and not item.amount.assumed), None) or next(
        (item for item in steady if item.amount.kind in ("percent", "parts", "count")), None
    )
    return {
        "format": FORMAT,
        "version": FORMAT_VERSION,
        "name": name or "Pasted recipe",
        "family": family,
        "locale": locale,
        "vessels": [
            {"id": vessel, "name": vessel.replace("_", " ")} for vessel in dict.fromkeys(("pot", *(action.vessel for action in actions)))
        ],
        "note": reading.text,
        "steps": steps,
        **({"options": options} if options else {}),
        **({"driver": driver.id} if driver else {}),
        **({"materials": own} if own else {}),
    }
