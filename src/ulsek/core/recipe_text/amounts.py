"""Written amounts: what a line of a recipe says of how much, and where it may be read two ways. The original text is always kept."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.units import Locale, Quantity, parse_quantity, read_number
from ..base.vocabulary import aliases
from ..safety.shipped_rules import kitchen_words

Words = Mapping[str, Mapping[str, Any]]
Kind = Literal["mass", "volume", "count", "parts", "percent", "state", "missing"]

_NUMBER = r"(?:\d+\s+\d+\s*/\s*\d+|\d+\s*/\s*\d+|\d*\s*[½⅓⅔¼¾⅛⅜⅝⅞⅕]|\d+(?:[ \u00a0\u202f]\d{3})*(?:[.,]\d+)?)"
_RANGE = re.compile(
    rf"^(?P<about>about|around|approx\.?|roughly|circa|ca\.?|~)?\s*(?P<low>{_NUMBER})\s*(?:-|–|—|to)\s*(?P<high>{_NUMBER})\s*(?P<rest>.*)$",
    re.IGNORECASE,
)
_ONE = re.compile(rf"^(?P<about>about|around|approx\.?|roughly|circa|ca\.?|~)?\s*(?P<number>{_NUMBER})\s*(?P<rest>.*)$", re.IGNORECASE)
_LOOSE = re.compile(
    r"^(?:a|an|one|some|few|a few|several)\s+(?:(?:good|large|small|big|generous|heaped|heaping)\s+)?(?P<rest>.*)$", re.IGNORECASE
)
_WIDENS = re.compile(r"^(?:heaping|heaped|packed|level|scant|generous)\s+", re.IGNORECASE)
_ABOUT, _HEAPED = 0.10, 0.20
"""How far “about” and “heaping” reach either way; house experience."""


@dataclass(frozen=True, slots=True)
class Written:
    """An amount as it was written: its kind, how much with its range (g, mL, pieces, parts, %), the unit's own word, and the text behind it."""

    kind: Kind
    amount: Range
    unit: str
    text: str
    rest: str
    imprecise: bool = False


def _units() -> Mapping[str, str]:
    return aliases("units")


def _unit_at(text: str) -> tuple[str, str]:
    """(unit key, what is left) where a text begins with a unit; ("", text) where it does not. The longest word wins: "fl oz" before "fl"."""
    words = text.split()
    for length in (3, 2, 1):
        if len(words) < length:
            continue
        candidate = " ".join(words[:length]).casefold().rstrip(".,")
        if candidate in _units() and not (length == 1 and candidate == "whole"):
            return _units()[candidate], " ".join(words[length:])
    glued = re.match(r"^(g|kg|mg|ml|cl|dl|l|oz|lb)\b\.?\s*(.*)$", text, re.IGNORECASE)
    return (_units()[glued[1].casefold()], glued[2]) if glued else ("", text)


def _sized(low: str, best: str, high: str, unit: str, locale: Locale) -> tuple[Quantity, Range]:
    middle = parse_quantity(f"{best} {unit}", locale)
    ends = [parse_quantity(f"{end} {unit}", locale).value for end in (low, high)]
    return middle, Range(middle.value, min(*ends, middle.value), max(*ends, middle.value))


def _imprecise(text: str, times: float, whole: str, words: Words) -> Written | None:
    """A handful, a splash: the house's value with its range."""
    for word, house in words.items():
        found = re.match(rf"^{word}(?:s|es|fuls?)?\b\s*(?:of\s+)?(.*)$", text, re.IGNORECASE)
        if found:
            amount = Range(house["value"] * times, house["low"] * times, house["high"] * times)
            return Written("mass" if house["unit"] == "g" else "volume", amount, word, whole, found[1], imprecise=True)
    return None


def read_written(text: str, locale: Locale = "metric", words: Words | None = None) -> Written:
    """The amount that a line begins with, and what stands behind it.

    "1 1/2 cups sugar", "2-3 kumquats", "about 200 g honey", "a handful of birch tips", "2 parts water", "3 % citric acid", "some fennel". Nothing is refused:
    what has no amount is `missing`. `words` are what a handful and a splash are in this house [g or mL, with their ranges].
    """
    whole, words = text.strip(), kitchen_words()["words"] if words is None else words
    ranged, one = _RANGE.match(whole), _ONE.match(whole)
    if ranged:
        low, high = read_number(ranged["low"]), read_number(ranged["high"])
        return _with_unit(whole, ranged["rest"], Range((low + high) / 2.0, low, high), locale, words)
    if one:
        number = read_number(one["number"])
        half = _ABOUT * number if one["about"] else 0.0
        return _with_unit(whole, one["rest"], Range(number, number - half, number + half), locale, words)
    loose = _LOOSE.match(whole)
    rest = loose["rest"] if loose else whole
    found = _imprecise(rest, 1.0, whole, words)
    if found:
        return found
    if loose and whole.casefold().startswith(("a ", "an ", "one ")):
        unit, left = _unit_at(rest)
        if unit:
            return _with_unit(whole, rest, Range.exact(1.0), locale, words)
        return Written("missing", Range.exact(0.0), "", whole, left)
    return Written("missing", Range.exact(0.0), "", whole, rest)


def _with_unit(whole: str, rest: str, number: Range, locale: Locale, words: Words) -> Written:
    value, low, high = number.value, number.low, number.high
    widened = _WIDENS.match(rest)
    if widened:
        rest = rest[widened.end() :]
        low, high = min(low, value * (1 - _HEAPED)), max(high, value * (1 + _HEAPED))
    vague = _imprecise(rest, value, whole, words)
    if vague:
        return vague
    parts = re.match(r"^parts?\b\s*(.*)$", rest, re.IGNORECASE)
    if parts:
        return Written("parts", Range(value, low, high), "parts", whole, parts[1])
    percent = re.match(r"^(?:%|percent|per cent)\s*(?P<basis>w/w|w/v|v/v)?\s*(?P<rest>.*)$", rest, re.IGNORECASE)
    if percent:
        return Written("percent", Range(value, low, high), percent["basis"] or "%", whole, percent["rest"])
    unit, left = _unit_at(rest)
    if not unit or unit == "each":
        return Written("count", Range(value, low, high), "each", whole, left or rest)
    try:
        quantity, amount = _sized(f"{low:g}", f"{value:g}", f"{high:g}", unit, locale)
    except Refusal:
        return Written("missing", Range.exact(0.0), unit, whole, left)
    return Written("mass" if quantity.dimension == "mass" else "volume", amount, unit, whole, left)


def sized(written: Written, piece_g: Range) -> Written | None:
    """A count of small or large pieces as grams [g], when it is one: the mean piece times what the house's word for the size says, and its range.

    "2 large kumquats" at 15 g each: 39 g, 26 to 54. None where no size is named.
    """
    for word, times in kitchen_words()["sizes"].items():
        found = re.match(rf"^{word}\b(?:[\s-]*sized)?\s+(.*)$", written.rest, re.IGNORECASE)
        if written.kind == "count" and found:
            pieces, each = written.amount, piece_g.value
            grams = Range(pieces.value * each * times[0], pieces.low * each * times[1], pieces.high * each * times[2])
            return Written("mass", grams, word, written.text, found[1], imprecise=True)
    return None
