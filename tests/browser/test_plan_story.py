"""The plan as its people use it: the pars say what is made today and by whom, one of us is ill, the maker begins a batch, the list goes out."""

import io
import re

import pytest
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import BY_THE_SITE
from tests.browser.plan_house import FRIDAY, WEEKDAYS, from_now, plan

__all__ = ["plan"]

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


def test_what_friday_needs_is_begun_on_wednesday_and_one_of_us_is_ill(hand, plan):
    page, friday = hand.page, WEEKDAYS[plan.needed.weekday()]
    plan.hours("Ilse M.", None, None)
    plan.hours("Jonas", from_now(5), FRIDAY)
    plan.hours("Noor", from_now(8), FRIDAY)
    plan.stock(greengage_juice=4, ascorbic_acid=1, pectin_enzyme=1, bergamot=6, citric_acid=2, malic_acid=1)
    plan.stock(mallow_flowers=5, tamarind_block=8, agar=1, white_sugar=10, caster_sugar=4)
    plan.must(Clear_greengage=900, Stretched_bergamot=1900, Mallow_flower_syrup=900, Clear_tamarind_by_agar=900)
    page.goto(f"{hand.site.base}/shift")
    page.get_by_role("navigation", name="Places").wait_for()
    page.keyboard.press("7")
    listed = page.get_by_role("region", name="Today, in order")
    # One list: four preps, in whole bottles, with when to begin and who.
    expect(page.get_by_role("main")).to_contain_text("4 to make · nothing is short")
    lines = listed.get_by_role("list").first.get_by_role("listitem")
    expect(lines).to_have_count(4)
    starts = [re.search(r"start by\s+(\d\d:\d\d)", line)[1] for line in lines.all_inner_texts()]
    assert starts == sorted(starts)
    expect(lines.filter(has_text="Clear greengage")).to_contain_text(re.compile(rf"needed {friday} 18:00"))
    expect(lines.filter(has_text="Stretched bergamot")).to_contain_text("4 bottles")
    listed.get_by_role("button", name="Why Clear greengage").click()
    expect(page.get_by_role("region", name="Why Clear greengage")).to_contain_text(
        re.compile(rf"It takes 7.h.*, and must stand there on {friday} 18:00")
    )

    # Fruit that is not here is ordered tonight, and until then its batch waits.
    plan.must(Gooseberry_and_fennel_cordial=2000)
    page.reload()
    order = page.get_by_role("region", name="To order")
    expect(order).to_contain_text("Osterlund Pantry")
    expect(order).to_contain_text(re.compile(r"today until 16:00|until 16:00"))
    expect(order).to_contain_text("Gooseberry juice")
    missed = page.get_by_role("region", name="Misses its day")
    expect(missed).to_contain_text(
        re.compile(rf"Gooseberry and fennel cordial: .* short for {friday} 18:00, because the gooseberry juice for it is not here")
    )
    expect(missed).to_contain_text("The nearest that can: ready")

    # One of us is ill: it is sorted anew, and what misses Friday is named.
    page.keyboard.press("i")
    page.get_by_role("button", name="Noor is away").click()
    expect(page.get_by_role("button", name="Noor is in after all")).to_be_visible()
    page.keyboard.press("Escape")
    expect(missed).to_contain_text(
        re.compile(rf"Clear greengage: .* short for {friday} 18:00, because nobody is in who could make it in time; Noor is away")
    )
    expect(lines.filter(has_text="Clear greengage")).to_have_count(0)
    expect(lines.filter(has_text="Mallow flower syrup")).to_contain_text("Jonas")
    expect(lines.filter(has_text="Noor")).to_have_count(0)
    page.keyboard.press("i")
    page.get_by_role("button", name="Noor is in after all").click()
    expect(page.get_by_role("button", name="Noor is away")).to_be_visible()
    page.keyboard.press("Escape")
    expect(lines.filter(has_text="Clear greengage")).to_have_count(1)
    expect(missed).not_to_contain_text("Clear greengage")


def test_make_opens_with_the_list_one_press_begins_it_and_it_goes_out(hand, plan):
    page = hand.page
    plan.hours("Ilse M.", from_now(8), from_now(8))
    plan.hours("Jonas", from_now(8), from_now(8))
    plan.hours("Noor", None, None)
    plan.stock(bergamot_juice=20)
    plan.must(Bergamot_cordial=20000)
    week = [900] * 7
    hand.call("PUT", f"/plan/pars/{plan.specs['House syrup, one to one']}", {"must_ml": week})
    page.goto(f"{hand.site.base}/plan")
    listed = page.get_by_role("region", name="Today, in order")
    expect(listed.get_by_role("button", name=re.compile("Start House syrup"))).to_be_visible()

    # Said otherwise: Jonas makes it, three bottles; then not today, and back.
    listed.get_by_role("button", name="Why House syrup, one to one").click()
    why = page.get_by_role("region", name="Why House syrup, one to one")
    why.get_by_role("combobox", name="Who makes House syrup, one to one").click()
    page.get_by_role("option", name="Jonas makes it").click()
    why.get_by_label("Bottles").fill("4")
    why.get_by_role("button", name="Make so many").click()
    line = listed.get_by_role("listitem").filter(has_text="House syrup")
    expect(line).to_contain_text("4 bottles")
    expect(line).to_contain_text("Jonas")
    why.get_by_role("button", name="Not today").click()
    expect(listed).to_contain_text("House syrup, one to one: not today")
    listed.get_by_role("button", name="Back on the list").click()
    expect(listed.get_by_role("button", name=re.compile("Start House syrup"))).to_be_visible()

    # It goes out: as text, on paper, into a calendar.
    text = page.request.get(f"{hand.site.base}/api/plan/list.txt").text()
    assert "House syrup, one to one, " in text
    paper = PdfReader(io.BytesIO(page.request.get(f"{hand.site.base}/api/plan/list.pdf").body())).pages[0].extract_text()
    assert "House syrup, one to one" in paper
    assert "BEGIN:VEVENT" in page.request.get(f"{hand.site.base}/api/plan/list.ics").text()
    page.get_by_role("button", name="Hand out today's list").click()
    expect(page.get_by_role("dialog").get_by_role("link", name="Print it")).to_be_visible()
    page.keyboard.press("Escape")

    # A reader sees it on a phone, and begins nothing.
    hand.sign_out()
    page.set_viewport_size({"width": 390, "height": 844})
    hand.sign_in("pim")
    hand.place("Plan")
    expect(listed).to_contain_text("House syrup")
    expect(page.get_by_role("button", name=re.compile("^Start "))).to_have_count(0)
    page.set_viewport_size({"width": 1024, "height": 768})
    hand.sign_out()

    # Make opens with it, and one press starts the batch in its size.
    hand.sign_in("ilse")
    hand.place("Make")
    mine = page.get_by_role("region", name="To make today")
    start = mine.get_by_role("button", name=re.compile(r"Start House syrup, one to one, \d+ bottle"))
    count = int(re.search(r"(\d+) bottle", start.get_attribute("aria-label"))[1])
    start.click()
    page.wait_for_url(re.compile(r"/make/[0-9a-f-]{36}"))
    run = page.url.rsplit("/", 1)[1]
    page.goto(f"{hand.site.base}/plan")
    expect(listed).to_contain_text("under way")
    begun = next(one for one in hand.call("GET", "/plan/today")["begun"] if one["run"] == run)
    assert begun["makes_ml"] == pytest.approx(count * 475, rel=1e-6)
