"""What becomes of a batch: where the rest is, what is left over, the rail bottle; the drink that limits are judged in; the height of the house."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE
from tests.browser.test_instruments_story import go_on
from tests.browser.test_specs_story import spec_id
from tests.browser.test_story import saved

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def test_a_finish_asks_where_the_rest_is_and_what_is_left_becomes_a_lot(hand):
    page = hand.page
    hand.sign_in("noor")
    hand.begin("Hazelnut milk", "600")
    hand.weigh("600")
    hand.weigh("1800")
    expect(page.get_by_role("main")).to_contain_text(re.compile(r"1.800.g on 600.g is 3 per g"))
    go_on(hand, lambda wanted: hand.weigh(str(wanted)))
    page.get_by_role("button", name="Bottles are full").click()
    sheet = page.get_by_role("dialog")
    done = sheet.get_by_role("button", name="On the shelf")
    expect(sheet).to_contain_text(re.compile(r"hazelnut meal, about \d+.g"))
    expect(sheet).to_contain_text("Toast it dry for a garnish")
    expect(done).to_be_enabled()
    sheet.get_by_label("In bottles").fill("1000")
    expect(done).to_be_disabled()
    sheet.get_by_label("Where is the rest").fill("the second jug went over")
    expect(done).to_be_enabled()
    sheet.get_by_role("combobox", name="What becomes of hazelnut meal").click()
    page.get_by_role("option", name="keep it: a lot of its own").click()
    sheet.get_by_label("Weight of hazelnut meal").fill("60")
    expect(done).to_be_disabled()
    sheet.get_by_label("Where is the rest").last.fill("in the cloth")
    done.click()
    expect(page.get_by_role("heading", name="Hazelnut milk")).to_be_visible()
    code = page.url.rsplit("/", 1)[1]
    meal = page.request.get(f"{hand.site.base}/api/lots/{code}-1").json()
    assert (meal["left"], meal["unit"], meal["allergens"]) == (60.0, "g", ["nuts"])
    assert meal["allergens_words"] == "nuts. Answer for the drink; ask the lead."


def test_a_rail_bottle_is_decanted_topped_up_and_answers_for_its_drinks(hand):
    page = hand.page
    page.set_viewport_size({"width": 390, "height": 844})
    hand.sign_in("jonas")
    lots = page.request.get(f"{hand.site.base}/api/lots").json()["items"]
    older, newer = sorted((lot for lot in lots if lot["name"] == "Tartaric and malic stock"), key=lambda lot: lot["use_by"])[:2]
    page.goto(f"{hand.site.base}/lots/{newer['code']}")
    page.get_by_role("button", name="Decant some").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("How much goes into the rail bottle").fill("100000")
    sheet.get_by_role("button", name="Decant some").click()
    expect(sheet).to_contain_text(re.compile(r"100000.* mL cannot be split off"))
    sheet.get_by_label("How much goes into the rail bottle").fill("100")
    sheet.get_by_role("button", name="Decant some").click()
    page.get_by_role("region", name="Where it comes from and went").get_by_role("link", name=f"{newer['code']}B").click()
    expect(page.get_by_role("region", name="May it be poured")).to_contain_text("Opened")
    expect(page.get_by_role("region", name="Allergens and cautions")).to_contain_text(
        "This is no drink: answer for the drink that it goes into."
    )
    page.get_by_role("button", name="Top it up").click()
    sheet.get_by_label("Which lot is poured in").fill("L9999")
    sheet.get_by_label("How much of it").fill("50")
    sheet.get_by_role("button", name="Top it up").click()
    expect(sheet).to_contain_text("There is no lot “L9999” here")
    sheet.get_by_label("Which lot is poured in").fill(older["code"].lower())
    sheet.get_by_role("button", name="Top it up").click()
    expect(sheet).to_be_hidden()
    rail = page.request.get(f"{hand.site.base}/api/lots/{newer['code']}B").json()
    assert (rail["left"], rail["use_by"] <= older["use_by"]) == (150.0, True)


def test_a_limit_is_judged_in_the_drink_that_the_spec_is_for(hand):
    page = hand.page
    hand.sign_in("ilse")
    page.goto(f"{hand.site.base}/specs/{spec_id(hand, 'Kumquat and fennel soda syrup')}")
    about = page.get_by_role("region", name="About the spec")
    kept = page.get_by_role("region", name="Keeping and cautions")
    expect(kept).to_contain_text(re.compile(r"at worst 62.% of 200.mg/L in the drink, 40.mL in a drink of 200.mL"))
    about.get_by_label("So much of it").fill("80")
    expect(kept).to_contain_text(re.compile(r"Stop.*at worst 12\d.% of 200.mg/L in the drink, 80.mL in a drink of 200.mL"))
    expect(kept).to_contain_text(re.compile(r"At most 5\.\d+.g of kumquat and fennel emulsion, and it holds 7\.20.g"))
    about.get_by_label("in a drink of").fill("50")
    expect(about.get_by_role("alert")).to_contain_text("80 mL do not go into a drink of 50 mL: at most 50 mL.")
    about.get_by_label("in a drink of").fill("")
    expect(about).to_contain_text("It counts when both are there.")
    expect(about).to_contain_text("until somebody says which drink it is for")
    page.get_by_role("button", name="Undo").click()
    about.get_by_label("So much of it").fill("40")
    about.get_by_label("in a drink of").fill("200")
    saved(page)
    expect(kept).to_contain_text(re.compile(r"at worst 62.%"))


def test_the_lead_says_once_how_high_the_house_stands(hand):
    page = hand.page
    hand.sign_in("ilse")
    page.goto(f"{hand.site.base}/house/settings")
    height = page.get_by_label("Height above the sea")
    expect(height).to_have_value("34")
    height.fill("12 000")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("alert")).to_contain_text("12\u00a0000 m is no place for a bar")
    height.fill("650,5")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("button", name="Kept")).to_be_visible()
    assert page.request.get(f"{hand.site.base}/api/session").json()["altitude_m"] == 650.5
    height.fill("34")
    page.get_by_role("button", name="Keep it").click()
    hand.until("async () => (await (await fetch('/api/session')).json()).altitude_m === 34")
