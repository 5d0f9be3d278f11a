"""A till's file, as a lead uses it: what its columns and names are is said once, what was sold proposes a par, and a corrected file takes its place."""

import re
from datetime import timedelta

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE
from tests.browser.plan_house import plan

__all__ = ["plan"]
pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def table(plan, **sold):
    """So many of each sold on each of the last 28 days that are over, as a till of another country writes it."""
    days = [plan.today - timedelta(days=n) for n in range(1, 29)]
    rows = [f"{day:%d.%m.%Y};{name};{count}" for day in days for name, count in sold.items()]
    return {"name": "till.csv", "mimeType": "text/csv", "buffer": "\n".join(["Datum;Was;Menge", *rows]).encode()}


def test_what_the_till_sold_proposes_a_par(hand, plan):
    page = hand.page
    page.goto(f"{hand.site.base}/plan/pars")
    till = page.get_by_role("region", name="From the till")
    till.get_by_label("The till's file").set_input_files(table(plan, Kir=5, Silk=10))
    expect(till.get_by_role("status")).to_contain_text("No column says what was sold")
    expect(till.get_by_role("button", name="Take it in")).to_be_disabled()
    till.get_by_label("What “Was” is").click()
    page.get_by_role("option", name="what was sold").click()
    expect(till).to_contain_text("56 lines")
    till.get_by_label("What “Silk” is").click()
    page.get_by_role("option", name="Hazelnut silk").click()
    till.get_by_role("button", name="Take it in").click()
    expect(till.get_by_role("status")).to_contain_text("28 days were taken in. Left out: Kir.")

    # Ten drinks a day, by what one takes of the milk.
    milk = hand.call("GET", "/plan/pars")
    (by_use,) = [one["by_use"] for one in milk if one["name"] == "Hazelnut milk"]
    assert by_use["days"] == 28 and min(by_use["must_ml"]) > 0, by_use
    shown = page.get_by_role("listitem").filter(has_text="Hazelnut milk")
    expect(shown).to_contain_text(re.compile(rf"By what was used: {by_use['must_ml'][0]:g}"))
    shown.get_by_role("button", name="Take the par by use for Hazelnut milk").click()
    expect(shown.get_by_label("Hazelnut milk on Monday")).to_have_value(f"{by_use['must_ml'][0]:g}")

    # The same till again: nothing is asked anew, and what it says of those days takes the place of what it said.
    page.reload()
    till.get_by_label("The till's file").set_input_files(table(plan, Kir=5, Silk=0))
    expect(till.get_by_label("What “Silk” is")).to_contain_text("Hazelnut silk")
    till.get_by_role("button", name="Take it in").click()
    expect(till.get_by_role("status")).to_contain_text("28 days were taken in.")

    # Whatever else the till sells can be said too, however much it is.
    many = table(plan, **{f"Dish_{n}": 1 for n in range(70)})
    till.get_by_label("The till's file").set_input_files(many)
    called = till.get_by_role("list", name="What the till calls things")
    expect(called.get_by_role("listitem")).to_have_count(60)
    till.get_by_role("button", name="Show 10 more names").click()
    expect(called.get_by_role("listitem")).to_have_count(70)
