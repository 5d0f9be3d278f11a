"""The menu as its people use it: a drink gets its price, the allergen sheet follows and is read back from its paper, a guest asks at the bar."""

import io
import re

import pytest
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import BY_THE_SITE

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def read_back(page, link):
    """What a sheet of paper says that a link of the page leads to."""
    answer = page.request.get(link.evaluate("link => link.href"))
    assert answer.headers["content-type"] == "application/pdf"
    return " ".join(" ".join(sheet.extract_text() for sheet in PdfReader(io.BytesIO(answer.body())).pages).split())


def test_a_drink_gets_its_price_and_the_sheet_of_the_day_is_read_back_from_its_paper(hand):
    page = hand.page
    hand.sign_in("ilse")
    page.keyboard.press("7")
    page.get_by_role("link", name="Menu", exact=True).click()
    drinks = page.get_by_role("region", name="Drinks")
    line = drinks.get_by_role("listitem").filter(has_text="Mallow and wine")
    expect(line).to_contain_text("no price")
    expect(line).to_contain_text("not on this day")
    expect(line).to_contain_text("Taken as free, for want of a price: White wine, dry")

    # Its price is written down, and it goes on the menu today: first as nobody could keep it.
    line.get_by_role("button", name="Mallow and wine").click()
    form = drinks.get_by_role("form", name="Mallow and wine on the menu")
    first = form.get_by_label("On the menu from").input_value()
    today = page.get_by_label("The menu of").input_value()
    form.get_by_label("On the menu from").fill(today)
    form.get_by_label("to, that day too").fill("2020-01-01")
    form.get_by_label("Price on the menu").fill("9,52")
    form.get_by_label("Tax in it").fill("19")
    form.get_by_role("button", name="Keep").click()
    expect(form.get_by_role("alert")).to_have_text(re.compile("It ends before it begins"))
    form.get_by_label("to, that day too").fill("")
    form.get_by_role("button", name="Keep").click()
    expect(form).to_be_hidden()
    expect(line).to_contain_text("€8.00 net")
    expect(line).to_contain_text(re.compile(r"\d+\.\d %"))
    expect(line).not_to_contain_text("not on this day")

    # The sheet has it at once: what goes in, what shared gear may bring, and where nothing is promised.
    sheet = page.get_by_role("region", name="Allergens of the menu")
    row = sheet.get_by_role("row").filter(has_text="Mallow and wine")
    columns = sheet.get_by_role("columnheader").all_inner_texts()
    expect(row.get_by_role("cell").nth(columns.index("sulphites") - 1)).to_have_text("holds")
    silk = sheet.get_by_role("row").filter(has_text="Hazelnut silk")
    expect(silk.get_by_role("cell").nth(columns.index("nuts") - 1)).to_have_text("holds")
    expect(sheet).to_contain_text("An empty field is no promise")

    # Read back from its paper, the sheet says the same, with the day.
    paper = read_back(page, sheet.get_by_role("link", name="Print the sheet"))
    assert "Mallow and wine: It holds sulphites (White wine, dry)" in paper
    assert "Hazelnut silk: It holds nuts (Hazelnut milk, from Hazelnuts, toasted)" in paper
    assert re.search(r"Allergens of the menu ?Tern House · \w+day \d\d \w+ 20\d\d", paper)
    assert "An empty field is no promise" in paper
    names = [name.split("\n")[0] for name in sheet.get_by_role("rowheader").all_inner_texts()]
    assert len(names) == 10 and all(name in paper for name in names)
    table = page.request.get(sheet.get_by_role("link", name="As a table").evaluate("link => link.href")).text()
    assert [line.split(",")[3].strip('"') for line in table.splitlines()[1:3]] == names[:2]

    # Off it goes again, as it was.
    line.get_by_role("button", name="Mallow and wine").click()
    form.get_by_label("On the menu from").fill(first)
    form.get_by_label("Price on the menu").fill("")
    form.get_by_role("button", name="Keep").click()
    expect(line).to_contain_text("no price")
    hand.sign_out()

    # Somebody at the bar is asked by a guest: a phone, no form, the drink in words.
    page.set_viewport_size({"width": 390, "height": 844})
    hand.sign_in("pim")
    page.goto(f"{hand.site.base}/plan/menu")
    expect(sheet.get_by_role("listitem").filter(has_text="Sea buckthorn sour")).to_contain_text("It holds egg (Egg white)")
    expect(drinks.get_by_role("button", name="Mallow and wine")).to_have_count(0)
    expect(sheet.get_by_role("table")).to_be_hidden()
    page.set_viewport_size({"width": 1024, "height": 768})
