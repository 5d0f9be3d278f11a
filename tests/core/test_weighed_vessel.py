"""A weighed vessel: the base of what comes after it, a surplus or a lack by name, in a batch and its figures."""

import pytest

from tests.core.cordial import JUICE, Batch, materials_of
from tests.core.kitchen import balance_g
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.messages import printed
from ulsek.core.chemistry.contents import Contents
from ulsek.core.evaluation.group_key import GroupKey
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.materials.vessel_state import OutgoingStream, VesselState
from ulsek.core.materials.weighed_vessel import moved_between
from ulsek.core.run.fold import fold
from ulsek.core.run.run_result import run_result
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.spec.json_form import read_spec


def plain(text: str) -> str:
    return printed(text).replace("\u00a0", " ")


ENZYME = read_spec(
    {
        "format": "ulsek.spec",
        "version": 1,
        "name": "Clear",
        "vessels": [{"id": "pot", "name": "pot"}],
        "steps": [
            {"id": "s1", "verb": "combine", "vessel": "pot", "lines": [{"id": "fruit", "material": "quince_fruit", "amount": {"kind": "fixed", "mass_g": 800}},
                {"id": "water", "material": "water", "amount": {"kind": "fixed", "mass_g": 600}}]},
            {"id": "s2", "verb": "simmer", "vessel": "pot", "minutes": 10},
            {"id": "s3", "verb": "strain", "vessel": "pot"},
            {"id": "s4", "verb": "combine", "vessel": "pot", "lines": [{"id": "enzyme", "material": "pectin_enzyme", "amount": {"kind": "percent", "percent": 0.3}}]},
            {"id": "s5", "verb": "combine", "vessel": "pot", "lines": [{"id": "sugar", "material": "white_sugar",
                "amount": {"kind": "ratio", "to": {"vessel": "pot"}, "basis": "weight", "ratio": 0.5}}]},
        ],
    }
)  # fmt: skip
ENZYME_MATERIALS = read_materials(typical_materials(), ENZYME.material_keys)


def strained(*after, at="s3"):
    """Cooked and strained; then what is asked."""
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("weighed", line="fruit", mass_g=800)
    batch.does("weighed", line="water", mass_g=600)
    for step in ("s1", "s2", "s3"):
        batch.does("step_done", step=step)
        if step == at:
            for kind, body in after[:1]:
                batch.does(kind, **body)
    for kind, body in after[1:]:
        batch.does(kind, **body)
    return fold(ENZYME, ENZYME_MATERIALS, batch.events)


@pytest.mark.parametrize("grams", [700.0, 150.0, 1050.0])
def test_a_weighed_vessel_is_the_base_of_every_percent_and_ratio_after_it(grams):
    found = strained(("read", {"property": "mass_g", "value": grams}))
    masses = found.evaluation.flow.masses
    assert masses["enzyme"] == pytest.approx(0.003 * grams), "also where it contradicts what was worked out"
    assert masses["sugar"] == pytest.approx(0.5 * (grams + masses["enzyme"]))
    went_in, came_out = balance_g(found.evaluation.flow)
    assert came_out == pytest.approx(went_in, rel=1e-9), "mass is kept"
    assert found.evaluation.figures[2]["mass_g"] == pytest.approx(grams)


RAFT = read_spec(
    {
        "format": "ulsek.spec",
        "version": 1,
        "name": "Raft",
        "vessels": [{"id": "pot", "name": "pot"}],
        "steps": [
            {"id": "s1", "verb": "combine", "vessel": "pot", "lines": [{"id": "juice", "material": JUICE, "amount": {"kind": "fixed", "mass_g": 1000}}]},
            {"id": "s2", "verb": "egg_raft", "vessel": "pot", "lines": [{"id": "whites", "material": "egg_white", "amount": {"kind": "percent", "percent": 50}}]},
            {"id": "s3", "verb": "cool", "vessel": "pot", "to_c": 4, "minutes": 45},
        ],
    }
)  # fmt: skip


@pytest.mark.parametrize("share", [1.02, 1.03, 1.04, 1.05, 1.06, 1.5, 0.96, 0.3])
def test_a_vessel_weighed_near_or_far_from_the_prediction_still_gives_every_figure(share):
    """A surplus is a line of its own; where an end of a lopsided range predicts more than was weighed, there is no such line."""
    materials, batch = materials_of(RAFT), Batch()
    for line, grams, step in (("juice", 1000, "s1"), ("whites", 500, "s2"), (None, 0, "s3")):
        if line:
            batch.does("weighed", line=line, mass_g=grams)
        batch.does("step_done", step=step)
    mass = fold(RAFT, materials, batch.events).evaluation.figures[2]["mass_g"]
    batch.does("read", property="mass_g", value=mass * share)
    found = fold(RAFT, materials, batch.events)
    assert found.evaluation.figures[2]["mass_g"] == pytest.approx(mass * share)
    lines = [added.mass_g for step in run_result(found).evaluation.steps for added in step.added]
    assert all(item.low <= item.value <= item.high for item in lines)
    assert share < 1 or len(lines) == 3, "the surplus is a line"


def test_what_a_weighed_vessel_lacks_went_somewhere_by_name():
    plain_ = strained().evaluation.flow
    light = strained(("read", {"property": "mass_g", "value": 1200.0}), at="s2").evaluation.flow
    assert [stream.kind for stream in light.steps[1].outgoing] == ["steam"]
    assert light.steps[1].outgoing[0].contents.mass_g > plain_.steps[1].outgoing[0].contents.mass_g, "a pot that simmered lost it as steam"
    poured = strained(("read", {"property": "mass_g", "value": 700.0}), at="s1").evaluation.flow
    assert [(stream.name, stream.kind) for stream in poured.steps[0].outgoing] == [("not accounted for", "missing")]
    more = strained(("read", {"property": "mass_g", "value": 1050.0}))
    sieve, before = more.evaluation.flow.steps[2].outgoing[0], plain_.steps[2].outgoing[0]
    assert sieve.contents.mass_g < before.contents.mass_g, "what came through more is not in the sieve"


def test_a_scale_that_shows_more_than_there_was_leaves_a_little_where_it_is_taken_from():
    pot, steam = (VesselState(liquid=Contents({"water": grams})) for grams in (1000.0, 100.0))
    juice = VesselState(liquid=Contents({"water": 80.0, "sucrose": 20.0}))
    for kind, other in (("steam", steam), ("strained", juice)):
        for off, from_pot in ((5000.0, False), (-5000.0, True)):
            here, gone = moved_between(pot, OutgoingStream("it", kind, other), off)
            left, at_first = (here.liquid, pot.liquid) if from_pot else (gone.contents, other.liquid)
            assert left.mass_g == pytest.approx(0.02 * at_first.mass_g), (kind, off)
            assert here.liquid.mass_g + gone.contents.mass_g == pytest.approx(1100.0)


def test_the_newest_weight_of_a_vessel_counts_and_one_taken_back_does_not():
    weigh = ("read", {"property": "mass_g", "value": 700.0})
    assert strained(weigh, ("read", {"property": "mass_g", "value": 720.0})).evaluation.flow.masses["enzyme"] == pytest.approx(2.16)
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("weighed", line="fruit", mass_g=800)
    batch.does("weighed", line="water", mass_g=600)
    for step in ("s1", "s2", "s3"):
        batch.does("step_done", step=step)
    before = fold(ENZYME, ENZYME_MATERIALS, batch.events).evaluation.flow.masses["enzyme"]
    event = batch.does("read", property="mass_g", value=200.0)
    batch.does("undone", of=event.id)
    assert fold(ENZYME, ENZYME_MATERIALS, batch.events).evaluation.flow.masses["enzyme"] == pytest.approx(before)


def test_the_dose_reached_is_said():
    found = strained(("read", {"property": "mass_g", "value": 700.0}), ("weighed", {"line": "enzyme", "mass_g": 2.31}))
    line = next(item for step in run_result(found).steps for item in step.lines if item.id == "enzyme")
    assert plain(line.dose) == "2.31 g on 700 g is 0.33 %"
    assert "2.31 g on 700 g is 0.33 %, 10 % over." in plain(next(item.text for item in found.deviations if item.line == "enzyme"))
    exact = strained(("read", {"property": "mass_g", "value": 700.0}), ("weighed", {"line": "enzyme", "mass_g": 2.1}))
    assert plain(exact.weights.dose(exact.spec.lines["enzyme"])) == "2.10 g on 700 g is 0.3 %", "also where nothing is off"
    assert not exact.weights.dose(exact.spec.lines["water"])


SIMMERED = read_spec(
    {
        "format": "ulsek.spec",
        "version": 1,
        "name": "Syrup",
        "vessels": [{"id": "pot", "name": "pot"}],
        "steps": [
            {"id": "s1", "verb": "combine", "vessel": "pot", "lines": [{"id": "water", "material": "water", "amount": {"kind": "fixed", "mass_g": 1000}}]},
            {"id": "s2", "verb": "simmer", "vessel": "pot", "minutes": 60},
            {"id": "s3", "verb": "combine", "vessel": "pot", "lines": [{"id": "sugar", "material": "white_sugar", "amount": {"kind": "percent", "percent": 50}}]},
        ],
    }
)  # fmt: skip


POT = GroupKey("step", "s2")


@pytest.mark.parametrize(
    ("altitude_m", "priors"), [(3600, {}), (0, {POT: (0.8, 0.3)}), (3600, {POT: (-0.5, 0.3)})], ids=["height", "pots", "both"]
)
def test_a_weight_is_compared_with_the_planned_one_that_the_house_s_height_and_pots_give(altitude_m, priors):
    """Both change how much steam leaves, so that a percent of the pot is another mass."""
    rules = read_rules({"format": "ulsek.rules", "version": 1, "altitude_m": altitude_m})
    materials, batch = materials_of(SIMMERED), Batch()
    batch.does("weighed", line="water", mass_g=1000)
    elsewhere = fold(SIMMERED, materials, batch.events).evaluation.flow.masses["sugar"]
    shown = fold(SIMMERED, materials, batch.events, rules, priors).evaluation.flow.masses["sugar"]
    assert abs(shown / elsewhere - 1) > 1e-3, "they matter here"
    batch.does("weighed", line="sugar", mass_g=1.2 * shown)
    found = fold(SIMMERED, materials, batch.events, rules, priors)
    assert found.deviations[0].planned_g == pytest.approx(shown, rel=1e-12)
    assert found.deviations is found.deviations, "computed once"


def test_what_was_spilled_is_not_planned_for():
    materials, batch = materials_of(SIMMERED), Batch()
    batch.does("weighed", line="water", mass_g=1000)
    batch.does("spilled", step="s1", mass_g=200)
    shown = fold(SIMMERED, materials, batch.events).evaluation.flow.masses["sugar"]
    batch.does("weighed", line="sugar", mass_g=1.2 * shown)
    assert fold(SIMMERED, materials, batch.events).deviations[0].planned_g == pytest.approx(shown, rel=1e-12)
