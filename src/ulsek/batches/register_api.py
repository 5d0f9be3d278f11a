"""The register of a house over HTTP: scales, pots, jiggers, droppers, places, suppliers, sizes of labels."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from uuid import UUID

from django.db.models import Count
from django.http import HttpRequest
from ninja import Query, Router, Status
from pydantic import Field

from ulsek.core.base.register import KINDS, RegisterKind
from ulsek.core.base.vocabulary import plain
from ulsek.stores.models import StockItem
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of
from ulsek.team.models import House, RegisterRow
from ulsek.team.schema import Schema

from .actions.keep_register import drop_entry, keep_entry
from .models import Lot

router = Router(tags=["register"])


@dataclass(frozen=True, slots=True, kw_only=True)
class RegisterOut:
    """An entry of the register; `holds` is how many bottles stand in a place, or deliveries came from a supplier."""

    id: UUID
    kind: str
    name: str
    figures: Mapping[str, float]
    note: str
    holds: int


class RegisterQuery(ListQuery):
    """A filter of the list of entries: `kind` is the key of one kind; empty for every kind."""

    kind: str = ""


class RegisterIn(Schema):
    """A request to store an entry: `figures` by key, each in the unit that its kind gives it; None for one that is not known."""

    kind: str
    name: str
    figures: dict[str, float | None] = Field(default_factory=dict)
    note: str = ""


def _held(house: House) -> Mapping[tuple[str, str], int]:
    """Returns how many bottles and open deliveries stand in each place, and how many open deliveries came from each supplier, by kind and plain name."""
    # The database counts names that differ in case or accents alone as one.
    lots = Lot.objects.filter(house=house, gone_at=None).order_by().values_list("place").annotate(n=Count("pk"))
    open_stock = StockItem.objects.filter(house=house, gone_at=None).order_by()
    stands = open_stock.exclude(place="").values_list("place").annotate(n=Count("pk"))
    came = open_stock.values_list("supplier").annotate(n=Count("pk"))
    places = Counter({plain(name): n for name, n in lots}) + Counter({plain(name): n for name, n in stands})
    return {("place", name): n for name, n in places.items()} | {("supplier", plain(name)): n for name, n in came}


def _row(row: RegisterRow, held: Mapping[tuple[str, str], int]) -> RegisterOut:
    return RegisterOut(
        id=row.pk, kind=row.kind, name=row.name, figures=row.figures, note=row.note, holds=held.get((row.kind, plain(row.name)), 0)
    )


@router.get("/register/kinds", response=answers(tuple[RegisterKind, ...]))
def kinds(request: HttpRequest) -> list[RegisterKind]:
    """The kinds of entries, each with its figures and what it changes."""
    member_of(request)
    return list(KINDS.values())


@router.get("/register", response=answers(Slice[RegisterOut]))
def entries(request: HttpRequest, asked: Query[RegisterQuery]) -> Slice[RegisterOut]:
    """Returns the entries of the house's register that match the filter, ordered by kind, then name."""
    house = member_of(request).house
    found = RegisterRow.objects.filter(holding(asked.find, "name", "note"), house=house)
    if asked.kind:
        found = found.filter(kind=asked.kind)
    held = _held(house)
    return slice_of(found, ("kind", "name", "pk"), asked).each(lambda row: _row(row, held))


@router.post("/register", response={201: answers(RegisterOut)})
def write(request: HttpRequest, payload: RegisterIn) -> Status[RegisterOut]:
    """Writes an entry into the register."""
    member = member_of(request)
    row = keep_entry(member, payload.kind, payload.name, payload.figures, payload.note)
    return Status(201, _row(row, _held(member.house)))


@router.put("/register/{entry_id}", response=answers(RegisterOut))
def change(request: HttpRequest, entry_id: UUID, payload: RegisterIn) -> RegisterOut:
    """Gives an entry another name, figures or note; what bears the name of a place or supplier gets the new one."""
    member = member_of(request)
    row = keep_entry(member, payload.kind, payload.name, payload.figures, payload.note, key=entry_id)
    return _row(row, _held(member.house))


@router.delete("/register/{entry_id}", response={204: None})
def drop(request: HttpRequest, entry_id: UUID) -> Status[None]:
    """Drops an entry."""
    drop_entry(member_of(request), entry_id)
    return Status(204, None)
