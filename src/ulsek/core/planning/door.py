"""At the door: what came of an order beside what was ordered: short, over, at another price, refused."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from ..base.messages import Message, counted, message
from ..base.refusals import Refusal
from ..materials.delivery import MOST_PACKS, MOST_PRICE


@dataclass(frozen=True, slots=True)
class Ordered:
    """A line of an order: so many packs, at so much each [currency; None: nobody knows it]."""

    name: str
    packs: int
    price: Decimal | None


@dataclass(frozen=True, slots=True)
class Came:
    """What was taken of a line: so many packs, at so much each [currency; None: nobody knows it], and why the rest was refused (empty: it did not come)."""

    packs: int
    price: Decimal | None
    refused: str = ""


def checked_order(packs: int, where: str) -> int:
    """Returns the packs [count]. Raises Refusal at `where` unless they are from 1 to 1000."""
    return _checked(packs, 1, where)


def checked_came(came: Came, where: str) -> Came:
    """Returns what came. Raises Refusal below `where` for packs outside 0 to 1000, and for a price below 0 or over a million."""
    _checked(came.packs, 0, f"{where}/packs")
    if came.price is not None and not (came.price.is_finite() and 0 <= came.price <= MOST_PRICE):
        raise Refusal(
            message("{value} cannot be", value=str(came.price)),
            f"{where}/price",
            message("a price is nothing or more"),
            code="out_of_bounds",
        )
    return came


def _checked(packs: int, least: int, where: str) -> int:
    if not least <= packs <= MOST_PACKS:
        raise Refusal(
            message("{packs} packs cannot be", packs=packs),
            where,
            message("from {least} to {most}", least=least, most=MOST_PACKS),
            code="out_of_bounds",
        )
    return packs


def differences(ordered: Ordered, came: Came) -> Iterator[Message]:
    """Yields what is not as it was ordered, in words; nothing for a line that came as ordered. Source: definition."""
    short = ordered.packs - came.packs
    if came.refused:
        yield message(
            "{name}: {came} of {packs} taken, the rest refused: {why}",
            name=ordered.name,
            came=came.packs,
            packs=ordered.packs,
            why=came.refused,
        )
    elif short > 0:
        yield message("{name}: {came} of {packs} came", name=ordered.name, came=came.packs, packs=ordered.packs)
    if short < 0:
        yield counted("{name}: {n} pack more than ordered", "{name}: {n} packs more than ordered", -short, name=ordered.name)
    if came.packs and came.price is not None and ordered.price is not None and came.price != ordered.price:
        yield message("{name}: {price} a pack instead of {before}", name=ordered.name, price=str(came.price), before=str(ordered.price))
