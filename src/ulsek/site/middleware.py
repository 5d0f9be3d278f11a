"""Middleware: the client's real address, and an id for each request in the log."""

from __future__ import annotations

import json
import logging
import re
from collections.abc import Callable
from contextvars import ContextVar
from datetime import UTC, datetime
from uuid import uuid4

from django.conf import settings
from django.http import HttpRequest, HttpResponse

Answerer = Callable[[HttpRequest], HttpResponse]
_request_id: ContextVar[str] = ContextVar("id of the request", default="-")
_ID = re.compile(r"[0-9a-f]{8,64}")


class WithRequestId(logging.Filter):
    """Adds the id of the current request to every line of the log; “-” outside a request."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.request_id = _request_id.get()
        return True


class JsonLines(logging.Formatter):
    """Writes each line of the log as one JSON object: moment (UTC), level, id of the request, what wrote it, its message, and the trace of an error."""

    def format(self, record: logging.LogRecord) -> str:
        said = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname,
            "request": getattr(record, "request_id", "-"),
            "from": record.name,
            "message": record.getMessage(),
        }
        if record.exc_info:
            said["trace"] = self.formatException(record.exc_info)
        return json.dumps(said, ensure_ascii=False)


def request_ids(answer_to: Answerer) -> Answerer:
    """Middleware: the proxy's id of the request, or a new one, in the log and in the answer."""

    def answer(request: HttpRequest) -> HttpResponse:
        given = request.headers.get("X-Request-ID", "") if settings.BEHIND_PROXY else ""
        # Not taken back afterwards: Django logs an answer once it has left the last middleware. The thread's next request brings its own.
        _request_id.set(given if _ID.fullmatch(given) else uuid4().hex)
        found = answer_to(request)
        found["X-Request-ID"] = _request_id.get()
        return found

    return answer


def real_address(answer_to: Answerer) -> Answerer:
    """Middleware: behind our own proxy, which alone reaches the site's socket, the client's address is the one that the proxy sends."""

    def answer(request: HttpRequest) -> HttpResponse:
        if settings.BEHIND_PROXY:
            request.META["REMOTE_ADDR"] = request.META.get("HTTP_X_REAL_IP", "")
        return answer_to(request)

    return answer
