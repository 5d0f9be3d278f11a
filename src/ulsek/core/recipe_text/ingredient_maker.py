"""Ingredients out of quantities and names: so many grams, mL or pieces, as written; the usual amount, marked so, where nobody wrote one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..base import budgets
from ..base.messages import message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.units import KITCHEN_ML
from ..safety.shipped_rules import kitchen_words
from ..written.quantities import LENGTHS, MEASURED, Quantity
from ..written.tokens import Token, tokens_of
from .brewed import A_CUP, brewed_if_dry
from .doubts import to_amount
from .ingredient import OPEN, Amount, Ingredient
from .line_questions import LineQuestions
from .material_names import Named
from .piece_amounts import juice_g, of_vague, part_g, product
from .spellings import fruit_of, part_key
from .text_reading import TextReading
from .usual import usual
from .written_strength import at_its_strength

_OUNCE = "oz"
_DENSE = 1.12
"""From this density [g/mL] on, an ounce of a liquid by weight and by volume differ by more than fruit does."""
_NEVER_PIECES = frozenset({"spirit", "sweetener", "water", "juice", "vinegar", "salt", "acid", "puree", "dairy", "wine", "grain", "fat"})
"""Kinds that nobody counts, so that a number without a unit is grams."""
_MOST_PIECES = 100.0
"""Number without a unit from which nobody counted pieces [count]. House experience."""
_POWDERS = ("acid", "salt")
"""Kinds of which any number without a unit is grams."""
_WHOLE = 100.0
"""Sum of all shares of a recipe [%]."""
_PIECES_ASKED = frozenset({"leaf", "herb", "flower", "peel", "spice", "root"})
_LEAST_WITHOUT_UNIT = 10.0
"""Smallest number without a unit that is taken for grams [g]. House experience."""


@dataclass(frozen=True, slots=True)
class RatioOf:
    """So much for each of another: `each` is (mass, volume or percent; g, mL or 100) of what is named by `basis`; None for the largest of the list so far.

    `strained`: it is measured against what was strained and stands in the vessel.
    """

    much: Quantity
    each: tuple[str, float]
    basis: Named | None
    strained: bool = False


class IngredientMaker:
    """Makes the ingredients of one reading; each is kept there and asked about."""

    def __init__(self, reading: TextReading) -> None:
        self._reading, self._questions = reading, LineQuestions(reading)

    def ingredient(self, line: int, tokens: Sequence[Token], named: Named, amount: Amount, *, volume: bool | None = None) -> Ingredient:
        """Returns an ingredient of these tokens, kept and questioned."""
        liquid = amount.kind in ("volume", "line", "cover") and amount.unit not in ("tsp", "tbsp", "cup") if volume is None else volume
        key = self._reading.key_of(named, volume=liquid)
        start, end = (tokens[0].start, tokens[-1].end) if tokens else (0, 0)
        made = Ingredient(line, start, end, self._reading.text[start:end], named, key, amount, own=self._reading.own.get(key))
        self._reading.listed.append(made)
        budgets.within(self._reading.listed, budgets.LINES, message("lines"), "text", message("Paste one recipe at a time"))
        self._questions.what(made)
        return made

    def with_amount(self, line: int, tokens: Sequence[Token], named: Named, quantity: Quantity) -> Ingredient:
        """Returns an ingredient with the amount that was written, in grams where pieces or a vague word allow no more."""
        kind = quantity.kind
        spooned = usual()["by_volume"].get(named.key) if kind == "volume" else None
        if spooned is not None and spooned in self._reading.names.known:
            # A teaspoon of vanilla is its extract.
            named = replace(named, key=spooned)
        volume = kind == "volume" and quantity.unit not in ("tsp", "tbsp", "cup", "dessertspoon")
        if kind == "vague" and quantity.unit in ("bottle", "glass", "mug", "shot", "splash", "glug", "dash"):
            volume = True
        if kind == "parts":
            # “4 parts lemon” are juice.
            named = self._squeezed(named)
        if volume or (kind == "mass" and quantity.unit == _OUNCE and self._one_of_it(tokens)):
            # “30 ml lemon” is juice.
            named = self._squeezed(named)
        if (
            kind in (*MEASURED, "parts")
            and named.key in usual()["brewed"]
            and any(token.plain in self._reading.words.words["brewed_words"] for token in tokens)
        ):
            # “Black tea, strong, 500 g”, “4 cups brewed coffee”
            named = replace(named, form="tea")
        named = at_its_strength(self._reading, named, tokens, quantity)
        key = self._reading.key_of(named, volume=volume)
        if kind in ("percent", "parts"):
            return self.ingredient(line, tokens, named, Amount(kind, quantity.amount, quantity.unit), volume=volume)
        weighed = self._reading.words.phrases["by_basis"].within(tokens)
        if kind == "mass" and quantity.unit == _OUNCE and self._is_liquid(key) and not (weighed and weighed[2] == "weight"):
            return self._in_ounces(line, tokens, named, quantity)
        if kind in MEASURED:
            amount = Amount(kind, self._thousands(quantity), quantity.unit)  # type: ignore[arg-type]
            if kind == "volume" and self._packed(tokens, key):
                each = Range(*usual()["grated_g_ml"])
                amount = Amount(
                    "mass",
                    Range(amount.amount.value * each.value, amount.amount.low * each.low, amount.amount.high * each.high),
                    "grated",
                    True,
                )
            made = self.ingredient(line, tokens, named, amount, volume=volume)
            self._questions.which_pint(made, quantity, tokens)
            if named.key in usual()["brewed"] and made.key == named.key and amount.amount.value >= A_CUP:
                self._reading.waiting.append(lambda: brewed_if_dry(self._reading, made))
            if quantity.other is not None and quantity.amount.value < quantity.other and quantity.unit in ("g", "ml"):
                self._questions.thousands(made, quantity)
            if amount.unit == "grated":
                self._questions.how_much(made, quantity.unit)
            return made
        return self._pieces(line, tokens, named, key, quantity)

    def _squeezed(self, named: Named) -> Named:
        """Returns the juice of a citrus fruit that is measured by volume; what is named for anything else."""
        if named.key is None or named.part or self._reading.material(named.key).kind != "fruit":
            return named
        zest = part_key(named.key, "zest", self._reading.names.known)
        return (self._reading.part_of(named, "juice") or named) if zest else named

    @staticmethod
    def _one_of_it(tokens: Sequence[Token]) -> bool:
        """Returns True for words in the singular: “2 oz lime”, not “2 oz limes”."""
        return bool(tokens) and all(token.plain == token.stem for token in tokens if token.kind == "word")

    def _thousands(self, quantity: Quantity) -> Range:
        # Nobody weighs 1.500 g on a kitchen scale: it is a kilogram and a half.
        if quantity.other is not None and quantity.unit in ("g", "ml") and quantity.other > quantity.amount.value:
            return Range.exact(quantity.other)
        return quantity.amount

    def _is_liquid(self, key: str) -> bool:
        """Returns True for what a jigger measures, honey and syrups too."""
        try:
            return self._reading.material(key).poured_g_ml.is_exact
        except Refusal:
            return False

    def _packed(self, tokens: Sequence[Token], key: str) -> bool:
        return self._reading.material(key).kind == "root" and any(
            token.plain in self._reading.words.words["grated_words"] for token in tokens
        )

    def _in_ounces(self, line: int, tokens: Sequence[Token], named: Named, quantity: Quantity) -> Ingredient:
        """Ounces of a liquid are fluid; asked where the liquid is so dense that it matters."""

        millilitres = quantity.amount.times(KITCHEN_ML[self._reading.locale]["fl oz"] / 28.349523125)
        made = self.ingredient(line, tokens, named, Amount("volume", millilitres, "fl oz"), volume=True)
        density = self._reading.material(made.key).density_g_ml()
        if density >= _DENSE:
            by_weight = Amount("mass", quantity.amount, _OUNCE)
            self._reading.ask(
                "which_ounce",
                made,
                f"Ounces of {self._reading.called(made)}: fluid, or by weight?",
                to_amount("fluid ounces", made.amount),
                to_amount("by weight", by_weight),
            )
        return made

    def _pieces(self, line: int, tokens: Sequence[Token], named: Named, key: str, quantity: Quantity) -> Ingredient:
        """So many pieces, strips, handfuls, bottles: in grams or mL by what one usually is."""
        material = self._reading.material(key)
        count = quantity.amount
        if quantity.kind == "count" and any(token.stem in self._reading.words.words["bag_words"] for token in tokens):
            quantity = replace(quantity, kind="vague", unit="teabag")
        if quantity.unit == "head" and key in usual()["counts_known"]:
            quantity = replace(quantity, kind="count", unit="each", imprecise=False)
        if quantity.unit in LENGTHS and key in usual()["counts_known"]:
            # “2 x 8 cm sticks of cinnamon” are two, however long.
            times = tokens[0].number if len(tokens) > 1 and tokens[1].plain in self._reading.words.words["times_words"] else None
            quantity = replace(quantity, kind="count", unit="each", amount=Range.exact(times.value if times else 1.0), imprecise=False)
            count = quantity.amount
        if quantity.kind == "count":
            return self._of_count(line, tokens, named, key, quantity)
        unit = quantity.unit
        if unit == "butter stick" and material.kind not in ("fat", "dairy"):
            # “A stick of cinnamon”
            return self._of_count(line, tokens, named, key, replace(quantity, kind="count", unit="each", imprecise=False))
        if unit == "sprig" and material.piece_g is not None and self._reading.may_hurt(key):
            # “3 ramas de canela” are its pieces.
            return self.ingredient(line, tokens, named, Amount("count", count, "each"))
        if unit == "squeeze" and material.kind == "fruit":
            # What is squeezed out of a fruit is its juice.
            juice = self._reading.part_of(named, "juice")
            if juice is not None and juice.key is not None:
                named, key, material = juice, juice.key, self._reading.material(juice.key)
        if unit == "bottle" and material.kind in ("spirit", "wine"):
            each = Range(*usual()["words"]["bottle"]["kinds"][material.kind])
            return self.ingredient(line, tokens, named, Amount("volume", product(count, each), unit), volume=True)
        if self._reading.may_hurt(key) and material.kind not in ("spirit", "tincture") and unit not in ("drop", "dash", "stalk", "head"):
            return self.blank(line, tokens, named)
        return self.hollow(line, tokens, named, of_vague(self._reading, key, quantity), "imprecise")

    def _of_count(self, line: int, tokens: Sequence[Token], named: Named, key: str, quantity: Quantity) -> Ingredient:
        """So many of a thing: fruits whose part goes in, pieces, or a number that lacks its unit."""
        material, count = self._reading.material(key), quantity.amount
        if named.part and named.key is None:
            whole = next((item.key for item in self._reading.names.mentions(tokens) if item.key), None)
            if whole is not None:
                each = part_g(self._reading, whole, named.part)
                return self.hollow(line, tokens, named, Amount("mass", product(count, each), f"the {named.part} of one"), "count_of_fruit")
        if named.part and material.piece_g is not None and named.part in usual()["hand_share"]:
            share = Range(*usual()["hand_share"][named.part])
            return self.hollow(
                line,
                tokens,
                named,
                Amount("mass", product(count, product(material.piece_g, share)), f"the {named.part} of one"),
                "count_of_fruit",
            )
        # “Xanthan 0.4”: no sheets of it.
        gum = material.kind == "gum" and (material.piece_g is None or count.value % 1 > 0)
        last = tokens_of(named.said)[-1:]
        # “Lem jce 250” is 250 g of juice, “juice of 12 lemons” so many fruits.
        part_of = named.part and (self._reading.words.at("part_words", last, 0) or (0, ""))[1] != named.part
        if (
            quantity.unit == "each"
            and not part_of
            and (material.kind in _NEVER_PIECES or count.value >= _MOST_PIECES or gum)
            and (count.value >= _LEAST_WITHOUT_UNIT or material.kind in _POWDERS or gum)
        ):
            # “Sugar 400”, “500 cucumber juice”
            # “700 bourbon” is poured.
            poured = material.kind == "spirit"
            made = self.ingredient(line, tokens, named, Amount("volume", count, "ml") if poured else Amount("mass", count, "g"))
            self._questions.no_unit(made, count)
            return made
        fruit = fruit_of(key, self._reading.names.known) if material.kind in ("juice", "peel") else None
        if fruit is not None and material.piece_g is None:
            return self.hollow(
                line, tokens, named, Amount("mass", product(count, juice_g(self._reading, fruit)), "the juice of one"), "count_of_fruit"
            )
        if material.piece_g is not None and self._reading.may_hurt(key):
            # So many beans or sticks were written: nothing is assumed of them.
            return self.ingredient(line, tokens, named, Amount("count", count, "each"))
        if material.piece_g is not None and material.kind != "gum":
            return self._counted(line, tokens, named, key, quantity)
        if self._reading.may_hurt(key):
            return self.blank(line, tokens, named)
        each = Range(*usual()["piece_g"].get(material.kind, usual()["piece_g"]["other"]))
        return self.hollow(line, tokens, named, Amount("mass", product(count, each), "one"), "no_piece_weight")

    def _counted(self, line: int, tokens: Sequence[Token], named: Named, key: str, quantity: Quantity) -> Ingredient:
        """Pieces of a thing whose piece is known: kept as a count, larger or smaller ones by weight."""
        material = self._reading.material(key)
        piece = material.piece_g or Range.exact(1.0)
        sizes = kitchen_words()["sizes"]
        size = next((token.plain for token in tokens if token.plain in sizes), None)
        kind = material.kind
        asked = (kind in _PIECES_ASKED and key not in usual()["counts_known"]) or kind == "peel"
        if size or asked or quantity.imprecise:
            # A word for the size says how much more or less than the mean piece; without one, pieces differ as they do.
            one = Range(piece.value * sizes[size][0], piece.value * min(sizes[size]), piece.value * max(sizes[size])) if size else piece
            share = Range(*usual()["hand_share"]["peel"]) if kind == "peel" else Range.exact(1.0)
            grams = product(quantity.amount, product(one, share))
            if asked:
                return self.hollow(line, tokens, named, Amount("mass", grams, "one"), "count_of_pieces")
            return self.ingredient(line, tokens, named, Amount("mass", grams, "each"))
        return self.ingredient(line, tokens, named, Amount("count", quantity.amount, "each"))

    def hollow(self, line: int, tokens: Sequence[Token], named: Named, amount: Amount, code: str) -> Ingredient:
        """Returns an ingredient with an assumed amount [g or mL], which is asked about."""
        made = self.ingredient(line, tokens, named, replace(amount, assumed=True))
        self._questions.how_much(made, amount.unit, code)
        return made

    def without_amount(self, line: int, tokens: Sequence[Token], named: Named, *, to_taste: bool) -> Ingredient:
        """Returns an ingredient that has no amount: the usual one of its kind, with a wide range; blank where that could hurt."""
        key = self._reading.key_of(named, volume=False)
        if self._reading.may_hurt(key):
            return self.blank(line, tokens, named)
        missing = usual()["missing_g"]
        each = Range(*map(float, missing.get(key) or missing.get(self._reading.material(key).kind, missing["other"])))
        if any(token.plain in self._reading.words.words["some_words"] for token in tokens):
            # “Some lemon juice” is less than what a recipe is made of.
            each = each.times(float(usual()["some"]))
        made = self.ingredient(line, tokens, named, Amount("mass", each, "", assumed=True))
        self._questions.how_much(made, "", "to_taste" if to_taste else "missing_amount")
        return made

    def blank(self, line: int, tokens: Sequence[Token], named: Named) -> Ingredient:
        """Returns an ingredient whose amount nobody may assume."""
        made = self.ingredient(line, tokens, named, OPEN)
        self._reading.ask(
            "missing_amount",
            made,
            f"How much {self._reading.called(made)}? It can hurt, so nothing is assumed: weigh it and write the grams.",
        )
        return made

    def in_ratio(self, line: int, tokens: Sequence[Token], named: Named, ratio: RatioOf) -> Ingredient:
        """Returns an ingredient whose mass is a ratio [g/g] to another ingredient of the list, in its `per`; to the content of the vessel if `ratio.strained`.

        Where no ingredient of the list is named by the ratio, the amount is taken as it is written, or as percent of the vessel, and asked about. Raises nothing.
        """
        first, each, basis, strained = ratio.much, ratio.each, ratio.basis, ratio.strained
        key = self._reading.key_of(named, volume=first.kind == "volume")
        against = self.listed(basis, key) if not strained else None
        if first.kind == "percent":
            share = first.amount.value / 100.0
        else:
            grams = self._reading.mass_g(first.kind, first.amount.value, key)
            per = self._reading.mass_g(each[0], each[1], against.key) if against else None
            share = grams / per if grams and per else 0.0
        if strained and first.kind == "percent":
            return self.ingredient(line, tokens, named, Amount("ratio", Range.exact(first.amount.value / 100.0), "vessel"))
        if strained and first.kind in MEASURED:
            grams = self._reading.mass_g(first.kind, first.amount.value, key) or first.amount.value
            # A millilitre of what was strained weighs a gram and a little more.
            return self.ingredient(line, tokens, named, Amount("ratio", Range.exact(float(f"{grams / each[1]:.6g}")), "vessel"))
        if against is None or share <= 0:
            if first.kind == "percent":
                made = self.ingredient(line, tokens, named, Amount("percent", first.amount, "%"))
                self._reading.ask("percent_of_what", made, f"{first.amount.value:g} % of what, and by weight or by volume?")
                self._reading.waiting.append(lambda: self._further_down(made, ratio))
                return made
            made = (
                self.with_amount(line, tokens, named, first)
                if first.kind in MEASURED
                else self.without_amount(line, tokens, named, to_taste=False)
            )
            self._reading.ask("ratio_to_what", made, f"So much for each of what? “{basis.said if basis else 'that'}” is not in the list.")
            self._reading.waiting.append(lambda: self._further_down(made, ratio))
            return made
        made = self.ingredient(line, tokens, named, Amount("ratio", Range.exact(share), "ratio"))
        made.per = (against, share)
        return made

    def _further_down(self, made: Ingredient, ratio: RatioOf) -> None:
        """Settles a ratio to a line that stands below it: “5 g malic per litre of water” before the water."""
        first, each = ratio.much, ratio.each
        against = self.listed(ratio.basis, made.key) if ratio.basis is not None and ratio.basis.key is not None else None
        if against is None or against is made:
            return
        grams = self._reading.mass_g(first.kind, first.amount.value, made.key)
        per = self._reading.mass_g(each[0], each[1], against.key)
        share = first.amount.value / 100.0 if first.kind == "percent" else grams / per if grams and per else 0.0
        if share <= 0:
            return
        made.amount, made.per = Amount("ratio", Range.exact(share), "ratio"), (against, share)
        self._reading.settle(made.start, made.end, ("percent_of_what", "ratio_to_what"))

    def up_to_the_whole(self, made: Ingredient, tokens: Sequence[Token], found: Sequence[Quantity]) -> None:
        """Changes “water to 100 %” to 100 % less the other shares, after the whole list is read."""
        first = found[0] if found else None
        to = first is not None and first.start and tokens[first.start - 1].plain in self._reading.words.words["to"]
        if first is None or not to or made.amount.kind != "percent" or made.amount.amount.value != _WHOLE:
            return

        def rest() -> None:
            others = sum(item.amount.amount.value for item in self._reading.listed if item is not made and item.amount.kind == "percent")
            if 0 < others < _WHOLE:
                made.amount = replace(made.amount, amount=Range.exact(_WHOLE - others))

        self._reading.waiting.append(rest)

    def listed(self, basis: Named | None, own: str = "") -> Ingredient | None:
        """Returns the ingredient of the list that a ratio is measured against: the one named, else the largest so far but `own`, a key; None where there is none."""
        if basis is not None and basis.key is not None:
            known, said = self._reading.names.known, basis.said.lower()
            base, kind = fruit_of(basis.key, known) or basis.key, self._reading.material(basis.key).kind
            ranked = [
                (3 * (base in (item.key, fruit_of(item.key, known))))
                # “Of the coffee” is of the cold brew coffee.
                or (2 * (item.own is not None and said in item.named.said.lower()))
                or int(self._reading.material(item.key).kind == kind)
                for item in self._reading.listed
            ]
            best = max(ranked, default=0)
            return self._reading.listed[ranked.index(best)] if best else None
        sized = [(self._reading.grams(item) or 0.0, item) for item in self._reading.listed if item.key != own]
        return max(sized, key=lambda pair: pair[0])[1] if sized else None
