"""Write, rename and drop entries of the house's register. A place or a supplier that gets another name takes along what stands or came there."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.shortcuts import get_object_or_404

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.register import RegisterEntry, read_entry
from ulsek.stores.models import StockItem
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import House, RegisterRow

from ..models import Lot

MOST_ENTRIES = 300
"""Entries of a register [count]."""


@action(whole_house=True)
def keep_entry(member: Member, kind: str, name: str, figures: Mapping[str, Any], note: str = "", *, key: UUID | None = None) -> RegisterRow:
    """Returns a new entry, or that of `key` with its new name, figures and note; its kind stays.

    Raises Refusal for an entry that cannot be (`read_entry`), a name that another of its kind has, and more than 300 entries; Http404 for an unknown `key`.
    """
    house = member.house
    row = get_object_or_404(RegisterRow, pk=key, house=house) if key else RegisterRow(house=house)
    entry = read_entry(row.kind if key else kind, name, figures, note)
    same = RegisterRow.objects.filter(house=house, kind=entry.kind)
    if same.filter(name=entry.name).exclude(pk=row.pk).exists():
        raise Refusal(message("“{name}” is there already", name=entry.name), "name", remedy=message("Choose another name"), code="twice")
    if not key and RegisterRow.objects.filter(house=house).count() >= MOST_ENTRIES:
        raise Refusal(message("The register is full"), "name", message("at most {most}", most=MOST_ENTRIES), code="too_long")
    moved = _renamed(house, row.name, entry) if key and row.name != entry.name else 0
    row.kind, row.name, row.figures, row.note = entry.kind, entry.name, dict(entry.figures), entry.note
    row.save(force_insert=not key)
    member.wrote("keep_entry", row.name, kind=row.kind, figures=row.figures, moved=moved)
    return row


def _renamed(house: House, before: str, entry: RegisterEntry) -> int:
    """Gives what bears the old name of a place or supplier the new one, and returns how many rows that were."""
    if entry.kind == "place":
        stands = Lot.objects.filter(house=house, place=before).update(place=entry.name)
        return stands + StockItem.objects.filter(house=house, place=before).update(place=entry.name)
    if entry.kind == "supplier":
        return StockItem.objects.filter(house=house, supplier=before).update(supplier=entry.name)
    return 0


@action(whole_house=True)
def drop_entry(member: Member, key: UUID) -> None:
    """Drops an entry. What stands in a place, or came from a supplier, keeps its name. Raises Http404 for an unknown one."""
    row = get_object_or_404(RegisterRow, pk=key, house=member.house)
    row.delete()
    member.wrote("drop_entry", row.name, kind=row.kind)
