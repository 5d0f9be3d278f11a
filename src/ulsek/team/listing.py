"""Lists: asked for by a search, filters, a limit and a cursor, each of the same name in every list, and answered slice by slice.

A cursor is the position of the last row that was sent: the next slice begins after it. So a row that is added or removed in the meantime neither
repeats nor hides another one, as it would with page numbers, and the last slice costs no more than the first.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Generic, TypeVar

from django.core import signing
from django.db.models import Model, Q, QuerySet
from pydantic import Field, ValidationInfo, model_validator

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal

from .schema import Schema

USUAL = 50
"""Rows of a slice where no limit is asked for."""
MOST = 200
"""Rows of a slice at most."""
_LONGEST_SEARCH = 200
_LONGEST_CURSOR = 4000
Row = TypeVar("Row")
Other = TypeVar("Other")
Stored = TypeVar("Stored", bound=Model)
Key = tuple[str | bool | int | float, ...]


class ListQuery(Schema):
    """What a list is asked for: rows in which every word of `find` stands, at most `limit` of them, after the position `cursor`."""

    find: str = Field("", max_length=_LONGEST_SEARCH, description="Words that must all stand in a row.")
    limit: int = Field(USUAL, ge=1, le=MOST, description="The most rows of the answer.")
    cursor: str = Field("", max_length=_LONGEST_CURSOR, description="`next` of the answer before; empty for the first rows.")

    @model_validator(mode="before")
    @classmethod
    def _names_are_known(cls, data: Any, info: ValidationInfo) -> Any:
        """Raises Refusal for a parameter that this list does not know: the framework would ignore it, and all rows would seem to be those asked for."""
        request = (info.context or {}).get("request")
        for name in request.GET if request else ():
            if name not in cls.model_fields:
                known = listed(sorted(cls.model_fields))
                raise Refusal(
                    message("This list has no {name}", name=name[:40]), name[:40], message("it has {names}", names=known), code="unreadable"
                )
        return data


@dataclass(frozen=True, slots=True, kw_only=True)
class Slice(Generic[Row]):
    """Rows of a list, and the cursor of those after them; null if there are none."""

    items: tuple[Row, ...]
    next: str | None

    def each(self, view: Callable[[Row], Other]) -> Slice[Other]:
        """Returns the same slice with each row replaced by the result of `view` for it; the cursor stays."""
        return Slice(items=tuple(map(view, self.items)), next=self.next)


def holding(find: str, *fields: str) -> Q:
    """Returns the condition that every word of a search stands in one of the named columns."""
    wanted = Q()
    for word in find.split():
        anywhere = Q()
        for field in fields:
            anywhere |= Q(**{f"{field}__icontains": word})
        wanted &= anywhere
    return wanted


def slice_of(rows: QuerySet[Stored], order: Sequence[str], asked: ListQuery) -> Slice[Stored]:
    """Returns the slice of stored rows that is asked for.

    `order` names columns or annotations of the rows as `order_by` does; the last one must be unique among the rows. Raises Refusal (`cursor`) for a
    cursor that is none of a list in this order.
    """
    list_name = f"{rows.model._meta.label} {' '.join(order)}"
    if asked.cursor:
        rows = rows.filter(_after(order, _position(asked.cursor, list_name)))
    found = list(rows.order_by(*order)[: asked.limit + 1])
    shown = tuple(found[: asked.limit])
    last = [_plain(getattr(shown[-1], name.lstrip("-"))) for name in order] if len(found) > asked.limit else None
    return Slice(items=shown, next=_cursor(last, list_name))


def slice_of_values(rows: Iterable[Row], key: Callable[[Row], Key], asked: ListQuery, list_name: str) -> Slice[Row]:
    """Returns the slice that is asked for of rows that are in memory, in the order of `key`, which must be unique.

    `list_name` tells the cursors of this list from those of others. Raises Refusal (`cursor`) for a cursor that is none of this list.
    """
    ordered = sorted(rows, key=key)
    if asked.cursor:
        position = tuple(_position(asked.cursor, list_name))
        ordered = [row for row in ordered if key(row) > position]
    shown = tuple(ordered[: asked.limit])
    last = list(key(shown[-1])) if len(ordered) > asked.limit else None
    return Slice(items=shown, next=_cursor(last, list_name))


def _after(order: Sequence[str], position: Sequence[Any]) -> Q:
    """Returns the condition that a row stands after a position: as lexicographic order, column by column."""
    after, ties = Q(), Q()
    for name, value in zip(order, position, strict=True):
        column, falling = name.lstrip("-"), name.startswith("-")
        # MariaDB sorts NULL below every value.
        if value is None:
            further = Q(pk__in=()) if falling else Q(**{f"{column}__isnull": False})
            tie = Q(**{f"{column}__isnull": True})
        else:
            below = Q(**{f"{column}__lt": value}) | Q(**{f"{column}__isnull": True})
            further = below if falling else Q(**{f"{column}__gt": value})
            tie = Q(**{column: value})
        after |= ties & further
        ties &= tie
    return after


def _plain(value: Any) -> Any:
    """Returns a column's value as JSON holds it; the database reads it back exactly."""
    if value is None or isinstance(value, bool | int | float | str):
        return value
    return value.isoformat() if isinstance(value, date | datetime) else str(value)


def _cursor(position: Sequence[Any] | None, list_name: str) -> str | None:
    """Returns the cursor of a position. It is signed, so that none but the site's own comes back, to the list that it is of."""
    return None if position is None else signing.dumps(list(position), salt=f"cursor of {list_name}", compress=True)


def _position(cursor: str, list_name: str) -> Sequence[Any]:
    try:
        position: Sequence[Any] = signing.loads(cursor, salt=f"cursor of {list_name}")
    except signing.BadSignature:
        raise Refusal(
            message("This is no cursor of this list"), "cursor", remedy=message("Take “next” of the answer before"), code="cursor"
        ) from None
    return position
