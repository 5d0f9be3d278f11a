"""The first day of a house of one's own, as its lead and their first maker live it: opened, stocked, joined, a password forgotten, two houses for one person."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE, PATIENCE_MS
from tests.browser.test_screens import said_by_axe
from tests.site.test_authenticator import digits

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]
RECIPE = """Quince cordial

500 g quince juice
260 g sugar
5 g malic acid

Warm the juice to 70 °C, add the sugar and the acid and dissolve.
Cool to 4 °C.
Bottle."""


@pytest.fixture
def another(browser, site):
    """Somebody else's browser, with nobody signed in on it."""
    context = browser.new_context(service_workers="block")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    yield page
    context.close()


def opens(page, base):
    page.goto(base)
    page.get_by_role("button", name="Open a house of your own").click()
    page.get_by_label("Name of the house").fill("Plover Room")
    page.get_by_label("Time zone").fill("Europe/Atlantis")
    page.get_by_label("Height above the sea").fill("high")
    page.get_by_label("Name to sign in by, without blanks").fill("maren")
    page.get_by_label("Name on labels").fill("Maren")
    page.get_by_label("Password, ten letters at least").fill("grey-plover-11")
    page.get_by_role("button", name="Open the house").click()
    expect(page.get_by_role("alert")).to_have_text("Write figures, such as 650.")
    page.get_by_label("Height above the sea").fill("650")
    page.get_by_role("button", name="Open the house").click()
    expect(page.get_by_role("alert")).to_contain_text("“Europe/Atlantis” is no time zone.")
    assert said_by_axe(page) == []
    page.get_by_label("Time zone").fill("Europe/Lisbon")
    page.get_by_role("button", name="Open the house").click()
    # It ends at the lead's own recipe.
    page.get_by_label("The recipe").fill(RECIPE)
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("button", name="Take it to the workbench").click()
    expect(page.get_by_label("Name of the spec")).to_have_value("Quince cordial")
    assert page.url.startswith(f"{base}/specs/")


def stocks(page, base):
    page.goto(f"{base}/shift")
    steps = page.get_by_role("region", name="First steps")
    expect(steps.get_by_role("link", name=re.compile(r"A recipe of yours\s?, done"))).to_be_visible()
    steps.get_by_role("link", name=re.compile("What you have already")).click()
    page.get_by_role("checkbox", name="White sugar").check()
    page.get_by_label("A pack costs").fill("1,20")
    page.get_by_role("checkbox", name="Malic acid").check()
    page.get_by_label("A pack holds").last.fill("much")
    page.get_by_role("button", name="Put 2 on the shelf").click()
    expect(page.get_by_role("alert")).to_contain_text("cannot be read as an amount")
    page.get_by_label("A pack holds").last.fill("500 g")
    page.get_by_label("The table").fill("Artikel;Gebinde;Anzahl;Preis\nApfelsaft;1 L;4;3,90\nBlaues Ding;1 L;1;2\n")
    page.get_by_role("region", name="From a table").get_by_role("button", name="Read it").click()
    expect(page.get_by_role("checkbox", name="Take in Apfelsaft")).to_be_checked()
    expect(page.get_by_role("checkbox", name="Take in Blaues Ding")).not_to_be_checked()
    page.get_by_role("button", name="Put 1 of 2 on the shelf").click()
    expect(page.get_by_role("heading", name="Stores")).to_be_visible()
    expect(page.get_by_text("Apfelsaft")).to_be_visible()
    page.get_by_role("link", name="Many at once").click()
    page.get_by_role("checkbox", name="Malic acid").check()
    page.get_by_role("button", name="Put 1 on the shelf").click()
    expect(page.get_by_role("button", name=re.compile("^Malic acid"))).to_contain_text("no price")


def asks_in(page, name):
    """Makes an invitation and returns its link."""
    page.get_by_label("Their name").fill(name)
    page.get_by_role("button", name="Make an invitation").click()
    shown = page.get_by_role("status").filter(has_text="It is not shown again")
    link = re.search(r"http\S+/join#\S+", shown.inner_text())
    assert link, shown.inner_text()
    return link[0]


def joins(page, link):
    page.goto(link)
    expect(page.get_by_role("heading", name="Come in to Plover Room")).to_be_visible()
    assert said_by_axe(page) == []
    page.get_by_label("Name to sign in by, without blanks").fill("kaja")
    page.get_by_label("Password, ten letters at least").fill("quick-kelp-22")
    page.get_by_role("button", name="Come in").click()
    expect(page.get_by_role("navigation", name="Places")).to_be_visible()
    expect(page.get_by_role("button", name="Kaja")).to_be_visible()


def signs_in(page, base, name, password):
    page.goto(f"{base}/shift")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()


def forgets_the_password(lead, maker, base):
    """The lead gives a code, and with it the maker sets another password."""
    lead.get_by_role("button", name="A code for Kaja").click()
    code = lead.get_by_role("status").filter(has_text="Tell Kaja").locator("b").inner_text()
    maker.get_by_role("button", name="Kaja").click()
    maker.get_by_role("button", name="Sign out").click()
    signs_in(maker, base, "kaja", "not-any-more")
    expect(maker.get_by_role("alert")).to_contain_text("Name and password do not match")
    maker.get_by_role("button", name="I forgot my password").click()
    maker.get_by_label("Name").fill("kaja")
    maker.get_by_label("Code from your lead").fill(code)
    maker.get_by_label("New password, ten letters at least").fill("slow-kelp-33")
    maker.get_by_role("button", name="Sign in").click()
    expect(maker.get_by_role("navigation", name="Places")).to_be_visible()


def is_let_go_and_comes_back(lead, maker, base):
    lead.get_by_role("button", name="Let Kaja go …").click()
    lead.get_by_role("button", name="Let Kaja go", exact=True).click()
    expect(lead.get_by_role("region", name="Who has left")).to_contain_text("Kaja")
    maker.reload()
    expect(maker.get_by_role("button", name="Sign in")).to_be_visible()
    signs_in(maker, base, "kaja", "slow-kelp-33")
    expect(maker.get_by_role("alert")).to_contain_text("You are in no house yet")
    lead.get_by_role("button", name="Take Kaja back").click()
    expect(lead.get_by_role("region", name="People of the house")).to_contain_text("Kaja")
    maker.get_by_role("button", name="Sign in").click()
    expect(maker.get_by_role("navigation", name="Places")).to_be_visible()


def is_in_two_houses(page, base):
    """The lead of one house comes into the demo house as well, and goes from one to the other."""
    expect(page.get_by_role("heading", name="Come in to Tern House")).to_be_visible()
    page.get_by_label("Name you sign in by").fill("maren")
    page.get_by_label("Password").fill("grey-plover-11")
    page.get_by_role("button", name="Come in").click()
    who = page.get_by_role("banner").get_by_role("button", name="Maren")
    expect(who).to_contain_text("Demo")
    expect(page.get_by_role("region", name="First steps")).to_be_hidden()
    who.click()
    page.get_by_role("button", name=re.compile("^Plover Room")).click()
    expect(who).not_to_contain_text("Demo")
    expect(who).to_contain_text("Plover Room")
    page.goto(f"{base}/specs")
    expect(page.get_by_role("link", name=re.compile("^Quince cordial"))).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("^Sea buckthorn"))).to_be_hidden()


def test_a_house_is_opened_stocked_and_joined_and_its_people_come_and_go(hand, another):
    page, base = hand.page, hand.site.base
    opens(page, base)
    stocks(page, base)
    page.goto(f"{base}/house/people")
    expect(page.get_by_text("You are alone here")).to_be_visible()
    link = asks_in(page, "Kaja")
    joins(another, link)
    page.reload()
    forgets_the_password(page, another, base)
    is_let_go_and_comes_back(page, another, base)
    page.get_by_role("navigation", name="Parts of the house").get_by_role("link", name="History").click()
    expect(page.get_by_role("region", name="History of the house")).to_contain_text("opened the house · Plover Room")
    page.get_by_role("navigation", name="Parts of the house").get_by_role("link", name="Mine").click()
    page.get_by_role("button", name="Leave …").click()
    page.get_by_role("button", name="Yes, leave Plover Room").click()
    expect(page.get_by_role("alert")).to_contain_text("Maren is the last lead of Plover Room.")
    # Used up: the same link says so, and nobody comes in by it.
    another.get_by_role("button", name="Kaja").click()
    another.get_by_role("button", name="Sign out").click()
    another.get_by_label("Password").wait_for()
    another.goto(link)
    another.reload()
    expect(another.get_by_role("alert")).to_contain_text("This invitation has been used.")
    signs_in(another, base, "ilse", "pale-enamel-7")
    another.get_by_role("navigation", name="Places").wait_for()
    another.goto(f"{base}/house/people")
    link = asks_in(another, "Maren")
    # Signed in to one house, its lead opens the link of another one.
    page.goto(link)
    page.reload()
    is_in_two_houses(page, base)


def test_a_lead_signs_in_with_an_authenticator_or_a_recovery_code(hand):
    page, base = hand.page, hand.site.base
    signs_in(page, base, "wanda", "other-house-1")
    page.get_by_role("navigation", name="Places").wait_for()
    page.goto(f"{base}/house")
    mine = page.get_by_role("region", name="My authenticator")
    mine.get_by_label("My password, for the authenticator").fill("other-house-1")
    mine.get_by_role("button", name="Set one up").click()
    expect(mine.get_by_role("img")).to_be_visible()
    secret = mine.get_by_text("Or type it there").locator("span").inner_text()
    mine.get_by_label("Its six digits now").fill(digits(secret))
    mine.get_by_role("button", name="It shows these").click()
    written = mine.get_by_role("status").get_by_role("listitem")
    expect(written).to_have_count(8)
    codes = written.all_inner_texts()
    page.get_by_role("banner").get_by_role("button", name="Wanda").click()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("button", name="Sign in").wait_for()
    signs_in(page, base, "wanda", "other-house-1")
    page.get_by_label("Six digits of your authenticator").fill(codes[0])
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation", name="Places").wait_for()
    page.goto(f"{base}/house")
    mine.get_by_label("My password, for the authenticator").fill("other-house-1")
    mine.get_by_role("button", name="Have none").click()
    expect(mine.get_by_role("button", name="Set one up")).to_be_visible()
