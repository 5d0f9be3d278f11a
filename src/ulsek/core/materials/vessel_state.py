"""Matter: what a vessel or a stream holds on its way through the steps, and what a step makes of it."""

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
    """Fruit, peel or spice that keeps its inside to itself until a step draws it out.

    `parts` are its zest, peel, juice, core, flesh in grams of each substance; `grams_in` its weight as it went in; `cut` how many times
    faster than whole it gives (1 whole, 2 cut, 4 crushed); `gain` what warming and rolling did to its juice.
    """

    material: str
    parts: Mapping[str, Contents]
    grams_in: float
    cut: float = 1.0
    gain: float = 1.0

    @property
    def contents(self) -> Contents:
        return total(self.parts.values())

    def scaled(self, share: float) -> Piece:
        return replace(self, parts={name: part.scaled(share) for name, part in self.parts.items()}, grams_in=self.grams_in * share)

    def without(self, names: Iterable[str]) -> Piece:
        gone = set(names)
        return replace(self, parts={name: part for name, part in self.parts.items() if name not in gone})

    def becoming(self, changed: Contents) -> Piece:
        """The same piece holding `changed` in all, shared among its parts by their old mass."""
        old = self.contents
        if old.mass_g <= 0:
            return self
        left = {name: part.mass_g / old.mass_g for name, part in self.parts.items()}
        return replace(self, parts={name: changed.scaled(share) for name, share in left.items()})


def total(many: Iterable[Contents]) -> Contents:
    """All of them in one."""
    found = NOTHING
    for one in many:
        found = found + one
    return found


def summed(one: Mapping[str, float], other: Mapping[str, float]) -> Mapping[str, float]:
    """Grams by material of both together."""
    return {key: one.get(key, 0.0) + other.get(key, 0.0) for key in {**one, **other}} if other else one


@dataclass(frozen=True, slots=True)
class VesselState:
    """Liquid with what floats in it (`liquid`, and `solids_g`: plant matter in it by material, grams as they went in), pieces, temperature,
    and its own clock: minutes on the spec's clock when it was last touched, and since when each thing that browns has stood open. `pulp_g` is the part
    of `solids_g` that was pieces and fell apart or was blended: pulp drains otherwise than leaves do."""

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
        """Everything that is in there, pieces too."""
        return self.liquid if not self.pieces else self.liquid + total(piece.contents for piece in self.pieces)

    @property
    def mass_g(self) -> float:
        return self.liquid.mass_g + math.fsum(piece.contents.mass_g for piece in self.pieces) if self.pieces else self.liquid.mass_g

    @property
    def pieces_ml(self) -> float:
        """Volume of the pieces [mL]: Σ mass × specific volume, without the gaps between them. 1000 g of fruit: about 960 mL. Source: `substances`."""
        contents = [piece.contents for piece in self.pieces]
        return sum(volume_ml(one) + one.of("insolubles") * SUBSTANCES["insolubles"].volume_ml_g for one in contents)

    def at(self, clock_min: float, open_since_min: Mapping[str, float]) -> VesselState:
        """The same at another moment. Built by hand: this runs at every step of every pass."""
        return VesselState(
            self.liquid, self.solids_g, self.pieces, self.temperature_c, clock_min, open_since_min, self.hottest_c, self.pulp_g
        )

    def with_added(self, contents: Contents, material: str, grams: float) -> VesselState:
        """With `grams` of a plain material from the shelf (20 °C) stirred in. Built by hand: this runs at every line of every pass."""
        mine = self.mass_g
        solids = self.solids_g
        if contents.grams.get("insolubles"):
            solids = {**solids, material: solids.get(material, 0.0) + grams}
        warmth = (self.temperature_c * mine + SHELF_C * grams) / (mine + grams) if mine + grams > 0 else self.temperature_c
        hottest = self.hottest_c if mine else SHELF_C
        return VesselState(self.liquid + contents, solids, self.pieces, warmth, self.clock_min, self.open_since_min, hottest, self.pulp_g)

    def scaled(self, share: float) -> VesselState:
        """The same, `share` times as much."""
        return replace(
            self,
            liquid=self.liquid.scaled(share),
            solids_g={key: grams * share for key, grams in self.solids_g.items()},
            pulp_g={key: grams * share for key, grams in self.pulp_g.items()},
            pieces=tuple(piece.scaled(share) for piece in self.pieces),
        )

    def with_liquid(self, liquid: Contents) -> VesselState:
        return replace(self, liquid=liquid)

    def joined(self, other: VesselState) -> VesselState:
        """Both in one vessel: this one's place and clock, the mixing temperature by mass, what browns keeping its own start."""
        mine, theirs = self.mass_g, other.mass_g
        warmth = (self.temperature_c * mine + other.temperature_c * theirs) / (mine + theirs) if mine + theirs > 0 else self.temperature_c
        opened = {**other.open_since_min, **self.open_since_min}
        return VesselState(
            self.liquid + other.liquid,
            summed(self.solids_g, other.solids_g),
            self.pieces + other.pieces,
            warmth,
            max(self.clock_min, other.clock_min),
            opened,
            self.hottest_c if mine else other.hottest_c,
            summed(self.pulp_g, other.pulp_g),
        )


@dataclass(frozen=True, slots=True)
class OutgoingStream:
    """A stream that left: steam, strained solids, peel, ice, a spill; `kept` when it is a by-product and no loss."""

    name: str
    kind: str
    state: VesselState
    kept: bool = False

    @property
    def contents(self) -> Contents:
        return self.state.contents


def outgoing_stream(name: str, kind: str, contents: Contents, *, kept: bool = False) -> OutgoingStream:
    """A stream of plain contents."""
    return OutgoingStream(name, kind, VesselState(contents), kept)


@dataclass(frozen=True, slots=True)
class Outcome:
    """What a step makes of a vessel: the matter that stays (and goes on `into` another vessel when the step says so), what leaves, and
    what came in by itself: gas, or melted ice."""

    state: VesselState
    outgoing: tuple[OutgoingStream, ...] = ()
    gained: Contents = NOTHING
    gained_as: str = GAS


class MaterialFacts(Protocol):
    """What an operation may ask of a material."""

    @property
    def hold_g_g(self) -> Range | None: ...
    @property
    def drawn_g_g(self) -> Range | None: ...
    @property
    def draw_hours(self) -> Range | None: ...
    @property
    def softening(self) -> Softening | None: ...


class StepContext(Protocol):
    """What an operation may ask while it acts."""

    @property
    def factor(self) -> float:
        """How many times the spec this batch is."""

    @property
    def pressure_kpa(self) -> float:
        """The air's pressure where it is made [kPa]."""

    @property
    def capacity_ml(self) -> float | None:
        """What the step's vessel holds to the brim."""

    def of(self, doubtful: Range) -> float:
        """Where a process parameter stands in this pass; it counts as a doubt of this step."""

    def take_stream(self, name: str) -> VesselState | None:
        """Takes what is kept of a by-product out of the spec; None if nothing is kept under that name."""

    def facts(self, material: str) -> MaterialFacts:
        """A material's own process figures."""
