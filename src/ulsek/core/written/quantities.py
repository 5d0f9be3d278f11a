"""Quantities in a row of tokens: amounts, times, temperatures, shares, each with its range and its place."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ..base.ranges import Range
from ..base.units import METRIC, Locale, unit_size
from ..base.vocabulary import aliases, plain
from .lexicon import LANGUAGES, Lexicon
from .number_words import Number, NumberReader
from .row_memo import RowMemo
from .tokens import Token

Kind = Literal["mass", "volume", "count", "vague", "parts", "percent", "minutes", "celsius", "degrees", "brix", "ph"]
MEASURED: tuple[Kind, ...] = ("mass", "volume")
AMOUNTS: tuple[Kind, ...] = ("mass", "volume", "count", "vague", "parts", "percent")
_BEGINNINGS = ("approximately", "waits", "between", "several", "fractions", "groups", "one", "numbers", "vague", "widens")
"""Sections whose words may begin a quantity."""
ALONE = frozenset({"pinch", "handful", "splash", "dash", "squeeze", "knob", "thumb", "glug", "sprig", "bunch", "bit"})
"""Vague words that are one of it where no number stands before them."""
_ALONE_OF = frozenset({"strip", "slice", "wedge", "coin", "stalk"})
"""Vague words that are one of it where “of” follows: “strip of lime peel”."""
_ABOUT, _WIDENED = 0.10, 0.20
"""How far “about” and “heaping” reach to either side, as a share; house experience."""
_DECIMALS = 3
"""Digits that may stand behind a unit, at most: “1kg500” [count]."""
_BEFORE_ONE, _WHOLE_WORD = frozenset(",.;:+"), 4
"""Marks behind which “kilo of honey” is one kilo, and letters of a unit that may stand so [count]."""
LENGTHS = ("cm", "mm", "inch")
"""Units of lengths."""
_MOST = 1e12
"""A larger number is no amount."""
_LEAST_HEAT, _MOST_CUPS = 20.0, 12.0
"""“20 C” is a temperature, “2 c” are cups: from the one number on, up to the other."""


@dataclass(frozen=True, slots=True)
class Quantity:
    """One quantity in the tokens from `start` up to `end`.

    `amount` is in g, mL, pieces, parts, %, min, °C or °Bx, as `kind` says; `degrees` are those of nobody knows which scale; for `vague` it counts what `unit` names
    (a handful, a sprig). `other` is a second way to read its number, in the same unit.
    """

    start: int
    end: int
    kind: Kind
    amount: Range
    unit: str
    other: float | None = None
    imprecise: bool = False


class QuantityReader:
    """Reads quantities in one language; `locale` decides the size of cups, spoons, pints and fluid ounces."""

    def __init__(self, words: Lexicon, locale: Locale) -> None:
        self._words, self._locale, self._numbers = words, locale, NumberReader(words)
        self._units = {_packed(name): key for name, key in aliases("units").items()} | {
            _packed(name): key for name, key in words.data.get("units", {}).items()
        }

        self._unit_begins = {name[:length] for name in (*self._units, "T") for length in range(1, len(name) + 1)}
        self._memo = RowMemo(lambda tokens: tuple(self._each(tokens)))
        # Most words begin no quantity: one look tells which.
        self._begins = words.first_words(_BEGINNINGS) | {"ph"} | {name for name in self._units if len(name) >= _WHOLE_WORD}

    def all(self, tokens: Sequence[Token]) -> list[Quantity]:
        """Returns the quantities in the tokens, from left to right, none within another."""
        return list(self._memo.of(tokens))

    def _each(self, tokens: Sequence[Token]) -> Iterator[Quantity]:
        position = 0
        while position < len(tokens):
            found = self.at(tokens, position)
            if found:
                yield found
                position = found.end
            else:
                position += 1

    def at(self, tokens: Sequence[Token], start: int) -> Quantity | None:
        """Returns the quantity that begins at a position; None if there is none."""
        token = tokens[start] if start < len(tokens) else None
        if token is None or not (token.number or token.stem in self._begins or token.plain in self._begins or "-" in token.plain):
            return None
        position, about = start, False
        near = self._words.at("approximately", tokens, position)
        if near:
            position, about = position + near[0], True
            if position + 1 < len(tokens) and tokens[position].plain == "." and tokens[position + 1].number is not None:
                # “ca. 600 g”
                position += 1
        if near and self._words.at("minutes", tokens, position):
            # “Another day”
            each = float(self._words.at("minutes", tokens, position)[1])  # type: ignore[index]
            if tokens[start].plain in self._words.words["one_more"]:
                return Quantity(start, position + 1, "minutes", Range.exact(each), "time")
        wait = self._words.at("waits", tokens, start)
        if wait and not self._numbers.length("of", tokens, start + wait[0]):
            return Quantity(start, start + wait[0], "minutes", Range(*map(float, wait[1])), "wait", imprecise=True)
        if self._acidity(tokens, start):
            number = next(
                (
                    n
                    for at in range(start + 1, min(start + 6, len(tokens)))
                    if tokens[at - 1].kind == "word" and (n := self._numbers.at(tokens, at))
                ),
                None,
            )
            if number:
                return Quantity(start, number.end, "ph", number.amount, "pH")
        number = self._numbers.ranged(tokens, position)
        if number is None and about:
            number, about = self._numbers.ranged(tokens, start), False
        if number is None:
            return self._one_of(tokens, start)
        if about:
            value = number.amount
            number = replace(
                number, amount=Range(value.value, min(value.low, value.value * (1 - _ABOUT)), max(value.high, value.value * (1 + _ABOUT)))
            )
        found = self._with_unit(tokens, start, number)
        if found is None or not math.isfinite(found.amount.high) or found.amount.high > _MOST or found.amount.value <= 0:
            return None
        return found

    def _one_of(self, tokens: Sequence[Token], start: int) -> Quantity | None:
        """“Pinch of salt”: one of it, though no number stands there."""
        at = start
        while (skipped := self._numbers.length("widens", tokens, at)) and at - start < 2:
            at += skipped
        begins = at < len(tokens) and (
            start == 0
            or tokens[start - 1].plain in _BEFORE_ONE
            or tokens[start - 1].plain in self._words.words["definite"]
            or self._numbers.length("and", tokens, start - 1) > 0
        )
        unit, end = self._unit(tokens, at, 1.0) if begins and len(tokens[at].plain) >= _WHOLE_WORD else ("", at)
        if unit and self._numbers.length("of", tokens, end):
            # “Kilo of honey, litre of water”, “with the litre of fresh water”
            return self._measured(tokens, start, end, Number(at, Range.exact(1.0)), Number(at, Range.exact(1.0)), unit)
        vague = self._words.at("vague", tokens, at)
        if (
            vague
            and self._words.at("part_words", tokens, at)
            and self._numbers.at(tokens, at + vague[0] + self._numbers.length("of", tokens, at + vague[0]))
        ):
            # “Le zeste de 4 citrons” is a part of them.
            return None
        if vague and (vague[1] in ALONE or (vague[1] in _ALONE_OF and self._numbers.length("of", tokens, at + vague[0]))):
            return Quantity(start, at + vague[0], "vague", Range.exact(1.0), str(vague[1]), imprecise=True)
        return None

    @staticmethod
    def _acidity(tokens: Sequence[Token], position: int) -> bool:
        return tokens[position].plain == "ph" and position + 1 < len(tokens)

    def _with_unit(self, tokens: Sequence[Token], start: int, number: Number) -> Quantity | None:
        end, amount = number.end, number.amount
        bare = self._warmth(tokens, start, number) or self._time(tokens, start, number) or self._relative(tokens, start, number)
        if bare:
            return bare
        sized = self._sized(tokens, start, number)
        if sized:
            return sized
        widened = end
        while (skipped := self._numbers.length("widens", tokens, widened)) and widened - end < 4:
            widened += skipped
        hyphen = (
            end + 1 < len(tokens) and tokens[end].plain == "-" and tokens[end].start == tokens[end - 1].end == tokens[end + 1].start - 1
        )
        for at in (end, widened, *((end + 1,) if hyphen else ())):
            unit, after = self._unit(tokens, at, amount.value)
            if unit:
                if at > end:
                    amount = _wider(amount)
                return self._measured(tokens, start, after, number, replace(number, amount=amount), unit)
            vague = self._words.at("vague", tokens, at)
            if vague and self._words.at("part_words", tokens, at) and number.article:
                return None
            if vague:
                return Quantity(start, at + vague[0], "vague", amount, str(vague[1]), imprecise=True)
        # “A lemon” is one; “a little while” is nothing.
        return Quantity(start, end, "count", amount, "each", number.other, imprecise=number.loose)

    def _sized(self, tokens: Sequence[Token], start: int, number: Number) -> Quantity | None:
        """Returns the total length of “2 (4-inch) pieces ginger”, or the count of “two 3-inch strips of peel”; None if no length follows the number."""
        at = number.end
        bracket = at + 1 < len(tokens) and tokens[at].plain == "("
        digits = at + bracket < len(tokens) and tokens[at + bracket].number is not None
        length = self._numbers.at(tokens, at + bracket) if digits else None
        if length is None or length.end >= len(tokens):
            return None
        at = length.end + (tokens[length.end].plain == "-")
        unit = self._words.at("vague", tokens, at)
        if not unit or unit[1] not in LENGTHS:
            return None
        end = at + unit[0]
        long = tokens[end - 1].stem in self._words.words["long_pieces"]
        end += bracket and end < len(tokens) and tokens[end].plain == ")"
        if long or (end < len(tokens) and tokens[end].stem in self._words.words["long_pieces"]):
            amount = number.amount.times(length.amount.value)
            return Quantity(start, end + (not long), "vague", amount, str(unit[1]), imprecise=True)
        vague = self._words.at("vague", tokens, end)
        return Quantity(start, end + vague[0], "vague", number.amount, str(vague[1]), imprecise=True) if vague else None

    def _warmth(self, tokens: Sequence[Token], start: int, number: Number) -> Quantity | None:
        """°C, °F, degrees of nobody knows which, °Bx."""
        end = number.end
        degrees = 0
        while end + degrees < len(tokens) and tokens[end + degrees].plain in self._words.words["degrees"]:
            degrees += 1
        at = end + degrees
        brix = self._numbers.length("brix", tokens, at)
        if brix:
            return Quantity(start, at + brix, "brix", number.amount, "brix")
        for section in ("celsius", "fahrenheit"):
            length = self._numbers.length(section, tokens, at)
            # “At 4 C”
            led = start > 0 and tokens[start - 1].plain in self._words.words["at_words"]
            likely = degrees or led or number.amount.value >= _LEAST_HEAT or (length and len(tokens[at].plain) > 1)
            if length and likely and not number.article:
                amount = number.amount
                if section == "fahrenheit":
                    amount = Range(*((value - 32.0) / 1.8 for value in (amount.value, amount.low, amount.high)))
                return Quantity(start, at + length, "celsius", amount, section) if amount.value > 0 else None
        if degrees and self._words.language != LANGUAGES[0]:
            # Where no recipe is written in °F.
            return Quantity(start, at, "celsius", number.amount, "celsius")
        return Quantity(start, at, "degrees", number.amount, "degrees") if degrees else None

    def _time(self, tokens: Sequence[Token], start: int, number: Number) -> Quantity | None:
        # “20 more minutes”
        after = number.end + self._numbers.length("further_words", tokens, number.end)
        found = self._words.at("minutes", tokens, after)
        if not found:
            return None
        each, end = float(found[1]), after + found[0]
        if self._words.at("ahead_words", tokens, end):
            # “Make this a day ahead” waits for nothing.
            return None
        amount = number.amount.times(each)
        more = self._numbers.and_a_share(tokens, end)
        if more:
            return Quantity(start, more[1], "minutes", Range.exact(amount.value + more[0] * each), "time")
        # “1 h 30 min”, “an hour and 20 minutes”: a smaller time adds to it.
        at = end + self._numbers.length("and", tokens, end)
        second = self._numbers.at(tokens, at)
        smaller = self._words.at("minutes", tokens, second.end) if second and not second.article else None
        if second and smaller and float(smaller[1]) < each:
            added = second.amount.value * float(smaller[1])
            return Quantity(
                start, second.end + smaller[0], "minutes", Range(amount.value + added, amount.low + added, amount.high + added), "time"
            )
        # “3 g of it for 5 minutes - 10 minutes”: the unit stands at both ends of a range.
        joint = self._numbers.length("to", tokens, end)
        last = self._numbers.at(tokens, end + joint) if joint else None
        same = self._words.at("minutes", tokens, last.end) if last else None
        if last and same and last.amount.value * float(same[1]) > amount.value:
            high = last.amount.value * float(same[1])
            return Quantity(start, last.end + same[0], "minutes", Range((amount.value + high) / 2, amount.low, high), "time")
        return Quantity(start, end, "minutes", amount, "time", imprecise=number.loose)

    def _relative(self, tokens: Sequence[Token], start: int, number: Number) -> Quantity | None:
        end = number.end
        percent = self._numbers.length("percent", tokens, end)
        if percent:
            after, basis = end + percent, "%"
            said = "".join(token.plain for token in tokens[after : after + 3])
            if said in ("w/w", "w/v", "v/v"):
                after, basis = after + 3, said
            return Quantity(start, after, "percent", number.amount, basis)
        parts = self._numbers.length("parts_words", tokens, end)
        return Quantity(start, end + parts, "parts", number.amount, "parts") if parts else None

    def _unit(self, tokens: Sequence[Token], at: int, value: float) -> tuple[str, int]:
        """Returns (unit, end) of the longest unit at a position; ("", `at`) if there is none."""
        # Most words begin no unit: one look tells which.
        if at >= len(tokens) or (tokens[at].plain not in self._unit_begins and tokens[at].text not in self._unit_begins):
            return "", at
        for length in range(min(4, len(tokens) - at), 0, -1):
            said = "".join(token.plain for token in tokens[at : at + length])
            raw = tokens[at].text
            # “T” and “t” are spoons of two sizes.
            unit = self._words.data.get("units", {}).get(raw) if length == 1 and raw in ("T", "t") else self._units.get(said)
            if not unit or unit in ("each", "bar spoon", "shot", "pinch") or (unit == "cup" and said == "c" and value > _MOST_CUPS):
                continue
            end = at + length
            # “2 tbsp.” and “4 oz.”: the point belongs to the unit.
            if end < len(tokens) and tokens[end].plain == "." and len(said) < 6 and end + 1 < len(tokens):
                end += 1
            return str(unit), end
        return "", at

    def _tenths(self, tokens: Sequence[Token], end: int, number: Number) -> float:
        """Returns the tenths of the unit that a spoken digit after “a litre” adds [fraction of the unit]: 0.8 for “a litre eight”. 0.0 if no such digit follows."""
        if not number.article or not self._words.words["unsaid"] or end >= len(tokens) or tokens[end].kind != "word":
            return 0.0
        said = self._words.data["numbers"].get(tokens[end].plain, 0.0)
        behind = tokens[end + 1] if end + 1 < len(tokens) else None
        alone = behind is None or behind.kind == "mark" or behind.plain in self._words.words["of"]
        return float(said) / 10.0 if 0 < said < 10 and alone else 0.0

    def _measured(self, tokens: Sequence[Token], start: int, end: int, number: Number, widened: Number, unit: str) -> Quantity | None:
        dimension, each = unit_size(unit, self._locale)
        amount, other = widened.amount.times(each), number.other
        more = self._numbers.and_a_share(tokens, end)
        if more:
            amount, end = Range(*(value + more[0] * each for value in (amount.value, amount.low, amount.high))), more[1]
        tenths = self._tenths(tokens, end, number) or _behind_its_unit(tokens, end, unit)
        if tenths:
            return Quantity(start, end + 1, dimension, Range(*(v + tenths * each for v in (amount.value, amount.low, amount.high))), unit)
        # “1 lb 4 oz”, “2 tbsp plus 1 tsp”: a smaller unit of the same kind adds to it.
        at = end + self._numbers.length("and", tokens, end)
        second = self._numbers.at(tokens, at)
        if second and not second.article:
            smaller, after = self._unit(tokens, second.end, second.amount.value)
            kind, size = unit_size(smaller, self._locale) if smaller else ("", 0.0)
            same_system = (unit in METRIC) == (smaller in METRIC)
            if smaller and kind == dimension and same_system and size < each and second.amount.value * size < each:
                added = second.amount.value * size
                return Quantity(start, after, dimension, Range(*(v + added for v in (amount.value, amount.low, amount.high))), unit)
        joint = self._numbers.length("to", tokens, end)
        last = self._numbers.at(tokens, end + joint) if joint else None
        if last and not last.article:
            same, after = self._unit(tokens, last.end, last.amount.value)
            if same and unit_size(same, self._locale)[0] == dimension:
                high = last.amount.value * unit_size(same, self._locale)[1]
                if high > amount.value:
                    return Quantity(start, after, dimension, Range((amount.value + high) / 2, amount.low, high), unit)
        return Quantity(start, end, dimension, amount, unit, None if other is None else other * each)


def _behind_its_unit(tokens: Sequence[Token], end: int, unit: str) -> float:
    """Returns the fraction of a unit that is written as digits directly after the unit [0 to 1]: 0.5 for “1kg500” and “1L5”; 0.0 if no digits follow."""
    digits = tokens[end] if end < len(tokens) and tokens[end].start == tokens[end - 1].end else None
    glued = digits is not None and unit in ("kg", "l") and digits.text.isdigit() and len(digits.text) <= _DECIMALS
    return int(digits.text) / 10.0 ** len(digits.text) if digits is not None and glued else 0.0


def _packed(name: str) -> str:
    """Returns the name of a unit without its spaces, for comparison: “fl. oz” is “fl.oz”."""
    return plain(name).replace(" ", "")


def _wider(amount: Range) -> Range:
    return Range(amount.value, min(amount.low, amount.value * (1 - _WIDENED)), max(amount.high, amount.value * (1 + _WIDENED)))
