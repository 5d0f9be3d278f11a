"""The cut plan: which fruit is zested, peeled, juiced or sliced, when, and for what, so that everything wanted is there and the least is binned.

A whole-number program (HiGHS through scipy): each fruit is cut one way and once; zest comes before juice and juice soon after zest; what was cut
serves what is wanted while it keeps. Beside it stands the naive order, each want from fresh fruit of its own; the plan is never worse than that.
"""

from __future__ import annotations

import math
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from importlib import import_module
from typing import Any, Literal

from ulsek.core.refusals import Refusal

Kind = Literal["juice", "zest", "peel", "wheels"]
KINDS: tuple[Kind, ...] = ("juice", "zest", "peel", "wheels")
UNIT: Mapping[Kind, str] = {"juice": "mL", "zest": "g", "peel": "g", "wheels": "wheels"}
KEEPS_H: Mapping[Kind, float] = {"juice": 18.0, "zest": 24.0, "peel": 24.0, "wheels": 10.0}
"""Hours that what was cut stays good enough for what it is wanted for; house experience."""
SOON_H = 6.0
"""A zested fruit dries out and grips its juice: it is juiced within so many hours, or not at all."""
GRIPS = 0.96
"""Of its juice that a fruit still gives once its skin is gone; house experience."""
WAYS: Mapping[str, tuple[Kind, ...]] = {
    "juice": ("juice",),
    "zest, then juice": ("zest", "juice"),
    "peel, then juice": ("peel", "juice"),
    "zest": ("zest",),
    "peel": ("peel",),
    "wheels": ("wheels",),
}
_TIME_LIMIT_S = 1.2
_MOST_FRUIT, _MOST_WANTS, _MOST_CASES = 10_000, 40, 40
_GAP = 0.01
_SHORT_G = 400.0
"""Grams of bin that one gram of something wanted is worth: more than any fruit bins for it, so that nothing is left short to save waste."""
_MONEY_G = 3.0
"""Grams of bin that one unit of money is worth among plans that are alike otherwise; far more for a case that must be bought."""
_BUY_G = 400.0


@dataclass(frozen=True, slots=True)
class Fruit:
    """Fruit of one case: how many, and what one of them gives. `pack` above nothing: it is not here, and comes in packs of so many at `price` each fruit."""

    key: str
    name: str
    kind: str
    count: int
    fruit_g: float
    juice_ml: float
    zest_g: float
    peel_g: float
    wheels: float = 7.0
    density: float = 1.035
    price: float = 0.0
    pack: int = 0

    def gives(self, kind: Kind, way: str) -> float:
        """Of a kind, from one fruit cut this way, in the kind's unit."""
        if kind not in WAYS[way]:
            return 0.0
        if kind == "juice":
            return self.juice_ml * (1.0 if way == "juice" else GRIPS)
        return {"zest": self.zest_g, "peel": self.peel_g, "wheels": self.wheels}[kind]

    def grams(self, kind: Kind) -> float:
        """What one unit of a kind weighs: a wheel is its share of the fruit."""
        return {"juice": self.density, "zest": 1.0, "peel": 1.0, "wheels": 0.85 * self.fruit_g / self.wheels}[kind]


@dataclass(frozen=True, slots=True)
class Want:
    """Something wanted: how much of each kind, of which fruits (keys of cases or kinds of fruit; none named: any), `by` [h from now]."""

    key: str
    name: str
    takes: Mapping[Kind, float]
    fruits: tuple[str, ...] = ()
    by_h: float = 4.0

    def may_use(self, fruit: Fruit) -> bool:
        return not self.fruits or fruit.key in self.fruits or fruit.kind in self.fruits


@dataclass(frozen=True, slots=True)
class Cut:
    """So many fruits of one case cut one way: first cut `at` [h from now], and juiced `then_at` where that comes after."""

    fruit: str
    way: str
    count: int
    at_h: float
    then_h: float


@dataclass(frozen=True, slots=True)
class Share:
    """What goes from one case into one want: a kind and how much of it."""

    fruit: str
    kind: Kind
    want: str
    amount: float


@dataclass(frozen=True)
class Plan:
    """Cuts, where everything goes, what stays over, what is binned [g], what is short, and whether a better plan may exist (`proved`)."""

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
        """Fruits cut, by case."""
        found: dict[str, int] = {}
        for cut in self.cuts:
            found[cut.fruit] = found.get(cut.fruit, 0) + cut.count
        return found


def _checked(fruits: Sequence[Fruit], wants: Sequence[Want]) -> None:
    if not wants:
        raise Refusal("Nothing is wanted", "wants", remedy="Say what you want, how much, and by when", code="missing")
    if not fruits:
        raise Refusal("There is no fruit", "fruits", remedy="Count a case in first, or plan an order", code="missing")
    for things, most, where in ((wants, _MOST_WANTS, "wants"), (fruits, _MOST_CASES, "fruits")):
        if len(things) > most:
            raise Refusal(f"{len(things)} are too many for one plan", where, f"at most {most}", "Plan a day at a time", "out_of_bounds")
    for n, fruit in enumerate(fruits):
        if not 0 <= fruit.count <= _MOST_FRUIT:
            raise Refusal(
                f"{fruit.count} fruits cannot be", f"fruits/{n}/count", f"from 0 to {_MOST_FRUIT}", "Count again", "out_of_bounds"
            )
    for n, want in enumerate(wants):
        if not math.isfinite(want.by_h) or not 0.0 <= want.by_h <= 24.0 * 31:
            raise Refusal(f"“{want.name}” has no time", f"wants/{n}/by", "from now to a month ahead", "Say by when", "out_of_bounds")
        if not want.takes or all(amount <= 0 for amount in want.takes.values()):
            raise Refusal(f"“{want.name}” takes nothing", f"wants/{n}/takes", remedy="Say how much", code="missing")
        for kind, amount in want.takes.items():
            if not (math.isfinite(amount) and 0 <= amount <= 1e6):
                raise Refusal(
                    f"{amount:g} {UNIT[kind]} cannot be",
                    f"wants/{n}/takes/{kind}",
                    "from 0 to 1 000 000",
                    "Check the figure",
                    "out_of_bounds",
                )


def warm() -> None:
    """Loads the solver, which takes a second the first time: outside of any plan's own time."""
    import_module("scipy.optimize")
    import_module("scipy.sparse")


def cut_plan(fruits: Sequence[Fruit], wants: Sequence[Want], *, time_limit_s: float = _TIME_LIMIT_S) -> Plan:
    """The plan with the least short, then the least binned, then the least money; after `time_limit_s` [s] the best so far, said as such.

    The relaxed program gives a bound that no plan beats; rounding it up to whole fruit gives a plan. When that lies within 1 % of the bound it stands,
    else the whole-number program goes on from there. Refuses nothing wanted, no fruit, counts and figures that cannot be. Error: the yields that each
    fruit is given with. Source: mixed-integer programming (HiGHS); the naive order as its bound from above.
    """
    _checked(fruits, wants)
    warm()
    began = time.monotonic()
    model = _Model(fruits, wants)
    relaxed = model.solved(whole=False, limit_s=time_limit_s)
    plans = [naive_plan(fruits, wants)]
    bound = -math.inf
    if relaxed is not None:
        bound = relaxed.worth
        plans.append(model.told(model.rounded(relaxed.values, began + 0.6 * time_limit_s)))
    left = time_limit_s - (time.monotonic() - began)
    if left > 0.05 and min(_worth(plan, fruits) for plan in plans) > bound + _GAP * abs(bound):
        whole = model.solved(whole=True, limit_s=left)
        if whole is not None:
            plans.append(model.told(whole.values))
            bound = max(bound, whole.bound)
    best = min(plans, key=lambda plan: _worth(plan, fruits))
    return replace(best, proved=_worth(best, fruits) <= bound + _GAP * abs(bound) + 1.0)


def _worth(plan: Plan, fruits: Sequence[Fruit]) -> float:
    """What a plan is judged by, in grams of bin."""
    bought = math.fsum(packs * _price_of_pack(fruits, key) for key, packs in plan.packs.items())
    missing = math.fsum(_short_weight(kind, fruits) * amount for (_, kind), amount in plan.short.items())
    return missing + plan.bin_g + _MONEY_G * plan.cost + _BUY_G * bought


def _price_of_pack(fruits: Sequence[Fruit], key: str) -> float:
    fruit = next(item for item in fruits if item.key == key)
    return max(0.01, fruit.price) * fruit.pack


def _short_weight(kind: Kind, fruits: Sequence[Fruit]) -> float:
    return _SHORT_G * max((fruit.grams(kind) for fruit in fruits), default=1.0)


def _sessions(wants: Sequence[Want]) -> list[float]:
    """Moments at which something is cut: each `by` that a want names."""
    return sorted({want.by_h for want in wants})


def _cuts_of(sessions: Sequence[float]) -> list[tuple[str, int, int]]:
    """(way, session of the first cut, session of the juicing) that are allowed: juice not before zest, and soon after it."""
    found = []
    for way, kinds in WAYS.items():
        for first, at in enumerate(sessions):
            if len(kinds) == 1:
                found.append((way, first, first))
            else:
                found += [(way, first, then) for then, later in enumerate(sessions) if 0.0 <= later - at <= SOON_H]
    return found


@dataclass(frozen=True)
class _Answer:
    values: Any
    worth: float
    bound: float


class _Model:
    """The program over some fruit and wants: cuts (whole), packs (whole), what goes where, what is short."""

    def __init__(self, fruits: Sequence[Fruit], wants: Sequence[Want]) -> None:
        self.fruits, self.wants = fruits, wants
        self.sessions = _sessions(wants)
        self.columns: list[tuple[Any, ...]] = []
        self._cost: list[float] = []
        self._upper: list[float] = []
        self._entries: tuple[list[int], list[int], list[float]] = ([], [], [])
        self._low: list[float] = []
        self._high: list[float] = []
        makes = self._cuts()
        self._shares(makes)

    def _column(self, name: tuple[Any, ...], price: float, most: float) -> int:
        self.columns.append(name)
        self._cost.append(price)
        self._upper.append(most)
        return len(self.columns) - 1

    def _row(self, entries: Mapping[int, float], least: float, most: float) -> None:
        rows, cols, data = self._entries
        for where, value in entries.items():
            rows.append(len(self._low))
            cols.append(where)
            data.append(value)
        self._low.append(least)
        self._high.append(most)

    def _cuts(self) -> dict[tuple[int, Kind, int], dict[int, float]]:
        """A column for each way that a fruit may be cut and when; what each gives, by fruit, kind and session. No fruit is used twice."""
        wanted = {kind for want in self.wants for kind, amount in want.takes.items() if amount > 0}
        ways = [cut for cut in _cuts_of(self.sessions) if set(WAYS[cut[0]]) <= wanted]
        makes: dict[tuple[int, Kind, int], dict[int, float]] = {}
        for i, fruit in enumerate(self.fruits):
            useful = {kind for want in self.wants if want.may_use(fruit) for kind, amount in want.takes.items() if amount > 0}
            used: dict[int, float] = {}
            most = float(_MOST_FRUIT if fruit.pack else fruit.count)
            for way, first, then in ways:
                if not set(WAYS[way]) <= useful:
                    continue
                x = self._column(("cut", i, way, first, then), fruit.fruit_g + _MONEY_G * fruit.price, most)
                used[x] = 1.0
                for kind in WAYS[way]:
                    makes.setdefault((i, kind, then if kind == "juice" else first), {})[x] = fruit.gives(kind, way)
            if not used:
                continue
            if fruit.pack:
                packs = self._column(("packs", i), _BUY_G * max(0.01, fruit.price) * fruit.pack, float(_MOST_FRUIT // fruit.pack))
                self._row({**used, packs: -float(fruit.pack)}, -math.inf, 0.0)
            else:
                self._row(used, 0.0, float(fruit.count))
        return makes

    def _shares(self, makes: Mapping[tuple[int, Kind, int], Mapping[int, float]]) -> None:
        """A column for all that may go from a cut into a want while it keeps; each want is met or short, and no more is given than was cut."""
        gives: dict[tuple[int, Kind, int], dict[int, float]] = {}
        for n, want in enumerate(self.wants):
            for kind, amount in want.takes.items():
                if amount <= 0:
                    continue
                entries = {self._column(("short", n, kind), _short_weight(kind, self.fruits), amount): 1.0}
                for i, made, session in makes:
                    fits = made == kind and 0.0 <= want.by_h - self.sessions[session] <= KEEPS_H[kind]
                    if fits and want.may_use(self.fruits[i]):
                        share = self._column(("share", i, kind, session, n), -self.fruits[i].grams(kind), amount)
                        entries[share] = 1.0
                        gives.setdefault((i, kind, session), {})[share] = 1.0
                self._row(entries, amount, amount)
        for at, takers in gives.items():
            self._row({**takers, **{x: -each for x, each in makes[at].items()}}, -math.inf, 0.0)

    def solved(self, *, whole: bool, limit_s: float, fixed: Mapping[int, float] | None = None) -> _Answer | None:
        """The program solved, with whole fruit or relaxed, some columns `fixed`; None where the time did not reach."""
        import numpy as np
        from scipy.optimize import Bounds, LinearConstraint, milp
        from scipy.sparse import coo_array

        low, high = np.zeros(len(self.columns)), np.array(self._upper)
        for where, value in (fixed or {}).items():
            low[where] = high[where] = value
        rows, cols, data = self._entries
        matrix = coo_array((data, (rows, cols)), shape=(len(self._low), len(self.columns))).tocsr()
        kinds = np.array([float(whole and name[0] in ("cut", "packs")) for name in self.columns])
        answer = milp(
            np.array(self._cost),
            integrality=kinds,
            bounds=Bounds(low, high),
            constraints=LinearConstraint(matrix, np.array(self._low), np.array(self._high)),
            options={"time_limit": limit_s, "mip_rel_gap": _GAP},
        )
        if answer.x is None:
            return None
        bound = answer.fun if answer.mip_dual_bound is None else answer.mip_dual_bound
        return _Answer(answer.x, float(answer.fun), float(bound))

    def rounded(self, values: Any, until: float) -> Any:
        """Whole fruit out of relaxed values: each cut rounded up while its case lasts, then one fruit after another left out as long as nothing is worse."""
        fixed: dict[int, float] = {}
        left = {i: (_MOST_FRUIT if fruit.pack else fruit.count) for i, fruit in enumerate(self.fruits)}
        cuts = sorted((n for n, name in enumerate(self.columns) if name[0] == "cut"), key=lambda n: -(values[n] % 1.0))
        for n in cuts:
            fixed[n] = float(math.floor(values[n] + 1e-6))
            left[self.columns[n][1]] -= int(fixed[n])
        for n in cuts:
            i = self.columns[n][1]
            if values[n] - fixed[n] > 1e-4 and left[i] > 0:
                fixed[n] += 1.0
                left[i] -= 1
        self._packs(fixed)
        best = self.solved(whole=False, limit_s=1.0, fixed=fixed)
        for n in sorted((n for n in cuts if fixed[n]), key=lambda n: -self.fruits[self.columns[n][1]].fruit_g):
            if best is None or time.monotonic() > until:
                break
            tried = {**fixed, n: fixed[n] - 1.0}
            self._packs(tried)
            found = self.solved(whole=False, limit_s=1.0, fixed=tried)
            if found is not None and found.worth < best.worth - 1e-9:
                fixed, best = tried, found
        return values if best is None else best.values

    def _packs(self, fixed: dict[int, float]) -> None:
        """Whole packs for the fruit that is cut from them."""
        for n, name in enumerate(self.columns):
            if name[0] == "packs":
                cut = math.fsum(count for x, count in fixed.items() if self.columns[x][:2] == ("cut", name[1]))
                fixed[n] = float(math.ceil(cut / self.fruits[name[1]].pack - 1e-9))

    def told(self, answer: Any) -> Plan:
        """The values of a solved program as a plan."""
        values = [(name, float(value)) for name, value in zip(self.columns, answer, strict=True)]
        cuts = tuple(
            Cut(self.fruits[name[1]].key, name[2], round(value), self.sessions[name[3]], self.sessions[name[4]])
            for name, value in values
            if name[0] == "cut" and round(value)
        )
        shares: dict[tuple[str, Kind, str], float] = {}
        for name, value in values:
            if name[0] == "share" and value > 1e-6:
                where = (self.fruits[name[1]].key, name[2], self.wants[name[4]].key)
                shares[where] = shares.get(where, 0.0) + value
        short = {(self.wants[name[1]].key, name[2]): value for name, value in values if name[0] == "short" and value > 1e-3}
        packs = {self.fruits[name[1]].key: round(value) for name, value in values if name[0] == "packs" and round(value)}
        return _told(self.fruits, cuts, shares, short, packs)


def _told(
    fruits: Sequence[Fruit],
    cuts: tuple[Cut, ...],
    shares: Mapping[tuple[str, Kind, str], float],
    short: Mapping[tuple[str, Kind], float],
    packs: Mapping[str, int],
) -> Plan:
    """A plan with its waste and its leftovers worked out from what is cut and where it goes: mass in = mass used + over + bin."""
    by_key = {fruit.key: fruit for fruit in fruits}
    made: dict[tuple[str, Kind], float] = {}
    for cut in cuts:
        for kind in WAYS[cut.way]:
            at = (cut.fruit, kind)
            made[at] = made.get(at, 0.0) + cut.count * by_key[cut.fruit].gives(kind, cut.way)
    for (key, kind, _), amount in shares.items():
        made[key, kind] -= amount
    over = {at: amount for at, amount in made.items() if amount > 1e-3}
    whole = math.fsum(cut.count * by_key[cut.fruit].fruit_g for cut in cuts)
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
    """What is done without a plan, the printed baseline: each want in order of its time takes fresh fruit of its own, case after case; where it takes
    skin and juice, the same fruit gives both; whatever else the fruit holds is thrown away."""
    left = {fruit.key: (_MOST_FRUIT if fruit.pack else fruit.count) for fruit in fruits}
    cuts: dict[tuple[str, str, float], int] = {}
    shares: dict[tuple[str, Kind, str], float] = {}
    short: dict[tuple[str, Kind], float] = {}
    for want in sorted(wants, key=lambda item: item.by_h):
        open_: dict[Kind, float] = {kind: amount for kind, amount in want.takes.items() if amount > 0}
        for fruit in fruits:
            if not want.may_use(fruit):
                continue
            while open_ and left[fruit.key]:
                way = _usual_way(open_)
                done = [kind for kind in WAYS[way] if kind in open_]
                count = min(left[fruit.key], max(1, math.ceil(min(open_[k] / max(1e-9, fruit.gives(k, way)) for k in done) - 1e-9)))
                left[fruit.key] -= count
                at = (fruit.key, way, want.by_h)
                cuts[at] = cuts.get(at, 0) + count
                for kind in done:
                    amount = min(open_[kind], count * fruit.gives(kind, way))
                    share = (fruit.key, kind, want.key)
                    shares[share] = shares.get(share, 0.0) + amount
                    open_[kind] -= amount
                    if open_[kind] <= 1e-9:
                        del open_[kind]
        short |= {(want.key, kind): amount for kind, amount in open_.items()}
    packs = {
        fruit.key: math.ceil((_MOST_FRUIT - left[fruit.key]) / fruit.pack)
        for fruit in fruits
        if fruit.pack and left[fruit.key] < _MOST_FRUIT
    }
    return _told(
        fruits,
        tuple(Cut(key, way, count, at, at) for (key, way, at), count in cuts.items()),
        shares,
        short,
        packs,
    )


def _usual_way(open_: Mapping[Kind, float]) -> str:
    """How a hand cuts the next fruit for what is still open."""
    skin = "zest" if "zest" in open_ else "peel" if "peel" in open_ else ""
    if skin and "juice" in open_:
        return f"{skin}, then juice"
    if skin:
        return skin
    return "juice" if "juice" in open_ else "wheels"
