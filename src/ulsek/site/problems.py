"""Errors in one shape (RFC 9457)."""

from __future__ import annotations

import json
import logging
import sys
from collections.abc import Callable
from html import escape
from typing import Any

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse

from ulsek.batches.actions.keep_photo import MOST_BYTES

_LOG = logging.getLogger(__name__)
PROBLEM = "application/problem+json"
_PAGE = """<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>{title}</title><style nonce="{nonce}">:root {{ color-scheme: light dark }} body {{ font: 20px/1.4 system-ui, sans-serif; margin: 12vh auto; max-width: 32em; padding: 0 1em }}</style>
<main><h1>{title}</h1><p>{detail}</p></main></html>"""


def problem(status: int, title: str, detail: str, **more: Any) -> HttpResponse:
    """Returns one error in the one shape (RFC 9457)."""
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail, **more}
    return HttpResponse(json.dumps(body, ensure_ascii=False), status=status, content_type=PROBLEM)


def database_away(trouble: Exception) -> HttpResponse:
    """Returns 503: the database is away, full or busy. The request was not performed, and can be sent again."""
    _LOG.warning("the database did not serve: %s", trouble)
    answer = problem(503, "Come back in a moment", "Ulsek's books are out of reach just now. Nothing was lost; try again.", code="away")
    answer["Retry-After"] = "2"
    return answer


def on_fault(request: HttpRequest) -> HttpResponse:
    """Returns 503 if the database is away, else 500, for an error outside the API."""
    del request
    trouble = sys.exc_info()[1]
    if isinstance(trouble, OperationalError | InterfaceError):
        return database_away(trouble)
    return problem(
        500, "Our fault", "Something went wrong on our side, and it is written down. Try again, or tell your lead.", code="fault"
    )


def too_big(path: str) -> HttpResponse:
    """Returns 413, in the words of what was sent to this address."""
    if path.endswith("/photos"):
        return problem(
            413,
            "Too much at once",
            f"The picture is too large: at most {MOST_BYTES // 1000} kB. Take a smaller one.",
            code="too_long",
            where="file",
        )
    return problem(413, "Too much at once", "That is too long to take in: at most 1 MB. Send one spec at a time.", code="too_long")


def locked_out(request: HttpRequest, *_rest: Any, **_more: Any) -> HttpResponse:
    """Returns the answer for a name that was tried wrongly too often."""
    del request
    return problem(
        429, "Too many tries", "Too many wrong tries with this name. Wait a quarter of an hour, or ask your lead.", code="throttled"
    )


def words_for_people(answer_to: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: an error of an address opened in a tab (a label, a table) is a page with its text; programs get the one shape."""

    def answer(request: HttpRequest) -> HttpResponse:
        found = answer_to(request)
        if found.get("Content-Type") != PROBLEM or "text/html" not in request.headers.get("Accept", ""):
            return found
        body = json.loads(found.content)
        nonce = str(getattr(request, "csp_nonce", ""))
        text = _PAGE.format(title=escape(body["title"]), detail=escape(body["detail"]), nonce=nonce)
        return HttpResponse(text, status=found.status_code)

    return answer
