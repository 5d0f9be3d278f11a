"""Outputs of a spec as materials of the house: the product and every by-product that is kept."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ulsek.core.advice.sub_recipes import material_of
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.recipe_text.templates import output_key as key_of_output
from ulsek.stores.queries import is_typical

from .projection import material_key_of


def output_key(spec_key: str, by_product: str = "") -> str:
    """Returns the key of a spec's product, or of one of its by-products, as a material."""
    return key_of_output(material_key_of(spec_key), by_product)


def outputs_of(evaluation: Evaluation, spec_key: str) -> dict[str, Mapping[str, Any]]:
    """Returns the materials by key. One whose key a typical material has already is named as the house's own."""
    found = {output_key(spec_key): material_of(evaluation)}
    for name in evaluation.flow.streams:
        if evaluation.flow.streams[name].mass_g > 0:
            found[output_key(spec_key, name)] = material_of(evaluation, name)
    return {(f"house_{key}" if is_typical(key) else key): {**body, "made_by": spec_key} for key, body in found.items()}


def withdrawn_outputs(outputs: dict[str, Mapping[str, Any]], why: str) -> dict[str, Mapping[str, Any]]:
    """Returns the same, each with the withdrawal as a caution for everything that is made with it."""
    return {key: {**body, "cautions": [f"Withdrawn: {why}", *body.get("cautions", [])]} for key, body in outputs.items()}
