"""The register of a house: what is refused, and what its scales, jiggers and places change."""

import pytest

from tests.core.cordial import evaluated
from ulsek.core.base.messages import NOTHING
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.register import KINDS, Equipment, RegisterEntry, equipment, read_entry
from ulsek.core.base.weighing import Scales
from ulsek.core.materials.shipped import shipped_material
from ulsek.core.results.spec_card import card, second_measure
from ulsek.core.safety.on_the_shelf import too_warm
from ulsek.core.sums.catalogue import SUMS, work_out


@pytest.mark.parametrize(
    ("kind", "name", "figures", "where", "code"),
    [
        ("oven", "old", {}, "kind", "unknown_reference"),
        ("scale", "  ", {"resolution_g": 1}, "name", "missing"),
        ("scale", "x" * 61, {"resolution_g": 1}, "name", "too_long"),
        ("scale", "bench", {}, "figures/resolution_g", "missing"),
        ("scale", "bench", {"resolution_g": 0}, "figures/resolution_g", "out_of_bounds"),
        ("scale", "bench", {"resolution_g": float("nan")}, "figures/resolution_g", "unreadable"),
        ("scale", "bench", {"resolution_g": True}, "figures/resolution_g", "unreadable"),
        ("scale", "bench", {"resolution_g": "1"}, "figures/resolution_g", "unreadable"),
        ("scale", "bench", {"resolution_g": 1, "colour": 2}, "figures", "unknown_reference"),
        ("label", "strip", {"width_mm": 62.5, "height_mm": 40}, "figures/width_mm", "out_of_bounds"),
        ("pot", "wide", {"pot_cm": 101}, "figures/pot_cm", "out_of_bounds"),
    ],
)
def test_an_entry_that_cannot_be_is_refused_at_its_place(kind, name, figures, where, code):
    with pytest.raises(Refusal) as refused:
        read_entry(kind, name, figures)
    assert (refused.value.where, refused.value.code) == (where, code)


def test_every_kind_takes_its_own_example_and_what_may_stay_unknown():
    for kind in KINDS.values():
        whole = {figure.key: figure.such for figure in kind.figures}
        assert read_entry(kind.key, " it ", whole) == RegisterEntry(kind.key, "it", whole)
        needed = {figure.key: figure.such for figure in kind.figures if figure.needed}
        assert read_entry(kind.key, "it", {**needed, **{f.key: None for f in kind.figures if not f.needed}}).figures == needed


def test_a_mass_is_weighed_on_the_coarsest_scale_of_which_a_step_is_two_percent():
    pair = equipment([RegisterEntry("scale", "a", {"resolution_g": 0.1}), RegisterEntry("scale", "b", {"resolution_g": 2.0})]).scales
    assert pair == Scales(2.0, 0.1)
    # 100 g is fifty steps of 2 g, 5 g fifty of 0.1 g: below, a finer one than the house has.
    assert [pair.step_g(mass) for mass in (100.0, 99.0, 5.0, 4.9)] == [2.0, 0.1, 0.1, 0.01]
    assert Equipment().scales == Scales(1.0, 0.01)
    assert Scales(1.0, 0.001).step_g(0.004) == 0.001


def test_a_card_rounds_to_the_scales_of_the_house_and_asks_for_a_finer_one_by_name():
    def amounts(made):
        return [line.amount.replace("\u00a0", " ") for step in made.steps for line in step.lines]

    usual, coarse = card(evaluated()), card(evaluated(), at=Equipment((5.0,)))
    assert amounts(usual) == ["1 000 g", "519 g", "4.14 g"]
    assert amounts(coarse) == ["1 000 g", "520 g", "4.14 g"]
    assert usual.gear[:3] == ("scale", "fine scale", "heavy pot")
    assert coarse.gear[:3] == ("scale", "a scale that reads to 0.01 g, finer than the house's", "heavy pot")


@pytest.mark.parametrize(
    ("material", "mass", "shown"),
    [
        ("water", 49.9, "50 mL (2 × 25 mL)"),
        ("water", 89.8, "90 mL (2 × 45 mL)"),  # the largest that fits
        ("water", 54.0, "54 mL"),  # 8 % off
        ("water", 450.0, "451 mL"),  # eleven measures are miscounted
        ("white_sugar", 21.3, "25 mL"),  # does not pour
    ],
)
def test_jiggers_stand_beside_what_a_few_of_them_make(material, mass, shown):
    said = second_measure(shipped_material(material), mass, "metric", "volume", (25.0, 45.0, 40.0)).text()
    assert said.replace("\u00a0", " ") == shown


def test_a_bottle_in_a_place_that_is_warmer_than_it_keeps_is_told():
    assert "dry store is up to 22 °C, and this keeps at 4 °C" in too_warm(4.0, "dry store", 22.0).text().replace("\u00a0", " ")
    assert too_warm(4.0, "cold room", 4.0) is NOTHING
    assert too_warm(4.0, "cold room", None) is NOTHING


def test_quick_sums_begin_with_the_scale_and_the_dropper_of_the_house():
    at = Equipment((1.0, 0.05), drop_ml=0.04)
    asked = {ask.tool for item in SUMS.values() for ask in item.asks.values()}
    assert asked == {"", "scale", "dropper"}
    tried = 0
    for item in SUMS.values():
        for ask in item.asks.values():
            if ask.tool:
                tried += 1
                assert ask.fitted(at).usual == (0.05 if ask.tool == "scale" else 0.04)
                assert ask.fitted(Equipment()).usual == ask.usual
    assert tried == 8, "every sum that asks for a scale or a drop"
    given = {"strength": 1, "volume": 300, "citric": 10, "malic": 0, "tartaric": 90}
    coarse = work_out("acid_solution", given, at=Equipment((1.0,))).remarks
    assert len(coarse) > len(work_out("acid_solution", given, at=at).remarks)
