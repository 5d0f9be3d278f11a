"""Readings: what instruments showed and what somebody tasted."""

from __future__ import annotations

from dataclasses import dataclass

from ...base.figures import FIGURES, RUN_READINGS, TARE_G
from ...base.messages import message, template
from ...base.refusals import Refusal
from ..batch_record import BatchRecord, Taste
from ..event_parts import Choice, Flag, Nested, Number, Text, optional, required
from ..reading import Burette, Reading, ReadingTaken
from .event import Event

SENSES = ("taste", "look", "smell")
VERDICTS = ("right", "weak", "strong", "odd")


@dataclass(frozen=True, slots=True, kw_only=True)
class Read(Event):
    """The value is compared with the prediction; if it agrees, ranges narrow. With `step`, if that step is not done, it belongs to the watch of the step.

    A titration may bring its `burette` in place of `value`. A weight may be that of the vessel too: `tare_g` is taken off it.
    """

    kind = "read"

    property: str = required(Choice(about="the key of a figure", allowed=RUN_READINGS, unknown=template("“{value}” cannot be read")))
    value: float | None = optional(
        Number(
            about="in the unit of the figure",
            words=message("a number in the unit of what was read"),
            remedy=message("Read again, or check the unit"),
        )
    )
    burette: Burette | None = optional(Nested(about="of a titration", of=Burette, wrong=message("Only a titration has a burette")))
    tare_g: float | None = optional(
        Number(
            about="of a weight, and of nothing else: mass of the empty vessel that stands on the scale too [g]",
            low=TARE_G.low,
            high=TARE_G.high,
            words=TARE_G.words,
            remedy=message("Weigh it empty and dry"),
            code="out_of_bounds",
        )
    )
    checked: bool = optional(Flag(about="true if the pH meter was checked in its buffers"), False)
    step: str = optional(Text(about="the step during which it was read"), "")

    def check(self, where: str) -> None:
        low, high, words = FIGURES[self.property].readable
        if self.burette is not None and self.property != "acid_g_100ml":
            raise Refusal(message("Only a titration has a burette"), f"{where}/burette", code="unreadable")
        bounds = Number(low=low, high=high, words=words, remedy=message("Read again, or check the unit"), code="reading_out_of_range")
        bounds.read(self._net(), f"{where}/value")

    def _net(self) -> float | None:
        if self.burette is not None:
            return self.burette.acid_g_100ml
        tare = self.tare_g if self.property == "mass_g" else None
        return self.value - tare if self.value is not None and tare is not None else self.value

    def reading(self) -> Reading:
        """Returns the value that was read: computed from the burette if there is one, a mass without its vessel. Raises ValueError for one without a value,
        which its check refuses.
        """
        value = self._net()
        if value is None:
            raise ValueError("a reading without a value passed its check")
        return Reading(self.id, self.property, value, self.at, self.checked)

    def apply(self, record: BatchRecord) -> None:
        if self.step and record.step(self.step).id not in record.done:
            # Nothing is known yet of the finished vessel.
            record.watched[self.step] = (*record.watched.get(self.step, ()), self.reading())
            return
        record.readings.append(ReadingTaken(self.reading(), dict(record.actual_g), dict(record.done)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Tasted(Event):
    """A verdict on the vessel as it stands, answered with amounts: what brings it back, how much longer it takes."""

    kind = "tasted"

    step: str = required(Text(about="the step at hand"))
    sense: str = required(Choice(about="with what", allowed=SENSES))
    verdict: str = required(Choice(about="how it is", allowed=VERDICTS))
    share: float | None = optional(
        Number(
            about="by how much it is too weak or too strong, as a share",
            low=0.0,
            high=3.0,
            words=message("from none to three times too much"),
            remedy=message("Say it in tenths"),
            code="out_of_bounds",
        )
    )
    text: str = optional(Text(about="in their own words"), "")

    def apply(self, record: BatchRecord) -> None:
        record.tastes.append(Taste(self._tasted_step(record), self.sense, self.verdict, self.share or 0.0, self.text))

    def _tasted_step(self, record: BatchRecord) -> str:
        """Returns the step whose product was tasted: this one if all its lines are in, else the last one done in its vessel."""
        step = record.step(self.step)
        if step.id in record.done or all(line.id in record.actual_g for line in step.lines):
            return step.id
        before = [other.id for other in record.spec.steps if other.vessel == step.vessel and other.id in record.done]
        return before[-1] if before else step.id
