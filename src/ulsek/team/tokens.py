"""Tokens of scripts: what each scope may do, and which token a request carries."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from datetime import datetime, timedelta

from django.db.models import Q

from .models import ApiToken, Role, TokenScope

BEGINS = "ulsek_"
SCOPE_ROLES: Mapping[TokenScope, Role] = {TokenScope.READ: Role.READER, TokenScope.MAKE: Role.MAKER, TokenScope.LEAD: Role.LEAD}
"""The highest role that a script acts with; the person for whom it asks may have a lower one."""
_NOTED_EVERY = timedelta(minutes=1)


def token_digest(token: str) -> str:
    """Returns the SHA-256 of a token in hex. Its 256 random bits need no slow hash."""
    return hashlib.sha256(token.encode()).hexdigest()


def token_of(header: str, now: datetime) -> ApiToken | None:
    """Returns the token of an `Authorization` header, and notes that it was used; None for one that is none, revoked or past."""
    kind, _, token = header.partition(" ")
    if kind.lower() != "bearer" or not token.startswith(BEGINS):
        return None
    found = ApiToken.objects.filter(digest=token_digest(token), revoked_at=None, expires_at__gt=now).first()
    if found is not None:
        ApiToken.objects.filter(Q(used_at=None) | Q(used_at__lt=now - _NOTED_EVERY), pk=found.pk).update(used_at=now)
    return found
