"""Print the labels of a batch: every bottle of the product, and its by-products."""

from __future__ import annotations

from uuid import UUID

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.operations.finish import bottle_count
from ulsek.devices.label import MOST_LABELS, Label
from ulsek.devices.printing import print_on
from ulsek.team.access import Member

from ..folding import events_of, folded
from ..label import lot_label, waiting_label
from ..models import Run


def labels_of(member: Member, run: Run, each: int | None = None) -> list[Label]:
    """Returns one label for each bottle of the product (or `each` of every lot), and one for each by-product; for a batch that waits, the one for its vessel.
    Raises Refusal for more than the most labels of a print.
    """
    state = folded(run, events_of(run))
    if run.finished_at is None:
        return [waiting_label(member, run, state)] * max(1, each or 1)
    labels: list[Label] = []
    for lot in run.lots.select_related("run__version__withdrawal").filter(split_of=None).order_by("code"):
        count = each or (1 if lot.what else bottle_count(lot.amount, lot.bottle_ml, state.bottle.head_room_percent))
        labels += [lot_label(member, lot)] * count
    if not 0 < len(labels) <= MOST_LABELS:
        raise Refusal(
            message("{n} labels cannot be printed at once", n=len(labels)),
            "each",
            message("from 1 to {most}", most=MOST_LABELS),
            message("Print fewer"),
            "out_of_bounds",
        )
    return labels


def print_labels(member: Member, run: Run, printer: UUID, size: str, each: int | None = None) -> int:
    """Prints the labels and returns how many [count]. Raises Refusal for a device that is no printer, or that stopped."""
    return print_on(member, printer, labels_of(member, run, each), size, what=str(run))
