"""Working: how a number came about. Formula in words, the numbers put in, the source, and where its doubt comes from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..base import number_format as say
from ..base.figures import FIGURES, spread, with_unit
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, CATIONS, SUBSTANCES, SUGARS
from ..evaluation.evaluate import Evaluation
from ..properties.acidity import titratable_g
from ..properties.measure import DEEP, MODEL_DOUBT, PROPERTY
from ..spec import spec as s
from ..spec.sentences import amount_words, material_name


@dataclass(frozen=True, slots=True)
class WorkingInput:
    """One number that was put into a formula, as it is shown, and its unit."""

    name: str
    value: str
    unit: str


@dataclass(frozen=True, slots=True)
class Working:
    """The sheet behind one number, its inputs in the order of the formula."""

    name: str
    value: str
    spread: str
    formula: str
    inputs: tuple[WorkingInput, ...]
    source: str
    doubt: str = ""


def working(evaluation: Evaluation, step: str, name: str) -> Working:
    """The working of a figure after a step, or of a line's amount (``line:ID``). Refuses names that are not there."""
    index = next((i for i, done in enumerate(evaluation.plain.steps) if done.step.id == step), None)
    if index is None:
        raise Refusal(f"There is no step “{step}” that could be worked out", "step")
    if name.startswith("line:"):
        return _line(evaluation, index, name.removeprefix("line:"))
    if name in DEEP and evaluation.figures[index].get("volume_ml"):
        return _deep(evaluation, index, name)
    if name not in evaluation.figures[index]:
        raise Refusal(f"“{name}” is no figure of this vessel", "name", f"choose one of {', '.join(PROPERTY)}")
    contents, figures = evaluation.plain.steps[index].matter.liquor, evaluation.figures[index]
    grams = [(SUBSTANCES[key].name, say.figure(mass), "g") for key, mass in contents.grams.items() if mass > 0.005]
    volume = ("volume", say.figure(figures["volume_ml"], 1), "mL")
    inputs = {
        "mass_g": grams,
        "volume_ml": grams,
        "density_g_ml": [("weight", say.figure(contents.liquid.mass_g, 1), "g"), volume],
        "brix": [
            ("dissolved solids", say.figure(figures["brix"] / 100 * contents.liquid.mass_g, 1), "g"),
            ("weight of the liquid", say.figure(contents.liquid.mass_g, 1), "g"),
        ],
        "brix_reading": [
            ("true solids", say.figure(figures["brix"], 2), "°Bx"),
            ("acid, A", say.figure(100 * titratable_g(contents) / contents.liquid.mass_g, 2), "% w/w"),
        ],
        "sugar_g_100ml": [(SUBSTANCES[key].name, say.figure(contents.of(key)), "g") for key in SUGARS if contents.of(key)] + [volume],
        "acid_g_100ml": [(SUBSTANCES[key].name, say.figure(contents.of(key)), "g") for key in (*ACIDS, *CATIONS) if contents.of(key)]
        + [("titratable, as citric", say.figure(titratable_g(contents)), "g"), volume],
        "abv": [("ethanol", say.figure(contents.of("ethanol")), "g"), volume],
    }[name]
    found = evaluation.range(index, name)
    doubt = _doubt(evaluation, index, name) if found.half_width else ""
    return _sheet(name, figures[name], found, inputs, doubt)


def _inputs(rows: Sequence[tuple[str, str, str]]) -> tuple[WorkingInput, ...]:
    return tuple(WorkingInput(*row) for row in rows)


def _sheet(name: str, value: float, found: Range, inputs: Sequence[tuple[str, str, str]], doubt: str) -> Working:
    """The sheet of a figure, with its formula and source as they are registered."""
    item = FIGURES[name]
    around = spread(name, found.low, found.high) if found.half_width > 1e-9 else ""
    return Working(item.title, with_unit(name, value), around, item.formula, _inputs(inputs), item.source, doubt)


def _moles_per_litre(contents: Contents, volume: float) -> list[tuple[str, str, str]]:
    acids = [key for key in (*ACIDS, *CATIONS) if contents.of(key)]
    return [(SUBSTANCES[key].name, say.figure(1e6 * contents.of(key) / SUBSTANCES[key].molar_mass / volume, 1), "mmol/L") for key in acids]


def _deep(evaluation: Evaluation, index: int, name: str) -> Working:
    """The sheet of a figure that is worked out only when it is asked for. Refuses what cannot be worked out for this vessel."""
    contents = evaluation.plain.steps[index].matter.liquor
    found = evaluation.range(index, name)
    volume = evaluation.figures[index]["volume_ml"]
    inputs = (
        _moles_per_litre(contents, volume)
        if name == "ph"
        else [
            (SUBSTANCES[key].name, say.figure(100 * mass / contents.mass_g, 2), "g/100 g")
            for key, mass in contents.grams.items()
            if mass > 0.005
        ]
    )
    below, above = MODEL_DOUBT[name](contents, found.value) if name in MODEL_DOUBT else (0.0, 0.0)
    model = max(below, above) > 0.5 * found.half_width
    doubt = "Most of the doubt is the model's own." if model else _doubt(evaluation, index, name)
    return _sheet(name, found.value, found, inputs, doubt)


def _doubt(evaluation: Evaluation, index: int, name: str) -> str:
    group, share = next(iter(evaluation.slopes(index, name).shares(evaluation.belief).items()), ("", 0.0))
    return f"{round(100 * share)} % of the doubt: {evaluation.group_name(group)}." if share else ""


def _line(evaluation: Evaluation, index: int, line_id: str) -> Working:
    done, spec, materials = evaluation.plain.steps[index], evaluation.inputs.spec, evaluation.inputs.materials
    added = next((item for item in done.added if item.line == line_id), None)
    if added is None:
        raise Refusal(f"There is no line “{line_id}” in this step", "name")
    line = spec.lines[line_id]
    name = material_name(added.material, materials)
    inputs: list[tuple[str, str, str]] = []
    formula, source = amount_words(line, spec, materials), "the spec"
    if line_id in evaluation.inputs.actual_g:
        formula, source = "weighed", "the scale, in this run"
    elif isinstance(line.amount, s.Ratio) and line.amount.line:
        other = spec.lines[line.amount.line]
        unit = "g" if line.amount.basis == "weight" else "mL"
        grams = evaluation.plain.masses[other.id]
        inputs = [
            (materials[other.material].name, say.figure(grams if unit == "g" else grams / materials[other.material].density_g_ml()), unit),
            ("times", say.given(line.amount.ratio), ""),
        ]
    elif isinstance(line.amount, s.Fixed):
        if evaluation.inputs.factor != 1.0:
            inputs = [
                ("the spec's amount", say.figure(added.mass_g / evaluation.inputs.factor), "g"),
                ("times", say.figure(evaluation.inputs.factor, 3), ""),
            ]
        if line.amount.dimension != "mass":
            inputs.append(
                (
                    "one mL weighs" if line.amount.dimension == "volume" else "one weighs",
                    say.given(added.mass_g / evaluation.inputs.factor / line.amount.quantity, 4),
                    "g",
                )
            )
    elif isinstance(line.amount, s.Target):
        formula += f": grams of {name.lower()} until the vessel stands there, found by mass balance (Newton's method)"
        source = "mass balance"
    return Working(name, say.grams(added.mass_g), "", formula, _inputs(inputs), source)
