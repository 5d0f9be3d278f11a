"""An order as its people use it: the list lacks fruit, it is ordered, comes short and dearer at the door, and the list says so."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE
from tests.browser.plan_house import FRIDAY, from_now, plan

__all__ = ["plan"]
pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def test_a_crate_comes_short_the_list_changes_and_the_rest_is_ordered(hand, plan):
    page = hand.page
    for name in ("Ilse M.", "Jonas"):
        plan.hours(name, from_now(8), FRIDAY, between=("12:00", "19:30"))
    plan.hours("Noor", None, None)
    plan.stock(white_sugar=10, fennel_fronds=2, citric_acid=2)
    plan.must(Gooseberry_and_fennel_cordial=9000)
    page.goto(f"{hand.site.base}/plan")
    order = page.get_by_role("region", name="To order")
    line = order.get_by_role("listitem").filter(has_text="Gooseberry juice")
    expect(line).to_contain_text("for Gooseberry and fennel cordial")
    packs = int(re.match(r"(\d+) ×", line.inner_text())[1])
    assert packs >= 3

    # It is ordered: nothing of it lacks any more, and the order goes out as text.
    order.get_by_role("button", name=re.compile("^Order from ")).click()
    sheet = page.get_by_role("dialog")
    count = sheet.get_by_label("Packs of Gooseberry juice")
    expect(count).to_have_value(str(packs))
    count.fill("0.5")
    expect(sheet.get_by_role("button", name="It is ordered")).to_be_disabled()
    count.fill(str(packs))
    sheet.get_by_role("button", name="It is ordered").click()
    text = page.request.get(sheet.get_by_role("link", name="As text, to be sent").evaluate("link => link.href")).text()
    assert re.search(rf"{packs} × 1\.00.kg .*[Gg]ooseberry", text)
    page.keyboard.press("Escape")
    coming = page.get_by_role("region", name="On its way")
    expect(coming).to_contain_text(re.compile(rf"{packs} × 1\.00"))
    expect(line).to_have_count(0)

    # At the door one is mouldy and the rest is dearer; what is lacking is wanted again.
    coming.get_by_role("button", name=re.compile("^Take in what came from ")).click()
    sheet.get_by_label(re.compile("^Packs of .* that are taken")).fill(str(packs - 2))
    sheet.get_by_label(re.compile("^Price of a pack of ")).fill("9,99")
    sheet.get_by_label(re.compile("^Why .* was refused")).fill("mouldy")
    sheet.get_by_role("button", name="Take it in").click()
    expect(sheet).to_be_hidden()
    expect(coming).to_contain_text(f"{packs - 2} of {packs} taken, the rest refused: mouldy")
    expect(coming).to_contain_text("9.99 a pack instead of")
    expect(line).to_contain_text("2 × 1.00")
    came = next(item for item in hand.call("GET", "/stock?find=gooseberry")["items"] if item["price"] == "9.99")
    assert float(came["remaining_g"]) == 1000.0 * (packs - 2)

    # And the rest is ordered.
    order.get_by_role("button", name=re.compile("^Order from ")).click()
    sheet.get_by_role("button", name="It is ordered").click()
    expect(sheet.get_by_role("link", name="Print it")).to_be_visible()
    page.keyboard.press("Escape")
    expect(line).to_have_count(0)
    expect(coming.get_by_role("button", name=re.compile("^Take back the order"))).to_have_count(1)
    coming.get_by_role("button", name=re.compile("^Take back the order")).click()
    expect(line).to_contain_text("2 × 1.00")

    # What came is gone again, so that the next story finds as little of it as this one.
    hand.call("POST", f"/stock/{came['id']}/events", {"kind": "counted", "body": {"left_g": 0}})
