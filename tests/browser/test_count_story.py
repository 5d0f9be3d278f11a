"""A count of the shelf, as a maker walks it: one thing after another, what lacks in money, and where it stood the last time."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def test_a_count_walks_the_shelf_and_shows_the_gap_in_money(hand):
    page = hand.page
    hand.sign_in("ilse")
    crates = {}
    for name in ("Walked one", "Walked two", "Walked three"):
        box = {"material": "gum_arabic", "product": name, "supplier": "Osterlund Pantry", "price": "20", "pack_g": "1000", "packs": 1}
        crates[name] = hand.call("POST", "/stock", box)
        # A place of their own: what other stories have left lies elsewhere.
        hand.call("POST", f"/stock/{crates[name]['id']}/events", {"kind": "moved", "body": {"place": "gum drawer"}})
    hand.place("Stores")
    page.get_by_role("link", name="Count the shelf").click()
    drawer = page.get_by_role("region", name="gum drawer")
    expect(drawer.get_by_role("listitem")).to_have_count(3)
    expect(drawer.get_by_role("listitem").first).to_contain_text("Walked one")
    drawer.get_by_role("button", name=re.compile("Walked one")).click()
    here = page.get_by_role("region", name="The count")

    def count(amount):
        here.get_by_label("What is left").fill(amount)
        here.get_by_role("button", name="That is left").click()

    # Counted without what the books say, unless somebody wants to see it.
    expect(here).not_to_contain_text(re.compile("the books say [0-9]"))
    here.get_by_label("Show what the books say").check()
    expect(here).to_contain_text(re.compile("the books say 1.000.g"))
    count("some")
    expect(here).to_contain_text("“some” is no number")
    count("-3")
    expect(here).to_contain_text("from 0 g to a tonne")
    count("880")
    one = drawer.get_by_role("listitem").filter(has_text="Walked one")
    expect(one).to_contain_text(re.compile("120.g lack, €2.40"))
    expect(page.get_by_role("status")).to_contain_text(re.compile(r"lacks €\d+\.\d\d"))

    # The next is before the hand, and what was found over is not set off against what lacks.
    drawer.get_by_role("button", name=re.compile("Walked two")).click()
    count("1050")
    expect(drawer.get_by_role("listitem").filter(has_text="Walked two")).to_contain_text(re.compile("50.g over, €1.00"))
    drawer.get_by_role("button", name=re.compile("Walked three")).click()
    count("0")
    gone = drawer.get_by_role("listitem").filter(has_text="Walked three")
    expect(gone).to_contain_text(re.compile("1.000.g lack, €20.00"))

    # It is all there after a look elsewhere, and Stores says the same of what is left.
    page.reload()
    expect(one).to_contain_text(re.compile("120.g lack"))
    page.goto(f"{hand.site.base}/stores?find=gum drawer")
    found = page.get_by_role("list", name="Deliveries of Gum arabic powder")
    expect(found).to_contain_text(re.compile("880.g left"))
    expect(found).to_contain_text("gum drawer")
    expect(found).not_to_contain_text("Walked three")
