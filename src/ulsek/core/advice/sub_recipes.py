"""Sub-recipes: the product or a by-product of one spec as a material of another, with its composition, ranges, allergens, cautions and cost."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from ..base.answer import encode
from ..base.messages import message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..evaluation.evaluate import Evaluation, evaluate
from ..evaluation.flow_values import Flow
from ..evaluation.sensitivity import changes
from ..materials.material import Material, read_material
from ..materials.vessel_state import VesselState
from ..safety.hazards import contained_mg
from ..safety.house_rules import Rules
from ..spec.json_form import read_spec

_DEEPEST = 8
_SMALLEST = 1e-7


def output_of(evaluation: Evaluation, output: str) -> VesselState:
    """Returns the contents of an output of a spec: its "product", or a by-product by name. Raises Refusal for a spec that cannot be made, and for a name that
    it does not make.
    """
    if evaluation.flow.refusal:
        raise evaluation.flow.refusal
    if output == "product":
        if evaluation.last is None:
            raise Refusal(message("This spec makes nothing"), "steps", remedy=message("Put something in"))
        return evaluation.flow.steps[evaluation.last].state
    streams = evaluation.flow.streams
    if output not in streams:
        names = ", ".join(["product", *streams])
        raise Refusal(
            message("The spec leaves nothing called “{output}”", output=output),
            "output",
            message("it makes {names}", names=names),
            message("Name one of them"),
            "unknown_reference",
        )
    return streams[output]


def _grams_per_100g(evaluation: Evaluation, output: str) -> dict[str, dict[str, float] | float]:
    """Returns the composition of an output [g per 100 g by substance], with the ranges that the uncertain inputs of the spec give it."""
    best = output_of(evaluation, output).contents

    def shares(contents: Contents) -> dict[str, float]:
        mass = contents.mass_g
        return {key: 100.0 * grams / mass for key, grams in contents.grams.items()} if mass else {}

    def moved(flow: Flow) -> dict[str, float]:
        if flow.refusal or (output != "product" and output not in flow.streams):
            return middle
        state = flow.steps[evaluation.last].state if output == "product" and evaluation.last is not None else flow.streams[output]
        return shares(state.contents)

    middle = shares(best)
    last = len(evaluation.flow.steps) - 1
    known: dict[int, dict[str, float]] = {}

    # All substances of one pass are read from its flow once, whatever order they are asked in.
    def change(key: str, value: float, flow: Flow) -> float:
        if id(flow) not in known:
            known[id(flow)] = moved(flow)
        return known[id(flow)].get(key, value) - value

    found: dict[str, dict[str, float] | float] = {}
    for key, value in middle.items():
        if value < _SMALLEST or key == "water":
            continue
        ups, _ = changes(evaluation.moved, last, partial(change, key, value))
        # The spread of one substance by all uncertain inputs of the spec, as for any figure.
        half = evaluation.estimate.spread(ups)
        found[key] = {"value": value, "low": max(0.0, value - half), "high": min(100.0, value + half)} if half > 1e-9 * value else value
    return found


def material_of(evaluation: Evaluation, output: str = "product") -> dict[str, Any]:
    """Returns an output of a spec as a material in the open form, with its composition by substance.

    Allergens, cautions and the shortest keeping class are those of everything that went in; the price is the cost of the batch over all outputs by mass. The
    ranges of all substances move together, which makes them wider, never narrower. Source: mass balance.
    """
    state = output_of(evaluation, output)
    used = evaluation.used
    # Cost is shared by mass: whatever leaves has taken its share of the batch.
    worth = [evaluation.flow.steps[evaluation.last].state.mass_g if evaluation.last is not None else 0.0]
    worth += [stream.mass_g for stream in evaluation.flow.streams.values()]
    total_kg = math.fsum(worth) / 1000.0
    spec = evaluation.inputs.spec
    body: dict[str, Any] = {
        "name": spec.name if output == "product" else f"{output[:1].upper()}{output[1:]}, from {spec.name}",
        "kind": "own" if output == "product" else "by_product",
        "makeup": {"by": "substance", "g_per_100g": _grams_per_100g(evaluation, output), "source": f"worked out from {spec.name}"},
        "allergens": list(evaluation.hazards.allergens),
        **({"allergens_unknown": list(evaluation.hazards.unknown)} if evaluation.hazards.unknown else {}),
        "cautions": list(evaluation.hazards.cautions),
        "vegan": all(material.vegan for material in used),
        "keeping_class": evaluation.keeping.keeping_class,
        "keeps_days": evaluation.keeping.days,
        "defined": evaluation.weighed and output == "product",
    }
    contained = contained_mg(evaluation.went_in_g, evaluation.inputs.materials, evaluation.rules.limits)
    if contained and total_kg > 0:
        # Worst case: all of it is in the product, and none in what was strained out.
        grams = worth[0] or 1000.0 * total_kg
        body["contains_mg_g"] = {name: encode(Range(mg.value / grams, mg.low / grams, mg.high / grams)) for name, mg in contained.items()}
    if total_kg > 0 and not evaluation.cost.unpriced:
        body["price_per_kg"] = f"{float(evaluation.cost.batch) / total_kg:.4f}"
    if state.pieces:
        body["pieces"] = True
    return body


def read_materials(data: Any, keys: tuple[str, ...], rules: Rules | None = None, depth: int = 0) -> dict[str, Material]:
    """Returns the materials that a spec names, from the `materials` of a file. One that another spec makes (``makeup: {"by": "spec"}``) is evaluated first.

    Raises Refusal for a key that is not described, and for specs nested deeper than eight, which can only be a circle.
    """
    described: Mapping[str, Any] = data if isinstance(data, dict) else {}
    found: dict[str, Material] = {}
    for key in keys:
        body = described.get(key)
        if isinstance(body, dict) and isinstance(body.get("makeup"), dict) and body["makeup"].get("by") == "spec":
            body = {
                **_made(key, body["makeup"], described, rules, depth),
                **{name: value for name, value in body.items() if name != "makeup"},
            }
        found[key] = read_material(key, body)
    return found


def specs_embedded(materials: Any, load: Callable[[str], Any], depth: int = 0) -> Any:
    """Returns the materials of a file with every spec that they name by id put in its place; `load` returns the open form of a spec by its id. Stops at eight
    levels.
    """
    if not isinstance(materials, dict) or depth > _DEEPEST:
        return materials
    found = dict(materials)
    for key, body in materials.items():
        composition = body.get("makeup") if isinstance(body, dict) else None
        if isinstance(composition, dict) and composition.get("by") == "spec" and isinstance(composition.get("spec"), str):
            inner = load(composition["spec"])
            if isinstance(inner, dict):
                inner = {**inner, "materials": specs_embedded(inner.get("materials"), load, depth + 1)}
            found[key] = {**body, "makeup": {**composition, "spec": inner}}
    return found


def _made(key: str, composition: Mapping[str, Any], described: Mapping[str, Any], rules: Rules | None, depth: int) -> dict[str, Any]:
    # No house nests so deep on purpose, so it is a circle.
    if depth >= _DEEPEST:
        raise Refusal(
            message("“{key}” nests deeper than {deepest} specs", key=key, deepest=_DEEPEST),
            f"materials/{key}",
            message("it goes round in a circle"),
            message("Break the circle"),
            "circle",
        )
    try:
        inner = read_spec(composition.get("spec"))
        own = (composition.get("spec") or {}).get("materials") or {}
        materials = read_materials({**described, **own}, inner.material_keys, rules, depth + 1)
        return material_of(evaluate(inner, materials, rules=rules), str(composition.get("output") or "product"))
    except Refusal as refusal:
        raise Refusal(
            refusal.what, f"materials/{key}/{refusal.where}".rstrip("/"), refusal.bound, refusal.remedy, refusal.code
        ) from refusal
