"""Oleo-saccharum: peel packed in sugar, what runs off it, and the draw of this house's own peel."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Literal

from ..base.messages import Computed, Given, Message, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..materials.material import Material, read_material
from ..materials.reference_materials import typical_materials
from ..materials.vessel_state import Piece, VesselState
from ..operations.extract import DOUBLES_PER_K, DRAW_H, DRAWN_G_G, Macerate, extent
from ..operations.strain import Strain, undissolved_at
from ..properties.energy import learned
from ..properties.water import ATMOSPHERE_KPA
from .fruit import Variety
from .house_experience import figure, prior


@cache
def _sugar_g_ml() -> float:
    return read_material("white_sugar", typical_materials()["white_sugar"]).density_g_ml()


USUAL_PEEL_G, USUAL_RATIO, USUAL_HOURS, USUAL_C = 100.0, 1.5, 18.0, 20.0
"""What a form starts from: mass of peel [g], sugar as a multiple of it by mass [1], time [h], temperature [°C]. House experience."""


_PEEL_G, _RATIO = (0.1, 100_000.0), (0.1, 10.0)
"""Least and most peel in a jar [g], and sugar as a multiple of it. House judgement."""
_MOST_H, _MOST_C, _LEAST_WAIT_H = 240.0, 45.0, 0.5
"""Bounds of a jar of peel and sugar: longest time [h] and highest temperature [°C] observed, and shortest time [h] after which its weight says how much was drawn. House experience."""
_LEAST_LEFT = 0.4
"""Share of its mass that spent peel keeps at least. House experience."""
_DRY_G = 0.5
"""Dry sugar in a jar [g] from which it is mentioned. House judgement."""


@dataclass(frozen=True, slots=True)
class OilSugar:
    """What a jar of peel in sugar holds and gives [g]: sugar, draw, dissolved and dry sugar, what pours off, oil [mg], and the hours to most of it."""

    sugar_g: float
    drawn_g: Range
    dissolved_g: float
    dry_g: float
    pours_g: Range
    oil_mg: Range
    hours_to_most: float
    remarks: tuple[Message, ...]


@dataclass(frozen=True, slots=True)
class _JarContext:
    """The `StepContext` of a jar of peel: process figures moved by `z` half-ranges, and the peel's own."""

    peel: Material
    z: float
    factor: float = 1.0
    pressure_kpa: float = ATMOSPHERE_KPA
    capacity_ml: float | None = None

    def value_of(self, figure: Range) -> float:
        # All figures move together: the widest range, since nothing says how they depend on each other.
        return figure.at(self.z)

    def take_stream(self, name: str) -> VesselState | None:
        del name
        return None

    def facts(self, material: str) -> Material:
        del material
        return self.peel


@cache
def _peel(key: str) -> Material:
    return read_material(f"{key}_peel", typical_materials()[f"{key}_peel"])


@dataclass(frozen=True, slots=True)
class PeelJar:
    """`peel_g` [g] of peel packed in sugar for `hours` [h] at `warm_c` [0 to 45 °C], then strained or pressed.

    The sugar is `ratio` times the peel, by weight or by packed volume (`measure`).
    """

    peel_g: float
    measure: Literal["weight", "volume"] = "weight"
    ratio: float = USUAL_RATIO
    hours: float = USUAL_HOURS
    warm_c: float = USUAL_C
    pressed: bool = True

    def check(self) -> None:
        """Raises Refusal, at its field, for a figure that is out of bounds."""
        for value, name, low, high, unit in (
            (self.peel_g, "peel_g", *_PEEL_G, "g"),
            (self.ratio, "ratio", *_RATIO, message("times the peel")),
            (self.hours, "hours", 0.0, _MOST_H, "h"),
            (self.warm_c, "warm_c", 0.0, _MOST_C, "°C"),
        ):
            if not (math.isfinite(value) and low <= value <= high):
                raise Refusal(
                    message("{value} {unit} cannot be", value=Given(value), unit=unit),
                    name,
                    message("from {low} to {high} {unit}", low=Given(low), high=Given(high), unit=unit),
                    code="out_of_bounds",
                )


def _after_wait(of: Variety, jar: PeelJar, sugar_g: float, drawn_g_g: Range | None, z: float) -> VesselState:
    """Returns the jar after its wait: peel, and `sugar_g` [g] of sugar with what it has drawn, its process figures moved by `z` half-ranges. Source: `Macerate`."""
    peel = _peel(of.key)
    parts = {name: part.scaled(jar.peel_g) for name, part in peel.parts_per_gram().items()}
    # The same verbs as in a spec compute it, so that both agree to the last gram.
    packed = VesselState(Contents({"sucrose": sugar_g}), {}, (Piece(peel.key, parts, jar.peel_g),), temperature_c=jar.warm_c)
    step = Macerate("draw", "jar", minutes=jar.hours * 60.0, temperature_c=jar.warm_c, drawn_g_g=drawn_g_g)
    return step.act(packed, _JarContext(peel, z)).state


def _runs_off(jar: VesselState, of: Variety, pressed: bool, z: float) -> float:
    """Returns the mass that pours off a jar [g]; 0 if less is there than clings to the peel. Source: `Strain`."""
    try:
        done = Strain("strain", "jar", pressed=pressed).act(jar, _JarContext(_peel(of.key), z))
    except Refusal as refusal:
        # Too little has run to leave the peel: that is an answer, not a fault.
        if refusal.code != "nothing_drains":
            raise
        return 0.0
    return done.state.liquid.mass_g


PACKED_G_ML = (0.1, 0.9)
"""What a measure packed with peel can weigh [g/mL]. House experience."""


def checked_packed(grams: float, ml: float) -> float:
    """Returns the bulk density of packed peel [g/mL]. Raises Refusal outside `PACKED_G_ML`."""
    least, most = PACKED_G_ML
    if not (ml > 0 and least <= grams / ml <= most):
        raise Refusal(
            message("{grams} g in {ml} mL is no packed peel", grams=Given(grams), ml=Given(ml)),
            "grams",
            message("it weighs {least} to {most} g/mL", least=Given(least), most=Given(most)),
            message("Weigh it again"),
            "out_of_bounds",
        )
    return grams / ml


def oil_sugar(of: Variety, jar: PeelJar, peel_g_ml: float | None = None, drawn_g_g: Range | None = None) -> OilSugar:
    """Returns what a jar of peel in sugar gives, by the verbs macerate and strain on this fruit's peel: sugar dissolves to saturation in what it draws.

    `peel_g_ml` [g/mL] is the bulk density of packed peel and `drawn_g_g` [g/g] the plateau of the draw, as this house has measured them; None: typical.
    100 g, 18 h at 20 °C: 28.5 g drawn. Error 40 % until the house has measured. Raises Refusal for figures out of bounds. Source: `Macerate`, `Strain`.
    """
    jar.check()
    peel_g, hours, warm_c = jar.peel_g, jar.hours, jar.warm_c
    packed = prior("peel_g_per_ml").value if peel_g_ml is None else peel_g_ml
    # By volume both are packed: peel by its bulk density, sugar by its own.
    sugar = peel_g * jar.ratio if jar.measure == "weight" else peel_g / packed * _sugar_g_ml() * jar.ratio
    # Expected, low and high: every uncertain figure of the process moves together, which is the wide end.
    jars = [_after_wait(of, jar, sugar, drawn_g_g, z) for z in (0.0, -1.0, 1.0)]
    drawn = Range(*(state.liquid.mass_g - sugar for state in jars))
    # The most pours off where the jar draws much and the peel holds back little, hence the opposite signs.
    pours = Range(*(_runs_off(state, of, jar.pressed, z) for state, z in zip(jars, (0.0, 1.0, -1.0), strict=True)))
    # Sugar dissolves only in the water that it has drawn, to saturation.
    dissolved = sugar - undissolved_at(jars[0].liquid, warm_c)
    reached = extent(hours * 60.0, DRAW_H.value, warm_c)
    # Oil sits in the zest alone; its release follows the draw of water from the same cells.
    runs = 1000.0 * peel_g * figure("zest_in_peel") * figure("oil_runs") * reached
    oil = Range(*(runs * share for share in (of.zest_oil.value, of.zest_oil.low, of.zest_oil.high)))
    remarks = [message("Spent peel: cover it with the water of the next syrup, candy it, or lay it in spirit for a day.")]
    if sugar - dissolved > _DRY_G:
        remarks.append(
            message(
                "{sugar} g of sugar stay dry: stir in juice or a little warm water, and rinse the peel with it.",
                sugar=Computed(sugar - dissolved, decimals=0),
            )
        )
    if jar.measure == "volume" and peel_g_ml is None:
        remarks.append(message("Packed peel weighs 0.30 to 0.48 g/mL until this house weighs its own cup of it once."))
    return OilSugar(
        sugar,
        drawn,
        dissolved,
        sugar - dissolved,
        pours,
        oil,
        # Three time constants are 95 % of an exponential approach, and warmth shortens them.
        3.0 * DRAW_H.value / math.pow(2.0, (warm_c - 20.0) / DOUBLES_PER_K),
        tuple(remarks),
    )


def draw_plateau(peel_g: float, spent_g: float, hours: float, warm_c: float = 20.0) -> float:
    """Returns the plateau of the draw [g/g of peel] from one jar: `peel_g` [g] weighed `spent_g` [g] after `hours` [h] in sugar at `warm_c` [0 to 45 °C],
    rinsed and drained.

    (before − after) / before / (1 − exp(−t/τ)). 100 g that weigh 71.5 g after 18 h: 0.30. Raises Refusal for peel that gained mass or lost more than half, and
    for figures out of bounds. Error: the drops that cling. Source: mass balance, the draw's own time constant.
    """
    if not (math.isfinite(peel_g) and math.isfinite(spent_g) and peel_g > 0 and _LEAST_LEFT * peel_g <= spent_g < peel_g):
        raise Refusal(
            message("{spent} g of spent peel cannot be", spent=Given(spent_g)),
            "spent_g",
            message("from {low} to {high} g", low=Computed(_LEAST_LEFT * peel_g, decimals=0), high=Computed(peel_g, decimals=0)),
            message("Rinse, drain, weigh again"),
            "out_of_bounds",
        )
    if not _LEAST_WAIT_H <= hours <= _MOST_H:
        raise Refusal(
            message("{hours} h teach nothing", hours=Given(hours)),
            "hours",
            message("from 0.5 to 240 h"),
            message("Wait longer"),
            "out_of_bounds",
        )
    if not 0.0 <= warm_c <= _MOST_C:
        raise Refusal(
            message("{warm} °C cannot be", warm=Given(warm_c)),
            "warm_c",
            message("from 0 to 45 °C"),
            message("Say how warm the jar stood"),
            "out_of_bounds",
        )
    # A short wait stops on the way to the plateau; dividing by the extent extrapolates to it.
    return (peel_g - spent_g) / peel_g / extent(hours * 60.0, DRAW_H.value, warm_c)


def learned_plateau(seen: Sequence[float]) -> Range | None:
    """Returns the house's own plateau [g/g] from its jars, which narrow the prior; None without any. Source: `energy.learned`."""
    # The prior of the draw counts as two jars: `learned` narrows it by the house's own.
    return learned(DRAWN_G_G, list(seen)) if seen else None
