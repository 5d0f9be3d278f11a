"""The register over HTTP: what is refused, what goes with a new name, and what a scale, a place, a label and a language change elsewhere."""

import pytest

from tests.site.test_clearances import finishes
from ulsek.batches.actions.keep_register import MOST_ENTRIES
from ulsek.batches.models import Lot
from ulsek.stores.models import StockItem
from ulsek.team.models import HistoryRow, RegisterRow


def kept(place, kind, name, role="lead", **figures):
    return place.apis[role].post("/register", {"kind": kind, "name": name, "figures": figures})


def named(place, kind):
    return {row["name"]: row for row in place.apis["reader"].get(f"/register?kind={kind}").data["items"]}


def test_a_place_that_gets_another_name_takes_along_what_stands_there(place):
    finishes(place, place.run(place.spec(), mass_g=500), "maker")
    lot = Lot.objects.filter(what="").get()
    maker, lead = place.apis["maker"], place.apis["lead"]
    assert maker.post(f"/lots/{lot.code}/events", {"kind": "moved", "body": {"place": "shelf 2"}}).data["too_warm"] == ""
    elsewhere = Lot.objects.exclude(pk=lot.pk).values_list("pk", "place")
    before = dict(elsewhere)
    entry = kept(place, "place", "Shelf 2", at_c=lot.keep_c + 1).data
    assert entry["holds"] == 1
    told = maker.get(f"/lots/{lot.code}").data["too_warm"]
    assert told.startswith("shelf 2 is up to"), told
    path = f"/register/{entry['id']}"
    changed = lead.call("put", path, {"kind": "scale", "name": "cold room", "figures": {"at_c": lot.keep_c}})
    assert (changed.data["kind"], changed.data["name"], changed.data["holds"]) == ("place", "cold room", 1), "its kind stays"
    again = maker.get(f"/lots/{lot.code}").data
    assert (again["place"], again["too_warm"]) == ("cold room", "")
    assert dict(elsewhere.all()) == before
    assert HistoryRow.objects.filter(action="keep_entry").latest("at").detail["moved"] == 1
    assert lead.call("delete", path).status_code == 204
    assert maker.get(f"/lots/{lot.code}").data["place"] == "cold room", "what stands there keeps its place"
    assert lead.call("delete", path).status_code == 404


def test_a_supplier_that_gets_another_name_takes_its_deliveries_along_and_nobody_elses(place):
    theirs = {"material": "water", "product": "x", "price": "1", "pack_g": "1", "supplier": "Marrow Hill"}
    assert place.apis["maker"].post("/stock", theirs).status_code == 201
    other = place.apis["stranger"].post("/stock", theirs)
    assert other.status_code == 201
    entry = kept(place, "supplier", "Marrow Hill").data
    assert entry["holds"] == 1
    renamed = place.apis["lead"].call("put", f"/register/{entry['id']}", {"kind": "supplier", "name": "Marrow Hill Apiary", "figures": {}})
    assert renamed.data["holds"] == 1
    assert set(StockItem.objects.filter(product="x").values_list("house", "supplier")) == {
        (place.house.pk, "Marrow Hill Apiary"),
        (place.other.pk, "Marrow Hill"),
    }


def test_a_name_is_there_once_a_kind_and_a_register_is_never_too_full_in_silence(place):
    assert kept(place, "pot", "wide", pot_cm=32).status_code == 201
    twice = kept(place, "pot", "wide", pot_cm=30)
    assert (twice.status_code, twice.data["where"], twice.data["code"]) == (422, "name", "twice")
    assert kept(place, "place", "wide").status_code == 201
    for kind, figures, where in (("pot", {}, "figures/pot_cm"), ("pot", {"pot_cm": 1e9}, "figures/pot_cm"), ("oven", {}, "kind")):
        wrong = kept(place, kind, "other", **figures)
        assert (wrong.status_code, wrong.data["where"]) == (422, where)
    RegisterRow.objects.bulk_create(RegisterRow(house=place.house, kind="jigger", name=f"j{n}") for n in range(MOST_ENTRIES - 2))
    full = kept(place, "supplier", "one more")
    assert (full.status_code, full.data["where"], full.data["code"]) == (422, "name", "too_long")


def test_cards_sums_and_the_bench_go_by_the_scales_the_jiggers_and_the_dropper_of_the_house(place):
    spec, lead, reader = place.spec(), place.apis["lead"], place.apis["reader"]
    card = f"/specs/{spec.pk}/card"

    def amounts():
        return {line["name"]: line["amount"] for step in reader.get(card).data["steps"] for line in step["lines"]}

    usual = amounts()
    for name, figure in (("bench", 50), ("pocket", 0.5)):
        assert kept(place, "scale", name, resolution_g=figure).status_code == 201
    ours = amounts()
    weights = {name: float(amount.replace("\u00a0", " ").removesuffix(" g").replace(" ", "")) for name, amount in ours.items()}
    assert ours != usual
    assert all(mass % 0.5 == 0 for mass in weights.values() if mass >= 25), weights
    assert reader.get(f"{card}?resolution_g=1").data["steps"] != reader.get(card).data["steps"], "whoever asks for a scale gets it"

    def asked(name):
        return {ask["usual"] for item in reader.get("/sums").data for ask in item["asks"] if ask["name"] == name}

    assert asked("scale_g") == {0.5}
    assert asked("drop") == {0.05}
    assert kept(place, "dropper", "pipette", drop_ml=0.04).status_code == 201
    assert asked("drop") == {0.04}
    fine = {"strength": 6, "volume": 100, "citric": 100}
    assert "0.5 g" in " ".join(reader.post("/sums/acid_solution", {"figures": fine}).data["remarks"])
    before = reader.get("/house-bundle").headers["ETag"]
    assert kept(place, "jigger", "small", measure_ml=25).status_code == 201
    bundle = reader.get("/house-bundle")
    assert bundle.data["equipment"] == {"scales_g": [50, 0.5], "jiggers_ml": [25], "drop_ml": 0.04}
    assert bundle.headers["ETag"] != before, "a browser that has kept the bundle asks for it again"
    assert lead.call("put", "/house/units", {"beside": "volume", "locale": "metric", "language": "es"}).data["language"] == "es"
    assert reader.get(card).data["language"] == "es"
    assert reader.get(f"{card}?language=en").data["language"] == "en"
    assert lead.call("put", "/house/units", {"beside": "volume", "locale": "metric"}).data["language"] == "es", "left as it is"
    unknown = lead.call("put", "/house/units", {"beside": "volume", "locale": "metric", "language": "tlh"})
    assert (unknown.status_code, unknown.data["where"]) == (422, "language")


@pytest.mark.parametrize(
    ("size", "answer"), [("90x45", 200), ("39x45", 422), ("90x24", 422), ("211x45", 422), ("0090x45", 422), ("９０x45", 422)]
)
def test_a_label_is_printed_in_any_size_that_a_register_may_hold(place, size, answer):
    finishes(place, place.run(place.spec(), mass_g=500), "maker")
    lot = Lot.objects.filter(what="").get()
    assert place.apis["reader"].get(f"/lots/{lot.code}/label.pdf?size={size}").status_code == answer
