"""Quick sums as the bartender needs them: on a phone, in a few taps, without the network, and sent where they belong."""

import re

import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.timeout(600)

# What is opened, what is typed, and the answer worked out by hand.
BY_HAND = [
    (
        "Acid solution that brings",
        {"Volume": "60", "It should stand at": "1.5", "Strength of the solution": "28"},
        "3.40",
    ),  # 60 × 1.5 / 26.5
    (
        "Too sweet, too sharp",
        {"Volume": "1000", "Sugar": "50", "Acid": "2.5", "By, of what it should be": "25"},
        "247",
    ),  # 1250 mL of 40 g/100 mL
    ("A 2:1 in place of a 1:1", {"Dose": "30", "On the shelf": "66.667"}, "20.9"),  # 18.44 g of sugar at 0.884 g/mL
    ("How much of a thaw to keep", {"Juice": "1000", "It reads": "15", "The drip should read": "30"}, "456"),  # 15 (1 − (1 − f)⁴)/f = 30
    ("What a serve costs", {"Batch cost": "12.60", "It gave": "1000", "A serve": "25"}, "0.33"),  # 12.60 / 38
]


def work_out(page, name, figures):
    page.get_by_role("button", name=re.compile(f"^{re.escape(name)}")).last.click()
    for label, value in figures.items():
        page.get_by_role("dialog").get_by_role("textbox", name=label, exact=True).fill(value)
    answer = page.get_by_role("dialog").locator("output")
    expect(answer).to_be_visible(timeout=120_000)
    return answer


def shown(page):
    """Every digit of the answer."""
    return [page.get_by_role("dialog").locator("output").inner_text(), *page.get_by_role("dialog").locator("dd").all_inner_texts()]


def test_sums_by_hand_and_the_same_digits_without_the_network(hand, context):
    page = hand.page
    page.set_viewport_size({"width": 390, "height": 844})
    hand.sign_in("noor")
    page.get_by_role("button", name="Sums").click()
    online = []
    for name, figures, answer in BY_HAND:
        expect(work_out(page, name, figures)).to_have_text(answer)
        online.append(shown(page))
        page.get_by_role("button", name="Wipe the figures").click()
        page.get_by_role("button", name="← All sums").click()
    context.set_offline(True)
    for (name, figures, answer), before in zip(BY_HAND, online, strict=True):
        # A figure more than before, so that nothing is answered from memory; then the same as before.
        last = list(figures)[-1]
        work_out(page, name, {**figures, last: figures[last] + ("1" if "." in figures[last] else ".1")})
        page.get_by_role("dialog").get_by_role("textbox", name=last, exact=True).fill(
            figures[last] + "0" if "." in figures[last] else figures[last] + ".0"
        )
        expect(page.get_by_role("dialog").locator("output")).to_have_text(answer)
        expect(page.get_by_role("dialog")).to_contain_text("Worked out on this device")
        assert shown(page) == before
        page.get_by_role("button", name="Wipe the figures").click()
        page.get_by_role("button", name="← All sums").click()
    context.set_offline(False)


def test_what_is_missing_is_said_and_the_rest_is_kept_over_a_reload(hand):
    page = hand.page
    hand.sign_in("jonas")
    page.keyboard.press("q")
    page.get_by_label("What do you need?").fill("acid solution that")
    page.keyboard.press("Enter")
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("textbox", name="Volume").fill("60")
    expect(sheet).to_contain_text("Still wanted: It should stand at, Strength of the solution")
    sheet.get_by_role("textbox", name="It should stand at").fill("30")
    sheet.get_by_role("textbox", name="Strength of the solution").fill("28")
    expect(sheet.get_by_role("alert").first).to_contain_text("it must be stronger than the target")
    page.reload()
    page.get_by_role("navigation", name="Places").wait_for()
    page.keyboard.press("q")
    page.get_by_role("button", name="Acid solution that brings").click()
    expect(sheet.get_by_role("textbox", name="Volume")).to_have_value("60")
    sheet.get_by_role("textbox", name="It should stand at").fill("1.5")
    expect(sheet.locator("output")).to_have_text("3.40")
    sheet.get_by_text("The working").click()
    expect(sheet).to_contain_text("volume × (want − have) / (solution − want)")
    expect(sheet).to_contain_text("How exact: 0.3 %")


LATE = """() => {
  // The bench asks where its batch stands and sends what waits: here the older answer is the later one.
  const asked = globalThis.fetch, sent = Promise.withResolvers();
  let count = 0;
  globalThis.fetch = async (...given) => {
    const url = given[0].url ?? String(given[0]);
    const answer = await asked(...given);
    if (url.endsWith('/signed-actions')) setTimeout(sent.resolve, 300);
    if (/\\/api\\/runs\\/[0-9a-f-]{36}$/.test(url) && ++count === 2) { await sent.promise; document.documentElement.dataset.late = "yes"; }
    return answer;
  };
}"""


def test_a_link_opens_the_sum_and_an_answer_goes_to_a_spec_a_batch_and_a_label(hand, site):
    page = hand.page
    page.add_init_script(f"({LATE})()")
    hand.sign_in("ilse")
    page.goto(f"{site.base}/shift?sum=acid_solution&s.strength=28&s.volume=500&s.malic=1")
    sheet = page.get_by_role("dialog")
    expect(sheet.locator("output")).to_have_text("70.0")
    expect(sheet).to_contain_text("Concentrate, not a drink")
    with page.expect_popup() as opened:
        sheet.get_by_role("link", name="Label").click()
    assert "label.pdf" in opened.value.url
    opened.value.close()
    sheet.get_by_role("button", name="To a batch").click()
    sheet.get_by_role("button", name=re.compile("^Sea buckthorn cordial")).click()
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    page.locator("html[data-late]").wait_for(state="attached")
    page.get_by_role("button", name="So far").click()
    expect(page.get_by_role("dialog")).to_contain_text("An acid solution of any strength and split, made to the line: citric acid 70.0")
    page.get_by_role("button", name="Close").click()
    page.keyboard.press("q")
    expect(page.get_by_role("dialog")).to_contain_text("Quick sums")
    page.get_by_role("button", name=re.compile("^An acid solution of any strength.*70")).first.click()
    sheet.get_by_role("button", name="To a spec").click()
    sheet.get_by_label("Which spec?").fill("saline")
    sheet.get_by_role("button", name="Saline, twenty percent", exact=True).click()
    steps = page.get_by_role("region", name="Steps and river").get_by_role("listitem")
    sent = steps.filter(has_text="citric acid").filter(has_text="malic acid")
    expect(sent).to_have_count(1)
    count = steps.count()
    # It went in once: not again with a reload; and it can be undone.
    expect(page.get_by_text(re.compile(r"· saved \d\d:\d\d"))).to_be_visible()
    page.reload()
    expect(sent).to_have_count(1)
    expect(steps).to_have_count(count)
