"""What may be wanted of citrus, and what each takes: juice, skin or fruit asked for as such, a made thing, or a batch of a spec."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..base.figures import MOST_G
from ..base.messages import Computed, Given, alone, listed, message
from ..base.refusals import Refusal
from ..evaluation.flow_values import Flow
from .cut_plan import KINDS, UNIT, Kind
from .fruit import varieties, variety
from .stretched_juice import USUAL_TIMES, StretchInputs, stretch

What = Literal["juice", "zest", "peel", "wheels", "whole", "stretched", "oil_sugar", "spec"]
GRACE_H = 0.25
"""A time so little past [h] still counts as now: somebody was typing. House experience."""
_SKIN_AND_JUICE: tuple[Kind, ...] = ("juice", "zest", "peel")
"""Kinds that a spec takes under a material of their own: “bergamot_zest”."""


@dataclass(frozen=True, slots=True)
class WantedKind:
    """One thing that may be wanted: its word, the unit of its amount, and whether it takes juice, so that the day before's may do."""

    what: What
    word: str
    unit: str
    may_be_day_old: bool


WANTED: tuple[WantedKind, ...] = (
    WantedKind("juice", "Juice", UNIT["juice"], True),
    WantedKind("zest", "Zest", UNIT["zest"], False),
    WantedKind("peel", "Peel", UNIT["peel"], False),
    WantedKind("oil_sugar", "Oil-sugar from peel", "g of peel", False),
    WantedKind("stretched", "Stretched juice", "mL in all", True),
    WantedKind("wheels", "Garnish wheels", UNIT["wheels"], False),
    WantedKind("whole", "Whole fruit", UNIT["whole"], False),
    WantedKind("spec", "A batch of a spec", "batches", True),
)
"""What a plan may be asked for, in the order in which it is offered."""


@dataclass(frozen=True, slots=True)
class Taken:
    """What a want takes: how much of each kind in its unit, what it is called, and the fruits that it may be cut from (none named: any)."""

    takes: dict[Kind, float]
    called: str
    fruits: tuple[str, ...]


def hours_until(hours: float, where: str) -> float:
    """Returns the time of a want [h from now], 0 for one within `GRACE_H` of now. Raises Refusal, at `where`, for one that is past."""
    if hours < -GRACE_H:
        raise Refusal(message("That time is behind us"), where, remedy=message("Say by when from now on"), code="too_late")
    return max(0.0, hours)


def checked_amount(amount: float, where: str) -> float:
    """Returns how much is wanted, in the unit of `WANTED`. Raises Refusal, at `where`, for nothing, less, and more than `MOST_G`."""
    if not (math.isfinite(amount) and 0 < amount <= MOST_G):
        raise Refusal(
            message("How much is missing") if not amount else message("{amount} cannot be", amount=Given(amount)),
            where,
            message("more than nothing, at most {most}", most=Computed(MOST_G, decimals=0)),
            message("Write how much"),
            "missing" if not amount else "out_of_bounds",
        )
    return amount


def taken(what: str, fruits: Sequence[str], amount: float, times: float | None, where: str) -> Taken:
    """Returns what `amount` of something takes, in the unit of `WANTED`; stretched juice to `times` its own, the usual without.

    1 L of bergamot stretched four times: 250 mL of juice and its zest. Raises Refusal, under `where`, for what is not cut, and for stretched juice of no fruit.
    """
    called = variety(fruits[0]).name.lower() if fruits else "citrus"
    if what in KINDS:
        return Taken({what: amount}, f"{called.capitalize()} {what}", tuple(fruits))
    if what == "oil_sugar":
        return Taken({"peel": amount}, f"Oil-sugar of {called}", tuple(fruits))
    if what == "stretched":
        if not fruits:
            raise Refusal(message("Which fruit is stretched is missing"), f"{where}/fruits", remedy=message("Choose one"), code="missing")
        by = USUAL_TIMES if times is None else times
        made = stretch(variety(fruits[0]), StretchInputs(amount / by, by))
        return Taken({"juice": amount / by, "zest": made.peel_g}, f"Stretched {called}", tuple(fruits[:1]))
    raise Refusal(
        message("“{what}” is nothing that is cut", what=what),
        f"{where}/what",
        alone(listed((item.what for item in WANTED), "or")),
        code="unknown_word",
    )


def taken_by_spec(plain: Flow, name: str, batches: float, where: str) -> Taken:
    """Returns the citrus that `batches` of a spec take, by its materials: <fruit>_juice, _zest and _peel, and whole fruit, counted by its usual weight.

    Raises Refusal, at `where`, for a spec without any.
    """
    takes: dict[Kind, float] = {}
    fruits: list[str] = []
    for flow in plain.steps:
        for added in flow.added:
            if added.material in varieties():
                takes["whole"] = takes.get("whole", 0.0) + added.mass_g * batches / variety(added.material).piece_g.value
                fruits.append(added.material)
                continue
            fruit, _, kind = added.material.rpartition("_")
            if kind in _SKIN_AND_JUICE and fruit in varieties():
                each_g = variety(fruit).density if kind == "juice" else 1.0
                takes[kind] = takes.get(kind, 0.0) + added.mass_g * batches / each_g
                fruits.append(fruit)
    if not takes:
        raise Refusal(message("{spec} takes no citrus", spec=name), where, remedy=message("Choose another spec"), code="nothing_wanted")
    return Taken(takes, name, tuple(dict.fromkeys(fruits)))


def material_of(fruit: str, kind: Kind) -> str | None:
    """Returns the key of the material that a kind of a fruit is in specs; None for wheels and whole fruit, which nothing else takes."""
    return f"{fruit}_{kind}" if kind in _SKIN_AND_JUICE else None
