"""Alerts of a house to the people on duty: once to each device, and again to those that were out of reach."""

from __future__ import annotations

import logging
from datetime import datetime, timedelta

from django.db.models import F, Q

from ulsek.team.models import House

from .models import AlertAddress, Alerted
from .push import TTL_S, Alert, push

_FIRST_PAUSE_S, _MOST_PAUSE_S = 15, 300
_GONE = (404, 410)
_LOG = logging.getLogger(__name__)


def alert(house: House, what: str, at: datetime, said: Alert) -> int:
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
        status = push(address.subscription, what, said)
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
