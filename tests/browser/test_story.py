"""The whole story, as its people live it: from a read delivery to a dated, labelled bottle; and a power cut."""

import io
import re

import pytest
from playwright.sync_api import expect
from pypdf import PdfReader

pytestmark = pytest.mark.timeout(600)


def pick(page, material):
    page.get_by_label("Name of the material").fill(material)
    page.get_by_role("dialog").get_by_role("button", name=material).first.click()


def choose(page, label, option):
    page.get_by_role("combobox", name=label).click()
    page.get_by_role("option", name=option, exact=True).click()


def saved(page):
    expect(page.get_by_text(re.compile(r"· saved \d\d:\d\d"))).to_be_visible()


def read_the_delivery(hand):
    page = hand.page
    hand.place("Stores")
    page.get_by_role("button", name=re.compile("^Sea buckthorn juice")).click()
    shelf = page.get_by_role("list", name="Deliveries of Sea buckthorn juice")
    shelf.get_by_role("button", name="Read this delivery").first.click()
    page.get_by_label("Refractometer").fill("820")
    page.get_by_role("button", name="Keep the reading").click()
    expect(page.get_by_role("dialog")).to_contain_text("A reading of 820 cannot be: a refractometer reads from 0 to 85 °Bx.")
    page.get_by_label("Refractometer").fill("8,2")
    page.get_by_label("Titratable acid").fill("2.40")
    page.get_by_role("button", name="Keep the reading").click()
    expect(page.get_by_role("dialog")).to_be_hidden()


def type_step(page, text):
    """A step as people say it, in the step line."""
    line = page.get_by_label("Next step, as you would say it")
    line.fill(text)
    line.press("Enter")
    expect(line).to_have_value("")


def design_the_cordial(hand):
    """By hand: pour, sugar by ratio, acid to a target, cool, bottle; the ratio found by looking at the bottle."""
    page = hand.page
    hand.place("Specs")
    page.get_by_role("button", name="Start a spec").click()
    page.get_by_label("Name, as on the label").fill("Bright sea buckthorn")
    choose(page, "Family", "Other")
    page.get_by_role("button", name="Start", exact=True).click()
    page.get_by_role("button", name=re.compile("^(Pour|Stir|combine)")).first.click()
    page.get_by_role("button", name="Put something in").click()
    pick(page, "Sea buckthorn juice")
    amount = page.get_by_label("Amount of Sea buckthorn juice")
    amount.fill("1000")
    expect(page.get_by_role("alert").first).to_contain_text("“1000” has no unit.")
    amount.fill("1 kg")
    page.keyboard.press("Escape")
    page.get_by_role("heading", name="In the bottle").click()
    page.keyboard.press("e")
    page.get_by_role("button", name="Put something in").click()
    pick(page, "White sugar")
    page.get_by_label("Ratio of White sugar").fill("0.519")
    type_step(page, "add malic acid 1 g")
    choose(page, "How Malic acid is measured", "up to a target")
    page.get_by_label("Target for Malic acid").fill("2.1")
    type_step(page, "cool to 4 C")
    page.get_by_label("Goal °Bx").fill("40")
    page.get_by_label("Goal acid").fill("2.1")
    saved(page)
    bottle = page.get_by_role("region", name="In the bottle")
    expect(bottle.get_by_role("button", name=re.compile(r"Solids: 40\.\d °Bx"))).to_be_visible()
    expect(bottle.get_by_role("button", name=re.compile(r"Acid: 2\.10"))).to_be_visible()


def look_behind_a_number(page):
    page.get_by_role("region", name="In the bottle").get_by_role("button", name=re.compile("^Acid:")).click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("protons of every acid up to pH 8.2")
    expect(sheet).to_contain_text("malic acid")
    sheet.get_by_role("button", name="Close").click()


def publish(page):
    page.get_by_role("button", name="Check and publish").click()
    page.get_by_label("Why this version, in one line").fill("first")
    page.get_by_role("button", name="Publish", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Version 1 is published")).to_be_visible()
    page.get_by_role("button", name="Close").click()


def answer_the_questions(page):
    """Wrong first, to be told why; then right, from the card behind the sheet."""
    page.get_by_role("button", name="Answer them").click()
    sheet = page.get_by_role("dialog")
    right = {"weighed first": "Sea buckthorn juice", "allergens": "none of those listed", "How long": "5 days"}
    for text in right:
        sheet.get_by_role("group", name=re.compile(text)).get_by_role("radio").first.check()
    sheet.get_by_role("button", name="Answer").click()
    expect(sheet).to_contain_text("Not that.")
    for text, answer in right.items():
        sheet.get_by_role("group", name=re.compile(text)).get_by_role("radio", name=answer, exact=True).check()
    sheet.get_by_role("button", name="Answer").click()
    expect(sheet).to_be_hidden()
    expect(page.get_by_role("button", name="Answer them")).to_be_hidden()


def test_from_a_weighed_fruit_to_a_labelled_bottle(hand):
    page = hand.page
    hand.sign_in("ilse")
    read_the_delivery(hand)
    design_the_cordial(hand)
    page.reload()
    expect(page.get_by_label("Name of the spec")).to_have_value("Bright sea buckthorn")
    look_behind_a_number(page)
    publish(page)
    hand.sign_out()

    hand.sign_in("jonas")
    hand.begin("Bright sea buckthorn", "1000")
    expect(page.get_by_role("dialog")).to_contain_text("This would be your first make of it.")
    page.get_by_role("link", name="Its card").click()
    answer_the_questions(page)
    hand.place("Make")
    page.get_by_role("button", name="Start Bright sea buckthorn").click()
    page.get_by_role("radio", name="from what I weighed").check()
    page.get_by_label("What the scale shows").fill("-3")
    page.get_by_role("dialog").get_by_role("button", name="Start").click()
    expect(page.get_by_role("dialog")).to_contain_text("\u22123 g is not an amount to start from")
    page.get_by_label("What the scale shows").fill("1000")
    page.get_by_role("dialog").get_by_role("button", name="Start").click()
    expect(page.get_by_role("heading", name="Sea buckthorn juice")).to_be_visible()
    hand.weigh("1340")
    expect(page.get_by_role("main")).to_contain_text(re.compile(r"1.340.g instead of 1.000.g.*white sugar is now 695.g"))
    page.get_by_role("button", name=re.compile("^Next: stir in white sugar")).click()

    sugar = hand.grams_to_go()
    assert sugar == pytest.approx(695, abs=1)
    hand.weigh(str(round(sugar * 1.06)))
    expect(page.get_by_role("main")).to_contain_text(
        re.compile(r"White sugar: 737.g instead of 695.g, 4\d\.\d.g over: 737.g on 1.340.g is 0\.55 per g, 6.% over\.")
    )
    offer = page.get_by_role("region", name="A way back")
    expect(offer).to_contain_text(re.compile(r"Add \d+\.\d.g water and 1\.\d+.g malic acid before bottling\."))
    expect(offer).to_contain_text(re.compile("back to 40.0.°Bx and holds 2.10.g/100.mL"))
    offer.get_by_role("button", name="Put it off").click()
    expect(offer).to_be_hidden()
    page.get_by_role("button", name=re.compile("^Next: bring acid")).click()
    hand.weigh(str(hand.grams_to_go()))
    page.get_by_role("button", name=re.compile("^Next: cool to")).click()

    expect(offer).to_be_visible()
    page.get_by_role("button", name="Reading").click()
    page.get_by_role("button", name=re.compile("^Refractometer")).click()
    page.get_by_role("textbox", name="Refractometer").fill("41.0")
    page.get_by_role("button", name="That is it").click()
    expect(page.get_by_role("main")).to_contain_text(re.compile(r"41\.0.°Bx read agrees with 4\d\.\d.°Bx ± 0\.\d predicted\."))
    offer.get_by_role("button", name="Take it").click()
    expect(page.get_by_role("heading", name="Water")).to_be_visible()
    hand.weigh(str(hand.grams_to_go()))
    # The figure is read again once the next line stands there; the hand slips over it, and the batch ends outside its spec.
    expect(page.get_by_role("heading", name="Malic acid")).to_be_visible()
    assert hand.grams_to_go() == pytest.approx(1.53, abs=0.1)
    hand.weigh("4")
    page.get_by_role("button", name=re.compile("^Next: cool to")).click()
    page.get_by_role("button", name="Start the clock").click()
    expect(page.get_by_role("timer")).to_be_visible()
    page.get_by_role("button", name="Next: bottle and label").click()
    page.get_by_role("button", name="Bottles are full").click()
    page.get_by_label("In bottles").fill("1720")
    page.get_by_label("Where they stand").fill("cold room, shelf 1")
    expect(page.get_by_role("dialog")).to_contain_text(re.compile(r"Outside its spec: 2\.\d\d.g/100.mL instead of 2\.10"))
    page.get_by_label("I sign that").check()
    expect(page.get_by_role("button", name="On the shelf")).to_be_disabled()
    page.get_by_label("Where is the rest").fill("one bottle was poured at once")
    page.get_by_role("button", name="On the shelf").click()

    expect(page.get_by_role("heading", name="Bright sea buckthorn")).to_be_visible()
    assert "Good to pour" in hand.text()
    assert "5 days at 5 °C or colder, counted from the mixing: a sharp cordial, not heated through" in hand.text(), hand.text()
    code = re.search(r"L\d{4}", hand.text())[0]
    label = page.request.get(f"{hand.site.base}/api/lots/{code}/label.pdf")
    text = " ".join(PdfReader(io.BytesIO(label.body())).pages[0].extract_text().split())
    for part in (
        "Bright sea buckthorn",
        code,
        "1 720 mL",
        "41.0 °Bx read",
        "by Jonas",
        "Use by",
        "Allergens:",
        "a sharp cordial",
    ):
        assert part in text, (part, text)
    hand.place("Shift")
    row = page.get_by_role("link", name=re.compile(f"Bright sea buckthorn.*{code}", re.DOTALL))
    expect(row.first).to_be_visible()


def test_a_power_cut_in_mid_run_loses_nothing_typed(hand):
    page = hand.page
    hand.sign_in("noor")
    hand.begin("Birch tip syrup", "1500")
    expect(page.get_by_role("heading", name="Water")).to_be_visible()
    hand.weigh("1500")
    expect(page.get_by_role("heading", name="White sugar")).to_be_visible()
    hand.site.kill()
    hand.type_weight("1512")
    expect(page.get_by_role("status", name="What waits")).to_contain_text("1 waiting")
    hand.site.start()
    expect(page.get_by_role("status").filter(has_text="all kept")).to_be_visible()
    page.reload()
    page.get_by_role("button", name="So far").click()
    sheet = " ".join(page.get_by_role("dialog").inner_text().split())
    assert "Water 1 500 g" in sheet
    assert "White sugar 1 512 g" in sheet


@pytest.mark.alone
def test_a_database_that_dies_in_mid_run_loses_nothing(hand):
    page = hand.page
    hand.sign_in("jonas")
    hand.begin("Birch tip syrup", "1400")
    expect(page.get_by_role("heading", name="Water")).to_be_visible()
    hand.weigh("1400")
    expect(page.get_by_role("heading", name="White sugar")).to_be_visible()
    hand.site.kill_database()
    hand.type_weight("1421")
    expect(page.get_by_role("status", name="What waits")).to_contain_text("1 waiting")
    hand.site.start_database()
    expect(page.get_by_role("status").filter(has_text="all kept")).to_be_visible(timeout=30_000)
    page.reload()
    page.get_by_role("button", name="So far").click()
    sheet = " ".join(page.get_by_role("dialog").inner_text().split())
    assert "Water 1 400 g" in sheet
    assert "White sugar 1 421 g" in sheet


def test_two_tabs_on_one_draft_are_told_and_keep_both(hand, context):
    page = hand.page
    hand.sign_in("ilse")
    hand.place("Specs")
    page.get_by_role("link", name=re.compile("^Quince and allspice")).click()
    expect(page.get_by_label("Name of the spec")).to_be_visible()
    other = context.new_page()
    other.goto(page.url)
    other.get_by_label("Name of the spec").fill("Quince, hers")
    expect(other.get_by_text(re.compile(r"· saved \d\d:\d\d"))).to_be_visible()
    page.get_by_label("Name of the spec").fill("Quince, his")
    expect(page.get_by_role("alert")).to_contain_text("Yours is kept beside it as “Ilse M.,")
    page.get_by_role("button", name="Reload").click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Quince, hers")
    other.get_by_label("Name of the spec").fill("Quince, hers again")
    expect(other.get_by_role("list", name="Kept beside this draft")).to_contain_text("Two people wrote at once")
    page.reload()
    page.get_by_role("button", name="Take it instead").click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Quince, his")
    expect(page.get_by_role("list", name="Kept beside this draft")).to_contain_text("Ilse M.")


def test_another_house_and_a_wrong_password_get_nowhere(hand):
    page = hand.page
    page.goto(f"{hand.site.base}/specs")
    page.get_by_label("Name").fill("pim")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("Name and password do not match.")
    hand.sign_in("pim")
    page.goto(f"{hand.site.base}/specs/0b0c7a2e-6a3c-4c55-9d53-2f1f0f1f7a01")
    expect(page.get_by_role("alert")).to_contain_text("This house has nothing under that address.")
    page.goto(f"{hand.site.base}/specs")
    expect(page.get_by_role("heading", name="Specs")).to_be_visible()
    expect(page.get_by_role("button", name="Start a spec")).to_have_count(0)
