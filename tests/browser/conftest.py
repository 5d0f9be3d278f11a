"""The real site for the browser's tests: gunicorn as its own process, on a database of its own, with the demo house."""

import json
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from typing import ClassVar

import MySQLdb
import pytest
from playwright.sync_api import expect
from simulators.__main__ import ALL

ROOT = Path(__file__).parents[2]
PATIENCE_MS = 30_000
"""How long a screen may take to show what it should. Nothing here measures speed: a busy machine must not fail a right build."""
expect.set_options(timeout=PATIENCE_MS)
WORKER = int(os.environ.get("PYTEST_XDIST_WORKER", "gw0").removeprefix("gw"))
"""The number of this test process among those that run side by side, each with a site, a database and instruments of its own."""
BY_THE_SITE = (pytest.mark.browser_context_args(service_workers="block"), pytest.mark.without_core)
"""Marks of stories that are not about the core in the browser: the site answers their edits, as it does wherever that core is not there yet. It takes seconds
of both processors to load for each page, and has stories of its own.
"""
PORT = 8717 + 10 * WORKER
HUB_PORT = PORT + 1
DATABASE = f"test_browser_{WORKER}"
INSTRUMENT_PORT = 9811 + 20 * WORKER
CHROMIUM_ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


class Site:
    """The served site; `kill` ends it as a power cut would, `start` brings it back."""

    base = f"http://127.0.0.1:{PORT}"

    def __init__(self):
        self.env = {
            **os.environ,
            "ULSEK_DB_NAME": DATABASE,
            "ULSEK_ADDRESS": self.base,
            "ULSEK_INSTRUMENTS": f"http://127.0.0.1:{HUB_PORT}",
            "ULSEK_INSTRUMENT_PORT": str(INSTRUMENT_PORT),
            "ULSEK_PUSH_SERVICE": f"http://127.0.0.1:{INSTRUMENT_PORT + ALL.index('push_service')}",
            "PYTHONPATH": str(ROOT / "src"),
        }
        self.process = None
        self.beside = []

    def manage(self, *words):
        subprocess.run([sys.executable, str(ROOT / "manage.py"), *words], check=True, env=self.env, capture_output=True, text=True)

    def start(self):
        command = [
            sys.executable,
            "-m",
            "gunicorn",
            "ulsek.site.wsgi",
            "--config",
            "python:ulsek.site.serving",
            "--bind",
            f"127.0.0.1:{PORT}",
            "--workers",
            "2",
            "--worker-class",
            "gthread",
            "--threads",
            "4",
        ]
        with (ROOT / ".run" / "browser-site.log").open("a") as log:
            self.process = subprocess.Popen(
                [*command, "--log-level", "warning", "--no-control-socket"], env=self.env, stderr=log, start_new_session=True
            )
        for _ in range(200):
            try:
                urllib.request.urlopen(f"{self.base}/api/health", timeout=1)
            except OSError:
                time.sleep(0.1)
            else:
                return
        raise AssertionError("the site did not start; see .run/browser-site.log")

    def start_instruments(self):
        """The simulated instruments, the hub that listens to them and the worker, as bin/start starts them."""
        manage = str(ROOT / "manage.py")
        for words in (["-m", "simulators"], [manage, "instruments"], [manage, "worker", "--no-startup-delay"]):
            self.beside.append(self._beside(words))

    def _beside(self, words):
        with (ROOT / ".run" / "browser-instruments.log").open("a") as log:
            return subprocess.Popen([sys.executable, *words], cwd=ROOT, env=self.env, stderr=log, start_new_session=True)

    def instrument(self, kind):
        """The port of a simulated instrument."""
        return INSTRUMENT_PORT + ALL.index(kind)

    def kill_database(self):
        """Ends MariaDB as a power cut would."""
        pid = int((ROOT / ".run" / "test" / "run" / "m.pid").read_text())
        os.kill(pid, signal.SIGKILL)
        # A killed process has no command line; one that its parent has waited for has no directory either.
        with suppress(FileNotFoundError, ProcessLookupError):
            while Path(f"/proc/{pid}/cmdline").read_bytes():
                time.sleep(0.05)

    def start_database(self):
        port = os.environ["ULSEK_DB_PORT"]
        subprocess.run(["bash", "-c", f". bin/lib.sh && start_database test {port}"], cwd=ROOT, check=True, capture_output=True)
        # What ended without its database is started again, as the supervisor does.
        self.beside = [process if process.poll() is None else self._beside(process.args[1:]) for process in self.beside]

    def end(self):
        for process in self.beside:
            os.killpg(process.pid, signal.SIGTERM)
            process.wait()
        if self.process.poll() is None:
            self.kill()

    def kill(self):
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()
        for _ in range(100):
            with socket.socket() as probe:
                if probe.connect_ex(("127.0.0.1", PORT)):
                    return
            time.sleep(0.05)


@contextmanager
def on_the_database():
    """A cursor without transactions, closed at the end: one that stays open in a transaction keeps the database from being dropped, for ever."""
    password, port = os.environ["ULSEK_DB_PASSWORD"], int(os.environ["ULSEK_DB_PORT"])
    with closing(MySQLdb.connect(host="127.0.0.1", port=port, user="ulsek", password=password, autocommit=True)) as connection:
        yield connection.cursor()


@pytest.fixture(scope="session")
def site():
    served = Site()
    with on_the_database() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS {DATABASE}")
        cursor.execute(f"CREATE DATABASE {DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci")
    served.manage("migrate", "--no-input", "-v", "0")
    served.manage("load_demo")
    served.start()
    served.start_instruments()
    yield served
    served.end()
    with on_the_database() as cursor:
        cursor.execute(f"DROP DATABASE {DATABASE}")


@pytest.fixture(scope="session")
def browser_type_launch_args():
    return {"executable_path": shutil.which("chromium"), "args": CHROMIUM_ARGS}


WRONG = ("Content Security Policy", "differs from the site's")
"""Parts of what the console says when a page does what it may not, or its own core gives other figures than the site."""


class Hand:
    """A person at a screen: what the stories do again and again."""

    PASSWORDS: ClassVar = {"ilse": "pale-enamel-7", "jonas": "steel-bench-4", "noor": "quiet-tray-9", "pim": "slate-blue-2"}

    def __init__(self, page, site):
        self.page, self.site = page, site
        page.set_default_timeout(PATIENCE_MS)
        self.complaints = []
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on("console", lambda message: self.complaints.extend(text for text in (message.text,) if any(part in text for part in WRONG)))

    def sign_in(self, name):
        self.page.goto(f"{self.site.base}/shift")
        self.page.get_by_label("Name").fill(name)
        self.page.get_by_label("Password").fill(self.PASSWORDS[name])
        self.page.get_by_role("button", name="Sign in").click()
        self.page.get_by_role("navigation", name="Places").wait_for()

    def sign_out(self):
        self.page.goto(f"{self.site.base}/shift")
        self.page.get_by_role("button", name="Tern House").click()
        self.page.get_by_role("button", name="Sign out").click()
        self.page.get_by_label("Password").wait_for()

    def place(self, name):
        self.page.get_by_role("navigation", name="Places").get_by_role("link", name=name).click()
        heading = self.page.get_by_role("heading", level=1)
        (heading.filter(has_text=name) if name not in ("Shift", "Plan") else heading.filter(has_text="day,")).wait_for()

    def begin(self, spec, grams):
        """Starts a batch of a spec from so much of its first line, as the scale shows it."""
        self.place("Make")
        self.page.get_by_role("button", name=f"Start {spec}", exact=True).click()
        self.page.get_by_role("radio", name="from what I weighed").check()
        self.page.get_by_label("What the scale shows").fill(grams)
        self.page.get_by_role("dialog").get_by_role("button", name="Start").click()

    def call(self, method, path, body=None):
        """Asks the API as whoever is signed in; gives the JSON of the answer, which must be a success."""
        token = next(item["value"] for item in self.page.context.cookies() if item["name"] == "csrftoken")
        answer = self.page.request.fetch(
            f"{self.site.base}/api{path}",
            method=method,
            data=json.dumps(body) if body is not None else None,
            headers={"Content-Type": "application/json", "X-CSRFToken": token, "Referer": self.site.base},
        )
        assert answer.ok, answer.text()
        return answer.json() if answer.status != 204 else None

    def new_spec(self, name, body):
        """A cordial of the house with this body as its draft, made over HTTP. Returns its id."""
        return self.call("POST", "/specs", {"name": name, "family": "cordial", "body": body})["id"]

    def large_figure(self):
        """The one large figure of the bench: grams to go."""
        return self.page.get_by_role("region", name="What to do").get_by_text("grams").locator("..").locator("span").first

    def grams_to_go(self):
        return float(re.sub(r"\s", "", self.large_figure().inner_text()))

    def type_weight(self, grams):
        self.page.get_by_role("button", name="Type the weight").click()
        self.page.get_by_label("What the scale shows").fill(grams)
        self.page.get_by_role("button", name="That is it").click()

    def weigh(self, grams):
        """Types a weight, and waits until the sheet is gone."""
        self.type_weight(grams)
        expect(self.page.get_by_role("dialog")).to_be_hidden()

    def until(self, script, given=None, seconds=60.0):
        """Waits until a script of the page answers with something true; the page's own policy lets nothing be evaluated inside it."""
        end = time.monotonic() + seconds
        while not (found := self.page.evaluate(script, given)):
            assert time.monotonic() < end, f"still not: {script}"
            self.page.wait_for_timeout(60)
        return found

    def until_changed(self, look, before, seconds=60.0):
        """Waits until what `look` sees of the page is something else."""
        end = time.monotonic() + seconds
        while look(self.page) == before:
            assert time.monotonic() < end, f"nothing changed: {before}"
            self.page.wait_for_timeout(40)

    def text(self):
        """What the main part says, with every kind of space made plain."""
        return " ".join(self.page.get_by_role("main").inner_text().split())


@pytest.fixture
def hand(site, page, request):
    if request.node.get_closest_marker("without_core"):
        page.route("**/static/pyodide/**", lambda route: route.abort())
    person = Hand(page, site)
    yield person
    assert person.complaints == []
