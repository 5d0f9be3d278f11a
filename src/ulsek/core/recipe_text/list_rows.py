"""Rows of a text that are lines of the list, told from those that tell a step."""

from __future__ import annotations

from collections.abc import Sequence

from ..written.quantities import AMOUNTS, LENGTHS, MEASURED, Quantity
from ..written.tokens import Token
from .rows import MOST_TOKENS, ratio_in, sentences
from .text_reading import TextReading
from .verbs import VerbAt, VerbFinder

_PREPARES = ("cut", "core", "peel", "wash", "crush")
"""Verbs of what is done to a fruit before it is weighed."""
MOST_LIST = 14
"""Words of a line of the list without an amount [count]."""
FEW = 3
"""Words that may follow what was done to a thing in a line of the list [count]."""


class ListRows:
    """Tells lines of the list from sentences of the method."""

    def __init__(self, reading: TextReading, verbs: VerbFinder) -> None:
        self._words, self._quantities, self._knows, self._verbs = reading.words, reading.quantities, reading.knows, verbs
        self._mentions, self._unit_alone = reading.names.mentions, reading.unit_alone
        self._per = reading.words.first_words(("per",))

    def is_list(self, tokens: list[Token], *, in_method: bool, told: bool, listed: bool) -> bool:
        """Returns True for a line of the list: an amount at its beginning or end, or a name alone, and no verb that tells a step.

        `in_method`: it stands below the heading of a method; `told`: a sentence of the method stands before it; `listed`: below that of a list.
        """
        found = self._quantities.all(tokens) if len(tokens) <= MOST_TOKENS else []
        if (
            not tokens
            or len(tokens) > MOST_TOKENS
            or self._is_told(tokens, told=told)
            or self.is_rate(tokens)
            or any(q.kind == "ph" for q in found)
        ):
            # “Per litre of juice, 32 g of citric acid” and “the pH should be about 3” are no lines either.
            return False
        # “Through a sieve” counts nothing.
        amounts = [
            q
            for q in found
            if q.kind in AMOUNTS
            and (
                q.kind != "count"
                or q.start == 0
                or any(token.number for token in tokens[q.start : q.end])
                or tokens[q.start - 1].plain in ",:-–—("
            )
        ]
        verb = self._verbs.first(tokens)
        if not in_method and verb is None and self._words.at("equal", tokens, 0):
            # “Equal parts honey and hot water, plus 1 % of the total in thyme”
            return True
        if not in_method and (self._in_ratio(tokens) or self._to_brix(tokens, found)):
            return True
        alike = verb is None and not found and self._words.says("same_as", tokens)
        if not in_method and alike and next(self._mentions(tokens), None) is not None:
            # “Same weight of sugar as juice”
            return True
        if in_method and (verb or not amounts or len(tokens) > MOST_LIST):
            return False
        state = self._words.says("make_up", tokens) or self._words.says("top_up", tokens) or self._words.says("cover", tokens)
        # “Dissolve in 800 ml water, make up to a litre” tells two steps.
        state = state and (verb is None or verb.name == "make_up" or self._words.at("top_up", tokens, verb.start) is not None)
        if state and len(tokens) <= MOST_LIST and not told and sum(1 for _ in sentences(tokens)) == 1:
            return True
        # “250 g caster, vac seal, 12 h” lists something and then waits.
        if any(q.kind == "minutes" and (q.start == 0 or tokens[q.start - 1].plain == "," or len(tokens) > MOST_LIST) for q in found) or (
            found and found[0].kind in ("celsius", "degrees") and found[0].start == 0
        ):
            return False
        if (
            verb is not None
            and not self._thing(tokens, verb.start, told=told)
            and not self._prepared(tokens, amounts, verb)
            and (told or not self._described(tokens, amounts, verb))
            and (told or not self._part_of_so_many(tokens, amounts, verb))
        ):
            return False
        return self._weighed(tokens, amounts, verb, listed=listed) if amounts else self._named_only(tokens, verb)

    def is_rate(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a row that begins with what its amounts are for: “per litre of orange juice, 32 g of citric acid and 20 g of malic acid”."""
        per = self._words.at("per", tokens, 0) if tokens and tokens[0].stem in self._per else None
        if per is None or per[1] == "each" or len(tokens) > MOST_TOKENS:
            return False
        measured = sum(1 for q in self._quantities.all(tokens) if q.kind in AMOUNTS)
        return measured > 1 or (measured == 1 and self._unit_alone(tokens, per[0]) is not None)

    def _is_told(self, tokens: Sequence[Token], *, told: bool) -> bool:
        """Returns True if the first words of a row show that it is not a line of the list: “check pH is under 3”, “no ice”, “that goes back on with …”."""
        words = self._words.words
        here = self._words.at("verbs", tokens, 0)
        idle = here is not None and here[1] == "nothing" and (here[0] > 1 or not self._knows(tokens))
        # “Need 3 lemons” is a line as long as nothing was done.
        idle = idle and (told or not any(q.kind in AMOUNTS for q in self._quantities.all(tokens)) or self._words.says("claims", tokens))
        lead = tokens[: 1 + (tokens[0].plain in words["to"])] if told else ()
        # “You want 400 ml of syrup”
        idle = idle or (told and len(tokens) > 1 and tokens[0].plain in words["persons"] and tokens[1].plain in words["want_words"])
        # “Everything in a jar” measures no jar of it.
        every = self._words.at("everything", tokens, 0)
        behind = tokens[every[0] : every[0] + 2] if every else ()
        # “All in, 50 C, 20 min”
        into = bool(behind) and behind[0].plain in words["in_words"] and (len(behind) == 1 or behind[1].kind == "mark")
        idle = idle or (every is not None and (into or self._words.says("vessels", tokens)))
        return idle or tokens[0].plain in words["negation"] or any(token.plain in words["pronouns"] for token in lead)

    def _in_ratio(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a line that gives a material in a ratio to another: “sugar 1:1 with the strained juice”."""
        ratio = ratio_in(tokens) if len(tokens) <= MOST_LIST else None
        at = ratio[0] + ratio[1] if ratio else len(tokens)
        if ratio is None or not ratio[0] or at >= len(tokens):
            return False
        against = tokens[at].plain in self._words.words["to"] or tokens[at].plain in self._words.words["with"]
        verb = self._verbs.first(tokens)
        return against and self._knows(tokens[: ratio[0]]) and (verb is None or verb.start > ratio[0])

    def _to_brix(self, tokens: Sequence[Token], found: Sequence[Quantity]) -> bool:
        """Returns True for a line that gives a material up to a °Bx: “honey to 45 °Bx”, “sugar to bring it to 25 brix”. `found` are the quantities of the row."""
        brix = next((q for q in found if q.kind == "brix"), None)
        if brix is None or not brix.start or len(found) > 1 or len(tokens) > MOST_LIST:
            return False
        end = next((at for at in range(1, brix.start) if tokens[at].plain in self._words.words["to"]), brix.start)
        verb = self._verbs.first(tokens)
        return (verb is None or verb.start > end) and self._knows(tokens[:end])

    def _named_only(self, tokens: Sequence[Token], verb: VerbAt | None) -> bool:
        """Returns True for a line of the list that holds no amount of its own: “sugar, equal weight to the peel”."""
        within = self._words.phrases["same_as"].within(tokens)
        if within is not None and within[0] and len(tokens) <= MOST_LIST and self._knows(tokens[: within[0]]):
            # “Sugar, equal weight to the peel”
            return verb is None or verb.start > within[0]
        same = self._words.at("same_as", tokens, 0)
        if same is not None:
            # “Equal weight of sugar to peels”
            end = next((at for at in range(same[0], len(tokens)) if tokens[at].plain in self._words.words["to"]), len(tokens))
            return len(tokens) <= MOST_LIST and self._knows(tokens[same[0] : end])
        # “Juice, mix with sugar and acid, leave 2 hours, strain” tells four steps.
        told = sum(1 for found in self._verbs.all(tokens) if found.name != "nothing")
        return verb is not None and told < 2 and len(tokens) <= MOST_LIST and self._knows(tokens)

    def _weighed(self, tokens: Sequence[Token], amounts: Sequence[Quantity], verb: VerbAt | None, *, listed: bool) -> bool:
        """Returns True for a row whose amounts stand where those of a line of the list do: at its beginning, at its end, beside a name."""
        first, last = amounts[0], amounts[-1]
        sentence = any(token.plain in (".", ";") for token in tokens[:-1]) and self._many_verbs(tokens)
        # “1.2 kg (stoned weight)” ends with its amount too.
        bracket = next((at for at in range(last.end, len(tokens)) if tokens[at].plain == "("), len(tokens))
        # “Plums - 400 g, …”
        dashed = first.start > 1 and tokens[first.start - 1].plain in ":-–—" and self._knows(tokens[: first.start - 1])
        starts, ends = first.start <= 1 or dashed, last.end >= bracket - 2
        part = self._words.at("part_words", tokens, 0)
        of_part = part is not None and part[0] < len(tokens) and tokens[part[0]].plain in self._words.words["of"]
        # “Citric acid 1.5 % of the juice”
        weighed = verb is None and first.kind in (*MEASURED, "percent") and len(tokens) <= MOST_LIST and self._knows(tokens[: first.start])
        return not sentence and (starts or ends or of_part or weighed or self._knows(tokens) or listed)

    def _described(self, tokens: Sequence[Token], amounts: Sequence[Quantity], verb: VerbAt) -> bool:
        """Returns True if a verb at the beginning describes the material after it: the “warm” of “warm water 200 g”."""
        word = tokens[verb.start].plain in self._words.words["describes"] and verb.end == verb.start + 1 and len(amounts) == 1
        if (
            word
            and verb.start > 1
            and tokens[verb.start - 1].plain == ","
            and amounts[0].start == verb.end
            and amounts[0].end == len(tokens)
        ):
            # “Water, warm 450 ml”
            return self._knows(tokens[: verb.start - 1])
        only = word and verb.start == 0
        return only and amounts[0].start > 1 and amounts[0].end == len(tokens) and self._knows(tokens[1 : amounts[0].start])

    def _prepared(self, tokens: Sequence[Token], amounts: Sequence[Quantity], verb: VerbAt) -> bool:
        """Returns True for what was done to a thing before it is weighed: “1 vanilla pod, split”."""
        starts = bool(amounts) and amounts[0].start == 0
        # “Vanilla pod, one, split”
        named = bool(amounts) and 0 < amounts[0].start < verb.start and self._knows(tokens[: amounts[0].start])
        if starts and verb.end == len(tokens) and tokens[verb.start - 1].kind == "word" and verb.start > amounts[0].end:
            # “3 tbsp pumpkin purée”
            return True
        leads = tokens[verb.start - 1].plain in ",(" or tokens[verb.start - 1].plain in self._words.words["and"]
        if starts and leads and self._only_prepares(tokens, verb):
            # “1 pineapple, peeled, cored and cut in rings”
            return True
        return (
            (starts or named)
            and (
                verb.name in ("cut", "core", "peel", "zest", "toast", "crush", "wash", "juice")
                or tokens[verb.start].plain in self._words.words["describes"]
            )
            and len(tokens) - verb.end <= FEW
            and tokens[verb.start - 1].plain in ",("
            # “Mash them together” is to be done.
            and not any(token.plain in self._words.words["pronouns"] for token in tokens[verb.end :])
        )

    def _only_prepares(self, tokens: Sequence[Token], verb: VerbAt) -> bool:
        """Returns True if a row is one sentence that has, from a verb on, only preparation verbs and no other amount, time or temperature."""
        behind = tokens[verb.start :]
        one = sum(1 for _ in sentences(tokens)) == 1 and tokens[-1].plain not in ".!"
        measured = any(q.kind in (*MEASURED, "minutes", "celsius") and q.unit not in LENGTHS for q in self._quantities.all(behind))
        return one and not measured and all(found.name in _PREPARES for found in self._verbs.all(behind))

    def _part_of_so_many(self, tokens: Sequence[Token], amounts: Sequence[Quantity], verb: VerbAt) -> bool:
        """Returns True for “peel 10 lemons (approx 150 g)” before any step: what was taken of them, with its weight."""
        weighed = bool(amounts) and amounts[-1].kind in MEASURED and (tokens[-1].plain == ")" or amounts[-1].end == len(tokens))
        return verb.start == 0 and weighed and self._words.at("part_words", tokens, 0) is not None

    def _many_verbs(self, tokens: Sequence[Token]) -> bool:
        return any(self._verbs.first(sentence) for sentence in sentences(tokens))

    def _also(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True if a word is a noun as well as a verb: “juice”, “mash”."""
        return not {tokens[at].stem, tokens[at].plain}.isdisjoint(self._words.words["also_things"])

    def _thing(self, tokens: Sequence[Token], verb: int, *, told: bool) -> bool:
        """Returns True for a word that names a thing here though it may be a verb: “juice of 2 lemons”, “1 kg peel”."""
        end = next((at for at in range(verb, len(tokens)) if tokens[at].plain in ",;"), len(tokens))
        if not self._also(tokens, verb) or end > MOST_LIST:
            return False
        follows = tokens[verb + 1] if verb + 1 < len(tokens) else None
        joint = (
            follows is None
            or follows.plain in self._words.words["of"]
            or (follows.plain in self._words.words["and"] and self._another_part(tokens, verb + 2))
            or follows.plain in (",", ":", "-", "from", "(")
        )
        measured = self._quantities.at(tokens, verb + 1) if follows is not None else None
        weighed = measured is not None and measured.kind in ("mass", "volume")
        joint = joint or (weighed and not self._verbs.tells_to(tokens, verb + 1))
        joint = joint or (follows is not None and follows.number is not None and len(tokens) <= FEW and not told)
        one = sum(1 for _ in sentences(tokens)) == 1
        # “Mash, strain, citric 8 g” tells two steps.
        return joint and one and not (told and any(self._tells(tokens, other) for other in self._verbs.all(tokens)))

    def _another_part(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True for a part at a position, and for a word that names one before “of”: “zest and juice”, “peel and core of 1 pineapple”."""
        behind = tokens[at + 1].plain if at + 1 < len(tokens) else ""
        named = self._words.at("part_words", tokens, at) is not None
        return named or (behind in self._words.words["of"] and self._also(tokens, at))

    def _tells(self, tokens: Sequence[Token], verb: VerbAt) -> bool:
        return verb.name != "nothing" and not self._also(tokens, verb.start)
