"""Verbs in a row of tokens: which word tells a step here, and where its clause begins."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..written.lexicon import Lexicon
from ..written.quantities import QuantityReader
from ..written.tokens import Token


@dataclass(frozen=True, slots=True)
class VerbAt:
    """A verb in the tokens from `start` up to `end`; `name` is a verb of Ulsek, or one of the reader's own: boil, wait, skim, drip, nothing."""

    start: int
    end: int
    name: str


def moved(verb: VerbAt, by: int) -> VerbAt:
    """Returns a verb at its place in tokens of which some were cut off before it: `by` is negative then [tokens]."""
    return VerbAt(verb.start + by, verb.end + by, verb.name)


PUTS_NOTHING_IN = ("strain", "settle", "filter", "press", "drip", "skim", "cool", "bottle", "store", "freeze", "wait")
"""Verbs of steps that take no ingredients: an amount before one of them belongs to a step of its own."""
_MUCH = 500.0
"""Amount from which “peel 2 kg cucumbers” is to be done, and no peel that is weighed [g or mL]."""


_SHORT = 4
"""Tokens of a clause of two verbs without an object [count]."""
_SEVERAL = 6
"""Largest distance from “until” to its verb where several materials dissolve [tokens]."""
_MOST_NAME = 6
"""Tokens of “for the …” before a verb [count]."""


class VerbFinder:
    """Finds the verbs that tell steps. A word that may as well name a thing counts only where a clause begins."""

    def __init__(self, words: Lexicon, quantities: QuantityReader) -> None:
        self._words, self._quantities = words, quantities
        self._weak = words.words["weak_verbs"]
        spelled = {word for verbs in words.data["verbs"].values() for word in verbs}
        self._only_parts = {word for word in words.data["part_words"] if word not in spelled}

    def first(self, tokens: Sequence[Token], *, claims: bool = False) -> VerbAt | None:
        """Returns the first verb that tells a step; None if there is none. If `claims`, verbs of claims (keeps, serve) are none."""
        for verb in self.all(tokens):
            if verb.name == "nothing" or (claims and verb.name == "store"):
                continue
            return verb
        return None

    def all(self, tokens: Sequence[Token], *, participles: bool = False) -> Iterator[VerbAt]:
        """Yields the verbs in their order, those that tell nothing to do (“taste”, “cover”) included; if `participles`, “poured”, “left” too."""
        position = 0
        while position < len(tokens):
            found = self._words.at("verbs", tokens, position)
            done = self._words.at("participles", tokens, position) if participles and not found else None
            if done and self._starts(tokens, position) and not self._until(tokens, position):
                yield VerbAt(position, position + done[0], str(done[1]))
                position += done[0]
            elif found and self._tells(tokens, position, found[0]):
                yield VerbAt(position, position + found[0], str(found[1]))
                position += found[0]
            elif not found and (meant := self._misspelt(tokens, position)):
                yield VerbAt(position, position + 1, meant)
                position += 1
            else:
                position += 1

    def _misspelt(self, tokens: Sequence[Token], at: int) -> str | None:
        """Returns the verb that an unknown word is a slip of the pen for, where a clause begins and an object or its end follows: “strain and botle”."""
        token, words = tokens[at], self._words
        if (
            token.kind != "word"
            or words.at("materials", tokens, at)
            or words.at("participles", tokens, at)
            or words.at("part_words", tokens, at)
            or token.plain in words.words["widens"]
            or token.plain in words.words["describes"]
        ):
            return None
        ends = at + 1 == len(tokens) or tokens[at + 1].kind == "mark" or tokens[at + 1].plain in words.words["and"]
        if not (ends or self._takes_object(tokens, at + 1)) or not self._starts(tokens, at):
            return None
        return words.meant_verb(token.plain)

    def _tells(self, tokens: Sequence[Token], at: int, length: int) -> bool:
        words = self._words.words
        before = tokens[at - 1] if at else None
        if length == 1 and tokens[at].text.lower() in self._only_parts:
            # German “Schalen” is the peel, “schälen” the verb.
            return False
        if self._is_denied(tokens, at) or self._until(tokens, at) or self._is_place(tokens, at) or self._is_no_verb(tokens, at, length):
            return False
        starts = self._starts(tokens, at)
        if length == 1 and tokens[at].stem in words["food_verbs"] and at:
            # “We juice pomegranates”
            acted = before is not None and before.plain in words["persons"]
            return acted or (self.tells_to(tokens, at + length) and (starts or tokens[0].plain in words["lead"]))
        said = " ".join(token.plain for token in tokens[at : at + length])
        if said in self._weak or (length == 1 and tokens[at].stem in self._weak):
            # “For the watermelon thing blend about a kilo”
            named = tokens[0].plain in words["for_the"] and 2 <= at <= _MOST_NAME and self._takes_object(tokens, at + length)
            return starts or named or self._stands_last(tokens, at + length)
        # A strong verb counts in the middle of a clause too: “in a jar combine”, “after 20 minutes strain it”.
        return starts or (before is not None and before.plain not in words["of"] and before.plain not in words["to"])

    def _stands_last(self, tokens: Sequence[Token], end: int) -> bool:
        """Returns True if a clause ends at `end` and the language puts infinitives last, as German does: “Säuren in 700 ml Wasser lösen, …”."""
        words = self._words
        return "verb_last" in words.data and (end == len(tokens) or tokens[end].kind == "mark" or tokens[end].plain in words.words["and"])

    def _is_no_verb(self, tokens: Sequence[Token], at: int, length: int) -> bool:
        """Returns True for a word that is another thing than a verb by what stands beside it."""
        words = self._words.words
        before = tokens[at - 1] if at else None
        if before is not None and before.number is not None and self._words.at("vague", tokens, at) is not None:
            # “1 btl”
            return True
        state = before is not None and (tokens[at].plain in words["warm_words"] or tokens[at].plain in words["cold_words"])
        # “Slice it, simmer it” is told of two steps.
        parted = before is not None and (before.kind == "mark" or before.plain in words["and"])
        if state and not parted and any(one.plain in words["is_words"] for one in tokens[max(0, at - 2) : at]):
            # “While it's still warm”
            return True
        vague = self._words.at("vague", tokens, at)
        if vague and at + vague[0] < len(tokens) and tokens[at + vague[0]].plain in words["of"]:
            # “Squeeze of lemon”
            return True
        named = self._words.at("materials", tokens, at)
        if named and named[0] > length and tokens[at].plain in words["describes"]:
            # “Steep in boiling water”
            return True
        # “Thaw over muslin”
        led = ("in_words", "through_words", "onto")
        within = before is not None and any(before.plain in words[section] for section in led)
        if within and (self._words.at("sieve_words", tokens, at) or self._words.at("gear", tokens, at)):
            # “Hang in muslin overnight”, “push it through muslin”, “through coffee filters”
            return True
        token, after = tokens[at], tokens[at + 1] if at + 1 < len(tokens) else None
        said = " ".join(one.plain for one in tokens[at : at + length])
        if token.stem != token.plain and said not in words["verbs"]:
            # “Until the sugar dissolves”, “massage the tops with sugar” tell no step.
            return True
        if length > 1:
            return False
        # “Zest + sugar 1 h”, “blend sugar + zest 30 s”
        beside = any(one is not None and one.plain == "+" for one in (before, after))
        if token.stem in words["food_verbs"] and (beside or self._goes_with(tokens, at)):
            return True
        return at > 0 and after is not None and after.plain in words["of"] and token.stem in words["also_things"]

    def _goes_with(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True for a food and what it goes with or goes in: “zest & sugar 1 h”, “zest in”, but not “zest & juice the limes”."""
        words = self._words.words
        ends = at + 2 == len(tokens) or (at + 2 < len(tokens) and tokens[at + 2].kind == "mark")
        if at + 1 < len(tokens) and tokens[at + 1].plain in words["in_words"] and ends:
            return True
        joined = at + 2 < len(tokens) and tokens[at + 1].plain == "&"
        return joined and not self._words.at("verbs", tokens, at + 2) and tokens[at + 2].plain not in words["boundary"]

    def _is_denied(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True for what is not to be done, or not now: “without pressing”, “don't let it boil”, “shaking when you pass”."""
        words = self._words.words
        if not at:
            return False
        before, lead = tokens[at - 1], tokens[at - 2].plain if at > 1 else ""
        # “Once it's cold squeeze in the juice”
        state = before.plain in words["joins_verbs"] and (lead in words["is_words"] or lead in words["lead_words"])
        if not state and (before.plain in words["negation"] or before.plain in words["not_before_verb"]):
            return True
        if at > 1 and tokens[at - 2].plain in words["negation"] and before.plain in words["between_negation"]:
            # “Ohne zu drücken”, “sans trop presser”
            return True
        return self._denied(tokens, at) or (before.plain in words["persons"] and lead in words["lead_words"])

    def _denied(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True for what is not to be done: “don't let it boil”."""
        words = self._words.words
        for before in reversed(tokens[max(0, at - 3) : at]):
            if before.kind == "mark" or before.plain in words["and"] or before.plain in words["then"]:
                return False
            if before.plain in words["negation"] and before.plain in words["do_not"]:
                return True
        return False

    def _until(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True for a word that says how long, not what: “stir until it dissolves”."""
        words = self._words.words
        # “Until sugar and salt dissolve”
        ends = at + 1 == len(tokens) or tokens[at + 1].kind == "mark" or tokens[at + 1].plain in words["and"]
        several = ends and tokens[at].plain in words["dissolve_words"]
        for before in reversed(tokens[max(0, at - (_SEVERAL if several else 4)) : at]):
            if before.kind == "mark" or before.plain in words["then"] or (before.plain in words["and"] and not several):
                return False
            if before.plain in words["until_state"]:
                return True
        return False

    def _is_place(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True for a place that is also a verb, behind a word that leads to a place: “leave in fridge overnight”."""
        before = tokens[at - 1] if at else None
        words = self._words.words
        after = tokens[at + 1].plain if at + 1 < len(tokens) else ""
        if before is not None and before.plain in words["before_place"] and tokens[at].plain in words["place_nouns"]:
            # “Leave in a cool place”
            return True
        if tokens[at].plain in words["before_place"] and (after in words["before_place"] or after in words["place_nouns"]):
            # “14 days cool dark”
            return True
        return (
            before is not None
            and before.kind == "word"
            and tokens[at].plain in words["places"]
            and before.plain not in words["and"]
            and before.plain not in words["then"]
        )

    def _starts(self, tokens: Sequence[Token], at: int) -> bool:
        if at == 0:
            return True
        before = tokens[at - 1]
        words = self._words.words
        if before.kind == "mark":
            return before.plain in ",;.:(+/&!-–—|"
        if before.plain in words["vessels"] and tokens[0].plain in words["in_words"]:
            # “In a saucepan heat the sugar”
            return True
        if before.plain in words["boundary"] or before.plain in words["and"] or before.plain in words["joins_verbs"]:
            return True
        # “20min simmer”, “after 10 minutes strain”: a time stands before it.
        return any(
            (q := self._quantities.at(tokens, start)) is not None
            and q.end == at
            # “Water 1.2 L blend 3 min”
            and (q.kind in ("minutes", "celsius") or (q.kind in ("mass", "volume") and self._timed(tokens, at + 1)))
            for start in range(max(0, at - 5), at)
        )

    def _timed(self, tokens: Sequence[Token], at: int) -> bool:
        found = self._quantities.at(tokens, at) if at < len(tokens) else None
        return found is not None and found.kind == "minutes"

    def _takes_object(self, tokens: Sequence[Token], after: int) -> bool:
        """Returns True if an amount or “the”, “it” follows."""
        # “Für den Honig koche ich 200 ml Wasser auf”
        after += after < len(tokens) and tokens[after].plain in self._words.words["persons"] and "verb_last" in self._words.data
        if after >= len(tokens):
            return False
        return self._quantities.at(tokens, after) is not None or tokens[after].plain in self._words.words["after_verb"]

    def tells_to(self, tokens: Sequence[Token], after: int) -> bool:
        """Returns True if what follows a word that also names a food makes it a verb: “peel the ginger”, “juice 3 limes”."""
        if after >= len(tokens):
            # “Peel and slice”, “strain, bottle and date”
            begin = max((at + 1 for at in range(after) if tokens[at].plain in ",;"), default=0)
            return (
                2 < after - begin <= _SHORT
                and tokens[after - 2].plain in self._words.words["and"]
                and self._words.at("verbs", tokens, begin) is not None
            )
        # “Zest 12 g” is an amount of it, “juice about fifteen limes” is to be done.
        follows = self._quantities.at(tokens, after)
        if follows is not None and follows.kind in ("mass", "volume"):
            # “Peel 2 kg cucumbers” is more than anybody has of peel; “juice 300 g of ginger” says of what.
            named = follows.end < len(tokens) and tokens[follows.end].kind == "word"
            part = self._words.at("part_words", tokens, after - 1)
            of = named and part is not None and part[1] == "juice" and tokens[follows.end].plain in self._words.words["of"]
            return named and (of or follows.amount.value >= _MUCH)
        if follows is not None and follows.kind == "minutes":
            # “Steep the tea and zest 6 minutes”
            return False
        if follows is not None and follows.kind == "count":
            return True
        return tokens[after].number is not None or tokens[after].plain in self._words.words["after_verb"]
