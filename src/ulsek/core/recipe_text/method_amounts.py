"""Things that only the method measures, and what the list does not measure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token, tokens_of
from .action import Action
from .calling import Calling
from .ingredient import Amount, Ingredient
from .ingredient_maker import IngredientMaker
from .material_names import Named
from .not_taken import ask_what_goes_in
from .one_step import begins_with
from .parts_by_weight import of_the_whole
from .piece_amounts import with_its_unit
from .rows import ratio_in
from .spellings import PARTS, fruit_of
from .text_reading import TextReading
from .waits import STRAINS

_MUCH = 20.0
"""Smallest number without a unit that is read as an amount and not as a count of pieces [-]."""
_MOST_LEAD = 4
"""Largest number of tokens from “for the” to the name of the product [count]."""
_JUICED = ("fruit", "vegetable", "root", "leaf", "herb")
"""Kinds of material that can be juiced."""
_MOST_NAME = 3
"""Largest number of words of a name that comes before its amount [count]."""

_OF_PLANTS = ("bunch", "handful", "sprig", "thumb", "knob", "head", "stalk")
"""Vague measures of plants."""


class MethodAmounts:
    """Puts into an action what the list does not hold, or does not measure. `waiting` are the things of the list that no action took yet."""

    def __init__(self, reading: TextReading, calling: Calling, waiting: list[Ingredient]) -> None:
        self._reading, self._words, self._maker = reading, reading.words, IngredientMaker(reading)
        self._calling, self._waiting = calling, waiting

    def inline(self, action: Action, quantity: Quantity, named: Named) -> None:
        """Something that only the method names, with its amount."""
        reading = self._reading
        start, end = min(quantity.start, named.start), max(quantity.end, named.end)
        if named.part:
            whole = next((item for item in self._calling.listed if self._is_of(action.tokens[named.start : named.end], item)), None)
            named = (self._reading.part_of(whole.named, named.part) if whole is not None else None) or named
            # “The zest of 3 limes” begins with its part.
            start = next((at for at in range(max(0, start - 4), start) if self._words.at("part_words", action.tokens, at)), start)
        if quantity.kind == "count" and not self._words.words["pressing"].isdisjoint(action.word.split()):
            # “Squeeze in a lemon”
            named = reading.part_of(named, "juice") or named
        quantity = with_its_unit(reading, named, quantity)
        tokens = action.tokens[start:end]
        named = self._dried(action.tokens[quantity.end : named.end], named)
        before = len(reading.listed)
        for part in self._both_parts(action.tokens[start : end + _MOST_NAME], named, quantity) or (named,):
            usual = of_the_whole(reading, tokens, part, replace(quantity, start=quantity.start - start), several=False)
            if usual is None:
                self._maker.with_amount(action.line, tokens, part, quantity)
            else:
                self._maker.hollow(action.line, tokens, part, usual, "count_of_fruit")
        self._calling.add(action, *reading.listed[before:])

    def _dried(self, tokens: Sequence[Token], named: Named) -> Named:
        """Returns the dried material if tokens say dried or ground (“ground ginger”), else `named`."""
        words = self._words.words
        dry = any(token.plain in words["dried_words"] or token.plain in words["powder_words"] for token in tokens)
        return (self._reading.names.named(tokens) or named) if dry else named

    def _both_parts(self, tokens: Sequence[Token], named: Named, quantity: Quantity) -> tuple[Named, ...]:
        """Returns the zest and the juice of a count of fruit, in the order of the text: “ten limes zested and juiced”. () if fewer than two parts are named."""
        # “For super juice I peel a dozen limes”
        told = quantity.kind == "count" and not any(token.plain in self._words.words["persons"] for token in tokens)
        hits = (self._words.at("part_words", tokens, at) for at in range(len(tokens))) if told else ()
        parts = dict.fromkeys(str(hit[1]) for hit in hits if hit and hit[1] in PARTS)
        found = tuple(self._reading.part_of(named, part) for part in parts)
        return tuple(part for part in found if part) if "juice" in parts and len(parts) > 1 and all(found) else ()

    def _is_part_of(self, item: Ingredient, named: Named) -> bool:
        """Returns True if an ingredient is the named material or a juice, zest or peel of the same fruit."""
        known = self._reading.names.known
        return named.key is not None and (named.key == item.key or (fruit_of(named.key, known) or named.key) == fruit_of(item.key, known))

    def _is_of(self, tokens: Sequence[Token], item: Ingredient) -> bool:
        """Returns True if these words speak of a whole fruit of the list: “3 of the oranges”, where they are Seville oranges."""
        return self._reading.material(item.key).kind == "fruit" and any(token.stem in item.called for token in tokens)

    def gives(self, item: Ingredient, quantity: Quantity, end: int) -> None:
        """“Juice a head of celery, you need 400 ml”: the juice is what is measured."""
        if item.named.part in ("peel", "zest"):
            item.amount = Amount(quantity.kind, quantity.amount, quantity.unit)  # type: ignore[arg-type]
            self._reading.settle(item.start, item.end)
            return
        base = item.key.split("_")[0]
        key = next((name for name in (f"{item.key}_juice", f"{base}_juice") if name in self._reading.names.known), None)
        if key is None:
            return
        before = (item.start, item.end)
        self._reading.settle(*before)
        item.key = key
        if "\n" not in self._reading.text[item.start : end]:
            # It stands in the sentence itself.
            item.end, item.text = end, self._reading.text[item.start : end]
        item.amount = Amount(quantity.kind, quantity.amount, quantity.unit)  # type: ignore[arg-type]

    def pressed_out(self, action: Action, later: Sequence[Action]) -> None:
        """Adds the juice of a named fruit, as much as the action says it gives, if neither the fruit nor its juice is listed: “juice the limes, you want half a litre”.
        It waits where one of the `later` actions puts it in."""
        named, last = next((named for named in self._reading.names.mentions(action.tokens) if named.key), None), self._the_last_fruit()
        # “Zest six blood oranges … juice the oranges”
        whole = last if named is None or (last is not None and last.is_kind_of(named)) else named
        juice = self._reading.part_of(whole, "juice") if whole is not None and action.verb == "juice" else None
        if juice is None or action.gives is None or any(item.key in (juice.key, whole.key) for item in self._reading.listed if whole):
            return
        made = self._maker.with_amount(action.line, action.tokens, juice, action.gives)
        self._calling.add(action, made)
        if any(other.verb == "combine" and self._calling.speaks(other.tokens, made) for other in later):
            action.lines.remove(made)
            self._waiting.append(made)

    def _the_last_fruit(self) -> Named | None:
        """Returns the fruit of which a part was read last, None without one: “zest two grapefruits, juice them too”."""
        parts = ((item, fruit_of(item.key, self._reading.names.known)) for item in reversed(self._reading.listed))
        return next((replace(item.named, key=fruit, part="") for item, fruit in parts if fruit), None)

    def juiced(self, action: Action) -> None:
        """Moves a volume after a juicing verb from the amounts of an action to its yield [mL]: the 250 ml of “juice the celery (about 250 ml)”."""
        size = next((q for q in action.quantities if q.kind == "volume"), None)
        named = next(iter(self._reading.names.mentions(action.tokens[action.told_from + 1 :])), None)
        if size is None or size.start <= action.told_from + (named.end if named is not None else 1):
            return
        action.gives, action.gives_end = size, action.tokens[size.end - 1].end
        action.quantities = [q for q in action.quantities if q is not size]

    def unknown(self, action: Action) -> None:
        """An amount in the method with a name that nobody knows: “add 200 g of glowberries”."""
        reading, tokens = self._reading, action.tokens
        paired = [quantity for quantity, _ in self._calling.pairs(action)]
        for quantity in action.quantities:
            if (
                quantity in paired
                or not (
                    quantity.kind in (*MEASURED, "vague") or self._so_much_liquid(tokens, quantity) or self._pieces_of_it(tokens, quantity)
                )
                or action.verb == "reduce"
                or quantity.unit in ("cm", "inch", "bottle", "jar")
            ):
                continue
            at = quantity.end
            of = self._words.at("of", tokens, at)
            again = self._each_of_so_many(action, quantity) or self._said_again(action, quantity)
            name = [] if again else self._name_for(action, quantity, of[0] if of else 0)
            if not name:
                continue
            count, ratio = len(reading.listed), ratio_in(name[:3])
            named = reading.names.named(name[3:] if ratio else name)
            if named is not None and named.key is None and name[0] in tokens:
                named = self._mentioned_before(tokens[: quantity.start], named)
            if named is not None and ratio:
                named = replace(named, said=f"{''.join(token.text for token in name[:3])} {named.said}")
            if named is not None:
                behind = len(name) if name[0] in tokens else 1
                self._maker.with_amount(action.line, tokens[quantity.start : at + behind + (of[0] if of else 0)], named, quantity)
            self._calling.add(action, *reading.listed[count:])

    def _name_for(self, action: Action, quantity: Quantity, of: int) -> list[Token]:
        """Returns the words that name what an amount is of, where the list does not hold it; [] for an amount of something else, of which may be asked.

        `of` is the length of the “of” behind the amount [tokens].
        """
        tokens, words = action.tokens, self._words.words
        within = tokens[quantity.end - 1].plain in words["of"]
        if not of and not within and quantity.kind == "vague":
            return self._so_many_of_it(action, quantity)
        paired = {named.end for _, named in self._calling.pairs(action)}
        name = (
            self.noun(tokens, quantity.end + of) or self._noun_before(tokens, quantity, paired) or self._noun_of_the_lead(tokens, quantity)
        )
        behind = tokens[quantity.end + of : quantity.end + of + 1]
        pronoun = of > 0 and bool(behind) and behind[0].plain in words["pronouns"]
        name = self._spoken_of_before(action) if pronoun else name
        before = tokens[quantity.start - 1].plain if quantity.start else ""
        if not name and not pronoun and self._goes_nowhere(action, quantity, before):
            ask_what_goes_in(self._reading, action)
        if not name or before in words["to"] or before in words["have_words"] or before in words["until_state"]:
            return []
        if name[0].plain in words["have_words"] and name[0].start > tokens[quantity.start].start:
            # “Half a litre left”
            return []
        if before in words["want_words"] and action.verb in STRAINS and self._words.says("preps", name):
            # “Strain; you want 400 ml of syrup”
            return []
        spoken = {token.stem for token in name}
        if any(item.called & spoken for item in self._calling.listed):
            return []
        of_the_vessel = any(
            token.plain in words["vessels"] or token.plain in words["rest"] or token.plain in words["whole_words"] for token in name
        )
        return [] if of_the_vessel else name

    def _so_many_of_it(self, action: Action, quantity: Quantity) -> list[Token]:
        """Returns the tokens of the material named before an amount without a name: “basil” in “for the basil I take three bunches”. Adds a doubt and returns [] if
        none is named."""
        tokens = action.tokens
        ends = quantity.end == len(tokens) or tokens[quantity.end].kind == "mark"
        if self._calling.listed or not ends or quantity.unit not in _OF_PLANTS or action.verb not in ("combine", "blend", "cut", "crush"):
            return []
        name = self._noun_of_the_lead(tokens, quantity) or self._spoken_of_before(action)
        if not name:
            ask_what_goes_in(self._reading, action)
        return name

    def _goes_nowhere(self, action: Action, quantity: Quantity, before: str) -> bool:
        """Returns True for a mass or volume without a name that is no target, yield or basis of the action: “that's about three hundred mil”."""
        words, tokens = self._words.words, action.tokens
        # “1 bottle (750 ml)” says one amount twice.
        again = before == "(" and any(q.end == quantity.start - 1 for q in action.quantities)
        # “Juice them, that's half a litre” says what the fruit before it gives.
        again = again or (action.verb == "juice" and any(self._reading.material(item.key).kind in _JUICED for item in self._reading.listed))
        used = again or action.gives is not None or before in words["to"] or before in words["rest"] or self._words.says("comes_to", tokens)
        makes_up = self._words.says("make_up", tokens) or self._words.says("top_up", tokens)
        return quantity.kind in MEASURED and not (
            used or makes_up or self._words.says("per", tokens) or self._words.says("same_as", tokens)
        )

    def _so_much_liquid(self, tokens: Sequence[Token], quantity: Quantity) -> bool:
        """Returns True for a number without a unit before an unknown name that ends in a form or part, such as oil: “blitz with 200 neutral oil”."""
        name = self.noun(tokens, quantity.end) if quantity.kind == "count" and quantity.amount.value >= _MUCH else []
        return (
            bool(name) and (self._words.at("forms", name, len(name) - 1) or self._words.at("part_words", name, len(name) - 1)) is not None
        )

    def _pieces_of_it(self, tokens: Sequence[Token], quantity: Quantity) -> bool:
        """Returns True for a count of what was named before: “for the pandan, blend ten leaves”, “for the bananas, mash four of them”."""
        words, behind = self._words.words, tokens[quantity.end : quantity.end + 2] if quantity.kind == "count" else ()
        if len(behind) == 2 and behind[0].plain in words["of"] and behind[1].plain in words["pronouns"]:
            return True
        pieces = bool(behind) and behind[0].stem in words["pieces"] and not self.noun(tokens, quantity.end)
        return pieces and bool(self._noun_of_the_lead(tokens, quantity))

    def _noun_before(self, tokens: Sequence[Token], quantity: Quantity, paired: set[int]) -> list[Token]:
        """Returns the name right before an amount: “frozen berries, a kilo”; empty where none stands there, or one whose amount was said: `paired` are their ends."""
        end = quantity.start
        while end and tokens[end - 1].plain in (",", ":", "-", "–", "("):
            end -= 1
        if end in paired or (end and tokens[end - 1].plain in self._words.words["pronouns"]):
            return []
        start = end
        while start and tokens[start - 1].kind == "word" and end - start < _MOST_NAME and not self._parts_names(tokens[start - 1]):
            start -= 1
        return list(tokens[start:end]) if start < end < quantity.start else []

    def _mentioned_before(self, tokens: Sequence[Token], named: Named) -> Named:
        """Returns the material of the same kind that the clause named before a generic word: raspberry for the berries of “for the raspberry thing we use berries”."""
        kind = self._words.phrases["unnamed"].within(tokens_of(named.said))
        before = [
            item for item in self._reading.names.mentions(tokens) if item.key and kind and self._reading.material(item.key).kind == kind[2]
        ]
        return replace(before[-1], said=named.said) if before else named

    def _spoken_of_before(self, action: Action) -> list[Token]:
        """Returns the words of what the sentence named last before an action: the rhubarb of “what you do for the rhubarb is chop a kilo of it”; [] for nothing."""
        sentence = max(self._reading.text.rfind(mark, 0, action.start) for mark in "\n.") + 1
        # “We had loads of coffee. I take 100 g of that”
        for begin in (sentence, sentence if self._reading.listed else 0):
            before = self._reading.tokens_at(begin, action.start)
            named = [item for item in self._reading.names.mentions(before) if item.key]
            if named:
                return before[named[-1].start : named[-1].end]
        return []

    def _each_of_so_many(self, action: Action, quantity: Quantity) -> bool:
        """Takes “two tins of coconut milk, 400 ml each” as 800 ml; False for an amount that is not each one's."""
        if quantity.kind not in MEASURED or not self._words.at("alike", action.tokens, quantity.end):
            return False
        before = next(
            ((q, named) for q, named in reversed(self._calling.pairs(action)) if q.end <= quantity.start and q.kind in ("vague", "count")),
            None,
        )
        item = next((item for item in action.lines if before is not None and item.key == before[1].key), None)
        if before is None or item is None:
            return False
        item.amount = Amount(quantity.kind, quantity.amount.times(before[0].amount.value), quantity.unit)  # type: ignore[arg-type]
        self._reading.settle(item.start, item.end)
        return True

    def _said_again(self, action: Action, quantity: Quantity) -> bool:
        """Takes “one can of coconut milk, that's 400 ml” as 400 ml, “a pineapple, about a kilo” as 1 kg; False for an amount that says nothing of the one before it."""
        words, tokens = self._words.words, action.tokens
        before = next(((q, named) for q, named in reversed(self._calling.pairs(action)) if q.end <= quantity.start), None)
        counted = [item for item in action.lines if item.amount.assumed or item.amount.kind == "count"]
        of_it = [item for item in counted if before is not None and self._is_part_of(item, before[1])]
        item = next((item for item in of_it if item.key == (before[1].key if before else None)), None) or next(iter(of_it), None)
        end = max(before[0].end, before[1].end) if before is not None else 0
        between = tokens[end : quantity.start]
        if (
            item is None
            or quantity.kind not in MEASURED
            or not (any(token.plain in words["thats"] for token in between) or [token.plain for token in between] == [","])
            or len(between) > _MOST_LEAD
        ):
            return False
        item.amount = Amount(quantity.kind, quantity.amount, quantity.unit)  # type: ignore[arg-type]
        self._reading.settle(item.start, item.end)
        return True

    def _noun_of_the_lead(self, tokens: Sequence[Token], quantity: Quantity) -> list[Token]:
        """Returns the tokens of the material named in a leading “for the …” clause, before an amount without a name; [] without such a clause."""
        if not tokens or tokens[0].plain not in self._words.words["for_the"]:
            return []
        lead, names = tokens[: quantity.start], self._reading.names
        named = next(iter(names.mentions(lead)), None)
        if named is not None:
            return list(tokens[named.start : named.end])
        # “For the ginger syrup”
        return next(([token] for token in lead if (one := names.named([token])) is not None and one.key), [])

    def _parts_names(self, token: Token) -> bool:
        words = self._words.words
        return (
            token.plain in words["and"]
            or token.plain in words["ends_name"]
            or token.plain in words["boundary"]
            or token.stem in words["verbs"]
            or token.plain in words["of"]
        )

    def noun(self, tokens: Sequence[Token], start: int) -> list[Token]:
        """Returns the words of a name from a position on, up to the next joining word."""
        words, found = self._words.words, []
        ratio = ratio_in(tokens[start : start + 3])
        if ratio:
            # “1:1 syrup”
            found, start = list(tokens[start : start + 3]), start + 3
        for token in tokens[start : start + 4]:
            if (
                token.kind != "word"
                or token.plain in words["and"]
                or token.plain in words["ends_name"]
                or token.plain in words["lead_words"]
                or token.plain in words["thats"]
            ):
                break
            found.append(token)
        return found if any(token.plain not in words["describes"] for token in found) else []

    def unmeasured(self, action: Action) -> None:
        """Where there is no list, what the method names without an amount goes in as the usual amount of its kind."""
        reading = self._reading
        paired = {(named.start, named.end) for _, named in self._calling.pairs(action)}
        for named in reading.names.mentions(action.tokens):
            if named.start < action.told_from + max(1, len(action.word.split())):
                # What tells the verb names no bread: “toast 400 g of almonds”.
                continue
            if (
                named.key is None
                or self._says_for_what(action, named)
                or self._within_a_name(action, named)
                or (named.start, named.end) in paired
                or any(named.start <= start < named.end or start <= named.start < end for start, end in paired)
            ):
                continue
            word = action.tokens[named.start : named.end]
            there = {item.key for item in reading.listed} | {fruit_of(item.key, reading.names.known) for item in reading.listed}
            spoken = {token.stem for token in word}
            if (
                named.key in there
                or (fruit_of(named.key, reading.names.known) or "-") in there
                or any(spoken & item.called for item in reading.listed)
            ):
                continue
            iced = any(token.plain in self._words.words["ice_words"] for token in word) and len(word) > 1
            if named.key == "water" and (iced or action.verb in ("wash", "cool") or begins_with(reading, "soak_begins", action)):
                continue
            kinds = {reading.material(item.key).kind for item in reading.listed}
            if reading.material(named.key).kind == "dairy" and kinds & {"nut", "grain"}:
                # “The milk” is what was pressed out of them.
                continue
            count = len(reading.listed)
            self._maker.without_amount(action.line, word, named, to_taste=False)
            self._calling.add(action, *reading.listed[count:])

    def _within_a_name(self, action: Action, named: Named) -> bool:
        """Returns True for a word in the name of something else that is measured: the “sesame” of “30 g black sesame paste”."""
        measured = (q.end for q in action.quantities if q.kind in MEASURED and q.end < named.start)
        return any(
            named.start < end + len(self.noun(action.tokens, end)) and named.end < end + len(self.noun(action.tokens, end))
            for end in measured
        )

    def _says_for_what(self, action: Action, named: Named) -> bool:
        """Returns True for a name in a lead that says what is made: “so for the honey ginger, juice 300 g of ginger”."""
        made_for = self._words.words["made_for"]
        lead = action.tokens[max(0, named.start - _MOST_LEAD) : named.start]
        return (named.start < action.told_from or not action.told_from) and any(token.plain in made_for for token in lead)
