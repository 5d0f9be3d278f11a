"""Requests and answers about what a till sold."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from ulsek.core.base.messages import Message
from ulsek.core.planning.till import DateOrder, TillColumn


@dataclass(frozen=True, slots=True, kw_only=True)
class TillNameOut:
    """A name in a till's table, how many were sold of it [count], and the drink that it is taken for; `is_known` is False for one of which nobody has said what it is."""

    name: str
    count: float
    spec: UUID | None
    is_known: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class TillRead:
    """A till's table as it is understood: its columns, its days, its names, and the lines that could not be read. Nothing is stored.

    `needs` says what has to be said before it can be read, at `where` ("columns" or "order"); then it has no days and no names.
    """

    columns: tuple[TillColumn, ...]
    order: DateOrder
    needs: Message | None
    where: str
    first: date | None
    last: date | None
    rows: int
    unread: int
    told: tuple[Message, ...]
    names: tuple[TillNameOut, ...]
    drinks: tuple[TillDrink, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TillDrink:
    """A drink of the house that a name may mean."""

    spec: UUID
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TillTaken:
    """What was taken in of a till's table: the days in it, those of them that say something new, drinks sold [count], and names that are no drinks of the house."""

    days: int
    new_days: int
    sold: float
    left_out: tuple[str, ...]
    said: Message
