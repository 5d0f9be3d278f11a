"""What comes in at the edge: read strictly, kept whole or refused at its place, and ids that differ in anything are two."""

from decimal import Decimal

import pytest

from tests.site.conftest import event
from tests.site.test_batches_api import send, state
from tests.site.test_lots_api import bottled
from ulsek.batches.models import RunEvent
from ulsek.citrus.actions.receive_case import NewCase, receive_case
from ulsek.citrus.models import FruitSample
from ulsek.stores.models import StockItem


@pytest.mark.parametrize(
    ("body", "why"),
    [
        ('{"left_g": NaN}', "NaN is no number"),
        ('{"left_g": 1e400}', "1e400 is too large a number"),
        (r'{"reason": "\ud800"}', "a letter is only half there (a lone surrogate)"),
        ("[" * 40 + "]" * 40, "it goes more than 20 levels deep"),
        ('{"left_g": 1, "left_g": 2}', "“left_g” stands twice"),
    ],
)
def test_a_body_that_cannot_be_taken_is_refused_in_words(place, body, why):
    item = place.delivery()
    client = place.apis["maker"].client
    answer = client.post(f"/api/stock/{item.pk}/events", f'{{"kind": "counted", "body": {body}}}', content_type="application/json")
    assert (answer.status_code, answer.json()["detail"]) == (422, f"This cannot be read as JSON: {why}. Send it as it was written.")
    assert StockItem.objects.get(pk=item.pk).remaining_g == 4000


@pytest.mark.parametrize("text", ["NaN", "inf", "-Infinity", "1e999"])
def test_a_number_that_is_none_is_refused_where_it_comes_as_text_too(place, text):
    assert place.apis["maker"].post("/citrus/oil-sugar", {"fruit": "lemon", "peel_g": text}).status_code == 422
    assert place.apis["lead"].get(f"/specs/{place.spec().pk}/card?volume_ml={text}").status_code == 422


def test_ids_that_differ_in_case_accent_or_a_blank_are_two(place):
    run = place.run(mass_g=1000)
    ids = ["note-a", "NOTE-A", "note-a ", "nöte-a", "note-á"]
    sent = [{**event("noted", text=name), "id": name} for name in ids]
    assert state(send(place, run, *sent))
    assert set(RunEvent.objects.filter(run=run, data__kind="noted").values_list("id", flat=True)) == set(ids)
    assert state(send(place, run, *sent))
    assert RunEvent.objects.filter(run=run, data__kind="noted").count() == len(ids), "sent again each is known"


def test_a_lot_is_found_by_its_code_in_small_letters_too(place):
    lot = bottled(place)
    changed = place.apis["maker"].post(f"/lots/{lot.code.lower()}/events", {"kind": "moved", "body": {"place": "well"}})
    assert (changed.status_code, changed.data["place"]) == (200, "well")


def test_fruit_that_gave_no_juice_is_refused_and_what_was_once_kept_breaks_nothing(place):
    api, member = place.apis["maker"], place.members["maker"]
    case = receive_case(member, "lemon", NewCase(supplier="Hagedorn", count=80, weight_g=9600.0, price=Decimal(20)))
    refused = api.post(f"/citrus/cases/{case.pk}/samples", {"count": 5, "juice_ml": 0})
    assert (refused.status_code, refused.data["where"]) == (422, "juice_ml")
    FruitSample.objects.create(case=case, count=5, juice_ml=0.0, at=case.came_at, by=member.person)
    for path in ("/citrus/cases", "/citrus/varieties", "/citrus/record/lemon", "/citrus/ledger"):
        assert api.get(path).status_code == 200


@pytest.mark.parametrize(
    ("path", "body", "where", "most"),
    [
        ("/stock", {"product": "x" * 81}, "product", 80),
        ("/stock", {"supplier": "x" * 81}, "supplier", 80),
        ("/stock", {"colour": "x" * 81}, "colour", 80),
        ("/stock/{stock}/recall", {"why": "x" * 301}, "why", 300),
        ("/specs/{spec}/versions/1/scores", {"score": 7, "note": "x" * 501}, "note", 500),
        ("/specs/{spec}/versions/1/withdraw", {"why": "x" * 301}, "why", 300),
    ],
)
def test_a_text_that_is_too_long_is_refused_whole_and_one_that_just_fits_is_kept(place, path, body, where, most):
    item, spec = place.delivery(), place.spec()
    usual = (
        {"material": item.material, "product": "Pressed", "supplier": "Hagedorn", "price": "3", "pack_g": "1000"}
        if path == "/stock"
        else {}
    )
    address = path.format(stock=item.pk, spec=spec.pk)
    refused = place.apis["lead"].post(address, {**usual, **body})
    assert (refused.status_code, refused.data["where"], refused.data["detail"]) == (
        422,
        where,
        f"That is {most + 1} letters: at most {most}. Say it shorter; nothing is cut off.",
    )
    fits = place.apis["lead"].post(address, {**usual, **body, where: body[where][:most]})
    assert fits.status_code in (200, 201), fits.content
