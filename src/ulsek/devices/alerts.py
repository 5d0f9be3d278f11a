"""Alerts: a push message to the people on duty. It has no payload (RFC 8030): the device asks the site what is due."""

from __future__ import annotations

import http.client
import logging
import re
from datetime import datetime, timedelta
from urllib.parse import urlsplit

from django.db.models import F, Q

from ulsek.team.models import House

from .models import AlertAddress, Alerted

TTL_S = 4 * 3600
_WAIT_S = 3.0
_FIRST_PAUSE_S, _MOST_PAUSE_S = 15, 300
_GONE = (404, 410)
_LOG = logging.getLogger(__name__)


def push(endpoint: str, topic: str) -> int:
    """Sends one empty push message and returns the status of the service; 0 if it cannot be reached, and for an invalid address."""
    try:
        where = urlsplit(endpoint)
        kind = http.client.HTTPSConnection if where.scheme == "https" else http.client.HTTPConnection
        line = kind(where.hostname or "", where.port, timeout=_WAIT_S)
    except ValueError:
        return 0
    try:
        # A topic is at most 32 letters of the URL-safe alphabet (RFC 8030, 5.4): a newer alert takes the place of an unread one.
        headers = {"TTL": str(TTL_S), "Urgency": "high", "Topic": re.sub(r"[^\w-]", "", topic, flags=re.ASCII)[:32]}
        line.request("POST", where.path, b"", headers)
        return line.getresponse().status
    except (OSError, http.client.HTTPException, ValueError):
        return 0
    finally:
        line.close()


def alert(house: House, what: str, at: datetime) -> int:
    """Sends one alert to every device on duty in a house, and returns how many accepted it in this call [count]. `what` identifies the alert.

    A device that accepted an alert does not get it again. One that did not is tried again by a later call, after a growing pause, for `TTL_S` [s]. A
    subscription that has ended is deleted.
    """
    row = _claimed(house, what, at)
    if row is None:
        return 0
    taken: list[int] = []
    open_sessions = Q(sign_in=None) | Q(sign_in__ended_at=None)
    for address in AlertAddress.objects.filter(open_sessions, house=house, on_duty=True).exclude(pk__in=row.taken_by).order_by("endpoint"):
        status = push(address.endpoint, what)
        if status in _GONE:
            address.delete()
        elif 200 <= status < 300:
            taken.append(address.pk)
        else:
            _LOG.warning("an alert of house %s was not taken by device %s: status %s", house.pk, address.pk, status)
    if taken:
        Alerted.objects.filter(pk=row.pk).update(taken_by=[*row.taken_by, *taken], reached=F("reached") + len(taken))
    return len(taken)


def _claimed(house: House, what: str, at: datetime) -> Alerted | None:
    """Returns the alert if this process is to send it now; None if another process sends it, if its pause is not over, or if it is older than `TTL_S` [s]."""
    row, _ = Alerted.objects.get_or_create(what=what, defaults={"house": house, "at": at})
    if (row.next_at and at < row.next_at) or at - row.at > timedelta(seconds=TTL_S):
        return None
    pause = min(_MOST_PAUSE_S, _FIRST_PAUSE_S * 2**row.tries)
    # Whoever changes the row first sends: the others find another number of tries.
    won = Alerted.objects.filter(pk=row.pk, tries=row.tries).update(tries=F("tries") + 1, next_at=at + timedelta(seconds=pause))
    return row if won else None
