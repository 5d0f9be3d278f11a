"""Two actions of a method that are one step: “take it off the heat and add”, “put it in a pan and heat”, “peel and chop”."""

from __future__ import annotations

from collections.abc import Sequence

from ..written.quantities import Quantity
from ..written.tokens import Token
from .action import Action
from .clauses import joins
from .text_reading import TextReading
from .verbs import VerbAt

_HEATS = ("bring_to", "dissolve", "boil", "hold")
_TWICE = (
    ("wait", "cool"),
    ("wait", "wait"),
    ("wait", "steep"),
    ("wait", "infuse"),
    ("cool", "cool"),
    ("label", "label"),
    ("store", "store"),
    ("bottle", "bottle"),
)
"""Pairs of consecutive verbs that describe a single step: “leave until cool” is (wait, cool)."""
_OF_TOOLS, _MOST_TOOL = ("blend", "centrifuge", "crush"), 3
"""Verbs whose tool may be named before or after them, and the largest number of tokens before the tool in “using a stick blender” [count]."""
_PREPARES = ("peel", "wash", "core", "zest", "cut", "crush", "juice")
_ALONE = 2
"""Largest number of tokens of an action whose verb has no object [count]: “peel and …”."""


def speaks_of_things(reading: TextReading, action: Action) -> bool:
    """Returns True if an action names a material or says an amount of one."""
    return next(iter(reading.names.mentions(action.tokens)), None) is not None or any(
        q.kind in ("mass", "volume", "vague") for q in action.quantities
    )


def into_bottles(reading: TextReading, action: Action) -> bool:
    """Returns True if an action names no ingredient and fills several bottles: “pour into dasher bottles”. False for one jar, in which a preparation may continue."""
    words, said = reading.words.words, reading.words.words["bottle_words"]
    several = [at for at, token in enumerate(action.tokens) if token.plain in said and token.plain != token.stem]
    poured = any(token.plain in words["onto"] for at in several for token in action.tokens[max(0, at - 3) : at])
    # “In eine Tropfflasche füllen”
    parts = tuple(said) if "compounds" in reading.words.data and action.word in words["fills"] else ()
    filled = any(token.plain.endswith(parts) for token in action.tokens) if parts else False
    return (poured or filled) and not speaks_of_things(reading, action)


def throws_away(reading: TextReading, action: Action) -> bool:
    """Returns True for “chuck the fruit”, which names no place to put it; not for “chuck in the salt”."""
    words = reading.words.words
    placed = any(token.plain in words["in_words"] or token.plain in words["onto"] for token in action.tokens)
    return action.verb == "combine" and action.word in words["throw_words"] and not placed and not action.quantities


def begins_with(reading: TextReading, section: str, action: Action) -> bool:
    """Returns True if a word of the verb of an action begins as one of a section of the lexicon does: “soaked” as “soak”."""
    beginnings = tuple(reading.words.words[section])
    return any(word.startswith(beginnings) for word in action.word.split())


def repeats(reading: TextReading, sentence: Sequence[Token], before: VerbAt | None, verb: VerbAt) -> bool:
    """Returns True if a verb repeats the one before it as its tool or place: “purée in a blender”, “warm in a water bath”."""
    if before is None:
        return False
    between = sentence[before.end : verb.start]
    if before.name == verb.name == "combine" and all(token.plain in reading.words.words["pronouns"] for token in between):
        # “Put everything in a jar”, “tip it all in a pan”
        return True
    within = bool(between) and not joins(between[-1], reading.words.words) and before.name in ("simmer", "dissolve", "bring_to")
    if verb.name == "hold" and (not between or within) and before.name not in ("combine", "nothing"):
        # “Warm in a water bath at 62 °C”, “cook the fruit sous vide at 60 °C”
        return True
    if before.name != verb.name or verb.name not in _OF_TOOLS:
        return False
    tool = sentence[0].plain in reading.words.words["lead"] and before.start <= _MOST_TOOL
    joint = any(joins(token, reading.words.words) for token in between)
    return (tool or not joint) and next(reading.names.mentions(between), None) is None


def joined(reading: TextReading, last: Action, action: Action, *, same: bool) -> bool:
    """Joins an action to the one before where both are one step; returns False where they are two. `same`: they stand in one sentence."""
    if last.announced and last.verb == action.verb and not same and not speaks_of_things(reading, last):
        # “Leave 10 minutes before straining. Strain through a cloth.” is one straining.
        _merge(last, action, action.verb)
        return True
    if last.verb == action.verb == "label":
        # “Label. Date.”
        return True
    if begins_with(reading, "soak_begins", last) and begins_with(reading, "drain_begins", action):
        # What was soaked stays, its water goes: nothing is strained off that counts.
        _extend(last, action)
        return True
    verb = _off_the_heat(reading, last, action, same=same) or (_one_step(reading, last, action) if same else None)
    if verb is None:
        return False
    _merge(last, action, verb)
    return True


def _off_the_heat(reading: TextReading, last: Action, action: Action, *, same: bool) -> str | None:
    """Returns the verb of “take it off the heat” and what is done with it then; None where one is not about the other."""
    silent = not speaks_of_things(reading, action)
    if action.verb == "off_heat" and same and last.verb in ("wait", "steep", "infuse") and silent:
        return last.verb
    if action.verb == "off_heat" and same and last.verb == "combine" and silent:
        # “Add sugar off the heat”
        return "off_heat"
    alone = last.verb == "off_heat" and not last.puts_in and not speaks_of_things(reading, last) and last.minutes is None
    if alone and (same or action.verb in ("combine", "wait", "steep", "cool", "infuse", "off_heat")):
        return "off_heat" if action.verb == "combine" else action.verb
    return None


def _one_step(reading: TextReading, last: Action, action: Action) -> str | None:
    """Returns the verb of two actions of one sentence that are one step: “peel and chop the ginger”, “put it in a pan and heat”; None for two steps."""
    verbs, silent = (last.verb, action.verb), not speaks_of_things(reading, action)
    if last.verb in _PREPARES and action.verb in _PREPARES and _only_prepares(reading, last) and verbs != ("cut", "juice"):
        return "cut" if "cut" in verbs else action.verb
    if last.verb == "combine" and action.verb in _HEATS and last.word in reading.words.words["put_words"] and silent:
        return action.verb
    if (
        action.verb == "store"
        and last.verb in ("steep", "wait", "infuse", "macerate")
        and last.minutes is not None
        and len(action.tokens) <= _ALONE
    ):
        # “Cold brew 8 h, fridge”: where it stands meanwhile.
        return last.verb if action.word in reading.words.words["places"] else None
    if verbs == ("macerate", "wait") and last.minutes is None and begins_with(reading, "cover_words", last):
        # “Cover with sugar, leave overnight”
        return "macerate"
    if verbs == ("strain", "press"):
        action.pressed = action.pressed is not False
        return "strain"
    if last.verb == "agar" and action.verb in ("strain", "filter", "drip", "press"):
        return "agar"
    if verbs in _TWICE and last.minutes is None:
        return action.verb
    # “Leave to settle 30 min, then rack off”
    again = verbs in (("combine", "combine"), ("settle", "settle")) and silent and action.minutes is None
    return action.verb if again else None


def _only_prepares(reading: TextReading, action: Action) -> bool:
    """Returns True if an action says no more than what is done to a fruit: the “peel, core and” of “peel, core and slice the pineapple”."""
    words = reading.words
    said = [at for at, token in enumerate(action.tokens) if token.kind == "word" and token.plain not in words.words["and"]]
    verbs = [words.at("verbs", action.tokens, at) for at in said]
    return len(action.tokens) <= _ALONE or all(verb is not None and verb[1] in _PREPARES for verb in verbs)


def _extend(last: Action, action: Action) -> None:
    last.tokens = [*last.tokens, *action.tokens]
    last.pressed = action.pressed if action.pressed is not None else last.pressed


def _merge(last: Action, action: Action, verb: str) -> None:
    offset = len(last.tokens)
    moved = [Quantity(q.start + offset, q.end + offset, q.kind, q.amount, q.unit, q.other, q.imprecise) for q in action.quantities]
    _extend(last, action)
    last.verb, last.word = verb, action.word or last.word
    last.minutes = action.minutes or last.minutes
    last.celsius = action.celsius or last.celsius
    last.degrees = action.degrees or last.degrees
    last.everything = last.everything or action.everything
    last.but, last.into = action.but or last.but, action.into or last.into
    last.quantities = [*last.quantities, *moved]
    last.hot, last.lid = last.hot or action.hot, action.lid or last.lid
    last.puts_in = last.puts_in or action.puts_in
