"""Requests and answers about specs and the workbench. The spec file itself is described by its JSON Schema in ``docs/formats``."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from ulsek.core.advice.what_if import Knob
from ulsek.core.base.answer import OpenForm
from ulsek.core.base.messages import Message
from ulsek.core.results.evaluation_result import EvaluationResult
from ulsek.core.spec.options import OptionGroup
from ulsek.team.schema import Schema

SpecBody = dict[str, Any]
"""A spec file as it is sent. The core reads it, and refuses what it cannot use at its place."""


@dataclass(frozen=True, slots=True)
class Words:
    """A spec as sentences, by the ids of its steps and lines; `beside` is the second measure of a line, `names` those of materials by key."""

    steps: Mapping[str, Message]
    lines: Mapping[str, Message]
    beside: Mapping[str, Message]
    names: Mapping[str, Message]


@dataclass(frozen=True, slots=True, kw_only=True)
class Workbench(EvaluationResult):
    """The evaluation of a spec with its steps and lines in words.

    `read` is True for each material whose °Bx was measured. `targets` are the ids of the lines whose mass is solved for a target. `options` are the groups of
    alternatives with the one of each that counts; steps of the others have no words. `serve_cost` is what one serve costs [currency]. `knobs` are the figures that may be tried.
    """

    words: Words
    read: Mapping[str, bool]
    targets: tuple[str, ...]
    options: tuple[OptionGroup, ...]
    serve_cost: Decimal | None
    knobs: tuple[Knob, ...]


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


@dataclass(frozen=True, slots=True, kw_only=True)
class DraftOut:
    """A draft with its evaluation, and the other specs' points on the plate."""

    spec: UUID
    revision: int
    saved_at: datetime
    saved_by: str
    version: int | None
    state: str
    trial_of: str
    base: str
    asks_questions: bool
    body: OpenForm
    beside: tuple[SideDraftOut, ...]
    result: Workbench
    pins: tuple[Pin, ...]


@dataclass(frozen=True, slots=True)
class SavedOut:
    """A saved draft: its revision, the drafts kept after a conflict, when it was saved, and its evaluation."""

    revision: int
    beside: tuple[SideDraftOut, ...]
    saved_at: datetime
    result: Workbench


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
    """A draft as typed, and the browser tab that typed it."""

    spec: SpecBody
    writer: str = ""


class FlagIn(Schema):
    """A point on the plate."""

    spec: SpecBody
    sugar_g_100ml: float
    acid_g_100ml: float


class TakeIn(Schema):
    spec: SpecBody
    material: str
    mass_g: float


@dataclass(frozen=True, slots=True)
class SpecForm:
    """A spec in the form of the spec file."""

    spec: OpenForm


class WorkingIn(Schema):
    spec: SpecBody
    step: str
    name: str
