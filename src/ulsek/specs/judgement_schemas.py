"""Requests for computations on a spec: ways, keeping, scale, cost, gear, parse, capture. Their answers are the core's."""

from __future__ import annotations

from decimal import Decimal
from typing import Any, Literal

from ninja import Field

from ulsek.core.advice.batch_scaling import HEAD_ROOM_PERCENT
from ulsek.core.base.units import Locale
from ulsek.core.evaluation.cost import CostAllocation
from ulsek.team.schema import Schema

from .schemas import SpecBody


class ParseIn(Schema):
    """A pasted recipe, and the locale of its cups."""

    text: str
    locale: Locale = "metric"


class ScaleIn(Schema):
    """A spec file and a batch size: one of the five."""

    spec: SpecBody
    volume_ml: float | None = None
    serves: float | None = None
    have_g: dict[str, float] = Field(default_factory=dict)
    vessel: str | None = None
    capacity_ml: float | None = None
    head_room_percent: float = HEAD_ROOM_PERCENT
    resolution_g: float | None = None
    jigger_ml: float | None = None
    factor: float | None = None


class CostIn(Schema):
    """A spec file, the cost of an hour of labour, the worth of by-products per kilogram."""

    spec: SpecBody
    labour_per_hour: Decimal = Decimal(0)
    worth_per_kg: dict[str, Decimal] = Field(default_factory=dict)
    split: CostAllocation = "credit"


class GearIn(Schema):
    """Spec files in the order in which they are made on the same equipment."""

    specs: list[SpecBody] = Field(max_length=20)


class AimIn(Schema):
    """One figure and its aim; `keep` needs no value."""

    property: str
    value: float | None = None
    tolerance: float = 0.0
    bound: Literal["is", "least", "most", "keep"] = "is"


class WaysIn(Schema):
    """A spec file, the aims of its product, and the materials to add; by default its own water, sugars and acids."""

    spec: SpecBody
    aims: list[AimIn] = Field(max_length=9)
    add: list[str] = Field(default_factory=list, max_length=12)


class HouseDateIn(Schema):
    """A house's own days for safety or quality."""

    of: str
    days: int
    name: str = ""
    reason: str = ""
    authority: str = ""


class HotFillIn(Schema):
    """A hot filling as it was done: the house's procedure, the temperature read [°C], how long it was held [min]."""

    procedure: str
    fill_c: float
    hold_min: float


class KeepIn(Schema):
    """A spec file, the evidence on its product, and the house's own dates."""

    spec: SpecBody
    read: dict[str, float] = Field(default_factory=dict)
    meter_checked: bool = False
    strength_by_label: bool = False
    frozen_c: float | None = None
    hot_fill: HotFillIn | None = None
    house: HouseDateIn | None = None


class CaptureIn(Schema):
    """Rows of weighings, in order."""

    name: str
    weighings: list[dict[str, Any]] = Field(max_length=200)
