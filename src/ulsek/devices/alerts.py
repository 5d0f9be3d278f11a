"""Alerts: a push message to whoever is on duty. It carries nothing (RFC 8030 without a payload): the device asks Ulsek what is due."""

from __future__ import annotations

import http.client
import re
from datetime import datetime
from urllib.parse import urlsplit

from django.db import IntegrityError, transaction

from ulsek.team.models import House

from .models import AlertAddress, Alerted

TTL_S = 4 * 3600
_WAIT_S = 3.0
_GONE = (404, 410)


def push(endpoint: str, topic: str) -> int:
    """Sends one empty push message and returns the service's status; 0 when it cannot be reached."""
    where = urlsplit(endpoint)
    kind = http.client.HTTPSConnection if where.scheme == "https" else http.client.HTTPConnection
    line = kind(where.hostname or "", where.port, timeout=_WAIT_S)
    try:
        # A topic is at most 32 letters of the URL-safe alphabet (RFC 8030, 5.4): a newer alert takes the place of an unread one.
        headers = {"TTL": str(TTL_S), "Urgency": "high", "Topic": re.sub(r"[^\w-]", "", topic)[:32]}
        line.request("POST", where.path, b"", headers)
        return line.getresponse().status
    except OSError:
        return 0
    finally:
        line.close()


def alert(house: House, what: str, at: datetime) -> int:
    """Alerts everybody on duty in a house, once for each `what`, and returns how many devices were reached. A subscription that has ended is let go."""
    try:
        with transaction.atomic():
            row = Alerted.objects.create(house=house, what=what[:120], at=at, reached=0)
    except IntegrityError:
        return 0  # another process was first
    reached = 0
    for address in AlertAddress.objects.filter(house=house, on_duty=True):
        status = push(address.endpoint, what)
        if status in _GONE:
            address.delete()
        reached += 200 <= status < 300
    Alerted.objects.filter(pk=row.pk).update(reached=reached)
    return reached
