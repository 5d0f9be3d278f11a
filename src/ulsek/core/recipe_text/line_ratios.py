"""Lines that measure a thing against another: “600 g sugar per kg of quince”, “0.4 % of the juice”, “sugar 1:1 with the tea”, “honey to 45 °Bx”."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..base.ranges import Range
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .doubts import to_amount
from .ingredient import Amount, Ingredient
from .ingredient_maker import IngredientMaker, RatioOf
from .line_questions import LineQuestions
from .material_names import Named
from .rows import ratio_in
from .text_reading import TextReading
from .usual import usual

_OPENING = "(["


class LineRatios:
    """Reads the ratios of the rows of one text; `maker` makes their ingredients."""

    def __init__(self, reading: TextReading, maker: IngredientMaker) -> None:
        self._reading, self._maker = reading, maker

    def of(self, line: int, tokens: Sequence[Token], found: Sequence[Quantity]) -> Ingredient | None:
        """Returns the ingredient of a row that measures it against another or up to a °Bx; None for another row. `found` are the amounts of the row."""
        return self._ratio(line, tokens, found) or self._to_brix(line, tokens, found)

    def _ratio(self, line: int, tokens: Sequence[Token], found: Sequence[Quantity]) -> Ingredient | None:
        """ "600 g sugar per kg of quince", "30 g/l", "0.4 % of the juice": so much for each of another; None for a row without one."""
        words, reading = self._reading.words, self._reading
        first = next((q for q in found), None)
        if first is None:
            return None
        position, length, slash = self._basis_at(tokens, found)
        ratio = ratio_in(tokens)
        if ratio is not None and ratio[0] and reading.listed and self._stands_in_ratio(tokens, ratio):
            return self._in_parts_of(line, tokens, ratio)
        times = self._times(line, tokens, first)
        if times is not None:
            return times
        if first.kind == "percent":
            tokens, position, length = self._share_of(tokens, first.end)
        if not position or first.kind not in (*MEASURED, "percent", "vague", "count"):
            return None
        after = position + length
        per = reading.quantities.at(tokens, after)
        alone = reading.unit_alone(tokens, after) if per is None or per.kind not in MEASURED else None
        end = per.end if per and per.kind in MEASURED else alone[1] if alone else after
        name = [*tokens[: first.start], *tokens[first.end : position]]
        basis = next(iter(reading.names.mentions(tokens[end:])), None)
        if first.kind != "percent" and not (per and per.kind in MEASURED) and not alone:
            return None
        named = reading.names.named([token for token in name if token.plain not in words.words["of"]]) or (
            reading.names.named(tokens[end:]) if alone and slash is not None else None
        )
        if named is None:
            return None
        if slash is not None and position == slash:
            basis = None
        if first.kind == "percent" and basis is None and self._is_total(tokens[end:]):
            return self._of_the_total(line, tokens, named, first)
        drained = words.says("drained_words", tokens[end:])
        if basis is not None and basis.key and reading.material(basis.key).kind == "dairy" and self._made_here(basis.key):
            # The milk is what was pressed out of the nuts.
            basis, drained = None, True
        spoken = drained or any(token.plain in words.words["strained"] for token in tokens[end:])
        strained = (first.kind in (*MEASURED, "percent") or drained) and basis is None and spoken
        kind = words.phrases["unnamed"].within(tokens[end:]) if strained and not drained else None
        if kind and sum(reading.material(item.key).kind == kind[2] for item in reading.listed) == 1:
            # “5 g per litre of juice”, where the list has a juice.
            strained = False
        each = (per.kind, per.amount.value) if per and per.kind in MEASURED else alone[0] if alone else ("percent", 100.0)
        largest = self._maker.listed(None) if each[0] == "volume" and basis is None and first.kind in MEASURED and slash is None else None
        # “Sugar, 12 oz to the pint”: of fruit there are no pints, of its juice there are.
        strained = strained or (largest is not None and self._reading.material(largest.key).kind in ("fruit", "vegetable"))
        return self._maker.in_ratio(line, tokens, named, RatioOf(first, each, basis, strained))

    def same_as(self, line: int, tokens: Sequence[Token], named: Named, found: Sequence[Quantity]) -> Ingredient | None:
        """Returns the ingredient of a row whose mass is a multiple of another ingredient's: “same weight of sugar”, “1/4 of their weight in vinegar”. None for
        other rows. The multiple is in its `per`, or in its amount [g/g] where it refers to the content of the vessel."""
        words, reading = self._reading.words, self._reading
        start, length, times = self._share_of_its_weight(tokens) or words.phrases["same_as"].within(tokens) or (0, 0, 0.0)
        if not times or any(not start <= q.start < start + length for q in found):
            return None
        behind = list(tokens[start + length :])
        against = next((at for at, token in enumerate(behind) if self._compares(token)), len(behind))
        own, of = reading.names.named([*tokens[:start], *behind[:against]]) or named, behind[against:]
        before = next(iter(reading.names.mentions(tokens[:start])), None)
        if before is not None and not of:
            # “Sugar, half the weight of the berries”: what stands behind is what it is weighed by.
            own, of = before, behind
        made = self._maker.ingredient(line, tokens, own, Amount("ratio", Range.exact(float(times))))
        if not self._weighed_by(made, of, float(times)):

            def settle() -> None:
                self._weighed_by(made, of, float(times), last=True)

            reading.waiting.append(settle)
        return made

    def _weighed_by(self, made: Ingredient, of: Sequence[Token], times: float, *, last: bool = False) -> bool:
        """Sets `made.per` to (the ingredient that `of` names, `times` [g/g]). Returns False if that ingredient is not listed yet.

        If `last`, the list is complete: “juice” and “liquid” then refer to the content of the vessel; for other words the nearest row is used and a doubt added.
        """
        others = [item for item in reversed(self._reading.listed) if item is not made]
        by = self._meant(of, made)
        if by is None and last and any(token.plain in self._reading.words.words["strained"] for token in of):
            # “Sugar, half the weight of the juice”: of what stands in the vessel.
            made.amount = replace(made.amount, unit="vessel")
            return True
        if by is None and others and (last or not of):
            # “Its weight” is that of what was weighed last.
            by = next((item for item in others if item.per is None), others[0])
            if of:
                said = self._reading.text[of[0].start : of[-1].end]
                self._reading.ask("ratio_to_what", made, f"So much for each of what? “{said}” is not in the list.")
            elif len(others) > 1:
                answers = [
                    to_amount(f"as the {self._reading.called(item)}", Amount("mass", Range.exact(grams * times)))
                    for item in others
                    if (grams := self._reading.grams(item))
                ]
                self._reading.ask("ratio_to_what", made, f"As much as what? As the {self._reading.called(by)} is taken.", *answers)
        if by is not None:
            made.per = (by, times)
        return by is not None

    def _meant(self, tokens: Sequence[Token], own: Ingredient | None = None) -> Ingredient | None:
        """Returns the listed ingredient other than `own` that tokens name by its material, its part (“the peel”) or its kind (“the berries”); None if there is none."""
        listed, names = self._reading.listed, self._reading.names
        keys = {item.key for item in names.mentions(tokens)}
        part = self._reading.words.phrases["part_words"].within(tokens)
        kinds, strained = set[str](), self._reading.words.words["strained"]
        for token in tokens:
            group = self._reading.words.data["group_words"].get(token.stem, ())
            # “The liquid” is what stands in the vessel, whatever was poured.
            kinds.update(group if len(group) == 1 or token.plain not in strained else ())
        for fits in (
            lambda item: item.key in keys,
            lambda item: part is not None and item.named.part == part[2],
            lambda item: self._reading.material(item.key).kind in kinds,
        ):
            found = next((item for item in listed if item is not own and fits(item)), None)
            if found is not None:
                return found
        return None

    def _compares(self, token: Token) -> bool:
        words = self._reading.words.words
        return token.plain in words["to"] or token.plain in words["compares"]

    def _share_of_its_weight(self, tokens: Sequence[Token]) -> tuple[int, int, float] | None:
        """Returns (position, number of tokens, share) of “a quarter of their weight in”; None if a row has none."""
        words = self._reading.words
        hit = words.phrases["of_its_weight"].within(tokens)
        if hit is None:
            return None
        end = hit[0] - (hit[0] > 0 and tokens[hit[0] - 1].plain in words.words["of"])
        count = next((q for q in self._reading.quantities.all(tokens[:end]) if q.end == end and q.kind in ("count", "percent")), None)
        if count is None:
            return None
        share = count.amount.value / (100.0 if count.kind == "percent" else 1.0)
        return count.start, hit[0] + hit[1] - count.start, share

    def _basis_at(self, tokens: Sequence[Token], found: Sequence[Quantity]) -> tuple[int, int, int | None]:
        """Returns (position after the name, number of tokens of “per”, position of a “/” or None) of the basis of a rate: (3, 1, None) for “30 g sugar per litre”. Position 0 if there is no basis."""
        words, first = self._reading.words, found[0]
        position, length = next(
            ((at, hit[0]) for at in range(first.end, len(tokens)) if (hit := words.at("per", tokens, at)) and hit[1] != "each"), (0, 0)
        )
        slash = first.end if first.end < len(tokens) and tokens[first.end].plain == "/" else None
        if not length and slash is not None and self._reading.unit_alone(tokens, slash + 1):
            position, length = slash, 1
        last = found[-1]
        ends = (
            len(found) == 2
            and last.end == len(tokens)
            and tokens[last.start].plain in words.words["one"]
            and tokens[last.start - 1].plain != ","
        )
        if not length and ends and first.kind in (*MEASURED, "vague"):
            # “A pinch of salt a litre”: behind the name, without a word of its own.
            position = last.start
        return position, length, slash

    def _is_total(self, tokens: Sequence[Token]) -> bool:
        return any(token.plain in self._reading.words.words["total_words"] for token in tokens)

    def _of_the_total(self, line: int, tokens: Sequence[Token], named: Named, percent: Quantity) -> Ingredient:
        """Returns the ingredient of “agar 0.2 % of the total”. After the list is read its amount becomes a ratio [g/g] to the largest ingredient, so that its mass
        is that percentage of the mass of all other ingredients; or a ratio to what stands in the vessel, where another line is measured against that."""
        made = self._maker.ingredient(line, tokens, named, Amount("percent", percent.amount, "%"))

        def settle() -> None:
            sized = [(grams, item) for item in self._reading.listed if item is not made and (grams := self._reading.grams(item))]
            if any(item.amount.kind == "ratio" and item.per is None for item in self._reading.listed if item is not made):
                # “Sugar: the strained weight; citric acid 0.4 % of the final weight”
                made.amount = Amount("ratio", percent.amount.times(0.01))
            elif sized:
                largest, item = max(sized, key=lambda pair: pair[0])
                share = percent.amount.value / 100.0 * sum(grams for grams, _ in sized) / largest
                made.amount, made.per = Amount("ratio", Range.exact(share), "ratio"), (item, share)

        self._reading.waiting.append(settle)
        return made

    def _times(self, line: int, tokens: Sequence[Token], first: Quantity) -> Ingredient | None:
        """“Water 10× the peel”: so many times another thing; None for another row."""
        words, reading = self._reading.words, self._reading
        times = next(
            (at for at in range(first.end - 1, first.end + 1) if at < len(tokens) and tokens[at].plain in words.words["times_words"]), None
        )
        if first.kind == "count" and times is not None and first.start:
            named = reading.names.named(tokens[: first.start])
            meant = self._meant(tokens[times + 1 :])
            if named is not None and meant is not None:
                made = self._maker.ingredient(line, tokens, named, Amount("ratio", first.amount))
                made.per = (meant, first.amount.value)
                return made
            against = next(iter(reading.names.mentions(tokens[times + 1 :])), None) or reading.names.named(tokens[times + 1 :])
            if against is not None and named is not None and against.said:
                share = replace(first, kind="percent", amount=first.amount.times(100.0))
                return self._maker.in_ratio(line, tokens, named, RatioOf(share, ("percent", 100.0), against))
        return None

    def _share_of(self, tokens: Sequence[Token], end: int) -> tuple[Sequence[Token], int, int]:
        """Returns (tokens, place of “of”, its length) for a percentage that ends at a place: “0.4 % of the juice”, “60 % sugar by weight of the milk”
        without its “by weight”; (tokens, 0, 0) where nothing says of what."""
        words = self._reading.words
        if end < len(tokens) and tokens[end].plain in _OPENING:
            # “(5 % of the sugar)”, “5 % gum (of sugar)”
            end += 1
        of = words.at("of", tokens, end)
        if of:
            return tokens, end, of[0]
        total = next(
            (at for at in range(end, len(tokens) - 1) if words.at("of", tokens, at) and self._is_total(tokens[at + 1 : at + 3])), 0
        )
        if total:
            # “0.2 % agar of the total”
            return tokens, total, 1
        bracket = next((at for at in range(end, len(tokens) - 1) if tokens[at].plain in _OPENING), 0)
        of = words.at("of", tokens, bracket + 1) if bracket else None
        if of:
            return tokens, bracket, 1 + of[0]
        by = words.phrases["by_basis"].within(tokens[end:])
        at = end + by[0] + by[1] if by else end
        of = words.at("of", tokens, at) if by else None
        return ([*tokens[: end + by[0]], *tokens[at:]], end + by[0], of[0]) if by and of else (tokens, 0, 0)

    def _made_here(self, key: str) -> bool:
        """Returns True for a dairy key that is not in the list while nuts or grain are: the milk is then pressed from those."""
        listed = self._reading.listed
        return all(item.key != key for item in listed) and any(self._reading.material(item.key).kind in ("nut", "grain") for item in listed)

    def _against(self, token: Token) -> bool:
        words = self._reading.words.words
        return token.plain in words["to"] or token.plain in words["with"]

    def _stands_in_ratio(self, tokens: Sequence[Token], ratio: tuple[int, int, float]) -> bool:
        """Returns True for “sugar 1:1 with the tea” and “sugar at 1:1 by weight”: measured against another thing; False for “syrup 2:1”, a strength."""
        end, words = ratio[0] + ratio[1], self._reading.words
        if end < len(tokens) and self._against(tokens[end]):
            return True
        by = words.phrases["by_basis"].within(tokens[end:])
        return tokens[ratio[0] - 1].plain in words.words["at_words"] or (by is not None and by[0] == 0)

    def _in_parts_of(self, line: int, tokens: Sequence[Token], ratio: tuple[int, int, float]) -> Ingredient | None:
        """“Sugar 1:1 with the strained liquid”: so much for each gram of what stands in the vessel, or of another line."""
        reading = self._reading
        before = tokens[ratio[0] - 1].plain in reading.words.words["at_words"]
        named = reading.names.named(tokens[: ratio[0] - before])
        if named is None:
            return None
        behind = tokens[ratio[0] + ratio[1] :]
        basis = next(iter(reading.names.mentions(behind)), None)
        strained = any(token.plain in reading.words.words["strained"] for token in behind)
        if strained and basis is not None and basis.key in usual()["brewed"] and reading.words.words["strained"] >= {basis.said.lower()}:
            # “Sugar 1:1 with the tea”: what was brewed, not its leaves.
            basis = None
        against = None if strained and basis is None else self._maker.listed(basis, named.key or "")
        made = self._maker.ingredient(line, tokens, named, Amount("ratio", Range.exact(ratio[2]), "vessel" if against is None else "ratio"))
        made.per = (against, ratio[2]) if against is not None else None
        return made

    def _to_brix(self, line: int, tokens: Sequence[Token], found: Sequence[Quantity]) -> Ingredient | None:
        """“Honey to 45 °Bx”: as much as it takes; None for another row."""
        goal = next((q for q in self._reading.quantities.all(tokens) if q.kind == "brix"), None) if not found else None
        named = next(iter(self._reading.names.mentions(tokens[: goal.start])), None) if goal is not None else None
        if goal is None or named is None:
            return None
        return self._maker.ingredient(line, tokens, named, Amount("brix", goal.amount))


def without_circles(reading: TextReading) -> None:
    """Gives an assumed amount to each ingredient of the list that is measured against itself by way of others, and asks: “acid 5 g per litre of water, water 10 × the acid”."""
    for item in reading.listed:
        against, seen = item.per, {id(item)}
        while against is not None and id(against[0]) not in seen:
            seen.add(id(against[0]))
            against = against[0].per
        if against is not None and against[0] is item:
            item.per = None
            missing = usual()["missing_g"]
            each = Range(*map(float, missing.get(reading.material(item.key).kind, missing["other"])))
            item.amount = Amount("mass", each, "", assumed=True)
            LineQuestions(reading).how_much(item, "", "missing_amount")
