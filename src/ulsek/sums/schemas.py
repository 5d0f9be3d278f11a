"""What the quick sums take and answer."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from ulsek.team.schema import Schema


class AskOut(Schema):
    """One figure that a sum asks for."""

    name: str
    label: str
    unit: str
    usual: float | str | None
    allowed: list[str]
    material: bool
    text: bool
    optional: bool
    aside: bool
    lends: str
    words: str


class SumOut(Schema):
    name: str
    group: str
    about: str
    asks: list[AskOut]
    error: str


class SumIn(Schema):
    """Figures of a quick sum by name, as numbers or as typed."""

    figures: dict[str, float | str]


class AnswerFigure(Schema):
    name: str
    value: float
    unit: str
    low: float | None
    high: float | None


class PartOut(Schema):
    name: str
    amount: float
    unit: str
    kind: str


class SpotOut(Schema):
    name: str
    sugar: float
    acid: float


class AnswerOut(Schema):
    figures: list[AnswerFigure]
    formula: str
    source: str
    remarks: list[str]
    parts: list[PartOut]
    spots: list[SpotOut]
    step: dict[str, Any] | None


class RecentOut(Schema):
    name: str
    figures: dict[str, float | str]
    said: str
    at: datetime


class LiquidOut(Schema):
    """A bottle or a delivery, to fill a sum from."""

    code: str
    name: str
    figures: dict[str, float]
    left: float | None
    unit: str
