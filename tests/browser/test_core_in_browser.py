"""The whole core in headless Chromium: CPython as WebAssembly, started from this machine's own files, computing what this Python computes."""

import functools
import http.server
import io
import json
import threading
import zipfile
from pathlib import Path
from typing import ClassVar

import pytest

ROOT = Path(__file__).parents[2]
PYODIDE = ROOT / "web" / "node_modules" / "pyodide"
PAGE = """<!doctype html><title>core</title><script type="module">
import { loadPyodide } from "./pyodide.mjs";
try {
  const python = await loadPyodide({ indexURL: "./" });
  python.unpackArchive(await (await fetch("./core.zip")).arrayBuffer(), "zip", { extractDir: "/home/ulsek" });
  window.answer = python.runPython(`
import sys
sys.path[:0] = ["/home/ulsek/src", "/home/ulsek"]
from tests.parity.cases import differences
count, wrong = differences()
f"{sys.platform}: {count} computed, {len(wrong)} differ {wrong[:3]}"
`);
} catch (trouble) { window.answer = String(trouble); }
</script>"""


def core_zip() -> bytes:
    """The core, the corpus and the demo specs in one archive."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.write(ROOT / "src" / "ulsek" / "__init__.py", "src/ulsek/__init__.py")
        for folder in ("src/ulsek/core", "tests/parity", "demo/specs"):
            for path in sorted((ROOT / folder).rglob("*")):
                if path.suffix in (".py", ".json", ".csv", ".mo"):
                    archive.write(path, path.relative_to(ROOT))
    return packed.getvalue()


class Files(http.server.SimpleHTTPRequestHandler):
    """Pyodide's own files, and the two that are made here."""

    made: ClassVar = {"/": ("text/html; charset=utf-8", PAGE.encode()), "/core.zip": ("application/zip", core_zip())}
    extensions_map: ClassVar = {
        **http.server.SimpleHTTPRequestHandler.extensions_map,
        ".mjs": "text/javascript",
        ".wasm": "application/wasm",
    }

    def do_GET(self):
        if self.path not in self.made:
            super().do_GET()
            return
        kind, body = self.made[self.path]
        self.send_response(200)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *_words):
        pass


@pytest.fixture
def files():
    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), functools.partial(Files, directory=str(PYODIDE)))
    thread = threading.Thread(target=server.serve_forever)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}/"
    server.shutdown()
    thread.join()
    server.server_close()


@pytest.mark.timeout(600)
def test_the_core_in_the_browser_gives_the_same_digits(page, files):
    page.goto(files)
    page.wait_for_function("window.answer !== undefined", timeout=150_000)
    count = len(json.loads((ROOT / "tests" / "parity" / "cases.json").read_text(encoding="utf-8")))
    assert page.evaluate("window.answer") == f"emscripten: {count} computed, 0 differ []"
