"""Requests and answers about quick sums."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from ulsek.team.schema import Schema


class SumIn(Schema):
    """Figures of a quick sum by name, as numbers or as typed."""

    figures: dict[str, float | str]


@dataclass(frozen=True, slots=True, kw_only=True)
class RecentOut:
    """A sum that a person used: its inputs as given, and its answer as text."""

    name: str
    figures: Mapping[str, float | str]
    said: str
    at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class LiquidOut:
    """A lot or a delivery, to fill a sum from."""

    code: str
    name: str
    figures: Mapping[str, float]
    left: float | None
    unit: str
