"""Ulsek as `bin/start` runs it, in a folder and on ports of its own, and a browser's calls to it without a browser."""

import contextlib
import http.client
import json
import os
import shutil
import signal
import socket
import subprocess
import time
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
STATE = ROOT / ".run" / "served"
PORT, DB_PORT, INSTRUMENTS = 8733, 3733, 9731
PASSWORDS = {"ilse": "pale-enamel-7", "jonas": "steel-bench-4", "noor": "quiet-tray-9", "pim": "slate-blue-2", "wanda": "other-house-1"}
PROGRAMS = ("site", "database", "hub", "alerts", "worker", "nginx", "simulators:0")
LOGGED_WITHIN_S = 10.0
BACK_WITHIN_S = 10


class Caller:
    """One device: its cookies, its token, an id for each thing it asks."""

    def __init__(self, name=None):
        self.cookies = {}
        if name is not None:
            self.call("GET", "/session")
            status, told = self.call("POST", "/session", {"name": name, "password": PASSWORDS[name]})
            assert status == 200, told

    def send(self, method, path, data=None, kind="application/json", **headers):
        """Sends bytes, and returns status, headers and bytes."""
        line = http.client.HTTPConnection("127.0.0.1", PORT, timeout=20)
        sent = {
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
            "X-CSRFToken": self.cookies.get("csrftoken", ""),
        }
        if data is not None:
            sent["Content-Type"] = kind
        line.request(method, path, data, {**sent, **headers})
        answer = line.getresponse()
        body = answer.read()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.partition(";")[0]
        line.close()
        return answer.status, answer.headers, body

    def call(self, method, path, body=None, **headers):
        """Calls the API, and returns status and what the answer holds."""
        status, told, text = self.send(method, f"/api{path}", None if body is None else json.dumps(body).encode(), **headers)
        return status, json.loads(text) if "json" in told.get("Content-Type", "") else text


class Served:
    """A running Ulsek; its programs can be killed and looked at."""

    def __init__(self, **environment):
        taken = {
            "ULSEK_STATE": str(STATE),
            "ULSEK_PORT": str(PORT),
            "ULSEK_DB_PORT": str(DB_PORT),
            "ULSEK_INSTRUMENT_PORT": str(INSTRUMENTS),
        }
        kept = {name: value for name, value in os.environ.items() if not name.startswith(("ULSEK_", "DJANGO_SETTINGS"))}
        self.environment = {**kept, **taken, **environment}

    def start(self, *words):
        """Starts it, and returns what it said until it was ready."""
        self.process = subprocess.Popen(
            ["bash", str(ROOT / "bin" / "start"), *words],
            env=self.environment,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )
        said = []
        for line in self.process.stdout:
            said.append(line)
            if "Ctrl-C stops it" in line:
                return "".join(said)
        raise AssertionError("bin/start ended:\n" + "".join(said))

    def stop(self):
        if self.process.poll() is not None:
            return
        self.process.send_signal(signal.SIGTERM)
        self.process.stdout.read()
        self.process.wait(60)

    def status(self):
        """Of each program whether it runs, and its process."""
        told = subprocess.run(
            [str(ROOT / ".venv" / "bin" / "supervisorctl"), "-s", f"unix://{STATE}/supervisor.sock", "status"],
            capture_output=True,
            text=True,
            check=False,
        ).stdout
        rows = [line.split() for line in told.splitlines()]
        return {row[0]: (row[1], int(row[3].strip(",")) if row[1] == "RUNNING" else 0) for row in rows}

    def logs(self, text):
        """Whether the proxy's log says this. A line is written after its answer was sent, and reaches the file through the supervisor: it is waited for."""
        begun = time.monotonic()
        while text not in (STATE / "access.log").read_text():
            if time.monotonic() - begun > LOGGED_WITHIN_S:
                return False
            time.sleep(0.05)
        return True

    def kill(self, program):
        """Kills a program as a power cut would, and returns after how many seconds all was as before, or None."""
        pid, begun = self.status()[program][1], time.monotonic()
        os.kill(pid, signal.SIGKILL)
        while time.monotonic() - begun < 4 * BACK_WITHIN_S:
            state, now = self.status()[program]
            if state == "RUNNING" and now != pid and self.answers():
                return time.monotonic() - begun
            time.sleep(0.1)
        return None

    def kill_worker(self):
        """Kills one of the site's own processes, not their master, and returns after how many seconds there were as many as before, or None."""
        master = self.status()["site"][1]

        def workers():
            found = subprocess.run(["pgrep", "-P", str(master), "-f", "gunicorn"], capture_output=True, text=True, check=False).stdout
            return {int(pid) for pid in found.split()}

        before, begun = workers(), time.monotonic()
        os.kill(min(before), signal.SIGKILL)
        while time.monotonic() - begun < 4 * BACK_WITHIN_S:
            if len(workers() - {min(before)}) == len(before) and self.answers():
                return time.monotonic() - begun
            time.sleep(0.1)
        return None

    def answers(self):
        try:
            return Caller().call("GET", "/health")[0] == 200
        except (OSError, http.client.HTTPException):
            return False


def raw(text, wait_s=3.0):
    """Sends bytes as they are and returns what comes back within a while, or until the other side closes."""
    end, found = time.monotonic() + wait_s, b""
    with socket.create_connection(("127.0.0.1", PORT), timeout=wait_s) as line, contextlib.suppress(TimeoutError):
        line.sendall(text)
        while time.monotonic() < end and (part := line.recv(65536)):
            found += part
    return found


@pytest.fixture(scope="session")
def served():
    shutil.rmtree(STATE, ignore_errors=True)
    found = Served()
    found.said = found.start()
    yield found
    found.stop()
