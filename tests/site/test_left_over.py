"""What today leaves over, over HTTP: the skin of what is juiced, its taker with one press, and a list that neither orders it nor counts on it twice."""

from datetime import timedelta
from decimal import Decimal

import pytest

from tests.site.test_planning import hours, par, planned, today
from ulsek.core.materials.shipped import shipped_bodies
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery

__all__ = ["planned"]
BOTTLE = {"verb": "bottle", "bottle_ml": 250, "head_room_percent": 5, "keep_c": 4}


def spec(place, name, *steps):
    """A published spec of these steps in a jug."""
    body = {
        "format": "ulsek.spec",
        "version": 1,
        "id": name.lower().replace(" ", "-"),
        "name": name,
        "family": "other",
        "serve_ml": 20,
        "vessels": [{"id": "jug", "name": "jug", "capacity_ml": 3000}],
        "steps": [{"id": f"s{n}", "vessel": "jug", **step} for n, step in enumerate(steps)],
    }
    made = start_spec(place.members["lead"], NewSpec(name, "other"), body)
    publish_spec(place.members["lead"], made.pk, 1, "first")
    return made


def line(material, grams):
    return {"id": material.replace("_", "-"), "material": material, "amount": {"kind": "fixed", "mass_g": grams}}


@pytest.fixture
def juicing(planned):
    """A house that presses bergamots today, with fruit for it, and an oil-sugar of peel that has to be bought."""
    lead = planned.members["lead"]
    planned.pressed = spec(
        planned, "Pressed bergamot", {"verb": "wash", "lines": [line("bergamot", 2000)]}, {"verb": "juice", "by_product": "pulp"}, BOTTLE
    )
    sugar = [line("bergamot_peel", 300), line("caster_sugar", 300), line("water", 200)]
    planned.oil = spec(planned, "Oil sugar", {"verb": "combine", "lines": sugar}, {"verb": "strain", "by_product": "spent peel"}, BOTTLE)
    for material, packs in (("bergamot", 3), ("bergamot_peel", 1)):
        receive_delivery(lead, material, Delivery(product=material, supplier="Yard", price=None, pack_g=Decimal(2000), packs=packs))
    peel = planned.house.stockitem_set.get(material="bergamot_peel")
    peel.remaining_g = 0
    peel.price = 30
    peel.save()
    hours(planned, "maker")
    assert par(planned, [400] * 7, planned.pressed).status_code == 204
    return planned


def test_the_skin_of_what_is_pressed_is_taken_by_one_press_and_not_bought(juicing):
    found = today(juicing)
    peel = next(one for one in found["left_over"] if one["key"] == "bergamot_peel")
    (taker,) = peel["takers"]
    assert (peel["source"], taker["name"], taker["is_listed"]) == ("Pressed bergamot", "Oil sugar", False)
    assert float(taker["saves"]) == pytest.approx(taker["takes_g"] / 1000 * 15, abs=0.01), "a pack of 2 kg costs 30"
    spec_id = found["preps"][taker["key"]]["spec"]
    assert spec_id == str(juicing.oil.pk)
    assert not [one for one in found["left_over"] if one["key"] == "bergamot_zest"], "the other part of a skin that has a taker is not told"
    wish = {"extra": True, "bottles": taker["bottles"]}
    assert juicing.apis["maker"].call("patch", f"/plan/today/{spec_id}", wish).status_code == 204
    after = today(juicing)
    (made,) = [one for one in after["list"]["lines"] if one["name"] == "Oil sugar"]
    pressed = next(one for one in after["list"]["lines"] if one["name"] == "Pressed bergamot")
    assert made["is_extra"] and made["start_by"] >= pressed["start_by"]
    assert "bergamot_peel" not in {one["material"] for order in after["orders"] for one in order["lines"]}
    (listed,) = [one for one in after["left_over"] if one["key"] == "bergamot_peel"]
    assert listed["takers"][0]["is_listed"]
    # A reader sees it and puts nothing on the list.
    assert juicing.apis["reader"].call("patch", f"/plan/today/{spec_id}", wish).status_code == 403


def test_a_delivery_that_expires_is_offered_and_one_that_keeps_or_was_recalled_is_not(juicing):
    stock = juicing.house.stockitem_set
    crate = stock.get(material="bergamot")
    assert not [one for one in today(juicing)["left_over"] if one["key"] == "bergamot"]
    # The house says how long its fruit keeps: on the tenth day it turns.
    juicing.house.housematerial_set.create(key="bergamot", body={**shipped_bodies()["bergamot"], "keeps_days": 10})
    assert not [one for one in today(juicing)["left_over"] if one["key"] == "bergamot"]
    stock.filter(pk=crate.pk).update(received_at=crate.received_at - timedelta(days=9))
    (found,) = [one for one in today(juicing)["left_over"] if one["key"] == "bergamot"]
    # What is pressed today is taken off it.
    assert found["source"] == crate.code and 0 < found["mass_g"] < 6000
    assert [one["name"] for one in found["takers"]] == ["Pressed bergamot"]
    stock.filter(pk=crate.pk).update(recalled="glass")
    assert not [one for one in today(juicing)["left_over"] if one["key"] == "bergamot"]
