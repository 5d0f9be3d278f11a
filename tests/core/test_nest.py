"""Specs nested in specs: composition, allergens, cautions and cost travel up; circles are refused."""

from pathlib import Path

import pytest

from tests.core.kitchen import KNOWN, line, pour, worked
from ulsek.cli import run as command
from ulsek.core.advice.sub_recipes import material_of, read_materials
from ulsek.core.base.answer import encode
from ulsek.core.base.refusals import Refusal

ROOT = Path(__file__).parents[2]


def test_a_nest_carries_composition_ranges_allergens_and_cost_up():
    inner = worked(
        pour(line("hazelnuts", 250.0), line("water", 750.0)), {"verb": "blend", "vented": True}, {"verb": "strain", "by_product": "pulp"}
    )
    body = material_of(inner)
    assert body["allergens"] == ["nuts"]
    assert body["keeping_class"] == "nut"
    outer = worked(pour(line("nut_milk", 500.0), line("white_sugar", 100.0)), nut_milk=body)
    assert outer.hazards.allergens == ("nuts",)
    priced = worked(
        pour({"id": "n", "material": "nuts", "amount": {"kind": "fixed", "mass_g": 1000}}),
        nuts={**KNOWN["hazelnuts"], "price_per_kg": "15.40"},
    )
    assert float(material_of(priced)["price_per_kg"]) == pytest.approx(15.40)
    share = inner.figures[2]["mass_g"]
    assert outer.flow.vessels["pot"].liquid.of("water") == pytest.approx(500 * inner.final.of("water") / share + 0.04, rel=1e-3)
    assert material_of(inner, "pulp")["name"] == "Pulp, from bench"
    with pytest.raises(Refusal, match="The spec leaves nothing called “cream”: it makes product, pulp"):
        material_of(inner, "cream")


def test_a_nest_that_goes_round_is_refused():
    inner = {"format": "ulsek.spec", "version": 1, "name": "loop", "steps": [{"id": "s", "verb": "combine", "lines": [line("loop", 10.0)]}]}
    with pytest.raises(Refusal, match="goes round in a circle"):
        read_materials({"loop": {"makeup": {"by": "spec", "spec": inner}}}, ("loop",))


def test_three_levels_of_nesting_on_the_command_line():
    data = encode(command(["evaluate", str(ROOT / "demo" / "specs" / "kumquat-fennel-soda.json")]))
    final = data["final"]
    oil_g = 180.0 * 0.012 / (1 + 1.15 + 0.012) * 0.5 / (1 + 0.5 + 3.5 + 0.5)
    litre = final["volume_ml"]["value"] / 1000
    assert 50 < 1000 * oil_g / litre < 300, "mg of oil per litre of drink, a usual load"
    assert data["steps"][-1]["properties"]["carbonation_g_l"]["value"] > 4
    assert any("essential oil" in caution for caution in final["cautions"])
