"""Sums on clearing and concentrating a juice: how much of a drip to keep, how much enzyme, how much ascorbic acid."""

from __future__ import annotations

from ..base.messages import message
from ..base.weighing import resolution_remark
from ..chemistry.contents import Contents
from ..evaluation.browning import minutes_before_browning
from ..operations.clarify import enzyme_minutes
from ..operations.concentrate import dripped, kept_range
from ..properties import sugar
from ..properties.density import volume_ml
from .sheet import SCALE, Ask, Sum, SumAnswer, SumFigure, SumPart, step


def drip(mass: float, have: float, want: float, block: float, steep: float) -> SumAnswer:
    """Returns the mass [g] of drip to keep from `mass` [g] of `have` [°Bx] frozen at `block` [°C], so that it reads `want` [°Bx].

    The drip holds 1 − (1 − f)^k of the solutes, k the steepness, 3 to 5 until the house has measured it; never beyond the freezing curve. 1000 g of 15 °Bx to
    30: 456 g at k 4. Error 10 % of the strength. Raises Refusal as `kept_for` does. Source: house experience; freezing curve.
    """
    # As sucrose: the freezing curve of a juice's sugars differs from it by less than the range of the steepness.
    liquid = Contents({"water": mass * (1.0 - have / 100.0), "sucrose": mass * have / 100.0})
    # Solved on the same curve as the step “freeze and drip”, so that the sum and the workbench agree.
    kept = kept_range(liquid, want, steep, block)
    caught, ice = dripped(liquid, kept.value, steep, block)
    return SumAnswer(
        (
            SumFigure(message("keep"), kept.value * mass, "g", kept.low * mass, kept.high * mass),
            SumFigure(message("of its weight"), 100.0 * kept.value, "%"),
            SumFigure(message("volume of it"), volume_ml(caught), "mL"),
            SumFigure(message("of the sugar"), 100.0 * caught.of("sucrose") / liquid.of("sucrose"), "%"),
            SumFigure(message("ice left"), ice.mass_g, "g"),
            SumFigure(message("the ice stands at"), sugar.brix(ice), "°Bx"),
        ),
        message("1 − (1 − kept)^k of what is dissolved runs off with the first of the thaw"),
        "house experience, not a standard; freezing curve of sucrose",
        (
            message("Fill to nine tenths at most before freezing, thaw upside down in the cold."),
            message("Read the drip as it runs: stop at the reading, not at the weight."),
        ),
        (SumPart(message("drip kept"), kept.value * mass, "g", "sugar"), SumPart(message("ice left"), ice.mass_g, "g", "water")),
        step={"verb": "freeze_drip", "kept": round(kept.value, 3), "block_c": block},
    )


def enzyme_dose(mass: float, percent: float, temperature: float, ph: float, jars: float, scale: float) -> SumAnswer:
    """Returns the mass [g] of pectin enzyme for `mass` [g] of juice by the maker's sheet [% of the juice], and the minutes until half of the pectin is cut,
    which clears it.

    First order; twice as fast per 10 K to 50 °C, halved per half unit of pH below 3. 1000 g at 0.15 %, 45 °C, pH 3.5: 1.5 g, 35 min. Error a factor of two.
    Source: makers' sheets, house experience.
    """
    grams = mass * percent / 100.0
    # The time scales with the inverse of the dose; the sheet's own dose is its reference.
    minutes = enzyme_minutes(temperature, ph, percent / _SHEET_PERCENT)
    each = grams / jars
    remarks = [
        message(
            "Then let it settle in the cold, an hour or two, and run the clear part through a filter: the time is that of the enzyme alone."
        )
    ]
    remarks += [message("Never heat past 55 °C while it works; boil afterwards to stop it. Dust harms lungs: open it away from the face.")]
    if minutes.value > _LONGEST_MIN:
        remarks.append(message("That is over a day: warmer, or an egg raft or agar instead."))
    return SumAnswer(
        (
            SumFigure(message("enzyme"), grams, "g"),
            *((SumFigure(message("in each jar"), each, "g"),) if jars > 1 else ()),
            SumFigure(message("minutes"), minutes.value, "min", minutes.low, minutes.high),
        ),
        message("juice × % of the sheet; −ln(0.5) / rate at this warmth, pH and dose"),
        "makers' sheets, house experience, not a standard",
        (*remarks, *resolution_remark(each, scale, "enzyme")),
        (SumPart(message("juice"), mass, "g", "rest"), SumPart(message("enzyme"), grams, "g", "acid")),
        step=step("enzyme", ("pectin_enzyme", grams), minutes=round(minutes.value), temperature_c=temperature),
    )


def ascorbic_dose(mass: float, per_litre: float, browns: float, temperature: float, jars: float, scale: float) -> SumAnswer:
    """Returns the mass [g] of ascorbic acid for a juice that browns, in the vessel before the juice runs in, and the minutes until it browns.

    `per_litre` 0.5 to 2 g/L; a litre taken as 1040 g of juice. 1040 g at 1 g/L: 1.0 g. Error of the time a factor of two. Source: `minutes_before_browning`.
    """
    grams = mass / _LITRE_G * per_litre
    each = grams / jars
    # Ascorbic acid is oxidised before the polyphenols are, so browning waits until it is used up.
    then = minutes_before_browning(browns, per_litre, temperature)
    return SumAnswer(
        (
            SumFigure(message("ascorbic acid"), grams, "g"),
            *((SumFigure(message("in each jar"), each, "g"),) if jars > 1 else ()),
            SumFigure(message("minutes before it browns"), then, "min", then / 2.0, then * 2.0),
            SumFigure(message("without it"), minutes_before_browning(browns, 0.0, temperature), "min"),
        ),
        message("litres of juice × g per litre"),
        "house experience, not a standard",
        (
            message(
                "In the jug before the juice. Lemon instead brings much citric acid and little of this; boiling stops browning as well."
            ),
            *resolution_remark(each, scale, "ascorbic acid"),
        ),
        (SumPart(message("juice"), mass, "g", "rest"), SumPart(message("ascorbic acid"), grams, "g", "acid")),
        step=step("combine", ("ascorbic_acid", grams)),
    )


_SHEET_PERCENT = 0.15
"""Usual dose of a pectin enzyme [% of the juice], to which its rate refers. Makers' sheets."""
_LONGEST_MIN = 1440.0
"""From a day on [min] another way of clearing is named: a juice spoils meanwhile. House experience."""
_LITRE_G = 1040.0
"""Mass of a litre of juice of 10 °Bx [g], to 1 %. Source: ICUMSA SPS-4."""
_JUICE = Ask(message("Juice"), "g", 1.0, 1e6)
_JARS = Ask(message("In jars"), "", 1.0, 200.0, 1.0, aside=True)
CLEAR_SUMS = (
    Sum(
        "drip",
        "clear",
        message("How much of a thaw to keep"),
        {
            "mass": _JUICE,
            "have": Ask(message("It reads"), "°Bx", 1.0, 40.0, lends="brix"),
            "want": Ask(message("The drip should read"), "°Bx", 1.0, 60.0),
            "block": Ask(message("Frozen at"), "°C", -30.0, -3.0, -18.0, aside=True),
            "steep": Ask(message("Steepness of the house's drips"), "", 1.5, 10.0, 4.0, aside=True),
        },
        drip,
        message("10 % of the strength until the house's drips have taught it"),
    ),
    Sum(
        "enzyme_dose",
        "clear",
        message("Pectin enzyme: how much, how long"),
        {
            "mass": _JUICE,
            "percent": Ask(message("Dose by the sheet"), "% of juice", 0.01, 1.0, 0.15),
            "temperature": Ask(message("At"), "°C", 0.0, 60.0, 45.0),
            "ph": Ask(message("pH"), "", 2.0, 5.0, 3.5),
            "jars": _JARS,
            "scale": SCALE,
        },
        enzyme_dose,
        message("a factor of two in the time"),
    ),
    Sum(
        "ascorbic_dose",
        "clear",
        message("Ascorbic acid against browning"),
        {
            "mass": _JUICE,
            "per_litre": Ask(message("Dose"), "g/L", 0.1, 5.0, 1.0),
            "browns": Ask(message("It browns in"), "min", 1.0, 1000.0, 20.0, aside=True),
            "temperature": Ask(message("At"), "°C", 0.0, 40.0, 20.0, aside=True),
            "jars": _JARS,
            "scale": SCALE,
        },
        ascorbic_dose,
        message("a factor of two in the time"),
    ),
)
