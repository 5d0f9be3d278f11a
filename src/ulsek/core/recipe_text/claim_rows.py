"""Rows of a text that claim something of what is made: how much, how long it keeps, how strong it is, how it is poured."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..written.quantities import MEASURED
from ..written.tokens import Token
from .claims import kind_at
from .clauses import joins
from .list_rows import FEW
from .text_reading import TextReading
from .verbs import VerbFinder

_STEPS = ("strain", "filter", "press", "drip", "bottle")
"""Verbs after “keep for 3 months” that make it a step of the method instead of a claim about shelf life."""
_MOST_WORDS = 6
"""Words of a claim that begins with no word of claims [count]."""


class ClaimRows:
    """Tells claims from what is to be done."""

    def __init__(self, reading: TextReading, verbs: VerbFinder) -> None:
        self._words, self._quantities, self._knows, self._verbs = reading.words, reading.quantities, reading.knows, verbs
        self._claiming = frozenset(text.split()[0] for text in reading.words.words["claims"])

    def _without_subject(self, tokens: Sequence[Token]) -> Sequence[Token]:
        """Returns tokens without the “it's” of “it's good for a week”."""
        led = len(tokens) > 2 and tokens[0].plain in self._words.words["is_words"] and self._words.at("claims", tokens, 1) is not None
        return tokens[1:] if led else tokens

    def claims(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a row that begins with words of a claim."""
        tokens = self._without_subject(tokens)
        if len(tokens) > 1 and tokens[0].plain in self._words.words["figure_claims"] and tokens[1].kind == "word":
            # “Batch sour for 40 drinks” is a title, “batch 2 L” a claim.
            return self._words.at("claims", tokens, 0) is not None and self._quantities.at(tokens, 1) is not None
        if (
            len(tokens) > 2
            and tokens[0].plain in self._words.words["figure_claims"]
            and tokens[1].plain == ":"
            and not self._measures(tokens)
        ):
            # “Batch: sorrel” names what is made.
            return any(token.number is not None for token in tokens)
        # “Makes 2 L” claims, “make a caramel” is to be done.
        return bool(tokens) and tokens[0].plain in self._claiming and self._words.at("claims", tokens, 0) is not None

    def claimed(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a row that claims something and tells no step: “keeps 4 weeks”, “use within 3 days”."""
        tokens = self._without_subject(tokens)
        found = self._words.at("claims", tokens, 0) if self.claims(tokens) else None
        told = self._words.at("verbs", tokens, 0) if found else None
        if found and told and told[0] > found[0] and told[1] == "nothing":
            # “Keep stirring” is no claim.
            return False
        if found and found[0] == 1 and self._words.at("verbs", tokens, 0) and self._words.says("places", tokens) and not self.timed(tokens):
            # “Keep refrigerated” is to be done.
            return False
        if found and self._words.at("verbs", tokens, 0) and self._goes_on(tokens[found[0] :]):
            return False
        if found and kind_at(self._words, tokens) == "serve" and (self._words.at("verbs", tokens, 0) or (0, "nothing"))[1] == "nothing":
            # “Serve: 25 ml, top with soda” tells no step.
            return True
        return found is not None and (found[0] > 1 or self._verbs.first(tokens, claims=True) is None)

    def _goes_on(self, tokens: Sequence[Token]) -> bool:
        """Returns True if a step follows in the tokens: “keep for 3 months, then strain and bottle” is a wait, “keep for 3 months, shake before use” is a claim."""
        verbs = (verb for verb in self._verbs.all(tokens) if verb.start and joins(tokens[verb.start - 1], self._words.words))
        return any(verb.name in _STEPS for verb in verbs)

    def unclaimed(self, told: Sequence[Sequence[Token]]) -> Iterator[Sequence[Token]]:
        """Yields sentences without the claims at their ends, and those by themselves: “keep refrigerated, use within 3 weeks” is two."""
        for sentence in told:
            cut = next(
                (
                    at
                    for at in range(1, len(sentence) - 1)
                    if (sentence[at].plain in (",", ";", "(", "–", "—") or sentence[at].plain in self._words.words["and"])
                    and self.claimed(sentence[at + 1 :])
                    and self.timed(_one_piece(sentence[at + 1 :]))
                    and not self._stores(sentence, at + 1)
                ),
                None,
            )
            if cut is None:
                yield sentence
            else:
                yield sentence[:cut]
                yield sentence[cut + 1 :]

    def _stores(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True for a word that tells to store: “keep 2 days” is to be done, “keeps 2 days” is not."""
        verb = self._words.at("verbs", tokens, at)
        return verb is not None and verb[1] == "store" and tokens[at].plain in self._words.words["verbs"]

    def at_most(self, tokens: list[Token]) -> bool:
        """Returns True for “3 days max”: how long it keeps."""
        return (
            len(tokens) <= _MOST_WORDS
            and self._words.says("max_words", tokens)
            and self.timed(tokens)
            and self._verbs.first(tokens) is None
        )

    def limits(self, tokens: Sequence[Token]) -> bool:
        """Returns True for “max 20”: a limit of the sentence before it, not a step."""
        found = self._words.at("max_words", tokens, 0)
        return found is not None and found[0] == len(tokens) - 1 and tokens[-1].number is not None

    def for_one(self, tokens: list[Token]) -> bool:
        """Returns True for “60 ml per drink”, what is poured, and “65 °Bx”, what it should read."""
        alone = self._quantities.at(tokens, 0) if len(tokens) <= FEW else None
        if alone is not None and alone.kind in MEASURED and alone.end == len(tokens):
            # “Orgeat — 2 L”
            return True
        first = next(iter(self._quantities.all(tokens)), None) if len(tokens) <= _MOST_WORDS else None
        if first is not None and first.kind in MEASURED and first.start <= 1:
            # “About 1 kg out”
            behind = tokens[first.end :]
            if len(behind) == 1 and behind[0].plain in self._words.words["out_words"]:
                return True
        if tokens[0].plain in self._words.words["dose_words"] and self._words.says("per", tokens) and self._measures(tokens[1:]):
            # “Use 50 ml per litre of juice”
            first = self._quantities.at(tokens, 1)
            return first is not None and first.kind in MEASURED and self._words.at("per", tokens, first.end) is not None
        brix = next((q for q in self._quantities.all(tokens) if q.kind == "brix"), None) if len(tokens) <= FEW + 1 else None
        named = brix.start - (tokens[brix.start - 1].plain in self._words.words["to"]) if brix is not None and brix.start else 0
        if brix is not None and not (named and self._knows(tokens[:named])):
            # “65 °Bx”
            return not self._verbs.first(tokens)
        found = self._words.phrases["per_serving"].within(tokens) if len(tokens) <= _MOST_WORDS else None
        return found is not None and self._measures(tokens) and not self._knows(tokens[: found[0]]) and not self._verbs.first(tokens)

    def timed(self, tokens: Sequence[Token]) -> bool:
        return any(q.kind == "minutes" for q in self._quantities.all(tokens))

    def _measures(self, tokens: Sequence[Token]) -> bool:
        return any(q.kind != "count" for q in self._quantities.all(tokens))


def _one_piece(tokens: Sequence[Token]) -> Sequence[Token]:
    """Returns tokens up to the next comma."""
    return tokens[: next((at for at, token in enumerate(tokens) if token.plain in (",", ";")), len(tokens))]
