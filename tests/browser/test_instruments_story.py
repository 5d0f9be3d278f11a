"""The bench with instruments: a cordial from a live scale, titrated, labelled and traced; a thaw stopped by its strength; a rehearsal scored."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE
from tests.instruments import hand as moved
from tests.instruments import tell

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]


@pytest.fixture(autouse=True)
def empty_scale(site):
    """Nothing stands on the scale when a story begins, and it shows nothing: a tare outlives the vessel that it was for."""
    moved(site.instrument("scale"), "lift")
    tell(site.instrument("scale"), "tare")


TAKE = re.compile(r"^Take \d")


def what(page):
    return page.get_by_role("region", name="What to do")


def pour(page, site, grams):
    """A pour on the simulated scale, taken when it has settled; taking it tares."""
    moved(site.instrument("scale"), f"pour {grams} 0.3")
    page.get_by_role("button", name=TAKE).click()
    expect(page.get_by_role("button", name=TAKE)).to_be_hidden()


def rehearsed(page):
    """A rehearsed pour, stopped and taken."""
    page.get_by_role("button", name="Pour", exact=True).click()
    page.get_by_role("button", name="Stop", exact=True).click(delay=600)
    page.get_by_role("button", name=TAKE).click()
    expect(page.get_by_role("button", name=TAKE)).to_be_hidden()


def stands(page):
    """Where the bench stands: its heading and its buttons."""
    return page.evaluate("[...document.querySelectorAll('main h1, main > div button')].map((item) => item.textContent).join('|')")


def go_on(hand, weigh, until="Bottles are full"):
    """From step to step until a button stands there; each line is weighed by `weigh(grams wanted)`."""
    page = hand.page
    main = page.get_by_role("button", name=re.compile("^(Type the weight|Start the clock|Next|Bottles are full|Read it)"))
    for _ in range(40):
        # Until the last answer is worked out the button still says what it was; then it says something else, in the same place.
        expect(main.first).to_be_enabled()
        before = stands(page)
        if page.get_by_role("button", name=until).is_visible():
            return
        if page.get_by_role("button", name="Type the weight").is_visible():
            weigh(hand.grams_to_go())
        elif page.get_by_role("button", name="Start the clock").is_visible():
            page.get_by_role("button", name="Start the clock").click()
        else:
            page.get_by_role("button", name=re.compile("^Next")).first.click()
        hand.until_changed(stands, before)
    raise AssertionError(f"never came to “{until}”")


def test_a_cordial_from_a_live_scale_heals_an_over_pour_and_is_labelled(hand, site, context):
    page = hand.page
    scale = site.instrument("scale")
    hand.sign_in("jonas")
    hand.begin("Bergamot cordial", "1000")
    expect(page.get_by_role("dialog")).to_be_hidden()
    expect(page.get_by_role("button", name="Tare")).to_be_visible()
    moved(scale, "put 30")
    expect(what(page)).to_contain_text(re.compile(r"970\s*grams\s*to go"))
    page.keyboard.press("0")
    expect(what(page)).to_contain_text(re.compile(r"1.000\s*grams\s*to go"))
    moved(scale, "pour 600 0.2")
    expect(what(page)).to_contain_text(re.compile(r"400\s*grams\s*to go"))
    other = context.new_page()
    other.goto(page.url)
    expect(what(other)).to_contain_text(re.compile(r"400\s*grams\s*to go"))
    other.close()
    moved(scale, "pour 460 0.2")
    expect(what(page)).to_contain_text(re.compile(r"60\.0\s*grams\s*over"))
    page.get_by_role("button", name=re.compile("Take 1.060.0")).click()
    expect(what(page)).to_contain_text(re.compile(r"Bergamot juice: 1.060.g instead of 1.000.g, 60\.0.g over\. Rescaled after it"))

    # Taking it tares: a cable that is pulled before that has reached the scale takes the tare along.
    expect(what(page)).to_contain_text(re.compile(r"583\s*grams\s*to go"))

    # The cable is pulled: it is said, typing goes on, and the scale is found again.
    moved(scale, "drop 3")
    expect(what(page)).to_contain_text("The bench scale is lost: type the weight.")
    page.get_by_role("button", name="Type the weight").click()
    page.get_by_role("button", name="Close").click()
    expect(what(page)).not_to_contain_text("is lost")

    go_on(hand, lambda wanted: pour(page, site, wanted))
    page.get_by_role("button", name="Bottles are full").click()
    sheet = page.get_by_role("dialog")
    if sheet.get_by_label("I sign that").is_visible():
        sheet.get_by_label("I sign that").check()
    sheet.get_by_label("swing-top 1").check()
    sheet.get_by_role("button", name="On the shelf").click()
    expect(page.get_by_text("Use by")).to_be_visible()
    lot = page.url.rsplit("/", 1)[1]
    page.get_by_role("button", name="Print on the label printer").click()
    expect(page.get_by_text(re.compile(r"^\d+ printed"))).to_be_visible()
    printed = moved(site.instrument("label_printer"), "printed")
    assert re.search(rf"label {lot} 100x70 / strong pour until ([A-Z]{{3}}) / strong Bergamot cordial / strong Use by (?i:\1) ", printed), (
        printed
    )

    # From the bottle back to the crate, and from the crate to its bottles.
    expect(page.get_by_role("region", name="Where it comes from and went")).not_to_contain_text("Nothing that Stores knew")
    found = page.evaluate("""async () => {
      const stock = (await (await fetch("/api/stock?limit=200")).json()).items.find((item) => item.material === "bergamot_juice");
      return JSON.stringify(await (await fetch(`/api/stock/${stock.id}/trace`)).json());
    }""")
    assert lot in found
    page.goto(f"{site.base}/make/containers")
    expect(page.get_by_role("listitem").filter(has_text="swing-top 1")).to_contain_text("holds Bergamot cordial")


def test_a_crate_runs_empty_on_the_scale_and_the_next_goes_on(hand, site):
    page = hand.page
    hand.sign_in("noor")
    hand.begin("Bergamot cordial", "1000")
    expect(page.get_by_role("dialog")).to_be_hidden()
    moved(site.instrument("scale"), "pour 400 0.3")
    expect(page.get_by_role("button", name=TAKE)).to_be_visible()
    page.keyboard.press("f")
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="on the scale").click()
    expect(sheet.get_by_label("In already")).to_have_value(re.compile(r"^(399|400)"))
    other = sheet.get_by_role("listitem").nth(1).get_by_role("button")
    code = other.locator("b").first.inner_text()
    other.click()
    expect(sheet).to_be_hidden()
    out_of = page.get_by_role("button", name=f"the rest from {code}")
    expect(out_of).to_be_visible()
    # Tared in between, the scale would forget what is in: the bench says so, and takes nothing until it shows it again.
    moved(site.instrument("scale"), "lift")
    expect(what(page)).to_contain_text("are in, and the scale shows less")
    expect(page.get_by_role("button", name="Type the weight")).to_be_visible()
    moved(site.instrument("scale"), "pour 1000 0.3")
    expect(what(page)).not_to_contain_text("shows less")
    page.get_by_role("button", name=TAKE).click()
    expect(page.get_by_role("heading", level=1)).not_to_have_text("Bergamot juice")
    page.get_by_role("button", name="So far").click()
    expect(sheet).to_contain_text(re.compile(r"Bergamot juice\s+[\d\s.]+g, out of 2: (399|400)[.\d]* \+ (599|600|601)"))

    # The crate's own address tells where it went.
    page.goto(f"{site.base}/stores/{code.lower()}")
    expect(sheet).to_contain_text("Bergamot cordial")
    sheet.get_by_role("button", name="Close").click()
    expect(page).to_have_url(re.compile("/stores$"))
    page.goto(f"{site.base}/stores/D000000")
    expect(page.get_by_text("D000000 is not on the shelf")).to_be_visible()


def test_a_delivery_is_taken_in_and_each_crate_gets_its_label(hand, site):
    page = hand.page
    hand.sign_in("jonas")
    hand.place("Stores")
    page.get_by_role("button", name="Take in a delivery").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="What is it?").click()
    page.get_by_label("Name of the material").fill("quince juice")
    page.get_by_role("button", name=re.compile("^Quince juice")).first.click()
    box = {
        "What stands on the box": "Quince, pressed",
        "From": "Osterlund Pantry",
        "A pack weighs": "2500",
        "A pack costs": "18.40",
        "Packs": "2",
    }
    for label, text in box.items():
        sheet.get_by_label(label, exact=True).fill(text)
    sheet.get_by_role("button", name="Put it on the shelf").click()
    title = sheet.get_by_role("heading", name=re.compile("^Quince, pressed: D"))
    expect(title).to_be_visible()
    code = title.inner_text().rsplit(" ", 1)[1]
    crates = sheet.get_by_label("Crates")
    crates.fill("half")
    expect(sheet.get_by_text("A whole number, from 1.")).to_be_visible()
    expect(sheet.get_by_role("button", name="Print on the label printer")).to_be_hidden()
    crates.fill("2")
    sheet.get_by_role("button", name="Print on the label printer").click()
    expect(sheet.get_by_text("2 printed.")).to_be_visible()
    printed = moved(site.instrument("label_printer"), "printed")
    assert printed.count(f"label {code} 60x40 / strong Quince, pressed / strong {code}, received") == 2
    assert f"/stores/{code}" in printed


def test_a_titration_from_its_burette(hand, site):
    page = hand.page
    hand.sign_in("noor")
    hand.begin("Bergamot cordial", "900")
    expect(page.get_by_role("dialog")).to_be_hidden()
    hand.type_weight("900")
    page.get_by_role("button", name="Reading").click()
    page.get_by_role("button", name=re.compile("^Titration")).click()
    page.get_by_role("button", name="From the burette, step by step").click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("until a pink stays")
    sheet.get_by_label("Sample").fill("2")
    # 4.6 g/100 mL in 2 mL: 0.092 / 64.041 mol of protons, 14.37 mL of 0.1 mol/L.
    moved(site.instrument("titrator"), "sample 4.6 2")
    sheet.get_by_role("button", name="Run the titrator").click()
    sheet.get_by_role("button", name=re.compile(r"Take 14\.\d")).click()
    expect(what(page)).to_contain_text(re.compile(r"4\.6 read"))


def test_a_thaw_is_stopped_by_its_strength(hand):
    page = hand.page
    hand.sign_in("noor")
    hand.place("Make")
    page.get_by_role("button", name=re.compile("^Start White grape")).click()
    page.get_by_role("radio", name="from what I weighed").check()
    page.get_by_label("What the scale shows").fill("2000")
    page.get_by_role("dialog").get_by_role("button", name="Start").click()
    expect(page.get_by_role("dialog")).to_be_hidden()
    go_on(hand, lambda wanted: hand.weigh(str(wanted)), until="Read it")
    for kind, value in (("Weight", "300"), ("Refractometer", "60")):
        page.get_by_role("button", name="Read it").click()
        page.get_by_role("button", name=re.compile(f"^{kind}")).click()
        page.get_by_role("dialog").get_by_role("textbox").fill(value)
        page.get_by_role("button", name="That is it").click()
        expect(page.get_by_role("dialog")).to_be_hidden()
    expect(what(page)).to_contain_text(re.compile(r"The whole of it reads 60\.0"))
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("button", name=re.compile("^Refractometer")).click()
    page.get_by_role("textbox", name="Refractometer").fill("20")
    page.get_by_role("button", name="That is it").click()
    expect(what(page)).to_contain_text("It is thinner than wanted. Stop")
    page.get_by_role("button", name="Stop here").click()
    expect(page.get_by_role("button", name="Read it")).to_be_hidden()


def test_a_rehearsal_is_poured_scored_and_kept_to_oneself(hand):
    page = hand.page
    hand.sign_in("noor")
    hand.place("Make")
    page.get_by_role("button", name="Start House syrup, one to one", exact=True).click()
    page.get_by_label("rehearse it").check()
    page.get_by_role("dialog").get_by_role("button", name="Start").click()
    expect(what(page)).to_contain_text("R0001")
    go_on(hand, lambda _: rehearsed(page))
    page.get_by_role("button", name="Bottles are full").click()
    page.get_by_role("button", name="Score it").click()
    expect(page.get_by_role("heading", level=1)).to_have_text(re.compile(r"\d+ of 100"))
    expect(page.get_by_role("button", name="Let the house see it")).to_be_visible()
