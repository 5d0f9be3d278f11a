"""What one clause of a method tells to do, and the minutes, degrees and amounts that its words say."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from ..base.ranges import Range
from ..written.lexicon import Lexicon
from ..written.quantities import Quantity
from ..written.tokens import Token
from .clauses import pressed
from .ingredient import Ingredient
from .text_reading import TextReading

_TIMED = ("steep", "simmer", "infuse", "hold", "wait", "macerate", "boil")
"""Verbs behind which a bare number is a time."""
_WAITS = ("wait", "steep", "infuse", "macerate", "shake")
"""Verbs whose times add up."""
_TAKE_HEAT = ("bring_to", "dissolve", "boil", "hold", "toast", "steep", "infuse", "simmer", "caramelise", "cool")
_COLD, _DEGREES = 1.0, (30.0, 260.0)
"""Numbers behind “at” that are degrees [°C or °F]; house experience."""
_BOILS = 104.0
"""Boiling point of a thin syrup in an open pan [°C]: a larger bare number may be °F."""
FINISHING_VERBS = ("bottle", "hot_fill", "label", "store")
"""Verbs after which nothing is added, and a wait is storage."""


@dataclass(eq=False)
class Action:
    """What one clause of a method tells to do: a verb with its minutes [min], its degrees [°C], and the ingredients that go in at it.

    `verb` is a verb of the spec file, or one of the reader's own until the draft is made: `wait` and `boil`, whose verb depends on what the vessel holds; `press`, `drip`,
    `skim`, `centrifuge` and `shake`; `nothing` for what is not to be done. `start` and `end` are the clause's place in the text [letters].

    `minutes` [min] and `celsius` [°C] are None if they are not written; `degrees` are those whose scale nobody wrote; `into` are tokens behind “onto” or “into”
    of a strain; `everything`: it speaks of all that is there; `but` are the tokens behind “everything but”; `told_from` is the position of its verb in its tokens;
    `puts_in`: something goes in at it; `unit_open`: its time has no unit; `gives` is what it should give (“juice a head of celery, you need 400 ml”), which ends at
    `gives_end` in the text [letters]; `vessel` is where it is done; `share` [g/g] is what is poured of it into the pot, where the verb is `split`, told by the words of
    `place` [letters]; `announced`: it stands behind “before”, and may be told once more; `lid` is “on” or “off” as far as that is said.
    """

    verb: str
    line: int
    tokens: Sequence[Token]
    minutes: Range | None = None
    celsius: Range | None = None
    degrees: float | None = None
    pressed: bool | None = None
    hot: bool = False
    everything: bool = False
    but: Sequence[Token] = ()
    into: Sequence[Token] = ()
    quantities: Sequence[Quantity] = ()
    lines: list[Ingredient] = field(default_factory=list)
    word: str = ""
    discard: bool = False
    unread: bool = False
    told_from: int = 0
    puts_in: bool = False
    unit_open: bool = False
    gives: Quantity | None = None
    gives_end: int = 0
    vessel: str = "pot"
    share: float = 0.0
    place: tuple[int, int] = (0, 0)
    announced: bool = False
    lid: str = ""

    @property
    def start(self) -> int:
        """Where it begins in the text [letters]."""
        return self.tokens[0].start if self.tokens else self.place[0]

    @property
    def end(self) -> int:
        """Where it ends in the text [letters]."""
        return self.tokens[-1].end if self.tokens else self.place[1]


def told(reading: TextReading, verb: str, line: int, tokens: Sequence[Token], quantities: Sequence[Quantity]) -> Action:
    """Returns an action with the minutes, degrees and pressing that its words say."""
    words = reading.words
    quantities = _without_its_verb(words, verb, tokens, quantities)
    minutes = _minutes(words, verb, tokens, quantities)
    bare = quantities[-1] if quantities else None
    # “Simmer 15”, “simmer 30 lid”
    ends = bare is not None and (bare.end == len(tokens) or words.at("lid_on", tokens, bare.end) is not None)
    timeless = minutes is None and verb in _TIMED and bare is not None and bare.kind == "count" and ends and not bare.imprecise
    spoken = timeless and bare is not None and bare.start > 0 and tokens[bare.start - 1].plain in words.words["made_for"]
    if timeless and bare is not None and (spoken or tokens[bare.start].number is not None):
        # “Steep 15.”, “let it tick over for twenty”: minutes, which is asked.
        minutes = bare.amount
    celsius = next((q.amount for q in quantities if q.kind == "celsius"), None)
    degrees = next((q.amount.value for q in quantities if q.kind == "degrees"), None) or _bare_degrees(words, verb, tokens, quantities)
    scaled = any(q.kind == "degrees" for q in quantities)
    if degrees and celsius is None and not scaled and degrees <= _BOILS and reading.metric_only:
        # “Heat to 80”, “cool to 20” in a text that weighs in grams: nobody means so many degrees Fahrenheit.
        celsius, degrees = Range.exact(degrees), None
    hit = _everything(reading, tokens)
    everything = hit is not None or _the_rest(reading, tokens)
    but = words.phrases["except"].within(tokens[hit[0] :]) if hit else None
    # “Pressing down on the solids” puts nothing in.
    into = next(
        (
            at
            for at, token in enumerate(tokens)
            if token.plain in words.words["onto"]
            and not any(before.plain in words.words["pressing"] for before in tokens[max(0, at - 2) : at])
        ),
        None,
    )
    return Action(
        verb,
        line,
        tokens,
        minutes,
        celsius,
        degrees,
        pressed=pressed(reading, tokens),
        hot=words.says("hot_words", tokens),
        everything=everything,
        but=tokens[hit[0] + but[0] + but[1] :] if hit and but else (),
        into=tokens[into + 1 :] if into is not None else (),
        quantities=quantities,
        unit_open=timeless and minutes is not None,
        lid="off" if words.says("lid_off", tokens) else "on" if words.says("lid_on", tokens) else "",
    )


def _minutes(words: Lexicon, verb: str, tokens: Sequence[Token], quantities: Sequence[Quantity]) -> Range | None:
    """Returns the time of an action [min], None if none is written. Two times of a wait that “then” joins are added: “daily for a week, then weekly for 2 months”."""
    every, then = words.words["every_words"], words.words["then"]
    # “Stirring twice a day” is no wait of a day.
    times = [q for q in quantities if q.kind == "minutes" and not (q.start and tokens[q.start - 1].plain in every)]
    if len(times) < 2 or verb not in _WAITS or not any(token.plain in then for token in tokens[times[0].end : times[1].start]):
        return times[0].amount if times else None
    one, other = times[0].amount, times[1].amount
    return Range(one.value + other.value, one.low + other.low, one.high + other.high)


def _without_its_verb(words: Lexicon, verb: str, tokens: Sequence[Token], quantities: Sequence[Quantity]) -> Sequence[Quantity]:
    """Returns the quantities without a word that is the verb itself: “quarter the limes” cuts limes and has no quantity of 0.25."""
    if verb != "cut":
        return quantities
    food, of = words.words["food_verbs"], words.words["of"]
    return [
        q
        for q in quantities
        if q.kind != "count" or q.imprecise or tokens[q.start].plain not in food or q.end == len(tokens) or tokens[q.end].plain in of
    ]


def _everything(reading: TextReading, tokens: Sequence[Token]) -> tuple[int, int] | None:
    """Returns (position, number of tokens) of the words that mean all that is there: “everything”, “all of it”; None without them."""
    words = reading.words.words
    hit = reading.words.phrases["everything"].within(tokens)
    before = tokens[hit[0] - 1].plain if hit and hit[0] else ""
    if hit is None or before in words["and"] or (before in words["in_words"] and tokens[hit[0]].plain in words["all_words"]):
        # “Grate the quinces, skin and all”, “12 days in all”
        return None
    if hit[1] == 1 and tokens[hit[0]].plain in words["all_words"]:
        # “All the sugar” is not all that is there.
        behind = tokens[hit[0] + 1 : hit[0] + 2]
        ends = not behind or behind[0].kind == "mark" or behind[0].plain in words["except"] or behind[0].plain in words["ends_name"]
        if not ends and not reading.quantities.at(tokens, hit[0] + 1):
            return None
    return hit[0], hit[1]


def _the_rest(reading: TextReading, tokens: Sequence[Token]) -> bool:
    """Returns True for “add the rest”: all that is left, where nothing behind it says of what."""
    rest = reading.words.phrases["rest"].within(tokens)
    if rest is None or not rest[0]:
        return False
    before, words = tokens[rest[0] - 1].plain, reading.words.words
    if before not in words["after_verb"] and before not in words["add_words"]:
        # “Rest 20 min”, “let it rest”
        return False
    behind = tokens[rest[0] + rest[1] :]
    return not (behind and behind[0].plain in reading.words.words["of"]) and next(reading.names.mentions(behind), None) is None


def _bare_degrees(words: Lexicon, verb: str, tokens: Sequence[Token], quantities: Sequence[Quantity]) -> float | None:
    """Returns the degrees of “toast at 150 for ten minutes”, whose scale nobody wrote; None where no such number stands behind “at”."""
    for q in quantities:
        at = q.start and tokens[q.start - 1].plain in words.words["at_words"]
        # “Heat to 80”, “cool to 40”
        at = at or (verb in ("bring_to", "dissolve", "cool") and q.start and tokens[q.start - 1].plain in words.words["to"])
        # “Heat 60, steep 20 min”
        at = at or (verb in ("bring_to", "dissolve") and q.start == 1 and q.end == len(tokens))
        ends = q.end == len(tokens) or tokens[q.end].kind == "mark" or not words.at("vague", tokens, q.end)
        least = _COLD if verb == "cool" else _DEGREES[0]
        if at and ends and q.kind == "count" and verb in _TAKE_HEAT and least <= q.amount.value <= _DEGREES[1]:
            return q.amount.value
    return None
