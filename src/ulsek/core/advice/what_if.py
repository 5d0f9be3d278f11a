"""What if: the figures of a spec with the largest effect, each with the span in which a slider may move it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from ..base.messages import Message, message
from ..evaluation.evaluate import Evaluation
from ..operations.step import NumberParam
from ..spec import spec as s
from ..spec.sentences import inside_name

MOST_KNOBS = 6
"""Sliders that stand beside a spec [count]; more hide the ones that decide."""
_LOW_SHARE, _HIGH_SHARE = 0.5, 1.5
"""A figure is tried from half of it to half as much again: beyond that it is another recipe. House experience."""
_STEPS_LOG10 = 1.3
"""A stride is the power of ten at or below a twentieth (10^-1.3) of the figure: about as fine as a hand tells apart."""
_FIELDS = {s.Ratio: "ratio", s.Percent: "percent", s.Target: "value"}
_LABELS = {"to_fraction": message("reduced to"), "minutes": message("steeped"), "kept": message("drip kept")}


@dataclass(frozen=True, slots=True, kw_only=True)
class Knob:
    """A figure to vary: its `value` in `unit`, from `low` to `high` in steps of `stride`.

    In the spec file it is `field` of the amount of `line`; without a line, `field` of `step`.
    """

    key: str
    label: Message
    unit: str
    value: float
    low: float
    high: float
    stride: float
    step: str
    line: str | None
    field: str


def _rounded(value: float, stride: float) -> float:
    return float(f"{math.floor(value / stride + 0.5) * stride:.6g}")


def span_of(value: float, low: float = 0.0, high: float = math.inf) -> tuple[float, float, float]:
    """Returns (least, most, stride) in which to vary a figure, in its own unit, within its bounds: 20 is varied from 10 to 30 in steps of 1. Source: house
    experience.
    """
    # A power of ten, so that the slider shows round figures.
    stride = 10.0 ** math.floor(math.log10(value) - _STEPS_LOG10)
    least, most = _rounded(_LOW_SHARE * value, stride), _rounded(_HIGH_SHARE * value, stride)
    return max(low, least), min(high, most), float(f"{stride:.2g}")


def _of_lines(evaluation: Evaluation, step: s.Step) -> Iterator[Knob]:
    materials = evaluation.inputs.materials
    for line in step.lines:
        field = _FIELDS.get(type(line.amount))
        value = float(getattr(line.amount, field)) if field else 0.0
        # Nothing to vary in proportion: a fixed mass scales the batch, it does not change the product.
        if field is None or value <= 0:
            continue
        name = inside_name(line.material, materials, evaluation.inputs.spec)
        aimed = isinstance(line.amount, s.Target)
        low, high, stride = span_of(value)
        yield Knob(
            key=line.id,
            label=message("target with {material}", material=name) if aimed else name,
            unit={"ratio": "ratio", "percent": "%"}.get(field, ""),
            value=value,
            low=low,
            high=high,
            stride=stride,
            step=step.id,
            line=line.id,
            field=field,
        )


def _of_step(step: s.Step) -> Iterator[Knob]:
    for field in step.tried:
        param, value = step.params()[field], getattr(step, field)
        if not isinstance(param, NumberParam) or not value or value <= 0:
            continue
        low, high, stride = span_of(value, param.low, param.high)
        yield Knob(
            key=f"{step.id}.{field}",
            label=_LABELS[field],
            unit=param.unit,
            value=value,
            low=low,
            high=high,
            stride=stride,
            step=step.id,
            line=None,
            field=field,
        )


def knobs(evaluation: Evaluation) -> tuple[Knob, ...]:
    """Returns the figures of a spec to vary, in the order of its steps, at most `MOST_KNOBS`: ratios, percents, targets, and the deciding figures of verbs."""
    found = (knob for step in evaluation.inputs.spec.steps for knob in (*_of_lines(evaluation, step), *_of_step(step)))
    return tuple(knob for knob, _ in zip(found, range(MOST_KNOBS), strict=False))
