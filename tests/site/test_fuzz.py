"""Whatever is sent, by whoever: the site answers in its one shape, and never with a fault of its own."""

import json
import os
from urllib.parse import quote, urlencode

import pytest
from django.test import Client

from tests.site.fuzzing import Scene, bent, drawn
from ulsek.site.problems import PROBLEM

CASES = int(os.environ.get("ULSEK_FUZZ_CASES", "2200"))
ROLES = ("lead", "maker", "reader", "stranger", "nobody")


class Sender:
    """Sends as one role and notes every answer that is no answer."""

    def __init__(self, place, role):
        self.client = Client(raise_request_exception=False)
        self.cookies = place.apis[role].client.cookies
        self.sent, self.faults = 0, []

    def __call__(self, method, path, body, query):
        self.client.cookies = self.cookies
        asked = quote(path, safe="/%") + (f"?{urlencode(query, doseq=True, errors='replace')}" if query else "")
        data = body if isinstance(body, bytes | None) else json.dumps(body)
        answer = self.client.generic(method.upper(), asked, data or b"", content_type="application/json", headers={"If-Match": '"1"'})
        self.sent += 1
        if answer.status_code >= 500 or (answer.status_code >= 400 and answer["Content-Type"] != PROBLEM):
            self.faults.append(f"{answer.status_code} {method.upper()} {asked} {data!r:.300}: {answer.content[:200]!r}")


@pytest.mark.parametrize("role", ROLES)
def test_no_request_is_answered_with_a_fault(place, role):
    scene, send = Scene(place), Sender(place, role)
    share = CASES // len(ROLES) // 2
    bent(scene, role, share, send)
    drawn(scene, role, share, send)
    assert send.sent > share, "both were sent"
    assert not send.faults, f"{len(send.faults)} of {send.sent}:\n" + "\n".join(sorted(send.faults)[:40])
