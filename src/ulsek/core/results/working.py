"""Working: how a number was computed: its formula in words, the inputs, the source, and the main cause of its uncertainty."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..base.figures import FIGURES, quantity, spread
from ..base.messages import NOTHING, Computed, Given, Message, grams, listed, message, term, verbatim
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, CATIONS, SUBSTANCES, SUGARS
from ..evaluation.evaluate import Evaluation
from ..properties.acidity import titratable_g
from ..properties.measure import DEEP, MODEL_UNCERTAINTY, PROPERTY
from ..spec import spec as s
from ..spec.sentences import amount_words, inside_name, material_name

_SHOWN_FROM_G, _EXACT, _MOST_OF_IT = 0.005, 1e-9, 0.5
"""Mass of a substance that is shown [g], half-range that is none, and share of it from which it is mostly the model's. House judgement."""


@dataclass(frozen=True, slots=True)
class WorkingInput:
    """One input of a formula, as it is shown, and its unit."""

    name: Message
    value: Message
    unit: str


@dataclass(frozen=True, slots=True)
class Working:
    """The working of one number, with its inputs in the order of the formula."""

    name: Message
    value: Message
    spread: Message
    formula: Message
    inputs: tuple[WorkingInput, ...]
    source: str
    doubt: Message = NOTHING


def working(evaluation: Evaluation, step: str, name: str) -> Working:
    """Returns the working of a figure after a step, or of the amount of a line (``line:ID``). Raises Refusal for an unknown name."""
    index = next((i for i, done in enumerate(evaluation.flow.steps) if done.step.id == step), None)
    if index is None:
        raise Refusal(message("There is no step “{step}” that could be worked out", step=step), "step")
    if name.startswith("line:"):
        return _line(evaluation, index, name.removeprefix("line:"))
    if name in DEEP and evaluation.figures[index].get("volume_ml"):
        return _deep(evaluation, index, name)
    if name not in evaluation.figures[index]:
        raise Refusal(
            message("“{name}” is no figure of this vessel", name=name),
            "name",
            message("choose one of {names}", names=listed(PROPERTY, "comma")),
        )
    contents, figures = evaluation.flow.steps[index].state.liquid, evaluation.figures[index]
    went_in = [(term(SUBSTANCES[key].name), Computed(mass), "g") for key, mass in contents.grams.items() if mass > _SHOWN_FROM_G]
    volume = (message("volume"), Computed(figures["volume_ml"], decimals=1), "mL")
    inputs = {
        "mass_g": went_in,
        "volume_ml": went_in,
        "density_g_ml": [(message("weight"), Computed(contents.solution.mass_g, decimals=1), "g"), volume],
        "brix": [
            (message("dissolved solids"), Computed(figures["brix"] / 100 * contents.solution.mass_g, decimals=1), "g"),
            (message("weight of the liquid"), Computed(contents.solution.mass_g, decimals=1), "g"),
        ],
        "brix_reading": [
            (message("true solids"), Computed(figures["brix"], decimals=2), "°Bx"),
            (message("acid, A"), Computed(100 * titratable_g(contents) / contents.solution.mass_g, decimals=2), "% w/w"),
        ],
        "sugar_g_100ml": [(term(SUBSTANCES[key].name), Computed(contents.of(key)), "g") for key in SUGARS if contents.of(key)] + [volume],
        "acid_g_100ml": [(term(SUBSTANCES[key].name), Computed(contents.of(key)), "g") for key in (*ACIDS, *CATIONS) if contents.of(key)]
        + [(message("titratable, as citric"), Computed(titratable_g(contents)), "g"), volume],
        "abv": [(message("ethanol"), Computed(contents.of("ethanol")), "g"), volume],
    }[name]
    found = evaluation.range(index, name)
    doubt = _doubt(evaluation, index, name) if found.half_width else NOTHING
    return _sheet(name, figures[name], found, inputs, doubt)


_Row = tuple[Message, Computed | Given, str]
"""Name, number and unit of an input."""


def _inputs(rows: Sequence[_Row]) -> tuple[WorkingInput, ...]:
    return tuple(WorkingInput(name, verbatim(value), unit) for name, value, unit in rows)


def _sheet(name: str, value: float, found: Range, inputs: Sequence[_Row], doubt: Message) -> Working:
    """Returns the working of a figure, with its formula and source as they are registered."""
    item = FIGURES[name]
    around = spread(name, found.low, found.high) if found.half_width > _EXACT else NOTHING
    return Working(
        item.title,
        verbatim(quantity(name, value)),
        around,
        term(item.formula),
        _inputs(inputs),
        item.source,
        doubt,
    )


def _moles_per_litre(contents: Contents, volume: float) -> list[_Row]:
    acids = [key for key in (*ACIDS, *CATIONS) if contents.of(key)]
    return [
        (term(SUBSTANCES[key].name), Computed(1e6 * contents.of(key) / SUBSTANCES[key].molar_mass / volume, decimals=1), "mmol/L")
        for key in acids
    ]


def _deep(evaluation: Evaluation, index: int, name: str) -> Working:
    """Returns the working of a figure that is computed on request. Raises Refusal for one that this vessel does not have."""
    contents = evaluation.flow.steps[index].state.liquid
    found = evaluation.range(index, name)
    volume = evaluation.figures[index]["volume_ml"]
    inputs = (
        _moles_per_litre(contents, volume)
        if name == "ph"
        else [
            (term(SUBSTANCES[key].name), Computed(100 * mass / contents.mass_g, decimals=2), "g/100 g")
            for key, mass in contents.grams.items()
            if mass > _SHOWN_FROM_G
        ]
    )
    below, above = MODEL_UNCERTAINTY[name](contents, found.value) if name in MODEL_UNCERTAINTY else (0.0, 0.0)
    model = max(below, above) > _MOST_OF_IT * found.half_width
    doubt = message("Most of the doubt is the model's own.") if model else _doubt(evaluation, index, name)
    return _sheet(name, found.value, found, inputs, doubt)


def _doubt(evaluation: Evaluation, index: int, name: str) -> Message:
    # The groups come by share, the largest first.
    largest = next(iter(evaluation.slopes(index, name).shares(evaluation.estimate).items()), None)
    if largest is None or not largest[1]:
        return NOTHING
    group, share = largest
    return message("{share} % of the doubt: {group}.", share=round(100 * share), group=evaluation.group_name(group))


def _line(evaluation: Evaluation, index: int, line_id: str) -> Working:
    done, spec, materials = evaluation.flow.steps[index], evaluation.inputs.spec, evaluation.inputs.materials
    added = next((item for item in done.added if item.line == line_id), None)
    # Gas, melted ice and the surplus of a weighed vessel come in without a line.
    if added is None or added.by_itself:
        raise Refusal(message("There is no line “{line_id}” in this step", line_id=line_id), "name")
    line = spec.lines[line_id]
    name = material_name(added.material, materials)
    inputs: list[_Row] = []
    formula, source = amount_words(line, spec, materials), "the spec"
    # What was weighed needs no formula.
    if line_id in evaluation.inputs.made.actual_g:
        formula, source = message("weighed"), "the scale, in this run"
    elif isinstance(line.amount, s.Ratio) and line.amount.line:
        other = spec.lines[line.amount.line]
        unit = "g" if line.amount.basis == "weight" else "mL"
        # In the unit of the ratio, so that the two figures multiply to the third.
        mass = evaluation.flow.masses[other.id]
        inputs = [
            (
                material_name(other.material, materials),
                Computed(mass if unit == "g" else mass / materials[other.material].density_g_ml()),
                unit,
            ),
            (message("times"), Given(line.amount.ratio), ""),
        ]
    elif isinstance(line.amount, s.Fixed):
        if evaluation.inputs.made.factor != 1.0:
            inputs = [
                (message("the spec's amount"), Computed(added.mass_g / evaluation.inputs.made.factor), "g"),
                (message("times"), Computed(evaluation.inputs.made.factor, decimals=3), ""),
            ]
        if line.amount.dimension != "mass":
            inputs.append(
                (
                    message("one mL weighs") if line.amount.dimension == "volume" else message("one weighs"),
                    Given(added.mass_g / evaluation.inputs.made.factor / line.amount.quantity, digits=4),
                    "g",
                )
            )
    elif isinstance(line.amount, s.Target):
        formula = message(
            "{target}: grams of {material} until the vessel stands there, found by mass balance (Newton's method)",
            target=formula,
            material=inside_name(added.material, materials),
        )
        source = "mass balance"
    return Working(name, verbatim(grams(added.mass_g)), NOTHING, formula, _inputs(inputs), source)
