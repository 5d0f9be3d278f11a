"""Names with a legal meaning: whether the name of a spec agrees with its contents, by place. Rules are dated, sourced data that a house may replace."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from typing import Any

from ..base.figures import FIGURES
from ..base.messages import NOTHING, Computed, Message, message, sentences, term
from ..base.remarks import Remark
from ..evaluation.evaluate import Evaluation
from ..materials.supply import material_of_key
from ..safety.hazards import FOLLOW
from ..safety.shipped_rules import starting_names


def _figures(evaluation: Evaluation) -> dict[str, float]:
    """Returns the figures of the product, with those that only names ask for: quinine [mg/L, high end], added sugar [% of the mass]."""
    if evaluation.last is None:
        return {}
    figures = dict(evaluation.figures[evaluation.last])
    figures["quinine_mg_l"] = max(
        (item.per_litre_mg.high for item in evaluation.hazards.restricted if item.substance == "quinine"), default=0.0
    )
    # Added sugar is what was poured as a sweetener; the fruit's own is not added.
    sweet = sum(grams for key, grams in evaluation.went_in_g.items() if evaluation.inputs.materials[key].kind == "sweetener")
    figures["added_sugar_percent"] = 100.0 * sweet / figures["mass_g"] if figures.get("mass_g") else 0.0
    return figures


def _against(rule: Mapping[str, Any], evaluation: Evaluation, figures: Mapping[str, float]) -> Message:
    """Returns what contradicts the name, as a phrase; empty if nothing does."""
    kinds = {material.kind: material.name.lower() for material in evaluation.used}
    kinds |= {material_of_key(material.key): material.name.lower() for material in evaluation.used}
    # Some claims no sum can show, such as “healthy”: they are questioned whatever is in it.
    if rule.get("always"):
        return message("Nothing here can show that")
    held = [kinds[kind] for kind in rule.get("without", ()) if kind in kinds]
    if held:
        return message("It holds {material}", material=held[0])
    if rule.get("needs") and not any(kind in kinds for kind in rule["needs"]):
        return message("It holds no {material}", material=term(rule["needs"][0]))
    if "claim" in rule and rule["claim"] not in evaluation.hazards.free_from:
        return message("It is not free from {claim}", claim=term(rule["claim"]))
    value = figures.get(str(rule.get("figure")), 0.0)
    if value > rule.get("most", value) or value < rule.get("least", value):
        return message("It has {figure}", figure=Computed(value, FIGURES[rule["figure"]].unit, 2))
    return NOTHING


def legal_names(evaluation: Evaluation, place: str = "", rules: Mapping[str, Any] | None = None) -> Iterator[Remark]:
    """Yields a remark for every word of the spec's name whose legal meaning, in `place` (empty: anywhere), the product does not meet."""
    if evaluation.last is None or not evaluation.used:
        return
    name, figures = evaluation.inputs.spec.name.lower(), _figures(evaluation)
    for rule in (rules or starting_names())["rules"]:
        if place and rule["place"] != place:
            continue
        # Whole words only: “honey” is not in “honeydew”.
        word = next((word for word in (rule["word"], *rule["also"]) if re.search(rf"(?<![\w-]){re.escape(word)}(?![\w-])", name)), None)
        against = _against(rule, evaluation, figures) if word else NOTHING
        if word and against:
            text = message(
                "“{word}” in {place} means {means} ({source}). {against}.",
                word=word,
                place=rule["place"],
                means=term(rule["means"]),
                source=rule["source"],
                against=against,
            )
            yield Remark("legal_name", "check", "name", text, sentences(message("Change the name."), FOLLOW))
