"""Readings: what an instrument showed of a vessel during a run, and how it was measured."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..base.figures import FIGURES
from ..base.messages import message
from ..properties.acidity import acid_from_burette
from .event_parts import Number, Parts, required

_AGAIN = message("Read the burette again")


@dataclass(frozen=True, slots=True, kw_only=True)
class Burette(Parts):
    """A titration as the burette shows it; the acid is computed from it."""

    kind = "burette"

    naoh_ml: float = required(
        Number(
            about="base that went in [mL]",
            low=FIGURES["naoh_ml"].readable.low,
            high=FIGURES["naoh_ml"].readable.high,
            words=FIGURES["naoh_ml"].readable.words,
            remedy=_AGAIN,
            code="out_of_bounds",
        )
    )
    sample_ml: float = required(
        Number(about="sample [mL]", low=0.1, high=1000.0, words=message("from 0.1 mL to 1 L"), remedy=_AGAIN, code="out_of_bounds")
    )
    normality: float = required(
        Number(
            about="strength of the base [mol/L]",
            low=0.001,
            high=10.0,
            words=message("from 0.001 to 10 mol/L"),
            remedy=_AGAIN,
            code="out_of_bounds",
        )
    )

    @property
    def acid_g_100ml(self) -> float:
        """Titratable acid as citric [g/100 mL]. Source: `acidity.acid_from_burette`."""
        return acid_from_burette(self.naoh_ml, self.sample_ml, self.normality)


@dataclass(frozen=True, slots=True)
class Reading:
    """A value of a property, in its unit, read at `at` [ISO 8601 with offset]; `event` is the id of the event that holds it.

    `checked` says that a pH meter was checked in its buffers.
    """

    event: str
    property: str
    value: float
    at: str
    checked: bool = False


@dataclass(frozen=True, slots=True)
class ReadingTaken:
    """A reading with the state of the batch at that moment: the mass in of each line [g], and when each step was done."""

    reading: Reading
    actual_g: Mapping[str, float]
    done: Mapping[str, str]
