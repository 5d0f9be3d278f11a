"""Titles: which row, or which beginning of one, names what a text makes."""

from __future__ import annotations

from collections.abc import Sequence

from ..written.quantities import AMOUNTS, MEASURED, Quantity
from ..written.tokens import Token
from .claim_rows import ClaimRows
from .rows import MOST_TOKENS, sentences
from .text_reading import TextReading
from .verbs import VerbFinder

_MOST_TITLE = 10
"""Largest number of words in a line that is read as a title [count]."""
_LEAST_AMOUNT = 10
"""Number at the end of a line from which it is an amount and numbers no recipe: “sugar 400”."""


class Titles:
    """Tells titles from lines of the list and sentences of the method."""

    def __init__(self, reading: TextReading, verbs: VerbFinder, told_of: ClaimRows) -> None:
        self._words, self._quantities, self._knows, self._verbs = reading.words, reading.quantities, reading.knows, verbs
        self._told_of, self._mentions = told_of, reading.names.mentions

    def of(self, tokens: list[Token], *, more: bool, below: Sequence[Token] = (), apart: bool = False) -> tuple[list[Token], list[Token]]:
        """Returns (title, what follows it in its line): the first line, or its first sentence, without amounts and verbs. `below` is the next row;
        `apart`: an empty line stands between."""
        if len(tokens) > MOST_TOKENS:
            return self._first_sentence(tokens)
        claimed = self._before_claim(tokens) if more else 0
        sized = (
            more
            and not claimed
            and (self._is_for_so_much(tokens) or self._is_strength(tokens, below) or (apart and self._is_batch(tokens, below)))
        )
        if sized:
            return tokens, []
        cut = self._before_colon(tokens) or claimed
        if cut:
            return tokens[:cut], [token for token in tokens[cut:] if token.plain not in ":-–—" or token is not tokens[cut]]
        return (tokens, []) if more and self.is_title(tokens) else self._first_sentence(tokens)

    def made_for(self, tokens: Sequence[Token]) -> tuple[int, int] | None:
        """Returns (start, end) [token positions] of the name in “for a litre of lime oleo: …” and “to make 2 litres of ginger cordial, …”; None for other rows.

        Returns None if the name is an ingredient: “for a litre of juice, 500 g of sugar”.
        """
        words = self._words.words
        at = next((n for n, token in enumerate(tokens) if token.plain not in words["fillers"] and token.plain != ","), 0)
        lead = self._words.at("makes_so_much", tokens, at)
        size = self._quantities.at(tokens, at + lead[0]) if lead else None
        if size is None or size.kind not in MEASURED:
            return None
        begin = size.end + (size.end < len(tokens) and tokens[size.end].plain in words["of"])
        ends = (
            n
            for n in range(begin, min(len(tokens), begin + _MOST_TITLE))
            if tokens[n].plain in ":,–—" or tokens[n].plain in words["persons"]
        )
        end = next(ends, begin)
        name = tokens[begin:end]
        # A juice, a honey is a material as well as what is made.
        made = any(token.plain in words["preps"] and token.plain not in words["not_preps"] for token in name)
        if not name or not (made or (tokens[end].plain == ":" and not self._knows(name))) or self._verbs.first(name) is not None:
            return None
        return begin, end

    def _is_for_so_much(self, tokens: Sequence[Token]) -> bool:
        """Returns True for “For 2 L cold brew concentrate”: a title with its batch."""
        made_for = self._words.words["made_for"]
        size = self._quantities.at(tokens, 1) if len(tokens) > 1 and tokens[0].plain in made_for else None
        last = self.measures(tokens)[-1:]
        if last and last[0].end == len(tokens) and last[0].start > 1 and tokens[last[0].start - 1].plain in made_for:
            # “Base syrup for 5 L”
            size = last[0] if self._words.says("preps", tokens[: last[0].start]) else size
        return size is not None and size.kind in MEASURED and len(self.measures(tokens)) == 1 and self._verbs.first(tokens) is None

    def _before_colon(self, tokens: Sequence[Token]) -> int:
        """Where “Almond syrup: 250 g almonds, 500 g water …” parts; 0 for “Honey: 250 g”, which is a line of the list."""
        colon = next((at for at, token in enumerate(tokens[:_MOST_TITLE]) if token.plain == ":"), 0)
        dash = next((at for at, token in enumerate(tokens[:_MOST_TITLE]) if token.plain in "–—"), 0)
        if dash and not colon and self._words.says("preps", tokens[:dash]) and len(self.measures(tokens[dash:])) > 1:
            # “Tonic syrup — 500 g water, 500 g sugar”
            return dash if not self.measures(tokens[:dash]) else 0
        before = self.measures(tokens[:colon]) if colon else []
        # “Saline 20 %: 20 g salt, 80 g water”
        strength = len(before) == 1 and before[0].kind == "percent" and len(self.measures(tokens[colon:])) > 1
        if not colon or (before and not strength) or tokens[colon - 1].number is not None:
            return 0
        first = self._quantities.at(tokens, colon + 1) if colon + 1 < len(tokens) else None
        # “Acid-adjusted orange: for every litre of orange juice, 32 g …”
        if self._words.at("per", tokens, colon + 1):
            return colon
        # “Tomato water: blend 2 kg …”
        if colon + 1 < len(tokens) and (verb := self._verbs.first(tokens[colon + 1 :])) is not None and verb.start == 0:
            return colon
        if first is not None and first.kind == "count" and self._knows(tokens[:colon]) and not self._knows(tokens[first.end :]):
            # “Pineapple: 1 pc (approx. 1.2 kg)”
            return 0
        if first is not None and first.kind in MEASURED and tokens[first.end : first.end + 1] and tokens[first.end].plain == ",":
            # “Ginger: a kilo, wash it, …”
            return 0 if self._knows(tokens[:colon]) and not self._words.says("preps", tokens[:colon]) else colon
        lists = first is not None and first.kind in AMOUNTS and first.end < len(tokens)
        # “Our house sour: lemon juice two litres, lime juice one litre”
        lists = lists or (
            len(self.measures(tokens[colon:])) > 1
            and self._names_no_thing(tokens[:colon])
            and self._knows(_first_name(tokens[colon + 1 :]))
        )
        return colon if lists or self._words.says("preps", tokens[colon - 1 : colon]) else 0

    def _names_no_thing(self, tokens: Sequence[Token]) -> bool:
        """Returns True if words name a kind of prep or no known material, so that they are no line of the list."""
        return self._words.says("preps", tokens) or not self._knows(tokens)

    def _before_claim(self, tokens: Sequence[Token]) -> int:
        """Where “Beetroot cordial, makes 2 L” parts; 0 for a line without a claim."""
        amounts = self.measures(tokens)
        found = next((at for at in range(2, len(tokens)) if amounts and at < amounts[0].start and self._words.at("claims", tokens, at)), 0)
        if not found:
            # “Orgeat v3 — 2 L”
            dash = next((at for at, token in enumerate(tokens) if token.plain in "-–—"), 0)
            sized = self._quantities.at(tokens, dash + 1) if dash and dash + 1 < len(tokens) else None
            found = dash if sized is not None and sized.kind in MEASURED and sized.end == len(tokens) else 0
        return found if self._words.says("preps", tokens[:found]) else 0

    def _is_batch(self, tokens: Sequence[Token], below: Sequence[Token]) -> bool:
        """Returns True for a preparation with its batch size above a list: “Milk punch 4 L”, “Grapefruit cordial (2.5 L)”."""
        amounts = self.measures(tokens)
        end = len(tokens) - (tokens[-1].plain == ")")
        sized = len(amounts) == 1 and amounts[0].kind in MEASURED and 0 < amounts[0].start < amounts[0].end == end
        return sized and bool(self.measures(below)) and self._words.says("preps", tokens[: amounts[0].start])

    def _is_strength(self, tokens: Sequence[Token], below: Sequence[Token]) -> bool:
        """Returns True for a title that gives the strength of a material which the next row measures: “Citric 5 % w/v” above “50 g citric acid”."""
        amounts = self.measures(tokens)
        by = self._words.phrases["by_basis"].within(tokens)
        end = by[0] if by and by[0] + by[1] == len(tokens) else len(tokens)
        if len(amounts) != 1 or amounts[0].kind != "percent" or amounts[0].end not in (end, len(tokens)) or not amounts[0].start:
            return False
        named = {item.key for item in self._mentions(tokens) if item.key}
        measured = any(q.kind in MEASURED for q in self.measures(below))
        return measured and any(item.key in named for item in self._mentions(below))

    def is_title(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a short line without amounts that claims nothing; a strength at its end may stand: “Saline 20 %”."""
        amounts = self.measures(tokens)
        sized = amounts[0].kind in MEASURED and tokens[-1].plain == ")" if len(amounts) == 1 else False
        opened = next((at for at, token in enumerate(tokens) if token.plain == "("), 0)
        if sized and 0 < opened < amounts[0].start and self._words.says("claims", tokens[opened:]):
            # “Hibiscus ginger (batch 4 L)”, “Chilli cordial (2 L batch)”
            return True
        # “Saline 20 %”, “Lemongrass tincture (50 %)”
        last_word = len(tokens) - (tokens[-1].plain == ")")
        strength = len(amounts) == 1 and amounts[0].kind in ("percent", "minutes") and amounts[0].end == last_word
        if strength and (self._words.says("preps", tokens) or (tokens[-1].plain == ")" and self._words.says("forms", tokens))):
            return True
        counted = self._quantities.at(tokens, 0) is not None and tokens[0].plain not in self._words.words["one"]
        counted = counted or any(token.number and at and tokens[at - 1].plain in self._words.words["of"] for at, token in enumerate(tokens))
        last = tokens[-1].number
        counted = counted or (last is not None and len(tokens) > 1 and last.value >= _LEAST_AMOUNT)
        listed = (counted and self._knows(tokens)) or self._words.says("to_taste", tokens)
        short = len(tokens) <= _MOST_TITLE and tokens[-1].plain not in (".", "!")
        return not amounts and not listed and short and not self._told_of.claims(tokens)

    def _first_sentence(self, tokens: list[Token]) -> tuple[list[Token], list[Token]]:
        found = list(sentences(tokens))
        if not found:
            return [], tokens
        first, *others = found
        if others and len(first) <= _MOST_TITLE and not self._quantities.all(first) and not self._verbs.first(first):
            return list(first), [token for token in tokens if token.start >= others[0][0].start]
        return [], tokens

    def measures(self, tokens: Sequence[Token]) -> list[Quantity]:
        """Returns the quantities of a row that are no bare counts."""
        return [q for q in self._quantities.all(tokens) if q.kind != "count"]


def _first_name(tokens: Sequence[Token]) -> Sequence[Token]:
    """Returns tokens up to the first comma or figure."""
    return tokens[: next((at for at, token in enumerate(tokens) if token.plain == "," or token.number is not None), len(tokens))]
