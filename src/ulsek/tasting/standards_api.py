"""Standards over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Query, Router, Status

from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of

from .actions.keep_standard import NewStandard, end_standard, keep_standard, make_again, take_portion
from .standards import EndStandardIn, MadeAgainIn, StandardIn, StandardOut, StandardRow, standard_row, standard_view, standards_of

router = Router(tags=["tasting"])
_READ = {"brix_reading", "acid_g_100ml"}


def _view(member: Member, standard_id: UUID) -> StandardOut:
    return standard_view(get_object_or_404(standards_of(member.house), pk=standard_id), member, member.day(timezone.now()))


@router.get("/standards", response=answers(Slice[StandardRow]))
def standards(request: HttpRequest, asked: Query[ListQuery]) -> Slice[StandardRow]:
    """Returns the standards, the newest first."""
    member = member_of(request)
    today = member.day(timezone.now())
    found = standards_of(member.house).filter(holding(asked.find, "code", "name"))
    return slice_of(found, ("-made_at", "id"), asked).each(lambda item: standard_row(item, today))


@router.post("/standards", response={201: answers(StandardOut)})
def keep(request: HttpRequest, payload: StandardIn) -> Status[StandardOut]:
    """Keeps a standard: frozen portions of a bottle, or a version that is made again by weight."""
    member = member_of(request)
    readings = {name: value for name, value in payload.dict(include=_READ).items() if value is not None}
    return Status(201, _view(member, keep_standard(member, NewStandard(**payload.dict(exclude=_READ), readings=readings)).pk))


@router.get("/standards/{standard_id}", response=answers(StandardOut))
def standard(request: HttpRequest, standard_id: UUID) -> StandardOut:
    """Returns a standard with what stood beside it by date."""
    return _view(member_of(request), standard_id)


@router.post("/standards/{standard_id}/made", response=answers(StandardOut))
def made(request: HttpRequest, standard_id: UUID, payload: MadeAgainIn) -> StandardOut:
    """Stores a making of the standard with what it reads, and returns the standard. Refused at the reading that is not the standard's."""
    member = member_of(request)
    make_again(member, standard_id, payload.read())
    return _view(member, standard_id)


@router.post("/standards/{standard_id}/portion", response=answers(StandardOut))
def portion(request: HttpRequest, standard_id: UUID) -> StandardOut:
    """Takes a portion out of the freezer, without a panel."""
    member = member_of(request)
    return _view(member, take_portion(member, standard_id).pk)


@router.post("/standards/{standard_id}/end", response=answers(StandardOut))
def end(request: HttpRequest, standard_id: UUID, payload: EndStandardIn) -> StandardOut:
    """Ends a standard, with a reason."""
    member = member_of(request)
    return _view(member, end_standard(member, standard_id, payload.why).pk)
