"""Concentration: freeze and drip, evaporation under vacuum."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.figures import quantity
from ..base.messages import Computed, Given, Message, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.vessel_state import Outcome, OutgoingStream, StepContext, VesselState, outgoing_stream
from ..properties import sugar
from ..properties.water import ice_share
from .steam import without
from .step import Step, celsius, minutes, number, prior


def drip_share(kept: float, k: float) -> float:
    """Returns the share R [0 to 1] of the solutes in the first `kept` [0 to 1] of the drip of a thaw: 1 − (1 − f)^k. 0.684 at f 0.25, k 4. Error 10 %. Source:
    house experience.
    """
    return 1.0 - math.pow(1.0 - kept, k)


def dripped(liquid: Contents, kept: float, k: float, block_c: float) -> tuple[Contents, Contents]:
    """Returns (drip, remaining ice) when the first `kept` [0 to 1] of the mass is caught from a block frozen at `block_c` [−30 to −3 °C].

    The drip holds R = 1 − (1 − f)^k of the solutes, and is never stronger than the liquid between the ice at `block_c` (freezing curve). A quarter of a 15 °Bx
    juice at k = 4 drips at 41 °Bx. Error 10 % of the strength. Raises Refusal for pure water and for a drip that would hold more water than there is. Sources:
    house experience; `ice_share`.
    """
    solution = liquid.solution
    water = solution.of("water")
    dissolved = solution.mass_g - water
    if dissolved <= 0 or water <= 0:
        raise Refusal(
            message("Only a liquid with something in it is made stronger by freezing"),
            remedy=message("Freeze juice, not water"),
            code="empty",
        )
    mass = kept * solution.mass_g
    # What is liquid at that temperature bounds the strength of the first drops.
    brine_water = water * (1.0 - ice_share(liquid, block_c))
    strongest = dissolved / (dissolved + brine_water)
    # Three bounds: the empirical drip, the liquid between the crystals, and what there is.
    solutes = min(drip_share(kept, k) * dissolved, strongest * mass, dissolved)
    share = solutes / dissolved
    drip = {key: grams * share for key, grams in solution.grams.items() if key != "water"}
    drip["water"] = mass - solutes
    if drip["water"] > water:
        raise Refusal(
            message("The drip would hold more water than there is"),
            bound=message("{water} g", water=Computed(water, decimals=0)),
            remedy=message("Keep less of it"),
            code="more_than_there_is",
        )
    caught = Contents(drip)
    return caught, without(liquid, caught)


_FIRST, _LAST = 0.02, 0.98
"""The first of a thaw that can be weighed, and the last before the ice itself."""


_STEEPNESS_OFF, _FLATTEST = 1.0, 1.5
"""Steepness differs by so much from block to block, and is never less than this: a drip that kept pace with the ice would not be one. House experience."""
_MOST_FRACTION = 0.9999
"""Largest fraction of its mass that evaporation stops at in a pass: at least a trace leaves. House judgement."""


def kept_for(liquid: Contents, want: float, k: float, block_c: float) -> float:
    """Returns the share [0.02 to 0.98] of a thaw to catch so that the drip together reads `want` [°Bx]: by bisection, because the drip becomes weaker as it
    runs.

    1000 g of 15 °Bx to 30 at k = 4: 0.456. Raises Refusal for a target at or below the liquid's own and for one above the first drops. Source: `dripped`.
    """
    have = sugar.brix(liquid)
    if want <= have:
        raise Refusal(
            message("{want} °Bx is behind it already", want=Given(want)),
            "want",
            message("it stands at {have}", have=Given(have, digits=3)),
            message("Dilute it instead"),
            "unreachable",
        )

    # The reading of all that was caught up to there, since it is one vessel that is read.
    def stands(kept: float) -> float:
        return sugar.brix(dripped(liquid, kept, k, block_c)[0])

    if stands(_FIRST) < want:
        raise Refusal(
            message("No drip stands at {want} °Bx", want=Given(want)),
            "want",
            message("at {block} °C the first of it reaches {stands}", block=Given(block_c), stands=Computed(stands(_FIRST), decimals=0)),
            message("Ask for less, or freeze the drip a second time"),
            "unreachable",
        )
    # The drip only ever becomes weaker, so more of it always reads lower.
    low, high = _FIRST, _LAST
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if stands(middle) > want else (low, middle)
    return (low + high) / 2.0


def kept_range(liquid: Contents, want: float, k: float, block_c: float) -> Range:
    """Returns `kept_for` with its range for a steepness one step lower and higher; if a flatter drip does not reach `want`, its low end is the first drops.
    Source: as `kept_for`.
    """
    value = kept_for(liquid, want, k, block_c)
    ends = [value]
    # Steepness differs with the shape of the block and the pace of the thaw, by about one either way.
    for other in (max(_FLATTEST, k - _STEEPNESS_OFF), k + _STEEPNESS_OFF):
        try:
            ends.append(kept_for(liquid, want, other, block_c))
        except Refusal:
            ends.append(_FIRST)
    return Range(value, min(ends), max(ends))


@dataclass(frozen=True, slots=True)
class FreezeDrip(Step):
    """Frozen solid, turned over and thawed: the first part of the drip is kept, pale ice remains."""

    verb: ClassVar[str] = "freeze_drip"
    title: ClassVar[Message] = template("Thaw upside down, keep the first {kept}")
    family: ClassVar[str] = "concentrate"
    scaled_up: ClassVar[Message] = message("a thicker block freezes and thaws slower: use flat trays.")
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 6.0
    usual_check: ClassVar[str] = "stop at the weight or the °Bx; the ice left is pale"
    tried: ClassVar[tuple[str, ...]] = ("kept",)
    kept: float = number(0.3, 0.02, 0.95, "of its weight", message("from 0.02 to 0.95 of its weight"))
    k: Range = prior(4.0, 3.0, 5.0, "steepness", 20.0)
    block_c: float = celsius(-18.0, -30.0, -3.0)
    minutes: float = minutes(480.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """The drip stays, ice leaves. Error 10 % of the strength until this house has measured `k`. Raises Refusal for a vessel with pieces, and as `dripped`
        does. Source: `dripped`.
        """
        if state.pieces:
            raise Refusal(message("Pieces hold the drip back"), remedy=message("Strain them out first"), code="pieces_in_filter")
        # A steepness below 1 would make the first drops weaker than the last ones.
        drip, ice = dripped(state.liquid, self.kept, max(1.0, context.value_of(self.k)), self.block_c)
        removed = OutgoingStream(
            self.by_product or "ice", "ice", VesselState(ice, dict(state.solids_g), (), 0.0, state.clock_min), bool(self.by_product)
        )
        return Outcome(replace(state, liquid=drip, solids_g={}, temperature_c=2.0), (removed,))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        # Pulp is left out on both sides: it neither freezes out nor counts to the °Bx.
        left = after.outgoing[0].contents
        solids = left.mass_g - left.of("water") - left.of("insolubles")
        whole = before.liquid.mass_g - before.liquid.of("water") - before.liquid.of("insolubles")
        yield self.remark(
            "left_in_ice",
            "note",
            message(
                "The ice keeps {solids} % of what was dissolved, at {brix}.",
                solids=Computed(100 * solids / whole, decimals=0),
                brix=quantity("brix", sugar.brix(left)),
            ),
            message("Melt it for a granita or as the water of the next syrup"),
        )
        if before.liquid.of("ethanol"):
            yield self.remark(
                "freezing_spirit",
                "check",
                message("Making spirit stronger by freezing is distilling in many places."),
                message("Ask your authority before you do"),
            )


@dataclass(frozen=True, slots=True)
class VacuumReduce(Step):
    """Evaporation at low pressure and temperature: concentrated without heat."""

    verb: ClassVar[str] = "vacuum_reduce"
    title: ClassVar[Message] = template("Evaporate under vacuum to {to_fraction}")
    family: ClassVar[str] = "concentrate"
    takes_lines: ClassVar[bool] = True
    usual_gear: ClassVar[tuple[str, ...]] = ("vacuum evaporator",)
    tried: ClassVar[tuple[str, ...]] = ("to_fraction",)
    to_fraction: float = number(0.5, 0.02, 0.999, "of its weight", message("from 0.02 to 0.999 of its weight"))
    temperature_c: float = celsius(45.0, 20.0, 70.0)
    minutes: float = minutes(120.0)
    stops_within: Range = prior(1.0, 0.98, 1.02, "of the weight it stops at", 2.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Water leaves until the mass is reached, after all of the alcohol. Raises Refusal for more than there is. Source: mass balance."""
        # The stop is uncertain in what stays, since that is what is weighed.
        ends = state.mass_g * min(_MOST_FRACTION, self.to_fraction * context.value_of(self.stops_within))
        lost = state.mass_g - ends
        # Alcohol is the more volatile: under vacuum it is gone before much of the water.
        spirit = min(state.liquid.of("ethanol"), lost)
        water = lost - spirit
        if water >= state.liquid.of("water"):
            raise Refusal(
                message("{lost} g cannot evaporate", lost=Computed(lost, decimals=0)),
                bound=message("the vessel holds {of} g of water", of=Computed(state.liquid.of("water"), decimals=0)),
                remedy=message("Stop earlier"),
                code="more_than_there_is",
            )
        removed = Contents({"water": water, "ethanol": spirit} if spirit else {"water": water})
        return Outcome(
            replace(state, liquid=without(state.liquid, removed), temperature_c=self.temperature_c),
            (outgoing_stream("distillate", "steam", removed, kept=bool(self.by_product)),),
        )

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        if before.liquid.of("ethanol"):
            yield self.remark(
                "distilling",
                "stop",
                message("Drawing spirit off under vacuum is distilling and needs a licence."),
                message("Leave the spirit out, or ask your authority"),
            )
        yield self.remark(
            "vacuum_glass",
            "check",
            message("Glass under vacuum can burst inwards."),
            message("Use glass made for it, look for scratches, stand behind a guard"),
        )
