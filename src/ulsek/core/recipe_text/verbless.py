"""Parts of a method without a verb: a wait, a thing that goes in, a sieve; and where such parts end at the beginning of a sentence."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .rows import added_apart
from .text_reading import TextReading
from .verbs import PUTS_NOTHING_IN, VerbAt

_LEAD = 4
"""Largest number of tokens before the time of a wait without a verb, such as “vac bag 24 h” [count]."""
_MOST_SIEVE = 4
"""Tokens at the beginning of a part among which the word that leads through a sieve stands [count]."""
_GRAMS = 10.0
"""Smallest number without a unit that is a mass instead of a count: “400 honey” [g]."""
_A_WHILE = 10.0
"""Shortest time that is a step of its own without a verb [min]."""


def verb_without_word(reading: TextReading, tokens: Sequence[Token]) -> str:
    """Returns the verb that tokens without a verb mean: “wait” for “1 h at room temperature”, “combine” for “+ 150 g water”; "" for none."""
    words = reading.words
    quantities = reading.quantities.all(tokens)
    named = next(iter(reading.names.mentions(tokens)), None) is not None
    measured = any(q.kind in ("mass", "volume", "vague") for q in quantities) or words.says("same_as", tokens)
    # “400 honey 200 water 15 sage”
    measured = measured or sum(q.kind == "count" and q.amount.value >= _GRAMS for q in quantities) > 1
    # “Lemon juice in. Rose water to taste.”
    goes_in = measured or tokens[0].plain == "+" or tokens[-1].plain in words.words["in_words"] or words.says("to_taste", tokens)
    # “Juice & acids in”
    ends_in = tokens[-1].plain in words.words["in_words"] and (words.says("group_words", tokens) or words.says("part_words", tokens))
    told = {
        # “50 C til dissolved”
        "dissolve": any(q.kind == "celsius" for q in quantities) and words.says("dissolve_words", tokens) and not measured,
        "wait": any(q.kind == "minutes" for q in quantities),
        # “Through a paper filter”
        "strain": _through(reading, tokens) > 0,
        # “Everything but the lemon in a pan”
        "combine": ends_in
        or (named and (goes_in or _once_cold(reading, tokens)))
        or _in_a_vessel(reading, tokens)
        or only_names(reading, tokens)
        or _in_while(reading, tokens),
        # “Water and sugar to a simmer”
        "bring_to": (named and words.says("boil_words", tokens)) or _only_degrees(quantities, tokens),
        # “Into a clean bottle”
        "bottle": tokens[0].plain in words.words["onto"] and words.says("bottle_words", tokens),
        "off_heat": words.says("off_heat_words", tokens),
    }
    return next((verb for verb, tells in told.items() if tells), "")


def only_names(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True for names of ingredients of the list and nothing else: “lime + salt”."""
    parts, begin = list[Sequence[Token]](), 0
    for at in (*(at for at, token in enumerate(tokens) if token.plain in "+,&" or token.plain in reading.words.words["and"]), len(tokens)):
        parts, begin = [*parts, tokens[begin:at]], at + 1
    for part in parts:
        named = next(iter(reading.names.mentions(part)), None)
        if named is None or named.end - named.start < len(part) or not reading.speaks_of_listed(part):
            return False
    return True


def _in_a_vessel(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True for “everything but the lemon in a pan”, “sugar, water and pods in a pan”."""
    words = reading.words
    begins = words.at("everything", tokens, 0) is not None or reading.speaks_of_listed(tokens[:1])
    within = any(token.plain in words.words["in_words"] for token in tokens[1:])
    return begins and within and words.says("vessels", tokens[-2:])


def _in_while(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True for “honey in while hot”: a material, “in”, and the state of what it goes into."""
    words = reading.words.words
    named = next(iter(reading.names.mentions(tokens)), None)
    if named is None or named.start or named.end + 1 >= len(tokens):
        return False
    return tokens[named.end].plain in words["in_words"] and tokens[named.end + 1].plain in words["lead_words"]


def _only_degrees(quantities: Sequence[Quantity], tokens: Sequence[Token]) -> bool:
    """Returns True for a temperature and nothing else: the “50 C” of “50 C, stir”."""
    words = sum(token.kind != "mark" for token in tokens)
    return len(quantities) == 1 and quantities[0].kind == "celsius" and quantities[0].end - quantities[0].start >= words


def _once_cold(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True for a material followed by the state in which it goes in: “rose water once cold”."""
    named = next(iter(reading.names.mentions(tokens)), None)
    behind = tokens[named.end :] if named is not None and named.start <= 1 else ()
    words = reading.words.words
    states = ("cold_words", "warm_words", "dissolve_words")
    return len(behind) > 1 and behind[0].plain in words["lead_words"] and any(behind[-1].plain in words[state] for state in states)


def _through(reading: TextReading, tokens: Sequence[Token]) -> int:
    """Returns where the word ends that leads through a sieve at the beginning of tokens: “then through a cloth”, “por un colador”; 0 without one, or behind a material."""
    words = reading.words.words
    at = next((at for at, token in enumerate(tokens[:_MOST_SIEVE]) if token.plain in words["through_words"]), None)
    return at + 1 if at is not None and next(iter(reading.names.mentions(tokens[:at])), None) is None else 0


def seems_a_step(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True for a sentence that seems to tell a step with a verb that nobody knows: “Coax everything along the bowl”, “once cold, the juice”."""
    words = reading.words.words
    asks = (
        len(tokens) >= 3
        and tokens[0].kind == "word"
        and tokens[1].plain in words["after_verb"]
        and tokens[0].plain not in words["not_a_verb"]
        and tokens[0].plain not in words["negation"]
    )
    listed = {item.key for item in reading.listed}
    begins = tokens[0].plain in words["lead_words"] or tokens[0].plain in words["then"]
    return asks or (begins and any(item.key in listed for item in reading.names.mentions(tokens)))


def timed_lead(reading: TextReading, sentence: Sequence[Token], verb: VerbAt) -> int:
    """Returns where a wait or a sieve without a verb ends at the beginning of a sentence: “4hrs covered, + 150 g water, press”, “through a cloth, then bottle”;
    0 if there is none.
    """
    words, quantities = reading.words.words, reading.quantities.all(sentence[: verb.start])
    added = next((at for at in range(1, verb.start) if sentence[at].plain == "," and sentence[at - 1].plain in words["in_words"]), 0)
    if added and verb_without_word(reading, sentence[:added]) == "combine":
        # “Thyme in, cool”
        return added + 1
    sieve = _through(reading, sentence[: verb.start])
    if sieve and all(q.kind == "count" for q in quantities):
        return next((at + 1 for at in range(sieve, verb.start) if sentence[at].plain in ",;" or sentence[at].plain in words["and"]), 0)
    if len(quantities) > 1 and quantities[0].kind == "celsius" and quantities[0].start == 0 and quantities[1].start - quantities[0].end < 2:
        # “80 C, 20 min, strain”
        quantities = quantities[1:]
    if not quantities or quantities[0].start > _LEAD or reading.words.says("lead_words", sentence[: quantities[0].start]):
        return 0
    # “Two days in the fridge, strain”, “two days in the fridge then strain”
    comma = next(
        (at for at in range(quantities[0].end, verb.start) if sentence[at].plain in ",+;" or sentence[at].plain in words["then"]), 0
    )
    # “50 C til dissolved, …”, “50 C, stir”
    alone = quantities[0].start == 0 and quantities[0].end == comma
    warmed = quantities[0].kind == "celsius" and (alone or reading.words.says("dissolve_words", sentence[:comma]))
    return comma + 1 if comma and (warmed or quantities[0].kind == "minutes") else 0


def added_in_parts(reading: TextReading, sentence: Sequence[Token]) -> Iterator[Sequence[Token]]:
    """Yields the steps of a sentence without verbs: “rub, 12 h”, “+ sugar” and “60 C, bottle” for “rub, 12 h, + sugar, 60 C, bottle”.

    A step that adds begins at “, +” and ends before the next comma that a number or a verb of `PUTS_NOTHING_IN` follows.
    """
    for part in added_apart(sentence):
        commas = [at for at in range(2, len(part)) if part[at].plain == ","] if part and part[0].plain == "+" else []
        cut, end = commas[0] if commas else 0, commas[1] if len(commas) > 1 else len(part)
        behind = part[cut + 1 : end]
        verb = reading.words.at("verbs", behind, 0) if behind else None
        # “+ 100 g hot water, blend” is one step.
        begins = verb[1] in PUTS_NOTHING_IN if verb else bool(behind) and behind[0].number is not None
        more = (
            any(q.kind in MEASURED for q in reading.quantities.all(behind)) or next(iter(reading.names.mentions(behind)), None) is not None
        )
        parted = cut and begins and not more and verb_without_word(reading, part[:cut]) == "combine"
        yield from (part[:cut], part[cut + 1 :]) if parted else (part,)


def parts_before(reading: TextReading, sentence: Sequence[Token], verb: VerbAt) -> tuple[list[Sequence[Token]], int]:
    """Returns the parts without a verb before the first that has one, and where they end: “80 g coffee in a litre of water, 16 h in the fridge, through a filter,
    then stir in …”; ([], 0) for a sentence without them. `verb` is its first verb, and takes something.
    """
    words, lead = reading.words.words, sentence[: verb.start]
    quantities = reading.quantities.all(lead)
    first = next((q.start for q in quantities if q.kind in MEASURED or (q.kind == "count" and q.amount.value >= _GRAMS)), None)
    waits = [q for q in quantities if q.kind == "minutes" and q.amount.value >= _A_WHILE and first is not None and q.start > first]
    cuts = [at for at, token in enumerate(lead) if token.plain in ",;" or token.plain in words["then"]]
    if not waits or not cuts or lead[0].plain in words["lead_words"] or cuts[-1] < waits[0].end:
        return [], 0
    parts, begin, gathered = list[Sequence[Token]](), 0, 0
    for cut in cuts:
        part = lead[begin:cut]
        alone = any(q.kind == "minutes" for q in reading.quantities.all(part)) or any(
            token.plain in words["through_words"] for token in part
        )
        if alone:
            # What goes in stands together: “20 g tea, 1 L water, 5 min”.
            parts += [lead[gathered : begin - 1], part] if begin > gathered else [part]
            gathered = cut + 1
        begin = cut + 1
    parts += [lead[gathered : begin - 1]] if begin - 1 > gathered else []
    return [part for part in parts if part], begin
