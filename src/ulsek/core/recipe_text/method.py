"""Sentences of a method as actions: the verb of each clause, its minutes and degrees, and what it says of the things that go in."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise, zip_longest

from ..base import budgets
from ..base.messages import message
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .action import Action, told
from .clauses import (
    clauses,
    done_before,
    goes_in_after,
    goes_in_behind,
    is_interval,
    joins,
    long_wait_behind,
    name_of,
    pressed,
    second_wait,
)
from .ingredient import LEAST_GRAMS
from .one_step import into_bottles, joined, repeats, speaks_of_things, throws_away
from .rows import with_slashes_parted
from .text_reading import TextReading
from .verbless import added_in_parts, parts_before, seems_a_step, timed_lead, verb_without_word
from .verbs import PUTS_NOTHING_IN, VerbAt, VerbFinder, moved

_LONG = 120.0
"""Minutes from which stirring and shaking are a wait [min]."""
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
        self._lid = ""

    def read(self, line: int, sentence: Sequence[Token]) -> None:
        """Adds the actions of one sentence."""
        reading = self._reading
        budgets.within(self.actions, budgets.STEPS, message("steps"), "text", message("Paste one recipe at a time"))
        self._lid = ""
        sentence = with_slashes_parted(sentence)
        parts = list(added_in_parts(reading, sentence))
        if len(parts) > 1:
            for part in parts:
                self.read(line, part)
            return
        verbs = list(self._verbs.all(sentence, participles=True))
        verbs = [verb for verb, behind in zip_longest(verbs, verbs[1:]) if not self._of_the_ratio(sentence, verb, behind)]
        verbs = [
            verb
            for before, verb in zip_longest([None, *verbs], verbs)
            if verb and not self._into_it(sentence, before, verb) and not repeats(reading, sentence, before, verb)
        ]
        first, second = done_before(reading, sentence, verbs)
        if first:
            self.read(line, sentence[:first])
            told_so_far = len(self.actions)
            self.read(line, sentence[second:])
            for action in self.actions[told_so_far:]:
                action.announced = True
            return
        fresh = len(self.actions)
        cut, parts = 0, [] if verbs else [sentence]
        while verbs and (more := timed_lead(reading, sentence[cut:], moved(verbs[0], -cut))):
            parts.append(sentence[cut : cut + more - 1])
            cut += more
        if verbs and not cut and (verbs[0].name == "cool" or verbs[0].name not in PUTS_NOTHING_IN):
            parts, cut = parts_before(reading, sentence, verbs[0])
        for part in parts:
            self._without_verb(line, part)
        if cut:
            sentence = sentence[cut:]
            verbs = list(self._verbs.all(sentence, participles=True))
        for begin, end, verb in clauses(sentence, verbs, reading) if verbs else ():
            last = end
            while last > verb.end and joins(sentence[last - 1], reading.words.words):
                last -= 1
            self._clause(line, sentence[begin:last], moved(verb, -begin), fresh)

    def _into_it(self, sentence: Sequence[Token], before: VerbAt | None, verb: VerbAt) -> bool:
        """Returns True if a “bottle” verb is the place into which an ingredient is put: “drop the chillies into the bottle”."""
        words = self._reading.words.words
        if before is None or before.name != "combine" or verb.name != "bottle" or sentence[verb.start].plain not in words["onto"]:
            return False
        between = sentence[before.end : verb.start]
        listed = {item.key for item in self._reading.listed}
        named = any(item.key in listed for item in self._reading.names.mentions(between)) or self._reading.words.says("everything", between)
        return named and not any(joins(token, words) for token in between)

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

    def _without_verb(self, line: int, tokens: Sequence[Token]) -> None:
        """Adds the action of tokens without a verb: a wait, an addition, or an unknown step. Adds none for other words."""
        reading = self._reading
        quantities = reading.quantities.all(tokens)
        timed = next((q.start for q in quantities if q.kind == "minutes"), 0)
        again = second_wait(reading, tokens, VerbAt(0, 0, "wait"))
        if again:
            # “Spices 24 h, then dill 4 h”
            self._without_verb(line, tokens[: again - 1])
            self._without_verb(line, tokens[again:])
            return
        before = tokens[timed - 1] if timed > 1 and next(reading.names.mentions(tokens[:timed]), None) is not None else None
        parted = before is not None and tokens[0].plain == "+" and joins(before, reading.words.words)
        if before is not None and (parted or before.plain in reading.words.words["in_words"]):
            # “Basil in 20 min”, “+ vinegar, 1 week”
            self._without_verb(line, tokens[: timed - parted])
            self._without_verb(line, tokens[timed:])
            return
        if self.actions and self.actions[-1].verb in _AT_THE_END and tokens[0].kind == "word":
            return  # Behind the bottle nothing goes in by itself: “lovely with 5 g of salt as well”.
        if self.actions and any(q.kind == "ph" for q in quantities):
            # “The pH should be about 3” is said of what was done before.
            self.actions[-1].quantities = [*self.actions[-1].quantities, *(q for q in quantities if q.kind == "ph")]
            return
        verb = verb_without_word(reading, tokens)
        if verb:
            self.actions.append(told(reading, verb, line, tokens, quantities))
        elif pressed(reading, tokens) is not None:
            self.noted(tokens)
        elif seems_a_step(reading, tokens):
            self.actions.append(told(reading, "combine", line, tokens, quantities))
            self.actions[-1].unread = True

    def _clause(self, line: int, tokens: Sequence[Token], verb: VerbAt, fresh: int) -> None:
        words, reading = self._reading.words, self._reading
        if self._waits_besides(line, tokens, verb, fresh):
            return
        if self._gives(tokens, verb) or self._only_measures(tokens, verb) or self._meanwhile(tokens, verb, fresh):
            return
        lead = tokens[: verb.start]
        # “Squeeze the lemons” measures no squeeze of them.
        quantities = [q for q in reading.quantities.all(tokens) if q.kind != "vague" or q.start < verb.start or q.end > verb.end]
        late = tokens[verb.end :] if verb.name in _STRAINS and words.at("after_words", tokens, verb.end) else ()
        if late and not self._waited(fresh):
            # “Strain after 2 h”
            self._wait_before(line, late)
        if words.says("after_words", lead) and not self._waited(fresh):
            self._wait_before(line, lead)
            quantities = [q for q in quantities if q.kind != "minutes" or q.start >= verb.end]
        if verb.name in (*PUTS_NOTHING_IN, "shake") and any(
            q.kind in ("mass", "volume", "vague") and q.end <= verb.start for q in quantities
        ):
            self._goes_in_first(line, lead)
            tokens, verb, lead = tokens[verb.start :], VerbAt(0, verb.end - verb.start, verb.name), ()
            quantities = reading.quantities.all(tokens)
        tail = goes_in_behind(reading, tokens, verb) if verb.name in PUTS_NOTHING_IN else ()
        if tail:
            tokens = tokens[: len(tokens) - len(tail) - 1]
            quantities = reading.quantities.all(tokens)
        name = name_of(reading, tokens, verb, quantities)
        measured = sum(q.start >= verb.end and (q.kind in MEASURED or self._so_many_grams(tokens, q)) for q in quantities)
        # “What we do is two bottles of dry white, 100 g of sugar, 5 g of wormwood”
        one = measured == 1 and (words.says("preps", lead) or self._fills_in(tokens))
        alike = words.says("equal", tokens) or words.says("alike", tokens)
        tells = name == "nothing" and (measured > 1 or one or alike or self._begins_with(tokens, verb))
        if tells or (name == "nothing" and next(reading.names.mentions(lead), None) is not None):
            # “Push the flowers under, cover and leave”: what stands before the lid goes in; “the syrup we do is a kilo of ginger”: what is measured.
            lead = tokens if tells or any(q.kind in MEASURED and q.start >= verb.end for q in quantities) else lead
            name, tokens, verb, quantities = "combine", lead, VerbAt(0, 0, "combine"), reading.quantities.all(lead)
        action = told(reading, name, line, tokens, quantities)
        if name in ("combine", "shake") and self._for_long(action):
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
            end = next((at for at in range(time.end, len(tokens)) if joins(tokens[at], words.words)), len(tokens))
            # “It goes in and sits in the fridge for two days”
            place = words.phrases["places"].within(tokens) or (heat.start, 0, 0)
            alone = tokens[min(heat.start, place[0]) : end]
            self.actions.append(told(reading, "wait", line, alone, reading.quantities.all(alone)))
        if tail:
            self._goes_in(line, tail)

    def _fills_in(self, tokens: Sequence[Token]) -> bool:
        """Returns True if a clause measures what the list names without an amount: “sugar … allow 1 lb of sugar to each pint”."""
        keys = {item.key for item in self._reading.names.mentions(tokens)}
        return any(item.amount.assumed and item.amount.unit in ("", "one") and item.key in keys for item in self._reading.listed)

    def _so_many_grams(self, tokens: Sequence[Token], quantity: Quantity) -> bool:
        """Returns True for a number without a unit before a material that is not counted: the “600” of “make a 2:1 with 600 sugar and 300 water”."""
        named = next(iter(self._reading.names.mentions(tokens[quantity.end :])), None)
        return quantity.kind == "count" and quantity.amount.value >= LEAST_GRAMS and named is not None and named.start == 0

    def _begins_with(self, tokens: Sequence[Token], verb: VerbAt) -> bool:
        """Returns True for the first thing of a spoken recipe behind a verb that tells nothing to do: “so you get a bottle of mezcal”."""
        reading = self._reading
        if self.actions or reading.listed:
            return False
        amount = next((q for q in reading.quantities.all(tokens[verb.end :]) if q.kind in (*MEASURED, "vague")), None)
        behind = tokens[verb.end + amount.end :] if amount is not None else ()
        named = next(iter(reading.names.mentions(behind)), None)
        return named is not None and named.start <= 1

    def _goes_in(self, line: int, tokens: Sequence[Token]) -> None:
        """Adds a combining action for an addition without a verb, and its wait if a time follows it: “+ vinegar, 1 week”."""
        timed = next((q.start for q in self._reading.quantities.all(tokens) if q.kind == "minutes" and q.start > 1), 0)
        cut = timed - 1 if timed and joins(tokens[timed - 1], self._reading.words.words) else len(tokens)
        added = tokens[:cut]
        self.actions.append(told(self._reading, "combine", line, added, self._reading.quantities.all(added)))
        if cut < len(tokens):
            self._without_verb(line, tokens[cut + 1 :])

    def _waits_besides(self, line: int, tokens: Sequence[Token], verb: VerbAt, fresh: int) -> bool:
        """Adds the actions of a clause with a wait besides its own time, and of what stands behind it: “mix, 24 h fridge”; False for another clause."""
        reading = self._reading
        added = goes_in_after(reading, tokens, verb)
        if added:
            self._clause(line, tokens[: added - 1], verb, fresh)
            cuts = [added - 1, *(at for at in range(added, len(tokens)) if tokens[at].plain == ","), len(tokens)]
            for begin, end in pairwise(cuts):
                if end > begin + 1:
                    self._without_verb(line, tokens[begin + 1 : end])
            return True
        again, wait = second_wait(reading, tokens, verb), long_wait_behind(reading, tokens, verb)
        if again and again <= verb.start:
            # “2 Stunden, dann eine Nacht im Kühlschrank ziehen lassen”
            self._without_verb(line, tokens[: again - 1])
            self._clause(line, tokens[again:], moved(verb, -again), fresh)
        elif again:
            self._clause(line, tokens[: again - 1], verb, fresh)
            self._without_verb(line, tokens[again:])
        elif wait is not None:
            end = next((at for at in range(wait.end, len(tokens)) if joins(tokens[at], reading.words.words)), len(tokens))
            heat = next((q for q in reading.quantities.all(tokens) if q.kind == "celsius" and q.end == wait.start), wait)
            self._clause(line, tokens[: heat.start - 1], verb, fresh)
            self._without_verb(line, tokens[heat.start : end])
            if end + 1 < len(tokens):
                self._without_verb(line, tokens[end + 1 :])
        return bool(again) or wait is not None

    def _for_long(self, action: Action) -> bool:
        """Returns True for stirring and shaking that are a wait: “shake daily for a week”, “stir every 10 minutes for an hour”."""
        every = any(is_interval(self._reading, action.tokens, q) for q in action.quantities if q.kind == "minutes")
        return action.minutes is not None and (every or action.minutes.value >= _LONG) and not speaks_of_things(self._reading, action)

    def _goes_in_first(self, line: int, lead: Sequence[Token]) -> None:
        """Adds a combining action for an amount before a verb that takes no ingredients: “+ 150 g water, press”."""
        quantities = self._reading.quantities.all(lead)
        self.actions.append(told(self._reading, "combine", line, lead, quantities))
        if self.actions[-1].minutes is not None:
            # “20 g tea, 1 L water at 80 °C, 5 min, strain”: its time is a wait.
            timed = [q for q in quantities if q.kind in ("celsius", "degrees")]
            # “Peaches, griddled 2 min a side, 700 ml bourbon, 4 days, strain”
            timed += [q for q in quantities if q.kind == "minutes"][-1:]
            self.actions.append(told(self._reading, "wait", line, lead, timed))

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
        time = next(
            (q for q in self._reading.quantities.all(tokens) if q.kind == "minutes" and not is_interval(self._reading, tokens, q)), None
        )
        if time is None or time.amount.value >= _LONG:
            return False
        last.minutes = time.amount
        return True

    def _gives(self, tokens: Sequence[Token], verb: VerbAt) -> bool:
        """Takes “you need 400 ml” as what the juicing before it gives; False for another clause."""
        last = self.actions[-1] if self.actions else None
        if verb.name != "nothing" or last is None or last.verb not in (*_PARTS_OF, "combine"):
            return False
        # “Take the juice of two pineapples, call it a litre”
        if last.verb == "combine" and not self._one_counted(last):
            return False
        size = next((q for q in self._reading.quantities.all(tokens) if q.kind in ("mass", "volume") and q.start >= verb.end), None)
        of = self._reading.words.at("of", tokens, size.end) if size is not None else None
        named = next(self._reading.names.mentions(tokens[size.end :]), None) if size is not None and of else None
        covers = tokens[verb.start].plain in self._reading.words.words["cover_words"]
        if size is None or (named is not None and (covers or last.verb == "combine")):
            # “Cover it with 300 g of sugar” gives nothing.
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
        if last is None or not joined(self._reading, last, action, same=same):
            if action.verb == "skim" and not self._fat() and speaks_of_things(self._reading, action):
                # “Skim the juices and strain”: they go in here.
                action.verb, action.puts_in = "combine", True
            parts = {str(hit[1]) for at in range(len(action.tokens)) if (hit := self._reading.words.at("part_words", action.tokens, at))}
            if action.verb == "cut" and "zest" in parts:
                # “Râper le zeste”
                action.verb = "zest"
            if (
                action.verb == "cut"
                and not speaks_of_things(self._reading, action)
                and any(item.key == "agar" for item in self._reading.listed)
            ):
                # “Set 30 min, break, strain”: what is broken is the gel.
                action.verb = "agar"
            if action.verb == "combine" and into_bottles(self._reading, action):
                action.verb = "bottle"
            if action.verb in ("nothing", "skim") and not (action.verb == "skim" and (self._fat() or self._of_fat(action))):
                # “Cover and simmer 20 minutes”
                self._lid = action.lid
                return
            action.lid = action.lid or self._lid
            # “Seal them in a bag and cook at 60 C”
            self._lid = action.lid if action.verb == "combine" else self._lid
            if action.verb == "bottle" and not self.actions and not speaks_of_things(self._reading, action):
                # “Jar. Shake daily.”: nothing is there yet that could be bottled.
                return
            thrown = action.verb == "discard" or throws_away(self._reading, action)
            if thrown and any(done.verb in _STRAINS for done in self.actions[-3:]):
                return
            self.actions.append(action)

    def _fat(self) -> bool:
        """Returns True if a fat stands in the list: what is skimmed off is that."""
        return any(self._reading.material(item.key).kind == "fat" for item in self._reading.listed)

    def _of_fat(self, action: Action) -> bool:
        """Returns True if an action names fat as a group: “lift off the fat”. The fat of nuts is not in the list."""
        groups = self._reading.words.data.get("group_words", {})
        return any(groups.get(token.stem) == ["fat"] or groups.get(token.plain) == ["fat"] for token in action.tokens)
