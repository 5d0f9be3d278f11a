"""Amounts: what went into a line, by scale, count, jug or dropper; what left the batch."""

from __future__ import annotations

from dataclasses import dataclass

from ...base.figures import DROP_SIZE_ML, MOST_G
from ...base.messages import Computed, Day, Given, message
from ...base.refusals import Refusal
from ...base.units import DROP_ML
from ...materials.material import Material
from ...spec import spec as s
from ..batch_record import SAME_G, BatchRecord, Weighing
from ..event_parts import Number, Text, optional, required
from .event import Event

MOST_COUNT = 1e5
"""Most pieces or drops of one line [count]."""
_LEAST = 1e-6
_NOT_WEIGHED = message("Measure it again, or weigh it")


def mass(about: str) -> Number:
    """Returns the part of a mass [g], which is weighed."""
    words, remedy = message("a weight is above 0 g and at most a tonne"), message("Weigh again, or skip the line")
    return Number(about=about, low=_LEAST, high=MOST_G, unit="g", words=words, remedy=remedy)


@dataclass(frozen=True, slots=True, kw_only=True)
class _LineAmount(Event):
    """What went into a line. Sets the mass of the line, and amounts that depend on it follow; a later event replaces it.

    An event of another device that does not name it in `replaces` and differs by more than `SAME_G` is shown as a conflict; the later one counts.
    """

    line: str = required(Text(about="the line that it went into"))
    planned_g: float | None = optional(Number(about="the mass that was shown as planned [g]", unit="g"))
    replaces: str = optional(Text(about="id of the event that it knowingly corrects"), "")

    def grams(self, record: BatchRecord, line: s.Line) -> float:
        """Returns the mass that went in [g]. Raises Refusal if the material is not described well enough to tell."""
        raise NotImplementedError

    def _material(self, record: BatchRecord, line: s.Line) -> Material:
        material = record.materials.get(line.material)
        if material is None:
            raise Refusal(
                message("“{material}” can only be weighed", material=line.material),
                "body/line",
                remedy=message("Weigh it"),
                code="unknown_reference",
            )
        return material

    def apply(self, record: BatchRecord) -> None:
        line = record.line(self.line)
        grams, before = self.grams(record, line), record.weighings.get(self.line)
        # Two devices that did not know of each other: people decide, the later event counts until then.
        if before and before.device != self.device and self.replaces != before.event and abs(grams - record.actual_g[self.line]) > SAME_G:
            record.conflicts.append(
                message(
                    "{material} was weighed twice: {before} by {before_by}, then {now} by {by}. The later one counts; take it back if it is the same pour.",
                    material=record.name(line),
                    before=Computed(record.actual_g[self.line], "g"),
                    before_by=before.by,
                    now=Computed(grams, "g"),
                    by=self.by,
                )
            )
        record.actual_g[self.line] = grams
        record.weighings[self.line] = Weighing(self.id, self.device, self.by, self.at, on_scale=isinstance(self, Weighed))
        self._compare_with_use_by(record, line)

    def _compare_with_use_by(self, record: BatchRecord, line: s.Line) -> None:
        """Records that the material went in after its last day. The day of the addition is that of the device."""
        material = record.materials.get(line.material)
        # Weighed again it may be another day, or another supply.
        record.past_use_by.pop(line.id, None)
        if material is not None and material.use_by and self.at[:10] > material.use_by:
            words = message(
                "{material} was to be used by {last}, and went in on {day}. Throw the batch away, or ask your lead.",
                material=material.name,
                last=Day(material.use_by),
                day=Day(self.at[:10]),
            )
            record.past_use_by[line.id] = (material.use_by, words)


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed(_LineAmount):
    """Sets the mass of the line; amounts that depend on it follow. A later one replaces it; one of another device that does not name it in `replaces`
    is shown as a conflict.
    """

    kind = "weighed"

    mass_g: float = required(mass("mass that went in [g]"))

    def grams(self, record: BatchRecord, line: s.Line) -> float:
        del record, line
        return self.mass_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Counted(_LineAmount):
    """Sets the mass of the line [g] to the count times the mass of one piece of the material; else as `weighed`."""

    kind = "counted"

    count: float = required(
        Number(about="pieces", low=_LEAST, high=MOST_COUNT, words=message("above 0 and at most 100 000"), remedy=_NOT_WEIGHED)
    )

    def grams(self, record: BatchRecord, line: s.Line) -> float:
        material = self._material(record, line)
        if material.piece_g is None:
            raise Refusal(
                message("Nobody has said what one {material} weighs", material=material.name.lower()),
                "body/line",
                remedy=message("Weigh it"),
                code="no_piece_weight",
            )
        grams = self.count * material.piece_g.value
        if grams > MOST_G:
            pieces = message("{count} pieces are too many", count=Given(self.count))
            raise Refusal(pieces, "body/count", message("at most a tonne of them"), message("Count again"), "out_of_bounds")
        return grams


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured(_LineAmount):
    """Sets the mass of the line [g] to the volume [mL] times the density of the material [g/mL]; else as `weighed`."""

    kind = "measured"

    volume_ml: float = required(
        Number(
            about="volume [mL]", low=_LEAST, high=MOST_G, unit="mL", words=message("above 0 mL and at most 1 000 L"), remedy=_NOT_WEIGHED
        )
    )

    def grams(self, record: BatchRecord, line: s.Line) -> float:
        return self.volume_ml * self._material(record, line).density_g_ml()


@dataclass(frozen=True, slots=True, kw_only=True)
class Dosed(_LineAmount):
    """Sets the mass of the line [g] to the drops times the volume of one [mL] times the density of the material [g/mL]; else as `weighed`."""

    kind = "dosed"

    drops: float = required(
        Number(
            about="drops",
            low=_LEAST,
            high=MOST_COUNT,
            words=message("above 0 and at most 100 000"),
            remedy=message("Count them again, or weigh it"),
        )
    )
    drop_ml: float | None = optional(
        Number(
            about=f"volume of one drop as the dropper was calibrated [mL], else {DROP_ML:g}",
            low=DROP_SIZE_ML.low,
            high=DROP_SIZE_ML.high,
            unit="mL",
            words=DROP_SIZE_ML.words,
            remedy=message("Weigh twenty drops and divide"),
            code="out_of_bounds",
        )
    )

    def grams(self, record: BatchRecord, line: s.Line) -> float:
        drop_ml = DROP_ML if self.drop_ml is None else self.drop_ml
        return self.drops * drop_ml * self._material(record, line).density_g_ml()


@dataclass(frozen=True, slots=True, kw_only=True)
class Spilled(Event):
    """The mass leaves the batch after the step, a share of everything in the vessel."""

    kind = "spilled"

    step: str = required(Text(about="the step after which it left"))
    mass_g: float = required(mass("mass that left [g]"))

    def apply(self, record: BatchRecord) -> None:
        step = record.step(self.step).id
        record.spilled_g[step] = record.spilled_g.get(step, 0.0) + self.mass_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Sampled(Event):
    """The sample leaves the batch after the step, as what is spilled does, and the notes of the batch say so."""

    kind = "sampled"

    step: str = required(Text(about="the step after which it was taken"))
    mass_g: float = required(mass("mass of the sample [g]"))

    def apply(self, record: BatchRecord) -> None:
        step = record.step(self.step)
        record.sampled[step.id] = record.sampled.get(step.id, 0.0) + self.mass_g
        record.spilled_g[step.id] = record.spilled_g.get(step.id, 0.0) + self.mass_g
        record.notes.append(
            message("A sample of {mass} was set aside after “{step}”.", mass=Computed(self.mass_g, "g"), step=record.title(step))
        )
