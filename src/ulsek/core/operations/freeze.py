"""Freezing and thawing: head room for ice, hours by Plank's formula, and cells that ice bursts."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.messages import NOTHING, Computed, Given, Message, message, template
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.substances import SUGARS
from ..materials.vessel_state import Outcome, StepContext, VesselState
from ..properties.density import volume_ml
from ..properties.energy import hours_to_freeze, hours_to_thaw
from ..properties.water import freezing_c
from .extract import drawn_by_sugar
from .step import Step, celsius, minutes, number

ICE_GROWS = 1.09
"""Volume of ice against that of its water. Handbook: 0.9167 g/mL at 0 °C."""
_SURELY_SHORT = 0.7
"""Share of Plank's time below which a time is surely too short: the formula may be 30 % off. Source: `hours_to_freeze`."""


@dataclass(frozen=True, slots=True)
class Freeze(Step):
    """Frozen solid with head room: water grows by a tenth."""

    verb: ClassVar[str] = "freeze"
    title: ClassVar[Message] = template("Freeze to {to_c}, {minutes}")
    family: ClassVar[str] = "prepare"
    scaled_up: ClassVar[Message] = message("a thicker block freezes slower: use flat trays.")
    takes_lines: ClassVar[bool] = True
    usual_check: ClassVar[str] = "solid to the middle"
    to_c: float = celsius(-18.0, -40.0, -3.0)
    minutes: float = minutes(1200.0)
    thickness_mm: float = number(60.0, 5.0, 400.0, "mm", message("from 5 to 400 mm thick"))

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Nothing leaves; the temperature is `to_c`. Hours by Plank's formula are in the remarks. Raises Refusal for what does not freeze there."""
        if state.mass_g <= 0:
            raise Refusal(message("There is nothing in the vessel to freeze"), remedy=message("Put the liquid in first"), code="empty")
        # Sugar and acid do not grow; counted with the water they leave the room on the safe side.
        grows = ICE_GROWS * volume_ml(state.contents)
        if context.capacity_ml is not None and grows > context.capacity_ml:
            raise Refusal(
                message(
                    "{volume} mL grow to {grows} mL as ice",
                    volume=Computed(volume_ml(state.contents), decimals=0),
                    grows=Computed(grows, decimals=0),
                ),
                bound=message("the vessel holds {capacity} mL", capacity=Computed(context.capacity_ml, decimals=0)),
                remedy=message("Leave a tenth of head room"),
                code="no_head_room",
            )
        return Outcome(replace(state, temperature_c=self.to_c))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        if before.liquid.of("water") <= 0:
            return
        starts, hours = freezing_c(before.liquid), hours_to_freeze(before.liquid, self.thickness_mm, self.to_c)
        text_ = message(
            "First ice at {starts} °C; {thickness} mm take about {hours} to freeze through.",
            starts=Computed(starts, decimals=1),
            thickness=Given(self.thickness_mm),
            hours=Computed(hours, "h", 0),
        )
        yield self.remark(
            "freezes",
            "check" if self.minutes < 60.0 * hours * _SURELY_SHORT else "note",
            text_,
            message("Give it longer, or freeze it thinner") if self.minutes < 60.0 * hours * _SURELY_SHORT else NOTHING,
        )


@dataclass(frozen=True, slots=True)
class Thaw(Step):
    """Thawed in the cold, all of it kept; sugar that lies on fruit draws its juice meanwhile."""

    verb: ClassVar[str] = "thaw"
    title: ClassVar[Message] = template("Thaw {minutes} at {to_c}")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    to_c: float = celsius(4.0, -2.0, 25.0)
    minutes: float = minutes(720.0)
    softens: float = number(3.0, 1.0, 6.0, "times", message("from 1 to 6 times"))
    thickness_mm: float = number(60.0, 5.0, 400.0, "mm", message("from 5 to 400 mm thick"))

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Returns the vessel state at `to_c` [°C], with the liquid that sugar has drawn out of the pieces.

        Cells broken by ice release liquid `softens` times as fast. Source: house experience, `drawn_by_sugar`.
        """
        changed = replace(
            # Already cut fruit is not softened twice: the faster of both counts.
            state,
            temperature_c=self.to_c,
            pieces=tuple(replace(piece, cut=max(piece.cut, self.softens)) for piece in state.pieces),
        )
        sugared = changed.pieces and changed.liquid.total(SUGARS) > 0
        return Outcome(drawn_by_sugar(changed, context, self.minutes, max(0.0, self.to_c)) if sugared else changed)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        if before.liquid.of("water") <= 0 or self.to_c < 1.0:
            return
        hours = hours_to_thaw(before.liquid, self.thickness_mm, self.to_c)
        # Only a time below the error of the formula is surely too short.
        short = self.minutes < 60.0 * hours * _SURELY_SHORT
        words = message(
            "{thickness} mm take about {hours} to thaw in air at {to} °C.",
            thickness=Given(self.thickness_mm),
            hours=Computed(hours, "h", 0),
            to=Given(self.to_c),
        )
        yield self.remark(
            "thaws",
            "check" if short else "note",
            words,
            message("Give it longer, thaw in cold running water, or freeze it thinner") if short else NOTHING,
        )
