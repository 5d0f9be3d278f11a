"""The menu over HTTP: pour costs at the prices of today, drinks without a price, the allergen sheet on screen, on paper and as a table."""

import csv
import io
from copy import deepcopy
from decimal import Decimal

import pytest
from django.utils import timezone
from pypdf import PdfReader

from tests.core.cordial import FORM, JUICE
from tests.site.drinks import published_drink
from tests.site.test_judgements_api import BARK
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.projection import material_key_of

ENTRY = {"first": "2026-01-01", "price": "12.10", "tax_percent": "21", "garnish": "kumquat", "garnish_cost": "0.15", "spill_percent": "5"}


@pytest.fixture
def bar(place):
    """A house with a cordial, a drink of it, and a delivery of its juice at a price."""
    place.cordial = place.spec()
    place.drink = published_drink(place.members["lead"], "Bergamot long", material_key_of(place.cordial.key))
    place.item = place.delivery()
    return place


def put(place, spec, **said):
    return place.apis["lead"].call("put", f"/plan/menu/{spec.pk}", {**ENTRY, **said})


def menu(place, role="reader", day="2026-12-02"):
    answer = place.apis[role].get(f"/plan/menu?day={day}")
    assert answer.status_code == 200, answer.content
    return answer.data


def cost_of(place):
    (row,) = menu(place)["rows"]
    return row["cost"]


def test_a_drink_costs_what_its_materials_cost_today(bar):
    assert [row["name"] for row in menu(bar)["addable"]] == ["Bergamot long"]
    assert put(bar, bar.drink).status_code == 204
    (row,) = menu(bar)["rows"]
    assert (row["is_on"], row["withdrawn"]) == (True, False)
    before = row["cost"]
    assert Decimal(before["net_price"]) == 10
    assert Decimal(before["total"]) == sum(Decimal(before[part]) for part in ("materials", "spill", "garnish"))
    assert Decimal(before["share_percent"]) == (10 * Decimal(before["total"])).quantize(Decimal("0.1"))
    # The juice of the cordial gets dearer: so does the drink, without a new version of anything.
    dearer = {"material": JUICE, "product": "Pressed", "supplier": "Yard", "price": "90", "pack_g": "1000", "packs": 1}
    assert bar.apis["lead"].post("/stock", dearer).status_code == 201
    assert Decimal(cost_of(bar)["materials"]) > 2 * Decimal(before["materials"])
    share = FORM["steps"][0]["lines"][0]
    assert share["material"] == JUICE, "the cordial is of that juice"


def test_a_menu_without_prices_says_what_is_not_known(bar):
    assert put(bar, bar.drink, price=None).status_code == 204
    found = menu(bar)
    (row,) = found["rows"]
    assert found["without_price"] == 1
    assert (row["cost"]["net_price"], row["cost"]["share_percent"], row["cost"]["margin"]) == (None, None, None)
    assert Decimal(row["cost"]["total"]) > 0
    assert row["unpriced"] == ["White sugar", "Malic acid"]
    # What came without a price costs what was paid last, whether or not any of that is left.
    gift = {"material": JUICE, "product": "Gift", "supplier": "Yard", "pack": "1 L"}
    assert bar.apis["lead"].post("/stock/many", {"items": [gift]}).status_code == 201
    bar.house.stockitem_set.filter(material=JUICE, price__isnull=False).update(gone_at=timezone.now())
    assert menu(bar)["rows"][0]["cost"] == row["cost"]
    # A material whose price nobody knows is named, and not taken for free in silence.
    bar.house.stockitem_set.update(price=None)
    assert menu(bar)["rows"][0]["unpriced"] == ["Sea buckthorn juice", "White sugar", "Malic acid"]


def test_what_cannot_stand_on_a_menu_is_refused(bar):
    def refused(spec, **said):
        answer = put(bar, spec, **said)
        assert answer.status_code == 422, answer.content
        return answer.data["where"]

    assert refused(bar.drink, last="2025-12-31") == "last"
    assert refused(bar.drink, price="0") == "price"
    assert refused(bar.drink, price="12.105") == "price", "nothing is rounded in silence"
    assert refused(bar.drink, spill_percent="60") == "spill_percent"
    assert refused(bar.drink, garnish="x" * 100) == "garnish"
    assert refused(bar.cordial) == "spec", "a prep is no drink"
    never = start_spec(bar.members["lead"], NewSpec("Not yet", "drink"), None)
    assert refused(never) == "spec"
    assert menu(bar)["rows"] == []
    assert bar.apis["lead"].call("delete", f"/plan/menu/{bar.drink.pk}").status_code == 404


def test_the_sheet_has_every_drink_of_the_day_on_screen_on_paper_and_as_a_table(bar):
    lead = bar.members["lead"]
    nuts = deepcopy(BARK) | {"id": "nut-base", "name": "Nut base", "family": "nut_puree"}
    nuts["steps"][1]["lines"][0] = {"id": "nut", "material": "hazelnuts", "amount": {"kind": "fixed", "mass_g": 100}}
    publish_spec(lead, start_spec(lead, NewSpec("Nut base", "nut_puree"), nuts).pk, 1, "first")
    nut = published_drink(lead, "=Nut long", "nut_base", 40)
    for drink, said in ((bar.drink, {}), (nut, {"last": "2026-12-02"})):
        assert put(bar, drink, **said).status_code == 204
    reader = bar.apis["reader"]
    found = reader.get("/plan/allergens?day=2026-12-02").data
    marks = {row["name"]: dict(zip(found["sheet"]["allergens"], row["marks"], strict=True)) for row in found["sheet"]["rows"]}
    assert marks["=Nut long"]["nuts"] == "holds"
    assert marks["Bergamot long"]["nuts"] == "gear", "it shares the pot with the nut base"
    table = list(csv.reader(io.StringIO(reader.get("/plan/allergens.csv?day=2026-12-02").content.decode())))
    assert [row[3] for row in table] == ["drink", "'=Nut long", "Bergamot long"], "no cell is a formula"
    assert table[1][1] == "2026-12-02" and table[1][table[0].index("nuts")] == "holds"
    paper = PdfReader(io.BytesIO(reader.get("/plan/allergens.pdf?day=2026-12-02").content))
    text = " ".join(" ".join(page.extract_text() for page in paper.pages).split())
    assert "Wednesday 02 December 2026" in text and "=Nut long: It holds nuts (Nut base, from Hazelnuts, toasted)" in text
    # The day after only one of them is on the menu.
    after = reader.get("/plan/allergens?day=2026-12-03").data["sheet"]["rows"]
    assert [row["name"] for row in after] == ["Bergamot long"]
    assert bar.apis["lead"].call("delete", f"/plan/menu/{nut.pk}").status_code == 204
    assert [row["name"] for row in menu(bar)["rows"]] == ["Bergamot long"]
