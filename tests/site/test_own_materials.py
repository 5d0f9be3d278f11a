"""Materials that a house describes itself, over HTTP: new ones, its own figures for what ships, and what becomes of the specs."""

from ulsek.core.materials.shipped import shipped_bodies
from ulsek.specs.models import Spec
from ulsek.stores.models import HouseMaterial

LABEL = {"by": "label", "per": "100 mL", "sugars_g": 65, "sugar_split": {"sucrose": 1}, "source": "its label, read today"}
BODY = {"name": "Quince nectar", "kind": "juice", "makeup": LABEL, "allergens": ["sulphites"]}


def listed(api, **asked):
    found = "&".join(f"{name}={value}" for name, value in asked.items())
    return {row["key"]: row for row in api.get(f"/materials?limit=200&{found}").data["items"]}


def test_a_bottle_that_is_bought_is_described_from_its_label_and_then_poured_into_a_spec(place):
    lead, maker = place.apis["lead"], place.apis["maker"]
    read = lead.post("/read-material", {"body": BODY})
    assert abs(read.data["figures"]["brix"]["value"] - 52.31) < 0.01
    assert not HouseMaterial.objects.exists(), "a look stores nothing"
    made = lead.post("/materials", {"body": BODY})
    assert (made.status_code, made.data["own"], made.data["ships"]) == (201, True, False)
    key = made.data["key"]
    assert made.data["body"]["makeup"] == LABEL, "as it was typed, to be changed again"
    assert list(listed(lead, of="own")) == [key]
    assert maker.post("/stock", {"material": key, "product": "Nectar", "price": "4", "pack_g": "1000"}).status_code == 201
    again = lead.post("/materials", {"body": {**BODY, "name": "QUINCE  nectar"}})
    assert (again.status_code, again.data["where"], again.data["code"]) == (422, "name", "taken")
    other = lead.post("/materials", {"body": {**BODY, "name": "Quince (nectar)"}})
    assert other.data["key"] != key, "another name under a key of its own"
    refused = lead.call("put", f"/materials/{key}", {"body": {**BODY, "makeup": {**LABEL, "sugars_g": 650}}})
    assert (refused.status_code, refused.data["where"]) == (422, "makeup/sugars_g")
    assert lead.call("delete", f"/materials/{key}").data["code"] == "in_use", "it stands in Stores"
    assert lead.call("delete", f"/materials/{other.data['key']}").status_code == 204
    assert place.apis["stranger"].get(f"/materials/{key}").status_code == 404


def test_figures_of_our_own_stand_for_typical_ones_in_this_house_until_they_are_taken_back(place):
    lead, spec = place.apis["lead"], place.spec()
    form = {**spec.draft.body}

    def brix(api):
        return api.post("/evaluate", {"spec": form}).data["final"]["brix"]["value"]

    ours, theirs = brix(lead), brix(place.apis["stranger"])
    file = lead.get("/materials/white_sugar").data
    assert (file["own"], file["ships"]) == (False, True)
    damp = {"by": "substance", "g_per_100g": {"sucrose": 80}, "source": "stood open"}
    kept = lead.call("put", "/materials/white_sugar", {"body": {**file["body"], "makeup": damp}})
    assert (kept.data["own"], kept.data["body"]["defined"]) == (True, False)
    assert brix(lead) < ours - 1
    assert brix(place.apis["stranger"]) == theirs
    assert lead.call("delete", "/materials/white_sugar").status_code == 204, "though specs use it: what ships counts again"
    assert brix(lead) == ours


def test_what_a_spec_makes_and_what_can_hurt_somebody_are_not_written_over(place):
    lead, spec = place.apis["lead"], place.spec()
    made = Spec.objects.get(pk=spec.pk).key.replace("-", "_")
    file = lead.get(f"/materials/{made}").data
    assert (file["made_by"], file["own"]) == (spec.key, False)
    assert lead.call("put", f"/materials/{made}", {"body": BODY}).data["code"] == "made_here"
    assert made in listed(lead, find=spec.name)
    assert made not in listed(lead, find=spec.name, of="bought")
    assert made not in listed(lead, of="own")
    milk = next(key for key, body in shipped_bodies().items() if "milk" in (body.get("allergens") or ()))
    body = {**lead.get(f"/materials/{milk}").data["body"], "allergens": []}
    refused = lead.call("put", f"/materials/{milk}", {"body": body})
    assert (refused.status_code, refused.data["where"], refused.data["code"]) == (422, "allergens", "hazard")
    assert not HouseMaterial.objects.filter(key=milk).exists()
    assert lead.call("put", "/materials/nowhere", {"body": BODY}).data["code"] == "unknown_material"
