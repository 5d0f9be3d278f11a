"""What a spec file keeps of the text that it was read from: readings that are not settled, and claims."""

from __future__ import annotations

from collections.abc import Iterator

from ..base.ranges import Range
from ..base.refusals import Refusal
from .object_reader import ObjectReader
from .spec import Claim, OpenDoubt


def doubts_in(read: ObjectReader) -> Iterator[OpenDoubt]:
    """Yields the open questions of a spec file; what cannot be read becomes a fault of `read`."""
    for position, item in enumerate(read.items("doubts"), 1):
        at = ObjectReader(item, f"doubts/{position}", read.faults)
        yield OpenDoubt(at.text("at"), at.text("text"), at.text("question"))


def claims_in(read: ObjectReader) -> Iterator[Claim]:
    """Yields the claims of a spec file; what cannot be read becomes a fault of `read`."""
    for position, item in enumerate(read.items("claims"), 1):
        at = ObjectReader(item, f"claims/{position}", read.faults)
        amount = None
        try:
            amount = Range.read(at.data["amount"], f"{at.where}/amount") if at.data.get("amount") is not None else None
        except Refusal as refusal:
            read.faults.append(refusal)
        yield Claim(at.text("kind"), at.text("text"), amount, at.text("unit"))
