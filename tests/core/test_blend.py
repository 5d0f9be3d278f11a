"""Two crates of one material in one line: together they are what they hold, whatever form each is known in."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.cordial import FORM, Batch, materials_of
from ulsek.core.base.answer import encode
from ulsek.core.base.messages import printed
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.materials.blend import blended, blended_composition
from ulsek.core.materials.composition import ByReading, BySubstance, with_readings
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.materials.supply import key_from, material_of_key, supply_behind
from ulsek.core.run.fold import fold, fold_pinned
from ulsek.core.run.run_result import PouredPart, run_result
from ulsek.core.spec.json_form import read_spec

TYPICAL = typical_materials()
SPEC = read_spec(FORM)
MATERIALS = materials_of(SPEC)
JUICE = "sea_buckthorn_juice"


def read_as(material=JUICE, **readings):
    known = TYPICAL[material]
    return {**known, "makeup": with_readings(known["makeup"], readings, "read")}


def summed(shares, compositions, z=0.0):
    """The same by adding up grams, which is what a vessel does."""
    found = Contents()
    for share, composition in zip(shares, compositions, strict=True):
        found = found + composition.per_gram(z, z).scaled(share)
    return found


def differ(one, other):
    return max((abs(one.of(key) - other.of(key)) for key in {*one.grams, *other.grams}), default=0.0)


# Readings that one juice can have: acid that is sharp for its pH leaves little room for the cations that bind it.
juices = st.builds(
    lambda brix, acid, ph: read_material("juice", read_as(brix_reading=brix, acid_g_100ml=acid, **({"ph": ph} if ph else {}))).composition,
    st.floats(8.0, 16.0),
    st.floats(0.5, 3.0),
    st.none() | st.floats(2.4, 3.2),
)


@settings(max_examples=60)
@given(first=juices, second=juices, share=st.floats(0.01, 0.99))
def test_read_juices_add_up_and_stay_read(first, second, share):
    found = blended_composition([share, 1.0 - share], [first, second])
    assert isinstance(found, ByReading)
    assert differ(found.per_gram(0.0, 0.0), summed([share, 1.0 - share], [first, second])) < 2e-5
    assert found.brix_read
    assert found.acid_read


@pytest.mark.parametrize(
    ("one", "other"),
    [("white_sugar", "honey"), ("bergamot", "bergamot"), (JUICE, "white_sugar"), (JUICE, "lemon_juice")],
)
def test_whatever_form_each_is_known_in_the_grams_add_up(one, other):
    compositions = [read_material(key, TYPICAL[key]).composition for key in (one, other)]
    found = blended_composition([0.3, 0.7], compositions)
    assert differ(found.per_gram(0.0, 0.0), summed([0.3, 0.7], compositions)) < 2e-5
    for z in (-1.0, 1.0):
        assert differ(found.per_gram(z, z), summed([0.3, 0.7], compositions, z)) < 2e-3, (
            "the ends move together; how an acid splits is taken at its best value"
        )


def test_what_could_harm_is_the_stricter_of_the_two():
    plain = read_material("cream", {"name": "Nut cream", "makeup": {"by": "substance", "g_per_100g": {"sucrose": 10}}, "price_per_kg": "4"})
    other = read_material(
        "cream",
        {
            "name": "Nut cream",
            "makeup": {"by": "substance", "g_per_100g": {"sucrose": {"value": 20, "low": 18, "high": 24}}},
            "price_per_kg": "8",
            "allergens": ["nuts"],
            "keeps_days": 3,
            "vegan": False,
            "contains_mg_g": {"quinine": 0.4},
        },
    )
    found = blended("cream~line.one", [(plain, 300), (other, 100)])
    assert (found.allergens, found.keeps_days, found.vegan) == (("nuts",), 3, False)
    assert found.contains_mg_g["quinine"] == Range.exact(0.4), "the most of what is restricted, however little of it went in"
    assert found.price_per_kg == 5
    assert isinstance(found.composition, BySubstance)
    assert found.composition.g_per_100g["sucrose"] == Range(12.5, 12.0, 13.5)
    with pytest.raises(Refusal, match="Nothing of it is in"):
        blended("cream~line.one", [(plain, 0.0)])


SWEET, SHARP = key_from(JUICE, "delivery:7"), key_from(JUICE, "lot:L0007")
PINNED = {
    **MATERIALS,
    SWEET: read_material(SWEET, read_as(brix_reading=12.0, acid_g_100ml=1.5)),
    SHARP: read_material(SHARP, read_as(brix_reading=8.0, acid_g_100ml=3.0)),
}
SUPPLY_OF = {SWEET: "delivery:7", SHARP: "lot:L0007", JUICE: "delivery:1"}


def poured():
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("taken_from", line="juice", supply="delivery:7")
    batch.does("went_on", line="juice", mass_g=250, supply="lot:L0007")
    return batch


def test_a_crate_that_runs_empty_and_the_next_count_with_what_they_are_together():
    batch = poured()
    half = fold(SPEC, PINNED, batch.events)
    assert half.taken_g(SUPPLY_OF) == {"delivery:7": 250}, "what is in has left its crate before the line is weighed"
    assert half.next_line.id == "juice"
    batch.does("weighed", line="juice", mass_g=1000)
    found = fold(SPEC, PINNED, batch.events)
    assert found.taken_g(SUPPLY_OF) == {"delivery:7": 250, "lot:L0007": 750}
    assert {SWEET, SHARP} <= found.taken_keys
    assert material_of_key(found.spec.lines["juice"].material) == JUICE
    sharp, sweet = PINNED[SHARP], PINNED[SWEET]
    together = 0.25 * sweet.per_gram().of("malic_acid") + 0.75 * sharp.per_gram().of("malic_acid")
    assert found.evaluation.flow.steps[0].contents.of("malic_acid") / 1000 == pytest.approx(together, rel=1e-6)
    assert found.evaluation.figures[0]["brix_reading"] == pytest.approx(9.0, abs=0.01)
    assert run_result(found).steps[0].lines[0].parts == (PouredPart(SWEET, 250.0), PouredPart(SHARP, 750.0))


def test_a_repair_comes_out_of_the_crate_at_hand_and_not_out_of_the_blend():
    """Sugar out of two bags, too much of it: what brings the batch back is something that stands there and can be weighed."""
    bags = {key_from("white_sugar", supply): MATERIALS["white_sugar"] for supply in ("delivery:8", "delivery:9")}
    pinned = {**MATERIALS, **{key: replace(item, key=key) for key, item in bags.items()}}
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("weighed", line="juice", mass_g=1000)
    batch.does("taken_from", line="sugar", supply="delivery:8")
    batch.does("went_on", line="sugar", mass_g=100, supply="delivery:9")
    batch.does("weighed", line="sugar", mass_g=430)
    for step in ("s1", "s2"):
        batch.does("step_done", step=step)
    (offer,) = fold(SPEC, pinned, batch.events).repairs
    assert [item.material for item in offer.additions] == [key_from("white_sugar", "delivery:9"), "malic_acid"]
    batch.does("repair_taken", repair=offer.id, additions=[encode(item) for item in offer.additions])
    mended = fold(SPEC, pinned, batch.events)
    assert mended.evaluation.figures[-1]["brix"] == pytest.approx(40, abs=0.5)
    assert mended.repairs[0].state == "taken"


def test_three_crates_another_jar_and_a_slip():
    batch = poured()
    batch.does("went_on", line="juice", mass_g=400, supply="delivery:1")
    batch.does("weighed", line="juice", mass_g=1000)
    assert fold(SPEC, PINNED, batch.events).taken_g(SUPPLY_OF) == {"delivery:7": 250, "lot:L0007": 150, "delivery:1": 600}
    slip = batch.does("went_on", line="juice", mass_g=300, supply="lot:L0007")
    found = fold(SPEC, PINNED, batch.events)
    assert "300" in printed(found.record.conflicts[0])
    assert found.taken_g(SUPPLY_OF) == {"delivery:7": 250, "lot:L0007": 750}
    batch.does("undone", of=slip.id)
    batch.does("weighed", line="juice", mass_g=320)
    short = fold(SPEC, PINNED, batch.events)
    assert "Weigh it again" in printed(short.record.conflicts[0]).replace("\u00a0", " ")
    assert short.taken_g(SUPPLY_OF) == {"delivery:7": 250, "lot:L0007": 70}
    batch.does("wrong_jar", line="juice", material="water")
    assert fold(SPEC, PINNED, batch.events).spec.lines["juice"].material == "water"


def test_what_was_poured_of_a_step_that_was_skipped_is_in_the_vessel():
    batch = poured()
    half = fold(SPEC, PINNED, batch.events)
    assert run_result(half).steps[0].lines[0].so_far_g == 250
    batch.does("step_skipped", step="s1")
    found = fold(SPEC, PINNED, batch.events)
    assert found.actual_g == {"juice": 250}
    assert found.taken_g(SUPPLY_OF) == {"delivery:7": 250}
    assert found.evaluation.flow.masses["juice"] == 250
    assert run_result(found).steps[0].lines[0].so_far_g == 0.0


def test_a_fold_reads_only_the_crates_that_were_named():
    """A makeup that cannot be read, of a crate beside the run that nobody touched, breaks nothing; named, it is refused."""
    bad = key_from(JUICE, "delivery:66")
    pinned = {
        "spec": FORM,
        "materials": {**{key: TYPICAL[key] for key in (JUICE, "white_sugar", "malic_acid")}, bad: {"makeup": {"by": "moon"}}},
    }
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("weighed", line="juice", mass_g=900)
    assert fold_pinned(pinned, batch.events).actual_g == {"juice": 900}
    assert (supply_behind(bad), supply_behind(JUICE)) == ("delivery:66", None)
    batch.does("taken_from", line="juice", supply="delivery:66")
    with pytest.raises(Refusal, match="by substance"):
        fold_pinned(pinned, batch.events)


def test_a_tablet_that_knows_neither_makeup_goes_on():
    batch = poured()
    batch.does("weighed", line="juice", mass_g=1000)
    away = fold(SPEC, MATERIALS, batch.events)
    assert away.evaluation.figures[0]["acid_g_100ml"] == pytest.approx(2.4, rel=2e-3)
    assert sum(away.taken_g({JUICE: "delivery:1"}).values()) == 1000
