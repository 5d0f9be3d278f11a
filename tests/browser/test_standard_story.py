"""A standard as its people use it: frozen of a bottle, thawed for a panel, and what stood beside it by date; and one that is made again by weight."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.test_taste_story import Phone, add_bottle, choose, key_of, odd, open_panel, signed_in

pytestmark = [pytest.mark.timeout(600)]


def test_a_standard_is_frozen_tasted_against_and_made_again(hand, browser, site):
    page = hand.page
    hand.sign_in("ilse")
    hand.place("Taste")
    page.get_by_role("button", name="Keep a standard").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Find a bottle").fill("Bergamot cordial")
    sheet.get_by_role("listitem").filter(has_text="Bergamot cordial").first.get_by_role("button").click()
    sheet.get_by_label("Portions").fill("2")
    sheet.get_by_label("Each").fill("60")
    sheet.get_by_label("Ends after").fill("121")
    sheet.get_by_role("button", name="Keep it").click()
    expect(sheet).to_contain_text("A standard that has faded is none")
    sheet.get_by_label("Ends after").fill("90")
    sheet.get_by_role("button", name="Keep it").click()
    held = page.get_by_role("region", name="What is held")
    expect(held).to_contain_text(re.compile("2 portions of 60 mL, until"))
    expect(held).to_contain_text("90 days at −18 °C or colder: the house ends it then.")
    drift = page.get_by_role("region", name="Drift")
    expect(drift).to_contain_text(re.compile(r"\d batches stand beside it"))
    standard, code = page.url, re.search(r"T\d{4}", page.get_by_role("main").inner_text())[0]

    hand.place("Taste")
    page.get_by_role("link", name="Ask something").click()
    add_bottle(page, "Bergamot cordial", 1)
    page.get_by_role("button", name="Add another").click()
    sheet = page.get_by_role("dialog")
    choose(page, "Where it comes from", "A standard of ours")
    sheet.get_by_role("button", name=re.compile(code)).click()
    page.get_by_label("Tasters").fill("3")
    page.get_by_label("Times each").fill("1")
    panel, link = open_panel(page)
    pourer = signed_in(browser, site, "jonas")
    key = key_of(pourer, panel)
    expect(pourer.get_by_role("region", name="What is needed")).to_contain_text(re.compile(f"Thaw . portions? of Bergamot cordial, {code}"))
    for name in ("Ada", "Ben", "Cleo"):
        phone = Phone(browser, site, link, name)
        phone.begin()
        phone.picks(odd(phone.codes(), key))
        expect(phone.page.get_by_role("heading", name="Thank you")).to_be_visible()
    page.goto(panel)
    expect(page.get_by_role("region", name="Verdict")).to_contain_text("A difference was shown: 3 of 3 right")
    page.goto(standard)
    expect(held).to_contain_text(re.compile("[01] portions? of 60 mL|0 portions"))
    drift.get_by_role("link", name=re.compile("A difference was shown")).click()
    expect(page).to_have_url(panel)

    # One that is made again by weight is read, and what does not read so is not it.
    page.goto(f"{site.base}/taste")
    page.get_by_role("region", name="Standards").get_by_role("link", name=re.compile("Sour stock")).click()
    expect(held).to_contain_text("12.0 g tartaric acid")
    held.get_by_role("button", name="It is made again").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("It reads").fill("12")
    sheet.get_by_role("button", name="It reads so").click()
    expect(sheet).to_contain_text("12.0 °Bx is not the standard")
    sheet.get_by_label("It reads").fill("9,5")
    sheet.get_by_role("button", name="It reads so").click()
    expect(held.get_by_role("listitem").filter(has_text="by Ilse M.")).to_contain_text("9.5 °Bx")
