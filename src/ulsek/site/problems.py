"""The one shape of every error (RFC 9457), in kitchen words."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpRequest, HttpResponse


def problem(status: int, title: str, detail: str, **more: Any) -> HttpResponse:
    """One error in the one shape (RFC 9457), in kitchen words."""
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail, **more}
    return HttpResponse(json.dumps(body, ensure_ascii=False), status=status, content_type="application/problem+json")


def locked_out(request: HttpRequest, *_rest: Any, **_more: Any) -> HttpResponse:
    """What a name hears that was tried wrongly too often."""
    del request
    return problem(
        429, "Too many tries", "Too many wrong tries with this name. Wait a quarter of an hour, or ask your lead.", code="throttled"
    )
