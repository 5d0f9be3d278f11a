"""Energy and time: heating a pot, evaporating water, freezing a block; the power of a pot from two weighings."""

from __future__ import annotations

import math

from ..base.messages import Computed, Given, message
from ..base.ranges import NORMAL_95, Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from .bounds import bounded, checked_contents
from .density import density_g_ml
from .water import freezing_c

_WATER, _ETHANOL, _FAT, _SOLIDS = 4.186, 2.44, 2.0, 1.49
_FUSION = 333.6
"""Heat of melting ice at 0 °C [J/g]; handbook."""
_LATENT = (2500.9, -2.3803, 7.4e-4, -1.3867e-5)
"""Latent heat of steam [J/g] in powers of t [°C]: fitted to the steam tables (IAPWS-95) at 0, 50, 100 and 150 °C."""
STILL_AIR_W_M2K = 8.0
"""Heat transfer from a surface to still air [W/(m² K)]; handbook, 5 to 10."""
_FROZEN_W_MK, _THAWED_W_MK = 1.6, 0.5
"""Thermal conductivity of frozen and of thawed juice [W/(m K)]; handbook, ±20 %."""
_PUT_IN_C = 15.0
"""Temperature [°C] at which a block is taken to be put into the freezer. House experience."""
_PRIOR_RUNS = 2.0
"""Runs that a prior counts as. House judgement."""
_LEAST_W, _MOST_W, _MOST_G, _LEAST_MINUTES, _MOST_MINUTES, _MOST_MM, _MOST_FILM = 1e-3, 1e6, 1e7, 1e-3, 1e6, 1e4, 1e5
_LEAST, _MOST = 1e-9, 1e12


def heat_capacity_j_g(contents: Contents) -> float:
    """Heat capacity [J/(g·K)] near 25 °C: water 4.186, dissolved solids 1.49, alcohol 2.44, oil and fat 2.0, by mass.

    Range 0 to 80 °C, error 3 % (10 % with alcohol, whose mixing heat is left out). 2.84 at 50 °Bx. Raises Refusal for an empty vessel. Source: Bubník 1995 at
    purity 100, 4.1868 − B (0.0297 − 4.6e-5 P + 7.5e-5 t); additive rule.
    """
    mass = checked_contents(contents).mass_g
    if mass <= 0:
        raise Refusal(message("An empty vessel takes no heat"), remedy=message("Put something in first"))
    # Whatever is neither water, alcohol nor fat counts as sugar: plant matter and acids are within the error.
    solids = mass - contents.of("water") - contents.of("ethanol") - contents.total(("oil", "fat"))
    return (
        # Additive by mass: heat of mixing is left out, which costs 10 % with alcohol and less elsewhere.
        contents.of("water") * _WATER + contents.of("ethanol") * _ETHANOL + contents.total(("oil", "fat")) * _FAT + solids * _SOLIDS
    ) / mass


def latent_heat_j_g(t_c: float) -> float:
    """Heat [J/g] to turn water at `t_c` [0 to 150 °C] into steam: 2500.9 − 2.3803 t + 7.4e-4 t² − 1.3867e-5 t³, error 0.05 %. 2256 at 100 °C. Raises Refusal
    outside its range. Source: steam tables (IAPWS-95) at 0, 50, 100, 150 °C.
    """
    if not 0.0 <= t_c <= 150.0:
        raise Refusal(message("{t} °C is outside the steam formula", t=Given(t_c)), bound=message("it holds from 0 to 150 °C"))
    return _LATENT[0] + _LATENT[1] * t_c + _LATENT[2] * t_c**2 + _LATENT[3] * t_c**3


def minutes_to_heat(contents: Contents, from_c: float, to_c: float, power_w: float) -> float:
    """Returns the time [min] in which a vessel is heated from `from_c` to `to_c` [°C] with `power_w` [W] that arrive in it. 1 kg of water by 80 K at 1200 W:
    4.65.

    Error: that of the power. Raises Refusal for temperatures or a power out of bounds. Source: energy balance.
    """
    bounded(from_c, -60.0, 200.0, "°C", message("a temperature"))
    bounded(to_c, -60.0, 200.0, "°C", message("a temperature"))
    if not _LEAST_W <= power_w <= _MOST_W:
        raise Refusal(
            message("A power of {power_w} W heats nothing", power_w=Given(power_w)),
            bound=message("it must be above zero"),
            remedy=message("Weigh the pot twice to learn it"),
        )
    # A vessel that is warm enough already takes no time.
    return max(0.0, to_c - from_c) * heat_capacity_j_g(contents) * contents.mass_g / power_w / 60.0


def minutes_to_drive_off(mass_g: float, t_c: float, power_w: float) -> float:
    """Returns the time [min] in which `mass_g` [g] of steam leave at `t_c` [°C] with `power_w` [W]: mass × latent heat / power. 500 g at 1200 W: 15.7.

    Error: that of the power. Raises Refusal for a mass or a power out of bounds. Source: energy balance.
    """
    if not (_LEAST_W <= power_w <= _MOST_W and 0 <= mass_g <= _MOST_G):
        raise Refusal(
            message("Steam needs a mass of zero or more and a power above zero"),
            bound=message("{mass} g, {power_w} W were given", mass=Given(mass_g), power_w=Given(power_w)),
        )
    # The pot is at the boil all the while, so all power goes into steam.
    return mass_g * latent_heat_j_g(t_c) / power_w / 60.0


def power_from_weighings_w(lost_g: float, minutes: float, t_c: float = 100.0) -> float:
    """Returns the net power [W] of a boiling pot that lost `lost_g` [g] in `minutes` [min]. 160 g in 5 min: 1204.

    Error 2 % of the loss, plus the scale's. Raises Refusal for a loss or a time out of bounds. Source: energy balance.
    """
    if not (0 < lost_g <= _MOST_G and _LEAST_MINUTES <= minutes <= _MOST_MINUTES):
        raise Refusal(
            message("Two weighings need a loss and a time above zero"),
            bound=message("{lost} g in {minutes} min were given", lost=Given(lost_g), minutes=Given(minutes)),
            remedy=message("Weigh again after a longer simmer"),
        )
    # Whatever the pot loses to the room is lost before it makes steam: what is measured is net.
    return lost_g * latent_heat_j_g(t_c) / (minutes * 60.0)


def hours_to_freeze(
    contents: Contents, thickness_mm: float, air_c: float, *, both_sides: bool = True, film_w_m2k: float = STILL_AIR_W_M2K
) -> float:
    """Hours until a block `thickness_mm` [mm] thick in still air at `air_c` [−40 to −5 °C] is frozen through (Plank).

    t = ρ L / (T_f − T_air) (P a/h + R a²/k), P = ½, R = ⅛ for a slab cooled on both sides, twice and four times for one. Error 30 % and more: boxes, stacks and
    doors decide. 60 mm of a 12 °Bx juice at −18 °C: about 23 h. Raises Refusal for a thickness or a temperature out of bounds. Source: Plank 1941; film of
    still air.
    """
    if not (-40.0 <= air_c <= -5.0 and 0 < thickness_mm <= _MOST_MM and 0 < film_w_m2k <= _MOST_FILM):
        raise Refusal(
            message(
                "A freezer at {air} °C and {thickness_mm} mm cannot be worked with", air=Given(air_c), thickness_mm=Given(thickness_mm)
            ),
            bound=message("air from −40 to −5 °C, thickness above zero"),
        )

    # Plank takes the block to be at its freezing point from the start; freezing begins where the juice's does.
    starts = freezing_c(contents)
    water = contents.of("water") / contents.mass_g
    if air_c >= starts:
        raise Refusal(
            message("It freezes at {starts} °C, and the freezer stands at {air} °C", starts=Computed(starts, decimals=1), air=Given(air_c)),
            bound=message("the air must be colder"),
            remedy=message("Freeze it colder, or thin it"),
            code="does_not_freeze",
        )
    metres = thickness_mm / 1000.0
    # A block cooled on one side is half of one twice as thick.
    sides = 1.0 if both_sides else 2.0
    # Resistance of the still air, P a/h, and of the ice already formed, R a²/k.
    slab = sides * metres / (2.0 * film_w_m2k) + sides**2 * metres**2 / (8.0 * _FROZEN_W_MK)
    seconds = density_g_ml(contents) * 1e6 * water * _FUSION / (starts - air_c) * slab
    # Cooling to the freezing point takes its own time, against the mean difference to the air.
    cooling = density_g_ml(contents) * 1e6 * heat_capacity_j_g(contents) * max(0.0, _PUT_IN_C - starts) / (_PUT_IN_C / 2.0 - air_c) * slab
    return (seconds + cooling) / 3600.0


def hours_to_thaw(contents: Contents, thickness_mm: float, around_c: float, *, film_w_m2k: float = STILL_AIR_W_M2K) -> float:
    """Hours until a block `thickness_mm` [mm] thick is thawed through at `around_c` [1 to 30 °C] in still air (Plank, water's conductivity).

    Slower than freezing: what has thawed conducts a quarter as well. Error 30 % and more. 60 mm of a 12 °Bx juice at 4 °C: about 83 h; use `film_w_m2k` 200
    [W/(m² K)] for running water. Raises Refusal for a thickness or a temperature out of bounds. Source: Plank 1941, applied to thawing.
    """
    if not (1.0 <= around_c <= 30.0 and 0 < thickness_mm <= _MOST_MM and 0 < film_w_m2k <= _MOST_FILM):
        raise Refusal(
            message("Thawing {thickness} mm at {around} °C cannot be worked with", thickness=Given(thickness_mm), around=Given(around_c)),
            bound=message("from 1 to 30 °C, thickness above zero"),
        )

    melts = freezing_c(contents)
    metres = thickness_mm / 1000.0
    # As in freezing, but heat now passes the thawed part, which conducts about a quarter as well as ice.
    slab = metres / (2.0 * film_w_m2k) + metres**2 / (8.0 * _THAWED_W_MK)
    return density_g_ml(contents) * 1e6 * contents.of("water") / contents.mass_g * _FUSION / (around_c - melts) * slab / 3600.0


def learned(prior: Range, seen: list[float]) -> Range:
    """Returns a process parameter [its own unit] updated by the house's own runs: the prior counts as two runs of its spread; lognormal mean and 5 to 95 %
    range.

    Without runs the prior itself; with many, the house's own mean, and the spread of the mean plus its scatter. Error: that of few runs, which stays in the
    range. Raises Refusal for values of zero or less. Source: normal–normal update of the logarithm.
    """
    if not all(_LEAST <= value <= _MOST for value in (*seen, prior.low, prior.value, prior.high)):
        raise Refusal(
            message("Only values above zero teach a rate"),
            bound=message("a weighing gave zero or less"),
            remedy=message("Leave that run out"),
        )
    if not seen:
        return prior
    # Rates scatter in proportion: twice and half are equally likely, so their logarithms are averaged.
    logs = [math.log(value) for value in seen]
    centre, spread = math.log(prior.value), max(1e-6, (math.log(prior.high) - math.log(prior.low)) / 2.0 / NORMAL_95)
    # Two runs' weight: one odd day does not overturn the prior, five runs outweigh it.
    weight = _PRIOR_RUNS
    mean = (weight * centre + math.fsum(logs)) / (weight + len(logs))
    scatter = math.sqrt((weight * spread**2 + math.fsum((value - mean) ** 2 for value in logs)) / (weight + len(logs)))
    # 5 to 95 % of the next run: the scatter of runs and the uncertainty of their mean.
    half = NORMAL_95 * scatter * math.sqrt(1.0 + 1.0 / (weight + len(logs)))
    return Range(math.exp(mean), math.exp(mean - half), math.exp(mean + half))
