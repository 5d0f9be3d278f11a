"""Ethanol and water: density, strength by volume and by mass."""

from __future__ import annotations

import itertools
import math

from ..base.messages import Given, listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from .bounds import bounded, checked_contents

PURE_ETHANOL_KG_M3 = 789.24
"""Density of ethanol at 20 °C (OIML R 22)."""

# OIML R 22 (1975), general formula; measured, within 0.02 % from -20 to 40 °C.
_A = (
    9.982012300e2, -1.929769495e2, 3.891238958e2, -1.668103923e3, 1.352215441e4, -8.829278388e4,
    3.062874042e5, -6.138381234e5, 7.470172998e5, -5.478461354e5, 2.234460334e5, -3.903285426e4,
)  # fmt: skip
_B = (-2.0618513e-1, -5.2682542e-3, 3.6130013e-5, -3.8957702e-7, 7.1693540e-9, -9.9739231e-11)
_C = (
    (
        1.693443461530087e-1, -1.046914743455169e1, 7.196353469546523e1, -7.047478054272792e2, 3.924090430035045e3,
        -1.210164659068747e4, 2.248646550400788e4, -2.605562982188164e4, 1.852373922069467e4, -7.420201433430137e3,
        1.285617841998974e3,
    ),
    (
        -1.193013005057010e-2, 2.517399633803461e-1, -2.170575700536993, 1.353034988843029e1, -5.029988758547014e1,
        1.096355666577570e2, -1.422753946421155e2, 1.080435942856230e2, -4.414153236817392e1, 7.442971530188783,
    ),
    (
        -6.802995733503803e-4, 1.876837790289664e-2, -2.002561813734156e-1, 1.022992966719220, -2.895696483903638,
        4.810060584300675, -4.672147440794683, 2.458043105903461, -5.411227621436812e-1,
    ),
    (4.075376675622027e-6, -8.763058573471110e-6, 6.515031360099368e-6, -1.515784836987210e-6),
    (-2.788074354782409e-8, 1.345612883493354e-8),
)  # fmt: skip


def ethanol_water_density(p: float, t_c: float = 20.0) -> float:
    """Density [kg/m³] of ethanol and water at mass fraction `p` [0 to 1] of ethanol and `t_c` [°C].

    Range -20 to 40 °C, error 0.02 %. 948.05 at p = 0.333, 20 °C. Raises Refusal outside its range. Source: OIML R 22, general formula.
    """
    if not 0.0 <= p <= 1.0:
        raise Refusal(message("A mass fraction of {p} cannot be", p=Given(p)), bound=message("it lies between 0 and 1"))
    if not -20.0 <= t_c <= 40.0:
        raise Refusal(
            message("{t} °C is outside the alcohol tables", t=Given(t_c)),
            bound=message("they hold from −20 to 40 °C"),
            remedy=message("Let it cool, then read"),
        )
    density = 0.0
    # Horner's scheme: the twelve terms nearly cancel, and summing powers would lose digits.
    for coefficient in reversed(_A):
        density = density * p + coefficient
    # All terms in temperature vanish at 20 °C, which is the common case.
    if t_c == 20.0:
        return density
    d = t_c - 20.0
    # Σ Bₖ dᵏ for pure water, then Σᵢ Σₖ C dⁱ pᵏ for the mixture, d = t − 20.
    terms = [density] + [b * d**k for k, b in enumerate(_B, 1)]
    terms += [c * p**k * d**i for i, row in enumerate(_C, 1) for k, c in enumerate(row, 1)]
    return math.fsum(terms)


def abv_from_mass_fraction(p: float) -> float:
    """Strength [% vol at 20 °C] of ethanol and water at mass fraction `p`: 100 p ρ(p) / 789.24. 40.0 at p = 0.333. Source: OIML R 22."""
    return 100.0 * p * ethanol_water_density(p) / PURE_ETHANOL_KG_M3


_CAP = 60


def mass_fraction_from_abv(abv: float) -> float:
    """Mass fraction [0 to 1] of ethanol in a spirit of `abv` [% vol at 20 °C]; the inverse by bisection to 1e-14. 0.33300 at 40 % vol.

    Source: OIML R 22. Raises Refusal for strengths outside 0 to 100 % vol.
    """
    if not 0.0 <= abv <= 100.0:
        raise Refusal(message("{abv} % vol cannot be", abv=Given(abv)), bound=message("strength lies between 0 and 100 % vol"))
    # Strength rises with the mass fraction over the whole range, so one bracket always holds the answer.
    low, high = 0.0, 1.0
    for _ in range(_CAP):
        middle = (low + high) / 2
        if abv_from_mass_fraction(middle) < abv:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def abw(contents: Contents) -> float:
    """Strength [% w/w]: grams of ethanol in 100 g of the liquid. 33.3 for 40 % vol spirit. Raises Refusal for an empty vessel. Source: definition."""
    liquid = checked_contents(contents).solution.mass_g
    if liquid <= 0:
        raise Refusal(message("An empty vessel has no strength"), remedy=message("Put something in first"))
    return 100.0 * contents.of("ethanol") / liquid


# Share of the alcohol left [%] by minutes at a simmer, stirred in: USDA Table of Nutrient Retention Factors, Release 6 (2007).
MOST_RETENTION_MIN = 150.0
"""Minutes at a simmer to which the table of retained alcohol reaches."""
_RETAINED = ((0.0, 85.0), (15.0, 40.0), (30.0, 35.0), (60.0, 25.0), (90.0, 20.0), (120.0, 10.0), (150.0, 5.0))
_LOSS_SPREAD, _LEAST_KEPT = Range(1.0, 0.67, 1.33), 0.02
"""A loss is good to a third of itself, and even a long simmer keeps a trace. House judgement."""
_LID_HOLDS = {"off": 1.0, "half": 0.75, "on": 0.35}
"""Share of the loss that passes the lid; house experience, not a standard."""


def ethanol_retained(minutes: float, lid: str = "off") -> Range:
    """Returns the share [0 to 1] of the alcohol left after `minutes` [0 to 150] at a simmer.

    Interpolated in the table for a stirred pot; a lid retains more. Error a third of the loss: pot, surface and strength decide. 0.40 after 15 min without lid.
    Raises Refusal outside 0 to 150 min. Source: USDA Table of Nutrient Retention Factors, Release 6 (2007).
    """
    if not 0.0 <= minutes <= MOST_RETENTION_MIN:
        raise Refusal(
            message("{minutes} min is outside the table of alcohol retained", minutes=Given(minutes)),
            bound=message("it holds from 0 to 150 min"),
            remedy=message("Read the strength after that"),
            code="out_of_bounds",
        )
    for (t0, s0), (t1, s1) in itertools.pairwise(_RETAINED):
        if minutes <= t1:
            left = (s0 + (s1 - s0) * (minutes - t0) / (t1 - t0)) / 100.0
            break
    if lid not in _LID_HOLDS:
        raise Refusal(
            message("“{lid}” is no way to lay a lid", lid=lid),
            bound=message("choose one of {lid_holds}", lid_holds=listed(_LID_HOLDS, "comma")),
            code="unknown_word",
        )
    # A lid returns part of the vapour: it scales the loss, not what is left.
    lost = (1.0 - left) * _LID_HOLDS[lid]
    # A third of the loss either way; even a long simmer keeps a trace.
    return Range(1.0 - lost, max(_LEAST_KEPT, 1.0 - _LOSS_SPREAD.high * lost), 1.0 - _LOSS_SPREAD.low * lost)


def abv(ethanol_g: float, volume_ml: float) -> float:
    """Returns the strength [% vol at 20 °C]: mL of ethanol in 100 mL of the mixture, contraction counted.

    Raises Refusal for a volume of 0 and for more ethanol than the volume holds. Source: definition, OIML R 22.
    """
    bounded(volume_ml, 1e-12, 1e12, "mL", message("a volume"))
    bounded(ethanol_g, 0.0, 1.0001 * PURE_ETHANOL_KG_M3 / 1000.0 * volume_ml + 1e-9, "g", message("the ethanol in it"))
    return 100.0 * (ethanol_g * 1000.0 / PURE_ETHANOL_KG_M3) / volume_ml
