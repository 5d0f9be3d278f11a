"""Replaces whole fruit of the list by the parts that the method uses: “6 lemons … peel the lemons, muddle the peels”, “2 lemons … add the lemon juice”."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..base.ranges import Range
from ..written.quantities import Quantity
from ..written.tokens import Token, tokens_of
from .action import Action
from .ingredient import Amount, Ingredient
from .line_questions import LineQuestions
from .material_names import Named
from .piece_amounts import part_g, product
from .spellings import PARTS, fruit_of, part_key
from .text_reading import TextReading

_TAKES = {"peel": "peel", "zest": "zest"}
"""Part of a fruit that each verb takes off."""
_SKIN = ("peel", "zest")
"""Parts that a text may call by each other's name."""
_PUT_IN = ("combine", "dissolve", "off_heat", "blend", "simmer", "bring_to", "steep", "macerate", "muddle")
"""Verbs of steps into which a part of fruit goes."""
_CUTS = ("cut", "blend", "crush", "muddle", "juice", "zest", "peel", "core")
"""Verbs whose result does not depend on an earlier cut."""
_MOST_ARTICLE = 3
"""Largest number of tokens from a number to the fruit it counts: “of the limes”, “de los limones” [count]."""
_MOST_OF, _MOST_PARTS = 3, 6
"""Largest distance from a fruit to the “of” before it, and from that to its parts [tokens]."""


def parts_put_in(reading: TextReading, actions: Sequence[Action]) -> None:
    """Replaces whole counted fruit by its peel, zest and juice where the steps use only those parts.

    Fruit of which the steps name no part, or the flesh, stays whole. Each part has the usual mass [g] of that count of fruit; a doubt asks for it.
    """
    counted = [
        (action, item)
        for action in actions
        for item in action.lines
        if reading.material(item.key).kind == "fruit" and item.amount.kind == "count"
    ]
    adds = _added(reading, actions) if counted else []
    for action, item, uses in [(action, item, _uses(reading, item, actions, adds)) for action, item in counted]:
        if any(of is action for _, of in uses) or (uses and action.verb == "wash"):
            action.lines.remove(item)
            for _, of in uses:
                # “Presser tous les citrons”
                of.verb = "juice" if of.verb == "press" else of.verb
            _in_its_parts(reading, item, [(part, of, _put_in_at(actions, adds, part, of)) for part, of in uses])
    for position, action in enumerate(actions):
        part = _TAKES.get(action.verb)
        fruits = [item for item in action.lines if part and reading.material(item.key).kind == "fruit" and item.amount.kind == "count"]
        used = _parts_of(reading, actions[position + 1 :]) if fruits else set()
        if part is not None and used and used <= set(_TAKES):
            for item in fruits:
                _becomes(reading, item, part, so_many_of(reading, action, item, part))


def juice_of_what_was_peeled(reading: TextReading, actions: Sequence[Action]) -> None:
    """Adds an ingredient, the juice of fruit that is peeled first and juiced later: “peel 12 limes … juice the limes, add the juice”.

    Its amount is the usual juice of that number of fruit [g], with a doubt that asks for it. Fruit whose juice is in the list is left out.
    """
    listed = {item.key for item in reading.listed}
    peeled = [(at, item) for at, action in enumerate(actions) if action.verb in _TAKES for item in action.lines if item.amount.assumed]
    named = [[one for one in reading.names.mentions(action.tokens) if one.key] for action in actions] if peeled else []
    adds = [at for at, parts in enumerate(_added(reading, actions) if peeled else ()) if "juice" in parts]
    for at, item in peeled:
        fruit = fruit_of(item.key, reading.names.known)
        whole = next((one for one in named[at] if one.key == fruit), None)
        counts = [q for q in actions[at].quantities if whole is not None and q.kind == "count" and q.end <= whole.start]
        if whole is None or not counts or part_key(str(fruit), "juice", reading.names.known) in listed:
            continue
        for later in range(at + 1, len(actions)):
            action, of_it = actions[later], next((one for one in named[later] if one.key == fruit), None)
            squeezed = action.verb == "juice" or (action.verb == "press" and bool(adds) and adds[-1] >= later)
            added = of_it is not None and "juice" in _before(reading, action, of_it.start, named[later])
            if added or (squeezed and (of_it or not named[later])) or (later in adds and not named[later]):
                # “Juice the limes”, “squeeze them”, “add the juice of the limes”, “add the juice”
                action.verb = "juice" if action.verb == "press" else action.verb
                made = replace(item, named=whole, key=str(fruit))
                reading.listed.insert(reading.listed.index(item) + 1, made)
                goes = next((n for n in adds if n > later), later) if action.verb == "juice" else later
                actions[goes].lines.append(made)
                _becomes(reading, made, "juice", counts[-1].amount)
                break


def _uses(reading: TextReading, item: Ingredient, actions: Sequence[Action], adds: Sequence[list[str]]) -> list[tuple[str, Action]]:
    """Returns (part, first action that names it) of a whole fruit; [] if any action names the whole, or the list has that part by itself.

    `adds` are the parts that each action adds without naming a fruit.
    """
    known, found, taken = reading.names.known, dict[str, Action](), False
    listed = {other.key for other in reading.listed}
    alone = sum(reading.material(other.key).kind == "fruit" for other in reading.listed) == 1
    for action, added in zip(actions, adds, strict=True):
        # “Wash the lemons” uses no part of them.
        named = [item for item in reading.names.mentions(action.tokens) if item.key] if action.verb != "wash" else []
        for one in named:
            if one.key == item.key:
                parts = _before(reading, action, one.start, named)
                taken = taken or action.verb in _TAKES
                if not parts and action.verb in _TAKES:
                    # “Zest the lemons into the sugar, … stir in the juice”
                    parts = [_TAKES[action.verb]]
                elif not parts and action.verb in ("juice", "press") and (taken or not found.keys().isdisjoint(_SKIN)):
                    # “Peel four of the limes, … juice all the limes”, “steep the peel in the sugar, … squeeze the limes”
                    parts = ["juice"]
            elif fruit_of(str(one.key), known) == item.key and one.key not in listed:
                # German “Limetten schälen” reads like “Limettenschalen”.
                parts = [str(one.key).removeprefix(f"{item.key}_")]
                taken = taken or action.verb in _TAKES
            else:
                continue
            if not parts or any(part not in PARTS for part in parts):
                return []
            for part in parts:
                found.setdefault(part, action)
        if action.verb == "juice" and not any(fruit_of(str(one.key), known) or one.key in listed for one in named):
            # “Grate the lemon rind, squeeze the juice”
            found.setdefault("juice", action)
        some = _TAKES.get(action.verb) if not named else None
        if some and (alone or so_many_of(reading, action, item, some) is not item.amount.amount):
            # “Peel four of them”, “wash the limes and grate off the zest”
            found.setdefault(some, action)
            taken = True
        for part in added:
            # “Pelez les citrons, mélangez les zestes”: the zest is the peel.
            if part not in _SKIN or all(found[skin].verb not in _TAKES for skin in _SKIN if skin in found):
                found.setdefault(part, action)
    return list(found.items()) if not taken or "juice" in found else []


def _put_in_at(actions: Sequence[Action], adds: Sequence[list[str]], part: str, taken: Action) -> Action:
    """Returns the action that adds the part which `taken` takes off: “stir in the juice” for “juice the oranges”; `taken` if no later action adds the part.

    `adds` are the parts that each action adds without naming a fruit. What is peeled may be added as zest.
    """
    if taken.verb != part:
        return taken
    begin = next(at for at, action in enumerate(actions) if action is taken) + 1
    others = [skin for skin in _SKIN if part in _SKIN and skin != part]
    return next((actions[at] for name in (part, *others) for at in range(begin, len(actions)) if name in adds[at]), taken)


def _added(reading: TextReading, actions: Sequence[Action]) -> list[list[str]]:
    """Returns, for each action, the parts of fruit that it adds without naming a fruit."""
    return [_of_all(reading, action, [one for one in reading.names.mentions(action.tokens) if one.key]) for action in actions]


def _of_all(reading: TextReading, action: Action, named: Sequence[Named]) -> list[str]:
    """Returns the parts (juice, zest, peel) that an action adds without naming a fruit, such as “add the juice”. Parts that the list has as an ingredient are
    omitted."""
    words, tokens = reading.words, action.tokens
    if action.verb not in _PUT_IN:
        return []
    listed = {item.named.part for item in reading.listed} | {reading.material(item.key).kind for item in reading.listed}
    found = list[str]()
    for at in range(len(tokens)):
        hit = words.at("part_words", tokens, at)
        if not hit or hit[1] not in PARTS or hit[1] in listed or any(one.start <= at < one.end for one in named):
            continue
        behind = at + hit[0]
        if behind < len(tokens) and tokens[behind].plain in words.words["of"]:
            last = tokens[behind + 1 : behind + _MOST_OF + 1]
            fruits = any(token.stem in words.data["group_words"] and "fruit" in words.data["group_words"][token.stem] for token in last)
            # “The juice of all of them”, “of all six”
            all_so_many = len(last) > 1 and last[0].plain in words.words["all_words"] and reading.quantities.at(last, 1) is not None
            if not (fruits or all_so_many or any(token.plain in words.words["pronouns"] for token in last)):
                continue
        found.append(str(hit[1]))
    return found


def _before(reading: TextReading, action: Action, at: int, named: Sequence[Named]) -> list[str]:
    """Returns the parts of a fruit that are named before it: “the juice and thinly pared rind of the lemons”; [] for none, or where a verb takes one off.

    `named` are the materials of the action: a part in the name of one is not meant.
    """
    words = reading.words
    of = next((n for n in range(at - 1, max(-1, at - _MOST_OF), -1) if action.tokens[n].plain in words.words["of"]), 0)
    beside = next((one for one in named if one.end < at and action.tokens[one.end].plain in words.words["and"]), None) if not of else None
    if beside is not None and at - beside.end < _MOST_OF:
        # “The zest of the oranges and lemons”
        return _before(reading, action, beside.start, named)
    free = [n for n in range(max(0, of - _MOST_PARTS), of) if not any(one.start <= n < one.end for one in named)]
    found, end = list[str](), 0
    for n in free:
        hit = words.at("part_words", action.tokens, n) if n >= end else None
        if hit:
            found, end = [*found, str(hit[1])], n + hit[0]
    several = any(action.tokens[n].plain in words.words["and"] for n in free)
    return list(dict.fromkeys(found if several else found[-1:]))


def _in_its_parts(reading: TextReading, item: Ingredient, uses: Sequence[tuple[str, Action, Action]]) -> None:
    """Replaces counted fruit by its parts, each with its usual mass [g] and a doubt. `uses` are (part, action that takes it off, action that adds it)."""
    where = reading.listed.index(item)
    reading.settle(item.start, item.end)
    reading.listed.remove(item)
    for part, taken, put_in in uses:
        made = replace(item)
        reading.listed.insert(where, made)
        put_in.lines.append(made)
        _becomes(reading, made, part, so_many_of(reading, taken, item, part))


def _parts_of(reading: TextReading, actions: Sequence[Action]) -> set[str]:
    """Returns the parts of fruit that steps name or take."""
    found: set[str] = set()
    for action in actions:
        if action.verb in ("discard", "strain", "press", "filter"):
            continue
        found |= {"juice"} if action.verb == "juice" else set()
        said = (reading.words.at("part_words", action.tokens, at) for at in range(len(action.tokens)))
        found |= {str(part[1]) for part in said if part}
    return found


def so_many_of(reading: TextReading, action: Action, item: Ingredient, part: str) -> Range:
    """Returns the number of fruits from which an action takes a part [count]: 4 for “peel four of the limes”, half of the listed count for “juice half of them”.

    Returns the listed count, the same object, if the action gives no number.
    """
    words, tokens, whole = reading.words, action.tokens, item.amount.amount
    for quantity in action.quantities if item.amount.kind == "count" else ():
        takes = action.verb == part or _stands_before(reading, tokens, quantity.start, part)
        if takes and quantity.kind == "count" and quantity.amount.value <= whole.value and _means(reading, tokens[quantity.end :], item):
            share = words.at("shares", tokens, quantity.start) is not None
            return whole.times(quantity.amount.value) if share else quantity.amount
    said = words.phrases["shares"].within(tokens) if action.verb == part else None
    return whole.times(float(said[2])) if said and _means(reading, tokens[said[0] + said[1] :], item) else whole


def is_of_listed(reading: TextReading, action: Action, quantity: Quantity, named: Named) -> bool:
    """Returns True if a count in the method refers to listed whole fruit of which the action takes a part: “peel four of the limes” adds no further lime."""
    if quantity.kind != "count":
        return False
    keys = (named.key, fruit_of(str(named.key), reading.names.known))
    fruits = [item for item in reading.listed if item.key in keys and item.amount.kind == "count"]
    taken = ((item, so_many_of(reading, action, item, part)) for item in fruits for part in PARTS)
    return any(many is quantity.amount or (quantity.amount.value < 1.0 and many is not item.amount.amount) for item, many in taken)


def _stands_before(reading: TextReading, tokens: Sequence[Token], at: int, part: str) -> bool:
    """Returns True if the named part and “of” precede a position: “zest of” in “the zest of 4 of the limes”."""
    words = reading.words
    ends = at - 1 if at and tokens[at - 1].plain in words.words["of"] else 0
    hits = (words.at("part_words", tokens, begin) for begin in range(max(0, ends - 1), ends))
    return any(hit is not None and hit[1] == part for hit in hits)


def _means(reading: TextReading, tokens: Sequence[Token], item: Ingredient) -> bool:
    """Returns True if tokens begin with the fruit or with a pronoun for it: “limes”, “of the limes”, “of them”."""
    words, behind = reading.words.words, tokens[:_MOST_ARTICLE]
    them = len(behind) > 1 and behind[0].plain in words["of"] and behind[1].plain in words["pronouns"]
    return them or any(token.stem in item.called for token in behind)


def _becomes(reading: TextReading, item: Ingredient, part: str, pieces: Range) -> None:
    """Changes an ingredient from a count of fruit to the usual mass of a part of `pieces` fruits [g]. No change if the fruit lacks the part."""
    named = reading.part_of(item.named, part)
    if named is None or named.key is None:
        return
    amount = product(pieces, part_g(reading, item.key, part))
    item.named, item.key = named, named.key
    item.amount = Amount("mass", amount, f"the {part} of one", assumed=True)
    LineQuestions(reading).how_much(item, item.amount.unit, "count_of_fruit")


def cut_as_listed(reading: TextReading, actions: list[Action]) -> None:
    """Inserts a cut before the step of an ingredient that the list gives as already cut: “900 g pineapple, diced”."""
    for action in list(actions):
        if action.verb in _CUTS:
            continue
        words = reading.words.words["cut_words"]
        cut = [
            item
            for item in action.lines
            if reading.material(item.key).pieces and any(token.plain in words for token in tokens_of(item.text)) and not item.split
        ]
        if cut:
            action.lines[:] = [item for item in action.lines if item not in cut]
            made = Action("cut", cut[0].line, ())
            made.lines.extend(cut)
            actions.insert(actions.index(action), made)
