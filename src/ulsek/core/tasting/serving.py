"""What is in the glass: doses of equal sugar, acid or volume in one drink, what differs all the same, and the spirit that a taster is poured."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..base.figures import FIGURES
from ..base.messages import Computed, Given, Message, message, percent
from ..base.refusals import Refusal
from .design import PanelDesign, SheetPage, pages_of

Equal = Literal["volume", "sugar", "acid"]
LEAST_POUR_ML, MOST_POUR_ML = 0.5, 250.0
NOTICEABLE = 0.1
"""Relative difference of sugar or acid that many notice side by side: about one just noticeable step. Source: Weber fractions of sucrose and citric acid, Schutz and Pilgrim 1957."""


@dataclass(frozen=True, slots=True)
class SampleContents:
    """What is in a sample [g per 100 mL; % v/v]; None where nobody knows."""

    name: str
    sugar_g_100ml: float | None = None
    acid_g_100ml: float | None = None
    abv: float | None = None


CONTENTS = ("sugar_g_100ml", "acid_g_100ml", "abv")
"""Keys of the figures that a sample's contents hold."""


def check_contents(contents: Mapping[str, float | None], where: str) -> None:
    """Raises Refusal, at its place, for contents that no liquid has; None (unknown) passes."""
    for key, value in contents.items():
        limits = FIGURES[key].limits
        most = limits[1] if limits else math.inf
        if value is not None and not 0.0 <= value <= most:
            raise Refusal(
                message("{value} cannot be", value=Given(value, FIGURES[key].unit)),
                f"{where}/{key}",
                message("0 to {most}", most=Given(most, FIGURES[key].unit)),
                message("Read it again, or leave it out"),
                "out_of_bounds",
            )


@dataclass(frozen=True, slots=True)
class SampleDose:
    """How much of a sample goes into one drink [mL], and what differs from the first sample's drink all the same."""

    name: str
    ml: float
    differs: tuple[Message, ...]


@dataclass(frozen=True, slots=True)
class Serving:
    """Samples as they are (`drink` is empty), or each in a drink with `drink_ml` [mL] of the rest at `drink_abv` [% v/v], dosed for equal volume, sugar or acid with the first
    sample's dose of `pour_ml` [mL].
    """

    drink: str = ""
    equal: Equal = "volume"
    pour_ml: float = 20.0
    drink_ml: float = 0.0
    drink_abv: float = 0.0


_OF: Mapping[Equal, Message] = {"sugar": message("sugar"), "acid": message("acid"), "volume": message("volume")}


def _amount(sample: SampleContents, equal: Equal) -> float:
    """Returns what a millilitre of a sample brings of what is to be equal [g or mL]. Raises Refusal if nobody knows, or if it is nothing."""
    found = 1.0 if equal == "volume" else sample.sugar_g_100ml if equal == "sugar" else sample.acid_g_100ml
    if not found:
        raise Refusal(
            message("The {what} of {name} is not known, or there is none", what=_OF[equal], name=sample.name),
            "equal",
            remedy=message("Read it, or dose by volume"),
            code="missing",
        )
    return found


def pours(samples: Sequence[SampleContents], serving: Serving) -> tuple[SampleDose, ...]:
    """Returns the dose of each sample, by the first one's. Raises Refusal for a dose that cannot be poured, and for contents that nobody knows."""
    doses = []
    for sample in samples:
        ml = serving.pour_ml * _amount(samples[0], serving.equal) / _amount(sample, serving.equal)
        if not LEAST_POUR_ML <= ml <= MOST_POUR_ML:
            raise Refusal(
                message("{ml} of {name} cannot be poured", ml=Computed(ml, "mL", 1), name=sample.name),
                "pour_ml",
                message("{least} to {most}", least=Given(LEAST_POUR_ML, "mL"), most=Given(MOST_POUR_ML, "mL")),
                message("Choose another dose"),
                "out_of_bounds",
            )
        doses.append(ml)
    return tuple(SampleDose(sample.name, ml, _differs(samples[0], doses[0], sample, ml)) for sample, ml in zip(samples, doses, strict=True))


def _differs(first: SampleContents, first_ml: float, sample: SampleContents, ml: float) -> tuple[Message, ...]:
    """Returns what of sugar, acid, alcohol and volume differs by a noticeable step from the first sample's drink; and what nobody knows."""
    told: list[Message] = []
    for what, one, other in (
        (message("sugar"), first.sugar_g_100ml, sample.sugar_g_100ml),
        (message("acid"), first.acid_g_100ml, sample.acid_g_100ml),
        (message("alcohol"), first.abv, sample.abv),
        (message("volume"), 100.0, 100.0),
    ):
        if one is None or other is None:
            told.append(message("{what} is not known", what=what))
            continue
        here, there = ml * other, first_ml * one
        if max(here, there) > 0.0 and abs(here - there) > NOTICEABLE * max(here, there):
            if there == 0.0 or here == 0.0:
                told.append(message("{what} in one of them only", what=what))
            else:
                more = here / there - 1.0
                share = percent(abs(more))
                told.append(
                    message("{share} more {what}", share=share, what=what)
                    if more > 0
                    else message("{share} less {what}", share=share, what=what)
                )
    return tuple(told)


def alcohol_ml(design: PanelDesign, samples: Sequence[SampleContents], serving: Serving, seed: str) -> float:
    """Returns the pure alcohol [mL] in everything that one taster is poured, of the one who is poured most. A strength that nobody knows counts as none."""
    strengths = [sample.abv or 0.0 for sample in samples]
    if serving.drink:
        strengths = [
            (pour.ml * strength + serving.drink_ml * serving.drink_abv) / (pour.ml + serving.drink_ml)
            for pour, strength in zip(pours(samples, serving), strengths, strict=True)
        ]
    poured: dict[int, float] = {}
    for page in pages_of(design, seed):
        if page.asks != "attributes":
            poured[page.seat] = poured.get(page.seat, 0.0) + _alcohol(page, design.glass_ml, strengths)
    return max(poured.values(), default=0.0)


def _alcohol(page: SheetPage, glass_ml: float, strengths: Sequence[float]) -> float:
    return sum(glass_ml * strengths[sample] / 100.0 for sample in page.samples)


def poured_words(design: PanelDesign, alcohol: float) -> Message:
    """Returns what one taster is poured in all."""
    whole = Computed(design.glasses_each * design.glass_ml, "mL", 0)
    if alcohol < NOTICEABLE:
        return message("Each taster is poured {n} glasses, {ml} in all.", n=design.glasses_each, ml=whole)
    return message(
        "Each taster is poured {n} glasses, {ml} in all, {alcohol} of it pure alcohol: have a spittoon ready.",
        n=design.glasses_each,
        ml=whole,
        alcohol=Computed(alcohol, "mL", 1),
    )
