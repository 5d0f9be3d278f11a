"""Panels in the core: balanced and blind designs, answers, doses, and every sentence of a verdict."""

from collections import Counter
from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.tasting.answers import checked_answer, chosen_sample, is_right
from ulsek.core.tasting.beforehand import beforehand
from ulsek.core.tasting.design import PanelDesign, SheetPage, checked_design, pages_of
from ulsek.core.tasting.found import AttributeFound, Expected, PairFound, PanelFound, RankingFound, ScoresFound, ShareFound, TasterCount
from ulsek.core.tasting.methods import METHODS, proposed
from ulsek.core.tasting.names import short_names
from ulsek.core.tasting.next_trial import TastedSpot, additions_words, distinct, missing_words, next_after_difference, next_by_scores
from ulsek.core.tasting.sequential import bounds_after, decided
from ulsek.core.tasting.serving import SampleContents, Serving, alcohol_ml, poured_words, pours
from ulsek.core.tasting.stops import before_the_first_glass, check_servable, stop_words
from ulsek.core.tasting.verdict import nothing_to_say, verdict

SEED = "9c1f" * 8
GAP = "\xa0"


def plain(said):
    return str(said).replace(GAP, " ")


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(sorted(METHODS)), st.integers(1, 40), st.integers(1, 4), st.data())
def test_a_design_is_blind_and_balanced(key, tasters, rounds, data):
    method = METHODS[key]
    samples = data.draw(st.integers(method.least_samples, method.most_samples))
    design = PanelDesign(key, tasters, rounds, 1.0 if key == "scores" else 0.6, samples)
    pages = pages_of(design, SEED)
    assert pages == pages_of(design, SEED)
    assert len(pages) == tasters * design.pages_each
    assert {len(code) for page in pages for code in page.codes} == {3}
    held = {}
    for page in pages:
        for code, sample in zip(page.codes, page.samples, strict=True):
            assert held.setdefault((page.round, code), sample) == sample, "a code stands for one sample"
            assert (len({page.seat for page in pages if code in page.codes}) == 1) == bool(method.orders) or tasters == 1
    for turn in range(1, rounds + 1):
        orders = Counter(page.samples for page in pages if page.round == turn and key != "scores")
        if method.orders and orders:
            assert max(orders.values()) - min(orders.get(order, 0) for order in method.orders) <= 1


def test_every_glass_of_many_stands_in_every_place_and_follows_every_other_equally_often():
    pages = pages_of(PanelDesign("ranking", 12, 1, 0.6, 4), SEED)
    places = Counter((place, sample) for page in pages for place, sample in enumerate(page.samples))
    follows = Counter(pair for page in pages for pair in zip(page.samples, page.samples[1:], strict=False))
    assert set(places.values()) == {3}
    assert set(follows.values()) == {3}
    odd = Counter(
        pair for page in pages_of(PanelDesign("ranking", 10, 1, 0.6, 5), SEED) for pair in zip(page.samples, page.samples[1:], strict=False)
    )
    assert set(odd.values()) == {2}


def test_another_seed_is_another_key_and_without_one_there_is_none():
    design = PanelDesign("triangle", 6, 2)
    assert pages_of(design, SEED) != pages_of(design, "0" * 32)
    with pytest.raises(ValueError, match="nobody knows"):
        pages_of(design, "")


def test_the_key_is_the_same_whatever_python_computes_it():
    """A panel that is open over an upgrade keeps its key: this one is written down."""
    first = pages_of(PanelDesign("triangle", 2, 1), SEED)[0]
    assert (first.codes, first.samples) == (("309", "378", "293"), (1, 1, 0))


PAGE = SheetPage(1, 1, 1, "odd", ("101", "202", "303"), (1, 0, 1))


@pytest.mark.parametrize(
    ("asks", "given_answer", "read"),
    [
        ("odd", {"code": "202", "word": "  greener "}, {"code": "202", "word": "greener"}),
        ("same", {"same": False}, {"same": False}),
        ("ranking", {"order": ["303", "101", "202"]}, {"order": ["303", "101", "202"]}),
        ("liking", {"score": 7}, {"score": 7.0}),
        ("attributes", {"marks": {"sweet": 5, "tart": 3}}, {"marks": {"sweet": 5, "tart": 3}}),
    ],
)
def test_answers_are_read(asks, given_answer, read):
    assert checked_answer(asks, PAGE.codes, ("sweet", "tart"), given_answer) == read


@pytest.mark.parametrize(
    ("asks", "given_answer", "where"),
    [
        ("odd", {"code": "999"}, "code"),
        ("odd", {}, "code"),
        ("same", {"same": "yes"}, "same"),
        ("ranking", {"order": ["101", "202"]}, "order"),
        ("ranking", {"order": "101"}, "order"),
        ("ranking", {"order": ["101", "101", "202"]}, "order"),
        ("liking", {"score": 11}, "score"),
        ("liking", {"score": True}, "score"),
        ("liking", {"score": None}, "score"),
        ("attributes", {"marks": {"sweet": 5}}, "marks"),
        ("attributes", {"marks": {"sweet": 6, "tart": 3}}, "marks/sweet"),
        ("odd", {"code": "101", "word": "x" * 201}, "word"),
    ],
)
def test_what_is_no_answer_is_refused_at_its_place(asks, given_answer, where):
    with pytest.raises(Refusal) as refused:
        checked_answer(asks, PAGE.codes, ("sweet", "tart"), given_answer)
    assert refused.value.where == where


def test_right_and_wrong():
    assert is_right(PAGE, {"code": "202"})
    assert not is_right(PAGE, {"code": "101"})
    pair = SheetPage(1, 1, 1, "same", ("1", "2"), (1, 1))
    assert is_right(pair, {"same": True})
    assert not is_right(pair, {"same": False})
    assert chosen_sample(PAGE, "202") == 0
    with pytest.raises(ValueError, match="no right answer"):
        is_right(SheetPage(1, 1, 1, "preferred", ("1", "2"), (0, 1)), {"code": "1"})


def test_a_question_has_its_methods_and_a_number_of_samples_its_bounds():
    assert [item.key for item in proposed("difference", 2)] == ["triangle", "same_different"]
    assert [item.key for item in proposed("preference", 2)] == ["paired"]
    assert [item.key for item in proposed("preference", 5)] == ["ranking"]
    with pytest.raises(Refusal, match=r"7 samples are too many for “In order of liking”: at most 6\."):
        proposed("preference", 7)
    with pytest.raises(Refusal, match="13 samples are too many"):
        proposed("standing", 13)


@pytest.mark.parametrize(
    ("change", "text"),
    [
        ({"tasters": 41}, "41 tasters cannot be: 1 to 40. Split a larger crowd into two panels."),
        ({"rounds": 0}, "0 rounds cannot be: 1 to 4. A tongue tires: ask more people instead."),
        ({"line": 0.01}, "A line of 1 % cannot be: 5 % to 90 %. Say what difference matters."),
        ({"glass_ml": 100}, "100 mL in a glass cannot be: 2 mL to 60 mL. 15 mL is a usual taste."),
        ({"samples": 1}, "1 of at least 2 samples. Say what it is tasted against."),
        ({"is_sequential": True}, "A panel that ends by a rule asks whether anybody can tell, each taster once. One round, or no rule."),
        ({"attributes": ("sweet",)}, "What is just about right is asked with a score. Take scores, or leave it out."),
    ],
)
def test_a_design_that_cannot_be_is_refused_in_words(change, text):
    with pytest.raises(Refusal) as refused:
        checked_design(PanelDesign(**{"method": "triangle", **change}))
    assert plain(refused.value.text) == text


SWEET = SampleContents("house", 40.0, 3.0, 0.0)


def test_doses_of_equal_sugar_say_what_differs_all_the_same():
    thin = SampleContents("trial", 20.0, 3.0, 12.0)
    same, double = pours([SWEET, thin], Serving("soda", "sugar", 20.0, 80.0))
    assert (same.ml, double.ml) == (20.0, 40.0)
    assert [plain(item) for item in double.differs] == ["100 % more acid", "alcohol in one of them only", "100 % more volume"]
    by_volume = pours([SWEET, thin], Serving("soda", "volume", 20.0, 80.0))[1]
    assert [plain(item) for item in by_volume.differs] == ["50 % less sugar", "alcohol in one of them only"]
    assert [plain(item) for item in pours([SWEET, SampleContents("x")], Serving("soda", "volume"))[1].differs] == [
        "sugar is not known",
        "acid is not known",
        "alcohol is not known",
    ]
    with pytest.raises(Refusal, match="The acid of x is not known, or there is none"):
        pours([SWEET, SampleContents("x", 40.0)], Serving("soda", "acid"))
    with pytest.raises(Refusal, match="cannot be poured"):
        pours([SWEET, SampleContents("x", 0.1)], Serving("soda", "sugar"))


def test_spirit_is_counted_by_taster():
    design = PanelDesign("triangle", 6, 2, glass_ml=15.0)
    spirits = [SampleContents("a", abv=40.0), SampleContents("b", abv=40.0)]
    assert alcohol_ml(design, spirits, Serving(), SEED) == pytest.approx(6 * 15 * 0.4)
    assert (
        plain(poured_words(design, 36.0))
        == "Each taster is poured 6 glasses, 90 mL in all, 36.0 mL of it pure alcohol: have a spittoon ready."
    )
    in_drink = alcohol_ml(design, spirits, Serving("long", "volume", 20.0, 80.0, 0.0), SEED)
    assert in_drink == pytest.approx(6 * 15 * 0.08)
    assert alcohol_ml(design, [SWEET, SWEET], Serving(), SEED) == 0.0


def test_what_must_be_known_is_said_and_names_no_sample():
    said = before_the_first_glass(["milk", "nuts", "milk"], some_unknown=True, alcohol_ml=9.0)
    assert plain(said) == (
        "What you will taste holds: milk, nuts. Of one of them nobody has said what it holds. There is alcohol in it, 9.0 mL in all: spit as you like."
    )
    assert "no promise" in str(before_the_first_glass([], some_unknown=False, alcohol_ml=0.0))
    assert not stop_words(recalled=False, past=False)
    assert "recalled" in str(stop_words(recalled=True, past=True))
    with pytest.raises(Refusal, match="x is past its last day, 20 May: nobody tastes it"):
        check_servable("x", recalled=False, past=date(2090, 5, 20), gone=False, where="samples/0")


def share(right, of, low, high, *, by_chance, guess=1 / 3, each=1, sure=0.95):
    tasters = of // each
    counts = tuple(TasterCount(n + 1, min(each, max(0, right - n * each)), each) for n in range(tasters))
    return PanelFound(share=ShareFound(counts, guess, max(0.0, (right / of - guess) / (1 - guess)), low, high, by_chance, sure))


def told(found, names=("house", "trial"), **design):
    said = verdict(PanelDesign(**{"method": "triangle", "tasters": 24, "rounds": 1, **design}), names, found)
    return [plain(said.headline), *map(plain, said.sentences), plain(said.caution)]


def test_no_difference_is_never_said_to_be_none():
    assert told(share(9, 24, 0.0, 0.3443, by_chance=0.4)) == [
        "No difference shown: 9 of 24 right, where chance gives 8.",
        "Up to 35 % of guests may notice. That it is the same is not shown: no panel can.",
        "Your line was 20 %: that no more can tell is not shown.",
        "The risk of a switch: of 100 guests, up to 35 may notice.",
        "",
    ]
    assert told(share(28, 90, 0.0, 0.19, by_chance=0.7))[2] == "Your line was 20 %: it is kept."


def test_a_difference_is_said_with_its_ends_away_from_comfort():
    found = told(share(20, 24, 0.5501, 0.8999, by_chance=1e-6))
    assert found[:3] == [
        "A difference was shown: 20 of 24 right, where chance gives 8.",
        "At least 55 % of guests may notice, up to 90 %.",
        "Your line was 20 %: it is crossed.",
    ]
    assert told(share(13, 24, 0.004, 0.6, by_chance=0.03))[1] == "Some guests notice, up to 60 %."


def test_a_rule_that_ended_it_speaks_before_the_count_does():
    """Counts that were looked at after each answer show more than a number fixed beforehand would: what was shown is what the rule says."""
    found = share(13, 24, 0.01, 0.6, by_chance=0.03)
    undecided = replace(found, share=replace(found.share, ended_by=""))
    assert told(undecided)[0].startswith("No difference shown: 13 of 24")
    kept = replace(found, share=replace(found.share, ended_by="line kept"))
    assert told(kept)[2] == "Your line was 20 %: it is kept."
    assert told(kept)[-1] == "It ended by its rule after 24. The ends are those of a number fixed beforehand, and a little too narrow."


def test_few_tasters_say_so_and_repeats_are_explained():
    found = share(5, 12, 0.0, 0.6, by_chance=0.2, each=2)
    assert told(found, tasters=6, rounds=2)[-1] == "6 tasters only: this says more of them than of guests."
    names = [plain(item.name) for item in verdict(PanelDesign("triangle", 6, 2), ("a", "b"), found).figures]
    assert names == ["guests who can tell", "by chance alone", "tasted more than once"]


def test_a_preference_is_said_for_the_one_that_more_have_chosen():
    liked = {"method": "paired", "tasters": 16, "line": 0.65}
    assert told(share(14, 16, 0.6561, 0.98, by_chance=0.004, guess=0.0), **liked) == [
        "14 of 16 prefer trial (at least 65 %).",
        "Up to 98 % of guests may prefer it.",
        "Your line was 65 %: it is reached.",
        "",
    ]
    assert told(share(2, 16, 0.02, 0.344, by_chance=0.004, guess=0.0), **liked)[0] == "14 of 16 prefer house (at least 65 %)."
    assert told(share(9, 16, 0.30, 0.80, by_chance=0.8, guess=0.0, sure=0.975), **liked)[:2] == [
        "No preference shown: 9 of 16 prefer trial, where none gives half.",
        "Between 30 % and 80 % of guests may prefer it.",
    ]


def pair(first, second, by_chance, apart=None, before=10, of=11, low=0.6356):
    return PairFound(first, second, before, of, by_chance, low, apart)


def test_an_order_is_said_pair_by_pair():
    found = RankingFound(11, (1.4, 1.8, 2.8), (0.7, 0.6, 0.2), 12.0, 0.002, (pair(0, 2, 0.01), pair(1, 2, 0.04), pair(0, 1, 0.5)))
    assert told(PanelFound(ranking=found), ("version 4", "trial", "bought"), method="ranking", samples=3, line=0.65)[:3] == [
        "Version 4 comes first; no difference to trial was shown.",
        "Version 4 before bought: 10 of 11 put it there (at least 63 %).",
        "Trial before bought: 10 of 11 put it there (at least 63 %).",
    ]
    alike = RankingFound(11, (1.9, 2.0, 2.1), (0.5, 0.5, 0.5), 0.2, 0.9, (pair(0, 1, 1.0), pair(0, 2, 1.0), pair(1, 2, 1.0)))
    assert told(PanelFound(ranking=alike), ("a", "b", "c"), method="ranking", samples=3, line=0.65)[:2] == [
        "No order was shown: they may be liked alike.",
        "On average a stands first; that may be chance.",
    ]


def test_scores_are_said_against_the_control():
    means = (Range(7.4, 6.8, 8.0), Range(7.1, 6.5, 7.7), Range(2.9, 2.3, 3.5), Range(7.3, 6.9, 7.7))
    pairs = (
        pair(0, 2, 0.001, Range(4.5, 3.6, 5.4)),
        pair(1, 2, 0.001, Range(4.2, 3.3, 5.1)),
        pair(0, 1, 0.6, Range(0.3, -0.6, 1.2)),
        pair(0, 3, 0.9, Range(0.1, -0.5, 0.7)),
    )
    off = (
        AttributeFound(2, "sweet", 0, 2, 9, 0.004, 1.3),
        AttributeFound(0, "sweet", 1, 9, 1, 1.0, 0.2),
        AttributeFound(1, "body", 8, 3, 0, 0.01, None),
    )
    found = PanelFound(scores=ScoresFound(11, means, 0.8, 0.2, 1.1, pairs), attributes=off)
    said = told(found, ("version 4", "trial", "bought", "day 3"), method="scores", tasters=11, samples=4, line=1.0)
    assert said == [
        "Version 4 comes first; no difference to day 3 was shown.",
        "Version 4 is liked more than bought by 4.5 points (3.6 to 5.4).",
        "How far version 4 lies from these is open, in points: trial (up to 1.2).",
        "Within your line of 1.0 points of version 4: day 3.",
        "9 of 11 find bought too sweet; not just right costs it 1.3 points.",
        "8 of 11 find trial too thin.",
        "",
    ]


def test_too_few_answers_say_nothing():
    assert [plain(nothing_to_say(n).headline) for n in (1, 2)] == [
        "1 answer: too few to say anything.",
        "2 answers: too few to say anything.",
    ]
    with pytest.raises(ValueError, match="nothing was found"):
        verdict(PanelDesign("triangle"), ("a", "b"), PanelFound())


def test_beforehand_says_what_can_be_shown():
    told_before = beforehand(PanelDesign("triangle"), Expected(12, 8, 0.63, 0.4924, 96))
    assert [plain(item) for item in told_before.sentences] == [
        "12 tastings can hardly show that at most 20 % can tell: that takes about 100.",
        "If nobody can, it will say about: up to 50 % may notice.",
        "A difference is shown from 8 right of 12; four times in five if 63 % of guests can tell.",
    ]
    assert not told_before.reaches_line
    enough = beforehand(PanelDesign("triangle", 40, 3), Expected(120, 50, 0.25, 0.15, 96))
    assert plain(enough.sentences[0]) == "120 tastings are enough to show that at most 20 % can tell, if nobody can."
    alone = beforehand(PanelDesign("triangle", 1, 1), Expected(1, None, None, 1.0, None))
    assert plain(alone.sentences[-1]) == "Even if all are right, that can be chance: ask more people."
    paired = beforehand(PanelDesign("paired", 16, 2, 0.65), Expected(32, 26, 0.86, None, 97))
    assert [plain(item) for item in paired.sentences] == [
        "A preference is shown from 26 of 32 for one of them.",
        "If 65 % of guests prefer it, that shows four times in five with about 100 tasters; here are 16.",
        "Whoever likes one likes it again: a second round makes little surer.",
    ]


def test_names_are_short_where_they_can_be():
    assert short_names(("Quince syrup, version 2", "Quince syrup, version 3", "market bottle")) == (
        "version 2",
        "version 3",
        "market bottle",
    )
    assert short_names(("Quince syrup, version 2", "Birch syrup, version 2")) == ("Quince syrup, version 2", "Birch syrup, version 2")
    assert short_names(("A, x", "A, x", "B, y", "B, x")) == ("A, x", "A, x", "y", "B, x")


def test_a_rule_decides_by_its_two_lines():
    # One guest in two: two right answers in three against one in three, so the middle is half of them, and ln 19 ÷ ln 4 on either side.
    assert bounds_after(20, 1 / 3, 0.5) == pytest.approx((10 - 2.124, 10 + 2.124), abs=0.001)
    assert (decided(0, 3, 1 / 3, 0.5), decided(5, 5, 1 / 3, 0.5), decided(3, 5, 1 / 3, 0.5)) == ("", "difference", "")
    assert decided(8, 40, 1 / 3, 0.5) == "line kept"


HOUSE, LESS = TastedSpot(0, 40.0, 3.0), TastedSpot(1, 35.0, 3.0)


def test_the_next_trial_goes_one_step_on_or_half_way_back():
    on = next_after_difference(HOUSE, LESS, is_shown=False)
    assert (on.sample, on.sugar, on.acid) == (1, pytest.approx(35.0 / 1.1, rel=1e-9), pytest.approx(3.0))
    assert plain(on.words) == "31.8 g sugar, 3.00 g acid in 100 mL."
    back = next_after_difference(HOUSE, LESS, is_shown=True)
    assert (back.sample, back.sugar) == (0, pytest.approx((40.0 * 35.0) ** 0.5))
    assert "Half way back" in str(back.why)
    assert next_after_difference(HOUSE, TastedSpot(1, 40.2, 3.0), is_shown=False) is None


def test_the_next_trial_goes_where_the_scores_point_and_nothing_was_tasted():
    scored = [TastedSpot(0, 40.0, 3.0, 7.4), TastedSpot(1, 44.0, 3.0, 6.2), TastedSpot(2, 48.4, 3.0, 4.9)]
    found = next_by_scores(scored, 1.0)
    assert (found.sample, found.sugar < 40.0) == (0, True)
    assert plain(found.why).startswith("One noticeable step from the one that stands best, with less")
    more_acid = next_by_scores([TastedSpot(0, 40.0, 3.0, 7.4), TastedSpot(1, 40.0, 2.4, 4.0), TastedSpot(2, 40.0, 2.0, 2.0)], 0.5)
    assert more_acid.acid == pytest.approx(3.3)
    assert next_by_scores(scored[:1], 1.0) is None
    assert next_by_scores([HOUSE, LESS], 1.0) is None


def test_spots_are_counted_that_differ_and_few_say_how_many_are_missing():
    spots = [HOUSE, LESS, TastedSpot(2, 40.1, 3.0), TastedSpot(3, 0.0, 3.0)]
    assert distinct(spots) == [HOUSE, LESS]
    assert plain(missing_words(spots)) == "2 spots show no surface: 5 more that differ only in sugar and acid would."
    assert (
        plain(additions_words([("Water", 50.0), ("Citric acid, dry", 1.0)], 500.0, "L0012"))
        == "Into each litre of L0012: 100 g water and 2.00 g citric acid."
    )
    assert not additions_words([], 500.0, "")
