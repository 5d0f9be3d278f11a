"""What the workbench shows of a draft: its evaluation with every step and amount in words, and the remarks of the release check."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from ..advice.what_if import Knob, knobs
from ..base.answer import fields_of
from ..base.messages import Message
from ..base.remarks import Remark
from ..evaluation.cost import per_serve
from ..evaluation.evaluate import Evaluation, evaluate, evaluate_edit
from ..materials.vessel_state import GAS, MELT, SURPLUS
from ..release.release_check import release_check
from ..results.evaluation_result import EvaluationResult, StepResult, evaluation_result, plain_steps
from ..results.spec_card import second_measure
from ..results.told import ToldClaim, told_and_worked_out
from ..spec.json_form import read_spec
from ..spec.options import OptionGroup
from ..spec.sentences import amount_words, material_name, step_title
from ..spec.spec import Spec, Target
from .house import House, Measures, circles

RANGED = ("mass_g", "abv")
"""Figures that the workbench shows with their range at every step: the river's soft edge, and strength. The product's all have theirs."""


@dataclass(frozen=True, slots=True)
class Words:
    """A spec as sentences, by the ids of its steps and lines; `beside` is the second measure of a line, `names` those of materials by key."""

    steps: Mapping[str, Message]
    lines: Mapping[str, Message]
    beside: Mapping[str, Message]
    names: Mapping[str, Message]


@dataclass(frozen=True, slots=True)
class PlainFlow:
    """The flow of a draft with exact figures: what changes at once while somebody types. Everything else is in `Workbench`, computed after it.

    `product` is the id of the step after which the vessel holds the product; None if nothing is made.
    """

    steps: tuple[StepResult, ...]
    words: Words
    product: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Workbench(EvaluationResult):
    """The evaluation of a spec with its steps and lines in words.

    `by_others` are remarks that depend on the house's other specs, which only the site knows. `read` is True for each material whose °Bx was measured. `targets`
    are the ids of the lines whose mass is solved for a target. `options` are the groups of alternatives with the one of each that counts; steps of the others
    have no words. `serve_cost` is what one serve costs [currency]. `knobs` are the figures that may be tried; `told` are the
    claims of the text that it was read from.
    """

    by_others: tuple[Remark, ...]
    words: Words
    read: Mapping[str, bool]
    targets: tuple[str, ...]
    options: tuple[OptionGroup, ...]
    serve_cost: Decimal | None
    knobs: tuple[Knob, ...]
    told: tuple[ToldClaim, ...] = ()


def _read(body: Mapping[str, Any], made_with_it: Sequence[str], chosen: Mapping[str, str] | None = None) -> Spec:
    spec = read_spec(body, strict=False, chosen=dict(chosen) if chosen else None)
    return replace(spec, faults=(*spec.faults, *circles(spec, made_with_it))) if made_with_it else spec


def draft_evaluated(
    house: House,
    body: Mapping[str, Any],
    *,
    made_with_it: Sequence[str] = (),
    extra: Sequence[str] = (),
    chosen: Mapping[str, str] | None = None,
) -> Evaluation:
    """Returns the evaluation of a draft, in the form of the spec file, as far as it can be read, with the house's materials and those that are `extra`.

    For `made_with_it` see `circles`. Raises Refusal for what is no spec file.
    """
    spec = _read(body, made_with_it, chosen)
    return evaluate(spec, house.materials((*spec.mentioned, *extra)), rules=house.rules)


def edit_evaluated(house: House, body: Mapping[str, Any], made_with_it: Sequence[str], base: Evaluation | None) -> Evaluation:
    """Returns the same of a draft that is being edited: it begins at the first step in which it differs from `base`."""
    spec = _read(body, made_with_it)
    return evaluate_edit(spec, house.materials(spec.mentioned), base, rules=house.rules)


def words_of(evaluation: Evaluation, measures: Measures) -> Words:
    """Returns the steps, lines and materials of an evaluated spec in words."""
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    lines = spec.lines
    masses = evaluation.flow.masses if measures.beside != "nothing" else {}
    return Words(
        {step.id: step_title(step, materials, first=i == 0, spec=spec) for i, step in enumerate(spec.steps)},
        {line.id: amount_words(line, spec, materials) for line in lines.values()},
        {
            key: second_measure(materials.get(lines[key].material), mass, measures.locale, measures.beside, measures.jiggers_ml)
            for key, mass in masses.items()
            if key in lines
        },
        {
            key: material_name(key, materials, spec=spec)
            for key in (*materials, *(line.material for line in lines.values()), GAS, MELT, SURPLUS)
        },
    )


def plain_flow(evaluation: Evaluation, measures: Measures) -> PlainFlow:
    """Returns the flow of an evaluated draft with exact figures."""
    product = None if evaluation.last is None else evaluation.flow.steps[evaluation.last].step.id
    return PlainFlow(plain_steps(evaluation), words_of(evaluation, measures), product)


def workbench(
    evaluation: Evaluation, measures: Measures, by_others: tuple[Remark, ...] = (), before: Sequence[StepResult] = ()
) -> Workbench:
    """Returns everything that the workbench shows of an evaluated draft. For `before` see `evaluation_result`."""
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    result = evaluation_result(evaluation, ranged=RANGED, before=before)
    return Workbench(
        **{**fields_of(result), "remarks": release_check(evaluation)},
        by_others=by_others,
        words=words_of(evaluation, measures),
        read={key: bool(getattr(material.composition, "brix_read", False)) for key, material in materials.items()},
        targets=tuple(line.id for line in spec.lines.values() if isinstance(line.amount, Target)),
        options=spec.options,
        serve_cost=per_serve(result.final.cost, result.final.serves) if result.final else None,
        knobs=knobs(evaluation),
        told=told_and_worked_out(evaluation),
    )
