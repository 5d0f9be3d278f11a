"""Every place at every size, by day and by night: nothing for axe to say, nothing cut, no print too small, all by keyboard."""

import re

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect

from tests.browser.conftest import BY_THE_SITE

pytestmark = [pytest.mark.timeout(600), *BY_THE_SITE]
SIZES = {"laptop": (1280, 800), "tablet": (1024, 768), "upright tablet": (768, 1024), "phone": (390, 844)}

SMALL_PRINT = """least => [...document.querySelectorAll('body *')]
  .filter(e => [...e.childNodes].some(n => n.nodeType === 3 && n.textContent.trim()) && e.checkVisibility() && !e.closest('.sr-only'))
  .map(e => {
    const drawn = e.ownerSVGElement;
    const scale = drawn ? drawn.getBoundingClientRect().width / drawn.viewBox.baseVal.width : 1;
    return [parseFloat(getComputedStyle(e).fontSize) * scale, e.textContent.trim().slice(0, 40)];
  })
  .filter(([size]) => size < least - 0.05)"""
SMALL_TARGETS = """() => [...document.querySelectorAll('button, a[href], [role=combobox]')]
  .filter(e => e.checkVisibility())
  .map(e => [e.getBoundingClientRect(), e.textContent.trim().slice(0, 30) || e.getAttribute('aria-label')])
  .filter(([box]) => box.width > 0 && (box.height < 43.5))
  .map(([box, name]) => [Math.round(box.height), name])"""
SCROLLED = """() => [...document.querySelectorAll('body *')]
  .filter(e => ['auto', 'scroll'].includes(getComputedStyle(e).overflowX) && e.checkVisibility() && e.scrollWidth > e.clientWidth + 1)
  .map(e => [e.getAttribute('aria-label') || e.className, e.tabIndex >= 0 || e.querySelector('a[href], button, input, select, textarea') !== null])"""
"""Elements that scroll sideways: name, and whether the keyboard reaches them."""
EDGE = """() => [...document.querySelectorAll('section[aria-label^="Hands and waits"] li')].map(e => {
  Object.assign(e.style, { left: '97%', width: '2%' });
  return e.textContent;
})"""
"""Moves every bar of the day's strip to its right edge. Returns their texts."""


def places(hand):
    """The address of every kind of screen, from the demo house."""
    page = hand.page
    found = {"shift": "/shift", "stores": "/stores", "specs": "/specs", "read": "/specs/read", "make": "/make"}
    api = page.request
    specs = api.get(f"{hand.site.base}/api/specs").json()["items"]
    found["workbench"] = "/specs/" + next(item["id"] for item in specs if item["name"] == "Sea buckthorn cordial")
    found["card"] = f"{found['workbench']}/card"
    found["versions"] = f"{found['workbench']}/versions"
    found["capture"] = "/make/capture"
    found["compare"] = f"{found['workbench']}/compare?left=1&right=2"
    found["bench"] = "/make/" + next(
        run["id"] for run in api.get(f"{hand.site.base}/api/runs?state=open").json()["items"] if run["name"].startswith("Sea")
    )
    found |= {f"citrus {part}": f"/citrus/{part}" for part in ("", "plan", "stretch", "skins", "keeps", "trials", "desk")}
    found["sums"] = "/shift?sum="
    found["sum"] = "/shift?sum=acid_dose&s.volume=60&s.want=1.5&s.solution=28"
    found |= {
        f"house {part}": f"/house/{part}"
        for part in ("", "settings", "register", "materials", "rules", "people", "cleared", "group", "devices", "api", "history")
    }
    found["house material"] = "/house/materials?material=lemon"
    found |= {"many": "/stores/many", "count": "/stores/count", "found": "/stores?find=bergamot juice"}
    found |= {"taste": "/taste", "taste plan": "/taste/new", "taste seat": "/taste/seat"}
    for state in ("told", "open"):
        for panel in api.get(f"{hand.site.base}/api/panels?state={state}").json()["items"]:
            found[f"taste {state} {panel['method']}"] = f"/taste/{panel['id']}"
    for standard in api.get(f"{hand.site.base}/api/standards").json()["items"]:
        found[f"standard {standard['kind']}"] = f"/taste/standards/{standard['id']}"
    found |= {
        "plan": "/plan",
        "plan menu": "/plan/menu",
        "plan pars": "/plan/pars",
        "plan people": "/plan/people",
        "plan suppliers": "/plan/suppliers",
    }
    found["lot"] = "/lots/" + api.get(f"{hand.site.base}/api/lots").json()["items"][0]["code"]
    return found


def go(hand, path):
    hand.page.goto(hand.site.base + path)
    # By its tag: behind an open sheet the place's own heading has no role.
    hand.page.locator("h1").or_(hand.page.get_by_label("Name of the spec")).first.wait_for()
    hand.page.wait_for_load_state("networkidle")


KEYS = ("L", "R", "T", "X", "W", "M", "H", "F", "Q", "0", "space")
"""What may be printed smaller on the bench: the keys that its buttons have too."""


def said_by_axe(page):
    return [(item["id"], item["nodes"][0]["html"][:160]) for item in Axe().run(page).response["violations"]]


@pytest.mark.parametrize("half", [0, 1])
def test_every_place_by_day_and_by_night_at_every_size(hand, half):
    """Each is opened once; theme and size change under it, as they do for who turns a tablet or dims the bar."""
    page = hand.page
    hand.sign_in("ilse")
    for name, path in list(places(hand).items())[half::2]:
        page.set_viewport_size({"width": SIZES["laptop"][0], "height": SIZES["laptop"][1]})
        go(hand, path)
        for theme in ("light", "dark"):
            page.emulate_media(color_scheme=theme)
            assert said_by_axe(page) == [], (name, theme)
        for size, (width, height) in SIZES.items():
            page.set_viewport_size({"width": width, "height": height})
            # Two frames: one to lay it out anew, one for what is drawn by its own size.
            page.evaluate("() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")
            assert page.evaluate("document.documentElement.scrollWidth") <= width, (size, name, "wider than the screen")
            scrolled = page.evaluate(SCROLLED)
            assert [what for what, reached in scrolled if not reached] == [], (size, name, "scrolled by hand alone")
            small = page.evaluate(SMALL_PRINT, 18 if name == "bench" else 14)
            assert [text for text in small if text[1] not in KEYS] == [], (size, name)
            if size == "phone":
                assert page.evaluate(SMALL_TARGETS) == [], (size, name)


def test_what_stands_at_the_edge_of_the_day_does_not_widen_it(hand):
    """Text for screen readers once stood outside a narrow bar, so that the strip scrolled sideways at those hours at which a bar was near the edge."""
    hand.sign_in("ilse")
    go(hand, "/plan")
    assert hand.page.evaluate(EDGE), "the day has hands or waits"
    assert hand.page.evaluate(SCROLLED) == []


def test_axe_finds_nothing_on_a_step_that_is_edited(hand):
    page = hand.page
    hand.sign_in("ilse")
    go(hand, places(hand)["workbench"])
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    for theme in ("light", "dark"):
        page.emulate_media(color_scheme=theme)
        assert said_by_axe(page) == [], theme


def test_a_spec_is_changed_with_the_keyboard_alone(hand):
    page = hand.page
    hand.sign_in("ilse")
    go(hand, places(hand)["workbench"])
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("type the next step")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_be_hidden()
    page.keyboard.press("f")
    flag = page.get_by_role("slider", name=re.compile("^Flag"))
    expect(flag).to_be_focused()
    for _ in range(4):
        page.keyboard.press("Shift+ArrowLeft")
    take = page.get_by_role("button", name="Take Water")
    take.focus()
    steps = page.get_by_role("region", name="Steps and river").get_by_role("listitem")
    page.keyboard.press("Enter")
    expect(page.get_by_role("region", name="In the bottle")).to_contain_text(re.compile(r"\d"))
    expect(page.get_by_text(re.compile(r"· saved \d\d:\d\d$"))).to_be_visible()
    before = steps.count()
    page.get_by_role("heading", name="In the bottle").click()
    page.keyboard.press("n")
    expect(page.get_by_label("Next step, as you would say it")).to_be_focused()
    page.keyboard.type("steep birch ti")
    expect(page.get_by_role("list", name="In Stores")).to_contain_text("Birch tips")
    page.keyboard.press("Tab")
    page.keyboard.type("9 g 25 min 72 C")
    page.keyboard.press("Enter")
    expect(steps).to_have_count(before + 1)
    expect(page.get_by_label("How to do it")).to_have_value("steep birch tips 9 g 25 min 72 C")
    page.get_by_role("heading", name="In the bottle").click()
    page.keyboard.press("u")
    expect(steps).to_have_count(before)
    page.keyboard.press("u")
    expect(page.get_by_text(re.compile(r"· saved \d\d:\d\d$"))).to_be_visible()
    page.keyboard.press("1")
    expect(page.get_by_role("heading", level=1)).to_contain_text("day,")
