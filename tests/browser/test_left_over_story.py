"""What today leaves over, as its people use it: the skin of what is pressed is seen in time, and one press gives it to the oil-sugar."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE
from tests.browser.plan_house import FRIDAY, from_now, plan

__all__ = ["plan"]
pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def test_the_peel_of_what_is_pressed_is_taken_by_an_oil_sugar(hand, plan):
    page = hand.page
    for name in ("Ilse M.", "Jonas"):
        plan.hours(name, from_now(8), FRIDAY, between=("12:00", "19:30"))
    plan.hours("Noor", None, None)
    fruit = {"material": "bergamot", "product": "Bergamot", "supplier": "Calder Citrus Yard", "price": "28", "pack_g": "5000", "packs": 2}
    hand.call("POST", "/stock", fruit)
    # Of peel nothing is here.
    for item in hand.call("GET", "/stock?find=peel")["items"]:
        if item["material"] == "bergamot_peel":
            hand.call("POST", f"/stock/{item['id']}/events", {"kind": "counted", "body": {"left_g": 0}})
    week = [700 if day == plan.today.weekday() else 0 for day in range(7)]
    hand.call("PUT", f"/plan/pars/{plan.specs['Bergamot, pressed']}", {"must_ml": week})
    page.goto(f"{hand.site.base}/plan")
    left = page.get_by_role("region", name="Left over today")
    peel = left.get_by_role("listitem").filter(has_text="Bergamot peel").first
    expect(peel).to_contain_text(re.compile(r"\d+.g"))
    expect(peel).to_contain_text("from Bergamot, pressed, until")
    expect(peel).to_contain_text(re.compile(r"Bergamot oil-sugar, \d bottle"))
    expect(peel).to_contain_text(re.compile(r"min.* · saves €\d+\.\d\d"))

    # One press puts it on the list, made of what is left over: no peel is ordered.
    peel.get_by_role("button", name=re.compile("^Put Bergamot oil-sugar on the list")).click()
    listed = page.get_by_role("region", name="Today, in order").get_by_role("listitem").filter(has_text="Bergamot oil-sugar")
    expect(listed).to_contain_text("put on the list")
    expect(peel).to_contain_text("on the list")
    expect(peel.get_by_role("button")).to_have_count(0)
    expect(page.get_by_role("region", name="To order")).not_to_contain_text("peel")

    # Said otherwise, it is off the list again.
    oil = plan.specs["Bergamot oil-sugar"]
    hand.call("DELETE", f"/plan/today/{oil}")
    page.reload()
    expect(peel.get_by_role("button", name=re.compile("^Put Bergamot oil-sugar"))).to_be_visible()
