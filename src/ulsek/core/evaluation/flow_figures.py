"""Figures of a mass flow: the properties of the vessel after every step, with their 5 and 95 % points, computed on demand."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property, partial

from ..base.messages import Message, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.material import Material
from ..operations.amounts import VESSEL
from ..properties.measure import DEEP, MODEL_UNCERTAINTY, NAMES, NEAR, PROPERTY, measure
from ..properties.water import boiling_c
from ..safety.barriers import NOTHING_SHOWN, Evidence
from ..safety.house_rules import Rules, shipped
from ..safety.process_history import ProcessHistory
from ..spec import spec as s
from .estimate import Estimate, Slopes
from .flow import flow
from .flow_values import Flow, Inputs, StepFlow
from .group_key import GroupKey
from .process_histories import process_histories
from .sensitivity import MovedGroup, both_ways, change_in, changes
from .uncertainty_groups import group_name

EVEN_WITHIN = 0.25
"""A range whose sides differ by less than this share of its half-width counts as even."""


def _figures(done: StepFlow) -> dict[str, float]:
    """Returns the figures of the liquid in the vessel; `mass_g` [g] includes the solid pieces."""
    found = measure(done.state.liquid)
    if done.state.pieces:
        found["mass_g"] = done.state.mass_g
    return found


def _line_is_weighed(inputs: Inputs, line: s.Line) -> bool:
    """Returns True if the line's mass is weighed or computed, or is a liquid measured by volume; False for powders by volume and for pieces that are counted."""
    # In a draft an id may stand twice, and then name a line that nothing from Stores went into: its mass is not known.
    if line.own:
        return False
    material, amount = inputs.materials[line.material], line.amount
    # A liquid is poured by volume as surely as by weight: its density is known.
    if material.pours:
        return not (isinstance(amount, s.Fixed) and amount.dimension == "count")
    if line.id in inputs.made.by_volume:
        return False
    if isinstance(amount, s.Fixed):
        return amount.dimension == "mass" or line.id in inputs.made.actual_g
    return not (isinstance(amount, s.Ratio) and amount.basis == "volume") or line.id in inputs.made.actual_g


@dataclass
class FlowFigures:
    """A mass flow with the estimate of its uncertain inputs; figures and their ranges are computed on demand.

    `base` is an earlier evaluation of the same draft of which the first `unchanged` steps are the same: what was computed of those is taken from it. A later
    one may have this one as its base if it is `resumable`.
    """

    inputs: Inputs
    flow: Flow
    estimate: Estimate
    members: Mapping[GroupKey, tuple[GroupKey, ...]]
    ranges: Mapping[GroupKey, tuple[Range, ...]]
    evidence: Evidence = NOTHING_SHOWN
    rules: Rules = field(default_factory=shipped)
    base: FlowFigures | None = None
    unchanged: int = 0
    resumable: bool = False

    def _positions(self, group: GroupKey, by: float) -> dict[GroupKey, float]:
        """Returns the positions of all inputs with one group moved by `by` [half-ranges]."""
        # A learned position stays where it is, and the move comes on top of it.
        found = {key: z for one, z in zip(self.estimate.groups, self.estimate.mean, strict=True) for key in self.members[one] if z}
        for key in self.members[group]:
            found[key] = found.get(key, 0.0) + by
        return found

    @cached_property
    def moved(self) -> tuple[MovedGroup, ...]:
        """Each group moved up and down by one half-range, or as far as the spec can still be made; computed amounts are kept.

        If the ranges of the group are even about their values, the effect of up is mirrored for down: the flow is nearly linear.
        """
        for _ in self.moving():
            pass
        return tuple(self._moved)

    def moving(self) -> Iterator[None]:
        """Computes `moved` one group at a time, for a caller that may stop after any of them and go on later."""
        held = {line.id: mass for line, mass in self._computed().items()}
        inputs = replace(self.inputs, held_g=held)
        for group in self.estimate.groups[len(self._moved) :]:
            flow_at = partial(self._flow_at, inputs, group)
            self._moved.append(both_ways(flow_at, len(self.flow.steps), mirrored=not self._is_uneven(group)))
            yield

    @cached_property
    def _moved(self) -> list[MovedGroup]:
        return []

    def _flow_at(self, inputs: Inputs, group: GroupKey, by: float) -> Flow:
        """Returns the flow with the inputs of one group moved by `by` [half-ranges]."""
        earlier, begin = self.flow, self.first[group]
        if begin < self.unchanged and (moved := self._moved_before(group)) is not None:
            found = moved.up.whole if by == 1.0 else moved.down.whole if by == -1.0 and moved.down is not None else None
            if found is not None:
                # Where it was refused before the edit, it is refused there again.
                earlier, begin = found, min(self.unchanged, len(found.snapshots) - 1)
        return flow(inputs, self._positions(group, by), earlier, begin, resumable=self.resumable)

    def _moved_before(self, group: GroupKey) -> MovedGroup | None:
        """Returns the moved flows of a group in the base evaluation; None if the group has other members there, or was not moved yet."""
        base = self.base
        if base is None or base.members.get(group) != self.members[group]:
            return None
        place = base.estimate.groups.index(group)
        return base._moved[place] if place < len(base._moved) else None

    @cached_property
    def kept_steps(self) -> int:
        """Count of steps, from the first, whose ranges are the same as in the base evaluation; 0 without a base.

        They are the same if the groups that affect them have the same members, and if no group is cut at a bound.
        """
        base = self.base
        if base is None or len(base._moved) < len(base.estimate.groups) or any(one.refused for one in (*self.moved, *base.moved)):
            return 0
        return self.unchanged if self._reaching(self.unchanged) == base._reaching(self.unchanged) else 0

    def _reaching(self, step: int) -> dict[GroupKey, tuple[tuple[GroupKey, ...], bool]]:
        """Returns the members of each group that affects a step before `step`, and whether its downward move mirrors the upward one."""
        groups = zip(self.estimate.groups, self.moved, strict=True)
        return {group: (self.members[group], moved.down is None) for group, moved in groups if self.first[group] < step}

    @cached_property
    def _lost(self) -> dict[str, tuple[int, Refusal]]:
        """For each figure that has no value at an end of some range: the step and the refusal. Filled as figures are asked for."""
        # What is taken from the base is not computed again, and would not be found missing again.
        before = self.base._lost if self.base is not None else {}
        return {name: found for name, found in before.items() if found[0] < self.kept_steps}

    @property
    def end_remarks(self) -> tuple[Remark, ...]:
        """Remarks on ranges cut at a bound: a check for each group whose whole range is not feasible, a note for each figure that has no value at an end."""
        ends = tuple(
            Remark(
                "range_at_bound",
                "check",
                one.refused.where,
                message(
                    "At the end of its range {group} would make this impossible: {refused} Ranges reach to where it still works.",
                    group=self.group_name(group),
                    refused=one.refused.message,
                ),
                message("Read or weigh it first, or leave more room"),
            )
            for group, one in zip(self.estimate.groups, self.moved, strict=True)
            if one.refused is not None
        )
        lost = tuple(
            Remark(
                "figure_at_bound",
                "note",
                f"steps/{self.flow.steps[step].step.id}",
                message(
                    "At an end of its inputs' ranges: {refused} That figure's range reaches to where there is one.", refused=refused.message
                ),
            )
            for step, refused in self._lost.values()
        )
        return (*ends, *lost)

    @cached_property
    def first(self) -> dict[GroupKey, int]:
        """Index of the first step that each group of inputs affects."""
        steps = self.flow.steps
        # From the last step back, so that the first one that a group affects is the one that stays.
        place: dict[tuple[str, str], int] = {}
        for i in reversed(range(len(steps))):
            place["step", steps[i].step.id] = i
            for added in steps[i].added:
                place["line", added.line] = i
                place["material", added.material] = i
        end = len(steps) - 1

        def of(group: GroupKey) -> int:
            return place.get((group.kind, group.key), 0)

        return {group: max(0, min(end, *(of(key) for key in self.members[group]))) for group in self.estimate.groups}

    def _is_uneven(self, group: GroupKey) -> bool:
        # One uneven range is enough: its mirror image would be wrong on the longer side.
        ranges = (range_ for key in self.members[group] for range_ in self.ranges.get(key, ()))
        return any(abs((r.high - r.value) - (r.value - r.low)) > EVEN_WITHIN * r.half_width for r in ranges)

    def _computed(self) -> dict[s.Line, float]:
        masses = self.flow.masses
        return {
            line: masses[line.id] for line in self.inputs.spec.lines.values() if isinstance(line.amount, s.Target) and line.id in masses
        }

    @cached_property
    def figures(self) -> tuple[dict[str, float], ...]:
        """Figures of the vessel after each step, in the order of the steps: by key, each in its own unit (`base.figures`), without ranges."""
        known = self.base.figures[: self.unchanged] if self.base is not None else ()
        return (*known, *(_figures(step) for step in self.flow.steps[len(known) :]))

    @cached_property
    def _moved_known(self) -> dict[int, tuple[tuple[dict[str, float], dict[str, float] | None], ...]]:
        return {}

    def _moved_at(self, step: int) -> tuple[tuple[dict[str, float], dict[str, float] | None], ...]:
        """Figures after a step for each group moved up and down. The unmoved figures stand for a move that has no effect; None for a downward move that mirrors the upward one."""
        if step not in self._moved_known:
            plain, figures = self.flow.steps[step], self.figures[step]

            def measured(moved: Flow | None) -> dict[str, float]:
                if moved is None:
                    return figures
                other = moved.steps[step]
                return figures if other is plain or other.state.liquid.grams == plain.state.liquid.grams else _figures(other)

            def both(one: MovedGroup) -> tuple[dict[str, float], dict[str, float] | None]:
                up, down = one.up.at(step), one.down.at(step) if one.down is not None else None
                if up is None and down is not None:
                    # If no move in one direction is feasible, it is the mirror of the other.
                    fallen = measured(down)
                    return {name: 2.0 * figures[name] - fallen.get(name, figures[name]) for name in figures}, fallen
                return measured(up), measured(down) if down is not None else None

            self._moved_known[step] = tuple(both(one) for one in self.moved)
        return self._moved_known[step]

    def slopes(self, step: int, name: str) -> Slopes:
        """Returns the change of a figure after a step for each group, in the figure's unit; see `moved` for groups that cannot be moved by their whole half-range."""
        if name not in NAMES:
            return self._deep_slopes(step, name)
        if name == "mass_g":
            mass = self.flow.steps[step].state.mass_g
            return Slopes(mass, *changes(self.moved, step, lambda moved: moved.steps[step].state.mass_g - mass))
        plain = self.figures[step]
        value = plain[name]
        ups: list[float] = []
        downs: list[float] = []
        for up, down in self._moved_at(step):
            rise = 0.0 if up is plain else up.get(name, value) - value
            ups.append(rise)
            downs.append(-rise if down is None else 0.0 if down is plain else down.get(name, value) - value)
        return Slopes(value, tuple(ups), tuple(downs))

    def _property(self, name: str) -> Callable[[Contents], float]:
        """Returns a figure as a function of contents; the boiling point is at the air pressure of the house."""
        return (lambda contents: boiling_c(contents, self.inputs.pressure_kpa)) if name == "boiling_c" else PROPERTY[name]

    def _deep_slopes(self, step: int, name: str) -> Slopes:
        """Returns `slopes` for a figure that is not among those of every step."""
        liquid = self.flow.steps[step].state.liquid
        of = self._property(name)
        value = of(liquid)

        near = (lambda other: NEAR[name](other, value)) if name in NEAR else of

        def change(moved: Flow) -> float:
            other = moved.steps[step].state.liquid
            if other.grams == liquid.grams:
                return 0.0
            found, refused = change_in(near, value, liquid, other)
            if refused is not None:
                self._lost.setdefault(name, (step, refused))
            return found

        return Slopes(value, *changes(self.moved, step, change))

    @cached_property
    def _known_ranges(self) -> dict[tuple[int, str], Range]:
        return {}

    def range(self, step: int, name: str) -> Range:
        """Returns a figure after a step with its 5 and 95 % points, in its unit, from the ranges of its inputs and the error of its model. Raises Refusal if it cannot be computed."""
        # Cached: the step, the label, keeping and goals all use the figures of the product.
        if (step, name) not in self._known_ranges:
            kept = self.base._known_ranges.get((step, name)) if self.base is not None and step < self.kept_steps else None
            self._known_ranges[step, name] = kept or self._range(step, name)
        return self._known_ranges[step, name]

    def _range(self, step: int, name: str) -> Range:
        found = self.slopes(step, name).range(self.estimate, floor=-math.inf if name in ("freezing_c", "ph") else 0.0)
        if name not in MODEL_UNCERTAINTY:
            return found
        # Independent of the inputs' errors, so the two are added in squares on each side.
        below, above = MODEL_UNCERTAINTY[name](self.flow.steps[step].state.liquid, found.value)
        return Range(
            found.value, found.value - math.hypot(found.value - found.low, below), found.value + math.hypot(found.high - found.value, above)
        )

    def deep(self, step: int, names: Iterable[str] = DEEP, *, ranges: bool = True) -> dict[str, Range]:
        """Returns the named figures after a step, each in its unit; figures that cannot be computed for this liquid are omitted."""
        found: dict[str, Range] = {}
        if not self.figures[step].get("volume_ml"):
            return found
        for name in names:
            try:
                found[name] = self.range(step, name) if ranges else Range.exact(self._property(name)(self.flow.steps[step].state.liquid))
            except Refusal:
                # For example the freezing point of strong spirit, or any figure of a dry powder.
                continue
        return found

    def line_range(self, step: int, position: int) -> Range:
        """Returns the mass of a line [g]: exact if it is computed beforehand, with a range if it is dosed by reading."""
        added = self.flow.steps[step].added[position]

        def change(moved: Flow) -> float:
            there = moved.steps[step].added
            if position < len(there) and there[position].line == added.line:
                return there[position].mass_g - added.mass_g
            # The surplus of a weighed vessel is a line of its own, which is missing if the moved flow predicts more than was weighed.
            return math.fsum(other.mass_g for other in there if other.line == added.line) - added.mass_g

        return Slopes(added.mass_g, *changes(self.moved, step, change)).range(self.estimate)

    @cached_property
    def last(self) -> int | None:
        """Index of the last step whose vessel holds liquid, the finished product; None if there is none."""
        return next((i for i in reversed(range(len(self.flow.steps))) if self.figures[i].get("volume_ml")), None)

    @property
    def product_figures(self) -> dict[str, float]:
        """Figures of the finished product by key, each in its unit; empty if nothing is made."""
        return {} if self.last is None else self.figures[self.last]

    @property
    def final(self) -> Contents | None:
        """Contents of the finished product [g by substance]; None if nothing is made."""
        return None if self.last is None else self.flow.steps[self.last].state.liquid

    @cached_property
    def used(self) -> tuple[Material, ...]:
        """The materials from Stores that went in, each once, in their order."""
        keys = dict.fromkeys(added.material for step in self.flow.steps for added in step.added if not added.own)
        return tuple(self.inputs.materials[key] for key in keys)

    @cached_property
    def went_in_g(self) -> dict[str, float]:
        """Mass of every material from Stores over all lines [g]."""
        grams: dict[str, float] = {}
        for step in self.flow.steps:
            for added in step.added:
                if not added.own:
                    grams[added.material] = grams.get(added.material, 0.0) + added.mass_g
        return grams

    @cached_property
    def doses_g_l(self) -> dict[str, float]:
        """Mass of every material from Stores per litre of product [g/L]; empty if nothing is made."""
        litres = 0.0 if self.last is None else self.figures[self.last]["volume_ml"] / 1000.0
        return {key: grams / litres for key, grams in self.went_in_g.items()} if litres else {}

    @cached_property
    def histories(self) -> tuple[dict[str, ProcessHistory], ...]:
        """After each step the process history of each vessel and by-product, by the name that a line uses for it."""
        warm = self.rules.keeping["warm"]
        return tuple(process_histories(self.flow, self.inputs.materials, warm, self.inputs.made.skipped))

    @cached_property
    def history(self) -> ProcessHistory:
        """The process history of the product; an empty one if nothing is made."""
        if self.last is None:
            return ProcessHistory()
        return self.histories[self.last].get(f"{VESSEL}{self.flow.steps[self.last].vessel}", ProcessHistory())

    def group_name(self, group: GroupKey) -> Message:
        """Returns the name of a group of inputs as it is shown."""
        return group_name(group, self.inputs)

    @cached_property
    def weighed(self) -> bool:
        """True if the product consists of defined substances only, and their masses are known by weight."""
        lines = self.inputs.spec.lines
        went_in = [added.line for done in self.flow.steps for added in done.added if not added.own]
        return (
            bool(self.used)
            and all(material.defined for material in self.used)
            and all(_line_is_weighed(self.inputs, lines[key]) for key in went_in)
        )
