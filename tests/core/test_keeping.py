"""Keeping: safety by what was shown, quality by the earliest rule, caps, the house's own dates, and what would make it keep longer."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.cordial import FORM, Batch, materials_of
from tests.core.kitchen import KNOWN, line, pour, worked
from ulsek.core.advice.sub_recipes import material_of
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.materials.material import read_material
from ulsek.core.properties.measure import PROPERTY
from ulsek.core.run.fold import fold
from ulsek.core.safety.barriers import Evidence
from ulsek.core.safety.longer_shelf_life import ways_to_keep_longer
from ulsek.core.safety.shelf_life import HouseDate, keeping, with_house_date
from ulsek.core.safety.shelf_life_rules import FOREVER, starting_rules
from ulsek.core.spec.json_form import read_spec

RICH = (pour(line("honey", 1000.0), line("water", 30.0)),)
"""Sucrose alone saturates at a water activity of 0.86: only richer things, honey among them, get under 0.85."""


def kept(*steps, evidence=None):
    done = worked(*steps)
    if evidence:
        done.evidence = evidence
    return done.keeping


def test_without_anything_shown_the_class_decides_safety():
    juice = kept(pour(line("gooseberry_juice", 500.0), line("water", 100.0)))
    assert (juice.days, juice.safety.kind, juice.keeping_class) == (3, "class", "fresh_juice")
    assert "no barrier shown (Gooseberry juice)" in printed(juice.safety.words)
    assert kept(*RICH).days == 7, "honey is no defined substance: seven days, however rich, until somebody reads it"


def test_a_reading_shows_the_water_activity_and_quality_then_decides():
    rich = kept(*RICH, evidence=Evidence({"brix_reading": 80.3}))
    assert rich.safety.kind == "barrier"
    assert "water activity below 0.88, at any pH, shown: water activity 0." in printed(rich.safety.words)
    assert "by the °Bx that was read, at most" in printed(rich.safety.words)
    assert (rich.days, rich.quality.days) == (180, 180)
    thin = kept(pour(line("water", 1000.0), line("white_sugar", 1000.0)), evidence=Evidence({"brix_reading": 50.0}))
    assert (thin.days, thin.safety.kind) == (7, "class"), "50 °Bx of sucrose is no barrier"


def test_a_predicted_ph_of_fruit_never_lengthens_and_an_unchecked_meter_does_not_either():
    sharp = (pour(line("gooseberry_juice", 500.0), line("white_sugar", 200.0)), {"verb": "combine", "lines": [line("citric_acid", 15.0)]})
    ph = worked(*sharp).deep(1, ["ph"])["ph"].value
    assert ph < 3.0
    short = kept(*sharp).days
    assert kept(*sharp, evidence=Evidence({"ph": ph})).days == short
    shown = kept(*sharp, evidence=Evidence({"ph": ph}, meter_checked=True))
    assert (shown.safety.kind, shown.safety.days) == ("barrier", FOREVER)
    assert shown.days == 28, "quality: below 50 °Bx it may ferment"


def test_strength_and_cold_are_barriers_and_the_strongest_is_named():
    spirited = (pour(line("neutral_spirit_60", 500.0), line("damson_juice", 600.0), line("white_sugar", 200.0)),)
    strong = kept(*spirited)
    assert strong.days == 90, "spirit's strength is by label and weight"
    assert "alcohol of 20 % vol or more, shown: alcohol" in printed(strong.safety.words)
    weak = kept(pour(line("neutral_spirit_60", 100.0), line("damson_juice", 900.0)))
    assert (weak.safety.kind, weak.days) == ("class", 3), "under a strength that keeps it is juice"
    frozen = kept(pour(line("gooseberry_juice", 500.0)), evidence=Evidence(frozen_c=-18.0))
    assert (frozen.days, frozen.at_most_c) == (7, -18.0)
    both = kept(*RICH, evidence=Evidence({"brix_reading": 80.3}, frozen_c=-20.0))
    assert "water activity" in printed(both.safety.words)


def test_fresh_citrus_is_a_matter_of_quality_within_a_day():
    fresh = kept(pour(line("lemon_juice", 500.0)))
    assert (fresh.days, fresh.quality.days, fresh.safety.days) == (1, 1, 3)
    assert fresh.because == fresh.quality.words


def nut_milk(days=3):
    made = material_of(worked(pour(line("hazelnuts", 100.0), line("water", 300.0)), {"verb": "blend", "vented": True}))
    assert made["keeps_days"] == 3
    return {**made, "keeping_class": None, "keeps_days": days}


def test_a_component_caps_what_it_is_mixed_into_unheated_and_not_past_what_makes_a_new_class():
    into = [line("nut_milk", 100.0), line("water", 500.0)]
    cold = worked(pour(*into), nut_milk=nut_milk()).keeping
    assert (cold.days, printed(cold.because)) == (3, "bench keeps no longer itself")
    boiled = worked(pour(*into), {"verb": "simmer", "minutes": 5}, nut_milk=nut_milk()).keeping
    assert boiled.days == 7, "cooked through after it went in, its own date is over"
    late = worked(pour(into[1]), {"verb": "simmer", "minutes": 5}, {"verb": "combine", "lines": [into[0]]}, nut_milk=nut_milk()).keeping
    assert late.days == 3, "it never saw the heat"
    strong = worked(pour(line("nut_milk", 100.0), line("neutral_spirit_60", 500.0)), nut_milk=nut_milk()).keeping
    assert strong.days == 365, "twenty percent and more is a barrier of its own"


def test_the_own_last_day_of_a_lot_is_the_last_of_what_it_is_mixed_into():
    into = [line("nut_milk", 100.0), line("water", 500.0)]
    found = worked(pour(*into), nut_milk={**nut_milk(30), "use_by": "2026-03-04"}).keeping
    last, why = found.dated(date(2026, 3, 1))
    assert (last, printed(why)) == (date(2026, 3, 4), "bench is to be used by 04 Mar.")
    assert found.dated(date(2026, 2, 20))[0] == date(2026, 2, 26), "seven days are over before"


def test_the_house_may_shorten_anything_and_lengthen_with_reasons():
    found = kept(pour(line("gooseberry_juice", 500.0), line("white_sugar", 180.0)))
    assert with_house_date(found, HouseDate("safety", 2, "", "")).days == 2
    longer = with_house_date(found, HouseDate("quality", 60, "Ilse M.", "tasted at sixty days"))
    assert (longer.quality.days, longer.days) == (60, 3), "safety still decides"
    with pytest.raises(Refusal, match="A longer date needs a name and a reason"):
        with_house_date(found, HouseDate("quality", 60, "", "tasted"))
    with pytest.raises(
        Refusal,
        match="A longer safety date needs evidence: nothing that bears on safety has been shown, and 3 days is the date for its class",
    ):
        with_house_date(found, HouseDate("safety", 10, "Ilse M.", "we always did"))
    assert with_house_date(found, HouseDate("safety", 10, "Ilse M.", "approved plan", authority="letter of 2 March")).days == 10
    with pytest.raises(Refusal, match="whole days from 1"):
        with_house_date(found, HouseDate("safety", 0, "Ilse M.", "x"))


@pytest.mark.parametrize(
    ("evidence", "enough"),
    [
        (Evidence({"brix_reading": 48.0}), False),
        (Evidence({"ph": 3.1}), False),
        (Evidence({"ph": 3.1}, meter_checked=True), True),
        (Evidence({"water_activity": 0.9}), True),
        (Evidence(frozen_c=-18.0), True),
    ],
)
def test_only_what_bears_on_safety_lengthens_a_safety_date(evidence, enough):
    found = kept(pour(line("gooseberry_juice", 500.0), line("white_sugar", 400.0)))
    said = HouseDate("safety", 10, "Ilse M.", "our own trials")
    if enough:
        assert with_house_date(found, said, evidence).safety.days == 10
    else:
        with pytest.raises(Refusal, match="nothing that bears on safety has been shown"):
            with_house_date(found, said, evidence)


def test_acid_keeps_fruit_safe_in_the_cold_and_dry_strong_or_barren_things_stand_at_the_shelf():
    sharp = worked(pour(line("gooseberry_juice", 500.0), line("citric_acid", 10.0)))
    sour = sharp.kept(Evidence({"ph": sharp.deep(0, ["ph"])["ph"].value}, meter_checked=True))
    rich = kept(*RICH, evidence=Evidence({"brix_reading": 80.3}))
    strong = kept(pour(line("neutral_spirit_60", 500.0)))
    stock = kept(pour(line("water", 900.0), line("citric_acid", 60.0)))
    assert (sour.at_most_c, rich.at_most_c, strong.at_most_c, stock.at_most_c) == (5, 20, 20, 20)


@given(days=st.integers(1, 400), of=st.sampled_from(["safety", "quality"]))
def test_a_house_without_evidence_never_gets_past_the_safety_date(days, of):
    found = kept(pour(line("gooseberry_juice", 500.0), line("white_sugar", 400.0)))
    try:
        assert with_house_date(found, HouseDate(of, days, "Ilse M.", "so")).days <= found.safety.days
    except Refusal as refusal:
        assert refusal.code == "no_evidence"


def test_ways_to_keep_longer_reach_their_barrier_and_name_its_condition():
    cordial = Contents({"water": 600.0, "sucrose": 350.0, "citric_acid": 4.0, "potassium": 1.5})
    assert PROPERTY["water_activity"](cordial) > 0.95
    ways = {way.barrier: way for way in ways_to_keep_longer(cordial)}
    assert PROPERTY["water_activity"](cordial + Contents({"sucrose": ways["water_activity"].mass_g})) == pytest.approx(0.88, abs=1e-6)
    stricter = starting_rules() | {"barriers": starting_rules()["barriers"] | {"water_activity": {"aw_below": 0.85}}}
    (drier,) = [way for way in ways_to_keep_longer(cordial, stricter) if way.barrier == "water_activity"]
    assert "stay dissolved at 4 °C" in printed(drier.words), "so much sugar does not stay dissolved"
    assert "read it on a meter checked in its buffers" in printed(ways["ph"].condition)
    spirit = ways["abv"].mass_g
    strong = cordial + Contents({"water": 0.667 * spirit, "ethanol": 0.333 * spirit})
    assert PROPERTY["abv"](strong) == pytest.approx(20.0, abs=1e-6)
    assert printed(ways["frozen"].condition).startswith("The class's days count again from the thaw")


def test_a_run_shows_its_own_evidence():
    spec = read_spec(FORM)
    materials = materials_of(spec)
    batch = Batch()
    batch.does("started", factor=1.0)
    for name, step, grams in (("juice", "s1", 1000), ("sugar", "s2", 519), ("malic", "s3", 2.0)):
        batch.does("weighed", line=name, mass_g=grams)
        batch.does("step_done", step=step)
    assert fold(spec, materials, batch.events).evaluation.keeping.safety.kind == "class"
    batch.does("read", property="ph", value=2.9)
    assert fold(spec, materials, batch.events).evaluation.keeping.safety.kind == "class", "the meter was not checked"
    batch.does("read", property="ph", value=2.9, checked=True)
    shown = fold(spec, materials, batch.events).evaluation.keeping
    assert shown.safety.kind == "barrier"
    assert shown.days == 28


def half_made(*after):
    """A cordial whose juice was weighed, then what is asked; the sugar and acid that follow are still to come unless they are among it."""
    spec = read_spec(FORM)
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("step_done", step="s1")
    for kind, body in after:
        batch.does(kind, **body)
    return fold(spec, materials_of(spec), batch.events).evaluation


FINISHED = [
    ("weighed", {"line": "sugar", "mass_g": 519}),
    ("step_done", {"step": "s2"}),
    ("weighed", {"line": "malic", "mass_g": 2.0}),
    ("step_done", {"step": "s3"}),
]
PH = ("read", {"property": "ph", "value": 2.9, "checked": True})


@pytest.mark.parametrize(
    ("after", "shown", "why"),
    [
        ([*FINISHED, PH], True, "the finished cordial, on a checked meter"),
        ([PH, *FINISHED], False, "the raw juice is another liquid"),
        ([*FINISHED, PH, ("read", {"property": "ph", "value": 4.0})], False, "the newest pH was read on a meter that nobody checked"),
        ([*FINISHED, ("read", {"property": "ph", "value": 4.6}), PH], True, "the newest pH counts"),
        ([*FINISHED, PH, ("step_done", {"step": "s4"})], True, "cooling changes nothing in it"),
    ],
    ids=lambda value: value if isinstance(value, str) else "",
)
def test_evidence_is_of_the_product_and_of_a_checked_meter(after, shown, why):
    assert (half_made(*after).keeping.safety.kind == "barrier") is shown, why


def test_a_reading_before_anything_is_in_the_vessel_shows_nothing():
    spec = read_spec(FORM)
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("read", property="ph", value=2.9, checked=True)
    assert fold(spec, materials_of(spec), batch.events).evaluation.keeping.safety.kind == "class"


def test_rules_are_dated_sourced_data_that_a_house_may_replace():
    rules = starting_rules()
    assert rules["dated"]
    assert "ask your authority" in rules["say"]
    rows = (*rules["classes"].values(), *rules["made_classes"].values(), *rules["barriers"].values(), *rules["quality"])
    for rule in (*rows, rules["weighed"], rules["heated_through"], rules["warm"]):
        assert rule["source"]
        assert rule["sure"] in ("low", "fair", "good")
    for rule in rules["made_classes"].values():
        assert rule["days"] <= rules["classes"]["any"]["days"], "the food code's seven days bound what nobody has shown"
        assert rule["dated"]
    own = {**rules, "classes": {**rules["classes"], "any": {**rules["classes"]["any"], "days": 4}}}
    assert keeping(worked(pour(line("honey", 10.0))).used, own).days == 4
    with pytest.raises(Refusal, match="No keeping rule for “moon”"):
        keeping([read_material("moon", {**KNOWN["water"], "keeping_class": "moon"})], rules)
