"""A lead tells what the house has: a scale that a card rounds to, a place with another name, a bottle described from its label, a procedure, a language."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE
from tests.browser.test_screens import said_by_axe

pytestmark = [pytest.mark.timeout(300), *BY_THE_SITE]


def amounts(page, card):
    """The weights on a card [g], as the scale shows them."""
    page.goto(card)
    page.get_by_role("article").wait_for()
    shown = page.get_by_role("article").locator(".figures").all_inner_texts()
    return [float(found[1].replace("\u00a0", "")) for text in shown if (found := re.match(r"([\d\u00a0.]+)\u00a0g\b", text))]


def coarser(page, base):
    page.goto(f"{base}/house/register")
    scales = page.get_by_role("region", name="Scales")
    scales.get_by_role("button", name="Change bench scale").click()
    scales.get_by_label("Reads to").fill("much")
    scales.get_by_role("button", name="Keep it").click()
    expect(scales.get_by_role("alert")).to_have_text("Write figures, such as 0.1.")
    scales.get_by_label("Reads to").fill("500")
    scales.get_by_role("button", name="Keep it").click()
    expect(scales.get_by_role("alert")).to_contain_text("from 0.0001 to 100 g")
    assert said_by_axe(page) == []
    scales.get_by_label("Reads to").fill("15")
    scales.get_by_role("button", name="Keep it").click()
    expect(scales).to_contain_text(re.compile(r"bench scale\s*15\sg"))


def renames(page, base, name, to):
    """Gives a place another name, and returns how many bottles stand there."""
    page.goto(f"{base}/house/register")
    places = page.get_by_role("region", name="Places and shelves")
    places.get_by_role("button", name=f"Change {name}").click()
    places.get_by_label("What it is called").fill(to)
    places.get_by_label("How warm it is, at most").fill("30")
    places.get_by_role("button", name="Keep it").click()
    row = places.get_by_role("listitem").filter(has_text=to)
    expect(row).to_contain_text("30")
    return int(re.search(r"(\d+) bottle", row.inner_text())[1])


def drops(page, base):
    page.goto(f"{base}/house/register")
    labels = page.get_by_role("region", name="Sizes of labels")
    labels.get_by_role("button", name="Take shelf strip off the list").click()
    expect(labels.get_by_text("shelf strip")).to_have_count(0)


def describes(page, base):
    page.goto(f"{base}/house/materials")
    page.get_by_role("button", name="New one").click()
    page.get_by_label("What it is called").fill("Quince nectar")
    page.get_by_role("combobox", name="What the label is for").click()
    page.get_by_role("option", name="in 100 mL").click()
    page.get_by_label("of which sugars").fill("180")
    expect(page.get_by_text("Check whether it is per 100 g or per 100 mL")).to_be_visible()
    page.get_by_label("of which sugars").fill("14")
    page.get_by_label("Acid, as citric").fill("0,6")
    # 14 g of sugars and 0.6 g of acid in 100 mL that weigh 105.5 g.
    expect(page.get_by_role("region", name="It reads so")).to_contain_text(re.compile(r"13\.[6-9]"))
    page.get_by_label("Nobody has read its label").uncheck()
    page.get_by_label("sulphites").check()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("form", name="Quince nectar")).to_be_visible()
    page.goto(f"{base}/stores")
    page.get_by_role("button", name="Take in a delivery").click()
    page.get_by_role("dialog").get_by_role("button", name="What is it?").click()
    page.get_by_label("Name of the material").fill("quince nec")
    page.get_by_role("button", name="Quince nectar").click()
    expect(page.get_by_role("dialog", name="Take in a delivery").get_by_role("button", name="Quince nectar")).to_be_visible()


def approves(page, base):
    page.goto(f"{base}/house/rules")
    hot = page.get_by_role("region", name="Hot filling")
    hot.get_by_role("button", name="Hot filling: add a procedure").click()
    for label, value in (
        ("What it is called", "hot cordial"),
        ("Filled at, at least", "60"),
        ("Held there", "3"),
        ("pH at most", "4"),
        ("Keeps, closed", "30"),
        ("Cap", "metal, with a liner"),
        ("Glass", "made for heat"),
        ("Your authority's word", "letter of 2 October"),
        ("Where that comes from", "our authority"),
    ):
        hot.get_by_label(label).fill(value)
    hot.get_by_role("button", name="Keep it").click()
    expect(hot.get_by_role("alert")).to_contain_text("from 80 to 100")
    hot.get_by_label("Filled at, at least").fill("88")
    hot.get_by_role("button", name="Keep it").click()
    expect(hot).to_contain_text("metal, with a liner · made for heat · letter of 2 October")
    words = page.get_by_role("region", name="Handfuls and dashes")
    words.get_by_role("button", name="Change what a handful is").click()
    words.get_by_label("Usually").fill("18")
    words.get_by_role("button", name="Keep it").click()
    expect(words.get_by_role("listitem").filter(has_text="handful")).to_contain_text("ours")


def test_what_the_house_has_is_told_once_and_goes_by_everywhere(hand):
    page, base = hand.page, hand.site.base
    hand.sign_in("ilse")
    lots = page.request.get(f"{base}/api/lots?limit=200").json()["items"]
    stands = next(lot for lot in lots if lot["place"])
    specs = page.request.get(f"{base}/api/specs").json()["items"]
    card = f"{base}/specs/{next(item['id'] for item in specs if item['name'] == 'Sea buckthorn cordial')}/card"
    fine = amounts(page, card)
    assert fine[:2] == [1000, 620]
    coarser(page, base)
    # 1 000 g is sixty-seven steps of 15 g; 620 g are too few of them, and go on the fine scale.
    assert amounts(page, card)[:2] == [1005, 620]
    count = renames(page, base, stands["place"], "the warm corner")
    assert count == sum(lot["place"] == stands["place"] for lot in lots)
    page.goto(f"{base}/lots/{stands['code']}")
    expect(page.get_by_role("region", name="What it is")).to_contain_text("the warm corner is up to 30")
    drops(page, base)
    describes(page, base)
    approves(page, base)
    page.goto(f"{base}/house/settings")
    page.get_by_role("combobox", name="Language of the cards").click()
    page.get_by_role("option", name="cards in Spanish").click()
    expect(page.get_by_role("combobox", name="Language of the cards")).to_contain_text("Spanish")
    page.goto(card)
    expect(page.locator("article[lang=es]")).to_be_visible()
