"""Amounts in a method that depend on the content of the vessel: per litre of it, up to a volume, to a °Bx, enough to cover, the same weight again."""

from __future__ import annotations

from collections.abc import Sequence

from ..base.ranges import Range
from ..written.quantities import MEASURED
from ..written.tokens import Token
from .action import Action
from .calling import Calling
from .clauses import joins
from .ingredient import LEAST_GRAMS, Amount, Ingredient
from .ingredient_maker import IngredientMaker
from .material_names import Named
from .rows import ratio_in
from .text_reading import TextReading

_MOST_SHARE = 4
"""Tokens of a share before “their weight” [count]."""


class VesselAmounts:
    """Puts into an action what it measures against the content of the vessel. `waiting` are the things of the list that no action took yet."""

    def __init__(self, reading: TextReading, calling: Calling, waiting: list[Ingredient]) -> None:
        self._reading, self._words, self._maker = reading, reading.words, IngredientMaker(reading)
        self._calling, self._waiting = calling, waiting

    def all_of(self, action: Action, used: set[int]) -> bool:
        """Adds the lines of an action that depend on the content of the vessel, and their ids to `used`. Returns True if the action holds nothing else."""
        if self.to_brix(action) or self.made_up(action):
            return True
        self.same_weight(action, used)
        return self.for_every(action)

    def for_every(self, action: Action) -> bool:
        """“For every 100 g of that, 60 of sugar”: a ratio to what stands in the vessel; False for an action without one."""
        tokens = action.tokens
        per = self._words.phrases["per"].within(tokens)
        if per is None or per[2] == "each" or per[0] + per[1] == len(tokens):
            return False
        after = per[0] + per[1]
        written = self._reading.quantities.at(tokens, after)
        alone = self._reading.unit_alone(tokens, after) if written is None or written.kind not in MEASURED else None
        basis = written.amount.value if written and written.kind in MEASURED else alone[0][1] if alone else 0.0
        if basis <= 0:
            return False
        end = alone[1] if alone else written.end if written else after
        others = [q for q in action.quantities if q.kind in (*MEASURED, "count") and not per[0] <= q.start < end]
        behind = [q for q in others if q.start >= end]
        # “For every litre, 600 g of sugar and 25 g of acid” is said of all, “200 ml juice, 1 g salt per litre” of the last.
        others = behind or others[-1:]
        mentions, found = list(self._reading.names.mentions(tokens)), False
        # “Two grams per litre of agar” names what is weighed.
        apart = bool(others) and all(q.end != per[0] for q in others)
        kind = written.kind if written and written.kind in MEASURED else alone[0][0] if alone else "volume"
        batch = self._batch(action, end, Amount("mass" if kind == "mass" else "volume", Range.exact(basis))) if apart else None
        for quantity in others:
            # “2 g per litre of agar”
            after = end if quantity.end == per[0] else quantity.end
            named = next((item for item in mentions if item.start >= after and self._calling.near(tokens, after, item.start)), None)
            if named is None or named.key is None:
                continue
            grams = quantity.amount.value if quantity.kind == "count" else self._reading.grams_of(quantity, named.key)
            item = next((item for item in self._waiting if item.key == named.key), None)
            amount = Amount("ratio", Range.exact(float(f"{(grams or quantity.amount.value) / basis:.6g}")))
            if item is not None:
                item.amount = amount
                self._reading.settle(item.start, item.end, ("missing_amount",))
                action.lines.append(item)
                self._waiting.remove(item)
            else:
                item = self._maker.ingredient(action.line, tokens[quantity.start : named.end], named, amount)
                self._calling.add(action, item)
            weight = self._reading.grams(batch) if batch is not None else None
            if batch is not None and weight and grams:
                item.per = (batch, grams / weight)
            action.quantities = [q for q in action.quantities if q is not quantity and not per[0] <= q.start < end]
            found = True
        return found and not any(q.kind in MEASURED for q in action.quantities)

    def _batch(self, action: Action, start: int, amount: Amount) -> Ingredient | None:
        """Adds the basis of a rate as an ingredient: 1 L of juice for “for every litre of pineapple juice, 32 g of citric acid”. Returns None if it is listed already or unnamed."""
        tokens, words = action.tokens, self._words.words
        start += start < len(tokens) and tokens[start].plain in words["of"]
        named = next((item for item in self._reading.names.mentions(tokens) if item.start == start), None)
        if named is None or named.key is None or self._calling.the_one(named) is not None:
            return None
        made = self._maker.ingredient(action.line, tokens[start : named.end], named, amount, volume=amount.kind == "volume")
        self._calling.add(action, made)
        return made

    def to_brix(self, action: Action) -> bool:
        """“Adjust to 50 °Bx with sugar”: as much as it takes; False for an action without it."""
        goal = next((q for q in action.quantities if q.kind == "brix"), None)
        named = next(iter(self._reading.names.mentions(action.tokens)), None)
        if goal is None or named is None or named.key is None or action.verb != "combine":
            return False
        listed = next((item for item in self._waiting if item.key == named.key), None)
        if listed is not None:
            listed.amount = Amount("brix", goal.amount)
            action.lines.append(listed)
            self._waiting.remove(listed)
            return True
        start, end = min(goal.start, named.start), max(goal.end, named.end)
        made = self._maker.ingredient(action.line, action.tokens[start:end], named, Amount("brix", goal.amount))
        self._calling.add(action, made)
        return True

    def made_up(self, action: Action) -> bool:
        """Adds the liquid that fills up to a volume, water where none is named: “top up with water to 1 L”. Returns False for any other action."""
        state = self._words.phrases["make_up"].within(action.tokens) or self._words.phrases["top_up"].within(action.tokens)
        goal = next((q for q in action.quantities if q.kind == "volume"), None)
        fills = next((item for item in self._waiting if item.amount.kind == "line"), None)
        if action.verb == "make_up" and fills is not None and next(self._reading.names.mentions(action.tokens), None) is None:
            # “Make up to the line”: with what the list keeps for that.
            action.lines.append(fills)
            self._waiting.remove(fills)
            return True
        if state is None or goal is None or goal.start < state[0] or action.verb not in ("combine", "make_up", "dissolve", "off_heat"):
            return False
        mentions = list(self._reading.names.mentions(action.tokens))
        named = next((item for item in mentions if item.key and self._reading.material(item.key).pours), None)
        if named is None and not mentions and state[0] <= action.told_from and "water" in self._reading.names.known:
            named = Named(0, 0, "water", "water")
        if named is None:
            return False
        amount = Amount("line", goal.amount, goal.unit)
        listed = next((item for item in self._waiting if item.key == named.key), None)
        if listed is not None:
            # “Water” of the list without an amount is what fills up.
            listed.amount = amount if listed.amount.assumed else listed.amount
            if mentions or listed.amount is not amount:
                return False
            # “Top up to 1 L”, with the water of the list.
            self._reading.settle(listed.start, listed.end, ("missing_amount",))
            action.lines.append(listed)
            self._waiting.remove(listed)
            return False
        if any(item.key == named.key and item.amount.kind == "line" for item in self._calling.listed):
            return False
        made = self._maker.ingredient(action.line, action.tokens, named, amount)
        self._calling.add(action, made)
        if action.verb == "combine" and any(item not in self._waiting for item in self._calling.listed):
            # “Top up with water to 1 L”, behind what went in before.
            action.verb = "make_up"
        return True

    def filled_up_with(self, item: Ingredient, later: Sequence[Action]) -> bool:
        """Returns True if a liquid of the list without an amount is what a later action fills up with: the water of “water … stir, make up to 1 L”."""
        if not (item.amount.assumed and item.amount.unit in ("", "one") and item.key == "water"):
            return False
        says = self._words.says
        return any(
            (says("make_up", action.tokens) or says("top_up", action.tokens)) and any(q.kind == "volume" for q in action.quantities)
            for action in later
        )

    def covered(self, action: Action) -> None:
        """Adds a liquid that covers the content of the vessel: “water to cover”, “cover the peel with vodka”. A listed liquid with an amount keeps it."""
        tokens, words = action.tokens, self._words
        hit = words.phrases["cover"].within(tokens)
        if hit is None and not any(token.plain in words.words["cover_words"] for token in tokens):
            return
        mentions = list(self._reading.names.mentions(tokens))
        over = hit[0] + hit[1] if hit else 0
        if hit is None and (joint := words.phrases["with"].within(tokens)):
            over = joint[0] + joint[1]
        behind = next((item for item in mentions if over and over <= item.start <= over + 1), None)
        before = next((item for item in mentions if hit and item.end == hit[0]), None)
        named = before or behind
        if named is None or named.key is None or not self._reading.material(named.key).pours:
            return
        if any(q.kind in (*MEASURED, "count") and abs(q.end - named.start) <= 1 for q in action.quantities):
            return
        said = tokens[named.start : named.end]
        listed = next((item for item in self._calling.listed if item.key == named.key or self._calling.speaks(said, item)), None)
        amount = Amount("cover", Range.exact(0.0))
        if listed is None:
            made = self._maker.ingredient(action.line, tokens[min(named.start, over or named.start) : max(named.end, over)], named, amount)
            self._calling.add(action, made)
        elif listed.amount.assumed:
            self._reading.settle(listed.start, listed.end, ("missing_amount",))
            listed.amount = amount

    def same_weight(self, action: Action, used: set[int]) -> None:
        """“Add the same weight of sugar”: measured against what stands in the vessel by then."""
        if self._same_again(action):
            return
        hit = self._words.phrases["same_as"].within(action.tokens) or ratio_in(action.tokens) or self._percent_of_it(action)
        mentions = list(self._reading.names.mentions(action.tokens)) if hit else []
        named = next((item for item in mentions if hit and item.start >= hit[0]), None) or next(iter(mentions), None)
        if hit is None or named is None or any(item.key == named.key for item in action.lines):
            return
        cuts = [at for at, token in enumerate(action.tokens) if joins(token, self._words.words)]
        end = next((at for at in cuts if at >= hit[0] + hit[1] and at >= named.start), len(action.tokens))
        begin = max((at for at in cuts if at < min(hit[0], named.start)), default=0)
        # “A 2:1 with 600 sugar”
        counted = any(q.kind == "count" and q.amount.value >= LEAST_GRAMS and q.end == named.start for q in action.quantities)
        written = any(q.kind in MEASURED and begin <= q.start < end for q in action.quantities)
        if written or (counted and named.start > hit[0] + hit[1] and action.tokens[named.start - 2].plain in self._words.words["with"]):
            return
        ratio = float(hit[2]) * self._share_before(action.tokens[: hit[0]])
        said = action.tokens[named.start : named.end]
        item = next((item for item in self._waiting if item.key == named.key), None) or next(
            # “An equal weight of sugar” is the caster sugar of the list.
            (item for item in self._waiting if self._calling.speaks(said, item)),
            None,
        )
        if item is None:
            tokens = action.tokens[min(hit[0], named.start) : max(named.end, hit[0] + hit[1])]
            item = self._maker.ingredient(action.line, tokens, named, Amount("ratio", Range.exact(ratio)))
            self._calling.add(action, item)
        else:
            if item.amount.assumed:
                item.amount = Amount("ratio", Range.exact(ratio))
            action.lines.append(item)
            self._waiting.remove(item)
        used.add(id(item))

    def _percent_of_it(self, action: Action) -> tuple[int, int, float] | None:
        """Returns (position, number of tokens, share of the vessel's mass [g/g]) of “60 % of that in”; None if the action has no such words."""
        tokens, words = action.tokens, self._words.words
        for quantity in action.quantities:
            at = quantity.end + 1
            said = quantity.kind == "percent" and at + 1 < len(tokens) and tokens[at - 1].plain in words["of"]
            if said and tokens[at].plain in words["pronouns"] and tokens[at + 1].plain in words["in_words"]:
                return quantity.start, at + 2 - quantity.start, quantity.amount.value / 100.0
        return None

    def _share_before(self, tokens: Sequence[Token]) -> float:
        """Returns the share that tokens end with: 0.33 for the “a third of” of “a third of their weight in sugar”; 1.0 without one."""
        words = self._words
        for at in range(max(0, len(tokens) - _MOST_SHARE), len(tokens)):
            share = words.at("shares", tokens, at)
            behind = tokens[at + share[0] :] if share else ()
            if share and (not behind or [token.plain in words.words["of"] for token in behind] == [True]):
                return float(share[1])
        return 1.0

    def _same_again(self, action: Action) -> bool:
        """Adds a material with the amount of the one before it: “300 g of sugar and the same of water”. Returns False if the action has no such phrase."""
        hit = self._words.phrases["same_again"].within(action.tokens)
        named = next((item for item in self._reading.names.mentions(action.tokens) if hit and item.start >= hit[0] + hit[1]), None)
        before = next((q for q in reversed(action.quantities) if hit and q.end <= hit[0] and q.kind in MEASURED), None)
        if hit is None or named is None or before is None:
            return False
        made = self._maker.with_amount(action.line, action.tokens[hit[0] : named.end], named, before)
        self._calling.add(action, made)
        return True
