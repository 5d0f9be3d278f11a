"""A newcomer's first minute: a recipe as somebody says it, beside what is taken from it; three taps settle it, and its card is on paper within two minutes."""

import io
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


def test_a_spoken_paragraph_is_a_card_on_paper_within_two_minutes(hand):
    page, begun = hand.page, time.monotonic()
    hand.sign_in("ilse")
    page.goto(f"{hand.site.base}/specs/read")
    page.get_by_label("The recipe").fill(SPOKEN)
    page.get_by_role("button", name="Read it").click()
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
    page = hand.page
    hand.sign_in("ilse")
    page.goto(f"{hand.site.base}/specs/read")
    page.get_by_label("The recipe").fill(
        "Birch honey\n500 g honey\n250 g water\na pinch of salt\n10 g birch tips\nStir all. Leave for 2 hours. Strain. Bottle."
    )
    page.get_by_role("button", name="Read it").click()
    expect(page.locator(".hollow")).to_have_text(re.compile("0.40"))
    page.get_by_role("button", name="Take it to the workbench").click()
    expect(page.get_by_role("button", name=re.compile("^Salt, fine: 0.40 g, assumed"))).to_be_visible()
    page.get_by_role("button", name="Check and publish").click()
    page.get_by_role("button", name="Take them as they stand").click()
    expect(page.get_by_role("button", name="Take them as they stand")).to_be_hidden()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile("^Salt, fine: 0.40 g. Show"))).to_be_visible()


def test_a_language_that_is_not_read_is_named_and_the_text_stays(hand):
    page = hand.page
    hand.sign_in("ilse")
    page.goto(f"{hand.site.base}/specs/read")
    dutch = "Berkensiroop\n500 g suiker\n500 ml water\n10 g berkentoppen\nBreng het water met de suiker aan de kook. Voeg de toppen toe, laat afkoelen en zeef."
    page.get_by_label("The recipe").fill(dutch)
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_role("alert")).to_contain_text("This looks like Dutch, which is not read here")
    expect(page.get_by_label("The recipe")).to_have_value(dutch)
