"""Fold: a spec and the events of one batch, as the state of the run, with every amount that is still to come."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from ..advice.corrections import before_bottling, repair_materials
from ..advice.solver import Solution, solve
from ..base.budgets import EVENTS, within
from ..base.figures import quantity
from ..base.messages import NOTHING, grams, listed, message, sentences
from ..base.refusals import Refusal
from ..evaluation.estimate import Estimate, Priors
from ..evaluation.evaluate import Evaluation, evaluate
from ..evaluation.flow_values import AsMade
from ..materials.material import Material, read_material
from ..materials.supply import supply_behind
from ..safety.house_rules import Rules, read_rules
from ..spec import spec as s
from ..spec.json_form import read_spec
from .batch_record import BatchRecord
from .deviations import factor_of
from .events.catalogue import in_order
from .events.event import Event
from .events.supplies import TakenFrom, WentOn
from .learned_priors import read_priors
from .reading_check import ReadingCheck, compared_reading, evidence_of, hot_fill_of
from .repair import Repair, RepairAddition, RepairState
from .state import RunState, place_of

TASTED_SHARE = 0.05
"""Nobody tastes a change of one twentieth in sugar, acid or strength side by side: half of the tenth or so from which people begin to. House experience."""
_REPAIR_TOLERANCE = 0.02
"""Share of a goal's tolerance within which a repair reaches it: whoever adds something wants to land, not to graze. House judgement."""
_TASTED = ("brix", "brix_reading", "sugar_g_100ml", "acid_g_100ml", "abv")


def _stands_after(evaluation: Evaluation, place: int, done: Mapping[str, str]) -> bool:
    """Returns True if the vessel of step `place` holds what it will hold after that step: the step is done, or its verb only mixes."""
    step = evaluation.flow.steps[place].step
    return step.id in done or step.family == "combine"


def _offer(state: RunState, states: Mapping[str, RepairState], taken: int) -> Repair | None:
    """Returns the additions that bring the product back to its goals; None if the goals are met or nothing can be added any more."""
    spec, evaluation = state.spec, state.evaluation
    open_ends = [step for step in spec.steps if step.ends and step.id not in state.done]
    if (
        state.status == "finished"
        or not spec.goals
        or evaluation.last is None
        or evaluation.flow.refusal
        or not open_ends
        or not state.actual_g
    ):
        return None
    figures = evaluation.figures[evaluation.last]
    # Within its tolerance a goal is met: nobody is asked to add a pinch.
    if all(abs(figures.get(goal.property, 0.0) - goal.value) <= goal.tolerance for goal in spec.goals):
        return None
    name = f"repair{taken + 1}"
    offered = repair_materials(state.record.spec_to_add_from, state.materials)
    aims = [s.Goal(goal.property, goal.value, goal.tolerance * _REPAIR_TOLERANCE) for goal in spec.goals]
    decided = states.get(name, "offered")
    try:
        found: Solution = solve(evaluation.flow.steps[before_bottling(evaluation)].state.liquid, aims, offered)
    # The closest approach is said instead, so that the maker can decide what it is now.
    except Refusal as refusal:
        return Repair(
            name,
            decided,
            (),
            refusal.message,
            message("If that is not near enough, this is another product now: name it and label it as one."),
        )
    additions = tuple(
        RepairAddition(line=f"{name}.{item.material}", material=item.material, name=item.name, mass_g=round(item.mass_g, 2))
        for item in found.additions
    )
    missed = [goal for goal in spec.goals if abs(figures.get(goal.property, 0.0) - goal.value) > goal.tolerance]
    back = listed(
        message(
            "{now} back to {goal}", now=quantity(goal.property, figures.get(goal.property, 0.0)), goal=quantity(goal.property, goal.value)
        )
        for goal in missed
    )
    kept = listed(quantity(goal.property, goal.value) for goal in spec.goals if goal not in missed)
    grows = grams(sum(item.mass_g for item in found.additions))
    if kept.items:
        brings = message("Brings {back} and holds {kept}; the batch grows by {grows}.", back=back, kept=kept, grows=grows)
    else:
        brings = message("Brings {back}; the batch grows by {grows}.", back=back, grows=grows)
    # Tasted figures only: a volume that is short cannot be tasted, and is missing all the same.
    near = all(
        goal.property in _TASTED and abs(figures.get(goal.property, 0.0) - goal.value) <= TASTED_SHARE * goal.value for goal in missed
    )
    effect = sentences(brings, message("Nobody could taste the difference: leaving it is good enough.") if near else NOTHING)
    return Repair(name, decided, additions, found.words, effect)


def fold(
    spec: s.Spec,
    materials: Mapping[str, Material],
    events: Iterable[Event],
    rules: Rules | None = None,
    priors: Priors | None = None,
) -> RunState:
    """Returns the state of a batch after its events. Their order and repeats do not change it.

    Weights fix lines, and everything that depends on them follows; agreeing readings narrow the ranges; a taken repair becomes a step. `rules` are the house's
    as pinned at the start, `priors` what its earlier batches have taught. Raises Refusal for events that name unknown lines or steps.
    """
    received = list(events)
    # By their logical clock, since events of several devices arrive in any order.
    ordered = in_order(received)
    within(ordered, EVENTS, message("events"), "events", message("Finish this batch and begin another"))
    record = BatchRecord(spec, materials)
    for event in ordered:
        event.apply(record)
    # After the last event, since a later one may take back the change of supply.
    record.blend_supplies()
    factor = factor_of(record, record.actual_g)

    vessel_g: dict[str, float] = {}

    def evaluated(estimate: Estimate | None = None) -> Evaluation:
        made = AsMade(factor, record.actual_g, record.spilled_g, dict(vessel_g), frozenset(record.skipped), frozenset(record.by_volume))
        return evaluate(record.spec, record.materials, made, begin=estimate or priors, rules=rules)

    evaluation = evaluated()
    counted = {event.id for event in ordered}
    passed_over = tuple(dict.fromkeys(event.id for event in received if event.id not in counted))
    state = RunState(spec, record, ordered, factor, evaluation, priors or {}, passed_over=passed_over)
    checks: list[ReadingCheck] = []
    for taken in record.readings:
        # Where the batch stood when it was read, not where it stands now.
        place = place_of(evaluation, taken.actual_g, taken.done)
        check, estimate = compared_reading(evaluation, taken.reading, place)
        checks.append(check)
        weighed = place is not None and check.property == "mass_g" and _stands_after(evaluation, place, taken.done)
        if weighed and place is not None:
            # The mass of a weighed vessel replaces the computed one, even if it contradicts it.
            vessel_g[evaluation.flow.steps[place].step.id] = check.value
        if weighed or estimate is not evaluation.estimate:
            evaluation = evaluated(estimate)
    evaluation.evidence = evidence_of(
        [taken.reading for taken in record.readings], checks, evaluation, hot_fill_of(record.spec, record.watched)
    )
    state = replace(state, evaluation=evaluation, readings=tuple(checks), vessel_g=vessel_g)
    offer = _offer(state, record.repairs, len(record.repairs_taken))
    return replace(state, repairs=(*record.repairs_taken, *((offer,) if offer else ())))


def fold_pinned(pinned: Mapping[str, Any], events: Iterable[Event]) -> RunState:
    """Returns `fold` of `events` over what a run pinned at its start, in its JSON form: `spec`, `materials`, and optionally `rules` and `learned`.

    The site and the browser without network both use this. Raises Refusal for what cannot be read, and as `fold` does.
    """
    spec = read_spec(pinned["spec"])
    received = list(events)
    named = {event.supply for event in received if isinstance(event, TakenFrom | WentOn)}
    # An offline tablet has every possible supply of its run; only those that events name are read.
    materials = {
        key: read_material(key, body)
        for key, body in pinned["materials"].items()
        if (behind := supply_behind(key)) is None or behind in named
    }
    return fold(spec, materials, received, read_rules(pinned.get("rules")), read_priors(pinned.get("learned") or {}))
