"""Acid sums: solutions made to the line, doses both ways, the same effect as a citrus, mimicking one, swapping one acid for another."""

from __future__ import annotations

import math

from ..base import number_format as say
from ..base.refusals import Refusal
from ..base.units import DROP_ML
from ..base.weighing import resolution_remark
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES
from ..materials.composition import ByReading
from ..materials.material import Material
from ..operations.combine import Reach, bring_to
from ..properties.acidity import acid_from_burette, acid_g_100ml, acids_in_split, as_acid
from ..properties.density import volume_ml
from ..properties.ph import ph
from ..properties.solubility import SOLUBILITY_ERROR, acid_solubility_g_100g
from .sheet import Ask, Sum, SumAnswer, SumFigure, SumPart, SumSpot, step

_BALANCE = "volumes at 20 °C by apparent volumes, mass balance"
CONCENTRATE_G_100ML = 10.0
"""From here on an acid solution is marked as none to drink; house experience, stricter than labelling law."""
_ACIDS = ("citric_acid", "malic_acid", "tartaric_acid", "lactic_acid", "ascorbic_acid", "succinic_acid", "phosphoric_acid")


def acid_solution(strength: float, volume: float, citric: float, malic: float, tartaric: float, scale_g: float) -> SumAnswer:
    """Grams of each acid and of water for `volume` [mL] of a solution of `strength` [g of acids per 100 mL], made up to the line.

    Shares by weight. 6 g/100 mL of citric to 100 mL: 6 g and 96.3 g of water. Error 0.1 %. Source: apparent volumes of the acids.
    """
    shares = {"citric_acid": citric, "malic_acid": malic, "tartaric_acid": tartaric}
    total = math.fsum(shares.values())
    if total <= 0:
        raise Refusal("No acid has a share", "citric", "at least one must be above zero", "Give the shares, such as 50 and 50")
    grams = {key: strength * volume / 100.0 * share / total for key, share in shares.items() if share}
    dry = Contents(grams)
    water = bring_to(dry, [Reach("volume_ml", volume, "Water", Contents({"water": 1.0}))])[0] if volume_ml(dry) < volume else -1.0
    if water < 0:
        raise Refusal(
            f"{say.given(strength)} g/100 mL do not fit", "strength", "the acid alone takes more room than the line", "Make it weaker"
        )
    for key, mass in grams.items():
        holds = water * acid_solubility_g_100g(key, 20.0) / 100.0
        if mass > holds * (1.0 + SOLUBILITY_ERROR.get(key, 0.03)):
            raise Refusal(
                f"{say.figure(mass, 0)} g of {SUBSTANCES[key].name} do not dissolve in {say.figure(water, 0)} g of water",
                "strength",
                f"at 20 °C so much water holds {say.figure(holds, 0)} g",
                "Make it weaker, or share it with another acid",
                "undissolved",
            )
    made = dry + Contents({"water": water})
    figures = [SumFigure(SUBSTANCES[key].name, mass, "g") for key, mass in grams.items()]
    figures += [
        SumFigure("water, about", water, "g"),
        SumFigure("titratable, as citric", acid_g_100ml(made), "g/100 mL"),
        SumFigure("pH", ph(made), ""),
    ]
    remarks = ["Weigh the acids, dissolve in most of the water, make up to the line at 20 °C: adding acid to the full volume gives less."]
    remarks += ["Concentrate, not a drink: its own marked bottle and dosing tool."] if strength >= CONCENTRATE_G_100ML else []
    for key, mass in grams.items():
        remarks += resolution_remark(mass, scale_g, SUBSTANCES[key].name)
    parts = [SumPart(SUBSTANCES[key].name, mass, "g", "acid") for key, mass in grams.items()]
    return SumAnswer(
        tuple(figures),
        "grams = strength × volume / 100, shared; water fills the line",
        _BALANCE,
        tuple(remarks),
        (*parts, SumPart("water, to the line", water, "g", "water")),
        step=step("combine", *grams.items()),
    )


def _off_by(by_rule: float, dose: float) -> SumFigure:
    """By how much [%] of the exact dose a linear rule is short, or over: never a negative shortage."""
    off = 100.0 * (1.0 - by_rule / dose) if dose else 0.0
    return SumFigure("the rule is short by" if off >= 0 else "the rule is over by", abs(off), "%")


def stronger_than(solution: float, want: float) -> None:
    """Raises Refusal if a `solution` is no stronger than what it should bring to `want` [both g/100 mL]. Source: definition."""
    if solution <= want:
        raise Refusal(
            f"A solution of {say.given(solution)} g/100 mL cannot bring it to {say.given(want)}",
            "solution",
            "it must be stronger than the target",
            "Use a stronger stock",
            "unreachable",
        )


def acid_dose(
    volume: float, have: float, want: float, solution: float, mode: str, rule: float | None, sugar: float, drop: float, mark: float
) -> SumAnswer:
    """mL of a solution [g/100 mL] that bring `volume` [mL] from `have` to `want` [g/100 mL], volumes adding: x = V (C − C₀)/(S − C).

    `mode` concentration: what stands in the glass then; grams: the grams that V mL at C would hold, x = V (C − C₀)/S, which is the linear rule.
    `rule` is the house's own, mL per 100 mL for each g/100 mL; without one 100/S. `drop` and `mark` [mL] are of the dropper and the syringe.
    60 mL from 0.5 to 1.5 with 28: 2.26 mL. Error 0.3 %. Source: mass balance.
    """
    if want < have:
        raise Refusal(
            f"It stands at {say.given(have)} and should come down to {say.given(want)} g/100 mL",
            "want",
            "acid only raises it",
            "Dilute it instead",
            "unreachable",
        )
    stronger_than(solution, want)
    linear = volume * (want - have) / solution
    dose = linear if mode == "grams" else volume * (want - have) / (solution - want)
    by_rule = linear if rule is None else volume / 100.0 * (want - have) * rule

    def stands(millilitres: float) -> float:
        return (volume * have + millilitres * solution) / (volume + millilitres)

    marked = round(dose / mark) * mark
    figures = (
        SumFigure("dose", dose, "mL"),
        SumFigure("by the dropper", round(dose / drop), "drops"),
        SumFigure("by the syringe, to its mark", marked, "mL"),
        SumFigure("at that mark it stands at", stands(marked), "g/100 mL"),
        SumFigure("by the linear rule" if rule is None else "by the house's rule", by_rule, "mL"),
        SumFigure("the rule would reach", stands(by_rule), "g/100 mL"),
        _off_by(by_rule, dose),
        SumFigure("volume then", volume + dose, "mL"),
        SumFigure("acid in it then", (volume * have + dose * solution) / 100.0, "g"),
    )
    remarks = [
        f"Same grams of acid in more liquid: {say.given(stands(dose), 3)} g/100 mL where {say.given(want)} was named. Concentration would land on it."
        if mode == "grams"
        else "The dose thins the drink too; that is counted."
    ]
    if dose and abs(marked - dose) > 0.05 * dose:
        remarks.append(f"The syringe's mark is {say.figure(100 * abs(marked / dose - 1), 0)} % off: use the dropper, or a weaker stock.")
    return SumAnswer(
        figures,
        "volume × (want − have) / (solution − want)" if mode == "concentration" else "volume × (want − have) / solution",
        "mass balance, volumes adding (0.3 %)",
        tuple(remarks),
        (SumPart("in the glass", volume, "mL", "water"), SumPart("acid solution", dose, "mL", "acid")),
        (SumSpot("now", sugar, have), SumSpot("then", sugar * volume / (volume + dose), stands(dose))),
    )


def same_as_citrus(citrus: Material, serve: float, solution: float, mode: str) -> SumAnswer:
    """mL of an acid solution [g/100 mL] that stand for `serve` [mL] of a citrus: the same grams of acid, or the same acid per 100 mL of what is poured.

    Same grams: x = serve × C/S. Same concentration: as much volume as the citrus, so x = serve × C/S topped up with water. Error: the fruit's own
    spread. 22.5 mL of a 5.8 g/100 mL juice with 28: 4.66 mL. Source: mass balance; typical juices.
    """
    figures = citrus.measured()
    if "acid_g_100ml" not in figures:
        raise Refusal(f"{citrus.name} has no acid to match", "citrus", remedy="Choose a juice")
    acid = figures["acid_g_100ml"]
    if solution <= acid and mode == "concentration":
        raise Refusal(
            f"A solution of {say.given(solution)} g/100 mL is weaker than the juice",
            "solution",
            f"the juice holds {say.figure(acid, 2)}",
            "Use a stronger stock",
            "unreachable",
        )
    corners = [citrus.measured(0.0, z)["acid_g_100ml"] for z in (-1.0, 1.0)]
    dose = serve * acid / solution
    found = [
        SumFigure("acid in the serve", serve * acid / 100.0, "g"),
        SumFigure("dose", dose, "mL", serve * corners[0] / solution, serve * corners[1] / solution),
    ]
    if mode == "concentration":
        found.append(SumFigure("water beside it", serve - dose, "mL"))
        words = "The dose with the water takes the juice's place: the drink holds the same acid per 100 mL."
    else:
        found.append(SumFigure("less volume in the drink", serve - dose, "mL"))
        words = "The same grams in less liquid: the drink is shorter and tastes sharper; choose concentration to keep its volume."
    sweet = figures["sugar_g_100ml"]
    poured = serve if mode == "concentration" else dose
    return SumAnswer(
        (found[1], found[0], found[2]),
        "serve × acid of the juice / strength of the solution",
        "mass balance; typical values of the juice",
        (words, f"The juice also brought {say.given(serve * sweet / 100.0, 2)} g of sugar, its salts and its oil: the solution does not."),
        (
            SumPart("acid solution", dose, "mL", "acid"),
            *((SumPart("water", serve - dose, "mL", "water"),) if mode == "concentration" else ()),
        ),
        (SumSpot(citrus.name, sweet, acid), SumSpot("in its place", 0.0, serve * acid / poured)),
    )


def mimic(citrus: Material, volume: float, strength: float) -> SumAnswer:
    """Grams of each acid for `volume` [mL] that tastes as sharp as a citrus, in its own proportions; at `strength` [g/100 mL titratable, as citric; 0: the juice's].

    Titratable acid is matched, free acid in the juice's split; salts and sugar are not. Error: the split, ±10 points. Source: typical juices.
    """
    if not isinstance(citrus.makeup, ByReading):
        raise Refusal(f"{citrus.name} has no acid profile", "citrus", remedy="Choose a juice")
    target = strength or citrus.measured()["acid_g_100ml"]
    grams = acids_in_split(citrus.makeup.acid_split, target * volume / 100.0)
    found = tuple(SumFigure(SUBSTANCES[key].name, mass, "g") for key, mass in grams.items())
    return SumAnswer(
        (*found, SumFigure("titratable, as citric", target, "g/100 mL")),
        "titratable acid of the juice, shared as its own acids are",
        "typical juices; definition of titratable acid",
        ("Make up to the line; citric alone tastes cleaner and less like the fruit.",),
        tuple(SumPart(item.name, item.value, "g", "acid") for item in found),
        (SumSpot(citrus.name, citrus.measured()["sugar_g_100ml"], citrus.measured()["acid_g_100ml"]), SumSpot("the blend", 0.0, target)),
        step("combine", *grams.items()),
    )


def swap_acid(grams: float, have: str, want: str) -> SumAnswer:
    """Grams of another acid with the same titratable acid: × its equivalent / the first one's. 10 g citric is 10.47 g malic. Exact. Source: definition."""
    factor = SUBSTANCES[want].equivalent_g / SUBSTANCES[have].equivalent_g
    return SumAnswer(
        (SumFigure(SUBSTANCES[want].name, grams * factor, "g"),),
        "grams × equivalent of the new acid / equivalent of the old",
        "definition of titratable acid",
        ("As sour by titration; it does not taste the same: malic lingers, tartaric is hard, lactic is soft.",),
    )


def titration(burette: float, sample: float, normality: float, acid: str) -> SumAnswer:
    """Titratable acid [g/100 mL] from a burette of NaOH: mL × normality × equivalent / sample / 10. 37.5 mL of 0.1 mol/L on 10 mL: 2.40. Error 0.5 %. Source: definition."""
    found = acid_from_burette(burette, sample, normality)
    return SumAnswer(
        (SumFigure("titratable, as citric", found, "g/100 mL"), SumFigure(f"as {SUBSTANCES[acid].name}", as_acid(found, acid), "g/100 mL")),
        "mL of NaOH × its strength × equivalent of the acid / mL of sample / 10",
        "definition, end point pH 8.2",
    )


_VOLUME = Ask("Volume", "mL", 0.1, 1e6)
_SOLUTION = Ask("Strength of the solution", "g/100 mL", 0.1, 90.0, lends="acid_g_100ml")
ACID_SUMS = (
    Sum(
        "acid_solution",
        "acid",
        "An acid solution of any strength and split, made to the line",
        {
            "strength": Ask("Strength", "g/100 mL", 0.01, 90.0),
            "volume": Ask("Made up to", "mL", 1.0, 1e6),
            "citric": Ask("Citric, parts", "", 0.0, 1000.0, 1.0),
            "malic": Ask("Malic, parts", "", 0.0, 1000.0, 0.0),
            "tartaric": Ask("Tartaric, parts", "", 0.0, 1000.0, 0.0),
            "scale_g": Ask("Scale reads to", "g", 0.0001, 100.0, 0.1, aside=True),
        },
        acid_solution,
        "0.1 % of each weight; the strength is as good as the scale",
    ),
    Sum(
        "acid_dose",
        "acid",
        "Acid solution that brings a drink or a batch to a target",
        {
            "volume": _VOLUME,
            "have": Ask("It stands at", "g/100 mL", 0.0, 60.0, 0.0, lends="acid_g_100ml"),
            "want": Ask("It should stand at", "g/100 mL", 0.0, 60.0),
            "solution": _SOLUTION,
            "mode": Ask("Match", allowed=("concentration", "grams"), usual="concentration"),
            "rule": Ask("House's rule, mL per 100 mL for each g/100 mL", "mL", 0.01, 1000.0, optional=True, aside=True),
            "sugar": Ask("Sugar in it", "g/100 mL", 0.0, 100.0, 0.0, aside=True, lends="sugar_g_100ml"),
            "drop": Ask("One drop", "mL", 0.005, 1.0, DROP_ML, aside=True),
            "mark": Ask("Syringe is marked every", "mL", 0.01, 10.0, 0.5, aside=True),
        },
        acid_dose,
        "0.3 %: volumes are taken to add",
    ),
    Sum(
        "same_as_citrus",
        "acid",
        "The same effect as so many mL of a citrus",
        {
            "citrus": Ask("Citrus", material=True),
            "serve": Ask("Serve of it", "mL", 0.1, 10000.0),
            "solution": _SOLUTION,
            "mode": Ask("Match", allowed=("grams", "concentration"), usual="grams"),
        },
        same_as_citrus,
        "the fruit's own spread, shown; read the juice and it is 2 %",
    ),
    Sum(
        "mimic",
        "acid",
        "An acid blend that mimics a citrus",
        {
            "citrus": Ask("Citrus", material=True),
            "volume": _VOLUME,
            "strength": Ask("Strength, 0 for the juice's own", "g/100 mL", 0.0, 60.0, 0.0, aside=True),
        },
        mimic,
        "the split of its acids, ±10 points",
    ),
    Sum(
        "swap_acid",
        "acid",
        "One acid for another, as sour",
        {"grams": Ask("Grams", "g", 0.001, 1e6), "have": Ask("Of", allowed=_ACIDS), "want": Ask("In its place", allowed=_ACIDS)},
        swap_acid,
        "exact by titration; taste differs",
    ),
    Sum(
        "titration",
        "readings",
        "Acid from a burette",
        {
            "burette": Ask("Burette", "mL", 0.0, 500.0),
            "sample": Ask("Sample", "mL", 0.1, 500.0, 10.0),
            "normality": Ask("NaOH", "mol/L", 0.001, 10.0, 0.1),
            "acid": Ask("As", allowed=_ACIDS, usual="malic_acid"),
        },
        titration,
        "0.5 % with a burette read to 0.05 mL",
    ),
)
