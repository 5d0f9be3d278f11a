"""A tablet that many hands share: what each did is kept until the site has it, and stands under their own name, whoever is at the tablet by then."""

import json
import re
from uuid import uuid4

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import DATABASE, PATIENCE_MS, on_the_database

pytestmark = pytest.mark.timeout(600)

PINS = {"Ilse M.": "590271", "Jonas": "482915", "Noor": "730418", "Pim": "261590"}
QUEUE = """async () => {
  const open = indexedDB.open("ulsek");
  const db = await new Promise((done) => { open.onsuccess = () => done(open.result); });
  const asked = db.transaction("actions").objectStore("actions").getAll();
  const actions = await new Promise((done) => { asked.onsuccess = () => done(asked.result); });
  db.close();
  return actions.map(({ id, by, what, state }) => ({ id, by, what, state }));
}"""
ALTER = """async (from, to) => {
  const open = indexedDB.open("ulsek");
  const db = await new Promise((done) => { open.onsuccess = () => done(open.result); });
  const store = db.transaction("actions", "readwrite").objectStore("actions");
  const asked = store.getAll();
  const actions = await new Promise((done) => { asked.onsuccess = () => done(asked.result); });
  const last = actions.filter((item) => item.state === "waiting").at(-1);
  const put = store.put({ ...last, text: last.text.replace("too sweet", "too sweat") });
  await new Promise((done) => { put.onsuccess = () => done(); });
  db.close();
}"""
OWN_ANSWERS = """async () => {
  const name = (await caches.keys()).find((each) => each.startsWith("answers"));
  const kept = name ? await (await caches.open(name)).keys() : [];
  return kept.map((asked) => new URL(asked.url).pathname).filter((path) => path === "/api/own/sessions");
}"""
WORKER_READY = "() => navigator.serviceWorker.controller !== null"


class Tablet:
    """The house's tablet on a bench, with a batch on it."""

    def __init__(self, hand, context):
        self.hand, self.page, self.context = hand, hand.page, context
        self.name = f"bench tablet {uuid4().hex[:6]}"

    def enrol(self):
        self.hand.sign_in("ilse")
        self.page.goto(f"{self.hand.site.base}/house/devices")
        self.page.get_by_label("This device, by where it stands").fill(self.name)
        self.page.get_by_role("button", name="Enrol this device").click()
        expect(self.page.get_by_text("· this one")).to_be_visible()

    def who(self):
        return self.page.get_by_role("banner").get_by_role("button").last

    def switch(self, name, pin=None):
        self.who().click()
        self.page.get_by_role("list", name="Who takes over").get_by_role("button", name=name).click()
        self.page.get_by_label(f"PIN of {name}").fill(pin or PINS[name])
        if pin is None:
            expect(self.who()).to_contain_text(name)
            expect(self.page.get_by_role("dialog")).to_be_hidden()

    def sign_out(self):
        self.who().click()
        self.page.get_by_role("button", name="Sign out").click()
        self.page.get_by_role("heading", name="Ulsek").wait_for()

    def begin(self):
        """A batch on the bench, whose core is warm; its address."""
        self.hand.begin("Bergamot cordial", "800")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
        return self.page.url.rsplit("/", 1)[1]

    def ready_for_no_network(self):
        self.hand.until(WORKER_READY)
        self.page.reload()
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
        self.page.wait_for_timeout(600)

    def left_without_network(self):
        """The tablet is the house's, Jonas is at it with a batch, and the network is gone; the batch's address."""
        self.enrol()
        self.switch("Jonas")
        run = self.begin()
        self.ready_for_no_network()
        self.context.set_offline(True)
        return run

    def note(self, words):
        """Something that is done at the bench and names itself: a batch handed over to whom. Returns once the device keeps it."""
        before = len(self.states())
        self.page.keyboard.press("h")
        sheet = self.page.get_by_role("dialog")
        sheet.get_by_label("Or somebody else").fill(words)
        sheet.get_by_role("button", name="Hand over").click()
        expect(sheet).to_be_hidden()
        self.hand.until_changed(lambda _: len(self.states()), before=before)

    def states(self):
        return [item["state"] for item in self.page.evaluate(QUEUE)]

    def all_sent(self):
        self.hand.until("async () => (await (" + QUEUE + ")()).every((item) => item.state !== 'waiting')")


def rows(run):
    """What the site has of a run: who is credited with what, and by which proof, in its order."""
    with on_the_database() as cursor:
        cursor.execute(f"SELECT data FROM {DATABASE}.batches_runevent WHERE run_id = %s", [run.replace("-", "")])
        found = sorted((json.loads(data) for (data,) in cursor.fetchall()), key=lambda item: (item["lamport"], item["sequence"]))
    return [(item["by"], item["body"].get("to") or item["kind"], item.get("proof", "")) for item in found if item["kind"] != "started"]


@pytest.fixture
def tablet(hand, context):
    return Tablet(hand, context)


def test_three_weighings_of_a_maker_outlive_their_sign_out_and_the_reader_after_them(tablet, context):
    page = tablet.page
    run = tablet.left_without_network()
    for words in ("cloudy", "smells of peel", "too sweet"):
        tablet.note(words)
    expect(page.get_by_role("status", name="What waits")).to_contain_text(re.compile("^Without Ulsek since .*; 3 waiting: Jonas"))
    tablet.sign_out()
    # Nobody's pages are left to read, and what waits still says whose it is.
    expect(page.get_by_role("status", name="What waits")).to_contain_text("3 waiting: Jonas")
    assert page.evaluate("async () => (await caches.keys()).filter((name) => name.startsWith('answers'))") == []
    page.evaluate(ALTER)
    page.get_by_role("list", name="Who takes over").get_by_role("button", name="Pim").click()
    page.get_by_label("PIN of Pim").fill(PINS["Pim"])
    expect(tablet.who()).to_contain_text("Pim (not confirmed)")
    context.set_offline(False)
    expect(tablet.who()).to_have_text(re.compile("Pim$"))
    tablet.all_sent()
    assert rows(run) == [("Jonas", "cloudy", "key"), ("Jonas", "smells of peel", "key")]
    assert tablet.states() == ["done", "done", "refused"]
    # One altered byte: refused, and only Jonas or a lead says what becomes of it.
    page.get_by_role("button", name="1 was not taken: look").click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("This was changed after it was signed, so nobody can say who did it.")
    expect(sheet).to_contain_text("Jonas says what becomes of it")
    page.keyboard.press("Escape")
    # A reader who opens the batch takes nothing away and adds nothing.
    page.goto(f"{tablet.hand.site.base}/make/{run}")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
    expect(page.get_by_role("button", name="Type the weight")).to_be_hidden()
    tablet.switch("Jonas")
    page.get_by_role("button", name="1 was not taken: look").click()
    sheet.get_by_role("button", name="Throw it away").click()
    expect(sheet).to_be_hidden()
    assert tablet.states() == ["done", "done"]
    with on_the_database() as cursor:
        cursor.execute(f"SELECT detail FROM {DATABASE}.team_historyrow WHERE action = 'settle_refused'")
        assert [json.loads(detail)["decision"] for (detail,) in cursor.fetchall()] == ["thrown away"]


def test_a_tablet_handed_over_in_mid_batch_without_the_network(tablet, context):
    page = tablet.page
    run = tablet.left_without_network()
    tablet.note("mine")
    # A wrong PIN is found out only when the site is asked; what was done since waits until it is typed right.
    tablet.switch("Noor", "730419")
    expect(tablet.who()).to_contain_text("Noor (not confirmed)")
    tablet.note("hers")
    context.set_offline(False)
    tablet.hand.until("async () => (await (" + QUEUE + ")()).filter((item) => item.state === 'waiting').length === 1")
    assert rows(run) == [("Jonas", "mine", "key")]
    # Nobody's session is left to be used in another's name.
    assert page.evaluate("async () => (await (await fetch('/api/session', { cache: 'no-store' })).json()).signed_in") is False
    tablet.who().click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("That is not the PIN. 4 tries left.")
    sheet.get_by_label("PIN of Noor").fill(PINS["Noor"])
    tablet.all_sent()
    assert rows(run) == [("Jonas", "mine", "key"), ("Noor", "hers", "key")]
    page.keyboard.press("Escape")
    expect(tablet.who()).to_have_text(re.compile("Noor$"))
    # On a device that is not lost its keys a person who is there only by their word stays a maker at most.
    tablet.switch("Ilse M.")
    page.goto(f"{tablet.hand.site.base}/house/people")
    page.get_by_role("button", name="A code for Pim").click()
    ask = page.get_by_role("dialog", name="Your password, please")
    ask.get_by_label("Password").fill("guessed")
    ask.get_by_role("button", name="Go on").click()
    expect(ask.get_by_role("alert")).to_be_visible()
    ask.get_by_label("Password").fill("pale-enamel-7")
    ask.get_by_role("button", name="Go on").click()
    expect(page.get_by_text(re.compile("Tell Pim, and nobody else"))).to_be_visible()


def test_a_guessed_pin_ends_at_the_password(tablet):
    page = tablet.page
    tablet.enrol()
    tablet.who().click()
    page.get_by_role("list", name="Who takes over").get_by_role("button", name="Noor").click()
    pad = page.get_by_label("PIN of Noor")
    for left in ("4 tries", "3 tries", "2 tries", "1 try"):
        pad.fill("102938")
        expect(page.get_by_role("dialog")).to_contain_text(f"{left} left")
        expect(pad).to_have_value("")
    pad.fill("102938")
    expect(page.get_by_role("dialog")).to_contain_text("Five wrong PINs on this device: sign in with your password.")
    expect(pad).to_have_value("")
    pad.fill(PINS["Noor"])
    expect(page.get_by_role("dialog")).to_contain_text("sign in with your password")
    page.keyboard.press("Escape")
    tablet.sign_out()
    page.get_by_role("button", name="By name and password").click()
    page.get_by_label("Name").fill("noor")
    page.get_by_label("Password").fill("quiet-tray-9")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation", name="Places").wait_for()
    tablet.switch("Ilse M.")
    # What the worker keeps for a time without the network is the next person's to see only where it is the house's.
    tablet.hand.until(WORKER_READY)
    page.goto(f"{tablet.hand.site.base}/house")
    tablet.hand.until("async () => (await (" + OWN_ANSWERS + ")()).length === 1")
    page.goto(f"{tablet.hand.site.base}/stores")
    tablet.switch("Noor")
    assert page.evaluate(OWN_ANSWERS) == []


def test_two_tabs_send_everything_once(tablet, context, hand):
    hand.sign_in("jonas")
    run = tablet.begin()
    tablet.ready_for_no_network()
    other = context.new_page()
    other.set_default_timeout(PATIENCE_MS)
    other.goto(hand.page.url)
    expect(other.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
    context.set_offline(True)
    second = Tablet(hand, context)
    second.page = other
    for n in range(3):
        tablet.note(f"first tab {n}")
        second.note(f"second tab {n}")
    context.set_offline(False)
    tablet.all_sent()
    kept = [words for _, words, _ in rows(run)]
    assert sorted(kept) == sorted(f"{tab} tab {n}" for tab in ("first", "second") for n in range(3))
    for page in (hand.page, other):
        expect(page.get_by_role("status").filter(has_text="all kept")).to_be_visible()
    # Whoever signs out in one tab is gone from both.
    other.get_by_role("banner").get_by_role("button").last.click()
    other.get_by_role("button", name="Sign out").click()
    expect(hand.page.get_by_label("Password")).to_be_visible()


def test_a_revoked_session_s_weighings_wait_for_the_lead(tablet, context, site, browser):
    page = tablet.page
    run = tablet.left_without_network()
    tablet.note("before it was lost")
    lead = browser.new_context().new_page()
    lead.set_default_timeout(PATIENCE_MS)
    lead.goto(f"{site.base}/house")
    lead.get_by_label("Name").fill("ilse")
    lead.get_by_label("Password").fill("pale-enamel-7")
    lead.get_by_role("button", name="Sign in").click()
    lead.get_by_role("navigation", name="Places").wait_for()
    lead.goto(f"{site.base}/house/devices")
    lead.get_by_role("button", name=f"Revoke {tablet.name}").click()
    expect(lead.get_by_text(re.compile("^revoked")).first).to_be_visible()
    context.set_offline(False)
    # It is nobody's device any more: it asks who is here, and keeps what waits.
    page.get_by_role("button", name="By name and password").or_(page.get_by_label("Password")).first.wait_for()
    assert tablet.states() == ["waiting"]
    if page.get_by_role("button", name="By name and password").is_visible():
        page.get_by_role("button", name="By name and password").click()
    page.get_by_label("Name").fill("pim")
    page.get_by_label("Password").fill("slate-blue-2")
    page.get_by_role("button", name="Sign in").click()
    tablet.all_sent()
    assert (tablet.states(), rows(run)) == (["held"], [])
    lead.reload()
    lead.get_by_role("link", name=re.compile("to decide")).click()
    held = lead.get_by_role("region", name="Waits for you").get_by_role("listitem").filter(has_text="before it was lost")
    expect(held).to_contain_text("Jonas")
    expect(held).to_contain_text("ended from elsewhere")
    held.get_by_role("button", name="It counts").click()
    expect(held).to_be_hidden()
    assert rows(run) == [("Jonas", "before it was lost", "lead")]
    lead.context.close()


def test_the_browser_sends_what_waits_with_no_page_open(tablet, hand, context, site):
    """Its own background sync wakes the service worker; no page of Ulsek is open."""
    page = tablet.page
    hand.sign_in("jonas")
    run = tablet.begin()
    tablet.ready_for_no_network()
    context.set_offline(True)
    tablet.note("on the way home")
    expect(page.get_by_role("status", name="What waits")).to_contain_text("1 waiting: Jonas")
    registered = []
    wire = context.new_cdp_session(page)
    wire.on("ServiceWorker.workerRegistrationUpdated", lambda told: registered.extend(told["registrations"]))
    wire.send("ServiceWorker.enable")
    hand.until_changed(lambda _: len(registered), before=0)
    page.goto("about:blank")
    context.set_offline(False)
    assert rows(run) == []
    wire.send(
        "ServiceWorker.dispatchSyncEvent",
        {"origin": site.base, "registrationId": registered[-1]["registrationId"], "tag": "ulsek.queue", "lastChance": False},
    )
    hand.until_changed(lambda _: len(rows(run)), before=0)
    assert rows(run) == [("Jonas", "on the way home", "key")]


def test_a_restored_site_is_sent_again_what_it_lost(tablet, hand, site):
    page = tablet.page
    hand.sign_in("jonas")
    run = tablet.begin()
    tablet.note("kept")
    tablet.note("lost")
    tablet.all_sent()
    assert [words for _, words, _ in rows(run)] == ["kept", "lost"]
    with on_the_database() as cursor:
        cursor.execute(f"SELECT id FROM {DATABASE}.batches_runevent WHERE run_id = %s AND data LIKE '%%lost%%'", [run.replace("-", "")])
        (lost,) = cursor.fetchone()
        for table in ("batches_runevent", "sync_signedaction"):
            cursor.execute(f"DELETE FROM {DATABASE}.{table} WHERE id = %s", [lost])
    site.manage("restored")
    assert [words for _, words, _ in rows(run)] == ["kept"]
    page.reload()
    # Nobody is signed in any more: what the tablet still has goes once its person is back.
    page.get_by_label("Name").fill("jonas")
    page.get_by_label("Password").fill("steel-bench-4")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Bergamot juice")
    hand.until_changed(lambda _: len(rows(run)), before=1)
    assert rows(run) == [("Jonas", "kept", "key"), ("Jonas", "lost", "key")]


@pytest.mark.alone
def test_without_the_site_shift_and_card_go_on_and_say_so_in_one_line(tablet, hand, site):
    page = tablet.page
    hand.sign_in("jonas")
    hand.until(WORKER_READY)
    for path in ("/shift", "/specs", "/make"):
        page.goto(f"{site.base}{path}")
        page.get_by_role("heading", level=1).wait_for()
        page.wait_for_load_state("networkidle")
    hand.place("Specs")
    page.get_by_role("link", name=re.compile("^Bergamot cordial")).first.click()
    spec = page.url.rsplit("/", 1)[1]
    page.goto(f"{site.base}/specs/{spec}/card")
    page.get_by_role("heading", level=1).wait_for()
    page.wait_for_load_state("networkidle")
    card = hand.text()
    site.kill_database()
    try:
        line = page.get_by_role("status", name="What waits")
        for path in (f"/specs/{spec}/card", "/shift"):
            page.goto(f"{site.base}{path}")
            page.get_by_role("heading", level=1).wait_for()
            expect(line).to_contain_text(re.compile(r"^Without Ulsek since \d\d:\d\d; this device goes on with what it has\.$"))
            expect(page.get_by_text("our side")).to_have_count(0)
            if "card" in path:
                hand.until_changed(lambda _: hand.text() != card, before=True)
    finally:
        site.start_database()
    expect(page.get_by_role("status", name="What waits")).to_be_hidden(timeout=60_000)


@pytest.mark.browser_context_args(service_workers="block")
def test_a_weighing_is_worked_out_here_at_once_and_settled_by_the_site(tablet, hand):
    """The site is slow; the core in this browser is warm: the bench goes on, and the site's answer changes no digit.

    No service worker: it sends what waits too, and what it sends passes by the page, where the story holds it back.
    """
    page = tablet.page
    page.add_init_script("AbortSignal.timeout = () => new AbortController().signal")
    hand.sign_in("noor")
    tablet.begin()
    held = []
    page.route("**/api/signed-actions", lambda route: held.append(route))  # noqa: PLW0108 # playwright marks what it is given
    hand.type_weight("850")
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Bergamot juice")
    shown = hand.text()
    hand.until_changed(lambda _: len(held), before=0)
    assert len(held) == 1
    held[0].continue_()
    tablet.all_sent()
    expect(page.get_by_role("status").filter(has_text="all kept")).to_be_visible()
    assert hand.text() == shown
