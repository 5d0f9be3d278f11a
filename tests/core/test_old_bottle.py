"""An old bottle that was tasted: what it says of the date, and what the date does to a product. It shortens; it never lengthens."""

from datetime import date

import pytest

from tests.core.kitchen import line, pour, worked
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.rule_sheet import rule_sheet
from ulsek.core.safety.spec_quality import check_shorter, dated_material, lot_dated
from ulsek.core.tasting.design import PanelDesign
from ulsek.core.tasting.found import PairFound, PanelFound, RankingFound, ScoresFound, ShareFound, TasterCount
from ulsek.core.tasting.old_bottle import AgedSample, age_beforehand, found_of_age

OLD_AND_YOUNG = (AgedSample(0, 12), AgedSample(1, 2))
ENTRY = {"days": 2, "name": "Test", "by": "Ilse M.", "why": "day 3 was told", "source": "panel P0007", "dated": "2026-12-01"}


def shared(right, of, by_chance, guess=1 / 3):
    return PanelFound(ShareFound((TasterCount(1, right, of),), guess, 0.4, 0.1, 0.7, by_chance))


def aged(method, found, samples=OLD_AND_YOUNG):
    said = found_of_age(PanelDesign(method, 6, 2, 0.2, len(samples)), samples, found)
    return said and (said.days, str(said.words).replace("\xa0", " "))


def pairs(*shown):
    return tuple(PairFound(better, worse, 10, 11, by_chance, 0.6, Range(1.0, 0.5, 1.5)) for better, worse, by_chance in shown)


def ranked(*shown):
    return PanelFound(ranking=RankingFound(11, (1.0, 2.0, 3.0), (0.5, 0.3, 0.2), 9.0, 0.01, pairs(*shown)))


def scored(*shown):
    return PanelFound(scores=ScoresFound(11, (Range.exact(5.0),) * 3, 0.1, 0.1, 1.0, pairs(*shown)))


def test_an_old_bottle_that_is_told_shortens_to_the_day_before_it_whichever_stands_first():
    for samples in (OLD_AND_YOUNG, (AgedSample(0, 2), AgedSample(1, 12))):
        assert aged("triangle", shared(10, 12, 0.001), samples) == (
            11,
            "Day 12 was told from day 2: good for 11 days at most. Nobody tasted what lies between.",
        )
    assert aged("same_different", shared(11, 12, 0.01, 0.5), (AgedSample(0, 1), AgedSample(1, 2)))[0] == 1


def test_what_else_may_be_behind_it_is_said_where_something_was_shown():
    shown, not_shown = (
        found_of_age(PanelDesign("triangle", 6, 2, 0.2, 2), OLD_AND_YOUNG, shared(right, 12, p)) for right, p in ((10, 0.001), (5, 0.3))
    )
    assert str(shown.caution).startswith("They are of different batches")
    assert not not_shown.caution


def test_what_was_not_shown_makes_no_date_longer():
    assert aged("triangle", shared(5, 12, 0.3)) == (
        None,
        "No harm of age was shown on day 12 against day 2. That makes no date longer.",
    )


@pytest.mark.parametrize(("right", "days"), [(2, 11), (14, None)])
def test_a_preference_shortens_only_if_the_younger_one_is_liked(right, days):
    # The second sample is the younger one, and `right` of 16 chose the older, first one where it is 2.
    found = aged("paired", shared(right, 16, 0.004, 0.5), (AgedSample(0, 2), AgedSample(1, 12)))
    assert found[0] == days
    assert ("liked less" if days else "Day 12 is preferred to day 2. That makes no date longer.") in found[1]


@pytest.mark.parametrize("found", [ranked, scored])
def test_a_day_between_that_was_not_shown_to_be_worse_is_the_last_good_one(found):
    three = (AgedSample(0, 2), AgedSample(1, 8), AgedSample(2, 12))
    method = "ranking" if found is ranked else "scores"
    assert aged(method, found((0, 2, 0.01), (0, 1, 0.4), (1, 2, 0.3)), three) == (
        8,
        "Day 12 is liked less than day 2, and of day 8 that was not shown: good for 8 days.",
    )
    assert aged(method, found((0, 2, 0.01), (0, 1, 0.02), (1, 2, 0.3)), three)[0] == 7
    assert aged(method, found((2, 0, 0.01), (1, 0, 0.02), (2, 1, 0.3)), three)[0] is None, "the older ones are liked better"
    assert aged(method, found((0, 2, 0.01)), (AgedSample(0, 2), AgedSample(1, 2))) is None


def test_without_age_or_without_answers_nothing_is_said_of_it():
    assert aged("triangle", shared(12, 12, 0.001), (AgedSample(0, 2), AgedSample(1, 2))) is None
    assert aged("triangle", None) is None
    assert not age_beforehand((AgedSample(0, 2),))
    assert "Day 12 against day 2" in str(age_beforehand(OLD_AND_YOUNG))


def syrup(**tasted):
    done = worked(pour(line("white_sugar", 650.0), line("water", 350.0)))
    spec = done.inputs.spec
    own = {"format": "ulsek.rules", "version": 1, "spec_quality": {spec.id: {**ENTRY, **tasted}}} if tasted else {}
    return spec.id, own, evaluate(spec, done.inputs.materials, rules=read_rules(own)).keeping


def test_a_tasted_date_ends_quality_and_leaves_safety_alone():
    before = syrup()[2]
    key, own, kept = syrup(days=2)
    assert before.days > 2
    assert (kept.days, kept.quality.days, kept.safety) == (2, 2, before.safety)
    assert "day 3 was told (Ilse M.)" in str(kept.reason)
    assert syrup(days=before.quality.days + 100)[2] == before, "it never lengthens"
    sheet = rule_sheet(own).spec_quality[0]
    assert (sheet.key, sheet.days, sheet.by, sheet.source) == (key, 2, "Ilse M.", "panel P0007")
    assert rule_sheet({}).spec_quality == ()


@pytest.mark.parametrize(
    ("change", "where"),
    [({"days": 0}, "days"), ({"days": 2.5}, "days"), ({"days": "2"}, "days"), ({"by": ""}, "by"), ({"why": None}, "why"), ({"source": ""}, "source"), ({"until": 3}, "until")],
)  # fmt: skip
def test_what_is_no_tasted_date_is_refused_at_its_place(change, where):
    with pytest.raises(Refusal) as refused:
        syrup(**{"days": 2, **change})
    assert refused.value.where.endswith(f"/{where}")


def test_bottles_turn_sooner_and_products_made_of_it_too():
    said = read_rules({"format": "ulsek.rules", "version": 1, "spec_quality": {"quince-syrup": ENTRY}}).spec_quality
    made = date(2026, 11, 20)
    last, why = lot_dated(date(2026, 12, 4), made, said["quince-syrup"])
    assert (last, str(why).replace("\xa0", " ")) == (date(2026, 11, 21), "2 days from its making: day 3 was told (Ilse M.).")
    assert lot_dated(date(2026, 11, 21), made, said["quince-syrup"]) is None, "what turns as soon stays as it is"
    body = {"made_by": "quince-syrup", "keeps_days": 14}
    assert dated_material("quince_syrup", body, said)["keeps_days"] == 2
    assert dated_material("house_quince_syrup", {**body, "keeps_days": 1}, said)["keeps_days"] == 1
    assert dated_material("quince_syrup_pulp", body, said) == body, "its by-product was not tasted"


def test_more_days_than_were_tasted_are_refused():
    check_shorter(11, 11)
    for days in (0, -3, 12):
        with pytest.raises(Refusal, match="a tasting makes a date shorter, never longer"):
            check_shorter(days, 11)
