"""Dosing sums: dry acids in a fixed split to a target, a house's rule of thumb, syrup that carries a mass of sugar."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from ..base.messages import Computed, Given, message, term, verbatim
from ..base.refusals import Refusal
from ..base.units import DROP_ML, KITCHEN_ML
from ..base.weighing import resolution_remark
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES
from ..evaluation.line_mass import Reach, bring_to
from ..materials.material import Material
from ..properties.acidity import acid_g_100ml
from ..properties.density import density_g_ml
from ..properties.sugar import sugar_g_100ml
from .acids import stronger_than
from .sheet import DROP, SCALE, Ask, Sum, SumAnswer, SumFigure, SumPart, SumSpot, kind_of, step

_ROOM_TOLD_ML = 5.0
"""The acids take up room in the liquid; the answer mentions it from this volume of them on [mL]. House experience."""


@dataclass(frozen=True, slots=True)
class AcidTargetInputs:
    """A liquid of `volume` [mL] to bring from `have` [g/100 mL; None: its own] to `want` [g/100 mL] by dry acids in the shares named, on a scale of `scale_g` [g]."""

    liquid: Material
    volume: float
    have: float | None
    want: float
    citric: float
    malic: float
    tartaric: float
    lactic: float
    scale_g: float

    @property
    def acids_per_gram(self) -> Contents:
        """One gram of the acids together [g by substance]. Raises Refusal if none has a share."""
        shares = {"citric_acid": self.citric, "malic_acid": self.malic, "tartaric_acid": self.tartaric, "lactic_acid": self.lactic}
        total = math.fsum(shares.values())
        if total <= 0:
            raise Refusal(
                message("No acid has a share"),
                "citric",
                message("at least one must be above zero"),
                message("Give the parts, such as 2 and 1"),
            )
        return Contents({key: share / total for key, share in shares.items() if share})

    @property
    def start(self) -> Contents:
        """The liquid before the acids [g by substance]. Raises Refusal for what holds no water, and for one that is above the target already."""
        found = self.liquid.per_gram().scaled(self.volume * self.liquid.density_g_ml())
        if found.of("water") <= 0:
            raise Refusal(
                message("{liquid} is no liquid", liquid=self.liquid.name),
                "liquid",
                remedy=message("Choose a juice, a syrup or water"),
                code="not_a_liquid",
            )
        if self.have is not None:
            found = _standing_at(found, self.have, self.volume)
        stands = acid_g_100ml(found)
        if self.want < stands:
            raise Refusal(
                message(
                    "It stands at {acid_g_100ml} and should come down to {want} g/100 mL",
                    acid_g_100ml=Computed(stands, decimals=2),
                    want=Given(self.want),
                ),
                "want",
                message("acid only raises it"),
                message("Dilute it instead"),
                "unreachable",
            )
        return found


def acid_to_target(given: AcidTargetInputs) -> SumAnswer:
    """Returns the mass of each dry acid [g] that brings a liquid to a titratable acid [g/100 mL, as citric] in the volume that it has then.

    1 L of pear juice from 0.4 to 5 g/100 mL with two parts of citric to one of malic: 32.1 and 16.1 g. Error: that of the reading.
    Raises Refusal for what is no liquid, and for a target below what it holds. Source: mass balance, apparent volumes.
    """
    mixed, start, volume = given.acids_per_gram, given.start, given.volume
    grams = bring_to(start, [Reach("acid_g_100ml", given.want, "the acids", mixed)])[0]
    made = start + mixed.scaled(grams)
    # One unknown, the mass of the blend: its shares are fixed, so the masses of the acids follow.
    each = {key: grams * share for key, share in mixed.grams.items()}
    then_ml = made.solution.mass_g / density_g_ml(made)
    figures = [SumFigure(term(SUBSTANCES[key].name), mass, "g") for key, mass in each.items()]
    figures += [SumFigure(message("volume then"), then_ml, "mL"), SumFigure(message("acids together"), grams, "g")]
    # What a cook would compute who forgets that acids take up room; shown so that the difference is seen.
    figures += [SumFigure(message("by volume alone it would be"), volume * (given.want - acid_g_100ml(start)) / 100.0, "g as citric")]
    remarks = []
    if then_ml > volume + _ROOM_TOLD_ML:
        room = Computed(then_ml - volume, decimals=0)
        remarks.append(message("The acids take {then} mL of room: that is counted, so it lands on the target.", then=room))
    for key, mass in each.items():
        remarks += resolution_remark(mass, given.scale_g, SUBSTANCES[key].name)
    return SumAnswer(
        tuple(figures),
        message("so much of the blend that titration finds the target in the volume there is then"),
        "mass balance; apparent volumes of the acids",
        tuple(remarks),
        (
            SumPart(verbatim(given.liquid.name), volume, "mL", kind_of(given.liquid)),
            *(SumPart(term(SUBSTANCES[key].name), mass, "g", "acid") for key, mass in each.items()),
        ),
        (
            SumSpot(message("now"), sugar_g_100ml(start), acid_g_100ml(start)),
            SumSpot(message("then"), sugar_g_100ml(made), acid_g_100ml(made)),
        ),
        step("combine", *each.items()),
    )


def _standing_at(start: Contents, have: float, volume: float) -> Contents:
    """Returns the liquid with the acid that was read in it [g/100 mL], as citric acid, in place of its typical acid."""
    # Given for the liquid as it stands: what was read replaces what is typical.
    off = (have - acid_g_100ml(start)) * volume / 100.0
    acid = {key: grams for key, grams in start.grams.items() if key in SUBSTANCES and SUBSTANCES[key].equivalent_g}
    typical = acid_g_100ml(start)
    if off >= 0 or not acid or typical <= 0:
        return start + Contents({"citric_acid": max(0.0, off)})
    # Less acid was read than is typical: acids and the cations that bind them are reduced by the same factor.
    share = have / typical
    return Contents({key: grams * (share if key in acid or key in ("potassium", "sodium") else 1.0) for key, grams in start.grams.items()})


_RULE = re.compile(
    r"^\s*(?P<dose>\d+(?:[.,]\d+)?)\s*(?P<unit>ml|millilit(?:re|er)s?|drops?|dash(?:es)?)\b\s*(?:of\s+\w+\s+)?(?:per|/|for(?: each| every)?|to(?: the| an?)?)\s*"
    r"(?P<many>\d+(?:[.,]\d+)?)?\s*(?P<measure>fl\.?\s?oz\.?|fluid\s?ounces?|ounces?|oz|ml|cl|l|lit(?:re|er)s?|cups?)"
    r"(?:\s*(?:,|and|per|for each|for every|/|by)*\s*(?P<points>\d+(?:[.,]\d+)?)?\s*(?:points?|percent|%|g\s*/\s*100\s*ml))?\s*\.?$",
    re.IGNORECASE,
)
_DASH_ML, MOST_RULE = 0.9, 200
_SHORT = {"l": 1000.0, "ml": 1.0, "cl": 10.0, "c": KITCHEN_ML["us"]["cup"], "f": KITCHEN_ML["us"]["fl oz"], "o": KITCHEN_ML["us"]["fl oz"]}


def _number(text: str | None) -> float:
    return float(text.replace(",", ".")) if text else 1.0


def read_rule(said: str, drop_ml: float = DROP_ML) -> float:
    """Returns a rule of thumb in mL for 100 mL and each g/100 mL: “0.3 mL per fluid ounce and point” is 1.01. A point is 1 g/100 mL; an ounce is the US fluid
    ounce.

    Exact. Raises Refusal for words without a dose or a measure, and for more than 200 letters. Source: definition.
    """
    if len(said) > MOST_RULE:
        raise Refusal(
            message("This is too long for a rule"),
            "rule",
            message("at most {most} letters", most=MOST_RULE),
            message("Say a dose and its measure"),
            "too_long",
        )
    found = _RULE.match(said)
    if not found:
        raise Refusal(
            message("“{written}” is no rule that can be read", written=said.strip()),
            "rule",
            message("a dose in mL or drops, a measure, and points of acid"),
            message("Write it as 0.3 mL per fluid ounce and point"),
            "unreadable",
        )
    dose = _number(found["dose"]) * {"m": 1.0, "d": drop_ml}[found["unit"][0].lower()]
    if found["unit"].lower().startswith("dash"):
        dose = _number(found["dose"]) * _DASH_ML
    measure = found["measure"].lower()
    each = _number(found["many"]) * _SHORT.get(measure, _SHORT.get(measure[0], 1.0))
    points = _number(found["points"])
    if min(dose, each, points) <= 0:
        raise Refusal(message("A rule needs a dose, a measure and points above zero"), "rule", code="not_positive")
    # To 100 mL and one point, so that rules of different measures can be compared.
    return dose / each * 100.0 / points


def rule_of_thumb(rule: str, volume: float, have: float, want: float, solution: float, drop: float) -> SumAnswer:
    """Returns the dose of a house's linear rule and the exact dose of a solution [g/100 mL] that brings `volume` [mL] from `have` to `want` [g/100 mL].

    “3.5 mL per 100 mL and point” with 28 g/100 mL: short by 3.7 % at half a point. Error 0.3 %: volumes add. Raises Refusal as `acid_dose` and `read_rule` do.
    Source: mass balance.
    """
    stronger_than(solution, want)
    if want <= have:
        raise Refusal(
            message("It stands at {have} g/100 mL already", have=Given(have)),
            "want",
            message("acid only raises it"),
            message("Dilute it instead"),
            "unreachable",
        )
    # The rule is linear; the exact dose counts that the solution itself must be brought down to the target: S − C, not S.
    per = read_rule(rule, drop)
    by_rule, exact = volume / 100.0 * (want - have) * per, volume * (want - have) / (solution - want)
    reaches = (volume * have + by_rule * solution) / (volume + by_rule)
    return SumAnswer(
        (
            SumFigure(message("by the rule"), by_rule, "mL"),
            SumFigure(message("exactly"), exact, "mL"),
            SumFigure(message("the rule reaches"), reaches, "g/100 mL"),
            SumFigure(message("it is short by") if by_rule <= exact else message("it is over by"), 100.0 * abs(1.0 - by_rule / exact), "%"),
            SumFigure(message("the rule, per 100 mL and point"), per, "mL"),
            SumFigure(message("an exact rule for small doses"), 100.0 / solution, "mL"),
        ),
        message("volume × points × the rule, beside volume × points / (solution − want)"),
        "mass balance, volumes adding (0.3 %)",
        (message("A straight rule forgets that the dose thins the drink: the more points, the shorter it falls."),),
        (SumPart(message("in the glass"), volume, "mL", "water"), SumPart(message("acid solution"), exact, "mL", "acid")),
    )


def syrup_for_sugar(sugar: float, syrup: float) -> SumAnswer:
    """Returns the volume [mL] and mass [g] of a syrup of `syrup` [°Bx] that carries `sugar` [g] of sugar. 15 g in a 50 °Bx syrup: 30 g, 24.4 mL. Error: that of
    the reading. Source: mass balance, ICUMSA SPS-4.
    """
    # °Bx is grams of sugar in 100 g of syrup.
    grams = sugar / syrup * 100.0
    made = Contents({"water": grams - sugar, "sucrose": sugar})
    millilitres = grams / density_g_ml(made)
    return SumAnswer(
        (
            SumFigure(message("syrup"), millilitres, "mL"),
            SumFigure(message("by weight"), grams, "g"),
            SumFigure(message("fluid ounces"), millilitres / KITCHEN_ML["us"]["fl oz"], "US fl oz"),
            SumFigure(message("in 10 mL of it"), 10.0 * sugar / millilitres, "g sugar"),
        ),
        message("sugar × 100 / °Bx, and its density"),
        "mass balance; density of sugar solutions ICUMSA SPS-4",
        (),
        (SumPart(message("sugar"), sugar, "g", "sugar"), SumPart(message("water with it"), grams - sugar, "g", "water")),
    )


DOSING_SUMS = (
    Sum(
        "acid_to_target",
        "acid",
        message("Dry acids in a fixed split, to a target in any liquid"),
        {
            "liquid": Ask(message("Liquid"), material=True),
            "volume": Ask(message("Volume"), "mL", 1.0, 1e6, 1000.0),
            "have": Ask(message("It stands at; empty for what is typical"), "g/100 mL", 0.0, 60.0, optional=True, lends="acid_g_100ml"),
            "want": Ask(message("It should stand at"), "g/100 mL", 0.01, 60.0),
            "citric": Ask(message("Citric, parts"), "", 0.0, 1000.0, 1.0),
            "malic": Ask(message("Malic, parts"), "", 0.0, 1000.0, 0.0),
            "tartaric": Ask(message("Tartaric, parts"), "", 0.0, 1000.0, 0.0),
            "lactic": Ask(message("Lactic, parts (pure)"), "", 0.0, 1000.0, 0.0, aside=True),
            "scale_g": SCALE,
        },
        acid_to_target,
        message("that of the reading; 0.3 % of the acids' own room"),
        AcidTargetInputs,
    ),
    Sum(
        "rule_of_thumb",
        "acid",
        message("A rule of thumb as it is said, and how exact it is"),
        {
            "rule": Ask(message("The rule"), text=True, usual="1 mL per fluid ounce and point"),
            "volume": Ask(message("Volume"), "mL", 0.1, 1e6),
            "have": Ask(message("It stands at"), "g/100 mL", 0.0, 60.0, 0.0, lends="acid_g_100ml"),
            "want": Ask(message("It should stand at"), "g/100 mL", 0.0, 60.0),
            "solution": Ask(message("Strength of the solution"), "g/100 mL", 0.1, 90.0, lends="acid_g_100ml"),
            "drop": DROP,
        },
        rule_of_thumb,
        message("0.3 %: volumes are taken to add"),
    ),
    Sum(
        "syrup_for_sugar",
        "sugar",
        message("Syrup that carries so many grams of sugar"),
        {
            "sugar": Ask(message("Sugar wanted"), "g", 0.01, 1e6),
            "syrup": Ask(message("The syrup reads"), "°Bx", 1.0, 85.0, 50.0, lends="brix"),
        },
        syrup_for_sugar,
        message("that of the reading"),
    ),
)
