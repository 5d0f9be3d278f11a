"""Taste as its people do it: a lead asks, one pours, six answer on their phones, one of them without the network; and what is decided."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import PATIENCE_MS, Hand

pytestmark = [pytest.mark.timeout(600)]
PHONE = {"width": 390, "height": 844}


def choose(page, label, option):
    page.get_by_role("combobox", name=label, exact=True).click()
    page.get_by_role("option", name=option, exact=True).click()


def add_version(page, find, row, version):
    """Adds a version of a spec to the samples of a plan."""
    page.get_by_role("button", name=re.compile("Add (the first|another)")).click()
    sheet = page.get_by_role("dialog")
    choose(page, "Where it comes from", "A version, a trial or a draft")
    sheet.get_by_label("Find a spec").fill(find)
    sheet.get_by_role("listitem").filter(has_text=row).get_by_role("button", name=f"Version {version}", exact=True).click()
    expect(sheet).to_be_hidden()


def add_bought(page, name, sugar, acid):
    page.get_by_role("button", name=re.compile("Add (the first|another)")).click()
    sheet = page.get_by_role("dialog")
    choose(page, "Where it comes from", "A bottle from elsewhere")
    sheet.get_by_label("What it is").fill(name)
    sheet.get_by_label("Sugar").fill(sugar)
    sheet.get_by_label("Acid").fill(acid)
    sheet.get_by_role("button", name="Add it").click()
    expect(sheet).to_be_hidden()


class Phone:
    """A taster's phone: a browser of its own that nobody has signed in on."""

    def __init__(self, browser, site, link, name):
        self.context = browser.new_context(viewport=PHONE)
        self.page = self.context.new_page()
        self.page.set_default_timeout(PATIENCE_MS)
        self.page.goto(f"{site.base}/taste/seat#{link.partition('#')[2]}")
        self.page.get_by_label("Your name").fill(name)
        self.page.get_by_role("button", name="Sit down").click()
        expect(self.page.get_by_role("heading", name="Before the first glass")).to_be_visible()

    def begin(self):
        self.page.get_by_role("button", name="Begin").click()

    def codes(self):
        return [glass.inner_text().split("\n")[0] for glass in self.page.get_by_role("radio").all()]

    def picks(self, code):
        self.page.get_by_role("radio", name=code).click()
        self.page.get_by_role("button", name=re.compile("^Next")).click()


def key_of(page, panel):
    """Which letter stands for the sample in each glass, from the pourer's sheet."""
    page.goto(f"{panel}/pour")
    page.get_by_role("heading", name="Have ready").wait_for()
    found = re.findall(r"(\d{3})\s+([A-L])", page.get_by_role("main").inner_text())
    return dict(found)


def open_panel(page, pourer="Jonas"):
    choose(page, "Who pours", pourer)
    page.get_by_role("button", name="Open the panel").click()
    link = page.get_by_role("link", name="Open a seat on this device").get_attribute("href")
    return page.url, link


def signed_in(browser, site, name):
    hand = Hand(browser.new_page(), site)
    hand.sign_in(name)
    return hand.page


def odd(codes, key):
    held = [key[code] for code in codes]
    return next(code for code in codes if held.count(key[code]) == 1)


def test_can_anybody_tell_the_cheaper_version(hand, browser, site):
    page = hand.page
    hand.sign_in("ilse")
    hand.place("Taste")
    page.get_by_role("link", name="Ask something").click()
    add_version(page, "sea buckthorn", re.compile(r"^Sea buckthorn cordial\s*Version 3"), 3)
    add_version(page, "less sugar", "less sugar", 1)
    # What this panel can show, and what it can hardly show, is said before anybody drinks.
    shows = page.get_by_role("region", name="What this panel can show")
    expect(shows).to_contain_text(re.compile(r"12 tastings can hardly show that at most 20.% can tell: that takes about 100\."))
    expect(shows).to_contain_text("A difference is shown from 8 right of 12")
    page.get_by_label("The question, in one sentence").fill("Can anybody tell the cheaper version?")
    # What was typed is there after a reload.
    page.reload()
    expect(page.get_by_label("The question, in one sentence")).to_have_value("Can anybody tell the cheaper version?")
    expect(page.get_by_role("button", name=re.compile("^Take Sea buckthorn cordial"))).to_have_count(2)
    panel, link = open_panel(page)
    expect(page.get_by_role("main")).not_to_contain_text("less sugar")

    key = key_of(signed_in(browser, site, "jonas"), panel)
    assert len(key) == 36
    page.goto(f"{panel}/pour")
    expect(page.get_by_role("alert")).to_contain_text("The key is for who pours")
    page.goto(panel)

    phones = [Phone(browser, site, link, name) for name in ("Ada", "Ben", "Cleo", "Dov", "Edda", "Finn")]
    for n, phone in enumerate(phones):
        phone.begin()
        codes = phone.codes()
        right = odd(codes, key)
        # What is chosen can be changed until Next.
        other = next(code for code in codes if code != right)
        phone.page.get_by_role("radio", name=other).click()
        phone.picks(right if n < 3 else other)
        expect(phone.page.get_by_text("2 of 2")).to_be_visible()
    expect(page.get_by_role("heading", name="6 of 12 answered")).to_be_visible()
    # The link opened once more on a phone that sits there already leads back to its seat.
    once_more = phones[0].context.new_page()
    once_more.goto(f"{site.base}/taste/seat#{link.partition('#')[2]}")
    once_more.get_by_role("button", name="Go on there").click()
    expect(once_more.get_by_text("2 of 2")).to_be_visible()
    once_more.close()
    lost = phones[5]
    lost.context.set_offline(True)
    for n, phone in enumerate(phones):
        codes = phone.codes()
        right = odd(codes, key)
        phone.picks(right if n < 2 else next(code for code in codes if code != right))
        expect(phone.page.get_by_role("heading", name="Thank you")).to_be_visible()
    expect(lost.page.get_by_text("One answer waits on this phone")).to_be_visible()
    expect(page.get_by_role("heading", name="11 of 12 answered")).to_be_visible()
    # The phone is put into a pocket without the network, and comes back with it.
    lost.context.set_offline(False)
    expect(lost.page.get_by_text("The seal is broken")).to_be_visible()

    verdict = page.get_by_role("region", name="Verdict")
    expect(verdict).to_contain_text("No difference shown: 5 of 12 right, where chance gives 4.")
    expect(verdict).to_contain_text(re.compile(r"Up to \d+.% of guests may notice\. That it is the same is not shown"))
    expect(verdict).to_contain_text("that no more can tell is not shown")
    expect(verdict).to_contain_text(re.compile(r"The risk of a switch: of 100 guests, up to \d+ may notice"))
    expect(page.get_by_role("region", name="Who was right").get_by_role("img", name="2 of 2 right")).to_have_count(2)
    verdict.get_by_role("button", name="Version 3 stays").click()
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_role("dialog")).to_contain_text("Why so?")
    page.get_by_label("Why", exact=True).fill("six tasters are too few for one guest in five")
    page.get_by_role("button", name="Write it down").click()
    expect(verdict).to_contain_text("decided by Ilse M.")
    # The trial worth making next is one press away, and what was tasted says so where it stands.
    following = page.get_by_role("region", name="The trial worth making next")
    expect(following).to_contain_text("One noticeable step past it")
    expect(following).to_contain_text("2 spots show no surface: 5 more that differ only in sugar and acid would.")
    following.get_by_role("button", name="Draft it").click()
    expect(page.get_by_label("Name of the spec")).to_have_value(re.compile("less sugar, after P"))
    page.get_by_role("link", name="Versions").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("after P")
    hand.place("Taste")
    expect(page.get_by_role("region", name="Told").get_by_role("listitem").first).to_contain_text("Decided by Ilse M.: Version 3 stays")


def test_six_coded_glasses_with_a_bought_bottle(hand, browser, site):
    page = hand.page
    hand.sign_in("ilse")
    hand.place("Taste")
    page.get_by_role("link", name="Ask something").click()
    page.get_by_role("radio", name=re.compile("How do they stand")).click()
    add_version(page, "sea buckthorn", re.compile(r"^Sea buckthorn cordial\s*Version 3"), 3)
    for n in range(4):
        add_bought(page, f"Jar {n}", str(38 + n), "2,4")
    add_bought(page, "Bottle from the market", "58", "1,6")
    page.get_by_label("Tasters").fill("2")
    page.get_by_text("ask after: sweet").click()
    page.get_by_label("The question, in one sentence").fill("Ours against the market?")
    panel, link = open_panel(page)
    key = key_of(signed_in(browser, site, "jonas"), panel)
    assert len(key) == 6
    page.goto(panel)
    for name in ("Ada", "Ben"):
        phone = Phone(browser, site, link, name)
        phone.begin()
        for _ in range(6):
            code = re.search(r"\d{3}", phone.page.get_by_role("banner").inner_text())[0]
            line = phone.page.get_by_role("slider")
            expect(line).to_have_attribute("aria-valuetext", "not marked yet")
            expect(phone.page.get_by_role("button", name=re.compile("^Next"))).to_be_disabled()
            bought = key[code] == "F"
            box = line.bounding_box()
            phone.page.mouse.click(box["x"] + box["width"] * (0.2 if bought else 0.8), box["y"] + box["height"] / 2)
            phone.page.get_by_role("button", name=re.compile("^Next")).click()
            phone.page.get_by_role("radio", name="far too sweet" if bought else "just right").click()
            phone.page.get_by_role("button", name=re.compile("^Next")).click()
        expect(phone.page.get_by_role("heading", name="Thank you")).to_be_visible()
    standings = page.get_by_role("region", name="How they stand")
    expect(standings.get_by_role("listitem").last).to_contain_text("Bottle from the market")
    expect(standings.get_by_role("listitem").last).to_contain_text("2.8")
    expect(page.get_by_role("region", name="Verdict")).to_contain_text("2 tasters only")
    expect(page.get_by_role("region", name="Where they stand").get_by_role("img")).to_be_visible()


def add_bottle(page, find, place):
    """Adds one of the house's bottles to the samples of a plan, by its place in the list, the first to turn first; returns its code."""
    page.get_by_role("button", name=re.compile("Add (the first|another)")).click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Find a bottle").fill(find)
    row = sheet.get_by_role("listitem").filter(has_text=re.compile(f"^{find}", re.IGNORECASE)).nth(place)
    code = re.search(r"L\d{4}", row.inner_text())[0]
    row.get_by_role("button").click()
    expect(sheet).to_be_hidden()
    return code


def test_an_old_bottle_shortens_a_date(hand, browser, site):
    page = hand.page
    hand.sign_in("ilse")
    hand.place("Taste")
    page.get_by_role("link", name="Ask something").click()
    old, young = (add_bottle(page, "Sea buckthorn cordial", place) for place in (0, 1))
    assert old != young
    shows = page.get_by_role("region", name="What this panel can show")
    expect(shows).to_contain_text(
        re.compile(r"Day 5 against day 2: if age is shown, a shorter date is proposed\. No panel makes one longer")
    )
    page.get_by_label("Tasters").fill("3")
    page.get_by_label("Times each").fill("1")
    page.get_by_label("The question, in one sentence").fill("Is the older cordial still what it was?")
    panel, link = open_panel(page)
    key = key_of(signed_in(browser, site, "jonas"), panel)
    page.goto(panel)
    for name in ("Ada", "Ben", "Cleo"):
        phone = Phone(browser, site, link, name)
        phone.begin()
        phone.picks(odd(phone.codes(), key))
        expect(phone.page.get_by_role("heading", name="Thank you")).to_be_visible()

    good = page.get_by_role("region", name="How long it is good")
    expect(good).to_contain_text("Day 5 was told from day 2: good for 4 days at most.")
    expect(good).to_contain_text("Quality stands at 28 days, safety at 5 days.")
    good.get_by_role("button", name="Set 4 days").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Good for").fill("5")
    sheet.get_by_role("button", name="Set it, in my name").click()
    expect(sheet).to_contain_text("a tasting makes a date shorter, never longer")
    sheet.get_by_label("Good for").fill("4")
    sheet.get_by_label("Why").fill("flat by the fifth day")
    sheet.get_by_role("button", name="Set it, in my name").click()
    expect(good).to_contain_text("print them anew")
    expect(good).to_contain_text("Quality stands at 4 days, safety at 5 days.")
    expect(good.get_by_role("button")).to_have_count(0)
    expect(page.get_by_role("region", name="Verdict")).to_contain_text("Sea buckthorn cordial is good for 4 days")
    good.get_by_role("link", name=young).click()
    expect(page.get_by_role("main")).to_contain_text("4 days from its making: flat by the fifth day (Ilse M.)")
    page.goto(f"{site.base}/house/rules")
    tasted = page.get_by_role("region", name="As it tasted")
    expect(tasted.get_by_role("listitem")).to_contain_text("Sea buckthorn cordial is good for 4 days")
    tasted.get_by_role("button", name="Without the date of Sea buckthorn cordial").click()
    expect(tasted.get_by_role("listitem")).to_have_count(0)
