"""A newcomer's first minute: a recipe as somebody says it, beside what is taken from it; three taps settle it, and its card is on paper within two minutes."""

import io
import json
import re
import time

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import BY_THE_SITE
from tests.browser.test_specs_story import spec_id
from tests.browser.test_story import saved

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]
SPOKEN = (
    "For the lemon and mint syrup, bring half a litre of water and 500 grams of white sugar to the boil. Off the heat throw in the zest of 3 lemons, "
    "a handful of mint and a good squeeze of lemon. After twenty minutes strain it, cool it and bottle it. Makes about 800 ml, keeps two weeks."
)


def bottle(page):
    return page.get_by_role("region", name="In the bottle").inner_text()


def tapped(page, about, answer):
    """Takes an answer; returns what its button said that it would do."""
    asked = page.get_by_role("group", name=f"Question about {about}")
    button = asked.get_by_role("button", name=re.compile(f"^{answer}"))
    said = button.inner_text().replace("\n", " ").removeprefix(answer).strip()
    button.click()
    expect(asked).to_be_hidden()
    return said


def pasted(hand, text):
    """The page on which the lead has read a text."""
    page = hand.page
    hand.sign_in("ilse")
    page.goto(f"{hand.site.base}/specs/read")
    page.get_by_label("The recipe").fill(text)
    page.get_by_role("button", name="Read it").click()
    return page


def test_a_spoken_paragraph_is_a_card_on_paper_within_two_minutes(hand):
    page, begun = hand.page, time.monotonic()
    pasted(hand, SPOKEN)
    expect(page.get_by_role("img", name=re.compile("What is in the vessel over"))).to_be_visible()
    expect(page.get_by_role("status").filter(has_text="3 questions left")).to_be_visible()
    expect(page.get_by_role("region", name="Told and worked out")).to_contain_text("told: Makes about 800 ml")
    assert Axe().run(page).response["violations"] == []
    page.get_by_role("link", name="a handful of mint").click()
    expect(page.get_by_role("region", name="What Ulsek takes from it").get_by_role("button", pressed=True)).to_contain_text("mint")
    for about, answer in (("zest of 3 lemons", "4.5 g"), ("a handful of mint", "45 g"), ("a good squeeze of lemon", "20 mL")):
        said = tapped(page, about, answer)
        figure = re.search(r"[\d.]+", said)
        assert figure, f"the button for {answer} says what it does: {said}"
        expect(page.get_by_role("region", name="In the bottle")).to_contain_text(figure[0])
    expect(page.get_by_text("No question left")).to_be_visible()
    page.get_by_role("button", name="Take it to the workbench").click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Lemon and mint syrup")
    expect(page.get_by_role("region", name="Told and worked out")).to_contain_text("told: Makes about 800 ml")
    saved(page)
    page.get_by_role("button", name="Check and publish").click()
    page.get_by_label("Why this version, in one line").fill("as it was told")
    page.get_by_role("button", name="Publish", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Version 1 is published")).to_be_visible()
    spec = spec_id(hand, "Lemon and mint syrup")
    card = page.request.get(f"{hand.site.base}/api/specs/{spec}/card.pdf")
    words = " ".join(part.extract_text() for part in PdfReader(io.BytesIO(card.body())).pages)
    assert "Lemon and mint syrup" in words
    assert time.monotonic() - begun < 120, "from the paste to the paper"


def test_what_nobody_wrote_is_hollow_and_may_be_taken_as_it_stands(hand):
    page = pasted(
        hand, "Birch honey\n500 g honey\n250 g water\na pinch of salt\n10 g birch tips\nStir all. Leave for 2 hours. Strain. Bottle."
    )
    expect(page.locator(".hollow")).to_have_text(re.compile("0.40"))
    page.get_by_role("button", name="Take it to the workbench").click()
    expect(page.get_by_role("button", name=re.compile("^Salt, fine: 0.40 g, assumed"))).to_be_visible()
    page.get_by_role("button", name="Check and publish").click()
    page.get_by_role("button", name="Take them as they stand").click()
    expect(page.get_by_role("button", name="Take them as they stand")).to_be_hidden()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile("^Salt, fine: 0.40 g. Show"))).to_be_visible()


def test_a_language_that_is_not_read_is_named_and_the_text_stays(hand):
    dutch = "Berkensiroop\n500 g suiker\n500 ml water\n10 g berkentoppen\nBreng het water met de suiker aan de kook. Voeg de toppen toe, laat afkoelen en zeef."
    page = pasted(hand, dutch)
    expect(page.get_by_role("alert")).to_contain_text("This looks like Dutch, which is not read here")
    expect(page.get_by_label("The recipe")).to_have_value(dutch)


MANY = """Damson cordial
1.250 kg damsons
500 ml water
1.200 g sugar
Simmer the damsons in the water for 30 minutes. Strain. Stir in the sugar. Bottle.

Ginger base syrup
- a good thumb of ginger
- 500 g sugar
- 1.500 g water
Bring everything to the boil, steep 20 minutes, strain.

Mystery cordial:
Makes 2 l

Mint base syrup: 300 g sugar, 300 g water, 20 g mint. Warm to 60 C, strain.
"""


def test_many_recipes_in_one_text_are_taken_in_one_go(hand):
    page = pasted(hand, MANY)
    expect(page.get_by_role("heading", name="4 recipes in this text")).to_be_visible()
    recipes, asked = page.get_by_role("region", name="The recipes"), page.get_by_role("region", name="What is asked")
    expect(recipes.get_by_text(re.compile("°Bx"))).to_have_count(3)
    expect(recipes).to_contain_text("Not read: No ingredient and no step can be read in this")
    assert Axe().run(page).response["violations"] == []
    thousands = asked.get_by_role("group").filter(has_text="in Damson cordial, Ginger base syrup")
    thousands.get_by_role("button").nth(0).click()
    expect(thousands).to_be_hidden()
    page.get_by_role("button", name="Look at Ginger base syrup").click()
    expect(page.get_by_role("region", name="What Ulsek takes from it")).to_contain_text(re.compile("1.500"))
    tapped(page, "a good thumb of ginger", "35 g")
    page.get_by_role("button", name="All 4 recipes").click()
    expect(asked).to_contain_text("No question left")
    page.get_by_role("checkbox", name="Take Mint base syrup").uncheck()
    page.get_by_role("button", name="Take 2 recipes").click()
    expect(recipes.get_by_role("link", name="Open the draft")).to_have_count(2)
    assert spec_id(hand, "Damson cordial")
    recipes.get_by_role("link", name="Open the draft").nth(1).click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Ginger base syrup")


def test_a_material_that_came_with_a_file_is_added_to_stores(hand):
    gum = {
        "name": "Tern gum",
        "kind": "sweetener",
        "makeup": {"by": "substance", "g_per_100g": {"sucrose": 62, "water": 38}, "source": "its label"},
    }
    line = {"id": "gum", "material": "tern_gum", "amount": {"kind": "fixed", "mass_g": 500}}
    body = {
        "format": "ulsek.spec", "version": 1, "name": "Gum", "family": "syrup", "vessels": [{"id": "pot"}], "materials": {"tern_gum": gum},
        "steps": [{"id": "s1", "verb": "combine", "vessel": "pot", "lines": [line]}],
    }  # fmt: skip
    page = pasted(hand, json.dumps(body))
    new = page.get_by_role("region", name="New materials")
    expect(new).to_contain_text("1 material is new here: Tern gum")
    expect(page.get_by_role("region", name="In the bottle")).to_contain_text("62.0")
    new.get_by_role("button", name="Add it to Stores").click()
    expect(page.get_by_text("Added to Stores: Tern gum.")).to_be_visible()
    found = page.request.get(f"{hand.site.base}/api/materials?find=tern%20gum").json()
    assert [item["name"] for item in found["items"]] == ["Tern gum"]


LOVELY = """Selva cordial
200 ml Amaro Selva
300 ml bergamot juice
250 g sugar
10 g citric acid
150 g honey (or 120 g maple syrup)
Stir everything until dissolved. Strain and bottle.
Lovely with 5 g of salt as well, said Maren."""


def test_what_no_step_took_is_given_to_one_and_what_nobody_knew_is_kept_for_the_house(hand):
    page = pasted(hand, LOVELY)
    steps = page.get_by_role("region", name="What Ulsek takes from it")
    expect(steps).to_contain_text("or maple syrup")
    page.get_by_role("link", name=re.compile("Lovely with")).click()
    expect(steps.get_by_role("status")).to_contain_text("Which step does Lovely with")
    assert Axe().run(page).response["violations"] == []
    steps.get_by_role("button", name="It belongs here").first.click()
    expect(page.get_by_role("link", name="5 g of salt")).to_be_visible()
    expect(steps).to_contain_text("Salt, fine")
    assert tapped(page, "200 ml Amaro Selva", "a liqueur of 30 % vol").endswith("vol")
    page.get_by_role("button", name="Add it to Stores").click()
    expect(page.get_by_text("Added to Stores: Amaro Selva.")).to_be_visible()
    tapped(page, "10 g citric acid", "monohydrate")
    tapped(page, "150 g honey", "maple syrup")
    expect(steps).to_contain_text("or honey")
    page.get_by_role("button", name="Another text").click()
    page.get_by_label("The recipe").fill("Selva again\n100 ml Amaro Selva\n10 g citric acid\n200 g sugar\nStir. Bottle.")
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_text("No question left")).to_be_visible()
    expect(steps).to_contain_text("Citric acid, monohydrate")
