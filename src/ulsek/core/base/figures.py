"""The registry of figures: what every figure of a liquid is called, its unit and decimals, its bounds, how it is read, its formula and source.

A figure is described here and nowhere else. Its function stands in `properties.measure.PROPERTY`; the front end's tables are written from here
(`bin/types`), and so is the page `docs/core/figures.md` (`bin/docs`).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import NamedTuple

from .messages import NOTHING, Computed, Given, Message, message, span, template, term, verbatim

MOST_G = 1e6
"""Largest mass that is accepted [g]: one tonne; also the largest volume [mL]."""
_LARGEST = {("g", MOST_G): message("a tonne"), ("mL", MOST_G): message("1 000 L")}
_VOLUMES = "volumes at 20 °C: ICUMSA SPS-4 (1998) for sugar and water, OIML R 22 for alcohol, apparent volumes for acids"


class Bounds(NamedTuple):
    """Least and largest accepted value, both included, in the figure's unit, and the same in words."""

    low: float
    high: float
    words: Message


VESSEL_ML = Bounds(1.0, MOST_G, message("from 1 mL to 1 000 L"))
"""What a vessel, a line in it or a batch may hold [mL]."""
SCORE = Bounds(1.0, 10.0, message("from 1 to 10"))
SCORE_DECIMALS = 2
"""A taster's score, and its decimals at most: finer than a tongue otherwise. House experience."""
TARE_G = Bounds(0.0, 1e5, message("from 0 to 100 kg"))
"""What a vessel may weigh empty [g]."""
POT_CM = Bounds(5.0, 100.0, message("from 5 to 100 cm across"))
"""Bounds of the diameter of a pot [cm]."""
RESOLUTION_G = Bounds(0.0001, 100.0, message("from 0.0001 to 100 g"))
"""Bounds of the resolution of a scale [g]."""
DROP_SIZE_ML = Bounds(0.005, 1.0, message("a dropper gives from 0.005 to 1 mL"))
"""Bounds of the volume of one drop [mL]."""


@dataclass(frozen=True, slots=True)
class Instrument:
    """What reads a figure.

    `name` is its title and `use` the condition of a good reading; `shows` is the phrase that its {bounds} stand in. `range` is what it can show, in the
    figure's unit (None: the figure's own limits). `half_range` is the half-range (5 to 95 %) of one reading with its sampling, in the figure's unit
    (None: readings are not compared with predictions); house experience, not a standard.
    """

    name: str
    use: str
    shows: Message
    range: tuple[float, float] | None = None
    half_range: float | None = None


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure.

    `name` stands in sentences, `short` heads a row of results, `sought` is what it is called as a target where its short name and unit do not say it.
    `unit` is empty for a pure number; `decimals` None prints by size (`number_format.places`). `limits` are the least and largest value that may be
    aimed at. `shown_from`, in its unit: a smaller value is not worth a row. `least_change`, in its unit, or `least_share` of the value before is the smallest change that is worth telling. `goal_tolerance` is the
    tolerance of a goal when none is given (house experience); None: no goal is offered. `formula` in words, `source` of the formula and its constants.
    """

    key: str
    name: str
    unit: str
    decimals: int | None = None
    short: str = ""
    sought: str = ""
    limits: tuple[float, float] | None = None
    instrument: Instrument | None = None
    shown_from: float = 0.0
    least_change: float = 0.0
    least_share: float = 0.0
    goal_tolerance: float | None = None
    formula: str = ""
    source: str = ""

    @property
    def title(self) -> Message:
        """Returns the name with a capital first letter; "pH" stays as it is."""
        return term(self.name) if self.name == "pH" else message("{name:capital}", name=term(self.name))

    @property
    def target_label(self) -> str:
        """Returns what it is called in a list of targets: "°Bx", "acid, g/100 mL"."""
        return self.sought or f"{self.short}, {self.unit}"

    @property
    def bounds(self) -> Bounds:
        """Returns the least and largest value that may be aimed at, in the figure's unit. Raises LookupError if the figure has no limits."""
        if self.limits is None:
            raise LookupError(f"The figure {self.key} has no limits")
        return Bounds(*self.limits, self._between(*self.limits))

    @property
    def readable(self) -> Bounds:
        """Returns the least and largest value that its instrument can show, in the figure's unit. Raises LookupError if it has no instrument."""
        limits = self.instrument and (self.instrument.range or self.limits)
        if self.instrument is None or not limits:
            raise LookupError(f"The figure {self.key} has no instrument")
        bounds, shows = self._between(*limits), self.instrument.shows
        return Bounds(*limits, shows.with_values(bounds=bounds) if shows else bounds)

    @property
    def is_compared(self) -> bool:
        """True if its readings are compared with the prediction: then `half_range` knows it."""
        return self.instrument is not None and self.instrument.half_range is not None

    def _between(self, low: float, high: float) -> Message:
        if (self.unit, high) in _LARGEST:
            return message("from {low} {unit} to {most}", low=Given(low), unit=self.unit, most=_LARGEST[self.unit, high])
        if self.unit:
            return span(low, high, self.unit)
        return message("from {figure} {low} to {high}", figure=term(self.name), low=Given(low), high=Given(high))


FIGURES: Mapping[str, Figure] = MappingProxyType(
    {
        item.key: item
        for item in (
            Figure(
                "mass_g",
                "weight",
                "g",
                short="weight",
                sought="grams in all",
                limits=(0.1, MOST_G),
                instrument=Instrument("Weight", "Without the vessel.", NOTHING, (0.0, MOST_G), 2.0),
                formula="everything that went in, less everything that left",
                source="mass balance",
            ),
            Figure(
                "volume_ml",
                "volume",
                "mL",
                short="yield",
                sought="the mL line",
                limits=(0.1, MOST_G),
                instrument=Instrument("Volume line", "At eye height.", NOTHING, (0.0, MOST_G), 10.0),
                least_change=1.0,
                least_share=0.005,
                formula="water with the sugars by their density, plus grams of each acid and salt times the room it takes",
                source=_VOLUMES,
            ),
            Figure(
                "density_g_ml",
                "density",
                "g/mL",
                3,
                formula="weight of the liquid divided by its volume",
                source=_VOLUMES,
            ),
            Figure(
                "brix",
                "dissolved solids",
                "°Bx",
                1,
                short="solids",
                sought="°Bx",
                limits=(0.0, 90.0),
                shown_from=0.05,
                least_change=0.1,
                goal_tolerance=0.5,
                formula="dissolved solids other than alcohol, divided by the weight of the liquid, times 100",
                source="definition of °Bx, mass balance",
            ),
            Figure(
                "brix_reading",
                "the refractometer's reading",
                "°Bx",
                1,
                limits=(0.0, 85.0),
                instrument=Instrument(
                    "Refractometer", "Clear, stirred, at 20 °C.", template("a refractometer reads {bounds}"), half_range=0.2
                ),
                formula="true °Bx less what acid makes the refractometer miss (0.012 + 0.193 A − 0.0004 A², A in % acid)",
                source="correction of the citrus juice trade",
            ),
            Figure(
                "sugar_g_100ml",
                "sugars",
                "g/100 mL",
                1,
                short="sugar",
                limits=(0.0, 130.0),
                least_change=0.2,
                formula="grams of all sugars divided by the volume, times 100",
                source=f"definition; {_VOLUMES}",
            ),
            Figure(
                "acid_g_100ml",
                "titratable acid",
                "g/100 mL",
                2,
                short="acid",
                limits=(0.0, 60.0),
                shown_from=0.05,
                instrument=Instrument(
                    "Titration", "As citric, at the first pink that stays.", template("titratable acid lies {bounds}"), half_range=0.06
                ),
                least_change=0.02,
                goal_tolerance=0.05,
                formula="protons of every acid up to pH 8.2, less those potassium has taken, as citric acid (64.041 g each), divided by the volume, times 100",
                source=f"definition; {_VOLUMES}",
            ),
            Figure(
                "abv",
                "alcohol",
                "% vol",
                1,
                short="alcohol",
                sought="% vol",
                limits=(0.0, 97.0),
                shown_from=0.05,
                instrument=Instrument(
                    "Strength", "By a laboratory, or of what was distilled.", template("strength lies {bounds}"), half_range=0.5
                ),
                least_change=0.1,
                formula="millilitres of ethanol divided by the volume, times 100",
                source="definition; OIML R 22, contraction counted",
            ),
            Figure(
                "ph",
                "pH",
                "",
                2,
                limits=(1.0, 9.0),
                instrument=Instrument("pH meter", "At 20 to 25 °C, rinsed.", template("a meter reads {bounds}"), (0.0, 14.0), 0.1),
                formula="the acidity at which all charges come out even: what each acid gives off against what potassium and sodium have taken, activities after Davies",
                source="electroneutrality; Davies 1962; constants at 25 °C. A meter shows less in thick syrup. Never a measure of sourness",
            ),
            Figure(
                "water_activity",
                "water activity",
                "",
                3,
                instrument=Instrument(
                    "Water activity meter", "In its closed cup, at 25 °C.", template("a meter reads {bounds}"), (0.0, 1.0), 0.01
                ),
                formula="the product of what each dissolved thing would leave alone in all the water",
                source="Ross 1975; Norrish 1966; Starzak and Peacock 1997; Pitzer and Mayorga 1973 for salt",
            ),
            Figure(
                "freezing_c",
                "freezing point",
                "°C",
                1,
                formula="where the liquid holds its water as hard as ice does",
                source="Murphy and Koop 2005; water activity at that temperature",
            ),
            Figure(
                "boiling_c",
                "boiling point",
                "°C",
                1,
                formula="where the vapour pressures of water and alcohol add up to the air's",
                source="Wagner and Pruss 2002; van Laar for alcohol",
            ),
            Figure(
                "viscosity_mpa_s",
                "viscosity",
                "mPa·s",
                formula="taken as sucrose of equal °Bx at 20 °C; gum, pectin and pulp thicken more",
                source="Génotelle 1978; Swindells 1958",
            ),
            Figure(
                "sweetness_g_100ml",
                "sweetness, as sugar",
                "g/100 mL",
                1,
                formula="grams of each sugar times how sweet it is against white sugar, by volume",
                source="compiled relative sweetness",
            ),
            Figure(
                "acid_g_100g",
                "titratable acid by weight",
                "g/100 g",
                2,
                formula="titratable acid, as citric, divided by the weight of the liquid, times 100",
                source="definition",
            ),
            Figure(
                "abw",
                "alcohol by weight",
                "% w/w",
                1,
                formula="grams of ethanol divided by the weight of the liquid, times 100",
                source="definition",
            ),
            Figure(
                "carbonation_g_l",
                "carbon dioxide",
                "g/L",
                1,
                formula="grams of carbon dioxide divided by the volume in litres",
                source="definition",
            ),
            Figure(
                "temperature_c",
                "temperature",
                "°C",
                1,
                instrument=Instrument("Thermometer", "In the middle.", template("a kitchen thermometer reads {bounds}"), (-30.0, 200.0)),
                source="read",
            ),
            Figure(
                "naoh_ml",
                "base from the burette",
                "mL",
                2,
                instrument=Instrument("Burette", "At the first pink that stays.", NOTHING, (0.0, 500.0)),
                source="read",
            ),
            Figure("quinine_mg_l", "quinine", "mg/L", 2, source="mass balance, at the unfavourable end of its range"),
            Figure("added_sugar_percent", "added sugar", "%", 2, source="grams of sweeteners that went in, per 100 g of product"),
        )
    }
)
"""Every figure by its key. The key is the name in files, answers and commands, with the unit in it."""

BENCH_READINGS = ("brix_reading", "acid_g_100ml", "mass_g", "temperature_c", "ph", "volume_ml")
"""Keys of the figures that the bench offers to read, most used first."""
RUN_READINGS = (*BENCH_READINGS, "water_activity")
"""Keys of the figures that an event "read" of a run may hold. Any other is refused."""


def half_range(key: str) -> float:
    """Returns the half-range (5 to 95 %) of one reading of the figure `key`, in its unit: 0.2 for "brix_reading".

    Raises KeyError for an unknown key, LookupError if its readings are not compared with predictions. Source: house experience.
    """
    instrument = FIGURES[key].instrument
    if instrument is None or instrument.half_range is None:
        raise LookupError(f"Readings of {key} are not compared with predictions")
    return instrument.half_range


def quantity(key: str, value: float) -> Computed:
    """Returns `value`, in the unit of the figure `key`, as a value of a message. 40 of "brix" is "40.0 °Bx", 2.9 of "ph" is "2.90". Raises KeyError for an unknown key."""
    return Computed(value, FIGURES[key].unit, FIGURES[key].decimals)


def named(key: str, value: float) -> Message:
    """Returns a value, in the unit of the figure `key`, with the figure's name before a pure number: "40.0 °Bx", "pH 2.90", "water activity 0.870"."""
    if FIGURES[key].unit:
        return verbatim(quantity(key, value))
    return message("{figure} {value}", figure=term(FIGURES[key].name), value=quantity(key, value))


def with_half_range(key: str, value: float, half_range: float) -> Message:
    """Returns a value and a half-range, both in the unit of the figure `key` and with its decimals: "80.0 °Bx ± 0.2"."""
    half = Computed(half_range, decimals=FIGURES[key].decimals)
    return message("{value} ± {half_range}", value=quantity(key, value), half_range=half)


def spread(key: str, low: float, high: float) -> Message:
    """Returns both ends of a range, in the unit of the figure `key`, without the unit: "39.5 to 40.5"."""
    decimals = FIGURES[key].decimals
    return message("{low} to {high}", low=Computed(low, decimals=decimals), high=Computed(high, decimals=decimals))
