"""Process histories along a flow: what each step does to the history of every vessel and by-product."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import replace

from ..materials.material import Material
from ..materials.vessel_state import SHELF_C
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..properties.alcohol import abv
from ..properties.density import volume_ml
from ..safety.process_history import ProcessHistory
from .flow_values import Flow, StepFlow

_HEATS = ("heat", "extract", "clarify")
"""Families of verbs whose own temperature heats what is in the vessel. What is only stirred into something hot is not heated through."""
_STRONG_ABV = 20.0
_SHORTEST_MIN = 15.0
"""Waits below a quarter of an hour are work, not standing [min]; house experience."""


def _after(
    history: ProcessHistory, done: StepFlow, materials: Mapping[str, Material], warm: Mapping[str, float], *, skipped: bool
) -> ProcessHistory:
    """Returns the process history of a vessel after a step."""
    step, after = done.step, done.after.state
    # A step that was skipped, and what is only poured onto something hot, proves no heat.
    reached = after.temperature_c if step.family in _HEATS and not skipped else SHELF_C
    heated = {key: max(hottest, reached) for key, hottest in history.heated_c.items()}
    found = replace(history, heated_c=heated, hottest_c=max(history.hottest_c, reached), ends_min=max(history.ends_min, done.ends_min))
    if reached >= warm["below_c"] and step.verb != "cool":
        found = replace(found, heat_ends_min=done.ends_min)
    if step.verb == "cool" and not skipped:
        found = replace(found, cooled_at_min=done.ends_min)
    # From about 20 % vol on a time in the danger zone is not counted: alcohol itself holds growth back.
    strong = after.liquid.of("ethanol") > 0 and abv(after.liquid.of("ethanol"), volume_ml(after.liquid)) >= _STRONG_ABV
    perishable = any(key in materials and not materials[key].defined for key in heated)
    # Cooling has its own two-stage limit and is not counted twice.
    stands = step.waiting_min if step.verb != "cool" and not skipped else 0.0
    if stands >= _SHORTEST_MIN and perishable and not strong and warm["above_c"] < after.temperature_c < warm["below_c"]:
        # The step that stands longest is the one to change, so it is the one that is named.
        longest = step.id if stands > 0.5 * (history.warm_min + stands) else history.warm_step
        found = replace(found, warm_min=history.warm_min + stands, warm_step=longest or step.id)
    return found


def process_histories(
    flow: Flow, materials: Mapping[str, Material], warm: Mapping[str, float], skipped: Collection[str] = ()
) -> list[dict[str, ProcessHistory]]:
    """Returns after each step the history of every vessel and by-product, by the name that a line uses (`vessel:ID`, `by_product:NAME`).

    `warm` holds the bounds of the danger zone (`above_c`, `below_c` [°C]). A `skipped` step does not heat. Source: temperatures and times of the flow.
    """
    now: dict[str, ProcessHistory] = {}
    found = []
    for done in flow.steps:
        vessel_id = f"{VESSEL}{done.step.vessel}"
        history = now.get(vessel_id, ProcessHistory())
        for added in done.added:
            if added.by_itself:
                continue
            # From Stores a material comes raw; from another vessel it brings what was done to it there.
            came = now.get(added.material, ProcessHistory()) if added.own else ProcessHistory({added.material: SHELF_C})
            history = history.joined(came)
            # An unheated product is as old as the first perishable thing in it.
            if history.mixed_at_min is None and any(key in materials and not materials[key].defined for key in history.heated_c):
                history = replace(history, mixed_at_min=done.begins_min)
        history = _after(history, done, materials, warm, skipped=done.step.id in skipped)
        for stream in done.outgoing:
            if stream.kept:
                name = f"{BY_PRODUCT}{stream.name}"
                now[name] = now[name].joined(history) if name in now else history
        target = f"{VESSEL}{done.step.into}" if done.step.into else vessel_id
        if target == vessel_id:
            now[vessel_id] = history
        elif done.step.verb == "split":
            now[vessel_id] = history
            now[target] = now[target].joined(history) if target in now else history
        else:
            now[target] = now[target].joined(history) if target in now else history
            now.pop(vessel_id, None)
        found.append(dict(now))
    return found
