"""Yields of citrus: typical values, updated by the house's own record, then by measurements of the case in hand."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ..base.messages import NOTHING, Computed, Given, Message, Value, message
from ..base.ranges import NORMAL_95, Range
from ..base.refusals import Refusal
from .fruit import Variety

Source = Literal["typical", "record", "sample"]
_ONE_FRUIT = 0.14
"""One fruit of a case against the case's mean, relative standard deviation; house experience, variety trials give 0.10 to 0.18."""
_ONE_CASE = 0.08
"""One case against the house's mean for that fruit, until its own cases say; house experience."""


_SIZE_UNSURE, _SCALE_UNSURE = 0.12, 0.01
"""Relative standard deviation of the mean mass of fruits that were not weighed, and of the scale and the jug. House experience."""
_SHARE_ENDS = (0.01, 0.8)
"""Ends that the range of a share of juice does not pass: no fruit is without juice, and none is juice alone. House experience."""
_CASES_COUNTED = 4
"""Cases that the usual spread from case to case counts as. House judgement."""
_LEAST_RECORD = 3
"""Cases of a record from which a case can be called unusual. House judgement."""
_MOST_ZEST_SHARE = 0.4
"""Zest as a share of a fruit's mass that none exceeds; house experience."""
_BRIX, _ACID = (2.0, 25.0), (0.05, 12.0)
"""Readings of a citrus juice that can be [°Bx, g/100 mL], sweet lime to key lime. House experience."""
RECORD = 12
"""Measured cases of a fruit that a house's record looks back on [count]. House experience: a season."""
USUAL_COUNT = 10
"""Fruits that are usually measured of a case [count]."""
MOST_COUNT = 10_000
"""Fruits of one case, or of one cut [count]."""
MOST_SHARE = 0.85
"""Juice as a share of a fruit's weight that none exceeds; house experience."""
MOST_ML_KG = 900.0
"""Juice that a kilogram of fruit can give [mL/kg]; house experience."""
_ABOVE_MEAN = 1.3
"""The heaviest fruits of a case, as a multiple of its mean weight. House experience."""
LEAST_SHARE = 0.02
"""Juice as a share of a fruit's weight that even a dry one gives; house experience. Less is a figure in the wrong place."""


@dataclass(frozen=True, slots=True)
class FruitMeasurement:
    """What was measured of `count` fruits: any of their mass [g], juice [mL], peel [g], zest [g], and the juice's reading [°Bx] and acid [g/100 mL]."""

    count: int
    weight_g: float | None = None
    juice_ml: float | None = None
    peel_g: float | None = None
    zest_g: float | None = None
    brix: float | None = None
    acid_g_100ml: float | None = None

    def checked(self, of: Variety) -> FruitMeasurement:
        """Returns the measurement. Raises Refusal, at its figure and with the bound, for values that cannot be."""
        if not 1 <= self.count <= MOST_COUNT:
            raise Refusal(
                message("{count} fruits cannot be", count=self.count),
                "count",
                message("from 1 to {most}", most=Computed(MOST_COUNT, decimals=0)),
                message("Count them again"),
                "out_of_bounds",
            )
        if self.juice_ml is None and self.weight_g is None:
            raise Refusal(message("Nothing was measured"), "juice_ml", remedy=message("One figure is enough: mL of juice"), code="missing")
        bounds = {
            # Three times lighter or heavier than any in the tables is a slip of the pen, or another fruit.
            "weight_g": (of.piece_g.low / 3.0 * self.count, of.piece_g.high * 3.0 * self.count, "g"),
            "juice_ml": (LEAST_SHARE * of.piece_g.low * self.count / of.density, of.piece_g.high * 2.0 * self.count, "mL"),
            "peel_g": (0.0, of.piece_g.high * self.count, "g"),
            "zest_g": (0.0, _MOST_ZEST_SHARE * of.piece_g.high * self.count, "g"),
            "brix": (*_BRIX, "°Bx"),
            "acid_g_100ml": (*_ACID, "g/100 mL"),
        }
        for name, (low, high, unit) in bounds.items():
            value = getattr(self, name)
            if value is not None and not (math.isfinite(value) and low <= value <= high):
                raise Refusal(
                    message(
                        "{value} {unit} from {count} of {of} cannot be", value=Given(value), unit=unit, count=self.count, of=of.name.lower()
                    ),
                    name,
                    message("from {low} to {high} {unit}", low=Computed(low, decimals=0), high=Computed(high, decimals=0), unit=unit),
                    message("Check count and figure"),
                    "out_of_bounds",
                )
        # Rind and membranes are at least 15 % of any citrus.
        if self.weight_g is not None and self.juice_ml is not None and self.juice_ml * of.density > MOST_SHARE * self.weight_g:
            raise Refusal(
                message("{juice} mL do not come out of {weight} g", juice=Given(self.juice_ml), weight=Given(self.weight_g)),
                "juice_ml",
                message("at most {weight} mL", weight=Computed(MOST_SHARE * self.weight_g / of.density, decimals=0)),
                message("Check both"),
                "more_than_there_is",
            )
        return self

    def of_case(self, in_case: int) -> FruitMeasurement:
        """Returns the measurement. Raises Refusal for more fruits than the case had."""
        if self.count > in_case:
            raise Refusal(
                message("{count} fruits were not in it", count=self.count),
                "count",
                message("the case had {count}", count=in_case),
                message("Count them again"),
                "out_of_bounds",
            )
        return self

    def weighed(self, fruit_g: float) -> FruitMeasurement:
        """Returns the measurement with the mass of its fruits [g] by the mean of their case, if they were not weighed."""
        return self if self.weight_g else replace(self, weight_g=self.count * fruit_g)

    def share(self, of: Variety) -> float | None:
        """Returns the juice as a share of the mass of the fruit; of its usual mass if it was not weighed."""
        if not self.juice_ml:
            return None  # a measurement without juice, which earlier versions stored, is ignored
        # Without a weighing the tables' mass stands in for it; its uncertainty is counted where the share is used.
        weight = self.weight_g if self.weight_g is not None else self.count * of.piece_g.value
        return self.juice_ml * of.density / weight


def own_share(of: Variety, samples: Iterable[FruitMeasurement]) -> float | None:
    """Returns the juice of a case as a share of its mass, over all measurements; None without any. Each fruit has the same weight."""
    # Weighed by count, so that a measurement of twenty fruits outweighs one of two.
    seen = [(sample.count, share) for sample in samples if (share := sample.share(of)) is not None]
    return sum(count * share for count, share in seen) / sum(count for count, _ in seen) if seen else None


def check_cut(count: int, juice_ml: float, skin_g: float, skin_binned_g: float, fruit_g: float) -> None:
    """Raises Refusal, at its figure, for yields that `count` fruits of a mean mass of `fruit_g` [g] cannot have: juice [mL], skin and the part of it thrown
    away [g].
    """
    if not 0 < count <= MOST_COUNT:
        raise Refusal(
            message("{count} fruits cannot be", count=count),
            "count",
            message("from 1 to {most}", most=Computed(MOST_COUNT, decimals=0)),
            message("Count again"),
            "out_of_bounds",
        )
    # The fruits that were taken may be the heaviest of the case.
    most_ml, most_g = MOST_SHARE * count * fruit_g * _ABOVE_MEAN, count * fruit_g
    if not 0 <= juice_ml <= most_ml:
        raise Refusal(
            message("{juice} mL from {count} fruits cannot be", juice=Given(juice_ml), count=count),
            "juice_ml",
            message("at most {most} mL", most=Computed(most_ml, decimals=0)),
            message("Check both"),
            "more_than_there_is",
        )
    if not 0 <= skin_g <= most_g:
        raise Refusal(
            message("{skin} g of skin cannot be", skin=Given(skin_g)),
            "skin_g",
            message("at most {most} g", most=Computed(most_g, decimals=0)),
            message("Weigh it again"),
            "more_than_there_is",
        )
    # The thrown skin is part of what came off, so it cannot be more.
    if not 0 <= skin_binned_g <= skin_g:
        raise Refusal(
            message("{skin} g of skin thrown cannot be", skin=Given(skin_binned_g)),
            "skin_binned_g",
            message("at most the {skin} g that came off", skin=Given(skin_g)),
            message("Check both"),
            "more_than_there_is",
        )


def check_pairs(pairs: Iterable[tuple[float, float]]) -> None:
    """Raises Refusal, at its pair, for a yield that no fruit has [mL/kg]."""
    for n, pair in enumerate(pairs):
        for value in pair:
            if not 0 <= value <= MOST_ML_KG:
                raise Refusal(
                    message("{value} mL/kg cannot be", value=Given(value)),
                    f"pairs/{n}",
                    message("from 0 to {most}", most=Given(MOST_ML_KG)),
                    message("Check it"),
                    "out_of_bounds",
                )


@dataclass(frozen=True, slots=True)
class YieldEstimate:
    """An estimate of a case: a figure with its range, its source (`typical`, `record`, `sample`), and the count of fruits or cases behind it."""

    share: Range
    source: Source
    count: int


def _update(mean: float, variance: float, seen: float, noise: float) -> tuple[float, float]:
    # Kalman gain: how much the new figure counts against what was believed before.
    gain = variance / (variance + noise)
    return mean + gain * (seen - mean), (1.0 - gain) * variance


def expected_share(of: Variety, record: Sequence[float], samples: Sequence[FruitMeasurement] = ()) -> YieldEstimate:
    """Returns the share of the mass of a case that is juice: the typical range, updated by earlier cases (`record`, shares), then by samples of this case.

    Normal updates. Cases vary about the house's mean by their own spread (8 % to begin with), fruits about their case by 14 %. Ten fruits at 32 % where four
    cases of limes gave 42 %: 35 ± 2.5 %. Error: the fruits that were not cut. Source: Bayes' rule for normal errors; house experience.
    """
    # A normal prior whose 5 to 95 % range is that of the tables.
    mean, variance = of.juice_share.value, (of.juice_share.half_width / NORMAL_95) ** 2
    source: Source = "typical"
    count = 0
    if record:
        # The mean of the house is learnt from its cases first; this case then differs from it by their spread.
        around = _spread(record)
        for past in record:
            mean, variance = _update(mean, variance, past, around**2)
        variance += around**2
        source, count = "record", len(record)
    counted = [(sample, share) for sample in samples if (share := sample.share(of)) is not None]
    for sample, share in counted:
        weighed = sample.weight_g is not None
        # Without a mass the size of the fruit is uncertain as well.
        # Fruits differ from each other, a mean of n by √n less; the scale and the jug add one percent.
        noise = (_ONE_FRUIT * mean) ** 2 / sample.count + (0.0 if weighed else (_SIZE_UNSURE * mean) ** 2) + (_SCALE_UNSURE * mean) ** 2
        mean, variance = _update(mean, variance, share, noise)
        source, count = "sample", sum(item.count for item, _ in counted)
    half = NORMAL_95 * math.sqrt(variance)
    return YieldEstimate(Range(mean, max(_SHARE_ENDS[0], mean - half), min(_SHARE_ENDS[1], mean + half)), source, count)


def _spread(values: Sequence[float]) -> float:
    """Returns the standard deviation from case to case: this house's own, with the usual 8 % counted as four cases."""
    mean = math.fsum(values) / len(values)
    # Two or three cases may agree by chance: the usual spread keeps the estimate from collapsing.
    own = math.fsum((value - mean) ** 2 for value in values)
    return math.sqrt((own + _CASES_COUNTED * (_ONE_CASE * mean) ** 2) / (len(values) + _CASES_COUNTED - 1))


SKIN_DIFFERS, SKIN_OF_HOUSE, SKIN_OF_CASE = 0.35, 0.2, 0.12
"""Half-range of what a hand takes off a fruit, as a share of it: by the tables (twofold apart), by this house's own cases, by this case's own weighing. House experience."""


def expected_skin(weighed_g: float | None, house_shares: Sequence[float], usual_g: float, fruit_g: float) -> Range:
    """Returns the zest or peel [g] of one fruit of `fruit_g` [g]: as weighed of this case, else by the mean of this house's `house_shares` [g/g], else
    `usual_g` of the tables.

    10 g by the tables: 6.5 to 13.5. Error: the range. Source: house experience; `Variety.skin_g`.
    """
    if weighed_g is not None:
        # The nearer the source, the narrower the range; one of them is used, they are not mixed.
        value, half = weighed_g, SKIN_OF_CASE
    elif house_shares:
        value, half = fruit_g * math.fsum(house_shares) / len(house_shares), SKIN_OF_HOUSE
    else:
        value, half = usual_g, SKIN_DIFFERS
    return Range(value, (1.0 - half) * value, (1.0 + half) * value)


def against_record(of: Variety, record: Sequence[float], samples: Sequence[FruitMeasurement]) -> Message:
    """Returns one sentence if the juice of this case lies outside the house's record (mean ± 1.645 standard deviations), low or high; else nothing. Needs three
    cases.
    """
    seen = [(sample.count, share) for sample in samples if (share := sample.share(of)) is not None]
    # From fewer than three cases “unusual” has no meaning.
    if len(record) < _LEAST_RECORD or not seen:
        return NOTHING
    # Only what lies outside the scatter of the record is unusual; 5 % of ordinary cases lie beyond either end.
    share = math.fsum(count * value for count, value in seen) / sum(count for count, _ in seen)
    mean = math.fsum(record) / len(record)
    if abs(share - mean) <= NORMAL_95 * _spread(record):
        return NOTHING
    values: dict[str, Value] = {
        "share": Computed(100 * share, decimals=0),
        "n": len(record),
        "mean": Computed(100 * mean, decimals=0),
        "needs": Computed(of.density / share, decimals=1),
        "needed": Computed(of.density / mean, decimals=1),
    }
    if share < mean:
        return message(
            "These are dry: {share} % juice, where the last {n} cases gave {mean} %. For a litre you need {needs} kg instead of {needed} kg.",
            **values,
        )
    return message(
        "These are juicy: {share} % juice, where the last {n} cases gave {mean} %. For a litre you need {needs} kg instead of {needed} kg.",
        **values,
    )
