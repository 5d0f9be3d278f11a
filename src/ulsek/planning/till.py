"""A till's file as the house reads it: its text, its format, and the drinks that its product names stand for."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import cast
from uuid import UUID

from ulsek.computing import in_time
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.core.planning.till import DateOrder, TillTable, read_till, till_columns
from ulsek.specs.models import Spec
from ulsek.team.models import House

from .models import TillFormat, TillName
from .till_schemas import TillDrink, TillNameOut, TillRead

MOST_BYTES = 16_000_000
"""Largest file of a till [B]."""
_SAID = ("columns", "order")
"""Where a refusal asks for the format of a file, instead of refusing the file."""


@dataclass(frozen=True, slots=True)
class TillFile:
    """A file of a till as text, with the meanings of its columns and the order of its dates; both may be empty."""

    text: str
    meanings: tuple[str, ...]
    order: DateOrder

    def table(self, house: House) -> TillTable:
        """Returns the sales in the file. Raises Refusal as `read_till` does."""
        return in_time(read_till, self.text, meanings=self.meanings, order=self.order, turns=house.day_turns)


def till_file(house: House, data: bytes, meanings: Sequence[str], order: DateOrder) -> TillFile:
    """Returns a file of a till. Without `meanings` the format of an earlier file with the same headings is used. Raises Refusal at `file` for a file that is too large or no text."""
    if len(data) > MOST_BYTES:
        raise Refusal(
            message("The file is too large"), "file", message("at most 16 MB"), message("Take it in parts, a month at a time"), "too_long"
        )
    text = _text(data)
    known = TillFormat.objects.filter(house=house).first()
    if known is not None and not meanings and [one.head for one in till_columns(text)] == known.heads:
        meanings, order = known.meanings, order or cast(DateOrder, known.order)
    return TillFile(text, tuple(meanings), order)


def _text(data: bytes) -> str:
    for encoding in ("utf-8-sig", "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise Refusal(message("The file is no text"), "file", remedy=message("Export it as CSV"), code="unreadable")


def drinks_of(house: House) -> dict[str, Spec]:
    """Returns the published drinks of a house by their normalised names."""
    return {plain(spec.name): spec for spec in Spec.objects.filter(house=house, family="drink", newest__isnull=False).order_by("name")}


def meant(house: House, names: Sequence[str]) -> dict[str, UUID | None]:
    """Returns the drink that each product name stands for: as it was assigned, otherwise the drink of that name; None for a name assigned to no drink. Other names are omitted."""
    said = {row.plain: row.spec_id for row in TillName.objects.filter(house=house)}
    drinks = drinks_of(house)
    found: dict[str, UUID | None] = {}
    for name in names:
        key = plain(name)
        if key in said:
            found[name] = said[key]
        elif key in drinks:
            found[name] = drinks[key].pk
    return found


def till_read(house: House, file: TillFile) -> TillRead:
    """Returns the content of a file with the drinks that its names stand for, or what must be said of its format first. Raises Refusal for a file that cannot be read."""
    drinks = tuple(TillDrink(spec=spec.pk, name=spec.name) for spec in drinks_of(house).values())
    try:
        table = file.table(house)
    except Refusal as refusal:
        if refusal.where not in _SAID:
            raise
        columns = till_columns(file.text, file.meanings)
        return TillRead(
            columns=columns, order=file.order, needs=refusal.what, where=refusal.where, first=None, last=None, rows=0, unread=0, problems=(),
            names=(), drinks=drinks,
        )  # fmt: skip
    counts: dict[str, float] = defaultdict(float)
    for one in table.sold:
        counts[one.product] += one.count
    known = meant(house, list(counts))
    names = [
        TillNameOut(name=name, count=count, spec=known.get(name), is_known=name in known)
        for name, count in sorted(counts.items(), key=lambda item: (item[0] in known, -item[1], item[0]))
    ]
    return TillRead(
        columns=table.columns,
        order=table.order,
        needs=None,
        where="",
        first=table.sold[0].day,
        last=table.sold[-1].day,
        rows=table.rows,
        unread=table.unread,
        problems=table.problems,
        names=tuple(names),
        drinks=drinks,
    )
