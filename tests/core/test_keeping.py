"""Keeping: safety by what was shown, quality by the earliest rule, caps, the house's own dates, and what would make it keep longer."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.cordial import FORM, Batch, materials_of
from tests.core.kitchen import KNOWN, line, pour, worked
from ulsek.core.contents import Contents
from ulsek.core.keeping import FOREVER, Evidence, HouseDate, keeping, starting_rules, ways_to_keep_longer, with_house_date
from ulsek.core.materials import read_material
from ulsek.core.nest import material_of
from ulsek.core.properties.measure import PROPERTY
from ulsek.core.refusals import Refusal
from ulsek.core.run import fold
from ulsek.core.spec_file import read_spec

RICH = (pour(line("honey", 1000.0), line("water", 30.0)),)
"""Sucrose alone saturates at a water activity of 0.86: only richer things, honey among them, get under 0.85."""
SATURATED = (
    pour(line("water", 1000.0)),
    {"verb": "dissolve", "temperature_c": 75, "minutes": 10, "steam_g": 0, "lines": [line("white_sugar", 2050.0)]},
)


def kept(*steps, evidence=None):
    done = worked(*steps)
    if evidence:
        done.evidence = evidence
    return done.keeping


def test_without_anything_shown_the_class_decides_safety():
    juice = kept(pour(line("gooseberry_juice", 500.0), line("white_sugar", 400.0)))
    assert (juice.days, juice.safety.kind, juice.keeping_class) == (3, "class", "fresh_juice")
    assert "no barrier shown (Gooseberry juice)" in juice.safety.words
    assert kept(*RICH).days == 7, "seven days, however rich, until somebody reads it"


def test_a_reading_shows_the_water_activity_and_quality_then_decides():
    rich = kept(*RICH, evidence=Evidence({"brix_reading": 79.0}))
    assert rich.safety.kind == "barrier"
    assert "water activity of 0.85 or less, shown: 0." in rich.safety.words
    assert (rich.days, rich.quality.days) == (180, 180)
    for below in ((pour(line("water", 1000.0), line("white_sugar", 1000.0)),), SATURATED):
        thin = kept(*below, evidence=Evidence({"brix_reading": 66.0}))
        assert (thin.days, thin.safety.kind) == (7, "class"), "neither 50 nor 67 °Bx of sucrose is a barrier"


def test_a_predicted_ph_never_lengthens_and_an_unchecked_meter_does_not_either():
    sharp = (pour(line("water", 500.0), line("white_sugar", 400.0)), {"verb": "combine", "lines": [line("citric_acid", 20.0)]})
    assert worked(*sharp).deep(1, ["ph"])["ph"]["value"] < 2.5
    assert kept(*sharp).days == 7
    assert kept(*sharp, evidence=Evidence({"ph": 2.4})).days == 7
    shown = kept(*sharp, evidence=Evidence({"ph": 2.4}, meter_checked=True))
    assert shown.safety.days == FOREVER
    assert shown.days == 28, "quality: below 50 °Bx it may ferment"
    assert kept(*sharp, evidence=Evidence({"ph": 4.5}, meter_checked=True)).days == 7


def test_strength_and_cold_are_barriers_and_the_strongest_is_named():
    spirited = (pour(line("neutral_spirit_60", 500.0), line("water", 200.0), line("white_sugar", 200.0)),)
    assert kept(*spirited).days == 7
    by_label = kept(*spirited, evidence=Evidence(strength_by_label=True))
    assert by_label.days == 365
    assert "alcohol of 20 % vol or more" in by_label.safety.words
    frozen = kept(pour(line("gooseberry_juice", 500.0)), evidence=Evidence(frozen_c=-18.0))
    assert (frozen.days, frozen.at_most_c) == (7, -18.0)
    both = kept(*RICH, evidence=Evidence({"brix_reading": 79.0}, frozen_c=-20.0))
    assert "water activity" in both.safety.words


def test_fresh_citrus_is_a_matter_of_quality_within_a_day():
    fresh = kept(pour(line("lemon_juice", 500.0)))
    assert (fresh.days, fresh.quality.days, fresh.safety.days) == (1, 1, 3)
    assert fresh.because == fresh.quality.words


def test_a_component_caps_its_product():
    milk = material_of(worked(pour(line("hazelnuts", 100.0), line("water", 300.0)), {"verb": "blend", "vented": True}))
    assert milk["keeps_days"] == 3
    outer = worked(pour(line("nut_milk", 100.0), line("neutral_spirit_60", 500.0)), nut_milk={**milk, "keeping_class": None})
    outer.evidence = Evidence(strength_by_label=True)
    assert outer.keeping.days == 3
    assert "keeps no longer itself" in outer.keeping.because


def test_opened_counts_anew_and_never_past_the_first_date():
    found = kept(*RICH, evidence=Evidence({"brix_reading": 79.0}))
    made, opened = date(2026, 3, 2), date(2026, 3, 10)
    assert found.use_by(made) == date(2026, 8, 28)
    assert found.use_by_opened(made, opened) == date(2026, 3, 23)
    assert kept(pour(line("gooseberry_juice", 500.0))).use_by_opened(made, opened) == date(2026, 3, 4)


def test_the_house_may_shorten_anything_and_lengthen_with_reasons():
    found = kept(pour(line("gooseberry_juice", 500.0), line("white_sugar", 400.0)))
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


def test_acid_keeps_it_safe_in_the_cold_and_only_dry_or_strong_things_stand_at_the_shelf():
    sharp = kept(pour(line("water", 500.0), line("citric_acid", 20.0)), evidence=Evidence({"ph": 2.4}, meter_checked=True))
    rich = kept(*RICH, evidence=Evidence({"brix_reading": 79.0}))
    strong = kept(pour(line("neutral_spirit_60", 500.0)), evidence=Evidence(strength_by_label=True))
    assert (sharp.at_most_c, rich.at_most_c, strong.at_most_c) == (5, 20, 20)


@given(days=st.integers(1, 400), of=st.sampled_from(["safety", "quality"]))
def test_a_house_without_evidence_never_gets_past_the_safety_date(days, of):
    found = kept(pour(line("gooseberry_juice", 500.0), line("white_sugar", 400.0)))
    try:
        assert with_house_date(found, HouseDate(of, days, "Ilse M.", "so")).days <= found.safety.days
    except Refusal as refusal:
        assert refusal.code == "no_evidence"


def test_ways_to_keep_longer_reach_their_barrier_and_name_its_condition():
    cordial = Contents({"water": 600.0, "sucrose": 350.0, "citric_acid": 4.0, "potassium": 1.5})
    ways = {way.barrier: way for way in ways_to_keep_longer(cordial)}
    assert PROPERTY["water_activity"](cordial + Contents({"sucrose": ways["water_activity"].mass_g})) == pytest.approx(0.85, abs=1e-6)
    assert "stay dissolved at 4 °C" in ways["water_activity"].words, "so much sugar does not stay dissolved"
    assert "read it on a meter checked in its buffers" in ways["ph"].condition
    spirit = ways["abv"].mass_g
    strong = cordial + Contents({"water": 0.667 * spirit, "ethanol": 0.333 * spirit})
    assert PROPERTY["abv"](strong) == pytest.approx(20.0, abs=1e-6)
    assert ways["frozen"].condition.startswith("The class's days count again from the thaw")


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
    for rule in (*rules["classes"].values(), *rules["barriers"].values(), *rules["quality"]):
        assert rule["source"]
        assert rule["sure"] in ("low", "fair", "good")
    own = {**rules, "classes": {**rules["classes"], "any": {**rules["classes"]["any"], "days": 4}}}
    assert keeping(worked(pour(line("water", 10.0))).used, own).days == 4
    with pytest.raises(Refusal, match="No keeping rule for “moon”"):
        keeping([read_material("moon", {**KNOWN["water"], "keeping_class": "moon"})], rules)
