"""Materials that a step of the method names and the list does not hold: how much of them goes in is asked."""

from __future__ import annotations

from .action import Action
from .calling import Calling
from .doubts import Doubt
from .text_reading import TextReading

_GIVES_JUICE = ("fruit", "vegetable", "root", "leaf", "herb", "juice")
"""Kinds of material that are juice, or give some."""


def not_in_list(reading: TextReading, calling: Calling, action: Action) -> None:
    """Asks about a material that a step names and the list does not hold, where the step names nothing else."""
    if action.lines or action.verb not in ("combine", "off_heat", "dissolve", "strain"):
        return
    spoken = action.tokens[action.told_from :] if action.verb != "strain" else action.into
    if any(calling.speaks(spoken, item) for item in reading.listed):
        return
    for named in reading.names.mentions(spoken):
        kind = reading.material(named.key).kind if named.key else "water"
        words = {token.stem for token in spoken[named.start : named.end] if token.plain not in reading.words.words["part_words"]}
        if any(words <= item.called for item in reading.listed):
            # “Warm the ginger juice”: what came out of the ginger.
            continue
        if kind not in ("water", "dairy") and named.key not in {item.key for item in reading.listed}:
            _ask_how_much(reading, action, named.said)
            return
    if _adds_juice(reading, action):
        _ask_how_much(reading, action, "juice")


def _adds_juice(reading: TextReading, action: Action) -> bool:
    """Returns True for “+ juice” where the list holds nothing that gives any: only peels, say."""
    words = reading.words.words
    hits = (reading.words.at("part_words", action.tokens, at) for at in range(len(action.tokens)))
    part = next((hit[1] for hit in hits if hit), "")
    adds = action.word in words["add_words"] or action.tokens[0].plain == "+"
    return part == "juice" and adds and all(reading.material(item.key).kind not in _GIVES_JUICE for item in reading.listed)


def _ask_how_much(reading: TextReading, action: Action, said: str) -> None:
    text = reading.text[action.start : action.end]
    question = f"The method names {said}, which is not in the list: how much goes in?"
    reading.doubts.append(Doubt("not_in_list", action.line, text, question, (), action.start, action.end))
