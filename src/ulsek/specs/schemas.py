"""Requests and answers about specs and the workbench. The spec file itself is described by its JSON Schema in ``docs/formats``."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import Field

from ulsek.core.base.answer import DescribedAs, OpenForm
from ulsek.core.workbench.answer import Workbench
from ulsek.team.schema import Schema

SpecBody = dict[str, Any]
"""A spec file as it is sent. The core reads it, and refuses what it cannot use at its place."""


@dataclass(frozen=True, slots=True)
class Pin:
    """The point of another spec on the plate [g/100 mL]."""

    name: str
    sugar: float
    acid: float


@dataclass(frozen=True, slots=True)
class SideDraftOut:
    """A side draft."""

    id: int
    name: str
    saved_at: datetime


@dataclass(frozen=True, slots=True)
class Basis:
    """Versions of what an evaluation was computed with: the digest of the core's source, and the tag of the house's bundle."""

    core: str
    bundle: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DraftOut:
    """A draft with its evaluation, and the other specs' points on the plate. For `made_with_it` see `circles` in the core."""

    spec: UUID
    revision: int
    saved_at: datetime
    saved_by: str
    version: int | None
    state: str
    trial_of: str
    base: str
    asks_questions: bool
    body: Annotated[OpenForm, DescribedAs("SpecFile")]
    beside: tuple[SideDraftOut, ...]
    result: Workbench
    basis: Basis
    made_with_it: tuple[str, ...]
    pins: tuple[Pin, ...]


@dataclass(frozen=True, slots=True)
class SavedOut:
    """A saved draft: its revision, the drafts kept after a conflict, when it was saved, and its evaluation with what it was made with."""

    revision: int
    beside: tuple[SideDraftOut, ...]
    saved_at: datetime
    result: Workbench
    basis: Basis
    made_with_it: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class SavedDraft:
    """A draft, and its revision."""

    spec: UUID
    revision: int


class Publish(Schema):
    revision: int
    why: str
    critical: bool = False


class EvaluateIn(Schema):
    spec: SpecBody


class SaveIn(Schema):
    """A draft as typed, and the browser tab that typed it. `differed`: where the browser's core gave another figure than the site for the last save, as text."""

    spec: SpecBody
    writer: str = ""
    differed: str = Field("", max_length=400)


class FlagIn(Schema):
    """A point on the plate."""

    spec: SpecBody
    sugar_g_100ml: float
    acid_g_100ml: float


class TakeIn(Schema):
    spec: SpecBody
    material: str
    mass_g: float


class WorkingIn(Schema):
    spec: SpecBody
    step: str
    name: str
