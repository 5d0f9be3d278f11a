"""The one order in which rows are locked, so that no two actions wait for each other in a circle.

Every action first locks its house: shared, or alone where it must see all of the house at rest (a recall, a change of the house itself). Rows that an
action changes, or that a row it adds refers to, are then locked in `ORDER`, within one table by primary key. A lock out of order raises
`LockedOutOfOrder`, so that a test finds it and not a busy evening. Foreign keys lock their parents too, but late and in no order: nothing relies on that.
"""

from __future__ import annotations

from collections.abc import Hashable
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Any, TypeVar

from django.db import models
from django.http import Http404

from .models import House

ORDER = (
    "team.House",
    "team.HouseGroup",
    "specs.Spec",
    "batches.Run",
    "citrus.CutPlan",
    "citrus.Case",
    "planning.PlacedOrder",
    "stores.StockItem",
    "batches.Lot",
    "batches.Container",
    "tasting.Panel",
    "tasting.Standard",
    "team.Series",
)
"""Tables in the order in which their rows are locked."""
M = TypeVar("M", bound=models.Model)


class LockedOutOfOrder(RuntimeError):
    """Raised if an action locks rows out of `ORDER`: two such actions could wait for each other for ever. A fault of the code, never of a request."""

    def __init__(self, wanted: str, held: str) -> None:
        super().__init__(f"{wanted} is locked after {held}: lock it before, in the order of ulsek.team.locks.ORDER")


@dataclass
class Locks:
    """The locks of the current action: primary keys by table, each with whether it is locked alone."""

    held: dict[str, dict[Hashable, bool]] = field(default_factory=dict)

    def check(self, label: str, keys: list[Any], *, shared: bool) -> list[Any]:
        """Returns those of `keys` that must still be locked. Raises LockedOutOfOrder if that would come too late."""
        mine = self.held.get(label, {})
        wanted = [key for key in keys if not (key in mine and (shared or mine[key]))]
        if not wanted:
            return []
        later = next((other for other in ORDER[ORDER.index(label) + 1 :] if self.held.get(other)), None)
        if later is not None:
            raise LockedOutOfOrder(label, later)
        if mine and wanted[0] <= max(mine):  # type: ignore[type-var]
            raise LockedOutOfOrder(f"{label} {wanted[0]}", f"{label} {max(mine)}")  # type: ignore[type-var]
        self.held.setdefault(label, {}).update(dict.fromkeys(wanted, not shared))
        return wanted


under_way: ContextVar[Locks | None] = ContextVar("locks of the action under way", default=None)


def locked(rows: models.QuerySet[M], *, shared: bool = False) -> list[M]:
    """Returns the rows as they are now, by primary key, locked until the action ends: alone, or `shared`.

    Rows without joins; read what belongs to them afterwards. Raises LockedOutOfOrder, and RuntimeError outside an action.
    """
    locks = _locks()
    label = rows.model._meta.label
    # The keys are read first: a lock taken by way of another index would be taken in that index's order.
    keys = sorted(set(rows.order_by().values_list("pk", flat=True)))
    if not keys:
        return []
    locks.check(label, keys, shared=shared)
    return _fetched(rows.model._base_manager.filter(pk__in=keys).order_by("pk"), shared=shared)


def _locks() -> Locks:
    found = under_way.get()
    if found is None:
        raise RuntimeError("rows are locked inside an action only: see ulsek.team.action")
    return found


def _fetched(wanted: models.QuerySet[M], *, shared: bool) -> list[M]:
    if not shared:
        return list(wanted.select_for_update())
    # Django's own queries know no shared lock.
    query, values = wanted.query.sql_with_params()
    return list(wanted.model._base_manager.raw(f"{query} LOCK IN SHARE MODE", values))


def locked_or_404(rows: models.QuerySet[M]) -> M:
    """Returns the one row of a query by its primary key, locked alone. Raises Http404 if there is none, and LockedOutOfOrder."""
    found = rows.select_for_update().first()
    if found is None:
        raise Http404
    # One row has no order of its own to keep: whether it came in its turn is seen afterwards, which spares a query.
    _locks().check(rows.model._meta.label, [found.pk], shared=False)
    return found


def added(row: models.Model) -> None:
    """Notes that the current action added this row: nobody else can reach it, so it counts as locked alone."""
    locks = under_way.get()
    if locks is not None:
        locks.held.setdefault(row._meta.label, {})[row.pk] = True


def lock_house(house: House, *, shared: bool) -> House:
    """Returns the house as it is now. The first lock of every action; waits while another action has it alone."""
    _locks().check(House._meta.label, [house.pk], shared=shared)
    return _fetched(House.objects.filter(pk=house.pk), shared=shared)[0]


def holds_house(house: House, *, shared: bool) -> bool:
    """Returns True if the current action holds the lock on its house already, at least as strongly as asked."""
    held = _locks().held.get(House._meta.label, {})
    return house.pk in held and (shared or held[house.pk])
