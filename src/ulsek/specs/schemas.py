"""What specs and the workbench send and take. The spec file itself is described by its JSON Schema in ``docs/formats``."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from ulsek.team.schema import Schema

from .evaluation_schemas import WorkbenchOut


class Pin(Schema):
    name: str
    sugar: float
    acid: float


class SideDraftOut(Schema):
    """A draft that lost a conflict and is kept beside."""

    id: int
    name: str
    saved_at: datetime


class DraftOut(Schema):
    spec: UUID
    revision: int
    saved_at: datetime
    saved_by: str
    version: int | None
    state: str
    trial_of: str
    base: str
    asks_questions: bool
    body: dict[str, Any]
    beside: list[SideDraftOut]
    result: WorkbenchOut
    pins: list[Pin]


class SavedOut(Schema):
    revision: int
    beside: list[SideDraftOut]
    saved_at: datetime
    result: WorkbenchOut


class SavedDraft(Schema):
    spec: UUID
    revision: int


class Publish(Schema):
    revision: int
    why: str
    critical: bool = False


class EvaluateIn(Schema):
    spec: dict[str, Any]


class SaveIn(Schema):
    """A draft as typed, and the browser tab that typed it."""

    spec: dict[str, Any]
    writer: str = ""


class FlagIn(Schema):
    """Where the flag stands on the plate."""

    spec: dict[str, Any]
    sugar_g_100ml: float
    acid_g_100ml: float


class AdditionOut(Schema):
    material: str
    name: str
    mass_g: float


class FlagOut(Schema):
    additions: list[AdditionOut]
    words: str
    brix: float
    acid_g_100ml: float
    sugar_g_100ml: float
    volume_ml: float


class TakeIn(Schema):
    spec: dict[str, Any]
    material: str
    mass_g: float


class TakeOut(Schema):
    spec: dict[str, Any]


class WorkingIn(Schema):
    spec: dict[str, Any]
    step: str
    name: str


class WorkingLine(Schema):
    name: str
    value: str
    unit: str


class WorkingOut(Schema):
    name: str
    value: str
    spread: str
    formula: str
    inputs: list[WorkingLine]
    source: str
    doubt: str
