"""Repairs: what was decided about additions that would bring the batch back to its goals."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...base.messages import NOTHING, grams, listed, message, verbatim
from ...spec.sentences import inside_name
from ..batch_record import BatchRecord
from ..event_parts import ListOf, Nested, Text, required
from ..repair import NOTHING_ADDED, Repair, RepairAddition
from ..spec_as_made import with_repair
from .event import Event

_REPAIR = Text(about="the id of the repair that was offered")


@dataclass(frozen=True, slots=True, kw_only=True)
class RepairPutOff(Event):
    """The offer waits."""

    kind = "repair_put_off"

    repair: str = required(_REPAIR)

    def apply(self, record: BatchRecord) -> None:
        record.repairs[self.repair] = "put off"


@dataclass(frozen=True, slots=True, kw_only=True)
class RepairRefused(Event):
    """The offer is not made again."""

    kind = "repair_refused"

    repair: str = required(_REPAIR)

    def apply(self, record: BatchRecord) -> None:
        record.repairs[self.repair] = "refused"


@dataclass(frozen=True, slots=True, kw_only=True)
class RepairTaken(Event):
    """The additions become a step before cooling and bottling. They are not scaled with the batch."""

    kind = "repair_taken"
    moves_supplies = True

    repair: str = required(_REPAIR)
    additions: tuple[RepairAddition, ...] = required(
        ListOf(
            about="as they were offered", item=Nested(of=RepairAddition, wrong=NOTHING_ADDED), wrong=NOTHING_ADDED, missing=NOTHING_ADDED
        )
    )

    def apply(self, record: BatchRecord) -> None:
        record.spec = with_repair(record.spec, self.repair, self.additions, record.done, record.materials)
        # An older event holds no names: they are those of the materials of the run.
        additions = tuple(replace(item, name=item.name or record.materials[item.material].name) for item in self.additions)
        words = listed(
            message("+\u00a0{mass} {material}", mass=grams(item.mass_g), material=inside_name(item.material, record.materials))
            for item in additions
        )
        record.repairs_taken.append(Repair(self.repair, "taken", additions, verbatim(words), NOTHING))
