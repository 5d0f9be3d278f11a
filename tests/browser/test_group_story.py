"""Two houses become a group: joined by a code, seen side by side, a spec copied and followed; and a house is closed and kept."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE
from tests.browser.test_first_day_story import another, signs_in  # noqa: F401 # the fixture
from tests.browser.test_screens import said_by_axe

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def founds_and_tells_a_code(page, base):
    page.goto(f"{base}/house/group")
    page.get_by_label("What the houses are called together").fill("The Shore")
    page.get_by_role("button", name="Found it with Tern House").click()
    houses = page.get_by_role("region", name="Houses of the group")
    expect(houses).to_contain_text("you are here")
    expect(houses).to_contain_text(re.compile(r"[1-9]\d* published · [1-9]\d* under way"))
    page.get_by_role("button", name="A code for one more house").click()
    return page.get_by_role("status").filter(has_text="Tell it to the lead").locator("b").inner_text()


def joins(page, base, code):
    page.goto(f"{base}/house/group")
    page.get_by_label("The code of the group").fill(code[:-1])
    page.get_by_role("button", name="Join it").click()
    expect(page.get_by_role("alert")).to_contain_text("This code opens no group.")
    page.get_by_label("The code of the group").fill(code)
    page.get_by_role("button", name="Join it").click()
    expect(page.get_by_role("region", name="Houses of the group")).to_contain_text("Tern House")
    expect(page.get_by_role("region", name="Leads of the group")).to_contain_text("Ilse")


def copies(page, base):
    """The lead of the group copies a spec into the other house, which follows it."""
    page.goto(f"{base}/specs")
    page.get_by_role("link", name=re.compile("^Rich syrup")).click()
    page.get_by_role("navigation", name="Sides of this spec").get_by_role("link", name="Versions").click()
    there = page.get_by_role("region", name="In other houses")
    there.get_by_role("button", name=re.compile("^Copy version")).click()
    expect(there.get_by_role("status")).to_contain_text("published")
    expect(there.get_by_role("listitem")).to_contain_text("has the newest")
    assert said_by_axe(page) == []


def follows(page, base):
    page.goto(f"{base}/specs")
    page.get_by_role("link", name=re.compile(r"^Rich syrup.*follows Tern House")).click()
    origin = page.get_by_role("region", name="Where it comes from")
    expect(origin).to_contain_text("of Tern House, version")
    expect(page.get_by_role("button", name="Check and publish")).to_be_hidden()
    origin.get_by_role("button", name="Go our own way").click()
    expect(origin).to_contain_text("Came from")
    expect(page.get_by_role("button", name="Check and publish")).to_be_visible()
    page.goto(f"{base}/house/people")
    expect(page.get_by_role("region", name="People of the house")).to_contain_text("leads it with the group")


def goes_there_and_back(page, base, house):
    page.goto(f"{base}/house/group")
    page.get_by_role("button", name=f"Go to {house}").click()
    who = page.get_by_role("banner").get_by_role("button", name="Ilse")
    expect(who).to_contain_text(house)
    page.goto(f"{base}/house/group")
    page.get_by_role("button", name="Go to Tern House").click()
    expect(who).to_contain_text("Tern House")


def leaves(page, base, house):
    page.goto(f"{base}/house/group")
    page.get_by_role("button", name="Leave …").click()
    page.get_by_role("button", name=f"Yes, take {house} out").click()
    expect(page.get_by_label("The code of the group")).to_be_visible()
    page.goto(f"{base}/house/people")
    people = page.get_by_role("region", name="People of the house")
    expect(people).to_contain_text("Wanda")
    expect(people).not_to_contain_text("Ilse")


def test_two_houses_become_a_group_and_a_spec_goes_from_one_to_the_other(hand, another):  # noqa: F811
    page, base = hand.page, hand.site.base
    signs_in(another, base, "wanda", "other-house-1")
    another.get_by_role("navigation", name="Places").wait_for()
    another.goto(f"{base}/house/settings")
    house = another.get_by_label("Name of the house").input_value()
    signs_in(page, base, "ilse", "pale-enamel-7")
    page.get_by_role("navigation", name="Places").wait_for()
    joins(another, base, founds_and_tells_a_code(page, base))
    page.reload()
    copies(page, base)
    follows(another, base)
    goes_there_and_back(page, base, house)
    leaves(another, base, house)
