"""The bench beyond the scale: burettes, counts and jugs, tastes, samples, extra steps, two people at once, what was learned, and rehearsals."""

from dataclasses import replace
from datetime import datetime

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.cordial import FORM, Batch, evaluated, form, materials_of
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.messages import NOTHING, printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.composition import with_readings
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.materials.supply import key_from, makes_more_ml
from ulsek.core.results.spec_card import card
from ulsek.core.run.available_from import ready_from
from ulsek.core.run.fold import fold
from ulsek.core.run.learned_priors import KEPT_VARIANCE, carried, lessons
from ulsek.core.run.rehearsal import pour, score, shown
from ulsek.core.run.run_result import Sample, run_result
from ulsek.core.run.taste import taste_advice
from ulsek.core.spec.json_form import read_spec

SPEC = read_spec(FORM)
MATERIALS = materials_of(SPEC)


def plain(text):
    return printed(text).replace("\u00a0", " ").replace("\u2009", " ")


def begun(spec=SPEC, **more):
    batch = Batch()
    batch.does("started", factor=1.0, **more)
    return batch


def test_a_titration_is_worked_out_from_its_burette():
    batch = begun()
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("step_done", step="s1")
    # 37.5 mL × 0.1 mol/L × 64.041 g/mol / 10 mL / 10 = 2.4015 g/100 mL as citric, by the definition.
    batch.does("read", property="acid_g_100ml", burette={"naoh_ml": 37.5, "sample_ml": 10, "normality": 0.1})
    (reading,) = fold(SPEC, MATERIALS, batch.events).readings
    assert reading.value == pytest.approx(2.4015, abs=5e-4)
    assert reading.agrees


def test_drops_come_to_grams_by_the_dropper():
    batch = begun()
    batch.does("dosed", line="juice", drops=24)
    assert fold(SPEC, MATERIALS, batch.events).actual_g["juice"] == pytest.approx(
        24 * 0.05 * MATERIALS["sea_buckthorn_juice"].density_g_ml()
    )
    batch.does("dosed", line="juice", drops=24, drop_ml=0.031)
    assert fold(SPEC, MATERIALS, batch.events).actual_g["juice"] == pytest.approx(
        24 * 0.031 * MATERIALS["sea_buckthorn_juice"].density_g_ml()
    )


def test_another_step_comes_first_where_it_can_and_is_said_where_it_cannot():
    batch = begun()
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("step_done", step="s1")
    batch.does("step_first", step="s4")
    found = fold(SPEC, MATERIALS, batch.events)
    assert [step.id for step in found.spec.steps] == ["s1", "s4", "s2", "s3", "s5"]
    assert (found.current.id, found.record.conflicts) == ("s4", [])
    batch.does("step_done", step="s4")
    batch.does("step_first", step="s4")
    batch.does("step_first", step="s1")
    found = fold(SPEC, MATERIALS, batch.events)
    assert ([step.id for step in found.spec.steps], found.current.id) == (["s1", "s4", "s2", "s3", "s5"], "s2"), (
        "what is done stays where it is"
    )
    # Malic acid up to 2.1 g/100 mL before the sugar thins it: the juice alone has 2.4.
    batch.does("step_first", step="s3")
    found = fold(SPEC, MATERIALS, batch.events)
    assert [step.id for step in found.spec.steps] == ["s1", "s4", "s2", "s3", "s5"]
    said = printed(*found.record.conflicts)
    assert said.startswith("“")
    assert "cannot come first" in said
    assert found.evaluation.flow.refusal is None


def test_a_named_supply_goes_in_as_it_was_read_and_an_unknown_one_as_the_material():
    known = typical_materials()["sea_buckthorn_juice"]
    sharp = {**known, "makeup": with_readings(known["makeup"], {"brix_reading": 8.2, "acid_g_100ml": 3.1}, "read")}
    key = key_from("sea_buckthorn_juice", "delivery:7")
    pinned = {**MATERIALS, key: read_material(key, sharp)}
    batch = begun()
    batch.does("weighed", line="juice", mass_g=1000)
    as_read = run_result(fold(SPEC, pinned, batch.events))
    named = batch.does("taken_from", line="juice", supply="delivery:7")
    found = fold(SPEC, pinned, batch.events)
    assert found.evaluation.figures[0]["acid_g_100ml"] == pytest.approx(3.1, rel=2e-3)
    assert found.spec.lines["juice"].material == key
    away = fold(SPEC, MATERIALS, batch.events)
    assert away.evaluation.figures[0]["acid_g_100ml"] == pytest.approx(2.4, rel=2e-3), (
        "a tablet that does not know its makeup goes on with the material's"
    )
    assert away.supplies == {"juice": "delivery:7"}
    batch.does("taken_from", line="juice", supply="lot:L0007")
    assert fold(SPEC, pinned, batch.events).spec.lines["juice"].material == "sea_buckthorn_juice", (
        "one supply does not stand behind another"
    )
    batch.does("undone", of=batch.events[-1].id)
    batch.does("undone", of=named.id)
    back = run_result(fold(SPEC, pinned, batch.events))
    assert back.evaluation == as_read.evaluation
    assert makes_more_ml(800, 400, 1000) == 2000
    with pytest.raises(Refusal, match="takes nothing"):
        makes_more_ml(800, 0, 1000)


def test_counts_and_jugs_come_to_grams():
    data = form(
        s1={
            "id": "s1",
            "verb": "combine",
            "lines": [{"id": "juice", "material": "bergamot", "amount": {"kind": "fixed", "written": "5 each"}}],
        }
    )
    spec = read_spec(data)
    known = read_materials(typical_materials(), (*spec.material_keys, "water"))
    batch = begun()
    batch.does("counted", line="juice", count=7)
    assert fold(spec, known, batch.events).actual_g["juice"] == pytest.approx(7 * known["bergamot"].piece_g.value)
    batch.does("measured", line="sugar", volume_ml=100)
    assert fold(spec, known, batch.events).actual_g["sugar"] == pytest.approx(100 * known["white_sugar"].density_g_ml())
    batch.does("counted", line="sugar", count=2)
    with pytest.raises(Refusal, match="Nobody has said what one white sugar weighs"):
        fold(spec, known, batch.events)


def test_too_strong_is_cut_with_plain_syrup_of_the_same_brix():
    batch = begun()
    for line, grams in (("juice", 1000), ("sugar", 519)):
        batch.does("weighed", line=line, mass_g=grams)
    batch.does("step_done", step="s1")
    batch.does("step_done", step="s2")
    batch.does("tasted", step="s2", sense="taste", verdict="strong", share=0.25)
    state = fold(SPEC, MATERIALS, batch.events)
    advice = plain(run_result(state).tastes[0].advice)
    brix = state.evaluation.figures[1]["brix"]
    # A quarter too strong: a quarter of 1519 g of plain syrup, sugar and water at the same °Bx.
    assert "of the strength that it should have. Cut it with 380 g of plain syrup at" in advice
    assert f"({379.75 * brix / 100:.0f} g sugar in" in advice
    assert "acid falls to about" in advice


def test_what_is_tasted_before_a_step_is_the_vessel_as_it_stands():
    batch = begun()
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("step_done", step="s1")
    batch.does("tasted", step="s2", sense="taste", verdict="strong", share=0.2)
    batch.does("weighed", line="sugar", mass_g=519)
    batch.does("step_done", step="s2")
    (taste,) = run_result(fold(SPEC, MATERIALS, batch.events)).tastes
    assert taste.step == "s1"
    assert "Cut it with 200 g of plain syrup at 8.7 °Bx" in plain(taste.advice), "the juice alone, not what it became"


def test_a_sample_leaves_the_batch_and_is_said():
    batch = begun()
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("sampled", step="s1", mass_g=50)
    state = fold(SPEC, MATERIALS, batch.events)
    assert state.evaluation.figures[0]["mass_g"] == pytest.approx(950)
    assert "A sample of 50.0 g was set aside" in plain(state.notes[0])
    assert run_result(state).steps[0].sample == Sample(wanted=False, mass_g=50)


def test_a_sample_is_due_until_it_is_set_aside_or_its_step_is_skipped():
    spec = replace(SPEC, steps=tuple(replace(step, keep_sample=step.id == "s1") for step in SPEC.steps))
    batch = begun()
    assert fold(spec, MATERIALS, batch.events).sample_due is None, "its step goes on"
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("step_done", step="s1")
    assert run_result(fold(spec, MATERIALS, batch.events)).sample_due == "s1"
    batch.does("sampled", step="s1", mass_g=50)
    assert run_result(fold(spec, MATERIALS, batch.events)).sample_due is None
    again = begun()
    again.does("step_skipped", step="s1")
    assert fold(spec, MATERIALS, again.events).sample_due is None


def test_an_extra_step_stands_after_what_is_done_and_is_offered_to_the_spec():
    batch = begun()
    batch.does("weighed", line="juice", mass_g=2000)
    batch.does("step_done", step="s1")
    line = {"id": "pinch.salt", "material": "salt", "amount": {"kind": "fixed", "written": "1 g"}}
    batch.does("step_added", step={"id": "pinch", "verb": "combine", "lines": [line]})
    batch.does("weighed", line="pinch.salt", mass_g=3)
    known = read_materials(typical_materials(), (*SPEC.material_keys, "salt"))
    state = fold(SPEC, known, batch.events)
    assert [step.id for step in state.spec.steps][:3] == ["s1", "pinch", "s2"]
    (settled,) = run_result(state).settled
    assert settled.mass_g == pytest.approx(1.5)  # the batch is twice the spec
    batch.does("step_added", step={"id": "s2", "verb": "combine"})
    with pytest.raises(Refusal, match="“s2” stands there already"):
        fold(SPEC, known, batch.events)


def test_two_people_who_write_against_each_other_are_both_heard():
    batch = begun()
    batch.by("one", "Noor", "weighed", line="juice", mass_g=1000.0)
    batch.by("two", "Jonas", "weighed", line="juice", mass_g=1040.0)
    state = fold(SPEC, MATERIALS, batch.events)
    assert plain(state.record.conflicts[0]).startswith("Sea buckthorn juice was weighed twice: 1 000 g by Noor, then 1 040 g by Jonas.")
    assert state.actual_g["juice"] == 1040
    first = batch.by("one", "Noor", "weighed", line="sugar", mass_g=500.0)
    batch.by("two", "Jonas", "weighed", line="sugar", mass_g=530.0, replaces=first.id)
    assert len(fold(SPEC, MATERIALS, batch.events).record.conflicts) == 1, "who corrects what they saw does not contradict it"


REDUCED = {
    "format": "ulsek.spec",
    "version": 1,
    "id": "strained",
    "name": "Strained",
    "vessels": [{"id": "pot", "name": "pot"}],
    "steps": [
        {"id": "a", "verb": "combine", "lines": [{"id": "fruit", "material": "quince", "amount": {"kind": "fixed", "written": "1 kg"}}, {"id": "water", "material": "water", "amount": {"kind": "fixed", "written": "1 kg"}}]},
        {"id": "b", "verb": "simmer", "minutes": 40},
        {"id": "c", "verb": "strain"},
        {"id": "d", "verb": "bottle"},
    ],
}  # fmt: skip


def test_what_a_sieve_holds_is_learned_and_the_next_batch_begins_from_it():
    spec = read_spec(REDUCED)
    known = read_materials(typical_materials(), (*spec.material_keys, "water"))
    batch = begun()
    for line in ("fruit", "water"):
        batch.does("weighed", line=line, mass_g=1000)
    for step in ("a", "b", "c"):
        batch.does("step_done", step=step)
    before = fold(spec, known, batch.events)
    held = before.evaluation.figures[2]["mass_g"]
    doubt = before.evaluation.range(2, "mass_g").half_width
    batch.does("read", property="mass_g", value=held - 0.5 * doubt)
    after = fold(spec, known, batch.events)
    told = lessons(after.evaluation, {})
    assert any(lesson.kept for lesson in told), "a step taught something"
    kept = carried(after.evaluation.estimate)
    assert all(variance >= KEPT_VARIANCE for _, variance in kept.values())
    again = evaluate(spec, known, begin=kept)
    fresh = evaluate(spec, known)
    assert again.figures[2]["mass_g"] < fresh.figures[2]["mass_g"], "less came through here than elsewhere"
    assert again.range(2, "mass_g").half_width < fresh.range(2, "mass_g").half_width


def made(scatter):
    batch = begun()
    state = fold(SPEC, MATERIALS, batch.events)
    for step in state.spec.steps:
        for line in step.lines:
            planned = fold(SPEC, MATERIALS, batch.events).evaluation.flow.masses[line.id]
            batch.does("weighed", line=line.id, mass_g=planned * scatter)
        batch.does("step_done", step=step.id)
    return fold(SPEC, MATERIALS, batch.events)


def test_a_rehearsal_goes_the_same_way_for_one_seed_and_another_for_another():
    assert pour("one", "juice", 500) == pour("one", "juice", 500)
    assert pour("one", "juice", 500) != pour("two", "juice", 500)
    short = [pour(f"seed{n}", "juice", 500).jar_g < 500 for n in range(400)]
    assert 30 < sum(short) < 90, "about one jar in seven runs short"
    batch = begun()
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("step_done", step="s1")
    probes = shown(fold(SPEC, MATERIALS, batch.events), "one").probes
    true = fold(SPEC, MATERIALS, batch.events).evaluation.figures[0]["brix_reading"]
    assert 0 < abs(probes["brix_reading"] - true) <= 0.5


def test_a_careful_rehearsal_scores_above_a_careless_one():
    careful, careless = score(made(1.002)), score(made(1.05))
    assert careful.points == 90  # nothing was read before the bottles
    assert tuple(map(printed, careful.told)) == ("Nothing was read before the bottles.",)
    assert careless.points < 75
    assert printed(careless.told[0]).startswith("Furthest off was")


def test_a_lot_is_ready_once_its_rest_is_over_and_never_waits_for_what_was_skipped():
    steps = read_spec({**REDUCED, "steps": [*REDUCED["steps"], {"id": "e", "verb": "rest", "minutes": 2880}]}).steps
    done = {step.id: "2026-03-02T12:00:00+01:00" for step in steps}
    ready, why = ready_from(steps, done, done, set(), "2026-03-02T12:10:00+01:00")
    assert (ready.isoformat(), printed(why)) == ("2026-03-04T12:00:00+01:00", "it rests in the bottle")
    assert ready_from(steps, done, done, {"e"}, "2026-03-02T12:10:00+01:00") == (
        datetime.fromisoformat("2026-03-02T12:10:00+01:00"),
        NOTHING,
    )
    hot = read_spec({**REDUCED, "steps": [*REDUCED["steps"][:3], {"id": "d", "verb": "hot_fill"}]}).steps
    ready, why = ready_from(hot, done, done, set(), "2026-03-02T12:10:00+01:00")
    assert (ready.isoformat(), printed(why)) == ("2026-03-02T16:00:00+01:00", "it was filled hot, and must be cold")


def test_the_card_asks_for_a_sample_where_the_spec_does():
    kept = evaluated(form(s1={**FORM["steps"][0], "keep_sample": True}))
    assert card(kept).steps[0].check.endswith("set a sample aside")
    assert card(kept, "es").steps[0].check.endswith("apartar una muestra")
    assert "sample" not in card(evaluated()).steps[0].check
    batch = begun()
    batch.does("weighed", line="juice", mass_g=1000)
    state = run_result(fold(kept.inputs.spec, MATERIALS, batch.events))
    assert state.steps[0].sample == Sample(wanted=True, mass_g=None)


@pytest.mark.parametrize(
    ("step", "verdict", "share", "advice"),
    [
        ("a", "right", 0.0, ""),
        ("a", "odd", 0.0, "Keep a sample, note what it is, and ask your lead before going on."),
        ("a", "strong", 0.5, "Taken as 1.50 of the strength that it should have. Cut it with 500 g of water."),
        (
            "a",
            "weak",
            0.25,
            "Taken as 0.75 of the strength that it should have. Add about 33 % more of what gives the taste, in two halves, tasting between them.",
        ),
        (
            "b",
            "weak",
            0.25,
            "Taken as 0.75 of the strength that it should have. Give it about 10 min more and taste again; with nothing left to give, add 33 % of what was steeped.",
        ),
        (
            "b",
            "weak",
            0.0,
            "Taken as 0.90 of the strength that it should have. Give it about 4 min more and taste again; with nothing left to give, add 11 % of what was steeped.",
        ),
    ],
)
def test_each_verdict_is_answered_with_amounts(step, verdict, share, advice):
    steeped = {
        **REDUCED,
        "steps": [
            {"id": "a", "verb": "combine", "lines": [{"id": "water", "material": "water", "amount": {"kind": "fixed", "written": "1 kg"}}]},
            {
                "id": "b",
                "verb": "steep",
                "minutes": 20,
                "lines": [{"id": "tips", "material": "birch_tips", "amount": {"kind": "fixed", "written": "9 g"}}],
            },
        ],
    }
    spec = read_spec(steeped)
    found = evaluate(spec, read_materials(typical_materials(), spec.material_keys))
    flow = next(item for item in found.flow.steps if item.step.id == step)
    assert plain(taste_advice(verdict, share, flow)) == advice


def test_an_amount_to_taste_comes_back_as_the_spec_would_write_it():
    amount = {"kind": "fixed", "written": "4 g", "to_taste": True, "spread": {"value": 4, "low": 2, "high": 8}}
    spec = read_spec(form(s3={"id": "s3", "verb": "combine", "lines": [{"id": "malic", "material": "malic_acid", "amount": amount}]}))
    batch = begun()
    batch.does("weighed", line="juice", mass_g=2000)
    batch.does("weighed", line="malic", mass_g=11)
    (settled,) = run_result(fold(spec, MATERIALS, batch.events)).settled
    assert (settled.line, settled.mass_g) == ("malic", pytest.approx(5.5))
    assert plain(settled.text) == "Malic acid, to taste: 5.50 g (4.00 g is written)"


def test_what_was_done_and_then_skipped_by_another_is_said():
    batch = begun()
    batch.by("one", "Noor", "step_done", step="s2")
    batch.by("two", "Jonas", "step_skipped", step="s2")
    (said,) = fold(SPEC, MATERIALS, batch.events).record.conflicts
    assert printed(said).endswith("was done, and then skipped by Jonas. It counts as skipped; take that back if it was done.")


@settings(max_examples=300)
@given(st.text(min_size=1, max_size=20), st.floats(1.0, 20000.0))
def test_a_rehearsed_pour_stays_within_what_a_hand_does(seed, wanted):
    poured = pour(seed, "line", wanted)
    assert 4.0 <= wanted / poured.rate_g_s <= 9.0
    assert 0.006 <= poured.runs_on_g / wanted <= 0.045
    assert poured.jar_g == pytest.approx(1.6 * wanted) or 0.72 <= poured.jar_g / wanted <= 0.93
