"""State of a vessel or stream on its way through the steps, and the outcome of a step."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Protocol

from ..base.ranges import Range
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES
from ..properties.density import volume_ml
from .softening import Softening

NOTHING = Contents()
GAS, MELT, SURPLUS = "gas:carbon_dioxide", "melt:ice", "surplus:weighed"
"""What came in out of the air or off the ice, and what a weighed vessel holds more than was worked out, as it stands among what was added."""
SHELF_C = 20.0
"""What comes from Stores comes at this temperature unless a step says otherwise."""


@dataclass(frozen=True, slots=True)
class Piece:
    """Fruit, peel or spice whose contents stay inside until a step extracts them.

    `parts` are zest, peel, juice, core, flesh [g by substance]; `grams_in` its mass when it went in [g]; `cut` how many times faster than whole it gives (1
    whole, 2 cut, 4 crushed); `gain` the factor on its juice by warming and rolling.
    """

    material: str
    parts: Mapping[str, Contents]
    grams_in: float
    cut: float = 1.0
    gain: float = 1.0

    @property
    def contents(self) -> Contents:
        """Contents of all parts [g by substance]."""
        return total(self.parts.values())

    def scaled(self, share: float) -> Piece:
        """Returns `share` times the piece."""
        return replace(self, parts={name: part.scaled(share) for name, part in self.parts.items()}, grams_in=self.grams_in * share)

    def without(self, names: Iterable[str]) -> Piece:
        """Returns the piece without the named parts."""
        gone = set(names)
        return replace(self, parts={name: part for name, part in self.parts.items() if name not in gone})

    def becoming(self, changed: Contents) -> Piece:
        """Returns the piece with `changed` contents in all, distributed to its parts by their mass before."""
        old = self.contents
        if old.mass_g <= 0:
            return self
        left = {name: part.mass_g / old.mass_g for name, part in self.parts.items()}
        return replace(self, parts={name: changed.scaled(share) for name, share in left.items()})


def total(many: Iterable[Contents]) -> Contents:
    """Returns the sum of contents."""
    found = NOTHING
    for one in many:
        found = found + one
    return found


def summed(one: Mapping[str, float], other: Mapping[str, float]) -> Mapping[str, float]:
    """Returns the sum of masses by material [g]."""
    return {key: one.get(key, 0.0) + other.get(key, 0.0) for key in {**one, **other}} if other else one


@dataclass(frozen=True, slots=True)
class VesselState:
    """The state of a vessel or stream: the liquid with its floating solids, the pieces, the temperature [°C], and times [min on the clock of the spec].

    `solids_g` is the plant matter in `liquid` by material [g as it went in], `pulp_g` the part of it that was pieces and disintegrated or was blended: pulp
    drains differently from leaves. `open_since_min` is the time since which each material that browns is exposed to air.
    """

    liquid: Contents = NOTHING
    solids_g: Mapping[str, float] = field(default_factory=dict)
    pieces: tuple[Piece, ...] = ()
    temperature_c: float = 20.0
    clock_min: float = 0.0
    open_since_min: Mapping[str, float] = field(default_factory=dict)
    hottest_c: float = 20.0
    pulp_g: Mapping[str, float] = field(default_factory=dict)

    @property
    def contents(self) -> Contents:
        """Contents of liquid and pieces [g by substance]."""
        return self.liquid if not self.pieces else self.liquid + total(piece.contents for piece in self.pieces)

    @property
    def mass_g(self) -> float:
        """Mass of liquid and pieces [g]."""
        return self.liquid.mass_g + math.fsum(piece.contents.mass_g for piece in self.pieces) if self.pieces else self.liquid.mass_g

    @property
    def pieces_ml(self) -> float:
        """Volume of the pieces [mL]: Σ mass × specific volume, without the gaps between them. 1000 g of fruit: about 960 mL. Source: `substances`."""
        contents = [piece.contents for piece in self.pieces]
        return sum(volume_ml(one) + one.of("insolubles") * SUBSTANCES["insolubles"].volume_ml_g for one in contents)

    def at(self, clock_min: float, open_since_min: Mapping[str, float]) -> VesselState:
        """Returns the state at another time. Constructed directly: this runs at every step of every pass."""
        return VesselState(
            self.liquid, self.solids_g, self.pieces, self.temperature_c, clock_min, open_since_min, self.hottest_c, self.pulp_g
        )

    def with_added(self, contents: Contents, material: str, grams: float) -> VesselState:
        """Returns the state with `grams` [g] of a material at 20 °C stirred in. Constructed directly: this runs at every line of every pass."""
        own_g = self.mass_g
        solids = self.solids_g
        if contents.grams.get("insolubles"):
            solids = {**solids, material: solids.get(material, 0.0) + grams}
        # By mass alone: heat capacities of kitchen liquids differ by less than the temperatures are known.
        warmth = (self.temperature_c * own_g + SHELF_C * grams) / (own_g + grams) if own_g + grams > 0 else self.temperature_c
        # An empty vessel forgets how hot it was: heat before a material went in did nothing to it.
        hottest = self.hottest_c if own_g else SHELF_C
        return VesselState(self.liquid + contents, solids, self.pieces, warmth, self.clock_min, self.open_since_min, hottest, self.pulp_g)

    def scaled(self, share: float) -> VesselState:
        """Returns `share` times the state."""
        return replace(
            self,
            liquid=self.liquid.scaled(share),
            solids_g={key: grams * share for key, grams in self.solids_g.items()},
            pulp_g={key: grams * share for key, grams in self.pulp_g.items()},
            pieces=tuple(piece.scaled(share) for piece in self.pieces),
        )

    def with_liquid(self, liquid: Contents) -> VesselState:
        """Returns the state with another liquid."""
        return replace(self, liquid=liquid)

    def joined(self, other: VesselState) -> VesselState:
        """Returns both in one vessel: the clock of this one, the mixing temperature by mass, the earlier exposure of what browns."""
        own_g, other_g = self.mass_g, other.mass_g
        warmth = (
            (self.temperature_c * own_g + other.temperature_c * other_g) / (own_g + other_g) if own_g + other_g > 0 else self.temperature_c
        )
        # The longer exposure counts for what was in both.
        opened = {**other.open_since_min, **self.open_since_min}
        return VesselState(
            self.liquid + other.liquid,
            summed(self.solids_g, other.solids_g),
            self.pieces + other.pieces,
            warmth,
            max(self.clock_min, other.clock_min),
            opened,
            self.hottest_c if own_g else other.hottest_c,
            summed(self.pulp_g, other.pulp_g),
        )


@dataclass(frozen=True, slots=True)
class OutgoingStream:
    """A stream that left: steam, strained solids, peel, ice, a spill. `kept` is True for a by-product, False for a loss."""

    name: str
    kind: str
    state: VesselState
    kept: bool = False

    @property
    def contents(self) -> Contents:
        """Contents of the stream [g by substance]."""
        return self.state.contents


def outgoing_stream(name: str, kind: str, contents: Contents, *, kept: bool = False) -> OutgoingStream:
    """Returns a stream of contents without a state of their own."""
    return OutgoingStream(name, kind, VesselState(contents), kept)


@dataclass(frozen=True, slots=True)
class Outcome:
    """The result of an operation: the state that stays (and goes `into` another vessel if the step says so), the outgoing streams, and what was gained: gas, or
    melted ice.
    """

    state: VesselState
    outgoing: tuple[OutgoingStream, ...] = ()
    gained: Contents = NOTHING
    gained_as: str = GAS


class MaterialFacts(Protocol):
    """The process figures of a material that an operation may use."""

    @property
    def hold_g_g(self) -> Range | None:
        """Liquid retained per gram strained out [g/g]; None: the house's."""

    @property
    def drawn_g_g(self) -> Range | None:
        """Plateau of the draw by sugar [g/g]; None: the verb's."""

    @property
    def draw_hours(self) -> Range | None:
        """Time constant of the draw [h]; None: the verb's."""

    @property
    def softening(self) -> Softening | None:
        """How its flesh softens in heat; None if it does not."""


class StepContext(Protocol):
    """What an operation may use while it acts."""

    @property
    def factor(self) -> float:
        """The multiple of the spec."""

    @property
    def pressure_kpa(self) -> float:
        """Air pressure [kPa]."""

    @property
    def capacity_ml(self) -> float | None:
        """Capacity of the step's vessel to the brim [mL]; None if it is unknown."""

    def value_of(self, figure: Range) -> float:
        """Returns the value of a process figure in this pass, in its own unit; one with a range is recorded as an uncertain input of the step."""

    def take_stream(self, name: str) -> VesselState | None:
        """Removes a by-product from the spec and returns it; None if there is none of this name."""

    def facts(self, material: str) -> MaterialFacts:
        """Returns the process figures of a material."""
