"""Sums of strength: spirits brought to strength, one vinegar in place of another."""

from __future__ import annotations

from ..base.messages import Given, message
from ..base.refusals import Refusal
from ..chemistry.constants import WATER_G_ML
from ..chemistry.contents import Contents
from ..properties.alcohol import mass_fraction_from_abv
from ..properties.density import density_g_ml, volume_ml
from .sheet import Ask, Sum, SumAnswer, SumFigure, SumPart, step


def spirit_strength(volume: float, have: float, want: float) -> SumAnswer:
    """Returns the water [g, mL] that brings `volume` [mL] of spirit from `have` to `want` [% vol], contraction counted.

    1000 mL of 96 % to 40 %: 1467.9 g. Error 0.1 %. Raises Refusal for a target that is higher. Source: OIML R 22.
    """
    if want > have:
        raise Refusal(
            message("Water does not raise {have} to {want} % vol", have=Given(have), want=Given(want)),
            "want",
            message("it only lowers it"),
            message("Start from a stronger spirit"),
            "unreachable",
        )
    # By mass, since ethanol and water shrink when they are mixed: volumes do not add, masses do.
    first, last = mass_fraction_from_abv(have), mass_fraction_from_abv(want)
    start = Contents({"water": 1.0 - first, "ethanol": first})
    mass = volume * density_g_ml(start)
    water = mass * (first / last - 1.0) if last else 0.0
    end = start.scaled(mass) + Contents({"water": water})
    # What a cook would compute who takes volumes to add; shown so that the difference is seen.
    simple = volume * (have / want - 1.0) if want else 0.0
    return SumAnswer(
        (
            SumFigure(message("water"), water, "g"),
            SumFigure(message("volume then"), volume_ml(end), "mL"),
            SumFigure(message("as if volumes added"), simple, "mL"),
            SumFigure(message("lost by contraction"), volume + water / WATER_G_ML - volume_ml(end), "mL"),
        ),
        message("mass of spirit × (mass fraction before / after − 1)"),
        "OIML R 22",
        (),
        (SumPart(message("spirit"), mass, "g", "spirit"), SumPart(message("water"), water, "g", "water")),
        step=step("combine", ("water", water)),
    )


def swap_vinegar(amount: float, have: float, want: float) -> SumAnswer:
    """Returns the mass [g] of a vinegar of `want` [% acetic] with the acid of `amount` [g] of one of `have` [%], and the water that makes up. 100 g of 6 % is
    120 g of 5 %. Exact. Source: mass balance.
    """
    # Acetic acid is conserved; both strengths are by weight.
    other = amount * have / want
    return SumAnswer(
        (
            SumFigure(message("vinegar"), other, "g"),
            SumFigure(message("water to add") if other <= amount else message("water to leave out"), abs(amount - other), "g"),
        ),
        message("grams × strength of the old / strength of the new"),
        "mass balance",
    )


STRENGTH_SUMS = (
    Sum(
        "spirit_strength",
        "spirit",
        message("Spirit brought to strength"),
        {
            "volume": Ask(message("Spirit"), "mL", 0.1, 1e6),
            "have": Ask(message("Of"), "% vol", 0.1, 97.0, lends="abv"),
            "want": Ask(message("To"), "% vol", 0.1, 97.0),
        },
        spirit_strength,
        message("0.1 %"),
    ),
    Sum(
        "swap_vinegar",
        "acid",
        message("One vinegar for another"),
        {
            "amount": Ask(message("Vinegar"), "g", 0.1, 1e6),
            "have": Ask(message("Of"), "% acetic", 0.5, 30.0),
            "want": Ask(message("In its place"), "% acetic", 0.5, 30.0),
        },
        swap_vinegar,
        message("exact; as good as the label"),
    ),
)
