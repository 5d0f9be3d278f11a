"""Paired trials: an interval and not only a mean, and nobody is told more than the pairs can say."""

import pytest
from scipy import stats

from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.planners.trial import paired

AS_IT_COMES, WARMED = [352, 340, 361, 347, 355, 338], [371, 366, 372, 369, 368, 361]


def test_the_interval_is_students_and_the_verdict_follows_from_it():
    found = paired(AS_IT_COMES, WARMED, ("as it comes", "warmed"), "mL/kg")
    judged = stats.ttest_rel(WARMED, AS_IT_COMES).confidence_interval(0.95)
    assert (found.low, found.high) == pytest.approx((judged.low, judged.high))
    assert printed(found.text) == "Warmed gives more: between 12.8 and 25.2 mL/kg, from 6 pairs."
    turned = paired(WARMED, AS_IT_COMES, ("warmed", "as it comes"), "mL/kg")
    assert turned.text == found.text


def test_a_difference_that_scatter_could_make_is_no_verdict():
    found = paired([362, 375, 369, 358], [371, 366, 372, 369], ("across", "lengthwise"), "mL/kg")
    assert found.low < 0 < found.high
    assert printed(found.text).startswith("Nobody can tell from 4 pairs: the difference lies between \N{MINUS SIGN}")
    assert found.more_pairs > 0
    assert f"about {found.more_pairs} more pairs" in printed(found.text)


def test_two_pairs_say_nothing_and_equal_pairs_are_hopeless():
    assert printed(paired([1, 2], [3, 4], ("a", "b"), "g").text) == "2 of 3 pairs: too few to say anything. 1 more."
    assert paired([360, 370, 350], [370, 360, 350], ("a", "b"), "g").text.text().endswith("Too close to matter.")


@pytest.mark.parametrize(
    ("first", "second", "text"), [([], [], "There are no pairs yet"), ([1], [1, 2], "do not match"), ([1, 2, -3], [1, 2, 3], "cannot be")]
)
def test_bad_pairs_are_refused(first, second, text):
    with pytest.raises(Refusal, match=text):
        paired(first, second, ("a", "b"), "g")
