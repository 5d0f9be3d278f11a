"""A stand-in for a push service (RFC 8030): takes a message for a subscription and keeps it until a device of that subscription asks."""

from __future__ import annotations

import argparse
import json
import threading
import time
from collections import defaultdict
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import ClassVar

MOST_KEPT = 100


class PushService(BaseHTTPRequestHandler):
    """POST /push/ID keeps a message for its TTL; GET /push/ID hands over what waits; DELETE /push/ID ends the subscription (410 from then on)."""

    kept: ClassVar[dict[str, list[dict[str, object]]]] = defaultdict(list)
    gone: ClassVar[set[str]] = set()
    lock: ClassVar[threading.Lock] = threading.Lock()

    def _answer(self, status: int, body: bytes = b"") -> None:
        self.send_response(status)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def do_POST(self) -> None:
        """Keeps a message; one of the same topic takes the place of the one before."""
        ttl = self.headers.get("TTL")
        if ttl is None or not ttl.isdigit():
            self._answer(400, b'{"error": "TTL is missing"}')
            return
        size = int(self.headers.get("Content-Length") or 0)
        topic = self.headers.get("Topic", "")
        message = {"topic": topic, "urgency": self.headers.get("Urgency", "normal"), "until": time.time() + int(ttl), "bytes": size}
        self.rfile.read(size)
        with self.lock:
            if self.path in self.gone:
                self._answer(410)
                return
            kept = [item for item in self.kept[self.path] if not topic or item["topic"] != topic]
            self.kept[self.path] = [*kept, message][-MOST_KEPT:]
        self._answer(201)

    def do_GET(self) -> None:
        """What waits for this subscription, and is not too old."""
        with self.lock:
            found = [item for item in self.kept.pop(self.path, []) if float(str(item["until"])) > time.time()]
        self._answer(200, json.dumps(found).encode())

    def do_DELETE(self) -> None:
        """Nobody listens here any more."""
        with self.lock:
            self.gone.add(self.path)
        self._answer(204)

    def log_message(self, *_words: object) -> None:
        """Says nothing."""


if __name__ == "__main__":
    words = argparse.ArgumentParser(description=__doc__)
    words.add_argument("--port", type=int, default=9717)
    ThreadingHTTPServer(("127.0.0.1", words.parse_args().port), PushService).serve_forever()
