"""Sugar sums: to a target, diluted, blended, swapped; one syrup for another; infusions diluted."""

from __future__ import annotations

from dataclasses import dataclass

from ..base.messages import Computed, Given, message, term, verbatim
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..materials.material import Material
from ..properties import sugar
from ..properties.acidity import acid_g_100ml
from ..properties.density import density_g_ml, volume_ml
from ..properties.measure import figure_of
from ..properties.sweetness import sweetness_g_100ml
from .sheet import Ask, Sum, SumAnswer, SumFigure, SumPart, SumSpot, kind_of, step

_BALANCE = "mass balance; density of sugar solutions ICUMSA SPS-4"


def _syrup(mass: float, brix: float) -> Contents:
    return Contents({"water": mass * (1.0 - brix / 100.0), "sucrose": mass * brix / 100.0})


def sugar_to_target(mass: float, have: float, want: float, sweetener: Material) -> SumAnswer:
    """Returns the mass [g] of a sweetener that brings `mass` [g] from `have` to `want` [°Bx]: m (B − B₀)/(s − B), s the solids of the sweetener.

    1000 g from 10 to 50 °Bx with dry sugar: 800 g. Error: that of the reading. Raises Refusal for a target that it cannot reach. Source: mass balance.
    """
    solids = sugar.brix(sweetener.per_gram())
    if want < have:
        raise Refusal(
            message("It stands at {have} °Bx and should come down to {want}", have=Given(have), want=Given(want)),
            "want",
            message("sugar only raises it"),
            message("Dilute it instead"),
            "unreachable",
        )
    if solids <= want:
        raise Refusal(
            message(
                "{sweetener} of {solids} °Bx cannot bring it to {want}",
                sweetener=sweetener.name,
                solids=Computed(solids, decimals=0),
                want=Given(want),
            ),
            "sweetener",
            message("it must be richer than the target"),
            message("Use dry sugar"),
            "unreachable",
        )
    # Solids are conserved: m·B₀ + x·s = (m + x)·B, solved for x.
    grams = mass * (want - have) / (solids - want)
    # 20 °C: a syrup that is clear in a warm bar must not crystallise there; in the cold it holds less still, which `evaluate` tells.
    limit = sugar.saturation_brix(20.0)
    remarks = (message("Above {limit} °Bx sugar comes out again at 20 °C.", limit=Computed(limit, decimals=1)),) if want > limit else ()
    return SumAnswer(
        (
            SumFigure(verbatim(sweetener.name), grams, "g"),
            SumFigure(message("weight then"), mass + grams, "g"),
            SumFigure(message("volume then"), volume_ml(_syrup(mass + grams, want)), "mL"),
        ),
        message("weight × (want − have) / (solids of the sweetener − want)"),
        _BALANCE,
        remarks,
        (SumPart(message("what is there"), mass, "g", "water"), SumPart(verbatim(sweetener.name), grams, "g", "sugar")),
        step=step("dissolve", (sweetener.key, grams)),
    )


def dilute(mass: float, have: float, want: float) -> SumAnswer:
    """Returns the mass [g] of water that brings `mass` [g] from `have` down to `want` [°Bx, or % by weight of anything dissolved]: m (B₀/B − 1).

    1000 g of 66.667 °Bx to 50: 333.3 g. Exact. Raises Refusal for a target that is higher. Source: mass balance.
    """
    if want > have:
        raise Refusal(
            message("Water does not raise {have} to {want} °Bx", have=Given(have), want=Given(want)),
            "want",
            message("it only lowers it"),
            message("Add sugar instead"),
            "unreachable",
        )
    # Water has no solids: m·B₀ = (m + x)·B, solved for x.
    water = mass * (have / want - 1.0)
    return SumAnswer(
        (
            SumFigure(message("water"), water, "g"),
            SumFigure(message("weight then"), mass + water, "g"),
            SumFigure(message("volume then"), volume_ml(_syrup(mass + water, want)), "mL"),
        ),
        message("weight × (have / want − 1)"),
        _BALANCE,
        (),
        (SumPart(message("what is there"), mass, "g", "sugar"), SumPart(message("water"), water, "g", "water")),
        step=step("combine", ("water", water)),
    )


@dataclass(frozen=True, slots=True)
class BlendInputs:
    """Two materials for `total` [g] in all with a `figure` of `want` [its unit], and `third_g` [g] of a third that is in already."""

    first: Material
    second: Material
    total: float
    figure: str
    want: float
    third: Material | None
    third_g: float


def blend(given: BlendInputs) -> SumAnswer:
    """Returns the masses of two materials [g] that make a total with a figure of so much, found by bisection.

    Honey of 82.8 and water to 55.2 °Bx: two to one. Error: that of their composition. Raises Refusal for a target that lies outside both. Source: mass balance.
    """
    first, second, third, third_g = given.first, given.second, given.third, given.third_g
    figure, want = given.figure, given.want
    # The third is in already, so its mass is part of the total and only the other two share what is left of it.
    known = third.per_gram().scaled(third_g) if third else Contents({})
    rest = given.total - (third_g if third else 0.0)
    if rest <= 0:
        raise Refusal(
            message("{third} g are more than all of it", third=Given(third_g)),
            "third_g",
            message("less than {total} g", total=Given(given.total)),
            message("Less of the third"),
            "more_than_there_is",
        )
    ones = (first.per_gram(), second.per_gram())

    def mixed(share: float) -> Contents:
        return known + ones[0].scaled(rest * share) + ones[1].scaled(rest * (1.0 - share))

    ends = [figure_of(figure, mixed(share)) for share in (1.0, 0.0)]
    # A figure of a mixture lies between those of its parts for every figure that is asked here, so outside there is no answer.
    if not min(ends) - 1e-9 <= want <= max(ends) + 1e-9 or ends[0] == ends[1]:
        raise Refusal(
            message("{want} lies outside both", want=Given(want)),
            "want",
            message("they stand at {first} and {second}", first=Computed(ends[0], decimals=2), second=Computed(ends[1], decimals=2)),
            message("Choose a target between them"),
            "unreachable",
        )
    # Bisection, since volumes do not add and the figure is no linear function of the share. Either liquid may be the stronger one.
    low, high = 0.0, 1.0
    for _ in range(100):
        share = (low + high) / 2.0
        low, high = (low, share) if (figure_of(figure, mixed(share)) > want) == (ends[0] > ends[1]) else (share, high)
    share = (low + high) / 2.0
    made = mixed(share)
    grams = [(first.name, rest * share), (second.name, rest * (1.0 - share)), *([(third.name, third_g)] if third else [])]
    return SumAnswer(
        (
            *(SumFigure(term(name), mass, "g") for name, mass in grams),
            SumFigure(message("volume"), volume_ml(made), "mL"),
            SumFigure(message("sugar in it"), sugar.sugar_g_100ml(made), "g/100 mL"),
            SumFigure(message("acid in it"), acid_g_100ml(made), "g/100 mL"),
        ),
        message("so much of each that the mixture stands there"),
        "mass balance, found by bisection",
        (),
        tuple(
            SumPart(term(name), mass, "g", kind_of(material))
            for (name, mass), material in zip(grams, (first, second, *((third,) if third else ())), strict=True)
        ),
        (SumSpot(message("the blend"), sugar.sugar_g_100ml(made), acid_g_100ml(made)),),
    )


def swap_sugar(grams: float, have: Material, want: Material, match: str) -> SumAnswer:
    """Returns the mass [g] of another sweetener with the same sweetness, or the same dissolved solids, and the water that comes or goes with it.

    100 g of white sugar by solids is 120.7 g of honey with 20.7 g of its water. Error: sweetness ±10 % at best. Raises Refusal for a material that does not
    sweeten. Source: compiled sweetness; mass balance.
    """
    old, new = have.per_gram(), want.per_gram()

    def sweet(contents: Contents) -> float:
        # Per gram of the material: its sweetness per volume times its volume.
        return sweetness_g_100ml(contents) * volume_ml(contents) / 100.0

    def solids(contents: Contents) -> float:
        # What a syrup's water does not explain: sugars and everything else that is dissolved.
        return contents.mass_g - contents.of("water")

    of = sweet if match == "sweetness" else solids
    if of(new) <= 0:
        raise Refusal(message("{want} does not sweeten", want=want.name), "want", remedy=message("Choose a sweetener"))
    amount = grams * of(old) / of(new)
    # The new sweetener brings water of its own; what the old one brought is missing.
    water = amount * new.of("water") - grams * old.of("water")
    figures = (
        SumFigure(verbatim(want.name), amount, "g"),
        SumFigure(message("water that comes with it") if water >= 0 else message("water to add"), abs(water), "g"),
        SumFigure(message("dissolved solids change by"), amount * solids(new) - grams * solids(old), "g"),
    )
    return SumAnswer(
        figures,
        message("grams × {match} of the old / {match} of the new", match=match),
        "compiled relative sweetness, ±10 % at best; mass balance",
    )


def swap_syrup(dose: float, have: float, want: float) -> SumAnswer:
    """Returns the volume [mL] of a syrup of `want` [°Bx] with the sugar of `dose` [mL] of one of `have` [°Bx], and the water that makes up for the difference.

    30 mL of 50 °Bx is 20.9 mL of 66.7 °Bx and 9.1 mL of water. Error 0.1 %. Source: density of sugar solutions.
    """
    # Doses are poured, sugar is weighed: the density of each syrup stands between them.
    grams = dose * density_g_ml(_syrup(1.0, have)) * have / 100.0
    other = grams / (density_g_ml(_syrup(1.0, want)) * want / 100.0)
    return SumAnswer(
        (
            SumFigure(message("dose"), other, "mL"),
            SumFigure(message("sugar that it carries"), grams, "g"),
            SumFigure(message("water to keep the volume") if other <= dose else message("less water elsewhere"), abs(dose - other), "mL"),
        ),
        message("dose × density × °Bx of the old / (density × °Bx of the new)"),
        _BALANCE,
        (),
        (
            SumPart(message("syrup on the shelf"), other, "mL", "sugar"),
            *((SumPart(message("water"), dose - other, "mL", "water"),) if other < dose else ()),
        ),
    )


def cut_infusion(mass: float, too_strong: float, brix: float) -> SumAnswer:
    """Returns the mass [g] of plain syrup of the same °Bx that brings an infusion that is `too_strong` [%] back to the house's strength: mass × excess.

    1000 g too strong by 25 %: 250 g, sugar unchanged. Error: that of the taste. Source: mass balance.
    """
    # An infusion of c (1 + e) in m is brought to c by m·e of the same syrup without flavour.
    plain = mass * too_strong / 100.0
    return SumAnswer(
        (
            SumFigure(message("plain syrup"), plain, "g"),
            SumFigure(message("of it sugar"), plain * brix / 100.0, "g"),
            SumFigure(message("of it water"), plain * (1.0 - brix / 100.0), "g"),
            SumFigure(message("weight then"), mass + plain, "g"),
        ),
        message("weight × excess; the plain syrup has the infusion's own °Bx, so nothing else moves"),
        "mass balance",
        (),
        (SumPart(message("infusion"), mass, "g", "rest"), SumPart(message("plain syrup"), plain, "g", "sugar")),
        step=step("combine", ("white_sugar", plain * brix / 100.0), ("water", plain * (1.0 - brix / 100.0))),
    )


_MASS = Ask(message("Weight"), "g", 0.1, 1e6)
_BX = ("brix", "acid_g_100ml", "sugar_g_100ml", "abv")
SUGAR_SUMS = (
    Sum(
        "sugar_to_target",
        "sugar",
        message("Sugar that brings it to a °Bx"),
        {
            "mass": _MASS,
            "have": Ask(message("It reads"), "°Bx", 0.0, 85.0, lends="brix"),
            "want": Ask(message("It should read"), "°Bx", 0.1, 85.0),
            "sweetener": Ask(message("Sweetener"), material=True, usual="white_sugar"),
        },
        sugar_to_target,
        message("that of the reading"),
    ),
    Sum(
        "dilute",
        "sugar",
        message("Water that brings it down"),
        {
            "mass": _MASS,
            "have": Ask(message("It reads"), "°Bx", 0.1, 85.0, lends="brix"),
            "want": Ask(message("It should read"), "°Bx", 0.1, 85.0),
        },
        dilute,
        message("exact; as good as the reading"),
    ),
    Sum(
        "blend",
        "sugar",
        message("Two or three liquids to a target"),
        {
            "first": Ask(message("First"), material=True),
            "second": Ask(message("Second"), material=True),
            "total": Ask(message("In all"), "g", 0.1, 1e6),
            "figure": Ask(message("Target of"), allowed=_BX, usual="brix"),
            "want": Ask(message("It should stand at"), "", 0.0, 100.0),
            "third": Ask(message("Third, already in"), material=True, optional=True, aside=True),
            "third_g": Ask(message("So much of it"), "g", 0.0, 1e6, 0.0, aside=True),
        },
        blend,
        message("that of the makeup of each"),
        BlendInputs,
    ),
    Sum(
        "swap_sugar",
        "sugar",
        message("One sweetener for another"),
        {
            "grams": Ask(message("Grams"), "g", 0.01, 1e6),
            "have": Ask(message("Of"), material=True),
            "want": Ask(message("In its place"), material=True),
            "match": Ask(message("Match"), allowed=("sweetness", "solids"), usual="sweetness"),
        },
        swap_sugar,
        message("sweetness ±10 % at best; solids exact"),
    ),
    Sum(
        "swap_syrup",
        "sugar",
        message("A 2:1 in place of a 1:1, or the other way"),
        {
            "dose": Ask(message("Dose"), "mL", 0.1, 10000.0),
            "have": Ask(message("Written for"), "°Bx", 1.0, 85.0, 50.0, lends="brix"),
            "want": Ask(message("On the shelf"), "°Bx", 1.0, 85.0, 66.0, lends="brix"),
        },
        swap_syrup,
        message("0.1 %"),
    ),
    Sum(
        "cut_infusion",
        "fix",
        message("An infusion that came out too strong"),
        {
            "mass": _MASS,
            "too_strong": Ask(message("Too strong by, of what it should be"), "%", 0.1, 900.0),
            "brix": Ask(message("It reads"), "°Bx", 0.0, 85.0, lends="brix"),
        },
        cut_infusion,
        message("the taste that set the excess"),
    ),
)
