"""What people do with a lot: open it, move it, use some, count it, split it, toss it."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.refusals import Refusal
from ulsek.stores.actions.change_stock import words_of
from ulsek.team.access import Member
from ulsek.team.models import Role

from ..models import Lot, LotEvent


def _amount(lot: Lot, body: Mapping[str, Any], most: float, what: str) -> float:
    value = body.get("amount")
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value) or not 0 <= value <= most:
        raise Refusal(
            f"{value} {lot.unit} cannot be {what}", "body/amount", f"from 0 to {most:.0f} {lot.unit}", "Measure it again", "out_of_bounds"
        )
    return float(value)


def _opened(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del body
    if lot.opened_at is not None:
        raise Refusal(f"{lot.code} is open already", "kind", code="twice")
    lot.opened_at = at
    # An opened bottle is counted anew, and never past its first date.
    lot.use_by = min(lot.use_by, member.local(at).date() + timedelta(days=lot.opened_days - 1))


def _moved(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, at
    lot.place = words_of(body, "place", "Where does it stand now?")[:60]


def _used(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, at
    # May fall below zero after a miscount: shown, never refused in mid-service.
    lot.left -= _amount(lot, body, 1e6, "used")


def _counted(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, at
    lot.left = _amount(lot, body, 1e6, "left")


def _tossed(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member
    words_of(body, "reason", "Why is it tossed?")
    lot.left, lot.gone_at = 0.0, at


def _split(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, at
    part = _amount(lot, body, max(0.0, lot.left), "split off")
    if part <= 0:
        raise Refusal("Nothing is split off", "body/amount", f"more than 0 {lot.unit}", code="not_positive")
    letter = chr(ord("B") + lot.parts.count())
    copy = Lot.objects.get(pk=lot.pk)
    copy.pk, copy.code, copy.split_of = None, f"{lot.code}{letter}"[:12], lot
    copy.amount = copy.left = part
    copy.place = str(body.get("place") or lot.place)[:60]
    copy.save(force_insert=True)
    lot.left -= part


def _tasted(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, lot, at
    words_of(body, "text", "How does it taste?")


_DEEDS: Mapping[str, Callable[[Member, Lot, Mapping[str, Any], datetime], None]] = {
    "opened": _opened,
    "moved": _moved,
    "used": _used,
    "counted": _counted,
    "split": _split,
    "tossed": _tossed,
    "tasted": _tasted,
}


@transaction.atomic
def change_lot(member: Member, code: str, kind: str, body: Mapping[str, Any], at: datetime | None = None) -> Lot:
    """The lot after what was done to it; kept as an event. Refuses what there is not to do, what is gone, and figures that cannot be."""
    member.must_be(Role.MAKER)
    if kind not in _DEEDS:
        raise Refusal(f"“{kind}” is nothing that is done to a lot", "kind", f"there are {', '.join(_DEEDS)}", code="unknown_kind")
    # Locked: two hands that use some at once must both count.
    lot = get_object_or_404(Lot.objects.select_for_update(), code=code, house=member.house)
    if lot.gone_at is not None:
        raise Refusal(f"{lot.code} is gone", "code", remedy="Count what stands there under its own number", code="gone")
    when = at or timezone.now()
    _DEEDS[kind](member, lot, body, when)
    lot.save()
    LotEvent.objects.create(lot=lot, kind=kind, body=dict(body), by=member.person, at=when)
    member.wrote(f"lot_{kind}", lot.code, at=at, **{name: value for name, value in body.items() if isinstance(value, str | int | float)})
    return lot
