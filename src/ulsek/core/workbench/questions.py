"""Questions about a draft on the workbench: how a number came about, what brings it to a point on the plate, what a typed step says."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any

from ..advice.corrections import REPAIR_MATERIALS, ToFlag, take_addition, to_the_flag
from ..base.answer import DescribedAs, OpenForm
from ..base.messages import Message
from ..materials.naming import called
from ..recipe_text.typed_step import parse_step
from ..results.working import Working, working
from ..spec.json_form import FORMAT, FORMAT_VERSION
from ..spec.sentences import step_title
from .answer import draft_evaluated
from .house import House


@dataclass(frozen=True, slots=True)
class SpecForm:
    """A spec in the form of the spec file."""

    spec: Annotated[OpenForm, DescribedAs("SpecFile")]


@dataclass(frozen=True, slots=True)
class StepLine:
    """A step as it was typed, in the form of the spec file; `title` is its sentence."""

    step: OpenForm
    title: Message


@dataclass(frozen=True, slots=True)
class MaterialName:
    """A material as it is chosen from a list."""

    key: str
    name: str
    kind: str


def materials_called(house: House, find: str) -> tuple[MaterialName, ...]:
    """Returns the materials that a text names, by name."""
    bodies = house.described()
    found = (MaterialName(key, bodies[key]["name"], bodies[key].get("kind", "")) for key in called(bodies, find))
    return tuple(sorted(found, key=lambda item: (item.name, item.key)))


def draft_working(house: House, body: Mapping[str, Any], step: str, name: str) -> Working:
    """Returns the working of a number of a draft. Raises Refusal for an unknown step or name."""
    return working(draft_evaluated(house, body), step, name)


def draft_to_flag(house: House, body: Mapping[str, Any], sugar_g_100ml: float, acid_g_100ml: float) -> ToFlag:
    """Returns the fewest additions that bring the draft's product to a sugar and an acid [g/100 mL]. Raises Refusal as `to_the_flag` does."""
    return to_the_flag(draft_evaluated(house, body, extra=REPAIR_MATERIALS), sugar_g_100ml, acid_g_100ml)


_MOST_ADDITIONS = 6


def draft_at_flag(house: House, body: Mapping[str, Any], sugar_g_100ml: float, acid_g_100ml: float) -> SpecForm:
    """Returns the draft brought to a sugar and an acid [g/100 mL] by the fewest additions. Raises Refusal as `to_the_flag` does.

    One addition is written after the other, each from the draft as it is then: a line that brings the vessel to a target answers by itself to what was added
    before it.
    """
    for _ in range(_MOST_ADDITIONS):
        evaluation = draft_evaluated(house, body, extra=REPAIR_MATERIALS)
        additions = to_the_flag(evaluation, sugar_g_100ml, acid_g_100ml).additions
        if not additions:
            break
        body = take_addition(body, evaluation, additions[0].material, additions[0].mass_g)
    return SpecForm(body)


def draft_with_addition(house: House, body: Mapping[str, Any], material: str, mass_g: float) -> SpecForm:
    """Returns the draft with `mass_g` [g] more of a material. Raises Refusal as `take_addition` does."""
    return SpecForm(take_addition(body, draft_evaluated(house, body, extra=(material,)), material, mass_g))


def read_step_line(house: House, text: str) -> StepLine:
    """Returns a step as typed, read with the house's materials: "steep birch tips 9 g 25 min 72 C". Raises Refusal for what begins with no known verb."""
    step = parse_step(text, house.described())
    done = draft_evaluated(house, {"format": FORMAT, "version": FORMAT_VERSION, "name": "", "steps": [{"id": "s", **step}]})
    return StepLine(step, step_title(done.inputs.spec.steps[0], done.inputs.materials))
