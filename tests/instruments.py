"""The simulated instruments as real processes, for the tests of the site and of the browser."""

import contextlib
import http.client
import json
import socket
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).parents[1]


def free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


def until(true, seconds=8.0, every=0.02):
    """Waits for something to hold, and says whether it did."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if true():
            return True
        time.sleep(every)
    return False


def listens(port):
    with socket.socket() as probe:
        return probe.connect_ex(("127.0.0.1", port)) == 0


@contextlib.contextmanager
def simulated(name, port=None):
    """One simulated instrument, by its port; `hand` moves it and returns its answer."""
    port = port or free_port()
    process = subprocess.Popen([sys.executable, "-m", f"simulators.{name}", "--port", str(port)], cwd=ROOT)
    assert until(lambda: listens(port)), f"{name} did not start"
    try:
        yield port
    finally:
        process.kill()
        process.wait()


def hand(port, words):
    """Moves a simulated instrument; its answer."""
    return tell(port, f"!{words}")


def tell(port, words):
    """Tells an instrument what its own keys do, such as tare; its answer is the first line that is no reading."""
    # A cable that is pulled takes the hand's own connection along.
    with contextlib.suppress(ConnectionError), socket.create_connection(("127.0.0.1", port), timeout=5) as line:
        line.sendall(f"{words}\n".encode())
        for said in line.makefile():
            if said.split(" ")[0].strip() in ("done", "no", "cannot", "nothing", "label"):
                return said.strip()
    return ""


def listening_device(port):
    """A device at the stand-in for a push service: the subscription that its browser would give."""
    line = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
    line.request("POST", "/subscriptions")
    return json.loads(line.getresponse().read())


def heard(port, device):
    """What came to that device, opened."""
    line = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
    line.request("GET", device["endpoint"].removeprefix(f"http://127.0.0.1:{port}"))
    return json.loads(line.getresponse().read())
