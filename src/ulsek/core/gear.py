"""Gear that carries allergens: what one prep leaves on sieve, blender and cloth for the next, until it is cleaned."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from .evaluate import Evaluation
from .hazards import FOLLOW
from .remarks import Remark
from .steps import Step


@dataclass(frozen=True, slots=True)
class CarryOver:
    """An allergen that a piece of gear brings from one spec (`source`, by name) into a step of another (`spec`, by id)."""

    gear: str
    allergen: str
    source: str
    spec: str
    step: str

    def as_data(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in ("gear", "allergen", "source")}


def _gear_of(step: Step, evaluation: Evaluation) -> tuple[str, ...]:
    """The gear that a step touches: what it names or usually takes, and its vessel by name; not what comes clean to each batch."""
    vessel = evaluation.inputs.spec.vessels.get(step.vessel)
    return tuple(name for name in (*(step.gear or step.usual_gear), *((vessel.name,) if vessel else ())) if not name.startswith("clean "))


def carry_overs(made: Sequence[Evaluation]) -> tuple[CarryOver, ...]:
    """Allergens that gear brings from one spec into the next, for specs made in this order on the same gear.

    A `clean` step ends what the gear that it names carries; without names, what its vessel carries. A spec that holds the allergen anyway is left out.
    Source: general allergen management, as prudence; it says what to ask, not that a product is safe.
    """
    on: dict[str, dict[str, str]] = {}
    found: list[CarryOver] = []
    for evaluation in made:
        spec = evaluation.inputs.spec
        inside: dict[str, set[str]] = {}
        told: set[tuple[str, str]] = set()
        for done in evaluation.plain.steps:
            step = done.step
            gear = _gear_of(step, evaluation)
            if step.verb == "clean":
                for name in step.gear or gear:
                    on.pop(name, None)
                continue
            here = inside.setdefault(step.vessel, set())
            here |= {word for added in done.added if not added.own for word in evaluation.inputs.materials[added.material].allergens}
            here |= {word for added in done.added if added.own for others in inside.values() for word in others}
            for name in gear:
                for word, source in on.get(name, {}).items():
                    if word not in evaluation.hazards.allergens and (name, word) not in told:
                        told.add((name, word))
                        found.append(CarryOver(name, word, source, spec.id, step.id))
                for word in sorted(here):
                    on.setdefault(name, {}).setdefault(word, spec.name)
            if done.vessel != step.vessel:
                inside.setdefault(done.vessel, set()).update(here)
    return tuple(found)


def carried(made: Sequence[Evaluation]) -> tuple[Remark, ...]:
    """`carry_overs` as remarks, each at its step."""
    return tuple(
        Remark(
            "carried_allergen",
            "check",
            f"{item.spec}/steps/{item.step}",
            f"The {item.gear} still carries {item.allergen} from {item.source}.",
            f"Clean it before, or say it on the label. {FOLLOW}",
        )
        for item in carry_overs(made)
    )
