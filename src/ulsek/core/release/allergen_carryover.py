"""Allergen carry-over: allergens that one prep leaves on shared equipment for the next, until it is cleaned."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from ..base.answer import HIDDEN
from ..base.messages import message, sentences
from ..base.remarks import Remark
from ..evaluation.evaluate import Evaluation
from ..operations.step import Step
from ..safety.hazards import FOLLOW


@dataclass(frozen=True, slots=True)
class CarryOver:
    """An allergen that equipment carries from one spec (`source`, by name) into a step of another (`spec`, by id)."""

    gear: str
    allergen: str
    source: str
    spec: str = field(metadata=HIDDEN)
    step: str = field(metadata=HIDDEN)


USED_ONCE = frozenset({"ice", "paper filters", "glass"})
"""Names of equipment that is used for one batch or one guest only, so that it carries no allergen to another spec. House judgement."""


def _gear_of(step: Step, evaluation: Evaluation) -> tuple[str, ...]:
    """Returns the equipment that a step touches: what it names or usually takes, and its vessel by name; not what is used once or comes clean to each batch."""
    vessel = evaluation.inputs.spec.vessels.get(step.vessel)
    named = (*(step.gear or step.usual_gear), *((vessel.name,) if vessel else ()))
    return tuple(name for name in named if name not in USED_ONCE and not name.startswith("clean "))


Traces = dict[str, dict[str, str]]
"""What stands on each piece of gear: for every allergen the name of the spec that left it."""


def _use(evaluation: Evaluation, on: Traces) -> Iterator[CarryOver]:
    """Yields the allergens that equipment carries into one spec. Changes `on` in place: it then holds what the spec leaves on each piece."""
    spec = evaluation.inputs.spec
    inside: dict[str, set[str]] = {}
    told: set[tuple[str, str]] = set()
    for done in evaluation.flow.steps:
        step = done.step
        gear = _gear_of(step, evaluation)
        # Cleaning ends what its own equipment carries; without names, that of the step's vessel.
        if step.verb == "clean":
            for name in step.gear or gear:
                on.pop(name, None)
            continue
        here = inside.setdefault(step.vessel, set())
        here |= {word for added in done.added if not added.own for word in evaluation.inputs.materials[added.material].allergens}
        # What comes from another vessel of the spec brings everything that any of them held: streams are not followed by name.
        here |= {word for added in done.added if added.own for others in inside.values() for word in others}
        for name in gear:
            for word, source in on.get(name, {}).items():
                if word not in evaluation.hazards.allergens and (name, word) not in told:
                    told.add((name, word))
                    yield CarryOver(name, word, source, spec.id, step.id)
            for word in sorted(here):
                on.setdefault(name, {}).setdefault(word, spec.name)
        if done.vessel != step.vessel:
            inside.setdefault(done.vessel, set()).update(here)


def carry_overs(made: Sequence[Evaluation], before: Mapping[str, Mapping[str, str]] | None = None) -> tuple[CarryOver, ...]:
    """Returns the allergens that equipment carries from one spec into the next, for specs made in this order; `before` is on it already.

    A `clean` step ends what the equipment that it names carries; without names, what its vessel carries. A spec that holds the allergen itself is omitted. It
    tells what to ask, not that a product is safe. Source: general allergen management, as prudence.
    """
    on: Traces = {gear: dict(words) for gear, words in (before or {}).items()}
    return tuple(found for evaluation in made for found in _use(evaluation, on))


@dataclass(frozen=True, slots=True)
class LeftOnGear:
    """What one spec leaves on the equipment that it was made on, until that is cleaned; `spec` is its id."""

    spec: str
    traces: Mapping[str, Mapping[str, str]]


def left_on_gear(evaluation: Evaluation) -> LeftOnGear:
    """Returns the allergens that one batch of a spec, on clean equipment, leaves on it."""
    on: Traces = {}
    for _ in _use(evaluation, on):
        pass
    return LeftOnGear(evaluation.inputs.spec.id, on)


def carried(made: Sequence[Evaluation]) -> tuple[Remark, ...]:
    """Returns `carry_overs` as remarks, each at its step."""
    return tuple(
        Remark(
            "carried_allergen",
            "check",
            f"{item.spec}/steps/{item.step}",
            message("The {gear} still carries {allergen} from {source}.", gear=item.gear, allergen=item.allergen, source=item.source),
            sentences(message("Clean it before, or say it on the label."), FOLLOW),
        )
        for item in carry_overs(made)
    )
