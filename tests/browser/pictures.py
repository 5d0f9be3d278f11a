"""One picture of each main view, from the demo house; called by bin/screenshots."""

import re
import shutil
import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

OUT = Path(__file__).parents[2] / "docs" / "screenshots"
ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]

SPOKEN = (
    "Take about a kilo of quinces, chop them up and throw them in with a litre of water. Simmer gently for forty minutes till they’re soft, then strain, "
    "don’t press. For every 100 g of that, 60 of sugar, back on low till it’s gone. Off the heat, a good squeeze of bergamot and citric, about five grams. "
    "Cool it, bottle. Makes a litre and a half, keeps a month."
)


def sign_in(page: Page, base: str, name: str, password: str) -> None:
    page.goto(f"{base}/shift")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation", name="Places").wait_for()


def shoot(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")
    page.mouse.move(0, 0)
    page.screenshot(path=OUT / f"{name}.png")
    print(f"  docs/screenshots/{name}.png")


def open_spec(page: Page, base: str) -> None:
    page.goto(f"{base}/specs")
    page.get_by_role("link", name=re.compile("^Sea buckthorn cordial version")).click()
    page.get_by_role("heading", name="Where it tastes").wait_for()


def open_bench(page: Page, base: str) -> None:
    page.goto(f"{base}/make")
    page.get_by_role("region", name="On the bench").get_by_role("link", name=re.compile("^Sea buckthorn")).click()
    # The list that was left has a heading too: what to do is there once the batch is worked out.
    page.get_by_role("region", name="What to do").wait_for()


def plan_cuts(page: Page, base: str) -> None:
    """Juice, zest and wheels of what is in hand."""
    page.goto(f"{base}/citrus/plan")
    for n, (what, fruit, amount) in enumerate(
        (("Juice", "Bergamot", "500"), ("Zest", "Bergamot", "90"), ("Garnish wheels", "Lemon", "40"))
    ):
        if n:
            page.get_by_role("button", name="Something else is wanted").click()
        for label, option in (("What is wanted", what), ("Of", fruit)):
            page.get_by_role("combobox", name=label, exact=True).nth(n).click()
            page.get_by_role("option", name=option, exact=True).click()
        page.get_by_label("How much").nth(n).fill(amount)
    page.get_by_text(re.compile("fruits do it")).wait_for()
    page.get_by_role("img", name=re.compile("to Lemon wheels")).wait_for()
    page.evaluate("window.scrollTo(0, 0)")


def taste_on(maker: Page, phone: Page, base: str) -> None:
    """A guest's phone at the panel that is half tasted, up to its first glasses."""
    maker.goto(f"{base}/taste")
    maker.get_by_role("region", name="On the table now").get_by_role("link").first.click()
    letters = maker.get_by_text(re.compile(r"^[a-z0-9]{4}-[a-z0-9]{4}$")).inner_text()
    phone.goto(f"{base}/taste/seat")
    phone.get_by_label("The eight letters").fill(letters)
    phone.get_by_label("Your name").fill("Ragnar")
    phone.get_by_role("button", name="Sit down").click()
    phone.get_by_role("button", name="Begin").click()
    phone.get_by_role("radio").nth(1).click()


def main(base: str) -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=shutil.which("chromium"), args=ARGS)
        for theme in ("light", "dark"):
            page = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme=theme, reduced_motion="reduce").new_page()
            sign_in(page, base, "ilse", "pale-enamel-7")
            night = "-night" if theme == "dark" else ""
            open_spec(page, base)
            shoot(page, f"workbench{night}")
            open_bench(page, base)
            if night:
                continue
            shoot(page, "make")
            open_spec(page, base)
            spec = page.url.rsplit("/", 1)[1]
            for name, path in (("card", "card?serves=60"), ("compare", "compare?left=1&right=2")):
                page.goto(f"{base}/specs/{spec}/{path}")
                page.get_by_role("heading", level=1).wait_for()
                shoot(page, name)
            page.goto(f"{base}/specs/read")
            page.get_by_label("The recipe").fill(SPOKEN)
            page.get_by_role("button", name="Read it").click()
            page.get_by_role("heading", name="What Ulsek takes from it").wait_for()
            page.get_by_role("heading", name="Told and worked out").wait_for()
            shoot(page, "reader")
            plan_cuts(page, base)
            shoot(page, "cut-plan")
            page.goto(f"{base}/shift?sum=acid_dose&s.volume=60&s.have=0.4&s.want=1.5&s.solution=28")
            page.get_by_text("by the dropper").wait_for()
            shoot(page, "quick-sum")
            for place in ("shift", "stores", "specs", "citrus"):
                page.goto(f"{base}/{place}")
                page.get_by_role("heading", level=1).wait_for()
                shoot(page, place)
            page.goto(f"{base}/plan")
            page.get_by_role("region", name="Today, in order").wait_for()
            shoot(page, "plan")
            page.goto(f"{base}/plan/menu")
            page.get_by_role("button", name=re.compile("^Bergamot tall")).wait_for()
            page.get_by_role("table").wait_for()
            shoot(page, "menu")
            page.goto(f"{base}/taste")
            page.get_by_role("link", name=re.compile("ours, the trial")).click()
            page.get_by_role("heading", name="How they stand").wait_for()
            shoot(page, "taste")
            page.goto(f"{base}/house/people")
            page.get_by_role("button", name="A code for Pim").wait_for()
            shoot(page, "house")
            page.get_by_role("navigation", name="Places").get_by_role("link", name="Shift").click()
            page.get_by_role("region", name="Turns soon").get_by_role("link").last.click()
            page.get_by_role("heading", name=re.compile("pour")).or_(
                page.get_by_text(re.compile("Good to pour|Do not pour"))
            ).first.wait_for()
            page.get_by_text("answer for the drink that it goes into").wait_for()
            shoot(page, "bottle")
        phone = browser.new_context(viewport={"width": 390, "height": 844}, reduced_motion="reduce").new_page()
        sign_in(phone, base, "jonas", "steel-bench-4")
        open_bench(phone, base)
        shoot(phone, "make-phone")
        guest = browser.new_context(viewport={"width": 390, "height": 844}, reduced_motion="reduce").new_page()
        taste_on(phone, guest, base)
        shoot(guest, "taste-phone")
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1])
