"""The bench: weigh ahead, a reduction watched to its bell, the rest recomputed from where it stopped, and a hand-over."""

import re

import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.timeout(600)


def read(page, kind, value):
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("button", name=re.compile(f"^{kind}")).click()
    page.get_by_role("dialog").get_by_role("textbox").fill(value)
    page.get_by_role("button", name="That is it").click()
    expect(page.get_by_role("dialog")).to_be_hidden()


def test_a_reduction_is_watched_to_its_bell_and_the_rest_follows(hand):
    page = hand.page
    hand.sign_in("noor")
    hand.begin("Damson syrup, juice reduced", "2000")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Damson juice")
    page.get_by_role("button", name="Weigh ahead").click()
    ahead = page.get_by_role("dialog")
    expect(ahead.get_by_role("button", name=re.compile("White sugar"))).to_be_disabled()
    ahead.get_by_role("button", name=re.compile("Damson juice")).click()
    page.get_by_label("What the scale shows").fill("2000")
    page.get_by_role("button", name="That is it").click()
    expect(page.get_by_role("dialog")).to_contain_text("Weigh ahead")
    page.keyboard.press("Escape")

    page.get_by_role("button", name="Start the clock").click()
    what = page.get_by_role("region", name="What to do")
    expect(what).to_contain_text(re.compile(r"On its way\..*1.000.g to go"))
    read(page, "Weight", "1500")
    expect(what).to_contain_text(re.compile("500.g to go"))
    expect(page.get_by_role("img", name="1 readings on the way from 2\u00a0000 to 1\u00a0000")).to_be_visible()
    page.reload()
    expect(what).to_contain_text(re.compile("500.g to go"))
    read(page, "Weight", "940")
    expect(what).to_contain_text(re.compile(r"Past it\..*Add 60\.0.g of water to come back"))
    read(page, "Weight", "1010")
    expect(what).to_contain_text("It is there.")
    page.get_by_role("button", name="Stop here").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("White sugar")
    to_go = hand.large_figure()
    expect(to_go).to_have_text("556")
    expect(what).to_contain_text("A sample is kept after “Reduce to 51")
    page.get_by_role("button", name="Set it aside").click()
    page.get_by_role("dialog").get_by_role("textbox").fill("10")
    page.get_by_role("button", name="That is it").click()
    expect(to_go).to_have_text("550")
    expect(what).not_to_contain_text("A sample is kept after")
    page.get_by_role("button", name="More").click()
    page.get_by_role("button", name="This step was done otherwise").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("What was different").click()
    page.get_by_role("option", name="for, min").click()
    sheet.get_by_role("button", name="That is how it was").click()
    expect(sheet.get_by_role("alert")).to_contain_text("Write how it was")
    sheet.get_by_role("textbox").fill("9")
    sheet.get_by_role("button", name="That is how it was").click()
    expect(what).to_contain_text(re.compile("warm to 70.°C, 9.min"))
    page.get_by_role("button", name="Taste").click()
    page.get_by_role("dialog").get_by_label("Weak or strong by about").fill("20")
    page.get_by_role("dialog").get_by_role("button", name="Too strong").click()
    expect(page.get_by_role("dialog")).to_contain_text(re.compile(r"Cut it with 200.g of plain syrup at 3"))
    page.keyboard.press("Escape")

    hand.type_weight("550")
    page.get_by_role("button", name="Went wrong").click()
    page.get_by_role("button", name="Wrong jar: it was not white sugar").click()
    page.get_by_label("Name of the material").fill("honey")
    page.get_by_role("button", name=re.compile("^Honey")).first.click()
    page.get_by_role("button", name="So far").click()
    expect(page.get_by_role("dialog")).to_contain_text("Honey went in instead of white sugar")
    page.get_by_label("How it tastes, looks, smells").fill("darker than the sample")
    page.get_by_role("button", name="Note it").click()
    expect(page.get_by_role("dialog")).to_contain_text("darker than the sample")
    page.get_by_role("button", name="Close").click()

    # Cooling first: what waits for the pot stays behind it, and everything is worked out in the new order.
    page.get_by_role("button", name="More").click()
    page.get_by_role("button", name="Another step first").click()
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^Cool")).click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Cool")
    page.get_by_role("button", name="Start the clock").click()
    vessel = page.get_by_role("region", name="The vessel")
    expect(vessel).to_contain_text("the vessel wants a label")
    vessel.get_by_role("button", name="Print it").click()
    expect(vessel).not_to_contain_text("the vessel wants a label")
    page.reload()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Cool")
    expect(vessel).not_to_contain_text("the vessel wants a label")

    page.get_by_role("button", name="More").click()
    page.get_by_role("button", name="Hand over").click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("Reduce to 51")
    sheet.get_by_role("button", name="To Jonas").click()
    page.keyboard.press("h")
    expect(page.get_by_role("dialog")).to_contain_text("Hands so far: Noor → Jonas")


def test_what_was_weighed_without_a_spec_becomes_a_draft(hand):
    page = hand.page
    hand.sign_in("jonas")
    hand.place("Make")
    page.get_by_role("link", name="Capture without a spec").click()
    for material, grams in (("Quince juice", "800"), ("White sugar", "400")):
        page.get_by_role("button", name="Something goes in").click()
        page.get_by_label("Name of the material").fill(material)
        page.get_by_role("button", name=re.compile(f"^{material}")).first.click()
        page.get_by_label("What the scale shows").fill(grams)
        page.get_by_role("button", name="That is it").click()
    page.reload()
    expect(page.get_by_role("region", name="What went in")).to_contain_text("400")
    # Solids out, the rest into another vessel, a few drops there, a part drawn off.
    sheet = page.get_by_role("dialog")
    page.get_by_role("button", name="Something comes out").click()
    sheet.get_by_label("What it weighed").fill("a lot")
    expect(sheet).to_contain_text("Write grams in figures")
    sheet.get_by_label("What it weighed").fill("30")
    sheet.get_by_role("button", name="Write it down").click()
    page.get_by_role("button", name="Pour it over").click()
    expect(sheet.get_by_role("button", name="Pour it over")).to_be_disabled()
    sheet.get_by_label("Into").click()
    page.get_by_role("option", name="another vessel").click()
    sheet.get_by_label("Name of the vessel").fill("tall jug")
    sheet.get_by_role("button", name="That one").click()
    sheet.get_by_role("button", name="Pour it over").click()
    page.get_by_role("button", name="Something goes in").click()
    page.get_by_label("Name of the material").fill("Water")
    page.get_by_role("button", name=re.compile("^Water")).first.click()
    sheet.get_by_role("button", name="drops").click()
    page.get_by_label("How many drops").fill("20")
    page.get_by_role("button", name="That is it").click()
    page.get_by_role("button", name="Something comes out").click()
    sheet.get_by_label("What came out").click()
    page.get_by_role("option", name="a part, drawn off").click()
    sheet.get_by_label("Its name").fill("for the tasting")
    sheet.get_by_label("How much").fill("200")
    sheet.get_by_role("button", name="Write it down").click()
    page.reload()
    expect(page.get_by_role("region", name="What went in")).to_contain_text("All of the pot into the tall jug")
    page.get_by_label("What it is called").fill("Caught quince")
    page.get_by_role("button", name="Make a draft of it").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Caught quince")
    river = page.get_by_role("region", name="Steps and river")
    expect(river).to_contain_text("0.5 per g of juice")
    expect(river).to_contain_text("all of it")
    expect(river).to_contain_text("for the tasting")
    expect(page.get_by_role("region", name="In the bottle")).to_contain_text(re.compile(r"0\.8\d"))


@pytest.mark.browser_context_args(service_workers="block")
def test_nothing_is_typed_into_a_line_that_is_weighed_already(hand):
    """The server is slow to answer a weighing: until it has, the bench asks for nothing, and what is typed next belongs to the next line."""
    page = hand.page
    # However long this machine takes, the bench waits for the answer that is held back here.
    page.add_init_script("AbortSignal.timeout = () => new AbortController().signal")
    # The core in this browser, which would have worked it out at once, cannot be had.
    page.route("**/static/pyodide/**", lambda route: route.abort())
    hand.sign_in("noor")
    hand.begin("Tartaric and malic stock", "140")
    heading = page.get_by_role("heading", level=1)
    type_it = page.get_by_role("button", name="Type the weight")
    type_it.wait_for()
    first = heading.inner_text()
    held = []

    def hold(route):
        held.append(route)

    page.route("**/api/signed-actions", hold)
    type_it.click()
    page.get_by_label("What the scale shows").fill("140")
    # Signed first, then sent: the presses below come while the answer is held back.
    with page.expect_request("**/api/signed-actions"):
        page.get_by_role("button", name="That is it").click()
    expect(page.get_by_role("dialog")).to_be_hidden()
    expect(type_it).to_be_disabled()
    expect(heading).to_have_text(first)
    # Pressed all the same, by key and by knuckle: neither opens anything, nor does the deed that stands there afterwards.
    page.keyboard.press("e")
    page.keyboard.press("Enter")
    box = type_it.bounding_box()
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    expect(page.get_by_role("dialog")).to_be_hidden()
    held[0].continue_()
    page.unroute("**/api/runs/*/events", hold)
    expect(heading).not_to_have_text(first)
    expect(type_it).to_be_enabled()
    second = heading.inner_text()
    type_it.click()
    expect(page.get_by_role("dialog").get_by_role("heading", name=second)).to_be_visible()


def test_a_line_comes_out_of_the_crate_that_was_scanned(hand):
    page = hand.page
    hand.sign_in("jonas")
    hand.begin("Bergamot cordial", "400")
    expect(page.get_by_role("heading", name="Bergamot juice")).to_be_visible()
    api = f"{hand.site.base}/api{page.url.removeprefix(hand.site.base).replace('make', 'runs')}"
    crates = [item for item in page.request.get(f"{api}/supplies").json() if item["material"] == "bergamot_juice"]
    newest, older = crates[:2]
    out_of = page.get_by_role("button", name=re.compile("^From"))
    expect(out_of).to_contain_text(newest["code"])
    page.keyboard.press("f")
    sheet = page.get_by_role("dialog")
    code = sheet.get_by_label("Scan its label, or type its code")
    code.fill("D000000")
    code.press("Enter")
    expect(sheet).to_contain_text("There is no lot “D000000” here")
    code.fill(older["code"].lower())
    code.press("Enter")
    expect(sheet).to_be_hidden()
    expect(out_of).to_contain_text(older["code"])
    hand.type_weight("400")
    heading = page.get_by_role("heading", level=1)
    expect(heading).not_to_have_text("Bergamot juice")
    left = {item["code"]: item["left_g"] for item in page.request.get(f"{api}/supplies").json()}
    assert left[older["code"]] == pytest.approx(older["left_g"] - 400)
    assert left[newest["code"]] == newest["left_g"]
    # What is too little to weigh goes in by the drop.
    name = heading.inner_text()
    page.get_by_role("button", name="Type the weight").click()
    sheet.get_by_role("button", name="drops").click()
    sheet.get_by_label("One drop").fill("a bit")
    expect(sheet).to_contain_text("Write figures, such as 0.05.")
    sheet.get_by_label("One drop").fill("0.04")
    sheet.get_by_label("How many drops").fill("20")
    page.get_by_role("button", name="That is it").click()
    expect(heading).not_to_have_text(name)
    page.keyboard.press("x")
    expect(sheet).to_contain_text(f"Take back 20 drops of {name.lower()}")


def test_a_crate_is_counted_and_tossed_and_counted_back_in(hand):
    page = hand.page
    hand.sign_in("jonas")
    hand.place("Stores")
    code = page.request.get(f"{hand.site.base}/api/stock?limit=200").json()["items"][-1]["code"]
    page.get_by_label("Find by name, place or code").fill(code.lower())
    row = page.locator("div.grid").filter(has=page.get_by_text(code, exact=True)).last
    sheet = page.get_by_role("dialog")

    def count(grams):
        row.get_by_role("button", name=re.compile("^Count")).click()
        sheet.get_by_label("What is left").fill(grams)
        sheet.get_by_role("button", name="That is left").click()

    count("lots")
    expect(sheet).to_contain_text("“lots” is no number")
    sheet.get_by_label("What is left").fill("-4")
    sheet.get_by_role("button", name="That is left").click()
    expect(sheet).to_contain_text("from 0 g to a tonne")
    sheet.get_by_label("What is left").fill("77")
    sheet.get_by_role("button", name="That is left").click()
    expect(sheet).to_be_hidden()
    expect(row).to_contain_text(re.compile("77.g left"))
    row.get_by_role("button", name=re.compile("^Count")).click()
    expect(sheet.get_by_role("list", name="What was counted")).to_contain_text(re.compile("Jonas: .* in the books, 77.g counted"))
    sheet.get_by_label("because").fill("mould")
    sheet.get_by_role("button", name="Toss it").click()
    expect(sheet).to_be_hidden()
    expect(row).to_be_hidden()
    page.get_by_role("button", name="What is gone").click()
    count("60")
    expect(row).to_be_hidden()
    page.get_by_role("button", name="What is gone").click()
    expect(row).to_contain_text(re.compile("60.g left"))


def test_a_device_with_no_room_left_says_that_it_does_not_count(hand):
    """What cannot be kept on the device has not happened, and the maker reads so at once."""
    page = hand.page
    page.add_init_script("""
      const add = IDBObjectStore.prototype.add;
      window.roomy = (is) => { IDBObjectStore.prototype.add = is ? add : () => { throw new DOMException("full", "QuotaExceededError") } };
    """)
    hand.sign_in("noor")
    hand.begin("Birch tip syrup", "700")
    expect(page.get_by_role("heading", name="Water")).to_be_visible()
    page.evaluate("roomy(false)")
    hand.type_weight("700")
    expect(page.get_by_text("This device has no room left to keep that, so it does not count.")).to_be_visible()
    expect(page.get_by_role("heading", name="Water")).to_be_visible()
    page.evaluate("roomy(true)")
    hand.weigh("700")
    expect(page.get_by_role("heading", name="White sugar")).to_be_visible()
    expect(page.get_by_text("This device has no room left")).to_be_hidden()
