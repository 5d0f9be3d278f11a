"""Evaluation: a spec and its materials turned into figures with their uncertainty and its causes."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property

from ..base.figures import half_range
from ..base.messages import Given, message
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..materials.material import Material, read_material
from ..properties.ph import ph_or_neutral
from ..safety.barriers import NOTHING_SHOWN, Evidence
from ..safety.hazards import Hazards, as_poured, hazards, restricted_amounts
from ..safety.house_rules import Rules, shipped
from ..safety.shelf_life import HouseDate, Keeping, with_house_date
from ..safety.spec_quality import no_longer_than
from ..spec import spec as s
from .colour import ExpectedColour, expected_colour
from .cost import NO_COST, Cost, CostAllocation, FullCost, cost, full_cost
from .estimate import Estimate, Priors
from .flow import flow
from .flow_figures import FlowFigures
from .flow_values import AS_WRITTEN, AsMade, Inputs
from .leftovers import Leftover, leftover_cost, leftovers
from .process_remarks import flow_remarks
from .product_shelf_life import agreeing_evidence, product_keeping
from .resume import unchanged_steps
from .uncertainty_groups import bundled, correlations, ranges_by_group, reading_of, rebundled

MOST_FACTOR = 10000.0
"""Largest factor of a batch, as a multiple of its spec [1]. `evaluate` raises Refusal for a larger one."""


_ROUNDING = 1e-12
"""Spread of a figure, as a share of it, that is rounding."""
_WORTH_READING = 0.8
"""A reading is proposed if it leaves at most this share of the half-range. House judgement."""


@dataclass(frozen=True, slots=True)
class Narrowing:
    """The reading that would narrow a figure most: its material and instrument, and the half-ranges of the figure now and then."""

    property: str
    material: str
    name: str
    reading: str
    share: float
    half_now: float
    half_then: float


@dataclass
class Evaluation(FlowFigures):
    """The results for a spec with its inputs, computed when they are first asked for. Made by `evaluate`."""

    @cached_property
    def keeping(self) -> Keeping:
        """How long the product keeps, and no longer than the house has found it good."""
        return no_longer_than(product_keeping(self), self.rules.spec_quality.get(self.inputs.spec.id))

    @cached_property
    def leftovers(self) -> tuple[Leftover, ...]:
        """What the batch leaves besides its product."""
        return leftovers(self)

    def kept(self, evidence: Evidence, house_date: HouseDate | None = None) -> Keeping:
        """Returns how long the product keeps with this evidence, and by the date that the house set.

        Raises Refusal for readings that keeping does not use, and for a house's date without its evidence.
        """
        found = replace(self, evidence=evidence.checked()).keeping
        return with_house_date(found, house_date, agreeing_evidence(self, evidence)) if house_date is not None else found

    @cached_property
    def hazards(self) -> Hazards:
        """Allergens, cautions, claims and restricted substances of the product."""
        if self.last is None:
            return hazards(self.used, 0.0)
        figures, spec = self.figures[self.last], self.inputs.spec
        poured = as_poured(spec.serve_ml, figures.get("abv", 0.0), spec.served_in, self.rules.limits, is_drink=spec.family == "drink")
        restricted = restricted_amounts(self.went_in_g, self.inputs.materials, figures["volume_ml"], poured, self.rules.limits)
        return hazards(self.used, figures.get("abv", 0.0), restricted)

    @cached_property
    def cost(self) -> Cost:
        """Cost of the materials."""
        volume = self.figures[self.last]["volume_ml"] if self.last is not None else 0.0
        return cost((added for step in self.flow.steps for added in step.added), self.inputs.materials, volume, leftover_cost(self))

    def full_cost(
        self, labour_per_hour: Decimal = NO_COST, worth_per_kg: Mapping[str, Decimal] | None = None, way: CostAllocation = "credit"
    ) -> FullCost:
        """Returns the cost with labour, allocated to the outputs; see `cost.full_cost`. Raises Refusal for a spec that makes nothing."""
        if self.last is None:
            raise Refusal(message("Nothing is made yet"), "steps", remedy=message("Add a step and put something in"), code="nothing_made")
        return full_cost(self.cost, self.flow, self.figures[self.last], labour_per_hour, worth_per_kg, way)

    @cached_property
    def remarks(self) -> tuple[Remark, ...]:
        """Remarks on the steps of the flow."""
        return tuple(flow_remarks(self.inputs, self.flow))

    def narrowing(self, name: str) -> Narrowing | None:
        """Returns the reading of an unread material that would narrow a figure of the product most; None if none narrows it by a fifth."""
        if self.last is None or not self.estimate.groups:
            return None
        slopes = self.slopes(self.last, name)
        middle = slopes.middle
        now = self.estimate.spread(middle)
        # A figure that no input moves has a spread of rounding errors, which no reading narrows.
        if now <= _ROUNDING * abs(slopes.value):
            return None
        best: Narrowing | None = None
        shares = slopes.shares(self.estimate)
        for i, group in enumerate(self.estimate.groups):
            material = self.inputs.materials.get(group.key) if group.kind == "material" else None
            composition = reading_of(material.composition) if material is not None else None
            # What was read already narrows no further by reading it once more.
            if material is None or composition is None or (composition.brix_read if group.figure == "brix" else composition.acid_read):
                continue
            reading, own = (
                ("brix_reading", composition.brix_reading) if group.figure == "brix" else ("acid_g_100ml", composition.acid_g_100ml)
            )
            slope = [own.half_width if j == i else 0.0 for j in range(len(self.estimate.groups))]
            then = self.estimate.spread_after(middle, slope, half_range(reading))
            if best is None or then < best.half_then:
                best = Narrowing(name, group.key, material.name, reading, shares.get(group, 0.0), now, then)
        return best if best and best.half_then < _WORTH_READING * now else None

    @cached_property
    def colour(self) -> ExpectedColour | None:
        """The colour of the product; None if no material carries one."""
        if self.last is None or not any(material.hue for material in self.used):
            return None
        return expected_colour(self.inputs, self.flow, ph_or_neutral(self.flow.steps[self.last].state.liquid))


def with_own(spec: s.Spec, materials: Mapping[str, Material]) -> Mapping[str, Material]:
    """Returns the materials and those that came with the spec, for keys that the house does not have. One that cannot be used is left out, as if it were unknown."""
    own: dict[str, Material] = {}
    for key, body in spec.own_materials.items():
        if key in spec.mentioned and key not in materials:
            with suppress(Refusal):
                own[key] = read_material(key, body)
    return {**materials, **own} if own else materials


def evaluate(
    spec: s.Spec,
    materials: Mapping[str, Material],
    made: AsMade = AS_WRITTEN,
    *,
    begin: Estimate | Priors | None = None,
    evidence: Evidence = NOTHING_SHOWN,
    rules: Rules | None = None,
) -> Evaluation:
    """Returns the evaluation of a spec with these materials, as far as it is `made`, by the `rules` of the house.

    Its uncertain inputs `begin` at the estimate of an earlier evaluation, at the priors that earlier batches have taught, or else at their best values.
    A spec that cannot be done to its end gives the steps before that point and the refusal. Raises Refusal for a factor of 0 or less, or above 10 000.
    """
    if not 0.0 < made.factor <= MOST_FACTOR:
        raise Refusal(
            message("A batch of {factor} times the spec cannot be made", factor=Given(made.factor)),
            "factor",
            message("above 0 and at most 10 000"),
        )
    goes_by = rules or shipped()
    materials = with_own(spec, materials)
    inputs = Inputs(spec, materials, made, pressure_kpa=goes_by.pressure_kpa)
    best = flow(inputs)
    ranges = ranges_by_group(inputs, best)
    members = bundled(ranges, best)
    if not isinstance(begin, Estimate):
        estimate = Estimate.before_readings(tuple(members), correlations(materials)).starting_at(begin or {})
    else:
        # A vessel that was weighed since the estimate was made may have made an input certain, or another one uncertain.
        members = rebundled(begin.groups, ranges)
        estimate = begin.covering(tuple(members))
    # Learned positions move the best values themselves, so the flow is computed again at them.
    if any(estimate.mean):
        best = flow(inputs, {key: z for group, z in zip(estimate.groups, estimate.mean, strict=True) for key in members[group]})
    return Evaluation(inputs, best, estimate, members, ranges, evidence, goes_by)


def evaluate_edit(
    spec: s.Spec, materials: Mapping[str, Material], base: Evaluation | None = None, *, rules: Rules | None = None
) -> Evaluation:
    """Returns what `evaluate` returns for the same spec and materials; steps that equal those of `base` are taken from it, not computed again.

    `base` is an earlier result of this function, for example that of the draft before the last edit. The `rules` are those of the house.
    """
    goes_by = rules or shipped()
    materials = with_own(spec, materials)
    inputs = Inputs(spec, materials, pressure_kpa=goes_by.pressure_kpa)
    unchanged = unchanged_steps(base.inputs, inputs) if base is not None and base.rules is goes_by else 0
    if base is not None and unchanged:
        # A step that was refused is tried again: its snapshot is the last one.
        best = flow(inputs, after=base.flow, begin=min(unchanged, len(base.flow.snapshots) - 1))
        # The base of the base is no longer needed, and would keep every earlier evaluation in memory.
        base.base = None
    else:
        base, best = None, flow(inputs)
    ranges = ranges_by_group(inputs, best)
    members = bundled(ranges, best)
    estimate = Estimate.before_readings(tuple(members), correlations(materials))
    return Evaluation(inputs, best, estimate, members, ranges, NOTHING_SHOWN, goes_by, base, unchanged, resumable=True)
