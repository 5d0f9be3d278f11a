"""Answers about a till's table."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from ulsek.core.base.messages import Message
from ulsek.core.planning.till import DateOrder, TillColumn


@dataclass(frozen=True, slots=True, kw_only=True)
class TillNameOut:
    """A product name in a till's table, the number sold [count], and the drink that it stands for (None: no drink of the house). `is_known` is False if it has not been assigned."""

    name: str
    count: float
    spec: UUID | None
    is_known: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class TillRead:
    """A till's table as read: its columns, its days, its product names, and the lines that could not be read. Nothing is stored.

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
    problems: tuple[Message, ...]
    names: tuple[TillNameOut, ...]
    drinks: tuple[TillDrink, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TillDrink:
    """A drink of the house that a product name may stand for."""

    spec: UUID
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TillTaken:
    """The stored part of a till's table: its days, those of them that changed anything [count], the drinks sold [count], and the product names that count for no drink."""

    days: int
    new_days: int
    sold: float
    left_out: tuple[str, ...]
    said: Message
