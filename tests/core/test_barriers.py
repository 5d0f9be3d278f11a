"""What is shown of a product: by reading, by weighing, not by hope; the food code's tables; and one spec through every kind of evidence."""

from datetime import date

import pytest

from tests.core.cordial import Batch
from tests.core.kitchen import KNOWN, known, line, pour, worked
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.properties.sugar import brix, brix_reading
from ulsek.core.properties.water import water_activity
from ulsek.core.release.release_check import release_check
from ulsek.core.run.dates import counted_from, dated
from ulsek.core.run.fold import fold
from ulsek.core.run.run_result import run_result
from ulsek.core.safety.barriers import Evidence, HotFill, Predicted, barriers_shown, saturated, thinned_to
from ulsek.core.safety.house_rules import read_rules, shipped
from ulsek.core.safety.shelf_life_rules import starting_rules
from ulsek.core.spec.json_form import read_spec


def named(evidence, predicted=None, rules=None):
    return [name for name, _ in barriers_shown(evidence, predicted or Predicted(), rules or starting_rules())]


@pytest.mark.parametrize(
    ("aw", "ph", "rows"),
    [
        (0.879, None, ["water_activity"]),
        (0.88, None, []),
        (0.89, 4.8, ["water_activity_at_5_0"]),
        (0.90, 5.0, ["water_activity_at_5_0"]),
        (0.90, 5.01, []),
        (0.91, 4.8, []),
        (0.92, 4.6, ["water_activity_at_4_6"]),
        (0.93, 4.6, []),
        (0.97, 4.2, []),
        (0.97, 4.19, ["ph"]),
    ],
)
def test_the_rows_of_table_b_each_with_its_bounds(aw, ph, rows):
    read = {"water_activity": aw} | ({"ph": ph} if ph is not None else {})
    assert named(Evidence(read, meter_checked=True)) == rows
    assert "ph" not in named(Evidence(read)), "a meter that nobody checked shows no pH"


PLAN = {
    "fill_c": 88,
    "hold_min": 2,
    "most_ph": 4.0,
    "days": 90,
    "cap": "new caps",
    "glass": "made for heat",
    "authority": "letter of 2 March",
}
WITH_PLAN = {"format": "ulsek.rules", "version": 1, "procedures": {"hot cordial": {**PLAN, "source": "our plan", "dated": "2026-03-02"}}}


def test_hot_filling_counts_only_as_an_approved_procedure_that_was_kept():
    rules = read_rules(WITH_PLAN).keeping
    sour = {"ph": 3.9}
    filled = HotFill("hot cordial", 88.5, 2.5)
    (name, reason) = barriers_shown(Evidence(sour, meter_checked=True, hot_fill=filled), Predicted(), rules)[-1]
    assert (name, reason.days) == ("hot_filled_sour", 90)
    assert printed(reason.words).endswith("hot cordial, letter of 2 March")
    warm = {"ph": 4.0, "water_activity": 0.94}
    assert named(Evidence(warm, meter_checked=True, hot_fill=filled), rules=rules) == ["ph", "hot_filled_at_5_6", "hot_filled_sour"]
    for lacking in (
        Evidence({"ph": 4.3}, meter_checked=True, hot_fill=filled),
        Evidence(sour, hot_fill=filled),
        Evidence(sour, meter_checked=True, hot_fill=HotFill("hot cordial", 87.0, 2.5)),
        Evidence(sour, meter_checked=True, hot_fill=HotFill("hot cordial", 88.5, 1.0)),
        Evidence(sour, meter_checked=True, hot_fill=HotFill("another", 95.0, 9.0)),
    ):
        assert not [name for name in named(lacking, rules=rules) if name.startswith("hot_filled")], lacking
    assert not starting_rules()["procedures"], "no procedure ships"
    with pytest.raises(Refusal, match="“authority” is missing"):
        read_rules({**WITH_PLAN, "procedures": {"x": {**WITH_PLAN["procedures"]["hot cordial"], "authority": ""}}})


def test_a_house_that_tightened_a_barrier_before_the_tables_tightens_their_rows_too():
    entry = {"source": "house", "dated": "2026-01-02"}
    rules = read_rules(
        {"format": "ulsek.rules", "version": 1, "barriers": {"water_activity": {"most": 0.85, **entry}, "ph": {"most": 4.0, **entry}}}
    )
    assert named(Evidence({"water_activity": 0.86}), rules=rules.keeping) == []
    assert named(Evidence({"water_activity": 0.89, "ph": 4.8}, meter_checked=True), rules=rules.keeping) == []
    assert named(Evidence({"ph": 4.1}, meter_checked=True), rules=rules.keeping) == []
    assert named(Evidence({"ph": 4.1}, meter_checked=True)) == ["ph"]


def test_the_read_liquid_by_hand():
    syrup = Contents({"water": 500.0, "sucrose": 500.0})
    thin = thinned_to(syrup, 40.0)
    assert thin.mass_g == pytest.approx(1250.0, abs=1e-5)
    assert brix_reading(thin) == pytest.approx(40.0)
    over = saturated(Contents({"water": 200.0, "sucrose": 800.0}))
    assert brix(over) == pytest.approx(66.6, abs=0.05)
    assert water_activity(over) > 0.85


SYRUP = (
    pour(line("water", 1000.0)),
    {"verb": "dissolve", "temperature_c": 75, "minutes": 10, "steam_g": 0, "lines": [line("white_sugar", 2000.0)]},
)


def test_a_weighed_syrup_is_shown_by_weighing_and_never_drier_than_saturation():
    two_to_one = worked(*SYRUP).keeping
    assert (two_to_one.safety.kind, two_to_one.days, two_to_one.at_most_c) == ("barrier", 180, 20)
    assert "water activity below 0.88, at any pH, shown: water activity 0.864, by weighing, at most" in printed(two_to_one.safety.words)
    crammed = worked(SYRUP[0], {**SYRUP[1], "lines": [line("white_sugar", 4000.0)]}).keeping
    assert "water activity 0.864, by weighing" in printed(crammed.safety.words), "80 °Bx is saturated syrup over crystals"
    one_to_one = worked(pour(line("water", 1000.0), line("white_sugar", 1000.0))).keeping
    assert (one_to_one.safety.kind, one_to_one.days) == ("class", 7), "0.93 is no barrier, however exactly it was weighed"


def test_one_cup_of_powder_or_one_leaf_and_weighing_shows_nothing():
    cup = {**line("white_sugar"), "amount": {"kind": "fixed", "volume_ml": 2350}}
    assert worked(SYRUP[0], {**SYRUP[1], "lines": [cup]}).keeping.safety.kind == "class"
    millilitres = {**line("water"), "amount": {"kind": "fixed", "volume_ml": 1000}}
    assert worked({**SYRUP[0], "lines": [millilitres]}, SYRUP[1]).keeping.safety.kind == "barrier", "water by the jug is known well enough"
    assert worked(*SYRUP, {"verb": "steep", "lines": [line("mallow_flowers", 5.0)]}, {"verb": "strain"}).keeping.safety.kind == "class"


@pytest.mark.parametrize(
    ("grams", "days", "words"),
    [
        (250.0, 180, "nothing grows in acid of this strength"),
        (60.0, 60, "thin acid can still mould"),
    ],
)
def test_a_weighed_acid_stock_keeps_and_says_what_can_still_happen_to_it(grams, days, words):
    stock = worked(pour(line("water", 1000.0), line("citric_acid", grams))).keeping
    assert "pH below 4.2, shown: pH " in printed(stock.safety.words)
    assert "by weighing, at most" in printed(stock.safety.words)
    assert (stock.days, stock.at_most_c) == (days, 20)
    assert words in printed(stock.quality.words)
    assert not any("ferment" in printed(reason.words) for reason in stock.reasons if "nothing in it ferments" not in printed(reason.words))
    assert worked(pour(line("water", 1000.0), line("citric_acid", 0.002))).keeping.days == 7, "hardly any acid shows nothing"


# One spec through every kind of evidence.

FRUIT = [line("gooseberries", 800.0), line("water", 400.0), line("white_sugar", 500.0)]
RAW = (pour(*FRUIT), {"verb": "strain"})
BOILED = (pour(*FRUIT), {"verb": "simmer", "minutes": 15}, {"verb": "strain"}, {"verb": "cool", "to_c": 4, "minutes": 60})


def test_dates_move_only_with_evidence_and_by_the_rule_that_is_named():
    raw, boiled = worked(*RAW), worked(*BOILED)
    assert (raw.keeping.days, raw.keeping.counts_from) == (5, "the mixing")
    assert (boiled.keeping.days, boiled.keeping.keeping_class, boiled.keeping.counts_from) == (7, "boiled_syrup", "the cool-down")
    assert "heated through" in printed(boiled.keeping.because)
    last = len(boiled.figures) - 1
    brix_, ph = boiled.figures[last]["brix_reading"], boiled.deep(last, ["ph"])["ph"].value
    assert boiled.kept(Evidence({"brix_reading": brix_})).days == 7, "its °Bx is no barrier"
    assert boiled.kept(Evidence({"ph": ph})).days == 7, "the meter was not checked"
    read = boiled.kept(Evidence({"ph": ph}, meter_checked=True))
    assert (read.days, printed(read.safety.words)[:12], read.quality.days) == (28, "pH below 4.2", 28)
    wrong = boiled.kept(Evidence({"ph": ph + 1.2, "brix_reading": 10.0}, meter_checked=True))
    assert wrong.days == 7
    assert [words.split(" read")[0].replace("\u00a0", " ") for words in map(printed, wrong.not_shown)] == [f"pH {ph + 1.2:.2f}", "10.0 °Bx"]
    both = boiled.kept(Evidence({"ph": ph, "brix_reading": 10.0}, meter_checked=True))
    assert both.days == 28, "a pH that agrees was read, whatever the other glass showed"
    assert len(both.not_shown) == 1


def test_a_reading_that_contradicts_it_takes_back_what_was_weighed():
    syrup = worked(*SYRUP)
    assert syrup.kept(Evidence({"brix_reading": 66.7})).days == 180
    lied = syrup.kept(Evidence({"brix_reading": 10.0}))
    assert (lied.days, lied.safety.kind) == (7, "class")
    assert "10.0 °Bx read, 66.6 °Bx ± 0.0 predicted: they disagree, so nothing is shown." in printed(lied.not_shown[0]).replace(
        "\u00a0", " "
    )
    assert not barriers_shown(
        Evidence({"brix_reading": 10.0}, disagreeing={"brix_reading": "no"}), Predicted(weighed=True), shipped().keeping
    )


def spec_of(*steps):
    data = {"format": "ulsek.spec", "version": 1, "name": "run", "vessels": [{"id": "pot"}]}
    return read_spec({**data, "steps": [{"id": f"s{n}", **step, "vessel": "pot"} for n, step in enumerate(steps)]})


def made(spec, *more, lines=(("water", 1000.0), ("white_sugar", 2000.0)), skip=()):
    batch = Batch()
    batch.does("started", factor=1.0)
    for key, grams in lines:
        batch.does("weighed", line=key, mass_g=grams)
    for step in spec.steps:
        batch.does("step_skipped" if step.id in skip else "step_done", step=step.id)
    for kind, body in more:
        batch.does(kind, **body)
    return fold(spec, known(spec), batch.events)


def test_a_run_is_shown_by_what_it_weighed_until_a_reading_says_otherwise():
    spec = spec_of(*SYRUP)
    assert made(spec).evaluation.keeping.days == 180
    wrong = made(spec, ("read", {"property": "brix_reading", "value": 50.0}))
    assert wrong.evaluation.keeping.days == 7
    assert "they disagree" in printed(wrong.evaluation.keeping.not_shown[0])
    again = made(spec, ("read", {"property": "brix_reading", "value": 50.0}), ("read", {"property": "brix_reading", "value": 66.6}))
    assert again.evaluation.keeping.days == 180, "the newest reading counts"
    cups = made(spec, ("measured", {"line": "white_sugar", "volume_ml": 2350.0}))
    assert cups.evaluation.keeping.safety.kind == "class", "measured by the cup, the sugar was not weighed"
    sour = made(spec, ("read", {"property": "ph", "value": 3.0, "checked": True}))
    assert not sour.readings[-1].agrees, "nothing in sugar and water is that sour"
    assert sour.evaluation.keeping.safety.kind == "class"


def test_a_boil_that_was_skipped_heats_nothing():
    spec = spec_of(*({**step, "vessel": "pot"} for step in BOILED))
    lines = [("gooseberries", 800.0), ("water", 400.0), ("white_sugar", 500.0)]
    assert made(spec, lines=lines).evaluation.keeping.keeping_class == "boiled_syrup"
    skipped = made(spec, lines=lines, skip=("s1",))
    assert (skipped.evaluation.keeping.keeping_class, skipped.evaluation.keeping.counts_from) == ("fresh_juice", "the mixing")


def test_keeping_counts_from_the_mixing_where_nothing_was_heated():
    spec = spec_of(pour(line("water", 500.0)), pour(line("gooseberry_juice", 500.0)))
    state = made(spec, lines=[("water", 500.0), ("gooseberry_juice", 500.0)])
    assert counted_from(state) == (state.events[2].at, True), "when the juice went in"
    hot = spec_of(pour(line("water", 500.0), line("gooseberry_juice", 500.0)), {"verb": "simmer", "minutes": 5})
    state = made(hot, lines=[("water", 500.0), ("gooseberry_juice", 500.0)])
    assert counted_from(state) == (state.events[0].at, False), "no cooling was logged: from the start"


def test_hot_filling_in_a_run_needs_its_thermometer():
    steps = (pour(*FRUIT), {"verb": "simmer", "minutes": 15}, {"verb": "strain"}, {"verb": "hot_fill", "procedure": "hot cordial"})
    spec, rules = spec_of(*steps), read_rules(WITH_PLAN)
    predicted = evaluate(spec, known(spec))
    batch = Batch()
    batch.does("started", factor=1.0)
    for item in FRUIT:
        batch.does("weighed", line=item["id"], mass_g=item["amount"]["mass_g"])
    for step in ("s0", "s1", "s2"):
        batch.does("step_done", step=step)
    batch.does("read", property="ph", value=round(predicted.deep(2, ["ph"])["ph"].value, 2), checked=True)
    batch.does("step_begun", step="s3")
    batch.does("read", property="temperature_c", value=91.0, step="s3")
    assert not [r for r in fold(spec, known(spec), batch.events, rules).evaluation.keeping.reasons if "filled hot" in printed(r.words)]
    batch.does("noted", text="held")
    batch.does("read", property="temperature_c", value=89.0, step="s3")
    batch.does("step_done", step="s3")
    kept = fold(spec, known(spec), batch.events, rules).evaluation.keeping
    assert [reason.days for reason in kept.reasons if "filled hot by an approved procedure" in printed(reason.words)] == [90]


@pytest.mark.parametrize(
    ("steps", "warm_h", "severity"),
    [
        (
            (pour(line("bergamot_peel", 200.0), line("white_sugar", 200.0)), {"verb": "macerate", "minutes": 2880, "temperature_c": 20}),
            48,
            "check",
        ),
        ((pour(line("gooseberry_juice", 500.0)), {"verb": "rest", "minutes": 2880, "temperature_c": 4}), 0, None),
        ((pour(line("damson", 500.0), line("neutral_spirit_60", 900.0)), {"verb": "infuse", "minutes": 4320}), 0, None),
        ((pour(line("water", 500.0), line("citric_acid", 50.0)), {"verb": "rest", "minutes": 2880, "temperature_c": 20}), 0, None),
        ((pour(line("water", 500.0), line("black_tea", 9.0)), {"verb": "rest", "minutes": 180, "temperature_c": 20}), 3, None),
    ],
)
def test_hours_in_the_warm_count_and_are_said(steps, warm_h, severity):
    done = worked(*steps)
    assert round(done.keeping.warm_h) == warm_h
    assert [remark.severity for remark in release_check(done) if remark.code == "stood_warm"] == ([severity] if severity else [])


def test_days_in_the_warm_before_a_boil_are_days_less_after_it():
    steep = {"verb": "rest", "minutes": 3000, "temperature_c": 20}
    kept = worked(pour(*FRUIT), steep, *BOILED[1:]).keeping
    assert kept.days == worked(*BOILED).keeping.days - 2
    assert "2 days of it stood warm before" in printed(kept.because)


def test_both_parts_of_what_was_drawn_off_have_its_history_and_a_vessel_that_was_poured_out_has_none():
    halved = worked(*BOILED, {"verb": "split", "share": 0.5, "into": "jug"})
    boiled, (pot, jug) = halved.histories[-2]["vessel:pot"], halved.histories[-1].values()
    assert pot == jug
    assert (pot.heated_c, pot.hottest_c) == (boiled.heated_c, boiled.hottest_c)
    poured = worked(*BOILED, {"verb": "strain", "into": "jug"})
    assert set(poured.histories[-1]) == {"vessel:jug"}
    assert poured.histories[-1]["vessel:jug"].hottest_c == boiled.hottest_c


def test_what_is_out_of_date_before_it_is_ready_stops_the_check():
    def stops(days):
        done = worked(*RAW, {"verb": "rest", "minutes": 1440 * days, "temperature_c": 4})
        return [remark.where for remark in release_check(done) if remark.code == "turns_before_ready" and remark.severity == "stop"]

    assert stops(2) == []
    assert stops(6) == ["steps/s2"]
    spirited = worked(pour(line("damson", 500.0), line("neutral_spirit_60", 900.0)), {"verb": "infuse", "minutes": 1440 * 30})
    assert not [remark for remark in release_check(spirited) if remark.code == "turns_before_ready"]


@pytest.mark.parametrize(("last", "past"), [("2026-03-01", True), ("2026-03-02", False)])
def test_what_goes_in_past_its_last_day_turns_the_batch(last, past):
    spec = spec_of(pour(line("base", 500.0), line("water", 500.0)))
    base = {**KNOWN["gooseberry_juice"], "name": "Base", "use_by": last}
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("weighed", line="base", mass_g=500.0)
    state = fold(spec, read_materials({**KNOWN, "base": base}, spec.material_keys), batch.events)
    told = "Base was to be used by 01 Mar, and went in on 02 Mar. Throw the batch away, or ask your lead."
    assert [printed(words) for words in run_result(state).conflicts] == ([told] if past else [])
    used_by = dated(state, state.evaluation.keeping, date(2026, 3, 2))[0]
    assert used_by == date(2026, 3, 1 if past else 2)
    batch.does("wrong_jar", line="base", material="water")
    batch.does("weighed", line="base", mass_g=500.0)
    again = fold(spec, read_materials({**KNOWN, "base": base}, spec.material_keys), batch.events)
    assert run_result(again).conflicts == (), "weighed anew out of another jar"
