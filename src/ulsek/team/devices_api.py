"""Enrolled devices of a house."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.db.models import Max, Q
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from .access import member_of
from .actions.enrol_device import enrol_device, revoke_device
from .answer import answers
from .enrolled import COOKIE, hand_out
from .listing import ListQuery, Slice, holding, slice_of
from .models import Device
from .schema import Schema
from .session_api import Session, session_out

router = Router(tags=["enrolled devices"])


@dataclass(frozen=True, slots=True, kw_only=True)
class DeviceOut:
    """An enrolled device of the house."""

    id: UUID
    name: str
    enrolled_by: str
    enrolled_at: datetime
    seen_at: datetime | None
    revoked_at: datetime | None


class DeviceIn(Schema):
    name: str


class DeviceQuery(ListQuery):
    """Which devices are listed: all of them, those in use, or those that were revoked; `find` looks at names."""

    state: Literal["", "in_use", "revoked"] = ""


def _device_row(row: Device) -> DeviceOut:
    return DeviceOut(
        id=row.pk,
        name=row.name,
        enrolled_by=row.enrolled_by.display_name,
        enrolled_at=row.enrolled_at,
        seen_at=row.seen_at,  # type: ignore[attr-defined] # annotated by `devices`
        revoked_at=row.revoked_at,
    )


@router.get("/devices", response=answers(Slice[DeviceOut]))
def devices(request: HttpRequest, asked: Query[DeviceQuery]) -> Slice[DeviceOut]:
    """Returns the devices of the house, those in use first."""
    found = Device.objects.filter(holding(asked.find, "name"), house=member_of(request).house).select_related("enrolled_by")
    if asked.state:
        found = found.filter(revoked_at__isnull=asked.state == "in_use")
    seen = found.annotate(seen_at=Max("signin__seen_at"), is_revoked=Q(revoked_at__isnull=False))
    return slice_of(seen, ("is_revoked", "name", "enrolled_at", "pk"), asked).each(_device_row)


@router.post("/devices", response={201: answers(Session)})
def enrol(request: HttpRequest, response: HttpResponse, payload: DeviceIn) -> Status[Session]:
    """Enrols the device that asks. Its secret goes into a cookie that no script reads."""
    device, secret = enrol_device(member_of(request), payload.name)
    hand_out(response, device, secret)
    request.COOKIES[COOKIE] = f"{device.pk}.{secret}"
    return Status(201, session_out(request))


@router.post("/devices/{device_id}/revoke", response={204: None})
def revoke(request: HttpRequest, device_id: UUID) -> Status[None]:
    """A device that is lost, sold or not trusted any more."""
    revoke_device(member_of(request), device_id)
    return Status(204, None)
