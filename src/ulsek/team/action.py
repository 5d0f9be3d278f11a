"""Actions: every write is one transaction under the house's lock, retried as a whole, and done once however often it is sent."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from dataclasses import replace
from functools import wraps
from typing import Any, Concatenate, ParamSpec, TypeVar, cast, overload
from uuid import uuid4

from django.apps import apps
from django.db import IntegrityError, InterfaceError, OperationalError, connection, models, transaction
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .access import Member
from .locks import Locks, holds_house, lock_house, under_way
from .models import Receipt

P = ParamSpec("P")
R = TypeVar("R")

TRIES = 7
_FIRST_WAIT_S, _MOST_WAIT_S = 0.02, 0.6
"""Between two tries an action waits, each time about twice as long, and never as long as its neighbour."""
PASSING = {
    1020: "the row has changed since it was read",
    1047: "this node is not ready",
    1053: "the server is going down",
    1062: "another action added this row first",
    1180: "the cluster refused the commit",
    1205: "a lock was waited for too long",
    1213: "two actions waited for each other",
    1305: "the savepoint went with a transaction that was rolled back",
    1317: "the query was interrupted",
    1451: "another action relies on this row since",
    1452: "another action took away what this row refers to",
    1927: "the connection was killed",
    2006: "the server has gone away",
    2013: "the connection was lost during the query",
    2055: "the connection was lost",
    4031: "the connection was closed while it was idle",
}
"""Errors of MariaDB by number after which the same action, done again from its start, can succeed."""


def passes(trouble: Exception) -> bool:
    """Returns True for an error of the database after which a second try can succeed."""
    return isinstance(trouble, InterfaceError) or (bool(trouble.args) and trouble.args[0] in PASSING)


@overload
def action(function: Callable[Concatenate[Member, P], R], /) -> Callable[Concatenate[Member, P], R]: ...
@overload
def action(
    *, whole_house: bool = ..., receipt: bool = ...
) -> Callable[[Callable[Concatenate[Member, P], R]], Callable[Concatenate[Member, P], R]]: ...
def action(function: Any = None, /, *, whole_house: bool = False, receipt: bool = True) -> Any:
    """Makes a function that writes for a member an action.

    It runs in one transaction, whose first lock is the member's house (alone with `whole_house`) and which is rolled back by whatever it raises. After an
    error that passes (`PASSING`) all of it is done again in a new transaction, `TRIES` times at most. With a `receipt` it is done once for each id that
    its client made: sent again, it returns what it returned then, read anew. It must then return a row, or what JSON can hold. Without one the function
    itself must know what it has already. Inside another action it is a part of that one.
    """

    def made(function: Callable[Concatenate[Member, P], R]) -> Callable[Concatenate[Member, P], R]:
        name = function.__name__

        @wraps(function)
        def run(member: Member, /, *args: P.args, **kwargs: P.kwargs) -> R:
            outer = under_way.get()
            if outer is not None:
                with transaction.atomic():
                    if not holds_house(member.house, shared=not whole_house):
                        lock_house(member.house, shared=not whole_house)
                    return function(member, *args, **kwargs)
            key, tries = member.request_id or uuid4().hex, 0

            def once() -> R:
                nonlocal tries
                tries += 1
                with transaction.atomic():
                    fresh = replace(member, house=lock_house(member.house, shared=not whole_house))
                    if not receipt:
                        return function(fresh, *args, **kwargs)
                    # An id that was made just now has no receipt yet.
                    done = _receipt(fresh, key, name) if member.request_id or tries > 1 else None
                    if done is not None:
                        return cast("R", _again(done))
                    # Added before anything is done: the same request sent twice at once waits here for the first one's end, and then finds it done.
                    kept = Receipt.objects.create(
                        house=fresh.house, key=key, action=name, digest=fresh.request_digest, person=fresh.person, at=timezone.now()
                    )
                    result = function(fresh, *args, **kwargs)
                    Receipt.objects.filter(pk=kept.pk).update(result=_kept(result))
                    return result

            return _retried(once)

        return run

    return made if function is None else made(function)


def _retried(once: Callable[[], R]) -> R:
    """Calls `once` until it succeeds, each time with locks of its own. An error that does not pass is raised at once, and so is the last one that does."""
    # Inside somebody else's transaction (a test's) what failed cannot be done again.
    tries = 1 if connection.in_atomic_block else TRIES
    for left in reversed(range(tries)):
        token = under_way.set(Locks())
        try:
            return once()
        except (OperationalError, InterfaceError, IntegrityError) as trouble:
            if not left or not passes(trouble):
                raise
        finally:
            under_way.reset(token)
        connection.close_if_unusable_or_obsolete()
        time.sleep(random.uniform(0.5, 1.0) * min(_MOST_WAIT_S, _FIRST_WAIT_S * 2 ** (tries - left)))  # noqa: S311 # no secret
    raise AssertionError("unreachable: the last try returns or raises")


def _receipt(member: Member, key: str, name: str) -> Receipt | None:
    """Returns the receipt of this id and action if it was done already. Raises Refusal if the id was used for another request, or by somebody else."""
    found = Receipt.objects.filter(house=member.house, key=key, action=name).first()
    if found is not None and (found.digest, found.person_id) != (member.request_digest, member.person.pk):
        raise Refusal(
            message("This id was used for something else"),
            "Idempotency-Key",
            remedy=message("Send it with an id of its own"),
            code="id_used",
        )
    return found


def _kept(result: Any) -> Any:
    return {"row": result._meta.label, "pk": str(result.pk)} if isinstance(result, models.Model) else {"value": result}


def _again(receipt: Receipt) -> Any:
    """Returns what an action returned when it was done. Raises Refusal if the row is gone."""
    kept = cast("dict[str, Any]", receipt.result)
    if "row" not in kept:
        return kept["value"]
    found = apps.get_model(kept["row"])._base_manager.filter(pk=kept["pk"]).first()
    if found is None:
        raise Refusal(
            message("That was done, and what came of it is gone since"), "Idempotency-Key", remedy=message("Reload the page"), code="gone"
        )
    return found
