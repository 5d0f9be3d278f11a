"""The spec value: vessels, steps, lines, goals. `json_form` reads and writes its open form."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.units import Locale
from ..operations.amounts import All, Amount, Fixed, Line, Percent, Ratio, State, Target, TargetProperty
from ..operations.catalogue import VERBS
from ..operations.combine import Combine
from ..operations.finish import Bottle, Cool, HotFill
from ..operations.heat import Dissolve
from ..operations.step import Step
from ..operations.strain import Strain
from .options import OptionGroup
from .served_in import ServedIn

__all__ = [
    "VERBS",
    "All",
    "Amount",
    "Bottle",
    "Combine",
    "Cool",
    "Dissolve",
    "Fixed",
    "Goal",
    "HotFill",
    "Line",
    "Percent",
    "Ratio",
    "Spec",
    "State",
    "Step",
    "Strain",
    "Target",
    "Vessel",
]


@dataclass(frozen=True, slots=True)
class Vessel:
    """A pot, jug or bottle: capacity to the brim in mL, tare in g, the line in mL that it is not filled past; each optional."""

    id: str
    name: str
    capacity_ml: float | None = None
    tare_g: float | None = None
    fill_line_ml: float | None = None


@dataclass(frozen=True, slots=True)
class Goal:
    """The figure that the finished product should have, in its unit, with its tolerance."""

    property: TargetProperty
    value: float
    tolerance: float


@dataclass(frozen=True, slots=True)
class OpenDoubt:
    """A reading of a pasted recipe that is not settled yet: the line or step, its text, and the question."""

    at: str
    text: str
    question: str


@dataclass(frozen=True, slots=True)
class Claim:
    """What the text that a spec was read from says of its yield, its keeping or its use: its words, and their figure in `unit` (mL, g, days) where they have one."""

    kind: str
    text: str
    amount: Range | None
    unit: str


@dataclass(frozen=True, slots=True)
class Spec:
    """A way to make one house ingredient. `driver` is the line that is weighed first and sets the batch; `mentioned` are the materials of all lines, those that
    cannot be read yet included.

    `claims` are what the text that it was read from says of it. `own_materials` are materials in their open form that came with the file, for those that the house does not have.
    `source` says where it comes from and `permission` who allowed its use; `options` are chosen already, `doubts` open; `served_in` is the drink that it is
    made for.
    """

    id: str
    name: str
    family: str
    steps: tuple[Step, ...]
    vessels: Mapping[str, Vessel]
    driver: str | None = None
    serve_ml: float = 30.0
    locale: Locale = "metric"
    goals: tuple[Goal, ...] = ()
    note: str = ""
    source: str = ""
    permission: str = ""
    options: tuple[OptionGroup, ...] = ()
    doubts: tuple[OpenDoubt, ...] = ()
    claims: tuple[Claim, ...] = ()
    served_in: ServedIn | None = None
    mentioned: tuple[str, ...] = ()
    own_materials: Mapping[str, Any] = field(default_factory=dict)
    faults: tuple[Refusal, ...] = field(default=(), compare=False)

    @property
    def lines(self) -> dict[str, Line]:
        """All lines by id, in the order of the steps."""
        return {line.id: line for step in self.steps for line in step.lines}

    @property
    def material_keys(self) -> tuple[str, ...]:
        """The materials from Stores, in the order in which they go in."""
        return tuple(dict.fromkeys(line.material for step in self.steps for line in step.lines if not line.own))
