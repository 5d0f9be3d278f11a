"""A sentence of a method in clauses, one for each verb."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise
from typing import Any

from ..base.vocabulary import plain
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .text_reading import TextReading
from .verbs import VerbAt

_HARD = frozenset(",;:.()+&/!|")

_OF_A_MOMENT = ("combine", "shake", "blend", "muddle", "crush", "cut", "core", "peel", "zest", "wash")
"""Verbs that take no hours, so that those behind them are a wait."""
_HEATS = ("bring_to", "dissolve", "boil", "simmer")
_WAITS = ("wait", "steep", "infuse", "macerate")
_WINDOW = 4
"""Largest number of tokens after a word within which a word that belongs to it is looked for [count]."""
_STRAINS = ("strain", "filter", "press", "drip")
_AN_HOUR, _A_DAY = 60.0, 1440.0
"""Shortest waits that are told from the time of such a verb, and of a straining [min]."""
_OF_A_MACHINE, _TEN_MINUTES = ("blend", "muddle", "crush"), 10.0
"""Verbs that take no minutes either, and the shortest wait that is told from theirs [min]."""

_FOLLOWS = ("strain", "filter", "press", "bottle", "combine", "blend", "centrifuge", "freeze", "simmer", "juice", "cut")
"""Verbs that are a step of their own after “before”. Serving, storing and using are not."""
_FEW = 3
"""Largest number of tokens between “before” and the verb that it introduces, as in “leave an hour before you strain” [count]."""


_WARMS = ("simmer", "dissolve", "bring_to", "boil")
"""Verbs that are read as “hold” (keep at a temperature) if “sous vide” follows them: “simmer sous vide at 60 °C”."""


def pressed(reading: TextReading, tokens: Sequence[Token]) -> bool | None:
    """Returns whether what is strained is pressed: False for “do not press”, None if nothing is said."""
    words = reading.words.words
    at = next((at for at, token in enumerate(tokens) if token.plain in words["pressing"] or token.stem in words["pressing"]), None)
    if at is None:
        return None
    return not any(token.plain in words["negation"] for token in tokens[max(0, at - 4) : at])


def clauses(tokens: Sequence[Token], verbs: Sequence[VerbAt], reading: TextReading) -> list[tuple[int, int, VerbAt]]:
    """Returns (begin, end, verb) of the clauses of a sentence: each begins behind the last comma or “and” before its verb, with the condition before it."""
    words = reading.words.words
    within = _within_numbers(reading, tokens)
    begins = [0]
    for before, verb in pairwise(verbs):
        begin = verb.start
        if "verb_last" in reading.words.data and before.end < len(tokens) and joins(tokens[before.end], words):
            # Where the verb stands last, everything since the one before belongs to it.
            begin = before.end + 1
        while begin - 1 >= before.end and (not joins(tokens[begin - 1], words) or begin - 1 in within):
            begin -= 1
        if begin - 1 < before.end and begin == before.end:
            # Nothing parts them: the verb itself does, with what leads to it.
            begin = next((at for at in range(before.end, verb.start) if reading.words.at("lead_words", tokens, at)), verb.start)
        conditional = begin - 1
        while conditional - 1 >= before.end and not joins(tokens[conditional - 1], words):
            conditional -= 1
        if before.end <= conditional < begin and (
            reading.words.at("lead_words", tokens, conditional) or reading.words.at("off_heat_words", tokens, conditional)
        ):
            begin = conditional
        begins.append(begin)
    ends = [*begins[1:], len(tokens)]
    return [(begin, end, verb) for begin, end, verb in zip(begins, ends, verbs, strict=True) if end > begin]


def done_before(reading: TextReading, tokens: Sequence[Token], verbs: Sequence[VerbAt]) -> tuple[int, int]:
    """Returns (end of the first part, start of the second) [token positions] of a sentence that names the next step after “before”: “leave for half an hour before
    straining”, “let it cool before you add the mint”; (0, 0) for another sentence. `verbs` are those of the sentence.
    """
    words = reading.words
    if not verbs or not words.says("before_words", tokens):
        return 0, 0
    for at in range(verbs[0].end, len(tokens) - 1):
        before = words.at("before_words", tokens, at)
        if not before:
            continue
        begin = at + before[0]
        begin += tokens[begin].plain in words.words["persons"] if begin < len(tokens) else 0
        for start in range(begin, min(begin + _FEW, len(tokens))):
            found = words.at("verbs", tokens, start)
            if found and found[1] in _FOLLOWS and tokens[start].plain not in words.words["dose_words"]:
                return at, begin
            if joins(tokens[start], words.words):
                break
    return 0, 0


def _within_numbers(reading: TextReading, tokens: Sequence[Token]) -> set[int]:
    """Returns the positions inside quantities, at which a clause must not be split: the “and” of “two hundred and fifty”."""
    return {at for q in reading.quantities.all(tokens) for at in range(q.start + 1, q.end - 1)}


def joins(token: Token, words: Mapping[str, Any]) -> bool:
    """Returns True for what parts two clauses: a mark, “and”, “then”."""
    return token.plain in _HARD or token.plain in words["and"] or token.plain in words["then"]


def goes_in_behind(reading: TextReading, tokens: Sequence[Token], verb: VerbAt) -> Sequence[Token]:
    """Returns the tokens of an addition that follows a verb which takes no ingredients: “strain, then an equal weight of sugar”; () without one."""
    words = reading.words
    within = _within_numbers(reading, tokens)
    for at in range(verb.end, len(tokens) - 1):
        if at in within:
            continue
        measured = reading.measured_at(tokens, at + 1)
        # “Strain, citric 8 g”
        measured = measured or (tokens[at].plain == "," and _named_with_amount(reading, tokens[at + 1 :]))
        # “Strain, and fortify it with 150 g of vodka”, with a verb that nobody knows
        measured = measured or any(
            words.at("with", tokens, to) is not None and reading.measured_at(tokens, to + 1)
            for to in range(at + 2, min(at + _WINDOW, len(tokens) - 1))
        )
        # “Strain, and there's a spoon of lemon juice in there too”
        told = next((to for to in (at + 1, at + 2) if to + 1 < len(tokens) and tokens[to].plain in words.words["pronouns"]), None)
        measured = measured or (told is not None and _so_much_of(reading, tokens, told + 1))
        follows = joins(tokens[at], words.words) and (measured or words.at("same_as", tokens, at + 1))
        # “Strain it, then it gets 250 ml of syrup”
        behind_then = tokens[at].plain in words.words["then"] or tokens[at + 1].plain in words.words["then"]
        follows = follows or (behind_then and any(q.kind in MEASURED for q in reading.quantities.all(tokens[at + 1 :])))
        # “Strain over 1 kg sugar”, “strain, + sugar”, “fish it out, a pinch of salt”
        follows = follows or (measured and tokens[at].plain in words.words["onto"])
        follows = follows or (tokens[at].plain == "+" and at > verb.end) or (tokens[at].plain == "," and _pinch_of(reading, tokens, at + 1))
        behind = tokens[at + 1 :]
        # “Strain, sugar in”, “strain, citric, bottle”
        follows = follows or (joins(tokens[at], words.words) and behind[-1].plain in words.words["in_words"])
        follows = follows or (tokens[at].plain == "," and _only_names(reading, behind))
        named = next(reading.names.mentions(behind), None) is not None or words.says("forms", behind)
        if follows and (named or (tokens[at].plain == "+" and (measured or reading.speaks_of_listed(behind)))):
            return behind
    return ()


def _named_with_amount(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True if tokens begin with a material followed by its mass or volume: “citric 8 g”."""
    named = next(reading.names.mentions(tokens), None)
    behind = named.end if named is not None and named.start == 0 else len(tokens)
    amount = reading.quantities.at(tokens, behind) if behind < len(tokens) else None
    return amount is not None and amount.kind in MEASURED


def _only_names(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True if tokens are the name of one ingredient of the list, and nothing else."""
    named = next(reading.names.mentions(tokens), None)
    if named is None or named.start or named.end < len(tokens) or named.key is None:
        return False
    kinds = {reading.material(item.key).kind for item in reading.listed}
    return reading.speaks_of_listed(tokens) or reading.material(named.key).kind in kinds


def _so_much_of(reading: TextReading, tokens: Sequence[Token], at: int) -> bool:
    """Returns True for “200 ml of water”, “a spoon of lemon juice” at a position."""
    return reading.measured_at(tokens, at) or _pinch_of(reading, tokens, at)


def _pinch_of(reading: TextReading, tokens: Sequence[Token], at: int) -> bool:
    """Returns True for “a pinch of salt” at a position: a vague amount of a thing right behind it."""
    found = reading.quantities.at(tokens, at)
    if found is None or found.kind != "vague":
        return False
    named = next(reading.names.mentions(tokens[found.end :]), None)
    return named is not None and named.start <= 1


def long_wait_behind(reading: TextReading, tokens: Sequence[Token], verb: VerbAt) -> Quantity | None:
    """Returns the quantity of a wait [min] that follows a short operation: “mix, 24 h fridge”; None if there is none."""
    if verb.name not in (*_OF_A_MOMENT, *_STRAINS, "cool"):
        return None
    # “Stir the seeds into the water, 15 min” waits, “stir, 15 min” does not.
    put_in = verb.name == "combine" and next(reading.names.mentions(tokens[verb.end :]), None) is not None
    # “Cool, 24 h in the fridge”
    least = _A_DAY if verb.name in (*_STRAINS, "cool") else _TEN_MINUTES if put_in or verb.name in _OF_A_MACHINE else _AN_HOUR
    return next(
        (
            q
            for q in reading.quantities.all(tokens)
            if q.kind == "minutes" and q.amount.value >= least and q.start > verb.end and _begins_behind_a_mark(reading, tokens, q)
        ),
        None,
    )


def second_wait(reading: TextReading, tokens: Sequence[Token], verb: VerbAt) -> int:
    """Returns where a second wait begins in a clause that waits: “leave 2 h at room temperature, then a night in the freezer”; 0 without one."""
    words = reading.words.words
    if verb.name not in _WAITS:
        return 0
    waits = [q.start for q in reading.quantities.all(tokens) if q.kind == "minutes" and not is_interval(reading, tokens, q)]
    between = range(waits[0] + 1, waits[-1]) if len(waits) > 1 else ()
    then = next((at + 1 for at in between if tokens[at].plain in words["then"]), 0)
    return then if then and then < len(tokens) else 0


def goes_in_after(reading: TextReading, tokens: Sequence[Token], verb: VerbAt) -> int:
    """Returns where the first addition without a verb begins in a clause that heats or waits: the “leaves in” of “heat the milk to 80 C, leaves in, 1 h”; 0 without one."""
    if verb.name not in (*_HEATS, *_WAITS):
        return 0
    words = reading.words.words
    cuts = [at for at in range(verb.end, len(tokens)) if tokens[at].plain == ","]
    for cut, end in pairwise([*cuts, len(tokens)]):
        part = tokens[cut + 1 : end]
        named = (
            next(reading.names.mentions(part), None) is not None
            or reading.speaks_of_listed(part)
            or reading.words.says("group_words", part)
        )
        if len(part) > 1 and part[-1].plain in words["in_words"] and named:
            return cut + 1
    return 0


def _begins_behind_a_mark(reading: TextReading, tokens: Sequence[Token], wait: Quantity) -> bool:
    """Returns True if a time, with the temperature before it if there is one, follows a mark or “and”: “blend, 60 C 10 min”."""
    heat = next((q for q in reading.quantities.all(tokens) if q.kind == "celsius" and q.end == wait.start), None)
    start = heat.start if heat is not None else wait.start
    return start > 0 and joins(tokens[start - 1], reading.words.words)


def is_interval(reading: TextReading, tokens: Sequence[Token], time: Quantity) -> bool:
    """Returns True for a time that says how often, not how long: “every 10 minutes”."""
    return time.start > 0 and tokens[time.start - 1].plain in reading.words.words["every_words"]


def _meant(reading: TextReading, tokens: Sequence[Token], name: str, quantities: Sequence[Quantity]) -> str:
    """Returns the verb of a clause, corrected by the words around it: "crush" for “break up” without agar, "agar" for “cut the gel”, "make_up" for “bring to 1 litre”, else `name`."""
    if name == "agar" and not reading.words.says("gel_words", tokens) and "agar" not in plain(reading.text):
        return "crush"
    if name == "cut" and reading.words.says("gel_words", tokens) and "agar" in plain(reading.text):
        # “Cut the gel with a whisk”
        return "agar"
    return "make_up" if name == "bring_to" and any(_is_level(reading, tokens, quantity) for quantity in quantities) else name


def _is_level(reading: TextReading, tokens: Sequence[Token], quantity: Quantity) -> bool:
    """Returns True if a volume is a fill level: “to” precedes it and no “of” follows, as in “bring to 1 litre”."""
    words = reading.words
    # “Up to” may be read with the amount.
    led = any(token.plain in words.words["to"] for token in tokens[max(0, quantity.start - 1) : quantity.end])
    return quantity.kind == "volume" and led and words.at("of", tokens, quantity.end) is None


def _kept_for(reading: TextReading, behind: Sequence[Token]) -> bool:
    """Returns True if a named material is kept for another purpose: “keep the rhubarb for the kitchen”."""
    named = next(reading.names.mentions(behind), None)
    return named is not None and named.start <= 1 and any(token.plain in reading.words.words["made_for"] for token in behind[named.end :])


def _taken_out(reading: TextReading, tokens: Sequence[Token], verb: VerbAt, quantities: Sequence[Quantity]) -> bool:
    """Returns True for “take the pods out”: an ingredient is removed from the vessel."""
    words = reading.words.words
    behind = tokens[verb.end : verb.end + _WINDOW]
    takes = verb.end == verb.start + 1 and tokens[verb.start].plain in words["take_words"]
    return takes and any(token.plain in words["out_words"] for token in behind) and not any(q.kind in MEASURED for q in quantities)


def _mixed_in(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True for “stir through the maple syrup”: an ingredient follows “through”, not a sieve."""
    if any(token.plain in reading.words.words["stir_words"] for token in tokens):
        # “Fold through the flower water”
        return True
    at = next((at for at, token in enumerate(tokens) if token.plain in reading.words.words["through_words"]), len(tokens))
    behind = tokens[at + 1 : at + 1 + _WINDOW]
    named = next(reading.names.mentions(behind), None)
    return named is not None and named.start <= 1 and not reading.words.says("sieve_words", behind)


def _by_its_words(reading: TextReading, tokens: Sequence[Token], verb: VerbAt, quantities: Sequence[Quantity]) -> str:
    """Returns the verb of a clause if words after it change its meaning: "hold" for “warm sous vide”, "blend" for “blend in for a minute”, "boil" for “koche … auf”,
    "nothing" for “keep the fruit for the kitchen”. Returns "" if none do."""
    words, behind = reading.words, tokens[verb.end :]
    timed = any(q.kind == "minutes" for q in quantities)
    if verb.name in _WARMS and words.says("sous_vide", behind):
        return "hold"
    if verb.name == "store" and not quantities and _kept_for(reading, behind):
        return "nothing"
    if verb.name == "combine" and timed and words.at("verbs", tokens[verb.start : verb.start + 1], 0) == (1, "blend"):
        return "blend"
    return "boil" if verb.name == "simmer" and behind and behind[-1].plain in words.words["to_the_boil"] else ""


def name_of(reading: TextReading, tokens: Sequence[Token], verb: VerbAt, quantities: Sequence[Quantity]) -> str:
    """Returns the verb of a clause. A word without an action of its own is “wait” if a time follows it, “combine” if it covers with an ingredient, else “nothing”."""
    words, behind = reading.words, tokens[verb.end :]
    covers = tokens[verb.start].plain in words.words["cover_words"] and words.says("with", tokens)
    lid = covers and words.says("lid_words", behind) and next(reading.names.mentions(behind), None) is None
    # In German the verb stands last: “durch ein feines Sieb geben”.
    through = any(token.plain in words.words["through_words"] for token in tokens) and not _mixed_in(reading, tokens)
    # “Tip it into a muslin”
    sieve = any(token.plain in words.words["onto"] for token in behind) and words.says("sieve_words", behind)
    through = through or (sieve and next(reading.names.mentions(behind), None) is None)
    if verb.name == "juice" and words.says("sieve_words", behind) and next(reading.names.mentions(behind), None) is None:
        # “Spremi con una garza”
        return "press"
    done = _by_its_words(reading, tokens, verb, quantities)
    if done:
        return _meant(reading, tokens, done, quantities)
    # “Bag it 3 h, no squeeze”
    bagged = verb.name == "bottle" and tokens[verb.start].plain in words.words["bag_words"] and pressed(reading, tokens) is not None
    # “Filter through muslin”
    cloth = verb.name == "filter" and words.says("sieve_words", behind)
    if bagged or cloth or (verb.name == "combine" and _taken_out(reading, tokens, verb, quantities)):
        return "strain"
    if verb.name in ("combine", "settle") and through and not any(q.kind in ("mass", "volume") for q in quantities):
        # “Pour it through a coffee filter”
        return "strain"
    if verb.name != "nothing" and not (verb.name == "combine" and lid):
        return _meant(reading, tokens, verb.name, quantities)
    if any(token.plain in words.words["simmer_words"] for token in tokens[verb.start : verb.end]) and any(
        q.kind == "minutes" for q in quantities
    ):
        # “Reduce to a simmer for 45 minutes”
        return "simmer"
    if any(token.plain in words.words["want_words"] for token in tokens[verb.start : verb.end]) and any(
        (reading.measured_at(tokens, q.start) or words.at("of", tokens, q.end))
        and next(reading.names.mentions(tokens[q.end :]), None) is not None
        for q in quantities
        if q.start >= verb.end
    ):
        # “For every 100 g of milk you want 100 g of sugar”
        return "combine"
    said = tokens if "verb_last" in words.data else behind
    seals = tokens[verb.start].plain in words.words["seals"]
    if (covers or seals) and next(reading.names.mentions(said), None):
        # “Cover them with their own weight in sugar.”, “seal plums and sugar in a bag”
        return "combine"
    # “3 Tage kühl stellen”
    timed = any(q.kind == "minutes" and not is_interval(reading, tokens, q) for q in quantities if q.start >= verb.end or said is tokens)
    # “20 min lid on”
    timed = timed or (words.says("lid_on", tokens[verb.start : verb.end]) and any(q.kind == "minutes" for q in quantities))
    return "wait" if timed and tokens[0].plain not in words.words["claims"] else "nothing"
