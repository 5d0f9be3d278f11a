"""Acid sums: solutions made up to the line, doses both ways, equivalents of a citrus, swaps of one acid for another."""

from __future__ import annotations

from dataclasses import dataclass

from ..base.messages import Computed, Given, message, term, verbatim
from ..base.refusals import Refusal
from ..chemistry.substances import SUBSTANCES
from ..materials.composition import ByReading
from ..materials.material import Material
from ..properties.acidity import USUAL_NORMALITY, USUAL_SAMPLE_ML, acid_from_burette, acids_in_split, as_acid
from .acid_solution import acid_solution
from .sheet import DROP, SCALE, Ask, Sum, SumAnswer, SumFigure, SumPart, SumSpot, step

_ACIDS = ("citric_acid", "malic_acid", "tartaric_acid", "lactic_acid", "ascorbic_acid", "succinic_acid", "phosphoric_acid")

_MARK_OFF_SHARE = 0.05
"""Share of a dose by which the mark of the syringe may be off without a remark."""


def _off_by(by_rule: float, dose: float) -> SumFigure:
    """Returns by how much [%] of the exact dose a linear rule is short, or over."""
    off = 100.0 * (1.0 - by_rule / dose) if dose else 0.0
    return SumFigure(message("the rule is short by") if off >= 0 else message("the rule is over by"), abs(off), "%")


def stronger_than(solution: float, want: float) -> None:
    """Raises Refusal if a `solution` is no stronger than what it should bring to `want` [both g/100 mL]. Source: definition."""
    if solution <= want:
        raise Refusal(
            message("A solution of {solution} g/100 mL cannot bring it to {want}", solution=Given(solution), want=Given(want)),
            "solution",
            message("it must be stronger than the target"),
            message("Use a stronger stock"),
            "unreachable",
        )


@dataclass(frozen=True, slots=True)
class AcidDoseInputs:
    """A liquid of `volume` [mL] with `sugar` and acid `have` [g/100 mL] to bring to `want` [g/100 mL] with a `solution` [g/100 mL].

    `mode` "concentration" is about what stands in the glass then, "grams" about the grams that the volume would hold at `want`. `rule` is the house's own
    [mL per 100 mL for each g/100 mL]; None: 100/solution. `drop` and `mark` [mL] are of the dropper and the syringe.
    """

    volume: float
    have: float
    want: float
    solution: float
    mode: str
    rule: float | None
    sugar: float
    drop: float
    mark: float

    @property
    def linear(self) -> float:
        """Dose by the linear rule [mL]: V (C − C₀)/S."""
        return self.volume * (self.want - self.have) / self.solution

    @property
    def dose(self) -> float:
        """Dose [mL]; volumes add. Source: mass balance."""
        return self.linear if self.mode == "grams" else self.volume * (self.want - self.have) / (self.solution - self.want)

    @property
    def by_rule(self) -> float:
        """Dose by the house's rule [mL]."""
        return self.linear if self.rule is None else self.volume / 100.0 * (self.want - self.have) * self.rule

    def acid_after(self, millilitres: float) -> float:
        """Acid of the liquid after a dose [g/100 mL]. Source: mass balance."""
        return (self.volume * self.have + millilitres * self.solution) / (self.volume + millilitres)


def acid_dose(given: AcidDoseInputs) -> SumAnswer:
    """Returns the dose [mL] of a solution that brings a liquid from one acid to another [g/100 mL]: x = V (C − C₀)/(S − C); by grams x = V (C − C₀)/S.

    60 mL from 0.5 to 1.5 with 28: 2.26 mL. Error 0.3 %: volumes add. Raises Refusal for a target below what it holds, and a solution that is no stronger than
    the target. Source: mass balance.
    """
    if given.want < given.have:
        raise Refusal(
            message("It stands at {have} and should come down to {want} g/100 mL", have=Given(given.have), want=Given(given.want)),
            "want",
            message("acid only raises it"),
            message("Dilute it instead"),
            "unreachable",
        )
    stronger_than(given.solution, given.want)
    dose, by_rule, mark, volume = given.dose, given.by_rule, given.mark, given.volume
    # Syringes have marks: the nearest one is given with the acid that it leads to, so that the error is known before pouring.
    marked, by_grams = round(dose / mark) * mark, given.mode == "grams"
    figures = (
        SumFigure(message("dose"), dose, "mL"),
        SumFigure(message("by the dropper"), round(dose / given.drop), "drops"),
        SumFigure(message("by the syringe, to its mark"), marked, "mL"),
        SumFigure(message("at that mark it stands at"), given.acid_after(marked), "g/100 mL"),
        SumFigure(message("by the linear rule") if given.rule is None else message("by the house's rule"), by_rule, "mL"),
        SumFigure(message("the rule would reach"), given.acid_after(by_rule), "g/100 mL"),
        _off_by(by_rule, dose),
        SumFigure(message("volume then"), volume + dose, "mL"),
        SumFigure(message("acid in it then"), (volume * given.have + dose * given.solution) / 100.0, "g"),
    )
    remarks = [
        message(
            "Same grams of acid in more liquid: {stands} g/100 mL where {want} was named. Concentration would land on it.",
            stands=Given(given.acid_after(dose), digits=3),
            want=Given(given.want),
        )
        if by_grams
        else message("The dose thins the drink too; that is counted.")
    ]
    # Under a twentieth of the dose the mark is closer than anybody tastes.
    if dose and abs(marked - dose) > _MARK_OFF_SHARE * dose:
        off = Computed(100 * abs(marked / dose - 1), decimals=0)
        remarks.append(message("The syringe's mark is {marked} % off: use the dropper, or a weaker stock.", marked=off))
    return SumAnswer(
        figures,
        message("volume × (want − have) / solution") if by_grams else message("volume × (want − have) / (solution − want)"),
        "mass balance, volumes adding (0.3 %)",
        tuple(remarks),
        (SumPart(message("in the glass"), volume, "mL", "water"), SumPart(message("acid solution"), dose, "mL", "acid")),
        (
            SumSpot(message("now"), given.sugar, given.have),
            SumSpot(message("then"), given.sugar * volume / (volume + dose), given.acid_after(dose)),
        ),
    )


def same_as_citrus(citrus: Material, serve: float, solution: float, mode: str) -> SumAnswer:
    """Returns the volume [mL] of an acid solution [g/100 mL] that replaces `serve` [mL] of a citrus: by the same mass of acid, or by the same acid per 100 mL.

    By mass: x = serve × C/S. By concentration: the volume of the citrus, so x = serve × C/S topped up with water. 22.5 mL of a 5.8 g/100 mL juice with 28: 4.66
    mL. Error: that of the fruit. Raises Refusal for a citrus without acid, and for a solution that is weaker than it. Source: mass balance; typical juices.
    """
    figures = citrus.measured()
    # A material without acid, such as water, has no dose that matches it.
    if not figures.get("acid_g_100ml"):
        raise Refusal(message("{citrus} has no acid to match", citrus=citrus.name), "citrus", remedy=message("Choose a juice"))
    acid = figures["acid_g_100ml"]
    # By concentration solution and water fill exactly the volume of the juice, so the solution must be the stronger one.
    if solution <= acid and mode == "concentration":
        raise Refusal(
            message("A solution of {solution} g/100 mL is weaker than the juice", solution=Given(solution)),
            "solution",
            message("the juice holds {acid}", acid=Computed(acid, decimals=2)),
            message("Use a stronger stock"),
            "unreachable",
        )
    # The acid of a fruit varies by its season: both ends of its typical range give the range of the dose.
    corners = [citrus.measured(0.0, z)["acid_g_100ml"] for z in (-1.0, 1.0)]
    dose = serve * acid / solution
    found = [
        SumFigure(message("acid in the serve"), serve * acid / 100.0, "g"),
        SumFigure(message("dose"), dose, "mL", serve * corners[0] / solution, serve * corners[1] / solution),
    ]
    if mode == "concentration":
        found.append(SumFigure(message("water beside it"), serve - dose, "mL"))
        words = message("The dose with the water takes the juice's place: the drink holds the same acid per 100 mL.")
    else:
        found.append(SumFigure(message("less volume in the drink"), serve - dose, "mL"))
        words = message("The same grams in less liquid: the drink is shorter and tastes sharper; choose concentration to keep its volume.")
    sweet = figures["sugar_g_100ml"]
    # The acid in its place is spread over all that is poured: with the water the juice's volume, without it the dose alone.
    poured = serve if mode == "concentration" else dose
    return SumAnswer(
        (found[1], found[0], found[2]),
        message("serve × acid of the juice / strength of the solution"),
        "mass balance; typical values of the juice",
        (
            words,
            message(
                "The juice also brought {serve} g of sugar, its salts and its oil: the solution does not.",
                serve=Given(serve * sweet / 100.0, digits=2),
            ),
        ),
        (
            SumPart(message("acid solution"), dose, "mL", "acid"),
            *((SumPart(message("water"), serve - dose, "mL", "water"),) if mode == "concentration" else ()),
        ),
        (SumSpot(verbatim(citrus.name), sweet, acid), SumSpot(message("in its place"), 0.0, serve * acid / poured)),
    )


def mimic(citrus: Material, volume: float, strength: float) -> SumAnswer:
    """Returns the mass [g] of each acid for `volume` [mL] with the titratable acid of a citrus, in its own proportions; at `strength` [g/100 mL titratable, as
    citric; 0: the juice's].

    Titratable acid is matched, salts and sugar are not. Error: that of the split, ±10 points. Raises Refusal for a material whose acids are unknown. Source:
    typical juices.
    """
    if not isinstance(citrus.composition, ByReading):
        raise Refusal(message("{citrus} has no acid profile", citrus=citrus.name), "citrus", remedy=message("Choose a juice"))
    # Zero stands for the juice's own strength: an empty field is the usual case.
    target = strength or citrus.measured()["acid_g_100ml"]
    grams = acids_in_split(citrus.composition.acid_split, target * volume / 100.0)
    found = tuple(SumFigure(term(SUBSTANCES[key].name), mass, "g") for key, mass in grams.items())
    return SumAnswer(
        (*found, SumFigure(message("titratable, as citric"), target, "g/100 mL", key="acid_g_100ml")),
        message("titratable acid of the juice, shared as its own acids are"),
        "typical juices; definition of titratable acid",
        (message("Make up to the line; citric alone tastes cleaner and less like the fruit."),),
        tuple(SumPart(item.name, item.value, "g", "acid") for item in found),
        (
            SumSpot(verbatim(citrus.name), citrus.measured()["sugar_g_100ml"], citrus.measured()["acid_g_100ml"]),
            SumSpot(message("the blend"), 0.0, target),
        ),
        step("combine", *grams.items()),
    )


def swap_acid(grams: float, have: str, want: str) -> SumAnswer:
    """Returns the mass [g] of another acid with the same titratable acid: × its equivalent / the first one's. 10 g citric is 10.47 g malic. Exact. Source:
    definition.
    """
    # Titration counts protons, so grams per proton of both acids give the exchange.
    factor = SUBSTANCES[want].equivalent_g / SUBSTANCES[have].equivalent_g
    return SumAnswer(
        (SumFigure(term(SUBSTANCES[want].name), grams * factor, "g"),),
        message("grams × equivalent of the new acid / equivalent of the old"),
        "definition of titratable acid",
        (message("As sour by titration; it does not taste the same: malic lingers, tartaric is hard, lactic is soft."),),
    )


def titration(burette: float, sample: float, normality: float, acid: str) -> SumAnswer:
    """Returns the titratable acid [g/100 mL] from a burette of NaOH: mL × normality × equivalent / sample / 10. 37.5 mL of 0.1 mol/L on 10 mL: 2.40. Error 0.5
    %. Source: definition.
    """
    found = acid_from_burette(burette, sample, normality)
    return SumAnswer(
        (
            SumFigure(message("titratable, as citric"), found, "g/100 mL", key="acid_g_100ml"),
            SumFigure(message("as {substances}", substances=SUBSTANCES[acid].name), as_acid(found, acid), "g/100 mL"),
        ),
        message("mL of NaOH × its strength × equivalent of the acid / mL of sample / 10"),
        "definition, end point pH 8.2",
    )


_VOLUME = Ask(message("Volume"), "mL", 0.1, 1e6)
_SOLUTION = Ask(message("Strength of the solution"), "g/100 mL", 0.1, 90.0, lends="acid_g_100ml")
ACID_SUMS = (
    Sum(
        "acid_solution",
        "acid",
        message("An acid solution of any strength and split, made to the line"),
        {
            "strength": Ask(message("Strength"), "g/100 mL", 0.01, 90.0),
            "volume": Ask(message("Made up to"), "mL", 1.0, 1e6),
            "citric": Ask(message("Citric, parts"), "", 0.0, 1000.0, 1.0),
            "malic": Ask(message("Malic, parts"), "", 0.0, 1000.0, 0.0),
            "tartaric": Ask(message("Tartaric, parts"), "", 0.0, 1000.0, 0.0),
            "scale_g": SCALE,
        },
        acid_solution,
        message("0.1 % of each weight; the strength is as good as the scale"),
        acid_stock=True,
    ),
    Sum(
        "acid_dose",
        "acid",
        message("Acid solution that brings a drink or a batch to a target"),
        {
            "volume": _VOLUME,
            "have": Ask(message("It stands at"), "g/100 mL", 0.0, 60.0, 0.0, lends="acid_g_100ml"),
            "want": Ask(message("It should stand at"), "g/100 mL", 0.0, 60.0),
            "solution": _SOLUTION,
            "mode": Ask(message("Match"), allowed=("concentration", "grams"), usual="concentration"),
            "rule": Ask(message("House's rule, mL per 100 mL for each g/100 mL"), "mL", 0.01, 1000.0, optional=True, aside=True),
            "sugar": Ask(message("Sugar in it"), "g/100 mL", 0.0, 100.0, 0.0, aside=True, lends="sugar_g_100ml"),
            "drop": DROP,
            "mark": Ask(message("Syringe is marked every"), "mL", 0.01, 10.0, 0.5, aside=True),
        },
        acid_dose,
        message("0.3 %: volumes are taken to add"),
        AcidDoseInputs,
    ),
    Sum(
        "same_as_citrus",
        "acid",
        message("The same effect as so many mL of a citrus"),
        {
            "citrus": Ask(message("Citrus"), material=True),
            "serve": Ask(message("Serve of it"), "mL", 0.1, 10000.0),
            "solution": _SOLUTION,
            "mode": Ask(message("Match"), allowed=("grams", "concentration"), usual="grams"),
        },
        same_as_citrus,
        message("the fruit's own spread, shown; read the juice and it is 2 %"),
    ),
    Sum(
        "mimic",
        "acid",
        message("An acid blend that mimics a citrus"),
        {
            "citrus": Ask(message("Citrus"), material=True),
            "volume": _VOLUME,
            "strength": Ask(message("Strength, 0 for the juice's own"), "g/100 mL", 0.0, 60.0, 0.0, aside=True),
        },
        mimic,
        message("the split of its acids, ±10 points"),
        acid_stock=True,
    ),
    Sum(
        "swap_acid",
        "acid",
        message("One acid for another, as sour"),
        {
            "grams": Ask(message("Grams"), "g", 0.001, 1e6),
            "have": Ask(message("Of"), allowed=_ACIDS),
            "want": Ask(message("In its place"), allowed=_ACIDS),
        },
        swap_acid,
        message("exact by titration; taste differs"),
    ),
    Sum(
        "titration",
        "readings",
        message("Acid from a burette"),
        {
            "burette": Ask(message("Burette"), "mL", 0.0, 500.0),
            "sample": Ask(message("Sample"), "mL", 0.1, 500.0, USUAL_SAMPLE_ML),
            "normality": Ask(message("NaOH"), "mol/L", 0.001, 10.0, USUAL_NORMALITY),
            "acid": Ask(message("As"), allowed=_ACIDS, usual="malic_acid"),
        },
        titration,
        message("0.5 % with a burette read to 0.05 mL"),
    ),
)
