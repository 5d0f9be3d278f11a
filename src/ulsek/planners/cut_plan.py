"""Cut plan: which fruit is zested, peeled, juiced or sliced, when, and for which demand, with the least shortage and waste.

A mixed-integer program (HiGHS through scipy): each fruit is cut one way and once; zest comes before juice and juice soon after zest; what was cut serves
demands while it keeps. The naive plan, each demand from fresh fruit of its own, is a bound: the plan is never worse.
"""

from __future__ import annotations

import math
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from importlib import import_module
from typing import Any

from ulsek.core.citrus.cut_plan import (
    BUY_G,
    MAX_ZEST_TO_JUICE_H,
    MONEY_G,
    MOST_FRUIT,
    WAYS,
    Cut,
    Fruit,
    Kind,
    Plan,
    Want,
    check,
    naive_plan,
    objective,
    plan_of,
    shortage_weight,
)

_TIME_LIMIT_S, _GAP = 1.2, 0.01


def warm() -> None:
    """Loads the solver, which takes a second the first time, outside the time of any plan."""
    import_module("scipy.optimize")
    import_module("scipy.sparse")


def cut_plan(fruits: Sequence[Fruit], wants: Sequence[Want], *, time_limit_s: float = _TIME_LIMIT_S) -> Plan:
    """Returns the plan with the least shortage, then the least waste, then the least cost; after `time_limit_s` [s] the best so far, marked as such.

    The relaxed program gives a bound that no plan is better than; rounding it up to whole fruit gives a plan. If that is within 1 % of the bound it is
    returned, else the mixed-integer program goes on from there. Raises Refusal for no demand, no fruit, and for counts and figures that cannot be. Error: that
    of the yields. Source: mixed-integer programming (HiGHS); the naive plan as a bound from above.
    """
    check(fruits, wants)
    warm()
    began = time.monotonic()
    model = _Model(fruits, wants)
    relaxed = model.solved(whole=False, limit_s=time_limit_s)
    plans = [naive_plan(fruits, wants)]
    bound = -math.inf
    if relaxed is not None:
        bound = relaxed.objective
        plans.append(model.plan_from(model.rounded(relaxed.values, began + 0.6 * time_limit_s)))
    left = time_limit_s - (time.monotonic() - began)
    if left > 0.05 and min(objective(plan, fruits) for plan in plans) > bound + _GAP * abs(bound):
        whole = model.solved(whole=True, limit_s=left)
        if whole is not None:
            plans.append(model.plan_from(whole.values))
            bound = max(bound, whole.bound)
    best = min(plans, key=lambda plan: objective(plan, fruits))
    return replace(best, proved=objective(best, fruits) <= bound + _GAP * abs(bound) + 1.0)


def _sessions(wants: Sequence[Want]) -> list[float]:
    """Returns the moments at which fruit is cut: each `by` of a demand."""
    return sorted({want.by_h for want in wants})


def _cuts_of(sessions: Sequence[float]) -> list[tuple[str, int, int]]:
    """Returns (way, session of the first cut, session of the juicing) that are allowed: juice not before zest, and soon after it."""
    found = []
    for way, kinds in WAYS.items():
        for first, at in enumerate(sessions):
            if len(kinds) == 1:
                found.append((way, first, first))
            else:
                found += [(way, first, then) for then, later in enumerate(sessions) if 0.0 <= later - at <= MAX_ZEST_TO_JUICE_H]
    return found


@dataclass(frozen=True)
class _Answer:
    values: Any
    objective: float
    bound: float


class _Model:
    """The program over fruit and demands: cuts (whole), packs (whole), allocations, shortages."""

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
        """Adds a column for each way and time to cut a fruit, with its yields by fruit, kind and session. No fruit is used twice."""
        wanted = {kind for want in self.wants for kind, amount in want.takes.items() if amount > 0}
        ways = [cut for cut in _cuts_of(self.sessions) if set(WAYS[cut[0]]) <= wanted]
        makes: dict[tuple[int, Kind, int], dict[int, float]] = {}
        for i, fruit in enumerate(self.fruits):
            useful = {kind for want in self.wants if want.may_use(fruit) for kind, amount in want.takes.items() if amount > 0}
            used: dict[int, float] = {}
            most = float(MOST_FRUIT if fruit.pack else fruit.count)
            for way, first, then in ways:
                if not set(WAYS[way]) <= useful:
                    continue
                x = self._column(("cut", i, way, first, then), fruit.fruit_g + MONEY_G * fruit.price, most)
                used[x] = 1.0
                for kind in WAYS[way]:
                    makes.setdefault((i, kind, then if kind == "juice" else first), {})[x] = fruit.gives(kind, way)
            if not used:
                continue
            if fruit.pack:
                packs = self._column(("packs", i), BUY_G * fruit.pack_price, float(MOST_FRUIT // fruit.pack))
                self._row({**used, packs: -float(fruit.pack)}, -math.inf, 0.0)
            else:
                self._row(used, 0.0, float(fruit.count))
        return makes

    def _shares(self, makes: Mapping[tuple[int, Kind, int], Mapping[int, float]]) -> None:
        """Adds a column for each allocation from a cut to a demand while it keeps; each demand is met or short, and no more is allocated than was cut."""
        gives: dict[tuple[int, Kind, int], dict[int, float]] = {}
        for n, want in enumerate(self.wants):
            for kind, amount in want.takes.items():
                if amount <= 0:
                    continue
                entries = {self._column(("short", n, kind), shortage_weight(kind, self.fruits), amount): 1.0}
                for i, made, session in makes:
                    fits = made == kind and 0.0 <= want.by_h - self.sessions[session] <= want.keeps_h(kind)
                    if fits and want.may_use(self.fruits[i]):
                        share = self._column(("share", i, kind, session, n), -self.fruits[i].grams(kind), amount)
                        entries[share] = 1.0
                        gives.setdefault((i, kind, session), {})[share] = 1.0
                self._row(entries, amount, amount)
        for at, takers in gives.items():
            self._row({**takers, **{x: -each for x, each in makes[at].items()}}, -math.inf, 0.0)

    def solved(self, *, whole: bool, limit_s: float, fixed: Mapping[int, float] | None = None) -> _Answer | None:
        """Returns the solution, with whole fruit or relaxed, some columns `fixed`; None if the time was too short."""
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
        """Returns whole fruit from relaxed values: each cut rounded up while its case lasts, then one fruit after another left out as long as the plan is not
        worse.
        """
        fixed: dict[int, float] = {}
        left = {i: (MOST_FRUIT if fruit.pack else fruit.count) for i, fruit in enumerate(self.fruits)}
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
            if found is not None and found.objective < best.objective - 1e-9:
                fixed, best = tried, found
        return values if best is None else best.values

    def _packs(self, fixed: dict[int, float]) -> None:
        """Adds whole packs for the fruit that is cut from them."""
        for n, name in enumerate(self.columns):
            if name[0] == "packs":
                cut = math.fsum(count for x, count in fixed.items() if self.columns[x][:2] == ("cut", name[1]))
                fixed[n] = float(math.ceil(cut / self.fruits[name[1]].pack - 1e-9))

    def plan_from(self, answer: Any) -> Plan:
        """Returns the values of a solved program as a plan."""
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
        return plan_of(self.fruits, cuts, shares, short, packs)
