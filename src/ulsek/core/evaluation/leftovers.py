"""Leftovers: what a batch leaves besides its product, each with its name, amount, share of the cost, date, and possible uses."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Literal

from ..base.answer import in_answer
from ..base.messages import Message, listed, message, short_name, term
from ..base.ranges import Range
from ..materials.vessel_state import OutgoingStream, VesselState
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..properties.density import volume_ml
from ..properties.measure import measure
from ..safety.shipped_rules import starting_offers
from ..spec.sentences import vessel_name
from .cost import CENT, NO_COST
from .flow_figures import FlowFigures
from .product_shelf_life import keeping_of_remainder, keeping_of_stream

LEAST_G = 1.0
"""Below so much [g] nothing is left worth a word."""
WEIGHED_SHARE, WEIGHED_G = 0.3, 20.0
"""What is left may weigh so much more or less than worked out before anybody is asked; pulp and peel vary. House experience."""
LEAST_BINNED_SHARE = 0.01
"""What goes into the bin unnamed is told from this share of all that went in."""
_STRONG_ABV = 15.0
_SOLID_SHARE = 0.05
_NEVER_KEPT = ("steam", "gas", "spill", "discarded", "missing")
Where = Literal["vessel", "by_product", "bin"]


@dataclass(frozen=True, slots=True)
class Leftover:
    """Something that a batch leaves: its mass [g], its volume [mL; 0 if it does not pour], and the days that it keeps at `at_most_c` [°C].

    `stands` tells whether it is in a vessel, a by-product, or in the bin; `key` names the vessel or by-product as a line does. `cost` is its share of the cost
    of the batch, `cost_if_kept` its share by mass.
    """

    key: str
    name: Message
    stands: Where
    mass_g: float
    volume_ml: float
    cost: Decimal
    cost_if_kept: Decimal
    days: int
    at_most_c: float
    how: Message
    offer: Message
    hands_min: float

    @property
    @in_answer()
    def expected_g(self) -> Range:
        """Least and largest mass [g] that raises no question."""
        return weighed_expected_g(self.mass_g)


@dataclass
class _Pool:
    """Cost and mass of what is in one vessel or by-product; `by_weight` is its cost if by-products carried cost by mass."""

    cost: Decimal = NO_COST
    by_weight: Decimal = NO_COST
    mass_g: float = 0.0

    def take(self, mass_g: float) -> _Pool:
        """Removes a part by mass, and returns it."""
        # In decimal, through the shortest form of the number: cents must add up.
        share = Decimal(repr(min(1.0, mass_g / self.mass_g))) if self.mass_g > 0 else NO_COST
        part = _Pool(self.cost * share, self.by_weight * share, mass_g)
        self.cost -= part.cost
        self.by_weight -= part.by_weight
        self.mass_g = max(0.0, self.mass_g - mass_g)
        return part

    def add(self, other: _Pool) -> None:
        self.cost += other.cost
        self.by_weight += other.by_weight
        self.mass_g += other.mass_g


def weighed_expected_g(mass_g: float) -> Range:
    """Returns least and largest mass [g] of a leftover that raises no question. 100 g: 70 to 130 g."""
    # Small leftovers differ by what clings to a bowl, large ones by how they were drained.
    room = max(WEIGHED_SHARE * mass_g, WEIGHED_G)
    return Range(mass_g, max(0.0, mass_g - room), mass_g + room)


def _pools(evaluation: FlowFigures) -> tuple[dict[str, _Pool], dict[str, Decimal]]:
    """Returns (pools of each vessel and by-product at the end, by the name that a line uses; cost by mass of what left into the bin, by step and name).

    The product of a step carries its cost. A part that was drawn off carries its own by mass; what was taken off or strained out carries none unless cost is
    allocated by mass.
    """
    pools: dict[str, _Pool] = {}
    binned: dict[str, Decimal] = {}
    materials = evaluation.inputs.materials
    for done in evaluation.flow.steps:
        vessel_id = f"{VESSEL}{done.step.vessel}"
        pool = pools.setdefault(vessel_id, _Pool())
        for added in done.added:
            # What came from another vessel takes its cost along, in proportion to what was taken.
            if added.own and not added.by_itself:
                pool.add(pools.setdefault(added.material, _Pool()).take(added.mass_g))
                continue
            price = NO_COST if added.by_itself else materials[added.material].price_per_kg or NO_COST
            money = Decimal(repr(added.mass_g)) / 1000 * price
            pool.add(_Pool(money, money, added.mass_g))
        for stream in done.outgoing:
            _leave(pools, binned, pool, stream, done.step.id)
        target = f"{VESSEL}{done.vessel}"
        # A split moves the part, anything else the whole content of the vessel.
        if done.step.verb == "split" and done.step.into:
            drawn = pool.mass_g - done.after.state.mass_g
            pools.setdefault(f"{VESSEL}{done.step.into}", _Pool()).add(pool.take(max(0.0, drawn)))
        elif target != vessel_id:
            pools.setdefault(target, _Pool()).add(pool)
            pools[vessel_id] = _Pool()
    return pools, binned


def _leave(pools: dict[str, _Pool], binned: dict[str, Decimal], pool: _Pool, stream: OutgoingStream, step: str) -> None:
    """Moves the cost of an outgoing stream out of the pool of its vessel."""
    mass = stream.contents.mass_g
    if stream.kind in _NEVER_KEPT:
        # Steam carries no cost: it stays with the rest.
        pool.mass_g = max(0.0, pool.mass_g - mass)
        return
    # Drawn off, it is the product in another bottle; taken out, it is waste unless somebody finds a use.
    drawn = stream.kind == "drawn_off"
    share = Decimal(repr(min(1.0, mass / pool.mass_g))) if pool.mass_g > 0 else NO_COST
    part = _Pool(pool.cost * share if drawn else NO_COST, pool.by_weight * share, mass)
    pool.cost -= part.cost
    pool.by_weight -= part.by_weight
    pool.mass_g = max(0.0, pool.mass_g - mass)
    if stream.kept:
        pools.setdefault(f"{BY_PRODUCT}{stream.name}", _Pool()).add(part)
    else:
        binned[f"{step}:{stream.name}"] = part.by_weight


def leftover_cost(evaluation: FlowFigures) -> Decimal:
    """Returns the cost that the product does not carry [currency]: of what remains besides it, of what was drawn off and not used, and, if the house says so,
    of waste.
    """
    if evaluation.last is None:
        return NO_COST
    pools, binned = _pools(evaluation)
    product = f"{VESSEL}{evaluation.flow.steps[evaluation.last].vessel}"
    remaining = [pool for key, pool in pools.items() if key != product]
    if not evaluation.rules.leftovers["binned_takes_share"]:
        return sum((pool.cost for pool in remaining), NO_COST)
    return sum((max(pool.cost, pool.by_weight) for pool in remaining), NO_COST) + sum(binned.values(), NO_COST)


def _parts_left(state: VesselState) -> set[str]:
    return {name for piece in state.pieces for name, part in piece.parts.items() if part.mass_g > 0}


def _is_solid(state: VesselState) -> bool:
    """Returns True for what is scooped and not poured: pulp, meal, curd, pieces."""
    return state.contents.of("insolubles") + sum(piece.contents.mass_g for piece in state.pieces) > _SOLID_SHARE * state.mass_g


def _fits(rule: Mapping[str, Any], state: VesselState, verb: str, kinds: Collection[str]) -> bool:
    """Returns True if an offer is meant for such a leftover."""
    parts = _parts_left(state)
    solid = _is_solid(state)
    # Strong enough to keep by itself, and to be offered as a spirit.
    strong = state.liquid.mass_g > 0 and measure(state.liquid).get("abv", 0.0) >= _STRONG_ABV
    zested = bool(state.pieces) and "juice" in parts and "zest" not in parts
    facts = {"solid": solid, "liquid": not solid, "strong": strong, "zested": zested}
    return (
        all(part in parts for part in rule.get("parts", ()))
        and ("verbs" not in rule or verb in rule["verbs"])
        and ("kinds" not in rule or any(kind in rule["kinds"] for kind in kinds))
        and all(facts[name] is wanted for name, wanted in rule.items() if name in facts)
    )


def _called(evaluation: FlowFigures, key: str, rule: Mapping[str, Any]) -> Message:
    """Returns the name of a leftover by what is in it: “egg yolks”, “pulp”, “gooseberry juice, in the jug”."""
    kind, _, name = key.partition(":")
    if "name" in rule:
        return term(rule["name"])
    if f"{kind}:" != VESSEL:
        return term(name.replace("_", " "))
    held = evaluation.histories[-1].get(key) if evaluation.histories else None
    materials = [evaluation.inputs.materials[item] for item in (held.heated_c if held else ()) if item in evaluation.inputs.materials]
    most = sorted(materials, key=lambda material: -evaluation.went_in_g.get(material.key, 0.0))[:2]
    what = listed(short_name(material.name) for material in most) if most else message("what is left")
    return message("{what}, in the {vessel}", what=what, vessel=vessel_name(evaluation.inputs.spec, name))


def _leftover(evaluation: FlowFigures, key: str, state: VesselState, stands: Where, verb: str, money: tuple[Decimal, Decimal]) -> Leftover:
    held = evaluation.histories[-1].get(key) if evaluation.histories else None
    materials = [evaluation.inputs.materials[item] for item in (held.heated_c if held else ()) if item in evaluation.inputs.materials]
    # What floats in the liquid, and what lies in it as pieces, both decide what it is good for.
    kinds = {material.kind for material in materials} | {
        evaluation.inputs.materials[piece.material].kind for piece in state.pieces if piece.material in evaluation.inputs.materials
    }
    # The first offer that fits: they stand in order from the special to the general.
    rule = next(rule for rule in starting_offers()["offers"] if _fits(rule, state, verb, kinds))
    kept = keeping_of_remainder(evaluation, key)
    # What is scooped has no volume that a jug would show.
    liquid = volume_ml(state.liquid) if state.liquid.solution.mass_g > 0 and not _is_solid(state) else 0.0
    return Leftover(
        key,
        _called(evaluation, key, rule),
        stands,
        state.mass_g,
        liquid,
        money[0].quantize(CENT),
        money[1].quantize(CENT),
        kept.days,
        kept.at_most_c,
        term(rule["how"]),
        term(rule["offer"]),
        float(rule["hands_min"]),
    )


def _made_by(evaluation: FlowFigures, name: str) -> str:
    """Returns the verb of the last step that left a by-product of this name."""
    return next((done.step.verb for done in reversed(evaluation.flow.steps) for stream in done.outgoing if stream.name == name), "")


def _all(evaluation: FlowFigures) -> Iterator[Leftover]:
    flow = evaluation.flow
    pools, binned = _pools(evaluation)
    product = None if evaluation.last is None else flow.steps[evaluation.last].vessel
    takes = evaluation.rules.leftovers["binned_takes_share"]

    def money(key: str) -> tuple[Decimal, Decimal]:
        pool = pools.get(key, _Pool())
        return (max(pool.cost, pool.by_weight) if takes else pool.cost), max(pool.cost, pool.by_weight)

    for name, state in flow.vessels.items():
        if name != product and state.mass_g >= LEAST_G:
            yield _leftover(evaluation, f"{VESSEL}{name}", state, "vessel", "", money(f"{VESSEL}{name}"))
    for name, state in flow.streams.items():
        if state.mass_g >= LEAST_G:
            yield _leftover(
                evaluation, f"{BY_PRODUCT}{name}", state, "by_product", _made_by(evaluation, name), money(f"{BY_PRODUCT}{name}")
            )
    went_in = sum(evaluation.went_in_g.values())
    for done in flow.steps:
        for stream in done.outgoing:
            mass = stream.contents.mass_g
            if stream.kept or stream.kind in _NEVER_KEPT or mass < max(LEAST_G, LEAST_BINNED_SHARE * went_in):
                continue
            weight = binned.get(f"{done.step.id}:{stream.name}", NO_COST)
            # It has left: its materials are those in its vessel at that step.
            yield _of_bin(evaluation, done.step.id, stream, (weight if takes else NO_COST, weight))


def _of_bin(evaluation: FlowFigures, step: str, stream: OutgoingStream, money: tuple[Decimal, Decimal]) -> Leftover:
    done = next(item for item in evaluation.flow.steps if item.step.id == step)
    floating = [*stream.state.solids_g, *(piece.material for piece in stream.state.pieces)]
    kinds = {evaluation.inputs.materials[key].kind for key in floating if key in evaluation.inputs.materials}
    rule = next(rule for rule in starting_offers()["offers"] if _fits(rule, stream.state, done.step.verb, kinds))
    known = [evaluation.inputs.materials[key] for key in dict.fromkeys(floating) if key in evaluation.inputs.materials]
    if "name" in rule:
        name = term(rule["name"])
    elif known:
        name = message("{names}, {stream}", names=listed(short_name(material.name) for material in known), stream=term(stream.name))
    else:
        name = term(stream.name)
    kept = keeping_of_stream(evaluation, step, f"{VESSEL}{done.step.vessel}", stream.state)
    cost, weight = (amount.quantize(CENT) for amount in money)
    return Leftover(
        f"bin:{step}", name, "bin", stream.contents.mass_g, 0.0, cost, weight, kept.days, kept.at_most_c, term(rule["how"]), term(rule["offer"]),
        float(rule["hands_min"]),
    )  # fmt: skip


def leftovers(evaluation: FlowFigures) -> tuple[Leftover, ...]:
    """Returns everything that a batch leaves besides its product: in vessels, as by-products, in the bin; each with its date and possible uses.

    Cost follows mass through the vessels: what remains in a vessel or was drawn off carries its share; waste carries none unless the house says so. Source:
    mass balance; uses are house experience.
    """
    return tuple(_all(evaluation))
