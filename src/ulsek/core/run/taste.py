"""Taste: what to do about a verdict, in amounts, and the final amounts of a batch for its spec."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..base.figures import quantity
from ..base.messages import NOTHING, Computed, Message, Value, grams, message, sentences, short_name
from ..evaluation.flow_values import StepFlow
from ..materials.supply import material_of_key
from ..operations.amounts import Fixed
from ..properties.measure import PROPERTY
from ..spec import spec as s

USUAL_SHARE = 0.1
"""“Too strong” without saying by how much: a tenth, about what most people begin to notice."""
_SWEET_BRIX, _SHARP_G = 2.0, 0.2
_LEAST_LEFT = 0.1
"""Below a tenth of its strength a thing is made again, not mended."""


def _cut(done: StepFlow, share: float) -> Message:
    """Returns the plain liquid of the same °Bx that brings a strength of 1 + share back to 1: mass × share. Source: mass balance."""
    liquid = done.state.liquid
    mass_g, brix = liquid.mass_g * share, PROPERTY["brix"](liquid)
    # Hardly any sugar: water changes it no more than plain syrup would.
    if brix <= _SWEET_BRIX:
        return message("Cut it with {mass} of water.", mass=grams(mass_g))
    sugar_g, acid = mass_g * brix / 100.0, PROPERTY["acid_g_100ml"](liquid)
    syrup: dict[str, Value] = {
        "mass": grams(mass_g),
        "brix": quantity("brix", brix),
        "sugar": grams(sugar_g),
        "water": grams(mass_g - sugar_g),
    }
    if acid > _SHARP_G:
        return message(
            "Cut it with {mass} of plain syrup at {brix} ({sugar} sugar in {water} water): sweetness stays, acid falls to about {acid}; bring it back afterwards.",
            **syrup,
            acid=quantity("acid_g_100ml", acid / (1.0 + share)),
        )
    return message("Cut it with {mass} of plain syrup at {brix} ({sugar} sugar in {water} water): sweetness stays.", **syrup)


def taste_advice(verdict: str, share: float, done: StepFlow | None) -> Message:
    """Returns what to do about a verdict on a step: the plain syrup that dilutes what is too strong; the time or amount that what is too weak needs."""
    if done is None or verdict in ("right", "odd") or done.state.liquid.mass_g <= 0:
        return message("Keep a sample, note what it is, and ask your lead before going on.") if verdict == "odd" else NOTHING
    by = share or USUAL_SHARE
    # The share is relative to the intended strength, not to the present one.
    stands = 1.0 + by if verdict == "strong" else max(0.0, 1.0 - by)
    taken = message("Taken as {share} of the strength that it should have.", share=Computed(stands, decimals=2))
    return sentences(taken, _cut(done, by) if verdict == "strong" else _more(by, done))


def _more(by: float, done: StepFlow) -> Message:
    """Returns what brings a strength of 1 − `by` up to 1: more time while it still extracts, else by / (1 − by) more of the material."""
    wait = done.step.waiting_min
    # 1 − by must become 1, so by/(1 − by) of what is there is missing.
    more = Computed(100.0 * by / max(_LEAST_LEFT, 1.0 - by), decimals=0)
    if done.step.family == "extract" and wait > 0:
        # A first-order approach slows towards its plateau: about twice the share of the time for a share of strength.
        longer = Computed(2.0 * by * wait, "min", 0)
        return message(
            "Give it about {longer} more and taste again; with nothing left to give, add {more} % of what was steeped.",
            longer=longer,
            more=more,
        )
    return message("Add about {more} % more of what gives the taste, in two halves, tasting between them.", more=more)


@dataclass(frozen=True, slots=True)
class SettledAmount:
    """An amount that was decided by taste during a batch, scaled to one times the spec [g].

    Either `line` or `step` is set: a line of the spec that is written as "to taste", or a step that the batch added. The other is empty.
    """

    line: str
    step: str
    material: str
    mass_g: float
    text: Message


def settled_in_spec(
    spec: s.Spec, made: s.Spec, actual_g: Mapping[str, float], extra: set[str], factor: float, names: Mapping[str, str]
) -> tuple[SettledAmount, ...]:
    """Returns the amounts of this batch that the spec leaves open or does not have: lines to taste with their final amount, and steps that were added; in the
    amounts of one spec [g].
    """

    def name(line: s.Line) -> str:
        return short_name(names[line.material])

    found = []
    for line in spec.lines.values():
        amount = line.amount
        if isinstance(amount, Fixed) and amount.to_taste and amount.dimension == "mass" and line.id in actual_g:
            # What grows with the batch is written for one times the spec; what does not is written as it was.
            now = actual_g[line.id] / (factor if amount.scales else 1.0)
            written = grams(amount.quantity)
            text = message(
                "{material:capital}, to taste: {now} ({written} is written)", material=name(line), now=grams(now), written=written
            )
            found.append(SettledAmount(line.id, "", material_of_key(line.material), now, text))
    for step in made.steps:
        for line in step.lines if step.id in extra else ():
            if line.id in actual_g:
                now = actual_g[line.id] / factor
                text = message("{material:capital}, added by taste: {now}", material=name(line), now=grams(now))
                found.append(SettledAmount("", step.id, material_of_key(line.material), now, text))
    return tuple(found)
