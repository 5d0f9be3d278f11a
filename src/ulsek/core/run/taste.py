"""Taste: what to do about a verdict, in amounts, and what a batch's own end values would be in its spec."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..base import number_format as say
from ..base.figures import with_unit
from ..evaluation.flow import StepFlow
from ..materials.supply import material_of_key
from ..operations.amounts import Fixed
from ..properties.measure import PROPERTY
from ..spec import spec as s
from ..spec.sentences import short_name

USUAL_SHARE = 0.1
"""“Too strong” without saying by how much: a tenth, about what most people begin to notice."""
_SWEET_BRIX, _SHARP_G = 2.0, 0.2
_LEAST_LEFT = 0.1
"""Below a tenth of its strength a thing is made again, not mended."""


def _cut(done: StepFlow, share: float) -> str:
    """Plain liquid of the same °Bx that brings a strength of 1 + share back to 1: mass × share. Source: mass balance."""
    liquor = done.matter.liquor
    grams = liquor.mass_g * share
    brix = PROPERTY["brix"](liquor)
    if brix <= _SWEET_BRIX:
        return f"Cut it with {say.grams(grams)} of water."
    sugar = grams * brix / 100.0
    words = f"Cut it with {say.grams(grams)} of plain syrup at {with_unit('brix', brix)} ({say.grams(sugar)} sugar in {say.grams(grams - sugar)} water): sweetness stays"
    acid = PROPERTY["acid_g_100ml"](liquor)
    if acid > _SHARP_G:
        return f"{words}, acid falls to about {with_unit('acid_g_100ml', acid / (1.0 + share))}; bring it back afterwards."
    return f"{words}."


def taste_advice(verdict: str, share: float, done: StepFlow | None) -> str:
    """What to do about a verdict of a step: how much plain syrup cuts what is too strong, how much longer or more what is too weak takes."""
    if done is None or verdict in ("right", "odd") or done.matter.liquor.mass_g <= 0:
        return "Keep a sample, note what it is, and ask your lead before going on." if verdict == "odd" else ""
    by = share or USUAL_SHARE
    # A share is of what it should be, not of what stands in the vessel.
    said = f"Taken as {say.figure(1.0 + by if verdict == 'strong' else max(0.0, 1.0 - by), 2)} of the strength that it should have. "
    if verdict == "strong":
        return said + _cut(done, by)
    return said + _more(by, done)


def _more(by: float, done: StepFlow) -> str:
    """What brings a strength of 1 − `by` up to 1: longer while it still gives, else by / (1 − by) more of what gives it."""
    wait = done.step.waiting_min
    more = by / max(_LEAST_LEFT, 1.0 - by)
    if done.step.family == "extract" and wait > 0:
        return f"Give it about {say.amount(2.0 * by * wait, 'min', 0)} more and taste again; with nothing left to give, add {more:.0%} of what was steeped."
    return f"Add about {more:.0%} more of what gives the taste, in two halves, tasting between them."


@dataclass(frozen=True, slots=True)
class SettledAmount:
    """An amount that was decided by taste during a batch, scaled to one times the spec [g].

    Either `line` or `step` is set: a line of the spec that is written as "to taste", or a step that the batch added. The other is empty.
    """

    line: str
    step: str
    material: str
    mass_g: float
    text: str


def settled_in_spec(
    spec: s.Spec, made: s.Spec, actual_g: Mapping[str, float], extra: set[str], factor: float, names: Mapping[str, str]
) -> tuple[SettledAmount, ...]:
    """What this batch settled that the spec leaves open or does not have: lines to taste with their end value, and steps that were added; in the
    spec's own amounts [g], so that the next version may take them.
    """
    found = []
    for line in spec.lines.values():
        amount = line.amount
        if isinstance(amount, Fixed) and amount.to_taste and amount.dimension == "mass" and line.id in actual_g:
            now = actual_g[line.id] / (factor if amount.scales else 1.0)
            text = f"{short_name(names[line.material]).capitalize()}, to taste: {say.grams(now)} ({say.grams(amount.quantity)} is written)"
            found.append(SettledAmount(line.id, "", material_of_key(line.material), now, text))
    for step in made.steps:
        for line in step.lines if step.id in extra else ():
            if line.id in actual_g:
                now = actual_g[line.id] / factor
                text = f"{short_name(names[line.material]).capitalize()}, added by taste: {say.grams(now)}"
                found.append(SettledAmount("", step.id, material_of_key(line.material), now, text))
    return tuple(found)
