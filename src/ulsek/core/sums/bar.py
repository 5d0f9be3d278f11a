"""Bar sums: what is wrong in a batch and what corrects it, a drink as it is poured, the cost of a serve."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..base.messages import Computed, Given, message, term
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.constants import ETHANOL_G_ML
from ..chemistry.contents import Contents
from ..evaluation.line_mass import Reach, amounts_to_reach, bring_to
from ..materials.material import Material
from ..operations.amounts import TargetProperty
from ..operations.serve import BlendIce, Build, Shake, StirIce
from ..properties.acidity import acid_g_100ml
from ..properties.alcohol import abv, mass_fraction_from_abv
from ..properties.density import density_g_ml, volume_ml
from ..properties.sugar import sugar_g_100ml
from .sheet import Ask, Sum, SumAnswer, SumFigure, SumPart, SumSpot, step

_WATER, _SUGAR, _CITRIC = Contents({"water": 1.0}), Contents({"sucrose": 1.0}), Contents({"citric_acid": 1.0})
_KEYS = {"water": "water", "white sugar": "white_sugar", "citric acid": "citric_acid", "spirit": "neutral_spirit_60"}
_KINDS = {"water": "water", "white sugar": "sugar", "citric acid": "acid", "spirit": "spirit"}
_ICE = {"built": Build, "stirred": StirIce, "shaken": Shake, "blended": BlendIce}


def _spirit(strength: float) -> Contents:
    share = mass_fraction_from_abv(strength)
    return Contents({"water": 1.0 - share, "ethanol": share})


def _abv(contents: Contents) -> float:
    return abv(contents.of("ethanol"), volume_ml(contents))


def _liquid(volume: float, sugar: float, acid: float, strength: float) -> Contents:
    """Returns a liquid of `volume` [mL] with sugar and acid [g/100 mL] and alcohol [% vol]. Raises Refusal for figures that do not fit into it."""
    dry = Contents(
        {"sucrose": volume * sugar / 100.0, "citric_acid": volume * acid / 100.0, "ethanol": volume * strength / 100.0 * ETHANOL_G_ML}
    )
    # A trace of water lets the density of alcohol be computed; without any there is no solution.
    if volume_ml(dry + Contents({"water": 1e-6})) >= volume:
        raise Refusal(
            message("So much sugar and alcohol do not fit"),
            "sugar",
            message("into {volume} mL", volume=Given(volume)),
            message("Check the figures"),
            "more_than_there_is",
        )
    # Volumes do not add, so the water is solved for rather than subtracted.
    return dry + Contents({"water": bring_to(dry, [Reach("volume_ml", volume, "Water", _WATER)])[0]})


def _mending(figures: Mapping[TargetProperty, float], wrong: str, by: float) -> list[Reach]:
    """Returns the targets that correct a liquid whose `figures` are `wrong` `by` [%], each with what is added: water if a figure falls, else its own kind.

    Figures that are zero stay zero. Without alcohol, too strong and too weak are about all that is dissolved.
    """
    # “Too sweet by 25 %” is 1.25 times what it should be, so it comes down to 1/1.25, not to 0.75.
    down, up = 1.0 / (1.0 + by / 100.0), 1.0 + by / 100.0
    spirited = figures["abv"] > 0.0
    moved: TargetProperty | None = {"too sweet": "sugar_g_100ml", "too sharp": "acid_g_100ml"}.get(wrong, "abv" if spirited else None)  # type: ignore[assignment]
    factor = up if wrong == "too weak" else down
    # Without alcohol strength is about everything dissolved: then all figures move together.
    goals = {key: value * factor if moved in (key, None) else value for key, value in figures.items()}
    if moved is None and factor < 1.0:
        # Water lowers all figures by the same factor, so one target determines its mass.
        key: TargetProperty = "sugar_g_100ml" if figures["sugar_g_100ml"] else "acid_g_100ml"
        return [Reach(key, goals[key], "water", _WATER)]
    raised_by = {"sugar_g_100ml": ("white sugar", _SUGAR), "acid_g_100ml": ("citric acid", _CITRIC), "abv": ("spirit", _spirit(60.0))}
    return [
        Reach(key, goals[key], *(("water", _WATER) if goals[key] < value else raised_by[key]))
        for key, value in figures.items()
        if value > 0
    ]


def balance(volume: float, sugar: float, acid: float, strength: float, wrong: str, by: float) -> SumAnswer:
    """Returns what to add to `volume` [mL] that is too sweet, too sharp, too strong or too weak `by` [%], while the other figures stay.

    It has sugar and acid [g/100 mL] and `strength` [% vol]; a figure that is too high falls to 1/(1 + by/100) of itself, one that is too low rises to (1 +
    by/100). Strong and weak are about the alcohol if there is some, else about all that is dissolved. 1 L of 50 and 2.5 g/100 mL, too sweet by 25 %: 246.7 g of
    water and 6.25 g of citric acid. Error: that of the taste. Raises Refusal for a figure of 0, and for what no addition corrects. Source: mass balance,
    apparent volumes, Newton's method.
    """
    if {"too sweet": sugar, "too sharp": acid}.get(wrong, sugar + acid + strength) <= 0:
        raise Refusal(
            message("It cannot be {wrong}", wrong=wrong),
            "wrong",
            message("none of that is in it"),
            message("Check the figures"),
            "unreachable",
        )
    start = _liquid(volume, sugar, acid, strength)
    reaches = _mending({"sugar_g_100ml": sugar, "acid_g_100ml": acid, "abv": strength}, wrong, by)
    grams = amounts_to_reach(start, reaches)
    # The tolerance is that of Newton's method; a negative mass would mean taking something out, which nobody can.
    if grams is None or min(grams) < -1e-6 * volume:
        raise Refusal(
            message("No addition does that"), "by", message("what is kept cannot be kept"), message("Ask for a smaller step"), "unreachable"
        )
    named = [(reach.name, max(0.0, mass), reach.per_gram) for reach, mass in zip(reaches, grams, strict=True)]
    ends = start
    for _, mass, unit in named:
        ends = ends + unit.scaled(mass)
    figures = [SumFigure(message("spirit of 60 % vol") if name == "spirit" else term(name), mass, "g") for name, mass, _ in named]
    # The largest addition first: it is the one that is poured first.
    figures.sort(key=lambda figure: -figure.value)
    figures += [
        SumFigure(message("volume then"), volume_ml(ends), "mL"),
        SumFigure(message("sugar then"), sugar_g_100ml(ends), "g/100 mL"),
        SumFigure(message("acid then"), acid_g_100ml(ends), "g/100 mL"),
    ]
    if strength > 0:
        figures.append(SumFigure(message("strength then"), _abv(ends), "% vol"))
    parts = [SumPart(term(name), mass, "g", _KINDS[name]) for name, mass, _ in named]
    return SumAnswer(
        tuple(figures),
        message("so much of each that the one figure moves and the others stay"),
        "mass balance, apparent volumes at 20 °C, Newton's method",
        (message("Add three quarters of it, taste, then the rest."),),
        (SumPart(message("what is there"), start.mass_g, "g", "rest"), *parts),
        (SumSpot(message("now"), sugar, acid), SumSpot(message("then"), sugar_g_100ml(ends), acid_g_100ml(ends))),
        step("combine", *((_KEYS[name], mass) for name, mass, _ in named)),
    )


@dataclass(frozen=True, slots=True)
class DrinkInputs:
    """Parts of a drink [mL at 20 °C] with the strength of its spirit [% vol], the °Bx of its syrup and the juice that is in it; how it is iced; the sugar and acid
    that are wanted [g/100 mL; None: as it is], and the acid solution [g/100 mL] to bring it there.
    """

    spirit: float
    strength: float
    syrup: float
    brix: float
    juice: float
    of: Material
    water: float
    ice: str
    want_sugar: float | None
    want_acid: float | None
    solution: float

    @property
    def syrup_per_gram(self) -> Contents:
        """Contents of one gram of the syrup [g by substance]."""
        return Contents({"water": 1.0 - self.brix / 100.0, "sucrose": self.brix / 100.0})

    @property
    def parts(self) -> tuple[tuple[str, float, Contents, str], ...]:
        """The parts that are in it: name, volume [mL], contents [g by substance, in any amount], kind. Raises Refusal if there are none."""
        all_parts = (
            ("spirit", self.spirit, _spirit(self.strength), "spirit"),
            ("syrup", self.syrup, self.syrup_per_gram, "sugar"),
            (self.of.name, self.juice, self.of.per_gram().solution, "acid"),
            ("water or soda", self.water, _WATER, "water"),
        )
        found = tuple(part for part in all_parts if part[1] > 0)
        if not found:
            raise Refusal(
                message("Nothing is in the glass"), "spirit", message("pour something"), message("Fill in one of the parts"), "empty"
            )
        return found

    @property
    def melt_percent(self) -> Range:
        """Water from the ice [% of the mass of the drink]; exactly 0 without ice."""
        return _ICE[self.ice]("serve", "glass").melt_percent if self.ice in _ICE else Range.exact(0.0)


def drink(given: DrinkInputs) -> SumAnswer:
    """Returns a drink as it is poured: sugar and acid [g/100 mL], alcohol [% vol] and volume [mL] after the ice, and what brings it to the sugar and acid wanted.

    50 mL of 40 % vol, 25 mL of 50 °Bx, 25 mL of a juice, nothing melted: 20.0 % vol. What is added melts its share of ice as well.
    Error: the range of the ice. Raises Refusal for an empty glass, and for a wish that syrup and acid solution do not reach.
    Source: mass balance, OIML R 22, house experience of melting.
    """
    mixed, melt = Contents({}), given.melt_percent
    for _, millilitres, unit, _ in given.parts:
        mixed = mixed + unit.scaled(millilitres * density_g_ml(unit) / unit.mass_g)
    # The range of the melted ice is the only one counted: the parts were measured.
    made, watery, strong = (mixed + Contents({"water": mixed.mass_g * percent / 100.0}) for percent in (melt.value, melt.high, melt.low))
    figures = [
        SumFigure(message("volume"), volume_ml(made), "mL", volume_ml(strong), volume_ml(watery)),
        SumFigure(message("alcohol"), _abv(made), "% vol", _abv(watery), _abv(strong)),
        SumFigure(message("sugar"), sugar_g_100ml(made), "g/100 mL", sugar_g_100ml(watery), sugar_g_100ml(strong)),
        SumFigure(message("acid"), acid_g_100ml(made), "g/100 mL", acid_g_100ml(watery), acid_g_100ml(strong)),
        SumFigure(message("alcohol in the glass"), made.of("ethanol"), "g"),
        SumFigure(message("melted ice"), made.mass_g - mixed.mass_g, "g"),
    ]
    spots = [SumSpot(message("as built"), sugar_g_100ml(made), acid_g_100ml(made))]
    added = _wanted_additions(given, made)
    if added:
        ends = made
        # `reach.per_gram` holds the melt that a gram brings about; what is poured, and its volume, is `unit` alone.
        for reach, mass, unit in added:
            word = message("{reach} to add", reach=reach.name) if mass >= 0 else message("{reach} to leave out", reach=reach.name)
            figures.append(SumFigure(word, abs(mass) / density_g_ml(unit), "mL"))
            ends = ends + reach.per_gram.scaled(mass)
        spots.append(SumSpot(message("then"), sugar_g_100ml(ends), acid_g_100ml(ends)))
    iced = given.ice in _ICE
    return SumAnswer(
        tuple(figures),
        message("the parts and the melted ice together; contraction counted"),
        "mass balance; OIML R 22; melting by house experience, not a standard",
        (message("What melts is this house's to learn: weigh a glass before and after."),) if iced else (),
        (
            *(SumPart(term(name), millilitres, "mL", kind) for name, millilitres, _, kind in given.parts),
            *((SumPart(message("melted ice"), made.mass_g - mixed.mass_g, "g", "water"),) if iced else ()),
        ),
        tuple(spots),
    )


def _wanted_additions(given: DrinkInputs, made: Contents) -> list[tuple[Reach, float, Contents]]:
    """Returns what brings a drink to the sugar and acid wanted: the target, the mass to add or (below 0) to leave out [g], and the contents of one gram of it.

    Only syrup that is in the drink can be left out. Raises Refusal if nothing reaches what is wanted.
    """
    melted = Contents({"water": given.melt_percent.value / 100.0})
    wants: list[tuple[TargetProperty, float | None, str, Contents]] = [
        ("sugar_g_100ml", given.want_sugar, "syrup", given.syrup_per_gram),
        ("acid_g_100ml", given.want_acid, "acid solution", _acid_solution(given.solution)),
    ]
    reaches = [(Reach(key, want, name, unit + melted), unit) for key, want, name, unit in wants if want is not None]
    if not reaches:
        return []
    masses = amounts_to_reach(made, [reach for reach, _ in reaches])
    # Syrup that is not in the glass cannot be left out; an acid solution is never in it.
    most = given.syrup * density_g_ml(given.syrup_per_gram)
    if masses is None or any(
        mass < (-most - 1e-9 if reach.name == "syrup" else -1e-9) for (reach, _), mass in zip(reaches, masses, strict=True)
    ):
        raise Refusal(
            message(
                "It stands at {sugar} sugar and {acid} acid",
                sugar=Computed(sugar_g_100ml(made), decimals=1),
                acid=Computed(acid_g_100ml(made), decimals=2),
            ),
            "want_acid" if given.want_acid is not None else "want_sugar",
            message("syrup and acid solution do not bring it there"),
            message("Pour less juice, or ask for more"),
            "unreachable",
        )
    return [(reach, mass, unit) for (reach, unit), mass in zip(reaches, masses, strict=True)]


def _acid_solution(strength: float) -> Contents:
    """Returns one gram of a citric acid solution of `strength` [g/100 mL]."""
    dry = Contents({"citric_acid": strength})
    made = dry + Contents({"water": bring_to(dry, [Reach("volume_ml", 100.0, "Water", _WATER)])[0]})
    return made.scaled(1.0 / made.mass_g)


def serve_cost(cost: float, volume: float, serve: float, waste: float, share: float) -> SumAnswer:
    """Returns the cost of a serve: that of the batch / serves of `serve` [mL] in `volume` [mL] after `waste` [%].

    12.60 for 1 L, 25 mL a serve, 5 % waste: 38 serves at 0.332. Exact. `share` [%] is the share of the price that the drink may cost. Raises Refusal for less
    than one serve. Source: definition.
    """
    serves = math.floor(volume * (1.0 - waste / 100.0) / serve + 1e-9)
    if serves < 1:
        raise Refusal(
            message("{volume} mL are not one serve", volume=Given(volume)),
            "serve",
            message("of what is left after waste"),
            message("Make it smaller"),
            "too_small",
        )
    each = cost / serves
    return SumAnswer(
        (
            SumFigure(message("a serve"), each, "of your money"),
            SumFigure(message("serves"), serves, ""),
            SumFigure(message("a litre"), 1000.0 * cost / volume, "of your money"),
            SumFigure(message("waste costs"), cost * waste / 100.0, "of your money"),
            SumFigure(message("price at {share} %", share=Given(share)), 100.0 * each / share, "of your money"),
        ),
        message("cost / whole serves left after waste"),
        "definition",
        (message("Hands are not in it: a spec's own cost counts them."),),
    )


BAR_SUMS = (
    Sum(
        "balance",
        "fix",
        message("Too sweet, too sharp, too strong, too weak"),
        {
            "volume": Ask(message("Volume"), "mL", 1.0, 1e6),
            "sugar": Ask(message("Sugar"), "g/100 mL", 0.0, 110.0, lends="sugar_g_100ml"),
            "acid": Ask(message("Acid"), "g/100 mL", 0.0, 30.0, 0.0, lends="acid_g_100ml"),
            "strength": Ask(message("Alcohol"), "% vol", 0.0, 60.0, 0.0, lends="abv"),
            "wrong": Ask(message("It is"), allowed=("too sweet", "too sharp", "too strong", "too weak"), usual="too sweet"),
            "by": Ask(message("By, of what it should be"), "%", 0.1, 300.0, 20.0),
        },
        balance,
        message("the taste that set it; the sum 0.3 %"),
    ),
    Sum(
        "drink",
        "drink",
        message("A drink as poured: sugar, acid, alcohol, dilution"),
        {
            "spirit": Ask(message("Spirit"), "mL", 0.0, 5000.0, 0.0),
            "strength": Ask(message("Spirit's strength"), "% vol", 0.0, 96.0, 40.0, lends="abv"),
            "syrup": Ask(message("Syrup"), "mL", 0.0, 5000.0, 0.0),
            "brix": Ask(message("Syrup reads"), "°Bx", 0.0, 80.0, 50.0, lends="brix"),
            "juice": Ask(message("Juice"), "mL", 0.0, 5000.0, 0.0),
            "of": Ask(message("Which juice"), material=True, usual="bergamot_juice"),
            "water": Ask(message("Water or soda"), "mL", 0.0, 5000.0, 0.0),
            "ice": Ask(message("On ice"), allowed=("none", "built", "stirred", "shaken", "blended"), usual="shaken"),
            "want_sugar": Ask(message("Sugar wanted"), "g/100 mL", 0.0, 60.0, optional=True, aside=True),
            "want_acid": Ask(message("Acid wanted"), "g/100 mL", 0.0, 20.0, optional=True, aside=True),
            "solution": Ask(message("Acid solution"), "g/100 mL", 1.0, 60.0, 28.0, aside=True, lends="acid_g_100ml"),
        },
        drink,
        message("the ice: the range shown"),
        DrinkInputs,
    ),
    Sum(
        "serve_cost",
        "drink",
        message("What a serve costs"),
        {
            "cost": Ask(message("Batch cost"), "", 0.0, 1e6),
            "volume": Ask(message("It gave"), "mL", 1.0, 1e6),
            "serve": Ask(message("A serve"), "mL", 0.5, 5000.0),
            "waste": Ask(message("Spilled or thrown"), "%", 0.0, 95.0, 5.0),
            "share": Ask(message("May cost of its price"), "%", 1.0, 100.0, 20.0, aside=True),
        },
        serve_cost,
        message("exact; as good as the prices"),
    ),
)
