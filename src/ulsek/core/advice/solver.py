"""Solver: the fewest, then the lightest, additions that bring a vessel to its aims; and the closest approach if none do.

Subsets of the offered materials are searched on the linear mass balance of the vessel, fewest first. A candidate is refined by a few Newton steps on the exact
figures and checked on them.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import combinations, product

from ..base.answer import HIDDEN, in_answer
from ..base.linear_algebra import solve_linear
from ..base.messages import Message, grams, listed, message, short_name, verbatim
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, CITRIC_EQUIVALENT_G, SUBSTANCES, SUGARS
from ..materials.material import Material
from ..properties.acidity import PROTONS
from ..properties.alcohol import PURE_ETHANOL_KG_M3
from ..properties.density import volume_ml
from ..properties.measure import measure
from ..properties.ph import ph_or_neutral
from ..spec.spec import Goal
from .aims import Aim

_MOST_TIMES = 20.0
"""No repair adds more than twenty times what is in the vessel."""
_MOST_ADDITIONS = 4
_WEIGHABLE_G = 0.005
"""What a fine scale shows as nothing is not told as an addition [g]."""
_NEWTON, _CLOSE = 14, 1e-9
_LOOSE = 0.25
"""Where the linear balance misses an aim by less than this share of it, the exact figures decide."""
_NUDGE = 1e-5
_CLOSEST_ROUNDS = 40


_SLOPE_SHARE = 0.02
"""Share of the vessel by which the slope of its volume is measured: large against rounding, small against its curvature."""
_LEAST_SCALE = 0.05
"""Value that a miss is relative to where the aim is nearly zero [unit of the figure]."""
_FIRST_GUESS, _HOPELESS, _LINEAR_OFF = 0.001, 0.05, 1.1
"""First mass of an acid for a pH [share of the vessel]; share of the largest mass by which a linear guess may be negative; and by how much the exact mass of a solution exceeds the linear one at most."""
_REACH, _CLOSEST_NUDGE, _LEAST_STEP, _NOTHING = 3.0, 1e-4, 1e-4, 1e-6
"""Of the search for the closest approach: largest mass and slope [share of the vessel], smallest step of a line search, and mass that is nothing [share of the vessel]."""


@dataclass(frozen=True, slots=True)
class Addition:
    """A mass of one material to add [g]."""

    material: str
    name: str
    mass_g: float


@dataclass(frozen=True, slots=True)
class Solution:
    """Additions, and the contents of the vessel with them."""

    additions: tuple[Addition, ...]
    contents: Contents = field(metadata=HIDDEN)

    @property
    def mass_g(self) -> float:
        """Mass of all additions [g]."""
        return math.fsum(item.mass_g for item in self.additions)

    @property
    @in_answer()
    def figures(self) -> Mapping[str, float]:
        """Figures of the vessel with the additions, by key, each in its unit."""
        return measure(self.contents)

    @property
    @in_answer()
    def words(self) -> Message:
        """Text of the additions: "+ 118 g water and + 6.90 g malic acid"."""
        weighed = [
            message("+\u00a0{mass} {material}", mass=grams(item.mass_g), material=short_name(item.name))
            for item in self.additions
            if item.mass_g >= _WEIGHABLE_G
        ]
        return verbatim(listed(weighed)) if weighed else message("nothing to add")


@dataclass(frozen=True, slots=True)
class _Linear:
    """Quantities of a vessel, or of one gram of an addition, on which aims depend linearly: mass, solution, volume, dissolved solids, sugar, acid [g, mL],
    ethanol [mL], cost.
    """

    parts: tuple[float, ...]

    @classmethod
    def of(cls, contents: Contents, volume: float, money: float) -> _Linear:
        grams = contents.grams
        mass = contents.mass_g
        dissolved = math.fsum(g for key, g in grams.items() if SUBSTANCES[key].dissolved)
        # As `titratable_g`, but signed: a column may take protons away.
        acid = CITRIC_EQUIVALENT_G * math.fsum(g * PROTONS[key] for key, g in grams.items() if key in PROTONS)
        spirit = grams.get("ethanol", 0.0) * 1000.0 / PURE_ETHANOL_KG_M3
        return cls((mass, mass - grams.get("insolubles", 0.0), volume, dissolved, contents.total(SUGARS), acid, spirit, money))


# Each aim is N/D × 100 or N alone, of the parts above: (numerator, denominator or None).
_RATIO: Mapping[str, tuple[int, int | None]] = {
    "brix": (3, 1),
    "brix_reading": (3, 1),
    "sugar_g_100ml": (4, 2),
    "acid_g_100ml": (5, 2),
    "abv": (6, 2),
    "volume_ml": (2, None),
    "mass_g": (0, None),
    "cost": (7, None),
    "ph": (5, 2),
}


class _Problem:
    """One vessel, its aims and the materials that are offered."""

    def __init__(self, contents: Contents, aims: Sequence[Aim], offered: Sequence[Material], money: float) -> None:
        self.contents, self.aims, self.offered, self.money = contents, aims, offered, money
        self.units = [material.per_gram() for material in offered]
        self.prices = [float(material.price_per_kg or 0) / 1000.0 for material in offered]
        volume = volume_ml(contents)
        self.base = _Linear.of(contents, volume, money).parts
        step = max(1.0, _SLOPE_SHARE * contents.mass_g)
        self.columns = [
            # Volume is not additive: its slope is measured on this vessel, by a fiftieth of its mass.
            _Linear.of(unit, (volume_ml(contents + unit.scaled(step)) - volume) / step, price).parts
            for unit, price in zip(self.units, self.prices, strict=True)
        ]

    def mixed(self, chosen: Sequence[int], grams: Sequence[float]) -> Contents:
        found = self.contents
        for i, mass in zip(chosen, grams, strict=True):
            if mass:
                found = found + self.units[i].scaled(mass)
        return found

    def figures(self, contents: Contents, chosen: Sequence[int], grams: Sequence[float]) -> list[float]:
        """Returns the exact figure of each aim, in its unit."""
        known: dict[str, float] = dict(measure(contents))
        if any(aim.property == "ph" for aim in self.aims):
            known["ph"] = ph_or_neutral(contents)
        known["cost"] = self.money + math.fsum(self.prices[i] * mass for i, mass in zip(chosen, grams, strict=True))
        return [known.get(aim.property, 0.0) for aim in self.aims]

    def row(self, aim: Aim, chosen: Sequence[int]) -> tuple[list[float], float]:
        """Returns the aim as a linear equation in the masses of the chosen additions; None for pH, which is left to Newton's method."""
        top, bottom = _RATIO[aim.property]
        if bottom is None:
            return [self.columns[i][top] for i in chosen], aim.value - self.base[top]
        scale = 100.0
        # N/D = v is linear once it is multiplied out: N − v D = 0.
        row = [scale * self.columns[i][top] - aim.value * self.columns[i][bottom] for i in chosen]
        return row, aim.value * self.base[bottom] - scale * self.base[top]

    def looks_right(self, chosen: Sequence[int], grams: Sequence[float]) -> bool:
        """Returns True if every aim is nearly met on the linear balance."""
        parts = list(self.base)
        for i, mass in zip(chosen, grams, strict=True):
            parts = [a + mass * b for a, b in zip(parts, self.columns[i], strict=True)]
        for aim in self.aims:
            if aim.property in ("ph", "brix_reading"):
                continue
            top, bottom = _RATIO[aim.property]
            figure = parts[top] if bottom is None else 100.0 * parts[top] / parts[bottom] if parts[bottom] > 0 else math.inf
            if abs(aim.miss(figure)) > aim.tolerance + _LOOSE * max(abs(aim.value), _LEAST_SCALE):
                return False
        return True

    def refined(self, chosen: Sequence[int], aimed: Sequence[int], grams: list[float]) -> list[float] | None:
        """Returns the masses [g] that meet the aims exactly, by Newton's method from the linear guess; None if it leaves the feasible region."""
        targets = [self.aims[k] for k in aimed]
        for _ in range(_NEWTON):
            contents = self.mixed(chosen, grams)
            if any(mass < -1e-9 for mass in contents.grams.values()) or contents.solution.mass_g <= 0:
                return None
            if any(mass < 0.0 for mass in contents.grams.values()):
                # Rounding may make a mass slightly negative.
                contents = Contents({key: max(0.0, mass) for key, mass in contents.grams.items()})
            now = self.figures(contents, chosen, grams)
            off = [aim.value - now[k] for k, aim in zip(aimed, targets, strict=True)]
            if all(abs(miss) <= _CLOSE * max(1.0, abs(aim.value)) for miss, aim in zip(off, targets, strict=True)):
                return grams
            # Slopes by differences on the exact figures: what is not linear there has no formula in common.
            nudge = _NUDGE * max(1.0, self.contents.mass_g)
            slopes = []
            for position, i in enumerate(chosen):
                more = [mass + (nudge if at == position else 0.0) for at, mass in enumerate(grams)]
                moved = self.figures(contents + self.units[i].scaled(nudge), chosen, more)
                slopes.append([(moved[k] - now[k]) / nudge for k in aimed])
            step = solve_linear([[slopes[c][r] for c in range(len(chosen))] for r in range(len(aimed))], off)
            if step is None:
                return None
            grams = [mass + change for mass, change in zip(grams, step, strict=True)]
            if sum(abs(mass) for mass in grams) > 10.0 * _MOST_TIMES * self.contents.mass_g:
                return None
        return None


def _guesses(problem: _Problem, size: int) -> Iterator[tuple[float, tuple[int, ...], tuple[int, ...], list[float]]]:
    """Yields (linear mass, chosen, aimed, masses [g]) for every choice of `size` additions that nearly meets all aims, with as many aims met exactly as there
    are additions.
    """
    # An “is” can be met exactly; a bound may be met with room to spare, and then needs no addition of its own.
    exact = [k for k, aim in enumerate(problem.aims) if aim.bound == "is"]
    bounds = [k for k, aim in enumerate(problem.aims) if aim.bound != "is"]
    for chosen in combinations(range(len(problem.offered)), size):
        acid = any(problem.units[i].total(ACIDS) > 0 for i in chosen)
        for met in range(min(size, len(exact)), -1, -1):
            for aimed in product(combinations(exact, met), combinations(bounds, size - met)):
                both = (*aimed[0], *aimed[1])
                # Without an acid in the choice nothing moves the pH on purpose.
                if any(problem.aims[k].property == "ph" for k in both) and not acid:
                    continue
                rows = [problem.row(problem.aims[k], chosen) for k in both if problem.aims[k].property != "ph"]
                if len(rows) < size:
                    # pH is not linear: Newton's method starts from a small mass.
                    yield 0.0, chosen, both, [_FIRST_GUESS * problem.contents.mass_g] * size
                    continue
                grams = solve_linear([row for row, _ in rows], [right for _, right in rows])
                # Slightly negative guesses may become positive on the exact figures; others are hopeless.
                if grams is None or min(grams) < -_HOPELESS * max(1.0, *grams) or sum(grams) > _MOST_TIMES * problem.contents.mass_g:
                    continue
                if problem.looks_right(chosen, grams):
                    yield math.fsum(grams), chosen, both, grams


def _ways(problem: _Problem, size: int, most: int) -> list[Solution]:
    """Returns choices of `size` additions that meet every aim, the lightest first; at most `most` of them."""
    found: list[Solution] = []
    for light, chosen, aimed, guess in sorted(_guesses(problem, size), key=lambda item: (item[0], item[1])):
        # Sorted by linear mass, which is near the exact one: nothing lighter can follow.
        if len(found) >= most and light > _LINEAR_OFF * found[-1].mass_g:
            break
        grams = problem.refined(chosen, aimed, guess)
        if grams is None or min(grams) < -1e-9 * problem.contents.mass_g or sum(grams) > _MOST_TIMES * problem.contents.mass_g:
            continue
        # Rounding below zero is nothing; anything more negative was refused above.
        grams = [max(0.0, mass) for mass in grams]
        contents = problem.mixed(chosen, grams)
        figures = problem.figures(contents, chosen, grams)
        if all(aim.holds(figure) for aim, figure in zip(problem.aims, figures, strict=True)):
            added = [
                Addition(problem.offered[i].key, problem.offered[i].name, mass) for i, mass in zip(chosen, grams, strict=True) if mass > 0
            ]
            found.append(Solution(tuple(sorted(added, key=lambda item: -item.mass_g)), contents))
            found.sort(key=lambda solution: solution.mass_g)
    return found[:most]


def closest(problem: _Problem) -> Solution:
    """Returns the additions with the smallest relative misses: Gauss–Newton with masses of at least zero, until it no longer improves."""
    chosen = list(range(len(problem.offered)))
    grams = [0.0] * len(chosen)
    # Relative misses, so that °Bx and g/100 mL weigh alike.
    scales = [max(abs(aim.value), _LEAST_SCALE) for aim in problem.aims]

    def misses(amounts: Sequence[float]) -> list[float]:
        figures = problem.figures(problem.mixed(chosen, amounts), chosen, amounts)
        return [aim.miss(figure) / scale for aim, figure, scale in zip(problem.aims, figures, scales, strict=True)]

    def distance(off: Sequence[float]) -> float:
        return math.fsum(miss * miss for miss in off)

    off = misses(grams)
    best = distance(off)
    reach = _REACH * problem.contents.mass_g
    for _ in range(_CLOSEST_ROUNDS):
        nudge = _CLOSEST_NUDGE * problem.contents.mass_g
        slopes = []
        for i in chosen:
            moved = misses([mass + (nudge if at == i else 0.0) for at, mass in enumerate(grams)])
            slopes.append([(a - b) / nudge for a, b in zip(moved, off, strict=True)])
        step = _held_step(slopes, off, grams)
        size, better = 1.0, False
        while size > _LEAST_STEP and not better:
            tried = [min(reach, max(0.0, mass + size * change)) for mass, change in zip(grams, step, strict=True)]
            there = misses(tried)
            # Halve the step until it improves: Gauss–Newton may overshoot far from the answer.
            better = distance(there) < best * (1.0 - 1e-9) - 1e-18
            size /= 2.0
        if not better:
            break
        grams, off, best = tried, there, distance(there)
    least = _NOTHING * problem.contents.mass_g
    grams = [mass if mass > least else 0.0 for mass in grams]
    added = [Addition(problem.offered[i].key, problem.offered[i].name, mass) for i, mass in zip(chosen, grams, strict=True) if mass]
    return Solution(tuple(added), problem.mixed(chosen, grams))


def _held_step(slopes: Sequence[Sequence[float]], off: Sequence[float], grams: Sequence[float]) -> list[float]:
    """Returns a damped least-squares step; a mass at zero that would become negative is held there, and the rest is solved again."""
    free = list(range(len(grams)))
    step = [0.0] * len(grams)
    while free:
        normal = [[math.fsum(a * b for a, b in zip(slopes[i], slopes[j], strict=True)) for j in free] for i in free]
        # Materials that do the same, such as two sugars, make the system singular without it.
        ridge = 1e-6 * max((normal[n][n] for n in range(len(free))), default=0.0) + 1e-30
        for n in range(len(free)):
            normal[n][n] += ridge
        right = [-math.fsum(a * b for a, b in zip(slopes[i], off, strict=True)) for i in free]
        found = solve_linear(normal, right) or [0.0] * len(free)
        held = [i for i, change in zip(free, found, strict=True) if grams[i] <= 0.0 and change < 0.0]
        if not held:
            for i, change in zip(free, found, strict=True):
                step[i] = change
            return step
        free = [i for i in free if i not in held]
    return step


def _aims(goals: Sequence[Aim | Goal]) -> list[Aim]:
    return [goal if isinstance(goal, Aim) else Aim(goal.property, goal.value, goal.tolerance) for goal in goals]


def alternatives(
    contents: Contents, goals: Sequence[Aim | Goal], offered: Sequence[Material], most: int = 3, cost: float = 0.0
) -> tuple[Solution, ...]:
    """Returns up to `most` solutions, the fewest additions first, then the lightest. `cost` is the cost of the vessel so far. Raises Refusal, with the closest
    approach, if none reach the aims.
    """
    aims = _aims(goals)
    if contents.solution.mass_g <= 0:
        raise Refusal(message("There is nothing in the vessel to correct"), remedy=message("Put the liquid in first"), code="empty")
    for material in offered if any(aim.property == "cost" for aim in aims) else ():
        if material.price_per_kg is None and material.kind != "water":
            raise Refusal(
                message("Nobody has said what {material} costs", material=short_name(material.name)),
                f"materials/{material.key}/price_per_kg",
                remedy=message("Give its price, or leave it out"),
                code="no_price",
            )
    problem = _Problem(contents, aims, offered, cost)
    if all(aim.holds(figure) for aim, figure in zip(aims, problem.figures(contents, (), ()), strict=True)):
        return (Solution((), contents),)
    found: list[Solution] = []
    # The fewest additions win: a person weighs each of them.
    for size in range(1, min(len(offered), len(aims), _MOST_ADDITIONS) + 1):
        found += _ways(problem, size, most - len(found))
        if len(found) >= most:
            break
    if found:
        return tuple(found)
    # Nobody is left with “impossible”: the closest approach says how far off it stays.
    near = closest(problem)
    chosen = [next(i for i, material in enumerate(offered) if material.key == item.material) for item in near.additions]
    figures = problem.figures(near.contents, chosen, [item.mass_g for item in near.additions])
    got = listed([replace(aim, value=figure, bound="is").said() for aim, figure in zip(aims, figures, strict=True)])
    names = listed(short_name(material.name) for material in offered) if offered else message("nothing")
    raise Refusal(
        message("{aims} cannot be reached by adding {names}", aims=listed([aim.said() for aim in aims]), names=names),
        bound=message("closest is {got} with {near}", got=got, near=near.words),
        remedy=message("Move the goal or offer something else"),
        code="unreachable",
    )


def solve(contents: Contents, goals: Sequence[Aim | Goal], offered: Sequence[Material], cost: float = 0.0) -> Solution:
    """Returns the solution with the fewest additions, then the least mass, that brings `contents` to all aims.

    Search on the linear mass balance, Newton's method on the exact figures to 1e-9. As many aims are met exactly as there are additions, the others within
    their tolerance. Raises Refusal, with the closest approach, if none do. 1000 g of 66.67 °Bx to 50 °Bx: 333.3 g of water. Source: mass balance.
    """
    return alternatives(contents, goals, offered, 1, cost)[0]
