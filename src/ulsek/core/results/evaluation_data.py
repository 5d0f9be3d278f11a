"""The open form of an evaluation: what files, screens and the command line get of it."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.substances import ACIDS, SUGARS
from ..evaluation.evaluate import Evaluation
from ..evaluation.flow import StepFlow
from ..properties.acidity import acids_g_100ml
from ..properties.bounds import is_solution
from ..properties.density import volume_at_ml
from ..properties.measure import LABEL
from ..properties.solubility import crystals
from ..properties.sugar import sugars_g_100ml
from ..safety.barriers import Evidence
from ..safety.hazards import bottle_words
from ..safety.longer_shelf_life import ways_to_keep_longer
from ..safety.shelf_life import HouseDate


def _stood(done: StepFlow) -> dict[str, float]:
    """Grams by band that stood in the step's vessel before its lines went in."""
    bands = {str(band): grams for band, grams in done.before.contents.bands().items()}
    for added in done.added:
        if not added.by_itself:
            for band, grams in added.contents.bands().items():
                bands[band] = max(0.0, bands[band] - grams)
    return bands


def _by_kind(done: StepFlow) -> dict[str, Any]:
    """What one figure cannot hold: sugars and acids each by kind, hot volume, and what may crystallise where it stands."""
    liquor, t_c = done.matter.liquor, done.temperature_c
    if not is_solution(liquor):
        return {}
    hottest = 40.0 if liquor.of("ethanol") else 80.0
    return {
        "sugars_g_100ml": sugars_g_100ml(liquor),
        "acids_g_100ml": {key: by.as_data() for key, by in acids_g_100ml(liquor).items()},
        # Hotter than the density tables the volume is that at 20 °C, and says so.
        "volume_hot_ml": volume_at_ml(liquor, t_c if 0.0 <= t_c <= hottest else 20.0),
        "volume_hot_at_c": t_c if 0.0 <= t_c <= hottest else 20.0,
        "crystals_g": {found.substance: found.mass_g for found in crystals(liquor, t_c)} if 0.0 <= t_c <= 50.0 else None,
    }


def _figure_data(evaluation: Evaluation, step: int, name: str, ranges: bool) -> dict[str, float]:
    value = evaluation.figures[step][name]
    # What is not there at all has no range, and need not be worked out.
    return (
        evaluation.range(step, name) if ranges and (value or name in ("brix_reading", "acid_g_100ml")) else Range.exact(value)
    ).as_data()


def _step_data(evaluation: Evaluation, i: int, ranges: bool, ranged: Collection[str] | None) -> dict[str, Any]:
    done = evaluation.plain.steps[i]
    return {
        "id": done.step.id,
        "vessel": done.vessel,
        "begins_min": done.begins_min,
        "ends_min": done.ends_min,
        "hands_on_min": done.step.hands_min,
        "waiting_min": done.step.waiting_min,
        "people": done.step.people,
        "gear": list(done.step.gear or done.step.usual_gear),
        "check": done.step.check or done.step.usual_check,
        "continues": i > 0 and evaluation.plain.steps[i - 1].vessel == done.step.vessel,
        "stood": _stood(done),
        "temperature_c": done.temperature_c,
        "bands": done.contents.bands(),
        "added": [
            {
                "line": added.line,
                "material": added.material,
                "mass_g": (evaluation.line_range(i, position) if ranges else Range.exact(added.mass_g)).as_data(),
                "bands": added.contents.bands(),
            }
            for position, added in enumerate(done.added)
        ],
        "leaving": [
            {
                "name": stream.name,
                "kind": stream.kind,
                "kept": stream.kept,
                "mass_g": stream.contents.mass_g,
                "bands": stream.contents.bands(),
            }
            for stream in done.leaving
        ],
        **{name: _figure_data(evaluation, i, name, ranges and (ranged is None or name in ranged)) for name in evaluation.figures[i]},
    }


def _final_data(evaluation: Evaluation, ranges: bool) -> dict[str, Any] | None:
    if evaluation.last is None or evaluation.final is None:
        return None
    figures = {name: _figure_data(evaluation, evaluation.last, name, ranges) for name in evaluation.figures[evaluation.last]}
    shares = (
        {name: evaluation.slopes(evaluation.last, name).shares(evaluation.belief) for name in ("brix", "acid_g_100ml", "volume_ml")}
        if ranges
        else {}
    )
    narrowings = [evaluation.narrowing(name) for name in ("brix", "acid_g_100ml")] if ranges else []
    return {
        **figures,
        "bands": evaluation.plain.steps[evaluation.last].contents.bands(),
        **evaluation.deep(evaluation.last, LABEL, ranges=ranges),
        "colour": evaluation.colour.as_data() if evaluation.colour else None,
        "sugars_g": {key: evaluation.final.of(key) for key in SUGARS if evaluation.final.of(key)},
        "acids_g": {key: evaluation.final.of(key) for key in ACIDS if evaluation.final.of(key)},
        "doses_g_l": evaluation.doses_g_l,
        "takes_min": max(done.ends_min for done in evaluation.plain.steps),
        "serves": figures["volume_ml"]["value"] / evaluation.inputs.spec.serve_ml,
        "keeps_days": evaluation.keeping.days,
        "keeping": evaluation.keeping.as_data(),
        "cost": str(evaluation.cost.batch),
        "cost_per_litre": str(evaluation.cost.per_litre),
        "cost_left": str(evaluation.cost.left),
        "unpriced": list(evaluation.cost.unpriced),
        "allergens": list(evaluation.hazards.allergens),
        "cautions": list(evaluation.hazards.cautions),
        "free_from": list(evaluation.hazards.free_from),
        "allergens_unknown": list(evaluation.hazards.unknown),
        "allergens_words": bottle_words(evaluation.hazards.allergens, evaluation.hazards.unknown),
        "restricted": [item.as_data() for item in evaluation.hazards.restricted],
        "shares": {
            name: [{"name": evaluation.group_name(group), "share": share} for group, share in parts.items()]
            for name, parts in shares.items()
        },
        "narrowing": [found.as_data() for found in narrowings if found],
    }


def keeping_data(evaluation: Evaluation, evidence: Evidence, said: HouseDate | None = None) -> dict[str, Any]:
    """How long the product keeps when this is shown of it, and what would make it keep longer. Refuses a spec that makes nothing."""
    if evaluation.final is None or not evaluation.final.of("water"):
        raise Refusal("Nothing is made that keeping is known of", "steps", remedy="Add a step and put something in", code="nothing_made")
    longer = [way.as_data() for way in ways_to_keep_longer(evaluation.final, evaluation.rules.keeping)]
    return {"keeping": evaluation.kept(evidence, said).as_data(), "keeps_longer": longer}


def evaluation_data(
    evaluation: Evaluation, *, ranges: bool = True, deep: bool = False, ranged: Collection[str] | None = None
) -> dict[str, Any]:
    """The result in its open form: steps, final, by_products, losses, remarks, refusals; `deep` with every figure of every vessel;
    `ranged` names the figures that carry a range at every step, where not all of them do."""
    steps = [_step_data(evaluation, i, ranges, ranged) for i in range(len(evaluation.plain.steps))]
    if deep:
        for i, step in enumerate(steps):
            step["properties"] = {**evaluation.deep(i, ranges=ranges), **_by_kind(evaluation.plain.steps[i])}
    faults = [*evaluation.inputs.spec.faults, *([evaluation.plain.refusal] if evaluation.plain.refusal else [])]
    return {
        "steps": steps,
        "final": _final_data(evaluation, ranges),
        "by_products": [
            {
                **stream,
                "left_g": evaluation.plain.streams[stream["name"]].mass_g
                if stream["name"] in evaluation.plain.streams
                else stream["mass_g"],
            }
            for step in steps
            for stream in step["leaving"]
            if stream["kept"]
        ],
        "leftovers": [item.as_data() for item in evaluation.leftovers],
        "losses": [stream for step in steps for stream in step["leaving"] if not stream["kept"]],
        **(
            {"keeps_longer": [way.as_data() for way in ways_to_keep_longer(evaluation.final, evaluation.rules.keeping)]}
            if deep and evaluation.final and evaluation.final.of("water")
            else {}
        ),
        "remarks": [remark.as_data() for remark in (*evaluation.remarks, *(evaluation.end_remarks if ranges else ()))],
        "refusals": [fault.as_data() for fault in faults],
    }
