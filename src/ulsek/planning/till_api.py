"""Sales of a till over HTTP."""

from __future__ import annotations

import json
from uuid import UUID

from django.http import HttpRequest
from ninja import File, Form, Router, UploadedFile

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.till import DateOrder
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.schema import Schema

from .actions.take_till import take_till
from .till import TillFile, till_file, till_read
from .till_schemas import TillRead, TillTaken

router = Router(tags=["planning"])


class TillIn(Schema):
    """Format of a till's file: the meanings of its columns (day, product, count or empty, separated by commas), and the order of its dates. Either is inferred if empty."""

    columns: str = ""
    order: DateOrder = ""


class TillTakeIn(TillIn):
    """The format, and the drink that each product name stands for, as JSON: the id of its spec, or null for no drink of the house."""

    names: str = "{}"


def _file(request: HttpRequest, file: UploadedFile, said: TillIn) -> TillFile:
    meanings = [part.strip() for part in said.columns.split(",")] if said.columns else []
    return till_file(member_of(request).house, file.read(), meanings, said.order)


@router.post("/plan/till/read", response=answers(TillRead))
def read(request: HttpRequest, file: File[UploadedFile], said: Form[TillIn]) -> TillRead:
    """Reads a till's table and stores nothing."""
    return till_read(member_of(request).house, _file(request, file, said))


@router.post("/plan/till", response=answers(TillTaken))
def take(request: HttpRequest, file: File[UploadedFile], said: Form[TillTakeIn]) -> TillTaken:
    """Stores the sales of a till's table, in place of those of the same days."""
    member = member_of(request)
    return take_till(member, _file(request, file, said).table(member.house), _names(said.names))


def _names(text: str) -> dict[str, UUID | None]:
    try:
        given = json.loads(text)
        return {str(name): None if spec is None else UUID(str(spec)) for name, spec in given.items()}
    except (ValueError, AttributeError):
        raise Refusal(
            message("The names cannot be read"), "names", remedy=message("Send each name with the id of a drink"), code="unreadable"
        ) from None
