"""Evaluate: a spec and its materials turned into figures, with how sure each is and where the doubt comes from."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property

from ..base.figures import half_range
from ..base.messages import Given, message
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..materials.material import Material
from ..properties.ph import ph_or_neutral
from ..safety.barriers import NOTHING_SHOWN, Evidence
from ..safety.hazards import Hazards, as_poured, hazards, restricted_amounts
from ..safety.house_rules import Rules, shipped
from ..safety.shelf_life import HouseDate, Keeping, with_house_date
from ..spec import spec as s
from .colour import ExpectedColour, expected_colour
from .cost import NO_COST, Cost, FullCost, Way, cost, full_cost
from .estimate import Belief
from .flow import Inputs, flow
from .flow_figures import FlowFigures
from .leftovers import Leftover, leftover_cost, leftovers
from .process_remarks import flow_remarks
from .product_shelf_life import product_keeping, settled
from .uncertainty_groups import doubtful_groups, members_by_then, ranges_by_group, reading_of, rise_together


@dataclass(frozen=True, slots=True)
class Narrowing:
    """The one reading that would narrow a figure most: of which material, with what, and the half-ranges before and after."""

    property: str
    material: str
    name: str
    reading: str
    share: float
    half_now: float
    half_then: float


@dataclass
class Evaluation(FlowFigures):
    """Everything that can be said about a spec with these inputs. Built by `evaluate`."""

    @cached_property
    def keeping(self) -> Keeping:
        return product_keeping(self)

    @cached_property
    def leftovers(self) -> tuple[Leftover, ...]:
        """What the batch leaves besides its product."""
        return leftovers(self)

    def kept(self, evidence: Evidence, said: HouseDate | None = None) -> Keeping:
        """How long the product keeps when this is shown of it, and as the house has it. Raises Refusal for readings that keeping does not use, and for a
        house's date without what it needs."""
        found = replace(self, evidence=evidence.checked()).keeping
        return with_house_date(found, said, settled(self, evidence)) if said is not None else found

    @cached_property
    def hazards(self) -> Hazards:
        if self.last is None:
            return hazards(self.used, 0.0)
        figures, spec = self.figures[self.last], self.inputs.spec
        poured = as_poured(spec.serve_ml, figures.get("abv", 0.0), spec.served_in, self.rules.limits, is_drink=spec.family == "drink")
        restricted = restricted_amounts(self.went_in_g, self.inputs.materials, figures["volume_ml"], poured, self.rules.limits)
        return hazards(self.used, figures.get("abv", 0.0), restricted)

    @cached_property
    def cost(self) -> Cost:
        volume = self.figures[self.last]["volume_ml"] if self.last is not None else 0.0
        return cost((added for step in self.plain.steps for added in step.added), self.inputs.materials, volume, leftover_cost(self))

    def full_cost(
        self, labour_per_hour: Decimal = NO_COST, worth_per_kg: Mapping[str, Decimal] | None = None, way: Way = "credit"
    ) -> FullCost:
        """The cost with hands, split over what comes out; see `cost.full_cost`. Refuses a spec that makes nothing."""
        if self.last is None:
            raise Refusal(message("Nothing is made yet"), "steps", remedy=message("Add a step and put something in"), code="nothing_made")
        return full_cost(self.cost, self.plain, self.figures[self.last], labour_per_hour, worth_per_kg, way)

    @cached_property
    def remarks(self) -> tuple[Remark, ...]:
        return tuple(flow_remarks(self.inputs, self.plain))

    def narrowing(self, name: str) -> Narrowing | None:
        """Which one reading of an unread material would narrow a final figure most; None when none helps."""
        if self.last is None or not self.belief.groups:
            return None
        slopes = self.slopes(self.last, name)
        middle = slopes.middle
        now = self.belief.spread(middle)
        best: Narrowing | None = None
        shares = slopes.shares(self.belief)
        for i, group in enumerate(self.belief.groups):
            kind, key, which = [*group.split(":"), "", ""][:3]
            material = self.inputs.materials.get(key) if kind == "material" else None
            makeup = reading_of(material.makeup) if material is not None else None
            if material is None or makeup is None or (makeup.brix_read if which == "brix" else makeup.acid_read):
                continue
            reading, own = ("brix_reading", makeup.brix_reading) if which == "brix" else ("acid_g_100ml", makeup.acid_g_100ml)
            slope = [own.half_width if j == i else 0.0 for j in range(len(self.belief.groups))]
            then = self.belief.spread_after(middle, slope, half_range(reading))
            if best is None or then < best.half_then:
                best = Narrowing(name, key, material.name, reading, shares.get(group, 0.0), now, then)
        return best if best and best.half_then < 0.8 * now else None

    @cached_property
    def colour(self) -> ExpectedColour | None:
        """The colour to expect in the bottle, when something in it carries a hue."""
        if self.last is None or not any(material.hue for material in self.used):
            return None
        return expected_colour(self.inputs, self.plain, ph_or_neutral(self.plain.steps[self.last].matter.liquor))


def evaluate(
    spec: s.Spec,
    materials: Mapping[str, Material],
    *,
    factor: float = 1.0,
    actual_g: Mapping[str, float] | None = None,
    spilled_g: Mapping[str, float] | None = None,
    belief: Belief | None = None,
    evidence: Evidence = NOTHING_SHOWN,
    rules: Rules | None = None,
    learned: Mapping[str, tuple[float, float]] | None = None,
    skipped: Collection[str] = (),
    by_volume: Collection[str] = (),
    vessel_g: Mapping[str, float] | None = None,
) -> Evaluation:
    """The flow of a spec with these materials; `factor` scales it, `actual_g` are lines already weighed; `rules` are the house's, `learned` is what
    its earlier batches taught of the steps (see `learned_priors.carried`), begun from where no `belief` is given; `skipped` steps, lines `by_volume` and what vessels weighed after
    a step (`vessel_g`) are those of a run.

    A spec that cannot be done to its end gives the steps before the trouble and the refusal. Refuses a factor that is not above zero.
    """
    if not 0.0 < factor <= 10000.0:
        raise Refusal(
            message("A batch of {factor} times the spec cannot be made", factor=Given(factor)),
            "factor",
            message("above 0 and at most 10 000"),
        )
    goes_by = rules or shipped()
    inputs = Inputs(
        spec,
        materials,
        factor,
        actual_g or {},
        spilled_g or {},
        {},
        frozenset(skipped),
        frozenset(by_volume),
        vessel_g or {},
        goes_by.pressure_kpa,
    )
    plain = flow(inputs)
    ranges = ranges_by_group(inputs, plain)
    members = doubtful_groups(ranges, plain)
    if belief is None:
        belief = Belief.before_readings(tuple(members), rise_together(materials)).starting_at(learned or {})
    else:
        # A vessel that was weighed since the belief was formed may have made an input certain, or another one matter.
        members = members_by_then(belief.groups, ranges)
        belief = belief.covering(tuple(members))
    if any(belief.mean):
        doubts = {key: z for name, z in zip(belief.groups, belief.mean, strict=True) for key in members[name]}
        plain = flow(inputs, doubts)
    return Evaluation(inputs, plain, belief, members, ranges, evidence, goes_by)
