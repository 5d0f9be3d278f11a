"""Citrus: what a house's fruit teaches, stretched juice, oil-sugar, keeping; the desks for a juice in hand."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulsek.core.advice.juice_treatment import clear_ways, stronger_ways, without
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.messages import printed
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.citrus.fruit import varieties, variety
from ulsek.core.citrus.oleo_saccharum import PeelJar, draw_plateau, learned_plateau, oil_sugar
from ulsek.core.citrus.storage import keeps
from ulsek.core.citrus.stretched_juice import OwnFruit, StretchInputs, at_equal, stretch, stretched_spec
from ulsek.core.citrus.yields import FruitMeasurement, against_record, expected_share
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.properties.acidity import acid_g_100ml
from ulsek.core.properties.density import volume_ml
from ulsek.core.spec.json_form import read_spec

LIME, BERGAMOT = variety("lime_persian"), variety("bergamot")
TYPICAL = typical_materials()


def juice(key):
    return read_material(key, TYPICAL[key])


def test_without_a_record_the_tables_speak_and_say_so():
    known = expected_share(LIME, [])
    assert (known.source, known.count) == ("typical", 0)
    assert (known.share.low, known.share.value, known.share.high) == pytest.approx((0.35, 0.42, 0.49), abs=0.011)


def test_a_record_narrows_it_and_a_sample_of_this_case_wins():
    record = [0.42, 0.41, 0.43, 0.40]
    by_record = expected_share(LIME, record)
    assert by_record.source == "record"
    assert by_record.share.half_width < expected_share(LIME, []).share.half_width
    dry = FruitMeasurement(10, weight_g=670, juice_ml=207)
    by_sample = expected_share(LIME, record, [dry])
    assert (by_sample.source, by_sample.count) == ("sample", 10)
    # Between what the record promised and what the ten gave, nearer to the ten.
    assert dry.share(LIME) < by_sample.share.value < (dry.share(LIME) + by_record.share.value) / 2
    assert by_sample.share.half_width < by_record.share.half_width
    fifty = expected_share(LIME, record, [FruitMeasurement(50, weight_g=3350, juice_ml=1035)])
    assert abs(fifty.share.value - dry.share(LIME)) < abs(by_sample.share.value - dry.share(LIME))


def test_a_sample_without_a_weight_counts_for_less():
    bare, weighed = (expected_share(LIME, [], [FruitMeasurement(10, weight, 207)]) for weight in (None, 670))
    assert bare.share.half_width > weighed.share.half_width


@given(st.lists(st.floats(0.25, 0.55), max_size=12), st.integers(1, 60), st.floats(0.2, 0.6))
def test_what_is_known_stays_a_share_and_more_fruit_never_widens_it(record, count, share):
    grams = count * 67.0
    seen = FruitMeasurement(count, grams, share * grams / LIME.density)
    before, after = expected_share(LIME, record), expected_share(LIME, record, [seen])
    assert 0 < after.share.low <= after.share.value <= after.share.high < 0.85
    assert after.share.half_width <= before.share.half_width + 1e-12


def test_the_spread_from_case_to_case_is_the_houses_own_with_the_usual_one_as_four_cases():
    # 8 % of 0.3 squared, four times, over the two cases and three; then the two at 0.05 from their mean besides.
    usual = 4 * (0.08 * 0.3) ** 2
    alike, apart = expected_share(LIME, [0.3, 0.3]).share, expected_share(LIME, [0.25, 0.35]).share
    assert alike.half_width == pytest.approx(1.645 * math.sqrt(usual / 5) * math.sqrt(1.5), rel=0.25)
    assert apart.half_width / alike.half_width == pytest.approx(math.sqrt((usual + 2 * 0.05**2) / usual), rel=0.2)


def test_dry_fruit_is_told_apart_from_the_scatter_of_fruit():
    record = [0.42, 0.41, 0.43, 0.40]
    assert printed(against_record(LIME, record, [FruitMeasurement(10, 670, 207)])) == (
        "These are dry: 32 % juice, where the last 4 cases gave 42 %. For a litre you need 3.2 kg instead of 2.5 kg."
    )
    assert not against_record(LIME, record, [FruitMeasurement(10, 670, 265)])
    assert printed(against_record(LIME, record, [FruitMeasurement(10, 670, 330)])).startswith("These are juicy")
    assert not against_record(LIME, record[:2], [FruitMeasurement(10, 670, 207)])


@pytest.mark.parametrize(
    ("seen", "where", "text"),
    [
        (FruitMeasurement(0, juice_ml=10), "count", "0 fruits cannot be"),
        (FruitMeasurement(-5, juice_ml=10), "count", "-5 fruits cannot be"),
        (FruitMeasurement(10_001, juice_ml=10), "count", "10001 fruits cannot be"),
        (FruitMeasurement(10), "juice_ml", "One figure is enough"),
        (FruitMeasurement(10, juice_ml=9000), "juice_ml", "9\u00a0000 mL from 10 of lime cannot be"),
        (FruitMeasurement(10, weight_g=3), "weight_g", "3 g from 10 of lime cannot be"),
        (FruitMeasurement(10, weight_g=670, juice_ml=640), "juice_ml", "640 mL do not come out of 670 g: at most 548 mL"),
        (FruitMeasurement(10, juice_ml=math.nan), "juice_ml", "cannot be"),
        (FruitMeasurement(10, juice_ml=200, brix=80), "brix", "from 2 to 25 °Bx"),
        (FruitMeasurement(10, weight_g=670, peel_g=2000), "peel_g", "from 0 to 871 g"),
        (FruitMeasurement(10, weight_g=670, zest_g=2000), "zest_g", "from 0 to 348 g"),
    ],
)
def test_mad_counts_and_figures_are_refused_at_their_place(seen, where, text):
    with pytest.raises(Refusal) as refused:
        seen.checked(LIME)
    assert refused.value.where == where
    assert text in refused.value.text


def test_a_fruit_without_a_record_of_its_kind_is_named_with_those_there_are():
    with pytest.raises(Refusal, match="Nothing is known about “moonfruit” as a citrus: there are lemon, lime_persian"):
        variety("moonfruit")


@pytest.mark.parametrize("school", ["rest", "blend"])
@pytest.mark.parametrize("key", ["lemon", "lime_persian", "bergamot", "yuzu", "grapefruit_pink"])
def test_a_stretched_juice_stands_where_it_should_to_the_millilitre(key, school):
    of = variety(key)
    made = stretch(of, StretchInputs(1000, 4, school=school, target=5.0))
    inside = juice(f"{key}_juice").per_gram().solution
    inside = inside.scaled(1000 * of.density / inside.mass_g) + Contents(dict(made.acids_g)) + Contents({"water": made.water_g})
    assert volume_ml(inside) == pytest.approx(4000, abs=0.01)
    assert acid_g_100ml(inside) == pytest.approx(5.0, rel=1e-6)
    assert made.sugar_g_100ml == pytest.approx(made.fresh["sugar_g_100ml"] / 4, rel=1e-6)
    assert made.fruit_saved == pytest.approx(0.75)


def test_bergamot_to_four_times_by_hand():
    """1 L at 4.8 g/100 mL brings 48 g; 4 L at 4.8 hold 192 g: 144 g titratable are wanted. In its own split of 93 citric, 6 malic, 1 other counted as
    citric, a gram titratable is 0.9426 g of citric and 0.0602 g of malic acid."""
    made = stretch(BERGAMOT, StretchInputs(1000, 4), OwnFruit(price_kg=5.6, acid_kg=12.0, juice_share=0.36))
    assert made.acids_g == pytest.approx({"citric_acid": 144 * 0.9426, "malic_acid": 144 * 0.0602}, rel=2e-3)
    fruit_kg = BERGAMOT.density / 0.36
    assert made.fresh_litre == pytest.approx(5.6 * fruit_kg, rel=1e-3)
    assert made.cost_litre == pytest.approx((5.6 * fruit_kg + 12 * sum(made.acids_g.values()) / 1000) / 4, rel=1e-3)


def test_oil_is_held_to_its_limit_by_less_peel_and_a_blend_draws_more():
    rested, blended = (stretch(BERGAMOT, StretchInputs(1000, 4, school=school, peel_g=100)) for school in ("rest", "blend"))
    assert blended.oil_mg_l.value > rested.oil_mg_l.value
    held = stretch(BERGAMOT, StretchInputs(1000, 4, peel_g=600))
    assert held.oil_mg_l.value == pytest.approx(600)
    assert held.peel_g < 600
    assert "Peel held to" in " ".join(map(printed, held.remarks))


@pytest.mark.parametrize("key", varieties())
@pytest.mark.parametrize("school", ["rest", "blend"])
def test_a_stretch_becomes_a_spec_that_lands_on_its_acid(key, school):
    """Whatever the fruit and the school: the bottles hold what was stretched, to the acid and the litre, though the zest keeps some back."""
    of = variety(key)
    made = stretch(of, StretchInputs(1000, 4, school=school))
    known = read_materials(typical_materials(), (f"{key}_juice", f"{key}_zest", "water", *made.acids_g))
    spec = read_spec(stretched_spec(of, made, school, known))
    found = evaluate(spec, known)
    figures = found.figures[found.last]
    assert figures["acid_g_100ml"] == pytest.approx(made.acid_g_100ml, rel=2e-3)
    assert figures["volume_ml"] == pytest.approx(4000, rel=2e-3)
    assert found.flow.masses["zest"] == pytest.approx(made.peel_g, rel=1e-4)
    assert sum(found.flow.masses[acid] for acid in made.acids_g) > sum(made.acids_g.values()), "what the zest holds back is made up for"


@pytest.mark.parametrize(
    ("given_figures", "where"),
    [({"times": 1}, "times"), ({"times": 40}, "times"), ({"juice_ml": -1}, "juice_ml"), ({"target": 0.5}, "target")],
)
def test_a_stretch_that_cannot_be_is_refused(given_figures, where):
    figures = {"juice_ml": 1000, "times": 4, **given_figures}
    with pytest.raises(Refusal) as refused:
        stretch(BERGAMOT, StretchInputs(**figures))
    assert refused.value.where == where


def test_a_stretch_to_what_the_juice_brings_by_itself_takes_no_acid_and_is_refused():
    brings = BERGAMOT.juice.measured()["acid_g_100ml"] / 4
    assert sum(stretch(BERGAMOT, StretchInputs(1000, 4, target=math.nextafter(brings, 9.0))).acids_g.values()) < 1e-6
    with pytest.raises(Refusal, match="is on the wrong side"):
        stretch(BERGAMOT, StretchInputs(1000, 4, target=brings))


def test_mixers_at_equal_acid_and_at_equal_sugar():
    sours = [("fresh", 2.0, 5.0), ("stretched", 0.5, 5.0), ("cordial", 50.0, 2.5), ("soda", 0.0, 0.0)]
    assert [(item.name, item.dose_ml, item.sugar_g) for item in at_equal(sours, "acid", 1.25)] == [
        ("fresh", 25.0, 0.5),
        ("stretched", 25.0, 0.125),
        ("cordial", 50.0, 25.0),
    ]
    assert [(item.name, item.dose_ml) for item in at_equal(sours, "sugar", 0.5)] == [
        ("fresh", 25.0),
        ("stretched", 100.0),
        ("cordial", 1.0),
    ]


def test_oil_sugar_by_hand_and_by_both_schools():
    """100 g × 0.3 × (1 − e^(−18/6)) = 28.5 g drawn; by volume 100 g at 0.40 g/mL are 250 mL, so 211.3 g of sugar of 200 g to the cup of 236.6 mL at one to one."""
    made = oil_sugar(BERGAMOT, PeelJar(100, ratio=1.5, hours=18))
    assert made.drawn_g.value == pytest.approx(28.5, abs=0.05)
    assert made.sugar_g == 150
    assert made.dissolved_g + made.dry_g == pytest.approx(150)
    assert oil_sugar(BERGAMOT, PeelJar(100, measure="volume", ratio=1), peel_g_ml=0.4).sugar_g == pytest.approx(250 * 200 / 236.6)
    assert (
        oil_sugar(BERGAMOT, PeelJar(100, hours=6)).drawn_g.value
        < made.drawn_g.value
        < oil_sugar(BERGAMOT, PeelJar(100, warm_c=30)).drawn_g.value
    )
    assert oil_sugar(BERGAMOT, PeelJar(100, pressed=True)).pours_g.value > oil_sugar(BERGAMOT, PeelJar(100, pressed=False)).pours_g.value
    assert oil_sugar(BERGAMOT, PeelJar(100), drawn_g_g=Range(0.36, 0.34, 0.38)).drawn_g.value == pytest.approx(28.5 * 0.36 / 0.3, abs=0.1)
    with pytest.raises(Refusal, match="\u22123 g cannot be: from 0"):
        oil_sugar(BERGAMOT, PeelJar(-3))


def test_a_jar_teaches_its_draw_there_and_back():
    drawn = oil_sugar(BERGAMOT, PeelJar(100, hours=9, warm_c=25), drawn_g_g=Range.exact(0.34)).drawn_g.value
    assert draw_plateau(100, 100 - drawn, 9, 25) == pytest.approx(0.34)
    assert learned_plateau([]) is None
    assert 0.3 < learned_plateau([0.36]).value < learned_plateau([0.36] * 8).value <= 0.36
    with pytest.raises(Refusal, match="110 g of spent peel cannot be"):
        draw_plateau(100, 110, 9)


def test_quality_is_told_apart_from_safety_and_a_house_rule_wins():
    forms = {item.form: item for item in keeps()}
    assert forms["stretched"].quality_h.value > forms["fresh, strained fine"].quality_h.value > forms["fresh, with pulp"].quality_h.value
    assert forms["stretched"].safe_days == forms["fresh, with pulp"].safe_days == 3
    assert forms["frozen in portions"].safe_days is None
    own = {"classes": {"fresh_juice": {"days": 1, "at_most_c": 4, "words": "ours"}, "any": {"days": 7, "at_most_c": 5, "words": "any"}}}
    assert {item.form: item.safe_days for item in keeps(own)}["stretched"] == 1


def test_every_citrus_has_a_place_on_the_plate():
    assert {"lemon", "bergamot", "yuzu", "mandarin"} <= set(varieties())
    for of in varieties().values():
        assert 0 < of.juice_share.value < 0.7
        assert 0 < of.zest_share < of.peel_share
        assert all(found.low <= found.value <= found.high for found in of.plate().values())


def test_ways_to_clear_are_ranked_by_what_they_do_to_this_juice():
    apple = [way.verb for way in clear_ways(juice("apple_dessert_mixed_juice"), 1000)]
    assert apple[0] in ("enzyme", "milk_clarify", "egg_raft")
    assert apple.index("filter") > apple.index("enzyme")
    pear = {way.verb: way for way in clear_ways(juice("pear_juice"), 1000)}
    assert any("does not curdle milk" in printed(text) for text in pear["milk_clarify"].against)
    assert list(pear).index("milk_clarify") > list(pear).index("gelatin")
    assert pear["egg_raft"].allergens == ("egg",)
    doses = {"enzyme": 1.5, "egg_raft": 66.0, "agar": 2.0, "gelatin": 5.0, "milk_clarify": 200.0, "filter": 0.0, "settle": 0.0}
    assert {verb: way.dose_g for verb, way in pear.items()} == pytest.approx(doses)
    assert pear["egg_raft"].acid_g_100ml < juice("pear_juice").measured()["acid_g_100ml"]


def test_cold_slows_the_enzyme_and_what_is_missing_comes_last_with_what_to_do():
    warm, cold = ({way.verb: way for way in clear_ways(juice("bergamot_juice"), 1000, warm_c=c)}["enzyme"] for c in (45, 5))
    settles = 60.0
    assert cold.minutes.value - settles == pytest.approx(16 * (warm.minutes.value - settles), rel=1e-6)
    ways = clear_ways(juice("bergamot_juice"), 1000, missing=["pectin_enzyme", "agar"])
    assert {way.verb for way in ways[-2:]} == {"enzyme", "agar"}
    assert [way.missing for way in ways] == [False] * 5 + [True] * 2
    assert "egg raft, agar or gelatin" in printed(without(["pectin_enzyme"])[0])
    assert "lemon juice brings a trace" in printed(without(name for name in ("agar", "ascorbic_acid"))[1])
    with pytest.raises(Refusal, match="No way needs “gold leaf”"):
        clear_ways(juice("bergamot_juice"), 1000, missing=["gold leaf"])
    with pytest.raises(Refusal, match="60 °C kills the enzyme") as refused:
        clear_ways(juice("bergamot_juice"), 1000, warm_c=60)
    assert refused.value.where == "warm_c"
    assert any("dissolve 15 g in 135 g of water" in printed(text) for text in ways[-2].against + ways[-1].against)


def test_ways_to_make_it_stronger_keep_the_solids():
    ways = {way.verb: way for way in stronger_ways(juice("pear_juice"), 1000, 30)}
    have = juice("pear_juice").measured()["brix"]
    assert ways["reduce"].left_g.value == pytest.approx(1000 * have / 30, rel=0.01)
    assert all(way.brix == pytest.approx(30, abs=0.2) for way in ways.values())
    assert ways["freeze_drip"].left_g.value < ways["reduce"].left_g.value
    with pytest.raises(Refusal, match="8 °Bx is behind it already"):
        stronger_ways(juice("pear_juice"), 1000, 8)
    with pytest.raises(Refusal, match="White sugar is no juice"):
        clear_ways(juice("white_sugar"), 1000)
