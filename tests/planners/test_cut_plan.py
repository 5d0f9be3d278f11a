"""The cut plan: nothing used twice, zest before juice, never worse than the naive order; and what it says when it cannot be met."""

import math
from dataclasses import replace

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.cut_plan import (
    BUY_G,
    DAY_OLD_H,
    JUICE_AFTER_ZEST_SHARE,
    KEEPS_H,
    MAX_ZEST_TO_JUICE_H,
    WAYS,
    Fruit,
    Want,
    naive_plan,
    objective,
)
from ulsek.planners.cut_plan import cut_plan


def fruit(key="b", kind="bergamot", count=40, **changed):
    given_ = {"fruit_g": 140.0, "density": 1.035, "juice_ml": 50.0, "zest_g": 10.0, "peel_g": 40.0, "price": 0.7, **changed}
    return Fruit(key, f"{kind} {key}", kind, count, **given_)


def want(key, by=4.0, fruits=(), **takes):
    return Want(key, f"want {key}", takes, fruits, by)


def made(plan, fruits, kind):
    by_key = {item.key: item for item in fruits}
    return math.fsum(cut.count * by_key[cut.fruit].gives(kind, cut.way) for cut in plan.cuts)


def check(plan, fruits, wants):
    """Everything that must hold of any plan."""
    by_key = {item.key: item for item in fruits}
    for key, used in plan.used.items():
        have = by_key[key].pack * plan.packs.get(key, 0) if by_key[key].pack else by_key[key].count
        assert 0 < used <= have
    for cut in plan.cuts:
        if len(WAYS[cut.way]) == 2:
            assert cut.at_h <= cut.then_h <= cut.at_h + MAX_ZEST_TO_JUICE_H
    for kind in KEEPS_H:
        given_away = math.fsum(share.amount for share in plan.shares if share.kind == kind)
        assert given_away <= made(plan, fruits, kind) + 1e-3
    for item in wants:
        for kind, amount in item.takes.items():
            got = math.fsum(share.amount for share in plan.shares if share.want == item.key and share.kind == kind)
            assert got + plan.short.get((item.key, kind), 0.0) == pytest.approx(amount, abs=0.01)
        assert all(item.may_use(by_key[share.fruit]) for share in plan.shares if share.want == item.key)
    whole = math.fsum(cut.count * by_key[cut.fruit].fruit_g for cut in plan.cuts)
    used = math.fsum(share.amount * by_key[share.fruit].grams(share.kind) for share in plan.shares)
    assert whole == pytest.approx(used + plan.bin_g, abs=0.01)


def test_zest_and_juice_come_out_of_the_same_fruit():
    fruits, wants = [fruit()], [want("juice", juice=480.0), want("zest", zest=100.0)]
    plan, naive = cut_plan(fruits, wants), naive_plan(fruits, wants)
    check(plan, fruits, wants)
    # 480 mL at 50 × 0.96 are ten fruits, and ten fruits give the 100 g of zest; on their own they take 10 + 10.
    assert sum(cut.count for cut in plan.cuts) == 10
    assert [cut.way for cut in plan.cuts] == ["zest, then juice"]
    assert sum(cut.count for cut in naive.cuts) == 20
    assert plan.short == {}
    assert plan.proved


def test_a_zested_fruit_is_not_juiced_a_day_later():
    """Zest is wanted now and juice tomorrow evening: skin off today would dry the fruit, so other fruit is juiced then."""
    fruits, wants = [fruit()], [want("zest", 2.0, zest=100.0), want("juice", 30.0, juice=480.0)]
    plan = cut_plan(fruits, wants)
    check(plan, fruits, wants)
    assert {cut.way for cut in plan.cuts} == {"zest", "juice"}
    soon = cut_plan(fruits, [want("zest", 2.0, zest=100.0), want("juice", 2.0 + MAX_ZEST_TO_JUICE_H, juice=480.0)])
    assert {cut.way for cut in soon.cuts} == {"zest, then juice"}


def test_juice_is_not_pressed_before_it_would_turn():
    plan = cut_plan([fruit()], [want("now", 1.0, juice=100.0), want("later", 1.0 + KEEPS_H["juice"] + 1, juice=100.0)])
    assert sorted(cut.at_h for cut in plan.cuts) == [1.0, 20.0]


def test_what_cannot_be_met_says_what_is_short_and_gives_the_rest():
    fruits = [fruit(count=10)]
    wants = [want("juice", juice=1000.0), want("zest", zest=50.0)]
    plan = cut_plan(fruits, wants)
    check(plan, fruits, wants)
    # Ten fruits: five must be zested, and lose 4 % of their juice to it.
    assert plan.short == {("juice", "juice"): pytest.approx(1000 - 5 * 50 - 5 * 50 * JUICE_AFTER_ZEST_SHARE, abs=0.5)}


def test_only_the_fruit_that_was_named_is_taken():
    fruits = [fruit("b", "bergamot"), fruit("l", "lemon", juice_ml=45.0)]
    plan = cut_plan(fruits, [want("lemon", fruits=("lemon",), juice=200.0), want("crate", fruits=("b",), wheels=10.0)])
    assert {(cut.fruit, cut.way) for cut in plan.cuts} == {("l", "juice"), ("b", "wheels")}


def test_an_order_comes_in_whole_packs_and_only_for_what_is_lacking():
    fruits = [fruit(count=10), fruit("order", count=0, pack=24)]
    wants = [want("juice", juice=1500.0)]
    plan = cut_plan(fruits, wants)
    check(plan, fruits, wants)
    assert plan.packs == {"order": 1}
    assert plan.short == {}
    assert cut_plan(fruits, [want("juice", juice=300.0)]).packs == {}
    dearer = [fruits[0], replace(fruits[1], price=2 * fruits[1].price)]
    assert objective(plan, dearer) - objective(plan, fruits) == pytest.approx(BUY_G * 24 * fruits[1].price)


def test_ten_thousand_fruits():
    fruits = [fruit(count=10_000)]
    plan = cut_plan(fruits, [want("juice", juice=400_000.0), want("zest", zest=30_000.0)])
    check(plan, fruits, [want("juice", juice=400_000.0), want("zest", zest=30_000.0)])
    assert plan.short == {}


@pytest.mark.parametrize(
    ("fruits", "wants", "where", "text"),
    [
        ([fruit()], [], "wants", "Nothing is wanted"),
        ([], [want("j", juice=1.0)], "fruits", "There is no fruit"),
        ([fruit(count=-1)], [want("j", juice=1.0)], "fruits/0/count", "-1 fruits cannot be: from 0 to 10\u00a0000"),
        ([fruit(count=10_001)], [want("j", juice=1.0)], "fruits/0/count", "10001 fruits cannot be"),
        ([fruit()], [want("j", math.inf, juice=1.0)], "wants/0/by", "“want j” has no time"),
        ([fruit()], [want("j", juice=math.nan)], "wants/0/takes/juice", "nan mL cannot be"),
        ([fruit()], [want("j")], "wants/0/takes", "“want j” takes nothing"),
        ([fruit()], [want(str(n), juice=1.0) for n in range(41)], "wants", "41 are too many for one plan"),
    ],
)
def test_what_no_plan_can_be_made_of_is_refused_at_its_place(fruits, wants, where, text):
    with pytest.raises(Refusal) as refused:
        cut_plan(fruits, wants)
    assert refused.value.where == where
    assert text in refused.value.text


KINDS = st.dictionaries(st.sampled_from(("juice", "zest", "peel", "wheels")), st.floats(5, 600), min_size=1, max_size=2)
FRUITS = st.lists(
    st.builds(
        fruit,
        kind=st.sampled_from(("lemon", "bergamot")),
        count=st.integers(0, 60),
        fruit_g=st.floats(60, 250),
        juice_ml=st.floats(15, 60),
        zest_g=st.floats(2, 9),
        peel_g=st.floats(10, 40),
        # A fruit's parts weigh no more than the fruit: drawn beyond that, the bin would weigh less than nothing.
    ).filter(lambda item: 1.1 * item.juice_ml + max(item.zest_g, item.peel_g) <= item.fruit_g),
    min_size=1,
    max_size=3,
)
WANTS = st.lists(
    st.builds(
        lambda takes, by, kinds: Want("", "", takes, kinds, by),
        KINDS,
        st.sampled_from((1.0, 5.0, 12.0, 30.0)),
        st.sampled_from(((), ("lemon",), ("bergamot",), ("lemon", "bergamot"))),
    ),
    min_size=1,
    max_size=5,
)


@settings(max_examples=60, suppress_health_check=[HealthCheck.too_slow])
@given(FRUITS, WANTS)
def test_no_fruit_is_used_twice_and_no_plan_is_worse_than_the_naive_order(fruits, wants):
    fruits = [Fruit(**{**{name: getattr(item, name) for name in item.__slots__}, "key": str(n)}) for n, item in enumerate(fruits)]
    wants = [Want(str(n), "", item.takes, item.fruits, item.by_h) for n, item in enumerate(wants)]
    plan, naive = cut_plan(fruits, wants, time_limit_s=0.3), naive_plan(fruits, wants)
    check(plan, fruits, wants)
    check(naive, fruits, wants)
    assert objective(plan, fruits) <= objective(naive, fruits) + 1e-6
    if not plan.short and not naive.short:
        assert plan.bin_g <= naive.bin_g * 1.02 + 3.0 * max(0.0, naive.cost - plan.cost) + 1e-6


def test_whole_fruit_is_counted_beside_what_is_cut():
    fruits, wants = [fruit()], [want("whole", whole=12.0), want("juice", juice=480.0)]
    plan = cut_plan(fruits, wants)
    check(plan, fruits, wants)
    counts = {cut.way: cut.count for cut in plan.cuts}
    assert counts == {"whole": 12, "juice": 10}, "a fruit that goes in whole is not juiced as well"
    assert naive_plan(fruits, wants).used == {"b": 22}


def test_day_old_juice_is_a_choice():
    fresh = [want("evening", by=4.0, juice=490.0), want("next night", by=28.0, juice=10.0)]
    old = [fresh[0], replace(fresh[1], day_old=True)]
    apart, together = cut_plan([fruit()], fresh), cut_plan([fruit()], old)
    assert {cut.then_h for cut in apart.cuts} == {4.0, 28.0}
    assert {cut.then_h for cut in together.cuts} == {4.0} and sum(c.count for c in together.cuts) < sum(c.count for c in apart.cuts)
    too_old = [fresh[0], replace(fresh[1], by_h=4.0 + DAY_OLD_H + 0.5, day_old=True)]
    assert len({cut.then_h for cut in cut_plan([fruit()], too_old).cuts}) == 2
