"""Citrus as the maker does it: a case in, ten measured, a plan, a bad sample, a new plan, cut, and the ledger right; a stretch compared."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def choose(page, label, option, n=0):
    page.get_by_role("combobox", name=label, exact=True).nth(n).click()
    page.get_by_role("option", name=option, exact=True).click()


def part(hand, name):
    hand.page.get_by_role("navigation", name="Parts of Citrus").get_by_role("link", name=name).click()


def measure(page, card, count, juice):
    card.get_by_role("button", name="Measure some").click()
    page.get_by_label("Fruits juiced").fill(count)
    page.get_by_label("Juice of them").fill(juice)
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("dialog")).to_be_hidden()


def cuts(page):
    """(how many, which way) of every row of the plan."""
    rows = page.get_by_role("region", name="What to cut").get_by_role("listitem")
    return [re.match(r"(\d+) .*?: ([a-z, ]+)", row.inner_text().split("\n")[0]).groups() for row in rows.all()]


def test_from_a_case_to_the_ledger(hand):
    page = hand.page
    hand.sign_in("jonas")
    hand.place("Citrus")
    page.get_by_role("button", name="A case came in").click()
    # The part behind it has a fruit to choose as well.
    page.get_by_role("dialog").wait_for()
    choose(page, "Fruit", "Yuzu")
    page.get_by_label("Fruits in it").fill("60")
    page.get_by_label("Weight of all fruit").fill("12")
    page.get_by_role("textbox", name="From").fill("Calder Citrus Yard")
    page.get_by_label("Price of the case").fill("54")
    page.get_by_role("button", name="Count it in").click()
    expect(page.get_by_role("dialog")).to_contain_text("12 g from 60 of yuzu cannot be")
    page.get_by_label("Weight of all fruit").fill("7200")
    page.get_by_role("button", name="Count it in").click()
    expect(page.get_by_role("dialog")).to_be_hidden()
    card = page.get_by_role("region", name="Cases in hand").get_by_role("article").filter(has_text="Yuzu")
    expect(card).to_contain_text("typical, nobody has measured")
    measure(page, card, "10", "250")
    expect(card).to_contain_text("measured on 10 fruits")

    part(hand, "Cut plan")
    choose(page, "Of", "Yuzu")
    page.get_by_label("How much").fill("480")
    page.get_by_role("button", name="Something else is wanted").click()
    choose(page, "What is wanted", "Zest", 1)
    page.get_by_label("How much").nth(1).fill("120")
    expect(page.get_by_text(re.compile(r"\d+ fruits do it"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("g of juice to Yuzu juice.*g of zest to Yuzu zest.*into the bin"))).to_be_visible()
    page.get_by_label("Name of the plan").fill("Yuzu for Friday")
    page.get_by_role("button", name="Keep this plan").click()
    expect(page.get_by_role("heading", name="Yuzu for Friday")).to_be_visible()
    first = cuts(page)
    assert "zest, then juice" in [way for _, way in first]

    part(hand, "In hand")
    measure(page, card, "20", "300")
    part(hand, "Cut plan")
    page.get_by_role("button", name=re.compile("Yuzu for Friday")).click()
    page.get_by_role("button", name="Plan it anew").click()
    hand.until_changed(cuts, first)
    again = cuts(page)
    assert sum(int(count) for count, _ in again) > sum(int(count) for count, _ in first)

    juice = skin = 0
    for count, way in again:
        row = (
            page.get_by_role("region", name="What to cut")
            .get_by_role("listitem")
            .filter(has_text=f"{count} Yuzu")
            .filter(has_text=f": {way}")
        )
        row.get_by_role("button", name="It is cut").first.click()
        if "juice" in way:
            row.get_by_label("Juice").fill(str(15 * int(count)))
            juice += 15 * int(count)
        if "zest" in way:
            row.get_by_label("Zest").fill(str(9 * int(count)))
            skin += 9 * int(count)
        row.get_by_role("button", name="Keep it").click()
        expect(row).to_contain_text("✓ cut")
    expect(page.get_by_role("button", name=re.compile("Yuzu for Friday.*carried out"))).to_be_visible()
    part(hand, "Trials and ledger")
    fruits = sum(int(count) for count, _ in again)
    row = page.get_by_role("region", name="Ledger").get_by_role("row").filter(has_text="Yuzu")
    expect(row).to_contain_text(f"{fruits * 0.12:.1f}")
    expect(row).to_contain_text(f"{juice / 1000:.2f}")
    expect(row).to_contain_text(str(skin))
    part(hand, "In hand")
    expect(card).to_contain_text(f"{60 - fruits} of 60 left")


def test_a_stretch_stands_beside_fresh_and_beside_the_houses_sours(hand):
    page = hand.page
    hand.sign_in("ilse")
    hand.place("Citrus")
    part(hand, "Stretch")
    made = page.get_by_role("region", name="What it becomes")
    expect(made).to_contain_text(re.compile(r"4\.00\s*L"))
    expect(made).to_contain_text("75\u00a0%")
    expect(made.get_by_role("region", name="Doses of equal acid")).to_contain_text("stretched")
    expect(made).to_contain_text(re.compile(r"stretched: 72\sh at its best, 3\sdays by the safety rule"))
    page.get_by_label("To so many times").fill("40")
    expect(page.get_by_text("40 times cannot be: above 1, at most 12")).to_be_visible()
    page.get_by_label("To so many times").fill("3")
    expect(made).to_contain_text(re.compile(r"3\.00\s*L"))
    part(hand, "Clear or strengthen")
    ways = page.get_by_role("region", name="Ways, best first").get_by_role("article")
    expect(ways.first).to_be_visible()
    page.get_by_role("button", name="no pectin enzyme").click()
    expect(page.get_by_role("region", name="Ways, best first")).to_contain_text("No enzyme: an egg raft, agar or gelatin")
    expect(ways.last).to_contain_text("Pectin enzyme")
    page.get_by_role("button", name="Make it stronger").click()
    expect(ways.first).to_contain_text("Freeze and drip")
    part(hand, "Stretch")
    page.get_by_role("button", name="Make a spec of it").click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Stretched bergamot, 4 times")
    expect(page.get_by_role("region", name="Steps and river").get_by_role("listitem")).to_have_count(6)
