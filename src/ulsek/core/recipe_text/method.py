"""Sentences of a method as actions: the verb of each clause, its minutes and degrees, and what it says of the things that go in."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import zip_longest

from ..base import budgets
from ..base.messages import message
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .action import Action, told
from .clauses import clauses, goes_in_behind, joins, long_wait_behind, name_of, pressed
from .text_reading import TextReading
from .verbs import VerbAt, VerbFinder

_HEATS = ("bring_to", "dissolve", "boil", "hold")
_TWICE = (("wait", "cool"), ("cool", "cool"), ("label", "label"), ("store", "store"), ("bottle", "bottle"))
"""Actions that say one thing in two verbs."""
_PREPARES = ("peel", "wash", "core", "zest", "cut", "crush", "juice")
_LONG = 120.0
"""Minutes from which stirring and shaking are a wait [min]."""
_LEAD = 4
"""Tokens before the time of a wait that has no verb, at most [count]: “vac bag 24 h”."""
_ALONE = 2
"""Tokens of a verb that stands without its object [count]: “peel and …”."""
_PUTS_NOTHING_IN = ("strain", "filter", "press", "drip", "skim", "cool", "bottle", "store", "freeze", "wait")
"""Verbs into which nothing goes, so that an amount before them is a step of its own."""
_PARTS_OF = ("juice", "peel", "zest")
"""Verbs that take a part of a fruit, so that an amount behind them is what they give."""
_AT_THE_END = ("bottle", "label", "store")
"""Verbs behind which a sentence without a verb tells no step."""
_STRAINS = ("strain", "filter", "press", "drip", "skim")


class MethodReader:
    """Reads the sentences of one text into actions."""

    def __init__(self, reading: TextReading, verbs: VerbFinder) -> None:
        self._reading, self._verbs = reading, verbs
        self.actions: list[Action] = []

    def read(self, line: int, sentence: Sequence[Token]) -> None:
        """Adds the actions of one sentence."""
        reading = self._reading
        budgets.within(self.actions, budgets.STEPS, message("steps"), "text", message("Paste one recipe at a time"))
        verbs = list(self._verbs.all(sentence, participles=True))
        verbs = [verb for verb, behind in zip_longest(verbs, verbs[1:]) if not self._of_the_ratio(sentence, verb, behind)]
        fresh = len(self.actions)
        if not verbs:
            self._without_verb(line, sentence)
        elif cut := self._timed_lead(sentence, verbs[0]):
            self._without_verb(line, sentence[:cut])
            verbs = list(self._verbs.all(sentence[cut:], participles=True))
            sentence = sentence[cut:]
        for begin, end, verb in clauses(sentence, verbs, reading) if verbs else ():
            last = end
            while last > verb.end and joins(sentence[last - 1], reading.words.words):
                last -= 1
            self._clause(line, sentence[begin:last], VerbAt(verb.start - begin, verb.end - begin, verb.name), fresh)

    def _of_the_ratio(self, sentence: Sequence[Token], verb: VerbAt, behind: VerbAt | None) -> bool:
        """Returns True for a verb inside the basis of a ratio, which is no step: “get” of “for every pint you get you put a pound of sugar”."""
        words = self._reading.words
        if behind is None or any(joins(token, words.words) for token in sentence[verb.end : behind.start]):
            return False
        begin = verb.start
        while begin and not joins(sentence[begin - 1], words.words):
            begin -= 1
        return words.at("per", sentence, begin) is not None

    def noted(self, tokens: Sequence[Token]) -> None:
        """Takes what a note says of the straining: “Note: don't squeeze”."""
        pressing = pressed(self._reading, tokens)
        last = next((action for action in reversed(self.actions) if action.verb in ("strain", "filter", "press")), None)
        if pressing is not None and last is not None:
            last.pressed = pressing

    def _timed_lead(self, sentence: Sequence[Token], verb: VerbAt) -> int:
        """Returns where a wait without a verb ends at the beginning of a sentence: “4hrs covered, + 150 g water, press”; 0 if there is none."""
        quantities = self._reading.quantities.all(sentence[: verb.start])
        if (
            not quantities
            or quantities[0].kind != "minutes"
            or quantities[0].start > _LEAD
            or self._reading.words.says("lead_words", sentence[: quantities[0].start])
        ):
            return 0
        comma = next((at for at in range(quantities[0].end, verb.start) if sentence[at].plain in (",", "+", ";")), None)
        return comma + 1 if comma is not None and comma < verb.start else 0

    def _without_verb(self, line: int, tokens: Sequence[Token]) -> None:
        """A row without a verb: a wait (“1 h at room temperature”), a thing that goes in (“+ 150 g water”), or words that no step took."""
        reading = self._reading
        quantities = reading.quantities.all(tokens)
        if self.actions and self.actions[-1].verb in _AT_THE_END and tokens[0].kind == "word":
            return  # Behind the bottle nothing goes in by itself: “lovely with 5 g of salt as well”.
        if self.actions and any(q.kind == "ph" for q in quantities):
            # “The pH should be about 3” is said of what was done before.
            self.actions[-1].quantities = [*self.actions[-1].quantities, *(q for q in quantities if q.kind == "ph")]
            return
        wait = next((q for q in quantities if q.kind == "minutes"), None)
        if wait is not None:
            self.actions.append(told(self._reading, "wait", line, tokens, quantities))
            return
        named = next(iter(reading.names.mentions(tokens)), None)
        measured = any(q.kind in ("mass", "volume", "vague") for q in quantities) or reading.words.says("same_as", tokens)
        measured = measured or tokens[0].plain == "+"
        if named is not None and measured:
            self.actions.append(told(self._reading, "combine", line, tokens, quantities))
            return
        if named is not None and (tokens[-1].plain in reading.words.words["in_words"] or reading.words.says("to_taste", tokens)):
            # “Lemon juice in. Rose water to taste.”
            self.actions.append(told(self._reading, "combine", line, tokens, quantities))
            return
        if named is not None and reading.words.says("boil_words", tokens):
            # “Water and sugar to a simmer”
            self.actions.append(told(self._reading, "bring_to", line, tokens, quantities))
            return
        if tokens[0].plain in reading.words.words["onto"] and reading.words.says("bottle_words", tokens):
            # “Into a clean bottle”
            self.actions.append(told(self._reading, "bottle", line, tokens, quantities))
            return
        if reading.words.says("off_heat_words", tokens):
            self.actions.append(told(self._reading, "off_heat", line, tokens, quantities))
            return
        if pressed(reading, tokens) is not None:
            self.noted(tokens)
            return
        if self._asks_to_do(tokens) or self._speaks_of_the_list(tokens):
            action = told(self._reading, "combine", line, tokens, quantities)
            action.unread = True
            self.actions.append(action)

    def _speaks_of_the_list(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a sentence that begins with a condition and names a thing of the list: something is to be done with it."""
        listed = {item.key for item in self._reading.listed}
        begins = tokens[0].plain in self._reading.words.words["lead_words"] or tokens[0].plain in self._reading.words.words["then"]
        return begins and any(item.key in listed for item in self._reading.names.mentions(tokens))

    def _asks_to_do(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a sentence that seems to tell a step with a verb that nobody knows: “Coax everything along the bowl”."""
        return (
            len(tokens) >= 3
            and tokens[0].kind == "word"
            and tokens[1].plain in self._reading.words.words["after_verb"]
            and tokens[0].plain not in self._reading.words.words["not_a_verb"]
            and tokens[0].plain not in self._reading.words.words["negation"]
        )

    def _clause(self, line: int, tokens: Sequence[Token], verb: VerbAt, fresh: int) -> None:
        words, reading = self._reading.words, self._reading
        wait = long_wait_behind(reading, tokens, verb)
        if wait is not None:
            end = next((at for at in range(wait.end, len(tokens)) if joins(tokens[at], words.words)), len(tokens))
            self._clause(line, tokens[: wait.start - 1], verb, fresh)
            self._without_verb(line, tokens[wait.start : end])
            if end + 1 < len(tokens):
                self._without_verb(line, tokens[end + 1 :])
            return
        if self._gives(tokens, verb) or self._only_measures(tokens, verb) or self._meanwhile(tokens, verb, fresh):
            return
        lead = tokens[: verb.start]
        quantities = reading.quantities.all(tokens)
        if words.says("after_words", lead) and not self._waited(fresh):
            self._wait_before(line, lead)
            quantities = [q for q in quantities if q.kind != "minutes" or q.start >= verb.end]
        if verb.name in (*_PUTS_NOTHING_IN, "shake") and any(
            q.kind in ("mass", "volume", "vague") and q.end <= verb.start for q in quantities
        ):
            # “+ 150 g water, press”: what goes in is a step of its own.
            self.actions.append(told(reading, "combine", line, lead, reading.quantities.all(lead)))
            if self.actions[-1].minutes is not None:
                # “20 g tea, 1 L water at 80 °C, 5 min, strain”: its time is a wait.
                timed = [q for q in reading.quantities.all(lead) if q.kind in ("minutes", "celsius", "degrees")]
                self.actions.append(told(reading, "wait", line, lead, timed))
            tokens, verb, lead = tokens[verb.start :], VerbAt(0, verb.end - verb.start, verb.name), ()
            quantities = reading.quantities.all(tokens)
        tail = goes_in_behind(reading, tokens, verb) if verb.name in _PUTS_NOTHING_IN else ()
        if tail:
            tokens = tokens[: len(tokens) - len(tail) - 1]
            quantities = reading.quantities.all(tokens)
        name = name_of(reading, tokens, verb, quantities)
        tells = name == "nothing" and words.says("preps", lead) and any(q.kind in MEASURED and q.start >= verb.end for q in quantities)
        if tells or (name == "nothing" and next(reading.names.mentions(lead), None) is not None):
            # “Push the flowers under, cover and leave”: what stands before the lid goes in; “the syrup we do is a kilo of ginger”: what is measured.
            lead = tokens if any(q.kind in MEASURED and q.start >= verb.end for q in quantities) else lead
            name, tokens, verb, quantities = "combine", lead, VerbAt(0, 0, "combine"), reading.quantities.all(lead)
        action = told(reading, name, line, tokens, quantities)
        if name in ("combine", "shake") and action.minutes and action.minutes.value >= _LONG and not self._speaks_of_things(action):
            # “Shake daily for a week” waits.
            action.verb = name = "wait"
        action.word = " ".join(token.plain for token in tokens[verb.start : verb.end])
        action.told_from = verb.start
        action.puts_in = name == "combine"
        if name == "combine" and words.says("off_heat_words", lead):
            action.verb = "off_heat"
        puts = tokens[verb.start].plain in words.words["put_words"] or tokens[verb.start].plain in words.words["add_words"]
        long = action.minutes if name == "combine" and action.minutes is not None and (puts or action.minutes.value >= _LONG) else None
        action.minutes = None if long else action.minutes
        self._take(action, fresh)
        if long:
            # “Hydrate the gum in the water overnight”
            time = next(q for q in quantities if q.kind == "minutes")
            heat = next((q for q in quantities if q.kind == "celsius" and 0 <= time.start - q.end <= 1), time)
            alone = tokens[heat.start :]
            self.actions.append(told(reading, "wait", line, alone, reading.quantities.all(alone)))
        if tail:
            self.actions.append(told(reading, "combine", line, tail, reading.quantities.all(tail)))

    def _only_measures(self, tokens: Sequence[Token], verb: VerbAt) -> bool:
        """Returns True for “measure the juice”: nothing goes in."""
        words, behind = self._reading.words.words, tokens[verb.end :]
        measured = any(q.kind in ("mass", "volume", "percent") for q in self._reading.quantities.all(tokens))
        speaks = not any(token.kind == "word" for token in behind) or any(token.plain in words["strained"] for token in behind)
        return tokens[verb.start].plain in words["measure_words"] and not measured and speaks

    def _meanwhile(self, tokens: Sequence[Token], verb: VerbAt, fresh: int) -> bool:
        """Takes “stirring, about 3 minutes” as the time of the verb before it in the sentence; False for another clause."""
        last = self.actions[-1] if len(self.actions) > fresh else None
        if (
            verb.name != "nothing"
            or last is None
            or last.minutes is not None
            or tokens[verb.start].plain not in self._reading.words.words["while_words"]
        ):
            return False
        time = next((q for q in self._reading.quantities.all(tokens) if q.kind == "minutes" and not self._every(tokens, q)), None)
        if time is None or time.amount.value >= _LONG:
            return False
        last.minutes = time.amount
        return True

    def _every(self, tokens: Sequence[Token], quantity: Quantity) -> bool:
        return quantity.start > 0 and tokens[quantity.start - 1].plain in self._reading.words.words["every_words"]

    def _gives(self, tokens: Sequence[Token], verb: VerbAt) -> bool:
        """Takes “you need 400 ml” as what the juicing before it gives; False for another clause."""
        last = self.actions[-1] if self.actions else None
        if verb.name != "nothing" or last is None or last.verb not in (*_PARTS_OF, "combine"):
            return False
        # “Take the juice of two pineapples, call it a litre”
        if last.verb == "combine" and not self._one_counted(last):
            return False
        size = next((q for q in self._reading.quantities.all(tokens) if q.kind in ("mass", "volume") and q.start >= verb.end), None)
        if size is None:
            return False
        last.gives, last.gives_end = size, tokens[size.end - 1].end
        rest = tokens[size.end :]
        while rest and (joins(rest[0], self._reading.words.words) or rest[0].plain in self._reading.words.words["is_words"]):
            rest = rest[1:]
        if next(self._reading.names.mentions(rest), None) is not None:
            self._without_verb(last.line, rest)
        return True

    def _one_counted(self, action: Action) -> bool:
        """Returns True if the only amount of an action is a count of fruit whose part is named: “the juice of two pineapples”."""
        amounts = [q.kind for q in action.quantities]
        return amounts == ["count"] and self._reading.words.says("part_words", action.tokens)

    def _wait_before(self, line: int, lead: Sequence[Token]) -> None:
        """Takes “after 20 minutes” before a verb: as the time of the wait before it, else as a wait."""
        waits = [q for q in self._reading.quantities.all(lead) if q.kind == "minutes"]
        if not waits:
            return
        last = self.actions[-1] if self.actions else None
        if last is not None and last.minutes is None and last.verb in ("steep", "infuse", "wait", "macerate"):
            last.minutes = waits[0].amount
        else:
            self.actions.append(told(self._reading, "wait", line, lead, waits))

    def _waited(self, fresh: int) -> bool:
        """Returns True if the action before has a time already: “steep 20 minutes. After 20 minutes, strain.”"""
        last = self.actions[-1] if self.actions else None
        return last is not None and last.minutes is not None and len(self.actions) == fresh and last.verb in ("steep", "infuse", "wait")

    def _take(self, action: Action, fresh: int) -> None:
        """Adds an action, joined to the one before where both are one: “take it off the heat and add”, “put it in a pan and heat”."""
        last = self.actions[-1] if len(self.actions) > 0 else None
        same = last is not None and len(self.actions) > fresh
        if last is None or not self._joined(last, action, same=same):
            if action.verb == "skim" and not self._fat() and self._speaks_of_things(action):
                # “Skim the juices and strain”: they go in here.
                action.verb, action.puts_in = "combine", True
            if action.verb == "cut" and not self._speaks_of_things(action) and any(item.key == "agar" for item in self._reading.listed):
                # “Set 30 min, break, strain”: what is broken is the gel.
                action.verb = "agar"
            if action.verb in ("nothing", "skim") and not (action.verb == "skim" and self._fat()):
                return
            if action.verb == "discard" and any(done.verb in _STRAINS for done in self.actions[-3:]):
                return
            self.actions.append(action)

    def _fat(self) -> bool:
        """Returns True if a fat stands in the list: what is skimmed off is that."""
        return any(self._reading.material(item.key).kind == "fat" for item in self._reading.listed)

    def _joined(self, last: Action, action: Action, *, same: bool) -> bool:
        """Joins an action to the one before where both are one step; False where they are two. `same`: they stand in one sentence."""
        if last.word.startswith("soak") and action.word.startswith("drain"):
            # What was soaked stays, its water goes: nothing is strained off that counts.
            self._extend(last, action)
            return True
        verb = self._off_the_heat(last, action, same=same) or (self._one_step(last, action) if same else None)
        if verb is None:
            return False
        self._merge(last, action, verb)
        return True

    def _off_the_heat(self, last: Action, action: Action, *, same: bool) -> str | None:
        """The verb of “take it off the heat” and what is done with it then; None where one is not about the other."""
        if action.verb == "off_heat" and same and last.verb in ("wait", "steep", "infuse") and not self._speaks_of_things(action):
            return last.verb
        if action.verb == "off_heat" and same and last.verb == "combine" and not self._speaks_of_things(action):
            # “Add sugar off the heat”
            return "off_heat"
        alone = last.verb == "off_heat" and not last.puts_in and not self._speaks_of_things(last) and last.minutes is None
        if alone and (same or action.verb in ("combine", "wait", "steep", "cool", "infuse", "off_heat")):
            return "off_heat" if action.verb == "combine" else action.verb
        return None

    def _one_step(self, last: Action, action: Action) -> str | None:
        """The verb of two actions of one sentence that are one step: “peel and chop the ginger”, “put it in a pan and heat”; None for two steps."""
        verbs, silent = (last.verb, action.verb), not self._speaks_of_things(action)
        if last.verb in _PREPARES and action.verb in _PREPARES and len(last.tokens) <= _ALONE:
            return "cut" if "cut" in verbs else action.verb
        if last.verb == "combine" and action.verb in _HEATS and last.word in self._reading.words.words["put_words"] and silent:
            return action.verb
        if (
            action.verb == "store"
            and last.verb in ("steep", "wait", "infuse", "macerate")
            and last.minutes is not None
            and len(action.tokens) <= _ALONE
        ):
            # “Cold brew 8 h, fridge”: where it stands meanwhile.
            return last.verb if action.word in self._reading.words.words["places"] else None
        if verbs == ("strain", "press"):
            action.pressed = action.pressed is not False
            return "strain"
        if last.verb == "agar" and action.verb in ("strain", "filter"):
            return "agar"
        if verbs in _TWICE and last.minutes is None:
            return action.verb
        return "combine" if verbs == ("combine", "combine") and silent and action.minutes is None else None

    def _speaks_of_things(self, action: Action) -> bool:
        return next(iter(self._reading.names.mentions(action.tokens)), None) is not None or any(
            q.kind in ("mass", "volume", "vague") for q in action.quantities
        )

    @staticmethod
    def _extend(last: Action, action: Action) -> None:
        last.tokens = [*last.tokens, *action.tokens]
        last.pressed = action.pressed if action.pressed is not None else last.pressed

    def _merge(self, last: Action, action: Action, verb: str) -> None:
        offset = len(last.tokens)
        moved = [Quantity(q.start + offset, q.end + offset, q.kind, q.amount, q.unit, q.other, q.imprecise) for q in action.quantities]
        self._extend(last, action)
        last.verb, last.word = verb, action.word or last.word
        last.minutes = action.minutes or last.minutes
        last.celsius = action.celsius or last.celsius
        last.degrees = action.degrees or last.degrees
        last.everything = last.everything or action.everything
        last.but, last.into = action.but or last.but, action.into or last.into
        last.quantities = [*last.quantities, *moved]
        last.hot = last.hot or action.hot
        last.puts_in = last.puts_in or action.puts_in
