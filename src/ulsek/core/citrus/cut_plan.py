"""Cut plans: the ways to cut fruit, what each yields and until when it can be used, and a plan as a value; the naive plan is the baseline.

Standard library only. `ulsek.planners.cut_plan` finds the best plan.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from ..base.figures import MOST_G
from ..base.messages import Computed, Given, message
from ..base.refusals import Refusal
from .fruit import Variety
from .house_experience import figure

Kind = Literal["juice", "zest", "peel", "wheels", "whole"]
KINDS: tuple[Kind, ...] = ("juice", "zest", "peel", "wheels", "whole")
UNIT: Mapping[Kind, str] = {"juice": "mL", "zest": "g", "peel": "g", "wheels": "wheels", "whole": "fruit"}
KEEPS_H: Mapping[Kind, float] = {kind: figure("cut", "keeps_h", kind) for kind in KINDS}
"""Hours that what was cut stays good enough for what it is wanted for; house experience."""
DAY_OLD_H = figure("cut", "day_old_h")
"""Hours that juice still serves where somebody has said that the day before's will do: duller, and no longer fresh; house experience."""
MAX_ZEST_TO_JUICE_H = figure("cut", "soon_h")
"""A zested fruit dries out and grips its juice: it is juiced within so many hours, or not at all."""
JUICE_AFTER_ZEST_SHARE = figure("cut", "grips")
"""Of its juice that a fruit still gives once its skin is gone; house experience."""
WAYS: Mapping[str, tuple[Kind, ...]] = {
    "juice": ("juice",),
    "zest, then juice": ("zest", "juice"),
    "peel, then juice": ("peel", "juice"),
    "zest": ("zest",),
    "peel": ("peel",),
    "wheels": ("wheels",),
    "whole": ("whole",),
}
USUAL_H = 4.0
"""When something is usually wanted [h from now]. House experience."""
MOST_FRUIT = 10_000
_MOST_WANTS, _MOST_CASES = 40, 40
_HORIZON_H = 24.0 * 31
"""Longest time ahead that fruit is planned for [h]: a month. House experience."""
_LEAST_PRICE = 0.01
"""Price of a fruit without a known price [currency], so that packs are not ordered at will. House judgement."""
_WEIGHABLE = 1e-3
"""Surplus [unit of the kind] below which nothing is left over. House judgement."""
_SHORT_G = 400.0
"""Grams of bin that one gram of something wanted is worth: more than any fruit bins for it, so that nothing is left short to save waste."""
MONEY_G, BUY_G = 3.0, 400.0
"""Grams of bin that one unit of money is worth among plans that are alike otherwise; far more for a case that must be bought."""


@dataclass(frozen=True, slots=True)
class Fruit:
    """Fruit of one case: the count and the yield of one of them. With a `pack` above 0 it must be ordered, in packs of that count at `price` for each fruit.

    `spread`: least and most of a kind as multiples of its expected yield, where they are known to differ.
    """

    key: str
    name: str
    kind: str
    count: int
    fruit_g: float
    juice_ml: float
    zest_g: float
    peel_g: float
    density: float
    price: float = 0.0
    pack: int = 0
    spread: Mapping[Kind, tuple[float, float]] = field(default_factory=dict)

    @property
    def pack_price(self) -> float:
        """Price of a pack [currency]. A pack without a price still has a small cost, so that none is ordered without need."""
        # Without a price a plan would order packs at will.
        return max(_LEAST_PRICE, self.price) * self.pack

    def gives(self, kind: Kind, way: str) -> float:
        """Returns the expected yield of a kind from one fruit cut this way, in the kind's unit."""
        # A way that does not touch a kind leaves it in the fruit, where no later cut reaches it.
        if kind not in WAYS[way]:
            return 0.0
        if kind == "juice":
            # Skin taken off first costs juice: the fruit dries, and the hand grips it worse.
            return self.juice_ml * (1.0 if way == "juice" else JUICE_AFTER_ZEST_SHARE)
        return {"zest": self.zest_g, "peel": self.peel_g, "wheels": figure("cut", "wheels"), "whole": 1.0}[kind]

    def grams(self, kind: Kind) -> float:
        """Returns the mass of one unit of a kind [g]; that of a wheel is its share of the fruit."""
        return {
            "juice": self.density,
            "zest": 1.0,
            "peel": 1.0,
            "wheels": figure("cut", "wheel_share") * self.fruit_g / figure("cut", "wheels"),
            "whole": self.fruit_g,
        }[kind]


@dataclass(frozen=True, slots=True)
class Want:
    """A demand: how much of each kind, from which fruits (keys of cases or of kinds of fruit; empty: any), `by` when [h from now].

    `day_old` is True if juice of the day before is accepted.
    """

    key: str
    name: str
    takes: Mapping[Kind, float]
    fruits: tuple[str, ...] = ()
    by_h: float = USUAL_H
    day_old: bool = False

    def keeps_h(self, kind: Kind) -> float:
        """Returns the greatest age [h] at which this demand accepts a kind: the kind's own, longer for juice if day-old juice is accepted."""
        return DAY_OLD_H if kind == "juice" and self.day_old else KEEPS_H[kind]

    def may_use(self, fruit: Fruit) -> bool:
        """Returns True if the demand accepts a fruit."""
        return not self.fruits or fruit.key in self.fruits or fruit.kind in self.fruits


@dataclass(frozen=True, slots=True)
class Cut:
    """A count of fruits of one case, cut one way: first cut `at` [h from now], and juiced `then_at` if that is later."""

    fruit: str
    way: str
    count: int
    at_h: float
    then_h: float


@dataclass(frozen=True, slots=True)
class Share:
    """An amount of a kind from one case to one demand."""

    fruit: str
    kind: Kind
    want: str
    amount: float


@dataclass(frozen=True, slots=True)
class Plan:
    """Cuts, allocations, surplus, waste [g], shortages, and whether no better plan exists (`proved`)."""

    cuts: tuple[Cut, ...]
    shares: tuple[Share, ...]
    over: Mapping[tuple[str, Kind], float]
    bin_g: float
    cost: float
    short: Mapping[tuple[str, Kind], float]
    packs: Mapping[str, int] = field(default_factory=dict)
    proved: bool = False

    @property
    def used(self) -> dict[str, int]:
        """Returns the count of fruits cut, by case."""
        found: dict[str, int] = {}
        for cut in self.cuts:
            found[cut.fruit] = found.get(cut.fruit, 0) + cut.count
        return found


def checked_count(asked: int | None, left: int, where: str) -> int:
    """Returns how many fruits of a case may be used; all that are `left` [count] if None is asked. Raises Refusal, at `where`, for a negative count and for
    more than are left.
    """
    have = max(0, left)
    count = have if asked is None else asked
    if count < 0:
        raise Refusal(
            message("{count} fruits cannot be", count=count),
            where,
            message("nothing or more"),
            message("Count them again"),
            "out_of_bounds",
        )
    if count > have:
        raise Refusal(
            message("{count} are not there", count=count),
            where,
            message("{left} are left of that case", left=left),
            message("Count them"),
            "more_than_there_is",
        )
    return count


def pack_of(of: Variety) -> Fruit:
    """Returns a pack of the usual size to order of a fruit that the house never had, with typical values and no known price. Source: tables; house experience."""
    zest, peel = of.skin_g(of.piece_g.value)
    pack = int(figure("cut", "fruits_in_a_pack"))
    return Fruit(f"order {of.key}", of.name, of.key, 0, of.piece_g.value, of.juice_ml(), zest, peel, density=of.density, pack=pack)


def check(fruits: Sequence[Fruit], wants: Sequence[Want]) -> None:
    """Raises Refusal, at its place, for no fruit, no demand, and for counts and figures that cannot be."""
    if not wants:
        raise Refusal(message("Nothing is wanted"), "wants", remedy=message("Say what you want, how much, and by when"), code="missing")
    if not fruits:
        raise Refusal(message("There is no fruit"), "fruits", remedy=message("Count a case in first, or plan an order"), code="missing")
    # The search grows with demands times cases: past these counts it would not end in a planner's patience.
    for things, most, where in ((wants, _MOST_WANTS, "wants"), (fruits, _MOST_CASES, "fruits")):
        if len(things) > most:
            raise Refusal(
                message("{n} are too many for one plan", n=len(things)),
                where,
                message("at most {most}", most=most),
                message("Plan a day at a time"),
                "out_of_bounds",
            )
    for n, fruit in enumerate(fruits):
        if not 0 <= fruit.count <= MOST_FRUIT:
            raise Refusal(
                message("{count} fruits cannot be", count=fruit.count),
                f"fruits/{n}/count",
                message("from 0 to {most}", most=Computed(MOST_FRUIT, decimals=0)),
                message("Count again"),
                "out_of_bounds",
            )
    for n, want in enumerate(wants):
        if not math.isfinite(want.by_h) or not 0.0 <= want.by_h <= _HORIZON_H:
            raise Refusal(
                message("“{want}” has no time", want=want.name),
                f"wants/{n}/by",
                message("from now to a month ahead"),
                message("Say by when"),
                "out_of_bounds",
            )
        if not want.takes or all(amount <= 0 for amount in want.takes.values()):
            raise Refusal(
                message("“{want}” takes nothing", want=want.name), f"wants/{n}/takes", remedy=message("Say how much"), code="missing"
            )
        for kind, amount in want.takes.items():
            if not (math.isfinite(amount) and 0 <= amount <= MOST_G):
                raise Refusal(
                    message("{amount} {unit} cannot be", amount=Given(amount), unit=UNIT[kind]),
                    f"wants/{n}/takes/{kind}",
                    message("from 0 to 1 000 000"),
                    message("Check the figure"),
                    "out_of_bounds",
                )


def plan_of(
    fruits: Sequence[Fruit],
    cuts: tuple[Cut, ...],
    shares: Mapping[tuple[str, Kind, str], float],
    short: Mapping[tuple[str, Kind], float],
    packs: Mapping[str, int],
) -> Plan:
    """Returns a plan with its waste and surplus, from its cuts and allocations: mass in = mass used + surplus + waste."""
    by_key = {fruit.key: fruit for fruit in fruits}
    made: dict[tuple[str, Kind], float] = {}
    for cut in cuts:
        for kind in WAYS[cut.way]:
            at = (cut.fruit, kind)
            made[at] = made.get(at, 0.0) + cut.count * by_key[cut.fruit].gives(kind, cut.way)
    for (key, kind, _), amount in shares.items():
        # What is cut and not asked for is surplus, as long as it is enough to weigh.
        made[key, kind] -= amount
    over = {at: amount for at, amount in made.items() if amount > _WEIGHABLE}
    # Everything of a cut fruit that no demand takes is waste: mass in less mass used.
    whole = math.fsum(cut.count * by_key[cut.fruit].fruit_g for cut in cuts)
    # In mass, since juice is in millilitres and wheels are counted.
    used = math.fsum(amount * by_key[key].grams(kind) for (key, kind, _), amount in shares.items())
    return Plan(
        tuple(sorted(cuts, key=lambda cut: (cut.at_h, cut.fruit, cut.way))),
        tuple(Share(key, kind, want, amount) for (key, kind, want), amount in shares.items()),
        over,
        whole - used,
        math.fsum(cut.count * by_key[cut.fruit].price for cut in cuts),
        short,
        packs,
    )


def naive_plan(fruits: Sequence[Fruit], wants: Sequence[Want]) -> Plan:
    """Returns the baseline plan: each demand, in order of time, takes fresh fruit of its own, case after case.

    If it takes skin and juice, the same fruit yields both; the rest of the fruit is thrown away.
    """
    # Packs can be ordered at will; a case in hand ends.
    left = {fruit.key: (MOST_FRUIT if fruit.pack else fruit.count) for fruit in fruits}
    cuts: dict[tuple[str, str, float], int] = {}
    shares: dict[tuple[str, Kind, str], float] = {}
    short: dict[tuple[str, Kind], float] = {}
    for want in sorted(wants, key=lambda item: item.by_h):
        # What is still to be covered of this demand; the same fruit may cover two kinds at once.
        open_: dict[Kind, float] = {kind: amount for kind, amount in want.takes.items() if amount > 0}
        for fruit in fruits:
            if not want.may_use(fruit):
                continue
            while open_ and left[fruit.key]:
                way = _usual_way(open_)
                # As many fruits as the first kind to be covered needs; then the next way is chosen anew.
                done = [kind for kind in WAYS[way] if kind in open_]
                count = min(left[fruit.key], max(1, math.ceil(min(open_[k] / max(1e-9, fruit.gives(k, way)) for k in done) - 1e-9)))
                left[fruit.key] -= count
                at = (fruit.key, way, want.by_h)
                cuts[at] = cuts.get(at, 0) + count
                for kind in done:
                    # What the last fruit gives beyond the demand is surplus, not used.
                    amount = min(open_[kind], count * fruit.gives(kind, way))
                    share = (fruit.key, kind, want.key)
                    shares[share] = shares.get(share, 0.0) + amount
                    open_[kind] -= amount
                    if open_[kind] <= 1e-9:
                        del open_[kind]
        short |= {(want.key, kind): amount for kind, amount in open_.items()}
    packs = {
        fruit.key: math.ceil((MOST_FRUIT - left[fruit.key]) / fruit.pack) for fruit in fruits if fruit.pack and left[fruit.key] < MOST_FRUIT
    }
    return plan_of(
        fruits,
        tuple(Cut(key, way, count, at, at) for (key, way, at), count in cuts.items()),
        shares,
        short,
        packs,
    )


def _usual_way(open_: Mapping[Kind, float]) -> str:
    """Returns how a person would cut the next fruit for what is still needed."""
    # Skin comes off before the juice: a squeezed half cannot be zested.
    skin = "zest" if "zest" in open_ else "peel" if "peel" in open_ else ""
    if skin and "juice" in open_:
        return f"{skin}, then juice"
    if skin:
        return skin
    # In the order in which a bar reaches for them.
    return next(kind for kind in ("juice", "wheels", "whole") if kind in open_)


def objective(plan: Plan, fruits: Sequence[Fruit]) -> float:
    """Returns the objective of a plan, in grams of waste [g]: shortage has the largest weight, then waste, then money. The weights are an order of priority,
    not a measurement.
    """
    by_key = {fruit.key: fruit for fruit in fruits}
    # Whole packs are paid for, whether or not all of their fruit is cut.
    bought = math.fsum(packs * by_key[key].pack_price for key, packs in plan.packs.items())
    missing = math.fsum(shortage_weight(kind, fruits) * amount for (_, kind), amount in plan.short.items())
    # Weights so far apart that a lower one never outweighs a higher one in a day's plan.
    return missing + plan.bin_g + MONEY_G * plan.cost + BUY_G * bought


def shortage_weight(kind: Kind, fruits: Sequence[Fruit]) -> float:
    """Returns the grams of waste [g] that one unit of shortage of a kind counts as. Source: as `objective`."""
    # In grams of fruit, so that a missing wheel weighs as much as the fruit that it needs.
    return _SHORT_G * max((fruit.grams(kind) for fruit in fruits), default=1.0)
