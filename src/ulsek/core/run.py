"""Run: a spec and the events of one batch, folded into where it stands, what to do next and what every later amount now is."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Literal

from . import say
from . import spec as s
from .belief import Belief
from .budgets import EVENTS, within
from .design import before_bottling, repair_materials
from .device_clocks import clock_notes
from .evaluate import Evaluation, evaluate
from .events import Event, in_order
from .house_rules import Rules, read_rules
from .learned import Taught, lessons
from .materials import Material, read_material
from .refusals import Refusal
from .run_deviations import Deviation, deviation, dose_of, factor_of
from .run_gather import Gathered, Repair, RepairState, Taste
from .run_readings import ReadingCheck, evidence_of, hot_fill_of, read_beside, volume_expected_ml
from .solve import Solution, solve
from .spec_file import read_spec
from .supply import material_of_key, supply_behind
from .taste import settled_in_spec, taste_advice
from .watch import Watch, is_watched, watch_of
from .words import listed, material_name, step_title

LABELLED_WAIT_MIN = 15.0
"""A vessel that waits longer [min] is left alone, and wants a label. House experience."""

TASTED_SHARE = 0.05
"""Nobody tastes a change of one twentieth in sugar, acid or strength side by side: half of the tenth or so from which people begin to. House experience."""
_TASTED = ("brix", "brix_reading", "sugar_g_100ml", "acid_g_100ml", "abv")


@dataclass
class RunState:
    """Where a batch stands. Built by `fold`."""

    written: s.Spec
    gathered: Gathered
    events: Sequence[Event]
    factor: float
    evaluation: Evaluation
    began: Taught
    readings: tuple[ReadingCheck, ...] = ()
    repairs: tuple[Repair, ...] = ()
    vessel_g: Mapping[str, float] = field(default_factory=dict)
    """What a vessel weighed after a step [g], by step."""

    @property
    def spec(self) -> s.Spec:
        return self.gathered.spec

    @property
    def materials(self) -> Mapping[str, Material]:
        return self.gathered.materials

    @property
    def actual_g(self) -> Mapping[str, float]:
        return self.gathered.actual_g

    @property
    def spilled_g(self) -> Mapping[str, float]:
        return self.gathered.spilled_g

    @property
    def done(self) -> Mapping[str, str]:
        return self.gathered.done

    @property
    def begun(self) -> Mapping[str, str]:
        return self.gathered.begun

    @property
    def skipped(self) -> set[str]:
        return self.gathered.skipped

    @property
    def hands(self) -> Sequence[str]:
        return self.gathered.hands

    @property
    def supplies(self) -> Mapping[str, str]:
        """The supply that was named for a line, by line."""
        return self.gathered.supplies

    def taken_g(self, supply_of: Mapping[str, str]) -> dict[str, float]:
        """Grams [g] that were weighed out of each supply; `supply_of` names it by the key of the material in this run. What has none is not told."""
        found: dict[str, float] = {}
        for line in self.spec.lines.values():
            for key, mass in self.gathered.parts_g(line):
                supply = supply_of.get(key)
                if supply is not None and mass > 0:
                    found[supply] = found.get(supply, 0.0) + mass
        return found

    @property
    def taken_keys(self) -> set[str]:
        """The keys of everything that the lines come out of."""
        return {key for line in self.spec.lines.values() for key in (line.material, *(key for key, _ in self.gathered.parts_g(line)))}

    @property
    def batch_g(self) -> dict[str, float]:
        """What the whole batch takes of each material [g], weighed or still to weigh, out of whichever supplies."""
        masses = self.evaluation.plain.masses
        found: dict[str, float] = {}
        for line in self.spec.lines.values():
            if not line.own and line.id in masses:
                material = material_of_key(line.material)
                found[material] = found.get(material, 0.0) + masses[line.id]
        return found

    @property
    def batch_ml(self) -> float:
        """What the batch makes [mL]; nothing while it makes nothing."""
        last = self.evaluation.last
        return self.evaluation.figures[last]["volume_ml"] if last is not None else 0.0

    @property
    def notes(self) -> Sequence[str]:
        return [*self.gathered.notes, *clock_notes(self.events)]

    @property
    def status(self) -> Literal["open", "finished"]:
        return self.gathered.status

    @property
    def current(self) -> s.Step | None:
        """The first step that is not done."""
        return next((step for step in self.spec.steps if step.id not in self.done), None)

    @property
    def next_line(self) -> s.Line | None:
        step = self.current
        return next((line for line in step.lines if line.id not in self.actual_g), None) if step else None

    @cached_property
    def watch(self) -> Watch | None:
        """The watch of the step at hand, once it has begun."""
        step = self.current
        done = next((item for item in self.evaluation.plain.steps if step is not None and item.step.id == step.id), None)
        if step is None or done is None or step.id not in self.begun:
            return None
        return watch_of(done, self.begun[step.id], self.gathered.watched.get(step.id, ()), self.evaluation.rules.keeping)

    @cached_property
    def deviations(self) -> tuple[Deviation, ...]:
        """Each weight that differs from what was planned when everything else stood as it does now."""
        return tuple(found for line in self.actual_g if (found := deviation(self, line)))

    def with_weights(self, factor: float, actual_g: Mapping[str, float]) -> Evaluation:
        """The batch worked out with other weights, nothing learned from its readings but what its vessels weighed."""
        return evaluate(self.spec, self.materials, factor=factor, actual_g=actual_g, spilled_g=self.spilled_g, vessel_g=self.vessel_g)

    @property
    def place(self) -> int | None:
        """Index of the last step whose vessel is as it is now: the last done one, or the one whose lines are all in."""
        return _place(self.evaluation, self.actual_g, self.done)

    @property
    def off_spec(self) -> str:
        """What of the product lies outside the tolerance of its spec, in words; nothing where it is within, or there is no goal."""
        if self.evaluation.last is None:
            return ""
        figures = self.evaluation.figures[self.evaluation.last]
        off = [goal for goal in self.spec.goals if abs(figures.get(goal.property, 0.0) - goal.value) > goal.tolerance]
        parts = [
            f"{say.of(goal.property, figures.get(goal.property, 0.0))} instead of {say.of(goal.property, goal.value)} ± {say.figure(goal.tolerance, say.DECIMALS_OF.get(goal.property))}"
            for goal in off
        ]
        return f"Outside its spec: {listed(parts)}." if parts else ""

    def _taste_data(self, taste: Taste) -> dict[str, Any]:
        done = next((item for item in self.evaluation.plain.steps if item.step.id == taste.step), None)
        return {**taste.as_data(), "advice": taste_advice(taste.verdict, taste.share, done)}

    def as_data(self) -> dict[str, Any]:
        """The state in its open form, for screens and for `bin/ulsek run`."""
        step, line = self.current, self.next_line
        result = self.evaluation.as_data()
        planned = {added["line"]: added["mass_g"] for flow_step in result["steps"] for added in flow_step["added"]}
        return {
            "status": self.status,
            "factor": self.factor,
            "current": {"step": step.id if step else None, "line": line.id if line else None},
            "steps": [self._step_data(item, i, planned) for i, item in enumerate(self.spec.steps)],
            "place": self.place,
            "evaluation": result,
            "deviations": [item.as_data() for item in self.deviations],
            "readings": [item.as_data() for item in self.readings],
            "repairs": [item.as_data() for item in self.repairs],
            "notes": list(self.notes),
            "watch": self.watch.as_data() if self.watch else None,
            "hands": list(self.hands),
            "tastes": [self._taste_data(taste) for taste in self.gathered.tastes],
            "lessons": [item.as_data() for item in lessons(self.evaluation, self.began)],
            "off_spec": self.off_spec,
            "expected_ml": expected.as_data() if (expected := volume_expected_ml(self.evaluation)) else None,
            "conflicts": [*self.gathered.conflicts, *(words for _, words in self.gathered.past_use_by.values())],
            "settled": settled_in_spec(
                self.written,
                self.spec,
                self.actual_g,
                self.gathered.extra,
                self.factor,
                {key: item.name for key, item in self.materials.items()},
            ),
        }

    def _step_data(self, step: s.Step, position: int, planned: Mapping[str, Any]) -> dict[str, Any]:
        state = "skipped" if step.id in self.skipped else "done" if step.id in self.done else "now" if step is self.current else "later"
        return {
            "id": step.id,
            "verb": step.verb,
            "title": step_title(step, self.materials, first=position == 0, spec=self.spec),
            "note": step.note,
            "check": step.check,
            "vessel": step.vessel,
            "state": state,
            "begun_at": self.begun.get(step.id),
            "done_at": self.done.get(step.id),
            "minutes": step.waiting_min or None,
            "watched": is_watched(step),
            "wants_label": step.waiting_min >= LABELLED_WAIT_MIN,
            "extra": step.id in self.gathered.extra,
            "sample": {"wanted": step.keep_sample, "mass_g": self.gathered.sampled.get(step.id)},
            "lines": [
                {
                    "id": line.id,
                    "material": line.material,
                    "supply": self.supplies.get(line.id),
                    "name": material_name(line.material, self.materials, spec=self.spec),
                    "planned_g": planned.get(line.id),
                    "actual_g": self.actual_g.get(line.id),
                    "parts": [{"material": key, "mass_g": mass} for key, mass in self.gathered.parts_g(line)]
                    if line.id in self.gathered.poured
                    else [],
                    "so_far_g": self.gathered.so_far_g(line),
                    "ahead": self._known_ahead(line),
                    "dose": dose_of(self, line),
                }
                for line in step.lines
            ],
        }

    def _known_ahead(self, line: s.Line) -> bool:
        """Whether its weight follows from weights alone: what is measured against a vessel or aims at a figure waits for its turn."""
        seen: set[str] = set()
        while isinstance(line.amount, s.Ratio) and line.amount.line in self.spec.lines and line.id not in seen:
            seen.add(line.id)
            line = self.spec.lines[line.amount.line]
        return isinstance(line.amount, s.Fixed) and not line.own


def _stands_after(evaluation: Evaluation, place: int, done: Mapping[str, str]) -> bool:
    """Whether a vessel weighed at a place stands as it is after that step: the step is done, or does nothing but mix."""
    step = evaluation.plain.steps[place].step
    return step.id in done or step.family == "combine"


def _place(evaluation: Evaluation, actual_g: Mapping[str, float], done: Mapping[str, str]) -> int | None:
    """Index of the last step whose vessel is as it stands with these weights in and these steps done."""
    found = None
    for i, flow in enumerate(evaluation.plain.steps):
        lines = flow.step.lines
        if flow.step.id in done or (lines and all(line.id in actual_g for line in lines)):
            found = i
    return found


def _offer(state: RunState, states: Mapping[str, RepairState], taken: int) -> Repair | None:
    """The repair that brings the batch back, when its goals are missed and there is still something to correct."""
    spec, evaluation = state.spec, state.evaluation
    open_ends = [step for step in spec.steps if isinstance(step, s.Cool | s.Bottle) and step.id not in state.done]
    if (
        state.status == "finished"
        or not spec.goals
        or evaluation.last is None
        or evaluation.plain.refusal
        or not open_ends
        or not state.actual_g
    ):
        return None
    figures = evaluation.figures[evaluation.last]
    if all(abs(figures.get(goal.property, 0.0) - goal.value) <= goal.tolerance for goal in spec.goals):
        return None
    name = f"repair{taken + 1}"
    offered = repair_materials(state.gathered.spec_to_add_from, state.materials)
    aims = [s.Goal(goal.property, goal.value, goal.tolerance * 0.02) for goal in spec.goals]
    decided = states.get(name, "offered")
    try:
        found: Solution = solve(evaluation.plain.steps[before_bottling(evaluation)].matter.liquor, aims, offered)
    except Refusal as refusal:
        return Repair(
            name, decided, (), refusal.text, "If that is not near enough, this is another product now: name it and label it as one."
        )
    additions = tuple(
        {"line": f"{name}.{item.material}", "material": item.material, "name": item.name, "mass_g": round(item.mass_g, 2)}
        for item in found.additions
    )
    missed = [goal for goal in spec.goals if abs(figures.get(goal.property, 0.0) - goal.value) > goal.tolerance]
    back = listed(
        [f"{say.of(goal.property, figures.get(goal.property, 0.0))} back to {say.of(goal.property, goal.value)}" for goal in missed]
    )
    kept = listed([say.of(goal.property, goal.value) for goal in spec.goals if goal not in missed])
    grows = say.grams(sum(item.mass_g for item in found.additions))
    effect = f"Brings {back}{f' and holds {kept}' if kept else ''}; the batch grows by {grows}."
    if all(goal.property in _TASTED and abs(figures.get(goal.property, 0.0) - goal.value) <= TASTED_SHARE * goal.value for goal in missed):
        effect += " Nobody could taste the difference: leaving it is good enough."
    return Repair(name, decided, additions, found.words, effect)


def fold(
    spec: s.Spec,
    materials: Mapping[str, Material],
    events: Iterable[Event],
    rules: Rules | None = None,
    learned: Taught | None = None,
) -> RunState:
    """Where the batch stands after these events. The same events in any order, or sent twice, give the same state.

    Weights fix lines and everything that depends on them follows; agreeing readings narrow the ranges; a taken repair becomes a step.
    `rules` are the house's as pinned at the start, `learned` what its batches before this one taught. Refuses events that name lines or steps that are not there.
    """
    ordered = in_order(events)
    within(ordered, EVENTS, "events", "events", "Finish this batch and begin another")
    gathered = Gathered.of(spec, materials, ordered)
    factor = factor_of(gathered.spec, gathered.materials, ordered, gathered.actual_g)

    vessel_g: dict[str, float] = {}

    def worked_out(belief: Belief | None = None) -> Evaluation:
        return evaluate(
            gathered.spec,
            gathered.materials,
            factor=factor,
            actual_g=gathered.actual_g,
            spilled_g=gathered.spilled_g,
            skipped=gathered.skipped,
            by_volume=gathered.by_volume,
            vessel_g=vessel_g,
            belief=belief,
            rules=rules,
            learned=learned,
        )

    evaluation = worked_out()
    state = RunState(spec, gathered, ordered, factor, evaluation, learned or {})
    checks: list[ReadingCheck] = []
    for event in gathered.reads:
        then_actual, then_done = gathered.read_after[event.id]
        place = _place(evaluation, then_actual, then_done)
        check, belief = read_beside(evaluation, event, place)
        checks.append(check)
        weighed = place is not None and event.body["property"] == "mass_g" and _stands_after(evaluation, place, then_done)
        if weighed and place is not None:
            # A weighed vessel is what stands there, also where it contradicts what was worked out.
            vessel_g[evaluation.plain.steps[place].step.id] = check.value
        if weighed or belief is not evaluation.belief:
            evaluation = worked_out(belief)
    evaluation.evidence = evidence_of(gathered.reads, checks, evaluation, hot_fill_of(gathered.spec, gathered.watched))
    state = replace(state, evaluation=evaluation, readings=tuple(checks), vessel_g=vessel_g)
    offer = _offer(state, gathered.repairs, len(gathered.taken))
    return replace(state, repairs=(*gathered.taken, *((offer,) if offer else ())))


def fold_pinned(pinned: Mapping[str, Any], events: Iterable[Event]) -> RunState:
    """`fold` from the open form of what a run pinned at its start: `spec`, `materials`, and where there are any `rules` and `learned`.

    The site and the browser that is offline both fold by this.
    """
    spec = read_spec(pinned["spec"])
    heard = list(events)
    named = {str(event.body["supply"]) for event in heard if event.kind in ("taken_from", "went_on")}
    # A tablet has every crate beside its run at hand; only those that were named are read.
    materials = {
        key: read_material(key, body)
        for key, body in pinned["materials"].items()
        if (behind := supply_behind(key)) is None or behind in named
    }
    learned = {group: (float(mean), float(variance)) for group, (mean, variance) in (pinned.get("learned") or {}).items()}
    return fold(spec, materials, heard, read_rules(pinned.get("rules")), learned)
