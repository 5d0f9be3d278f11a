"""Tokens of a house's own scripts, and the description of what they may ask."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Query, Router, Status

from ulsek.core.base.answer import OpenForm

from .access import member_of
from .actions.api_tokens import make_token, revoke_token
from .answer import answers
from .listing import ListQuery, Slice, holding, slice_of
from .models import ApiToken
from .schema import Schema

router = Router(tags=["tokens"])


@dataclass(frozen=True, slots=True, kw_only=True)
class TokenRow:
    """A token of the house: for which script, what it may do, for whom it asks, and when it was last used."""

    id: UUID
    name: str
    scope: Literal["read", "make", "lead"]
    by: str
    made_at: datetime
    expires_at: datetime
    used_at: datetime | None
    open: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class TokenOut:
    """A new token, whose text is shown once."""

    row: TokenRow
    token: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ApiDescription:
    """The document that describes the API, as OpenAPI 3.1 defines it: `paths` holds each operation by path and method, `components` the schemas that they refer to."""

    openapi: str
    info: OpenForm
    paths: Mapping[str, Mapping[str, OpenForm]]
    components: OpenForm
    servers: tuple[OpenForm, ...]


class TokenIn(Schema):
    """Which script a token is for, what it may do, and for how many days."""

    name: str
    scope: str = "read"
    days: int = 90


class TokenQuery(ListQuery):
    """Which tokens are listed: all, or those that are open; `find` looks at names."""

    state: Literal["", "open"] = ""


def _row(row: ApiToken) -> TokenRow:
    return TokenRow(
        id=row.pk,
        name=row.name,
        scope=row.scope,  # type: ignore[arg-type] # one of its choices
        by=row.person.display_name,
        made_at=row.made_at,
        expires_at=row.expires_at,
        used_at=row.used_at,
        open=row.revoked_at is None and row.expires_at > timezone.now(),
    )


@router.get("/tokens", response=answers(Slice[TokenRow]))
def tokens(request: HttpRequest, asked: Query[TokenQuery]) -> Slice[TokenRow]:
    """Returns the tokens of the house, the newest first. Their texts are not stored."""
    found = ApiToken.objects.filter(holding(asked.find, "name"), house=member_of(request).house).select_related("person")
    if asked.state == "open":
        found = found.filter(revoked_at=None, expires_at__gt=timezone.now())
    return slice_of(found, ("-made_at", "pk"), asked).each(_row)


@router.post("/tokens", response={201: answers(TokenOut)})
def make(request: HttpRequest, payload: TokenIn) -> Status[TokenOut]:
    """Makes a token for a script, which asks for the sender with it. The text in the answer is shown once."""
    row, token = make_token(member_of(request), payload.name, payload.scope, payload.days)
    return Status(201, TokenOut(row=_row(row), token=token))


@router.post("/tokens/{token_id}/revoke", response=answers(TokenRow))
def revoke(request: HttpRequest, token_id: UUID) -> TokenRow:
    """Ends a token at once."""
    return _row(revoke_token(member_of(request), token_id))


@router.get("/openapi.json", response=answers(ApiDescription))
def described(request: HttpRequest) -> HttpResponse:
    """The description of this API in OpenAPI 3.1, each operation with the role that it takes (`x-role`) and whether a script may ask for it (`x-scripts`)."""
    member_of(request)
    return HttpResponse((settings.FORMATS / "openapi.json").read_bytes(), content_type="application/json")
