"""Numbers in a row of tokens: in digits, in words, as fractions, ranges, dozens and halves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..base.ranges import Range
from .lexicon import Lexicon
from .tokens import Token

_TENS = 20.0
"""Smallest number that may follow an omitted “hundred”: “four twenty” is 420, “four ten” is not read so [-]."""


@dataclass(frozen=True, slots=True)
class Number:
    """One number that ends before the token at `end`. `other` is a second way to read its digits; `article` is “a”; `loose` is “a few”, “a couple”."""

    end: int
    amount: Range
    other: float | None = None
    article: bool = False
    loose: bool = False


class NumberReader:
    """Reads numbers in one language."""

    def __init__(self, words: Lexicon) -> None:
        self._words = words

    def length(self, section: str, tokens: Sequence[Token], position: int) -> int:
        """Returns how many tokens a word of a section takes at a position; 0 if none is there."""
        found = self._words.at(section, tokens, position)
        return found[0] if found else 0

    def ranged(self, tokens: Sequence[Token], position: int) -> Number | None:
        """Returns the number or the range of two that begins at a position; None if there is none."""
        opened = self.length("between", tokens, position)
        first = self.at(tokens, position + opened)
        if first is None:
            return None
        joint = (
            self.length("to", tokens, first.end)
            or self.length("or", tokens, first.end)
            or (opened and self.length("and", tokens, first.end))
        )
        if joint and not first.article:
            second = self.at(tokens, first.end + joint)
            if second and not second.article and second.amount.value > first.amount.value:
                low, high = first.amount.low, second.amount.high
                return Number(second.end, Range((first.amount.value + second.amount.value) / 2, low, high))
        # “3 g - 5 g”: the unit stands at both ends.
        return None if opened and first.article else first

    def at(self, tokens: Sequence[Token], position: int) -> Number | None:
        """Returns the number that begins at a position; None if there is none."""
        if position >= len(tokens):
            return None
        token = tokens[position]
        if token.number is not None:
            return self._figures(tokens, position)
        return self._in_words(tokens, position)

    def _figures(self, tokens: Sequence[Token], position: int) -> Number | None:
        numeral = tokens[position].number
        if numeral is None:
            return None
        value, other, end = numeral.value, numeral.other, position + 1
        times = end < len(tokens) and tokens[end].plain in ("x", "×", "*") and end + 1 < len(tokens) and tokens[end + 1].number
        if times:
            value, other, end = value * times.value, None, end + 2
        elif end < len(tokens) and tokens[end].plain in ("x", "×"):
            end += 1
        value, end = self._grouped(tokens, end, value)
        more = self.and_a_share(tokens, end)
        if more:
            value, end = value + more[0], more[1]
        return Number(end, Range.exact(value), other)

    def _grouped(self, tokens: Sequence[Token], end: int, value: float) -> tuple[float, int]:
        """Two dozen, three quarters: a number of groups or of shares."""
        group = self._words.at("groups", tokens, end) or self._words.at("fractions", tokens, end)
        # “2 half lemons” is no share of two.
        if group and not (value == 1.0 and group[1] == 1.0):
            return value * float(group[1]), end + group[0]
        return value, end

    def and_a_share(self, tokens: Sequence[Token], end: int) -> tuple[float, int] | None:
        """Returns the share of “one and a half”, “2 and three quarters”, and where it ends; None if there is none."""
        joint = self.length("and", tokens, end)
        if not joint:
            return None
        at = end + joint
        at += self.length("one", tokens, at)
        # “One and three quarters”
        numbers = self._words.at("numbers", tokens, at)
        share = self._words.at("fractions", tokens, at + numbers[0]) if numbers else None
        if numbers and share and float(numbers[1]) * float(share[1]) < 1.0:
            return float(numbers[1]) * float(share[1]), at + numbers[0] + share[0]
        share = self._words.at("fractions", tokens, at)
        return (float(share[1]), at + share[0]) if share else None

    def _in_words(self, tokens: Sequence[Token], position: int) -> Number | None:
        article = self.length("one", tokens, position)
        at = position + article
        several = self._words.at("several", tokens, at)
        if several and (article or tokens[at].plain not in self._words.words["approximately"]):
            return Number(at + several[0], Range(*map(float, several[1])), loose=True)
        share = self._words.at("fractions", tokens, at)
        if share:
            return self._of_one(tokens, at + share[0], float(share[1]))
        group = self._words.at("groups", tokens, at)
        if group:
            end = at + group[0]
            return Number(end + self.length("of", tokens, end), Range.exact(float(group[1])), loose=group[1] == 2)
        if article:
            return Number(at, Range.exact(1.0), article=True)
        value, end = self._spelled(tokens, at)
        if end == at:
            return None
        value, end = self._grouped(tokens, end, value)
        end = self._of_a(tokens, end) if value % 1 else end
        more = self.and_a_share(tokens, end)
        return Number(more[1], Range.exact(value + more[0])) if more else Number(end, Range.exact(value))

    def _of_one(self, tokens: Sequence[Token], end: int, value: float) -> Number:
        """Half a litre, half a dozen, a quarter of a cup."""
        end = self._of_a(tokens, end)
        group = self._words.at("groups", tokens, end)
        return Number(end + group[0], Range.exact(value * float(group[1]))) if group else Number(end, Range.exact(value))

    def _of_a(self, tokens: Sequence[Token], end: int) -> int:
        after = end + self.length("of", tokens, end)
        article = self.length("one", tokens, after)
        return after + article if article else end

    def _unsaid(self, current: float) -> float:
        """Returns the factor for a digit spoken before tens [-]: 100.0 in a language that omits “hundred” (“four fifty” is 450), else 1.0."""
        return 100.0 if 0 < current < 10 and self._words.words["unsaid"] else 1.0

    def _spelled(self, tokens: Sequence[Token], position: int) -> tuple[float, int]:
        """Returns (value, end) of a number in words: “two hundred and fifty”, “twenty-five”; the position itself if none is there."""
        total, current, at = 0.0, 0.0, position
        while at < len(tokens):
            # “twenty-five” is one token.
            values = [self._words.phrases["numbers"].at([*tokens[at : at + 1]], 0)]
            parts = tokens[at].plain.split("-")
            known = self._words.data["numbers"]
            if values[0] is None and len(parts) == 2 and all(part in known for part in parts):
                current, at = current * self._unsaid(current) + sum(known[part] for part in parts), at + 1
                continue
            joint = self.length("and", tokens, at) if at > position and current >= 100 else 0
            found = self._words.at("numbers", tokens, at + joint)
            if not found:
                break
            value = float(found[1])
            if value >= 100:
                current = max(current, 1.0) * value
            elif (current and current % 10 == 0 and current >= 20 and value < 10) or (current and current % 100 == 0):
                current += value
            elif self._unsaid(current) > 1.0 and _TENS <= value < 100 and value % 10 == 0:
                # “Four fifty”
                current = current * self._unsaid(current) + value
            elif current:
                break
            else:
                current = value
            at += joint + found[0]
        return total + current, at
