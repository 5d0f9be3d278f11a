"""Without the network: a whole batch by the core in the browser, a reload in the middle, and the same digits once Ulsek is back."""

import math
import re

import pytest
from playwright.sync_api import expect

from tests.core.cordial import FORM

pytestmark = pytest.mark.timeout(600)

CACHED = """async () => {
  await navigator.serviceWorker.ready;
  const cache = (await caches.keys()).find((name) => name.includes("precache"));
  if (!cache) return false;
  const kept = (await (await caches.open(cache)).keys()).map((item) => new URL(item.url).pathname);
  return ["/static/core.zip", "/static/pyodide/pyodide.asm.wasm"].every((path) => kept.includes(path));
}"""
SHOWN = """async (id) => {
  const open = indexedDB.open("ulsek");
  const db = await new Promise((done) => { open.onsuccess = () => done(open.result); });
  const asked = db.transaction("actions").objectStore("actions").getAll();
  const actions = await new Promise((done) => { asked.onsuccess = () => done(asked.result); });
  db.close();
  return actions.filter((item) => item.subject === id && item.state === "waiting").length;
}"""

ALONE = """async (id) => {
  const open = indexedDB.open("ulsek");
  const db = await new Promise((done) => { open.onsuccess = () => done(open.result); });
  const asked = db.transaction("runs").objectStore("runs").get(id);
  const kept = await new Promise((done) => { asked.onsuccess = () => done(asked.result); });
  db.close();
  return kept.alone.state;
}"""


def differences(one, other, where=""):
    """Where two open forms differ by more than 1e-9 relative."""
    if isinstance(one, dict) and isinstance(other, dict) and one.keys() == other.keys():
        return [found for key in one for found in differences(one[key], other[key], f"{where}/{key}")]
    if isinstance(one, list) and isinstance(other, list) and len(one) == len(other):
        return [found for n, (a, b) in enumerate(zip(one, other, strict=True)) for found in differences(a, b, f"{where}/{n}")]
    if isinstance(one, int | float) and isinstance(other, int | float) and not isinstance(one, bool):
        return [] if math.isclose(one, other, rel_tol=1e-9, abs_tol=1e-12) else [f"{where}: {one} {other}"]
    return [] if one == other else [f"{where}: {one!r} {other!r}"]


def waits_here(page):
    expect(page.get_by_role("status").filter(has_text="worked out on this device")).to_be_visible(timeout=120_000)


def weigh_on(hand, grams=None):
    page = hand.page
    name = page.get_by_role("heading", level=1).inner_text()
    hand.weigh(grams or str(hand.grams_to_go()))
    expect(page.get_by_role("heading", level=1)).not_to_have_text(name)


def test_a_whole_batch_without_the_network_comes_out_the_same(hand, site, context):
    page = hand.page
    hand.sign_in("jonas")
    hand.begin("Bergamot cordial", "800")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
    run = page.url.rsplit("/", 1)[1]
    hand.until("async () => (await navigator.serviceWorker.getRegistration()) !== undefined")
    hand.until(CACHED, seconds=60)
    page.reload()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
    page.wait_for_timeout(500)

    context.set_offline(True)
    # Another crate, by its code: the tablet knows its makeup from before.
    page.keyboard.press("f")
    sheet = page.get_by_role("dialog")
    crate = sheet.get_by_role("listitem").nth(1).locator("b").first.inner_text()
    sheet.get_by_label("Scan its label, or type its code").fill(f"https://tern.house/stores/{crate.lower()}")
    sheet.get_by_role("button", name="Take it").click()
    expect(page.get_by_role("button", name=re.compile(f"^From {crate}"))).to_be_visible(timeout=120_000)
    weigh_on(hand, "850")
    waits_here(page)
    expect(page.get_by_role("region", name="What to do")).to_contain_text(re.compile(r"850.g instead of 800.g"))
    page.reload()
    waits_here(page)
    for _ in range(20):
        if page.get_by_role("button", name="Bottles are full").is_visible():
            break
        if page.get_by_role("button", name="Type the weight").is_visible():
            weigh_on(hand)
            continue
        before = page.get_by_role("heading", level=1).inner_text()
        if page.get_by_role("button", name="Start the clock").is_visible():
            page.get_by_role("button", name="Start the clock").click()
            expect(page.get_by_role("button", name="Start the clock")).to_be_hidden(timeout=30_000)
        else:
            page.get_by_role("button", name=re.compile("^Next")).click()
            expect(page.get_by_role("heading", level=1)).not_to_have_text(before)
    assert page.evaluate(SHOWN, run) >= 8
    here = page.evaluate(ALONE, run)
    context.set_offline(False)
    expect(page.get_by_role("status").filter(has_text="all kept")).to_be_visible(timeout=30_000)
    assert page.evaluate(SHOWN, run) == 0
    there = page.evaluate("async (id) => (await (await fetch(`/api/runs/${id}`)).json()).state", run)
    assert differences(here, there) == []


FIGURES = """() => [...document.querySelectorAll('main section')].map((tray) => tray.innerText).join('\\n')"""


def test_ten_edits_without_the_network_stand_after_a_reload_and_are_the_site_s_own(hand, site, context):
    page = hand.page
    hand.sign_in("ilse")
    spec = hand.new_spec("Cordial in the cellar", FORM)
    page.goto(f"{site.base}/specs/{spec}")
    main = page.get_by_role("main")
    expect(main).to_have_attribute("data-core", "here", timeout=120_000)
    hand.until(CACHED, seconds=60)
    page.reload()
    expect(main).to_have_attribute("data-core", "here", timeout=120_000)

    context.set_offline(True)
    page.get_by_role("button", name=re.compile("^Stir in white sugar")).click()
    box = page.get_by_label("Ratio of White sugar")
    for n in range(10):
        box.fill(f"0.{52 + n}")
    status = main.get_by_role("status").first
    expect(status).to_contain_text("kept on this device")
    expect(main).not_to_have_attribute("data-pending", "true")
    alone = page.evaluate(FIGURES)
    page.get_by_role("button", name=re.compile("^Yield")).click()
    expect(page.get_by_role("dialog")).to_contain_text("volume")
    page.keyboard.press("Escape")

    page.reload()
    expect(status).to_contain_text("kept on this device", timeout=60_000)
    expect(main).not_to_have_attribute("data-pending", "true", timeout=120_000)
    page.get_by_role("button", name=re.compile("^Stir in white sugar")).click()
    assert page.evaluate(FIGURES) == alone
    page.get_by_role("button", name="Undo").click()
    expect(box).to_have_value("0.60")
    page.get_by_role("button", name="Redo").click()
    expect(box).to_have_value("0.61")

    context.set_offline(False)
    expect(status).to_contain_text("saved", timeout=30_000)
    assert page.evaluate(FIGURES) == alone
    there = page.request.get(f"{site.base}/api/specs/{spec}/draft").json()
    assert there["body"]["steps"][1]["lines"][0]["amount"]["ratio"] == "0.61"


@pytest.mark.browser_context_args(service_workers="block")
def test_a_core_that_comes_in_half_is_fetched_again(hand, context):
    """The network goes while the core is being fetched, and comes back for that much: what was weighed meanwhile is worked out here after all."""
    page = hand.page
    hand.sign_in("jonas")
    hand.begin("Bergamot cordial", "800")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
    page.wait_for_timeout(500)

    tried = []
    missing = re.compile(r"/static/pyodide/.*\.(wasm|zip|json)$")

    def refuse(route):
        tried.append(route.request.url)
        route.abort()

    context.route("**/api/**", lambda route: route.abort())
    context.route(missing, refuse)
    hand.type_weight("850")
    expect(page.get_by_role("status", name="What waits")).to_contain_text("1 waiting")
    hand.until_changed(lambda _: len(tried) > 3, before=False)
    context.unroute(missing, refuse)
    waits_here(page)
    expect(page.get_by_role("region", name="What to do")).to_contain_text(re.compile(r"850.g instead of 800.g"))
