"""The batch as a whole: started, handed over, noted, taken back, finished."""

from __future__ import annotations

from dataclasses import dataclass

from ...base.figures import MOST_G
from ...base.messages import Message, message, verbatim
from ...base.refusals import Refusal
from ..batch_record import BatchRecord
from ..event_parts import Choice, Flag, Ids, ListOf, Nested, Number, Parts, Text, optional, required
from .event import Event

MOST_TIMES = 10000.0
"""Largest batch, in times the spec."""
MOST_PLACE = 60
"""Letters of the longest place."""
_UNDECIDED = message("A by-product becomes a lot or goes into the bin")


@dataclass(frozen=True, slots=True, kw_only=True)
class Started(Event):
    """The batch is `factor` times the spec until its driving line is weighed. A second one changes nothing."""

    kind = "started"

    factor: float | None = optional(
        Number(
            about="times the spec, else 1",
            low=1e-6,
            high=MOST_TIMES,
            words=message("above 0 and at most 10 000 times the spec"),
            remedy=message("Start a smaller batch"),
            code="out_of_bounds",
        )
    )
    mass_g: float | None = optional(Number(about="mass of the product that was asked for [g]", unit="g"))
    volume_ml: float | None = optional(Number(about="volume of the product that was asked for [mL]", unit="mL"))

    def apply(self, record: BatchRecord) -> None:
        if record.started_factor is None:
            record.started_factor = self.factor or 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class HandedOver(Event):
    """Records who goes on with the batch."""

    kind = "handed_over"

    to: str = required(Text(about="who goes on"))

    def apply(self, record: BatchRecord) -> None:
        record.handed_to.append(self.to)


@dataclass(frozen=True, slots=True, kw_only=True)
class Noted(Event):
    """Adds the text to the notes of the batch."""

    kind = "noted"

    text: str = required(Text(about="in their own words"))

    def apply(self, record: BatchRecord) -> None:
        record.notes.append(verbatim(self.text))


@dataclass(frozen=True, slots=True, kw_only=True)
class Undone(Event):
    """Takes back the event: it does not count any more. Can be taken back itself; then the event counts again."""

    kind = "undone"
    moves_supplies = True

    of: str = required(Text(about="id of the event"))


def _amount(about: str, unit: str, most: Message, remedy: Message) -> Number:
    return Number(
        about=about,
        low=1e-6,
        high=MOST_G,
        unit=unit,
        words=message("above 0 {unit} and at most {most}", unit=unit, most=most),
        remedy=remedy,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftoverDecision(Parts):
    """The decision about one by-product or one rest in a vessel at the finish."""

    kind = "by-product"

    name: str = required(Text(about="of the by-product, or of the rest in a vessel"))
    key: str = optional(Text(about="of what is left over, as the batch lists it, else it is found by its name"), "")
    to: str = required(Choice(allowed=("lot", "bin"), missing=_UNDECIDED, about="where it goes"))
    mass_g: float | None = optional(_amount("as weighed [g], else as predicted", "g", message("a tonne"), message("Weigh it again")))
    reason: str = optional(Text(about="why it goes into the bin"), "")
    rest: str = optional(Text(about="where the rest is, if the mass is far from the prediction"), "")
    place: str = optional(Text(about="where the lot stands, else where the product stands", most=MOST_PLACE), "")

    def check(self, where: str) -> None:
        if self.to == "bin" and not self.reason.strip():
            raise Refusal(
                message("{name} goes into the bin without a reason", name=self.name),
                f"{where}/reason",
                remedy=message("Say why in a few words"),
                code="missing",
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class Finished(Event):
    """The batch becomes lots, with what was taken out of stock. Later events are kept as late and do not count."""

    kind = "finished"

    volume_ml: float | None = optional(
        _amount("of the product as read [mL], else as predicted", "mL", message("1 000 L"), message("Read the bottles again"))
    )
    place: str = optional(Text(about="where the product stands", most=MOST_PLACE), "")
    signed: bool = optional(Flag(about="true if it goes on the shelf though it is outside its spec"), False)
    by_products: tuple[LeftoverDecision, ...] = optional(
        ListOf(
            about="what becomes of each by-product and each rest in a vessel",
            item=Nested(of=LeftoverDecision, wrong=_UNDECIDED),
            wrong=message("By-products must be a list"),
        ),
        (),
    )
    containers: tuple[int, ...] = optional(
        Ids(about="ids of the containers that it was filled into", wrong=message("Containers must be a list, each once")), ()
    )
    rest: str = optional(Text(about="where the rest is, if the volume is far from the prediction"), "")

    def apply(self, record: BatchRecord) -> None:
        record.status, record.bottled_ml = "finished", self.volume_ml
