"""Demand for citrus: what juice, skin, fruit, a made thing or a batch of a spec takes."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..base.figures import MOST_G
from ..base.messages import Computed, Given, listed, message, verbatim
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
    """A kind of demand: its word, the unit of its amount, and True for juice that may be a day old."""

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
class CitrusDemand:
    """What a demand takes: the amount of each kind in its unit, its name, and the fruits that it may be cut from (empty: any)."""

    takes: dict[Kind, float]
    called: str
    fruits: tuple[str, ...]


def hours_until(hours: float, where: str) -> float:
    """Returns the time of a demand [h from now], 0 within `GRACE_H` of now. Raises Refusal, at `where`, for an earlier one."""
    # Somebody was typing while the minute passed.
    if hours < -GRACE_H:
        raise Refusal(message("That time is behind us"), where, remedy=message("Say by when from now on"), code="too_late")
    return max(0.0, hours)


def checked_amount(amount: float, where: str) -> float:
    """Returns an amount, in the unit of `WANTED`. Raises Refusal, at `where`, for 0 or less, and for more than `MOST_G`."""
    if not (math.isfinite(amount) and 0 < amount <= MOST_G):
        raise Refusal(
            message("How much is missing") if not amount else message("{amount} cannot be", amount=Given(amount)),
            where,
            message("more than nothing, at most {most}", most=Computed(MOST_G, decimals=0)),
            message("Write how much"),
            "missing" if not amount else "out_of_bounds",
        )
    return amount


def taken(what: str, fruits: Sequence[str], amount: float, times: float | None, where: str) -> CitrusDemand:
    """Returns what `amount` of a kind of demand takes, in the unit of `WANTED`; a stretched juice at `times` its volume (None: the usual).

    1 L of bergamot stretched four times: 250 mL of juice and its zest. Raises Refusal, under `where`, for an unknown kind, and for stretched juice without a
    fruit.
    """
    called = variety(fruits[0]).name.lower() if fruits else "citrus"
    if what in KINDS:
        return CitrusDemand({what: amount}, f"{called.capitalize()} {what}", tuple(fruits))
    if what == "oil_sugar":
        return CitrusDemand({"peel": amount}, f"Oil-sugar of {called}", tuple(fruits))
    if what == "stretched":
        if not fruits:
            raise Refusal(message("Which fruit is stretched is missing"), f"{where}/fruits", remedy=message("Choose one"), code="missing")
        by = USUAL_TIMES if times is None else times
        made = stretch(variety(fruits[0]), StretchInputs(amount / by, by))
        return CitrusDemand({"juice": amount / by, "zest": made.peel_g}, f"Stretched {called}", tuple(fruits[:1]))
    raise Refusal(
        message("“{what}” is nothing that is cut", what=what),
        f"{where}/what",
        verbatim(listed((item.what for item in WANTED), "or")),
        code="unknown_word",
    )


def demand_of_spec(flow: Flow, name: str, batches: float, where: str) -> CitrusDemand:
    """Returns the citrus that `batches` of a spec take, by its materials: <fruit>_juice, _zest and _peel, and whole fruit, counted by its usual mass.

    Raises Refusal, at `where`, for a spec without any.
    """
    takes: dict[Kind, float] = {}
    fruits: list[str] = []
    # By what the flow really takes in, so that ratios and targets are counted at their mass.
    for step in flow.steps:
        for added in step.added:
            if added.material in varieties():
                # Specs weigh whole fruit; a plan counts them.
                takes["whole"] = takes.get("whole", 0.0) + added.mass_g * batches / variety(added.material).piece_g.value
                fruits.append(added.material)
                continue
            # The keys of materials name the fruit and what was taken off it.
            fruit, _, kind = added.material.rpartition("_")
            if kind in _SKIN_AND_JUICE and fruit in varieties():
                # Specs are in grams; juice is planned in millilitres.
                each_g = variety(fruit).density if kind == "juice" else 1.0
                takes[kind] = takes.get(kind, 0.0) + added.mass_g * batches / each_g
                fruits.append(fruit)
    if not takes:
        raise Refusal(message("{spec} takes no citrus", spec=name), where, remedy=message("Choose another spec"), code="nothing_wanted")
    return CitrusDemand(takes, name, tuple(dict.fromkeys(fruits)))


def material_of(fruit: str, kind: Kind) -> str | None:
    """Returns the key of the material that a kind of a fruit is in specs; None for wheels and whole fruit."""
    return f"{fruit}_{kind}" if kind in _SKIN_AND_JUICE else None
