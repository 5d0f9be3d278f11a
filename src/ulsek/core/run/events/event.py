"""What every event of a run has: who made it, on which device, when, and its place in the order."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Self

from ...base.messages import message
from ...base.refusals import Refusal
from ..batch_record import BatchRecord
from ..event_parts import OpenForm, Parts

MOST_COUNTED = 2**53 - 1
"""Largest counter: the largest whole number that JavaScript keeps exact."""
MOST_ID = 64
"""Letters of the longest id, device or time."""


def _is_counter(count: Any) -> bool:
    return isinstance(count, int) and not isinstance(count, bool) and 0 <= count <= MOST_COUNTED


@dataclass(frozen=True, slots=True, kw_only=True)
class Event(Parts):
    """One thing that happened: `id` made by the client; ordered by (`lamport`, `device`, `sequence`); `at` is ISO 8601 with offset.

    If the device's `clock` was "corrected", or the time "estimated", `said_at` is what the device said. `proof` says what shows that it was `by` that
    person: the "key" of their session, a "lead" who accepted it, or nothing. Each kind declares the parts of its body as fields.
    """

    moves_supplies: ClassVar[bool] = False
    """True if the run may take from another delivery or lot after it than before."""

    id: str
    at: str
    lamport: int
    device: str
    sequence: int
    by: str = ""
    said_at: str = ""
    clock: str = ""
    proof: str = ""

    @classmethod
    def read(cls, data: Mapping[str, Any], *, stored: bool = False) -> Self:
        """Returns the event from its open form, whose `kind` is this class's. `stored` as in `Parts.read_parts`.

        Raises Refusal for a missing or unreadable id, time, device, counter or part, placed at it.
        """
        body = data.get("body") or {}
        if not isinstance(body, dict):
            raise Refusal(message("The body must be an object"), "body", code="unreadable")
        for name in ("id", "device", "at"):
            if not isinstance(data.get(name), str) or not 0 < len(data[name]) <= MOST_ID:
                raise Refusal(message("An event needs its {name}", name=name), name, code="missing")
        if not (_is_counter(data.get("lamport")) and _is_counter(data.get("sequence"))):
            raise Refusal(
                message("An event needs its counters lamport and sequence"), "lamport", message("whole numbers from 0"), code="missing"
            )
        event = cls(
            id=data["id"],
            at=data["at"],
            lamport=data["lamport"],
            device=data["device"],
            sequence=data["sequence"],
            by=str(data.get("by") or ""),
            said_at=str(data.get("said_at") or ""),
            clock=str(data.get("clock") or ""),
            proof=str(data.get("proof") or ""),
            **cls.read_parts(body, "body", stored=stored),
        )
        event.check("body")
        return event

    @property
    def order(self) -> tuple[int, str, int]:
        """The key by which events count, in ascending order."""
        return (self.lamport, self.device, self.sequence)

    def apply(self, record: BatchRecord) -> None:
        """Changes the record. Raises Refusal for a step, line or material that the batch does not have."""

    def brings(self) -> frozenset[str]:
        """Returns the keys of materials that may come into the run with it, besides those of its spec."""
        return frozenset()

    def as_data(self) -> OpenForm:
        """Returns its open form, with who made it and what was found of its time."""
        return {
            "id": self.id,
            "kind": self.kind,
            "at": self.at,
            "lamport": self.lamport,
            "device": self.device,
            "sequence": self.sequence,
            "by": self.by,
            "body": self.written_parts(),
            "said_at": self.said_at,
            "clock": self.clock,
            "proof": self.proof,
        }
