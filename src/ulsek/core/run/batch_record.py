"""Record of a batch: what its events say, before anything is computed from it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from ..base.messages import Computed, Message, message
from ..base.refusals import Refusal
from ..materials.blend import blended
from ..materials.material import Material
from ..materials.supply import key_of_blend
from ..spec import spec as s
from ..spec.sentences import material_name, step_title
from .reading import Reading, ReadingTaken
from .repair import Repair, RepairState
from .spec_as_made import in_its_place

SAME_G = 0.05
"""Largest difference [g] between two weights of one line that is not shown as a conflict."""


@dataclass(frozen=True, slots=True)
class Taste:
    """A verdict on a step: `verdict` is right, weak, strong or odd; `share` by how much, 0 if it was not said."""

    step: str
    sense: str
    verdict: str
    share: float
    text: str


@dataclass(frozen=True, slots=True)
class Poured:
    """A supply that ran empty while a line was poured: the key of its material, and the mass of the line that was in by then [g]."""

    material: str
    so_far_g: float


@dataclass(frozen=True, slots=True)
class Weighing:
    """Who added a line, on which device and when [ISO 8601 with offset]; `event` is the id of the event, `on_scale` is False for counts and volumes."""

    event: str
    device: str
    by: str
    at: str
    on_scale: bool


@dataclass
class BatchRecord:
    """The spec as it was really made so far, and what was written down about it. Each event changes it by its `apply`, in their order."""

    spec: s.Spec
    materials: Mapping[str, Material]
    started_factor: float | None = None
    """How many times the spec the batch was started as; None if that was not said."""
    actual_g: dict[str, float] = field(default_factory=dict)
    """Mass in of each line [g]."""
    weighings: dict[str, Weighing] = field(default_factory=dict)
    """The last weighing of each line."""
    spilled_g: dict[str, float] = field(default_factory=dict)
    """Mass that left the batch after a step [g], by step; samples are part of it."""
    begun: dict[str, str] = field(default_factory=dict)
    done: dict[str, str] = field(default_factory=dict)
    """When each step was begun and done [ISO 8601 with offset]; skipped steps count as done."""
    skipped: set[str] = field(default_factory=set)
    added_steps: set[str] = field(default_factory=set)
    """Steps that the spec does not have."""
    sampled: dict[str, float] = field(default_factory=dict)
    """Mass of the samples set aside after a step [g], by step."""
    repairs: dict[str, RepairState] = field(default_factory=dict)
    repairs_taken: list[Repair] = field(default_factory=list)
    readings: list[ReadingTaken] = field(default_factory=list)
    watched: dict[str, tuple[Reading, ...]] = field(default_factory=dict)
    """Readings taken while a step went on, by step."""
    notes: list[Message] = field(default_factory=list)
    tastes: list[Taste] = field(default_factory=list)
    handed_to: list[str] = field(default_factory=list)
    """Whom the batch was handed over to, in order."""
    conflicts: list[Message] = field(default_factory=list)
    supplies: dict[str, str] = field(default_factory=dict)
    """The supply named last for each line."""
    poured: dict[str, list[Poured]] = field(default_factory=dict)
    """By line: its supplies that ran empty, in order."""
    past_use_by: dict[str, tuple[str, Message]] = field(default_factory=dict)
    """By line: the last day [ISO date] of a material that went in after it, and a sentence."""
    keys: dict[str, str] = field(default_factory=dict)
    """By line that several supplies went into: the key of the last of them."""
    status: Literal["open", "finished"] = "open"
    bottled_ml: float | None = None
    """Volume of the product as it was read at the finish [mL]; None if nobody read it."""

    def step(self, step_id: str) -> s.Step:
        """Returns the step. Raises Refusal if the batch has none of this id."""
        found = next((item for item in self.spec.steps if item.id == step_id), None)
        if found is None:
            raise Refusal(message("There is no step “{step_id}” in this run", step_id=step_id), "body/step", code="unknown_reference")
        return found

    def line(self, line_id: str) -> s.Line:
        """Returns the line. Raises Refusal if the batch has none of this id."""
        found = self.spec.lines.get(line_id)
        if found is None:
            raise Refusal(message("There is no line “{line_id}” in this run", line_id=line_id), "body/line", code="unknown_reference")
        return found

    def title(self, step: s.Step) -> Message:
        """Returns what the step is called on screens."""
        return step_title(step, self.materials, spec=self.spec)

    def name(self, line: s.Line) -> Message:
        """Returns what the material of the line is called on screens."""
        return material_name(line.material, self.materials)

    @property
    def by_volume(self) -> frozenset[str]:
        """Lines whose last amount was counted or measured by volume."""
        return frozenset(line for line, weighing in self.weighings.items() if not weighing.on_scale)

    @property
    def weighed_at(self) -> dict[str, str]:
        """When each line was added [ISO 8601 with offset]."""
        return {line: weighing.at for line, weighing in self.weighings.items()}

    def parts_g(self, line: s.Line) -> list[tuple[str, float]]:
        """Returns the mass in of a line [g] by the key of the supply that it was taken from, in the order of pouring."""
        actual = self.actual_g.get(line.id)
        parts, before = [], 0.0
        for item in self.poured.get(line.id, ()):
            # A line that was weighed at less than was in before cannot have taken more than its weight.
            upto = item.so_far_g if actual is None else min(item.so_far_g, actual)
            parts.append((item.material, upto - before))
            before = upto
        if actual is not None:
            parts.append((self.keys.get(line.id, line.material), actual - before))
        return parts

    def so_far_g(self, line: s.Line) -> float:
        """Returns the mass in of a line that is not weighed yet [g], from supplies that ran empty; 0 for other lines."""
        poured = self.poured.get(line.id, [])
        return poured[-1].so_far_g if poured and line.id not in self.actual_g else 0.0

    def blend_supplies(self) -> None:
        """Gives each weighed line that several supplies went into the composition of their blend. Called once, after the last event."""
        for key, poured in self.poured.items():
            line = self.spec.lines.get(key)
            if line is None or key not in self.actual_g:
                continue
            if self.actual_g[key] < poured[-1].so_far_g - SAME_G:
                self.conflicts.append(
                    message(
                        "{material}: {mass} were weighed, and {before} were in before the other supply. Weigh it again.",
                        material=self.name(line),
                        mass=Computed(self.actual_g[key], "g"),
                        before=Computed(poured[-1].so_far_g, "g"),
                    )
                )
            self.keys[key] = line.material
            together = key_of_blend(line.material, key)
            parts = [(self.materials[part], grams) for part, grams in self.parts_g(line) if grams > 0 and part in self.materials]
            self.materials = {**self.materials, together: blended(together, parts)}
            self.spec = in_its_place(self.spec, key, together)

    @property
    def spec_to_add_from(self) -> s.Spec:
        """The spec with every line from its last supply: what is added later is taken from that, and not from a blend."""
        spec = self.spec
        for line, key in self.keys.items():
            spec = in_its_place(spec, line, key)
        return spec
