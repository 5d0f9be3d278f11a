"""Lines of a list as ingredients: which words say how much, which name the thing, and which of two amounts counts."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from ..base.ranges import Range
from ..base.units import METRIC
from ..written.quantities import AMOUNTS, LENGTHS, MEASURED, Quantity
from ..written.tokens import Token
from .alternatives import instead, offer
from .apart import apart, depths_of
from .ingredient import Amount, Ingredient
from .ingredient_maker import IngredientMaker
from .line_questions import LineQuestions
from .line_ratios import LineRatios
from .material_names import Named
from .parts_by_weight import MEASURED_PARTS, of_the_whole, parts_measured, said_of_the_part
from .rows import ratio_in
from .text_reading import TextReading


class LineReader:
    """Reads the rows of one text into ingredients."""

    def __init__(self, reading: TextReading) -> None:
        self._reading, self._maker, self._questions = reading, IngredientMaker(reading), LineQuestions(reading)
        self._ratios = LineRatios(reading, self._maker)

    def ingredients(self, line: int, tokens: Sequence[Token], *, strict: bool = False) -> Iterator[Ingredient]:
        """Yields the ingredients of one line. If `strict`, only those that have an amount or a known name."""
        lead: Sequence[Token] = ()
        replaces: Ingredient | None = None
        for part in apart(tokens, self._reading):
            either = part[-1].plain in self._reading.words.words["or"] and len(part) > 1
            row = part[:-1] if either else part
            first = self._reading.quantities.at(row, 0)
            # “Zest & juice of 1 orange, 1 lemon”
            shares = bool(lead) and first is not None and first.kind == "count"
            lead = lead if shares else self._part_before(row)
            last: Ingredient | None = None
            for made in self._counted(line, [*lead, *row] if shares else row, strict=strict):
                if replaces is not None and made.key != replaces.key:
                    # “1 vanilla pod or 1 tsp vanilla extract”
                    instead(self._reading, replaces, made)
                    continue
                last = made
                yield made
            replaces = last if either else None

    def _counted(self, line: int, row: Sequence[Token], *, strict: bool) -> Iterator[Ingredient]:
        """Yields the ingredients of a row; asks where its amount is one drink's or one day's."""
        phrases = self._reading.words.phrases
        drink, day = phrases["per_serving"].within(row), phrases["per_day"].within(row)
        each = drink or day
        if each is None:
            yield from self._row(line, row, strict=strict)
            return
        # “2 dashes bitters per drink”, “ginger, 20 g a day”
        one = "one drink" if drink else "one day"
        for made in self._row(line, [*row[: each[0]], *row[each[0] + each[1] :]], strict=strict):
            self._reading.ask("per_serving", made, f"That is for {one}: how much goes into the batch?")
            yield made

    def _part_before(self, row: Sequence[Token]) -> Sequence[Token]:
        """Returns the words before the count of a row that say which part of the fruit is meant; empty for a row without them."""
        first = next(iter(self._reading.quantities.all(row)), None)
        before = row[: first.start] if first is not None and first.kind == "count" else ()
        return before if before and self._reading.words.says("part_words", before) else ()

    def _row(self, line: int, tokens: Sequence[Token], *, strict: bool) -> Iterator[Ingredient]:
        reading, words = self._reading, self._reading.words
        tokens = self._without_label(tokens)
        depths = depths_of(tokens)
        found = [q for q in reading.quantities.all(tokens) if q.kind in AMOUNTS]
        ratio = self._ratios.of(line, tokens, found)
        if ratio is not None:
            yield ratio
            return
        state = words.phrases["make_up"].within(tokens) or words.phrases["top_up"].within(tokens) or words.phrases["cover"].within(tokens)
        up_to = state is None and self._up_to(tokens, found)
        name_tokens = self._without(tokens, found, depths)
        if up_to:
            state = (0, 0, "")
        name_tokens, others = self._alternatives(name_tokens)
        several = self._shared(tokens, name_tokens)
        if several:
            # “Equal parts honey and water” is a part of each.
            equal = None if found else Quantity(0, 1, "parts", Range.exact(1.0), "parts")
            for part in several:
                yield self._made(line, tokens, part, equal or self._amount(found, depths, tokens), found)
            return
        named = reading.names.named(name_tokens)
        if named is None and found and found[0].kind == "vague":
            # “2 tea bags”: what is counted is the thing.
            named = reading.names.named(tokens[found[0].start : found[0].end])
        if named is None and ratio_in(tokens) is not None and found and found[0].kind in MEASURED:
            # “500 g 1:1”
            named = self._syrup(tokens)
        if named is None:
            # “For garnish” alone, or nothing but figures: an amount of nobody knows what is asked about.
            if any(q.kind in MEASURED for q in found):
                self._questions.of_what(line, tokens)
            return
        if strict and not found and named.key is None:
            return
        strength = ratio_in(tokens) if named.form == "syrup" or (named.key is None and words.says("forms", tokens)) else None
        if strength is not None:
            # “500 ml 1:1 syrup”, “sugar syrup (2:1)”
            named = replace(named, said=f"{''.join(token.text for token in tokens[strength[0] : strength[0] + strength[1]])} {named.said}")
        if state:
            yield self._state(line, tokens, named, found, state[0] if words.phrases["cover"].within(tokens) else -1)
            return
        alike = self._ratios.same_as(line, tokens, named, found)
        yield from [alike] if alike is not None else self._each_part(line, tokens, named, found, others)

    def _syrup(self, tokens: Sequence[Token]) -> Named | None:
        """Returns a syrup of unknown name, for a row that contains only an amount and a ratio: “500 g 1:1”."""
        word = next(said for said, form in self._reading.words.data["forms"].items() if form == "syrup")
        last = tokens[-1]
        named = self._reading.names.named([replace(last, kind="word", text=word, plain=word, stem=word, number=None, start=last.end)])
        return replace(named, form="syrup") if named is not None else None

    def _each_part(
        self,
        line: int,
        tokens: Sequence[Token],
        named: Named,
        found: Sequence[Quantity],
        others: Sequence[tuple[Named, list[Token]]],
    ) -> Iterator[Ingredient]:
        """Yields the ingredient of a row, or one for each part of the fruit that it names."""
        reading, depths = self._reading, depths_of(tokens)
        measured = parts_measured(reading, tokens, found, named)
        if measured:
            for item, quantity in measured:
                yield self._made(line, tokens, item, quantity, ())
            return
        parts = self._juice_and_zest(tokens, named)
        amount = self._amount(found, depths, tokens)
        for item in parts or (named,):
            made = self._part(line, tokens, item, amount, found, several=bool(parts))
            self._maker.up_to_the_whole(made, tokens, found)
            self._offer(made, tokens, found, others)
            yield made

    def _part(
        self, line: int, tokens: Sequence[Token], item: Named, amount: Quantity | None, found: Sequence[Quantity], *, several: bool
    ) -> Ingredient:
        """Returns the ingredient of a row, or of one of `several` parts of the fruit that it names."""
        own = said_of_the_part(self._reading, tokens, found, item.part)
        if own is not None and item.part:
            return self._made(line, tokens, item, own, ())
        if several and item.part != "juice" and amount is not None and amount.kind == "volume":
            # “Juice and zest of 10 limes (300 ml)”: so much is the juice.
            return self._made(line, tokens, item, next((q for q in found if q.kind == "count"), None), ())
        poured = next((q for q in found if q.kind == "volume"), None)
        usual = of_the_whole(self._reading, tokens, item, amount, several=several)
        if usual is None:
            return self._made(line, tokens, item, amount, found)
        if item.part == "juice" and poured is not None:
            # “1 kg limes, juiced (500 ml)”
            return self._made(line, tokens, item, poured, ())
        return self._maker.hollow(line, tokens, item, usual, "count_of_fruit")

    def _offer(
        self, made: Ingredient, tokens: Sequence[Token], found: Sequence[Quantity], others: Sequence[tuple[Named, list[Token]]]
    ) -> None:
        """Keeps what a line offers instead: another thing, with its own amount or that of the first, or another amount."""
        depths = depths_of(tokens)
        offered = next((q for q in found if depths[q.start] and self._offers(tokens, q, depths)), None)
        if offered is not None and not others and offered.kind in MEASURED:
            self._questions.or_so_much(made, tokens, offered)
        for other, words in others:
            much = next((q for q in found if tokens[q.start].start > words[0].start or depths[q.start]), None)
            offer(self._maker, self._reading, made, words, other, much if len(found) > 1 else None)

    def _without_label(self, tokens: Sequence[Token]) -> Sequence[Token]:
        """Returns a row without the name of a group before it: “Spices: 1 cinnamon stick”."""
        labelled = len(tokens) > 2 and tokens[1].plain == ":" and tokens[0].stem in self._reading.words.words["group_words"]
        return tokens[2:] if labelled and next(self._reading.names.mentions(tokens[2:]), None) is not None else tokens

    def _up_to(self, tokens: Sequence[Token], found: Sequence[Quantity]) -> bool:
        """Returns True for “water to 1000 ml”: a line to fill to, not an amount."""
        if len(found) != 1 or found[0].kind != "volume" or found[0].start < 2:
            return False
        return tokens[found[0].start - 1].plain in self._reading.words.words["to"] and tokens[found[0].start - 1].kind == "word"

    def _offers(self, tokens: Sequence[Token], quantity: Quantity, depths: Sequence[int]) -> bool:
        """Returns True for an amount within “(or …)”: it belongs to another thing."""
        at = quantity.start
        while at and depths[at - 1] >= depths[quantity.start]:
            at -= 1
        return any(token.plain in self._reading.words.words["or"] for token in tokens[at : quantity.start])

    def _alternatives(self, tokens: list[Token]) -> tuple[list[Token], list[tuple[Named, list[Token]]]]:
        """Returns (the tokens before an “or”, what may stand instead with its tokens): “honey or agave syrup”, “lime juice (or lemon)”."""
        words, names = self._reading.words, self._reading.names
        at = next((at for at, token in enumerate(tokens) if at and token.plain in words.words["or"]), None)
        if at is None:
            return tokens, []
        first = tokens[:at]
        while first and first[-1].plain in ("(", ","):
            first = first[:-1]
        other = names.named([token for token in tokens[at + 1 :] if token.plain not in ("(", ")")])
        if other is None or other.key is None:
            return tokens, []
        part = words.phrases["part_words"].within(first)
        if part and not other.part:
            # “Zest of 4 grapefruit (or lime)”
            other = self._reading.part_of(other, str(part[2])) or other
        if names.named(first) is None or not any(True for _ in names.mentions(first)):
            # “Red or white wine vinegar”: the first of two words for one thing.
            one = names.named([*first, *tokens[at + 2 :]])
            return tokens[at + 1 :], [(item, tokens[:at]) for item in (one,) if item is not None and item.key]
        return first, [(other, [token for token in tokens[at + 1 :] if token.plain not in ("(", ")")])]

    def _without(self, tokens: Sequence[Token], found: Sequence[Quantity], depths: Sequence[int]) -> list[Token]:
        """Returns the tokens that may name the thing: without amounts, brackets that hold an amount, containers behind a measure, “to taste”."""
        words = self._reading.words
        gone = self._done_to_it(tokens, found)
        for q in found:
            # “50 % abv”
            strong = q.kind == "percent" and q.end < len(tokens) and tokens[q.end].plain in words.words["strength_words"]
            gone.update(range(q.start, q.end + strong))
            if q.kind == "count" and q.start and tokens[q.start - 1].plain in ("x", "×"):
                gone.add(q.start - 1)
            if q.kind in MEASURED:
                container = words.at("vague", tokens, q.end)
                gone.update(range(q.end, q.end + (container[0] if container else 0)))
            if depths[q.start] and not self._offers(tokens, q, depths):
                # The whole bracket belongs to the amount.
                start, end = q.start, q.end
                while start and depths[start - 1] >= depths[q.start]:
                    start -= 1
                while end < len(tokens) and depths[end] >= depths[q.start]:
                    end += 1
                after = words.at("vague", tokens, end)
                gone.update(range(start, end + (after[0] if after else 0)))
        for heat in self._reading.quantities.all(tokens):
            # “500 g water at 95 °C”
            if heat.kind in ("celsius", "degrees"):
                gone.update(range(heat.start - (heat.start > 0 and tokens[heat.start - 1].plain in words.words["at_words"]), heat.end))
        for section in ("to_taste", "make_up", "top_up", "cover", "alike", "by_basis", "thats"):
            hit = words.phrases[section].within(tokens)
            if hit:
                gone.update(range(hit[0], hit[0] + hit[1]))
        last = max((q.end for q in found), default=0)
        # “25 g of gum arabic that you've mixed into the sugar”
        relative = next((at for at in range(last + 1, len(tokens)) if tokens[at].plain in words.words["relatives"]), len(tokens))
        left = [token for at, token in enumerate(tokens[:relative]) if at not in gone]
        while left and (
            left[0].plain in (",", "-", "–", "—", ":", "=", ".", "…", "|", "/", "~", "+", "*", "of") or left[0].plain in words.words["of"]
        ):
            left = left[1:]
        joints = words.words["to"] | words.words["and"]
        while len(left) > 1 and (left[-1].plain in joints or left[-1].plain in ".,"):
            left = left[:-1]
        # “A squeeze of lime if it's flat”
        end = next((at for at, token in enumerate(left) if at and token.plain in words.words["lead_words"]), len(left))
        return [token for token in left[:end] if token.plain not in ("…", "*", "|")]

    def _done_to_it(self, tokens: Sequence[Token], found: Sequence[Quantity]) -> set[int]:
        """Returns the position of a preparation verb at the end of a line, after its amount: the “toast” of “celery seed 5 g toast”. Empty without one."""
        words, at = self._reading.words, len(tokens) - 1
        behind = bool(found) and 0 < found[-1].start < found[-1].end == at
        return {at} if behind and tokens[at].plain in words.words["verbs"] and not words.at("part_words", tokens, at) else set()

    def _shared(self, tokens: Sequence[Token], name: Sequence[Token]) -> tuple[Named, ...]:
        """“Citric and malic, 5 g each”, “equal parts sugar and water”: every material named takes the amount."""
        words = self._reading.words
        if not words.says("alike", tokens) and not words.says("equal", tokens):
            return ()
        named = tuple(self._reading.names.mentions(name))
        return named if len(named) > 1 else ()

    def _juice_and_zest(self, tokens: Sequence[Token], named: Named) -> tuple[Named, ...]:
        """“Zest and juice of 3 limes” is two things of one fruit."""
        parts = []
        for position in range(len(tokens)):
            hit = self._reading.words.at("part_words", tokens, position)
            if hit and hit[1] in MEASURED_PARTS and hit[1] not in parts:
                parts.append(hit[1])
        if len(parts) < 2 or named.key is None:
            return ()
        made = tuple(self._reading.part_of(named, part) for part in parts)
        return tuple(item for item in made if item is not None) if all(made) else ()

    def _state(self, line: int, tokens: Sequence[Token], named: Named, found: Sequence[Quantity], cover: int) -> Ingredient:
        volume = next((q for q in found if q.kind in MEASURED), None)
        amount = Amount("line", volume.amount, volume.unit) if volume and cover < 0 else Amount("cover", Range.exact(0.0))
        return self._maker.ingredient(line, tokens, named, amount)

    def _amount(self, found: Sequence[Quantity], depths: Sequence[int], tokens: Sequence[Token]) -> Quantity | None:
        """Returns the amount that counts: a count of bracketed measures multiplied, else a weight before a volume before a count."""
        if not found:
            return None
        found = [q for q in found if not (depths[q.start] and self._offers(tokens, q, depths))] or found[:1]
        first = found[0]
        if (
            len(found) > 1
            and first.kind == "count"
            and found[1].kind in MEASURED
            and depths[found[1].start]
            and found[1].start == first.end + 1
        ):
            container = self._reading.words.at("vague", tokens, found[1].end + 1)
            if container:
                return replace(found[1], amount=found[1].amount.times(first.amount.value), imprecise=True, start=first.start)
        length = next((q for q in found[1:] if q.unit in LENGTHS), None)
        long = self._reading.words.words["long_pieces"]
        if length is not None and first.kind in ("count", "vague") and any(t.stem in long for t in tokens[first.start : first.end + 1]):
            # “Un trozo de jengibre de 5 cm”
            return replace(length, amount=length.amount.times(first.amount.value), start=first.start)
        summed = self._sum(found, tokens)
        if summed is not None:
            return summed
        measured = [q for q in found if q.kind in MEASURED]
        # A weight before a volume; “6 cups (1.4 l)” are as many litres.
        return min(measured, key=lambda q: (q.kind != "mass", q.unit not in METRIC)) if measured else first

    def _sum(self, found: Sequence[Quantity], tokens: Sequence[Token]) -> Quantity | None:
        """“60 g + 300 g hot”: both of one thing."""
        ands = self._reading.words.words["and"]
        if len(found) < 2 or found[0].kind not in MEASURED or found[1].kind != found[0].kind:
            return None
        first, second = found[0], found[1]
        beside = second.start == first.end + 1 and tokens[first.end].plain == "+"
        # “½ cup water, plus 1 cup”
        last = second.end == len(tokens) and tokens[second.start - 1].plain in ands
        if not beside and not last:
            return None
        one, other = first.amount, second.amount
        return replace(first, end=second.end, amount=Range(one.value + other.value, one.low + other.low, one.high + other.high))

    def _made(self, line: int, tokens: Sequence[Token], named: Named, quantity: Quantity | None, found: Sequence[Quantity]) -> Ingredient:
        reading = self._reading
        if quantity is None:
            to_taste = reading.words.says("to_taste", tokens)
            return self._maker.without_amount(line, tokens, named, to_taste=to_taste)
        made = self._maker.with_amount(line, tokens, named, quantity)
        depths = depths_of(tokens)
        others = [
            q
            for q in found
            if q is not quantity
            and q.start != quantity.start
            and q.end != quantity.end
            and not (depths[q.start] and self._offers(tokens, q, depths))
        ]
        if others:
            self._questions.two_amounts(made, tokens, quantity, others)
        return made
