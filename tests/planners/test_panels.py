"""Statistics of panels: against values that follow from the definitions, against an independent package, and by drawn panels."""

import math
import random

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats
from statsmodels.regression.mixed_linear_model import MixedLM
from statsmodels.stats.proportion import proportion_confint

from tests.planners.drawn_panels import drawn_shares, false_alarms, misses
from ulsek.core.tasting.answers import Answered, is_right
from ulsek.core.tasting.design import PanelDesign, pages_of
from ulsek.core.tasting.found import TasterCount
from ulsek.core.tasting.next_trial import TastedSpot
from ulsek.planners.tasting import distances
from ulsek.planners.tasting.expectations import expected, sets_for_line
from ulsek.planners.tasting.panel import found_of
from ulsek.planners.tasting.ranks import corrected_pairs, friedman, pairs_of_ranks, ranking, worths
from ulsek.planners.tasting.scores import Marked, Scored, attributes, scores
from ulsek.planners.tasting.shares import _of_one, at_least, at_most, bounds, by_chance, critical, share_of, split_by_chance
from ulsek.planners.tasting.surface import liked_spot

SEED = "5f0e" * 8


@pytest.mark.parametrize(("total", "guess"), [(6, 1 / 3), (12, 1 / 3), (24, 1 / 3), (60, 1 / 3), (10, 0.5), (40, 0.5)])
def test_critical_numbers_follow_from_the_binomial(total, guess):
    least = critical(total, guess)
    assert stats.binom.sf(least - 1, total, guess) <= 0.05 < stats.binom.sf(least - 2, total, guess)


def test_too_few_can_show_nothing():
    assert critical(2, 1 / 3) is None
    assert critical(3, 1 / 3) == 3


@pytest.mark.parametrize(("right", "total"), [(9, 24), (14, 16), (0, 12), (12, 12), (1, 1)])
def test_bounds_of_single_answers_are_those_of_clopper_and_pearson(right, total):
    low, high = proportion_confint(right, total, alpha=0.10, method="beta")
    assert bounds(right, (1,) * total, 0.0) == pytest.approx((low if right else 0.0, high if right < total else 1.0), abs=1e-7)


def test_guessing_is_removed_and_nothing_falls_below_none():
    low, high = bounds(9, (1,) * 24, 1 / 3)
    _, plain = proportion_confint(9, 24, alpha=0.10, method="beta")
    assert (low, high) == (0.0, pytest.approx((plain - 1 / 3) / (2 / 3), abs=1e-7))
    assert share_of(3, 24, 1 / 3) == 0.0
    assert share_of(24, 24, 1 / 3) == 1.0
    assert by_chance(9, 24, 1 / 3) == pytest.approx(stats.binom.sf(8, 24, 1 / 3))


def test_repeats_by_one_taster_say_less_than_as_many_tasters():
    widths = [np.diff(bounds(12, each, 1 / 3))[0] for each in ((1,) * 24, (2,) * 12, (4,) * 6)]
    assert widths[0] < widths[1] < widths[2]
    # One taster who is always right may be the only one who can.
    assert bounds(8, (8,), 1 / 3)[0] < 0.06


def test_a_spread_of_tasters_is_the_beta_binomial_with_guessing():
    """One taster in three tells always, the others guess: two sets each, counted by hand."""
    share, guess = 1 / 3, 1 / 3
    each = [share * (x == 2) + (1 - share) * math.comb(2, x) * guess**x * (1 - guess) ** (2 - x) for x in range(3)]
    assert at_least(4, (2, 2), share, guess) >= each[2] ** 2 - 1e-12
    assert at_most(0, (2, 2), share, guess) >= each[0] ** 2 - 1e-12
    grid = np.linspace(0.0005, 0.9995, 1000)
    a, b = share * 0.6 / 0.4, (1 - share) * 0.6 / 0.4
    weights = stats.beta.pdf(grid, a, b)
    by_integration = (stats.binom.pmf(2, 2, guess + (1 - guess) * grid) * weights).sum() / weights.sum()
    assert _of_one(2, share, 0.4, guess)[2] == pytest.approx(by_integration, abs=0.01)
    assert math.fsum(_of_one(4, share, 0.4, guess)) == pytest.approx(1.0, abs=1e-12)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.integers(1, 4), min_size=1, max_size=12), st.data())
def test_bounds_hold_the_estimate_and_rise_with_the_answers(each, data):
    right = data.draw(st.integers(0, sum(each)))
    low, high = bounds(right, tuple(each), 1 / 3)
    assert 0.0 <= low <= share_of(right, sum(each), 1 / 3) + 1e-9
    assert share_of(right, sum(each), 1 / 3) - 1e-9 <= high <= 1.0
    if right:
        before = bounds(right - 1, tuple(each), 1 / 3)
        assert before[0] <= low + 1e-9
        assert before[1] <= high + 1e-9


def test_psychometric_functions_by_integration():
    assert distances.triangle(0.0) == pytest.approx(1 / 3, abs=1e-9)
    assert distances.pair(0.0) == 0.5
    draws = np.random.default_rng(7)
    a, b, other = [*draws.normal(size=(2, 400000)).tolist(), draws.normal(1.5, 1.0, 400000)]
    a, b = np.array(a), np.array(b)
    right = (np.abs(a - b) < np.abs(a - other)) & (np.abs(a - b) < np.abs(b - other))
    assert distances.triangle(1.5) == pytest.approx(right.mean(), abs=0.003)
    assert distances.distance("triangle", distances.triangle(1.7)) == pytest.approx(1.7, abs=1e-6)
    assert distances.distance("paired", 0.7602499389) == pytest.approx(1.0, abs=1e-6)
    assert (distances.distance("triangle", 0.2), distances.distance("triangle", 1.0)) == (0.0, 8.0)


def test_same_and_different_are_told_apart_by_distance_and_criterion():
    criterion, distance = 1.0, 2.0
    alike = 2 * stats.norm.cdf(criterion / math.sqrt(2)) - 1
    apart = stats.norm.cdf((criterion - distance) / math.sqrt(2)) - stats.norm.cdf((-criterion - distance) / math.sqrt(2))
    found = distances.same_different(round(4000 * alike), 4000, round(4000 * apart), 4000)
    assert found.value == pytest.approx(2.0, abs=0.02)
    assert found.low < 2.0 < found.high
    assert distances.same_different(5, 10, 6, 10).low == 0.0


def test_ninety_tastings_or_so_for_one_guest_in_five():
    needed = sets_for_line(1 / 3, 0.2)
    assert 80 <= needed <= 100
    at_line = 1 / 3 + 2 / 3 * 0.2
    most = max(x for x in range(needed) if stats.binom.cdf(x, needed, at_line) <= 0.05)
    assert stats.binom.cdf(most, needed, 1 / 3) >= 0.8
    assert bounds(most, (1,) * needed, 1 / 3)[1] <= 0.2 < bounds(most + 1, (1,) * needed, 1 / 3)[1]
    told = expected(PanelDesign("triangle"))
    assert (told.sets, told.needed_right, told.needed_sets) == (12, 8, needed)
    assert expected(PanelDesign("triangle", 1, 1)).needed_right is None


def test_pairs_of_ranks_are_sign_tests_corrected_for_their_number():
    ranks = [[1, 2, 3]] * 9 + [[2, 1, 3]]
    found = {(item.first, item.second): item for item in pairs_of_ranks(ranks)}
    assert (found[0, 1].before, found[0, 2].before) == (9, 10)
    assert found[0, 2].by_chance == pytest.approx(stats.binomtest(10, 10).pvalue)
    assert found[0, 1].by_chance == pytest.approx(stats.binomtest(9, 10).pvalue)
    corrected = sorted(item.by_chance for item in corrected_pairs(list(found.values())))
    plain = sorted(item.by_chance for item in found.values())
    assert corrected == pytest.approx([3 * plain[0], 3 * plain[0], plain[2]])
    statistic, chance = friedman(ranks)
    assert (statistic, chance) == pytest.approx(tuple(stats.friedmanchisquare(*zip(*ranks, strict=True))))
    assert friedman([[1.5, 1.5], [1.5, 1.5]]) == (0.0, 1.0)
    told = ranking(ranks)
    assert told.mean_ranks == pytest.approx((1.1, 1.9, 3.0))


def test_bradley_terry_shares_fit_the_pairs_they_come_from():
    two = worths([[1, 2]] * 15 + [[2, 1]] * 5)
    assert two == pytest.approx((15.5 / 21, 5.5 / 21), abs=1e-6)
    assert worths([[1, 1, 1]] * 4) == pytest.approx((0.5, 0.5, 0.5))


def drawn_scores(tasters, samples, seed, scatter=1.2, step=0.0):
    chance = random.Random(seed)
    given = []
    for taster in range(tasters):
        order = list(range(samples))
        chance.shuffle(order)
        kindness = chance.gauss(0, 1)
        given += [
            Scored(taster, sample, place, 1, 5.5 + step * sample + kindness + 0.15 * place + chance.gauss(0, scatter))
            for place, sample in enumerate(order)
        ]
    return given


def test_the_mixed_model_is_the_one_of_an_independent_package():
    import pandas as pd

    given = drawn_scores(14, 5, 3, step=0.3)
    found = scores(given, 5)
    table = pd.DataFrame([(item.sample, item.taster, item.place, item.score, 1) for item in given], columns=["s", "t", "o", "y", "all"])
    other = MixedLM.from_formula("y ~ 0 + C(s)", table, groups="all", re_formula="0", vc_formula={"t": "0+C(t)", "o": "0+C(o)"}).fit()
    assert [item.value for item in found.means] == pytest.approx(list(other.fe_params), abs=1e-4)
    assert (found.sd_order, found.sd_tasters) == pytest.approx(tuple(np.sqrt(other.vcomp)), abs=1e-3)
    assert found.sd_rest == pytest.approx(math.sqrt(other.scale), abs=1e-4)
    half = stats.t.ppf(0.95, 70 - 5 - 13 - 4)
    assert [item.half_width for item in found.means] == pytest.approx(list(half * other.bse_fe), rel=0.01)


def test_two_rounds_by_a_taster_count_once():
    once = drawn_scores(10, 3, 5, step=0.8)
    twice = [*once, *(Scored(item.taster, item.sample, item.place, 2, item.score) for item in once)]
    for one, two in zip(scores(once, 3).means, scores(twice, 3).means, strict=True):
        assert two.value == pytest.approx(one.value, abs=0.1)
        assert two.half_width > 0.8 * one.half_width
    # Two tasters of six leave nothing to tell the order of glasses from chance: it is left out, and what is said is as wide as two tasters make it.
    two = scores(drawn_scores(2, 6, 8), 6)
    assert (two.tasters, two.sd_order) == (2, 0.0)
    with pytest.raises(ValueError, match="too few"):
        scores([Scored(0, sample, sample, 1, 5.0) for sample in range(3)], 3)


def test_what_is_off_is_counted_and_costs():
    marks = [Marked(taster, 0, "sweet", 5 if taster < 8 else 3, 4.0 if taster < 8 else 8.0) for taster in range(10)]
    (found,) = attributes([*marks, Marked(0, 0, "sweet", 1, 9.0)])
    assert (found.little, found.right, found.much) == (0, 2, 8)
    assert (found.by_chance, found.drop) == (pytest.approx(2 * 0.5**8), pytest.approx(4.0))
    assert attributes([Marked(0, 0, "sweet", 3, 8.0)])[0].drop is None
    # Of many samples one that looks off by chance is not said to be: corrected for their number.
    many = [Marked(taster, sample, "sweet", 5 if taster < 8 and sample == 0 else 3, 5.0) for taster in range(10) for sample in range(12)]
    assert attributes(many)[0].by_chance == pytest.approx(12 * 2 * 0.5**8)


def test_a_panel_is_counted_by_taster():
    design = PanelDesign("triangle", 3, 2)
    pages = pages_of(design, SEED)
    answered = []
    for page in pages:
        odd = next(code for code, sample in zip(page.codes, page.samples, strict=True) if page.samples.count(sample) == 1)
        wrong = next(code for code in page.codes if code != odd)
        answer = {"code": odd if page.seat < 3 else wrong}
        assert is_right(page, answer) is (page.seat < 3)
        answered.append(Answered(page, answer))
    found = found_of(design, answered).share
    assert found.counts == (TasterCount(1, 2, 2), TasterCount(2, 2, 2), TasterCount(3, 0, 2))
    assert found_of(design, []) is None


@pytest.mark.parametrize(
    ("tasters", "rounds", "share", "spread"), [(6, 2, 0.2, 0.0), (6, 2, 0.4, 1.0), (12, 1, 0.3, 0.0), (12, 4, 0.2, 0.5), (8, 3, 0.0, 0.0)]
)
def test_drawn_panels_are_covered(tasters, rounds, share, spread):
    """A slice of `bin/test sim`: 200 panels, so that 95 % may show as 91 % by chance once in two hundred times."""
    above, below = misses(drawn_shares(tasters, rounds, share, spread, panels=200, seed=11), share, 1 / 3)
    assert max(above, below) <= 0.09


def test_nothing_is_shown_too_often_where_there_is_nothing():
    assert false_alarms(12, 2, panels=400, seed=5) <= 0.08
    both = [split_by_chance(int(np.random.default_rng(n).binomial(16, 0.5)), (1,) * 16) <= 0.05 for n in range(400)]
    assert np.mean(both) <= 0.08


def test_a_surface_finds_where_it_is_liked_and_doubts_what_it_cannot_tell():
    def score(sugar, acid):
        return 8.0 - 30.0 * math.log(sugar / 40.0) ** 2 - 20.0 * math.log(acid / 3.0) ** 2

    spots = [
        TastedSpot(n, sugar, acid, score(sugar, acid))
        for n, (sugar, acid) in enumerate((a, b) for a in (34, 40, 47) for b in (2.5, 3.0, 3.6))
    ]
    sure = liked_spot(spots, 0.02)
    assert (sure.sugar.value, sure.acid.value) == (pytest.approx(40, rel=0.02), pytest.approx(3.0, rel=0.02))
    assert sure.score == pytest.approx(8.0, abs=0.05)
    unsure = liked_spot(spots, 0.6)
    assert unsure.sugar.high - unsure.sugar.low > 2 * (sure.sugar.high - sure.sugar.low)
    assert unsure.sugar.low <= 40 <= unsure.sugar.high
    assert liked_spot(spots[:6], 0.1) is None
    assert liked_spot([TastedSpot(n, 30.0 + 2 * n, 3.0, 5.0) for n in range(8)], 0.1) is None
