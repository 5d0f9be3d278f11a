"""Receipt of an order: what was received of each line, and how it differs from what was ordered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from ..base.messages import Message, counted, message
from ..materials.delivery import check_count, check_price


@dataclass(frozen=True, slots=True)
class OrderedLine:
    """A line of an order: name of the product, packs [count] and price of one [currency; None if unknown]."""

    name: str
    packs: int
    price: Decimal | None


@dataclass(frozen=True, slots=True)
class ReceivedLine:
    """What was received of a line: packs [count], price of one [currency; None if unknown], and why the other packs were refused (empty: they did not come)."""

    packs: int
    price: Decimal | None
    refused: str = ""

    def check(self, where: str) -> None:
        """Raises Refusal below `where` for packs outside 0 to 1000, and for a price below 0, over a million or finer than 0.01."""
        check_count(self.packs, 0, f"{where}/packs")
        check_price(self.price, f"{where}/price")


def discrepancies(ordered: OrderedLine, received: ReceivedLine) -> Iterator[Message]:
    """Yields one message for each discrepancy between an ordered and a received line: fewer packs, more packs, another price. Source: definition."""
    short = ordered.packs - received.packs
    if received.refused:
        yield message(
            "{name}: {came} of {packs} taken, the rest refused: {why}",
            name=ordered.name,
            came=received.packs,
            packs=ordered.packs,
            why=received.refused,
        )
    elif short > 0:
        yield message("{name}: {came} of {packs} came", name=ordered.name, came=received.packs, packs=ordered.packs)
    if short < 0:
        yield counted("{name}: {n} pack more than ordered", "{name}: {n} packs more than ordered", -short, name=ordered.name)
    if received.packs and None not in (received.price, ordered.price) and received.price != ordered.price:
        yield message("{name}: {price} a pack instead of {before}", name=ordered.name, price=str(received.price), before=str(ordered.price))
