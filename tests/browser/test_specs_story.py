"""The lead's place and what staff get of it: paste to acknowledged version, compare, the card in two languages, a withdrawal that reaches everyone."""

import io
import json
import re
import zipfile

import pytest
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import BY_THE_SITE
from tests.browser.test_story import choose, saved

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]
RECIPE = """Gooseberry and birch cordial

1 kg gooseberry juice
600 g white sugar
a handful of birch tips

Warm the juice to 70 °C, add the sugar and dissolve.
Steep the birch tips 20 minutes at 65 °C.
Strain.
Cool to 4 °C.
Bottle."""


def spec_id(hand, name):
    rows = hand.page.request.get(f"{hand.site.base}/api/specs?find={name.split()[0]}").json()["items"]
    return next(row["id"] for row in rows if row["name"] == name)


def paste(hand):
    page = hand.page
    hand.place("Specs")
    page.get_by_role("button", name="Start a spec").click()
    page.get_by_role("tab", name="A recipe").click()
    page.get_by_role("button", name="Read a recipe").click()
    page.get_by_label("The recipe").fill("zzz qqq")
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_role("alert")).to_contain_text(re.compile("Nothing|No ingredient"))
    page.get_by_label("The recipe").fill(RECIPE)
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_role("group", name="Question about a handful of birch tips")).to_contain_text("25 g is usual here, 10 to 45")
    page.get_by_role("button", name="Take it to the workbench").click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Gooseberry and birch cordial")


def fix_the_doubt(page):
    asked = page.get_by_role("group", name="Question about a handful of birch tips")
    asked.get_by_role("button", name=re.compile("^10 g")).click()
    expect(asked).to_be_hidden()
    expect(page.get_by_role("button", name=re.compile("^Birch tips.*: 10.0 g. Show the working"))).to_be_visible()
    saved(page)


def flag_to_target(page):
    page.get_by_role("heading", name="In the bottle").click()
    page.keyboard.press("f")
    for _ in range(3):
        page.keyboard.press("Shift+ArrowUp")
    take = page.get_by_role("region", name="Where it tastes").get_by_role("button", name=re.compile("^Take (?!the flag)"))
    expect(take.first).to_be_visible()
    before = page.get_by_role("region", name="In the bottle").inner_text()
    take.first.click()
    expect(page.get_by_role("region", name="In the bottle")).not_to_have_text(before, use_inner_text=True)
    saved(page)


def test_a_pasted_recipe_becomes_a_critical_version_that_staff_acknowledge(hand):
    page = hand.page
    hand.sign_in("ilse")
    paste(hand)
    fix_the_doubt(page)
    flag_to_target(page)
    page.get_by_role("button", name="Check and publish").click()
    page.get_by_label("Why this version, in one line").fill("from a note, with our birch")
    page.get_by_label(re.compile("A critical change")).check()
    page.get_by_role("button", name="Publish", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Version 1 is published")).to_be_visible()
    spec = spec_id(hand, "Gooseberry and birch cordial")
    hand.sign_out()
    hand.sign_in("noor")
    page.goto(f"{hand.site.base}/specs/{spec}/card?from=1")
    page.get_by_role("button", name="I have read it").click()
    expect(page.get_by_role("button", name="I have read it")).to_be_hidden()
    page.goto(f"{hand.site.base}/specs/{spec}/versions")
    expect(page.get_by_role("region", name="Versions")).to_contain_text("Read by Noor.")


def test_two_versions_say_why_one_is_sharper(hand):
    page = hand.page
    hand.sign_in("pim")
    page.goto(f"{hand.site.base}/specs/{spec_id(hand, 'Sea buckthorn cordial')}/versions")
    choose(page, "One side", "version 1")
    choose(page, "The other side", "version 2")
    page.get_by_role("link", name="Compare").click()
    expect(page.get_by_role("region", name="What it did")).to_contain_text(re.compile(r"sharper: 2\.60.g/100.mL → 2\.75.g/100.mL"))
    expect(page.get_by_role("region", name="What it did")).to_contain_text(
        "Bring acid to 2.60 with malic acid → Bring acid to 2.75 with malic acid"
    )
    expect(page.get_by_role("img", name=re.compile("River of Sea buckthorn cordial, version 2"))).to_be_visible()


def printed(hand, spec, query):
    answer = hand.page.request.get(f"{hand.site.base}/api/specs/{spec}/card.pdf?{query}")
    return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(answer.body())).pages).split())


def test_the_card_prints_the_same_numbers_in_two_languages(hand):
    page = hand.page
    hand.sign_in("noor")
    spec = spec_id(hand, "Sea buckthorn cordial")
    page.goto(f"{hand.site.base}/specs/{spec}/card")
    choose(page, "Batch size", "to serves")
    page.get_by_label("How much").fill("60")
    expect(page.get_by_role("article")).to_contain_text(re.compile("60 serves of 30.mL"))
    shown = hand.text()
    grams = [text.replace(" ", "") for text in re.findall(r"(\d[\d ]*(?:\.\d+)?) g(?=\s)", shown.split("Gear:")[1])]
    english, spanish = printed(hand, spec, "serves=60"), printed(hand, spec, "serves=60&language=es")
    for number in grams:
        spaced = re.sub(r"(?<=\d)(?=(\d{3})+(?!\d|\.))", " ", number) if "." not in number else number
        assert f"{spaced} g" in english, (number, english)
        assert f"{spaced.replace('.', ',')} g" in spanish, (number, spanish)
    assert "60 raciones de 30 mL" in spanish
    assert "tal como lo escribió la jefa" in spanish
    assert "Allergens" in english


def test_a_withdrawal_reaches_card_start_and_bottles(hand):
    page = hand.page
    hand.sign_in("ilse")
    spec = spec_id(hand, "Gooseberry and fennel cordial")
    page.goto(f"{hand.site.base}/specs/{spec}/versions")
    page.get_by_role("button", name="Withdraw").click()
    page.get_by_label("What is wrong with it").fill("the fennel was not fennel")
    page.get_by_role("button", name="Withdraw it").click()
    expect(page.get_by_role("region", name="Versions")).to_contain_text("the fennel was not fennel")
    page.goto(f"{hand.site.base}/specs/{spec}/card")
    expect(page.get_by_role("main")).to_contain_text("Withdrawn: do not make it. the fennel was not fennel")
    lots = page.request.get(f"{hand.site.base}/api/lots").json()["items"]
    assert {lot["withdrawn"] for lot in lots if lot["spec"] == spec} == {"the fennel was not fennel"}
    hand.place("Make")
    expect(page.get_by_role("region", name="Start a batch")).not_to_contain_text("Gooseberry and fennel cordial")


def test_a_library_leaves_and_comes_back_the_same(hand):
    page = hand.page
    hand.sign_in("ilse")
    hand.place("Specs")
    page.get_by_role("button", name="Save the library").click()
    ready = page.get_by_role("link", name="Download the archive")
    ready.wait_for()
    archive = zipfile.ZipFile(io.BytesIO(page.request.get(hand.site.base + ready.get_attribute("href")).body()))
    names = archive.namelist()
    assert len([name for name in names if name.startswith("specs/")]) >= 24
    body = archive.read("specs/birch-honey-syrup.json").decode()
    hand.place("Specs")
    page.get_by_role("button", name="Start a spec").click()
    page.get_by_role("tab", name="A file").click()
    page.get_by_label(re.compile("An Ulsek spec file")).set_input_files(
        {"name": "cut.json", "mimeType": "application/json", "buffer": body[:200].encode()}
    )
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("it is cut off")
    renamed = json.dumps({**json.loads(body), "name": "Birch <script>honey"}).encode()
    page.get_by_label(re.compile("An Ulsek spec file")).set_input_files(
        {"name": "spec.json", "mimeType": "application/json", "buffer": renamed}
    )
    expect(page.get_by_role("region", name="What was understood")).to_contain_text("Read as a spec file: 5 steps")
    page.get_by_role("button", name="Start from this").click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Birch <script>honey")


def test_what_if_moves_everything_and_keeps_nothing_until_told(hand):
    page = hand.page
    hand.sign_in("ilse")
    page.goto(f"{hand.site.base}/specs/{spec_id(hand, 'Birch tip syrup')}")
    bottle = page.get_by_role("region", name="In the bottle")
    solids = bottle.get_by_role("button", name=re.compile("^Solids"))
    before = solids.inner_text()
    slider = page.get_by_role("slider", name="white sugar")
    slider.focus()
    for _ in range(8):
        page.keyboard.press("ArrowLeft")
    expect(solids).not_to_have_text(before, use_inner_text=True)
    expect(page.get_by_text("only tried, nothing is kept")).to_be_visible()
    page.get_by_role("button", name="Let go").click()
    expect(solids).to_have_text(before, use_inner_text=True)
