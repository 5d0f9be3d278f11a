"""Corrections: additions that bring a product to its aims, and an addition written into the draft."""

from __future__ import annotations

import copy
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ..base.messages import Given, Message, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..evaluation.evaluate import Evaluation
from ..materials.material import Material
from ..operations.catalogue import VERBS
from ..properties.measure import figure_of, measure
from ..properties.ph import ph_or_neutral
from ..spec import spec as s
from .aims import read_aim
from .solver import Addition, Solution, alternatives, solve

REPAIR_MATERIALS = ("water", "white_sugar", "citric_acid")
"""Keys of the materials that a correction may take of a kind that the spec itself does not use."""
FLAG_SHARE = 0.005
"""A flag on the plate is met within this share of its figure: closer than a hand can set it. House experience."""
_LEAST_FLAG = {"sugar_g_100ml": 1.0, "acid_g_100ml": 0.1}
"""The share is taken of at least so much [g/100 mL], so that a flag at nothing can be met."""


def before_bottling(evaluation: Evaluation) -> int:
    """Returns the index of the last step before cooling and bottling, after which the product can still be corrected. Raises Refusal for a spec without steps."""
    # After cooling and bottling nothing can be added any more.
    places = [i for i, done in enumerate(evaluation.flow.steps) if not done.step.ends and evaluation.figures[i].get("volume_ml")]
    if not places:
        raise Refusal(message("There is nothing to correct yet"), "steps", remedy=message("Pour something in first"), code="empty")
    return places[-1]


def repair_materials(spec: s.Spec, materials: Mapping[str, Material]) -> list[Material]:
    """Returns the materials that may be added: the spec's own water, sugars and acids, and the usual one of each kind that it does not use."""
    used = [materials[key] for key in spec.material_keys if key in materials]
    # A spec with cane sugar is corrected with cane sugar; white sugar is offered only where none is used.
    kinds = {material.kind for material in used}
    spare = [material for key, material in materials.items() if key not in spec.material_keys and material.kind not in kinds]
    return [material for material in (*used, *spare) if material.kind in ("water", "sweetener", "acid")]


@dataclass(frozen=True, slots=True, kw_only=True)
class ToFlag:
    """The additions that bring the product to a point on the plate, with their text, and the figures that it has then [°Bx, g/100 mL, mL]."""

    additions: tuple[Addition, ...]
    words: Message
    brix: float
    acid_g_100ml: float
    sugar_g_100ml: float
    volume_ml: float


def to_the_flag(evaluation: Evaluation, sugar_g_100ml: float, acid_g_100ml: float) -> ToFlag:
    """Returns the fewest additions that bring the product, before cooling and bottling, to a sugar and an acid [g/100 mL], each within `FLAG_SHARE`.

    Raises Refusal for figures that are out of bounds, at their place, and for a point that no additions reach.
    """
    flag = {"sugar_g_100ml": sugar_g_100ml, "acid_g_100ml": acid_g_100ml}
    goals = [s.Goal(key, value, FLAG_SHARE * max(value, _LEAST_FLAG[key])) for key, value in flag.items()]  # type: ignore[arg-type]
    liquid = evaluation.flow.steps[before_bottling(evaluation)].state.liquid
    found = solve(liquid, goals, repair_materials(evaluation.inputs.spec, evaluation.inputs.materials))
    return ToFlag(
        additions=found.additions,
        words=found.words,
        **{name: found.figures[name] for name in ("brix", "acid_g_100ml", "sugar_g_100ml", "volume_ml")},
    )


@dataclass(frozen=True, slots=True)
class Ways:
    """Alternative sets of additions that reach the aims, the fewest additions first."""

    ways: tuple[Solution, ...]


def ways(evaluation: Evaluation, asked: Sequence[Any], offered: Sequence[Material], most: int = 3) -> tuple[Solution, ...]:
    """Returns up to `most` sets of additions that bring the product, before cooling and bottling, to the aims, the fewest additions first.

    Each of `asked` is an aim in its open form; its bound may also be "keep": as it is now. `cost` is in the house's currency for the batch. Raises Refusal for
    what cannot be aimed at, at its place, and for aims that no additions reach.
    """
    if not asked:
        raise Refusal(message("Nothing is aimed at"), "aims", remedy=message("Give at least one figure and its value"), code="missing")
    place = before_bottling(evaluation)
    liquid, spent = evaluation.flow.steps[place].state.liquid, float(evaluation.cost.batch)
    aims = []
    for n, item in enumerate(asked):
        keep = isinstance(item, Mapping) and item.get("bound") == "keep"
        # “Keep” is an aim at the present value: additions for one figure would move the others.
        aims.append(read_aim({**item, "value": _now(item.get("property"), liquid, spent), "bound": "is"} if keep else item, f"aims/{n}"))
    return alternatives(liquid, aims, offered, most, spent)


def _now(name: Any, liquid: Contents, spent: float) -> float | None:
    """Returns the present value of the figure of an aim, in its unit; None for an unknown figure, which `read_aim` refuses."""
    if name == "cost":
        return spent
    if name == "ph":
        return ph_or_neutral(liquid)
    return measure(liquid).get(str(name))


def take_addition(draft: Mapping[str, Any], evaluation: Evaluation, material: str, mass_g: float) -> dict[str, Any]:
    """Returns the draft with `mass_g` [g] more of `material`.

    A target line of that material gets the figure that the vessel will have; a line by ratio or mass grows by as much; otherwise a step before cooling and
    bottling is added. Raises Refusal for a mass of 0 g or less.
    """
    if not mass_g > 0:
        raise Refusal(message("{mass} g is not an amount to add", mass=Given(mass_g)), "mass_g", message("it must be more than nothing"))
    changed = copy.deepcopy(dict(draft))
    masses = evaluation.flow.masses
    found = ((step, line) for step in evaluation.inputs.spec.steps for line in step.lines if line.material == material)
    for step, line in found:
        entry = next(entry for item in changed["steps"] if item["id"] == step.id for entry in item["lines"] if entry["id"] == line.id)
        # A target stays a target: with a mass in its place the spec would no longer correct itself.
        if isinstance(line.amount, s.Target):
            unit = evaluation.inputs.materials[material].per_gram()
            place = next(done for done in evaluation.flow.steps if done.step.id == step.id)
            entry["amount"]["value"] = round(figure_of(line.amount.property, place.state.liquid + unit.scaled(mass_g)), 3)
        elif isinstance(line.amount, s.Ratio | s.Percent):
            # A ratio stays a ratio, so that the corrected spec scales as before.
            key = "ratio" if isinstance(line.amount, s.Ratio) else "percent"
            entry["amount"][key] = round(getattr(line.amount, key) * (masses[line.id] + mass_g) / masses[line.id], 5)
        else:
            # Anything else becomes a plain mass: what it was written as no longer says how much goes in.
            entry["amount"] = {"kind": "fixed", "mass_g": round(masses[line.id] + mass_g, 2)}
        return changed
    # Before cooling and bottling, where a correction can still be stirred in.
    late = next(
        (i for i, item in enumerate(changed["steps"]) if (verb := VERBS.get(item.get("verb"))) and verb.ends), len(changed["steps"])
    )
    taken = {item["id"] for item in changed["steps"]}
    name = next(f"adjust{n}" for n in range(1, 1000) if f"adjust{n}" not in taken)
    vessel = evaluation.flow.steps[before_bottling(evaluation)].step.vessel
    line_data = {"id": f"{name}.{material}", "material": material, "amount": {"kind": "fixed", "mass_g": round(mass_g, 2)}}
    # Several additions of one correction stand in one step.
    if late and changed["steps"][late - 1]["id"].startswith("adjust"):
        changed["steps"][late - 1]["lines"].append({**line_data, "id": f"{changed['steps'][late - 1]['id']}.{material}"})
    else:
        changed["steps"].insert(late, {"id": name, "verb": "combine", "vessel": vessel, "lines": [line_data]})
    return changed
