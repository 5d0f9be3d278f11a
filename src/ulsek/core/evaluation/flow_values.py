"""Values of a mass flow: its inputs, what each step did, and the state of the vessels between steps."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..materials.material import Material
from ..materials.vessel_state import GAS, MELT, SURPLUS, Outcome, OutgoingStream, VesselState
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..properties.water import ATMOSPHERE_KPA
from ..spec import spec as s


@dataclass(frozen=True, slots=True)
class LineAddition:
    """What a line, or a step by itself, added to a vessel: its material and mass [g]."""

    line: str
    material: str
    mass_g: float
    contents: Contents

    @property
    def own(self) -> bool:
        """True if it came from a by-product or vessel of this spec, from the air or from ice, and not from Stores."""
        return self.material.startswith((BY_PRODUCT, VESSEL)) or self.by_itself

    @property
    def by_itself(self) -> bool:
        """True if the step added it without a line: gas, melted ice, or the surplus of a weighed vessel."""
        return self.material in (GAS, MELT, SURPLUS)


@dataclass(frozen=True, slots=True)
class StepFlow:
    """One step: what went in and what left; the vessel with its lines in (`before`), and what the operation made of it (`after`).

    `vessel` is the vessel that holds the product after the step, in the state `state`. `ranges` are the process figures with a range that the operation used,
    `line_ranges` those of the amounts of its lines. Times are in minutes since the start of the spec.
    """

    step: s.Step
    added: tuple[LineAddition, ...]
    outgoing: tuple[OutgoingStream, ...]
    state: VesselState
    vessel: str
    before: VesselState
    after: Outcome
    ranges: tuple[Range, ...] = ()
    line_ranges: Mapping[str, tuple[Range, ...]] = field(default_factory=dict)
    begins_min: float = 0.0
    ends_min: float = 0.0

    @property
    def contents(self) -> Contents:
        """Contents of the vessel after the step [g by substance], solid pieces included."""
        return self.state.contents

    @property
    def temperature_c(self) -> float:
        """Temperature of the vessel after the step [°C]."""
        return self.state.temperature_c


@dataclass(frozen=True, slots=True)
class Snapshot:
    """Vessels, by-products and the masses of the lines that went in [g], between two steps."""

    vessels: Mapping[str, VesselState]
    streams: Mapping[str, VesselState]
    masses: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class Flow:
    """The steps that could be done, the vessels and unused by-products after them, and the refusal that stopped the flow, if any.

    `snapshots` hold the state before each step, so that another flow can begin there.
    """

    steps: tuple[StepFlow, ...]
    vessels: Mapping[str, VesselState]
    streams: Mapping[str, VesselState]
    refusal: Refusal | None = None
    snapshots: tuple[Snapshot, ...] = ()

    @property
    def masses(self) -> dict[str, float]:
        """Mass of each line that went in [g]."""
        return {added.line: added.mass_g for step in self.steps for added in step.added}


@dataclass(frozen=True, slots=True)
class AsMade:
    """How a batch of a spec was made so far: `factor` is the multiple of the spec.

    Masses in g: `actual_g` of lines already weighed, `spilled_g` lost after a step, `vessel_g` of a vessel as weighed after a step, which replaces its computed
    mass. Steps in `skipped` were not heated; lines in `by_volume` were counted or measured by volume.
    """

    factor: float = 1.0
    actual_g: Mapping[str, float] = field(default_factory=dict)
    spilled_g: Mapping[str, float] = field(default_factory=dict)
    vessel_g: Mapping[str, float] = field(default_factory=dict)
    skipped: frozenset[str] = frozenset()
    by_volume: frozenset[str] = frozenset()


AS_WRITTEN = AsMade()
"""One times the spec, of which nothing is made yet."""


@dataclass(frozen=True, slots=True)
class Inputs:
    """What a flow is computed from, besides the positions of its uncertain inputs.

    `held_g` [g] is the mass of lines that keep their computed mass while uncertain inputs move, `pressure_kpa` [kPa] the air pressure.
    """

    spec: s.Spec
    materials: Mapping[str, Material]
    made: AsMade = AS_WRITTEN
    held_g: Mapping[str, float] = field(default_factory=dict)
    pressure_kpa: float = ATMOSPHERE_KPA
