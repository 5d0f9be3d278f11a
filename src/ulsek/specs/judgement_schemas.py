"""What the judgements take: ways, keeping, scale, cost, gear, parse, capture. What they answer is the core's."""

from __future__ import annotations

from decimal import Decimal
from typing import Any, Literal

from ninja import Field

from ulsek.core.advice.batch_scaling import HEAD_ROOM_PERCENT
from ulsek.core.base.units import Locale
from ulsek.core.evaluation.cost import CostAllocation
from ulsek.team.schema import Schema


class ParseIn(Schema):
    """A recipe as it was pasted, and whose cups it means."""

    text: str
    locale: Locale = "metric"


class ScaleIn(Schema):
    """A spec file and what it is scaled to: one of the five."""

    spec: dict[str, Any]
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
    """A spec file, what an hour of hands costs, what the by-products that are kept are worth per kilogram."""

    spec: dict[str, Any]
    labour_per_hour: Decimal = Decimal(0)
    worth_per_kg: dict[str, Decimal] = Field(default_factory=dict)
    split: CostAllocation = "credit"


class GearIn(Schema):
    """Spec files in the order in which they are made on the same gear."""

    specs: list[dict[str, Any]] = Field(max_length=20)


class AimIn(Schema):
    """One figure and where it should come; `keep` needs no value."""

    property: str
    value: float | None = None
    tolerance: float = 0.0
    bound: Literal["is", "least", "most", "keep"] = "is"


class WaysIn(Schema):
    """A spec file, what its product should read, and what may be added; nothing named: its own water, sugars and acids."""

    spec: dict[str, Any]
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
    """A hot filling as it was done: the house's procedure, what was read [°C], how long it was held [min]."""

    procedure: str
    fill_c: float
    hold_min: float


class KeepIn(Schema):
    """A spec file, what was shown of its product, and what the house says."""

    spec: dict[str, Any]
    read: dict[str, float] = Field(default_factory=dict)
    meter_checked: bool = False
    strength_by_label: bool = False
    frozen_c: float | None = None
    hot_fill: HotFillIn | None = None
    house: HouseDateIn | None = None


class CaptureIn(Schema):
    """What was put on the scale, in order."""

    name: str
    weighings: list[dict[str, Any]] = Field(max_length=200)
