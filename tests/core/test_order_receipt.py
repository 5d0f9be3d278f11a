"""At the door: what is said of an order that came short, over, dearer or not at all, and how long a late one is counted on."""

from decimal import Decimal

import pytest

from tests.core.test_planning import plain
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.order_receipt import OrderedLine, ReceivedLine, discrepancies
from ulsek.core.planning.ordering import expected_arrival_min

FOUR = OrderedLine("Gooseberry juice", 4, Decimal("8.70"))


@pytest.mark.parametrize(
    ("came", "said"),
    [
        (ReceivedLine(4, Decimal("8.70")), []),
        (ReceivedLine(4, None), []),
        (ReceivedLine(2, Decimal("8.70")), ["Gooseberry juice: 2 of 4 came"]),
        (ReceivedLine(3, Decimal("9.10")), ["Gooseberry juice: 3 of 4 came", "Gooseberry juice: 9.10 a pack instead of 8.70"]),
        (ReceivedLine(5, Decimal("8.70")), ["Gooseberry juice: 1 pack more than ordered"]),
        (ReceivedLine(6, Decimal("8.70")), ["Gooseberry juice: 2 packs more than ordered"]),
        (ReceivedLine(1, Decimal("8.70"), "mouldy"), ["Gooseberry juice: 1 of 4 taken, the rest refused: mouldy"]),
        # Of what was refused whole no price counts.
        (ReceivedLine(0, Decimal("9.10")), ["Gooseberry juice: 0 of 4 came"]),
    ],
)
def test_what_is_not_as_it_was_ordered_is_said(came, said):
    came.check("lines/0")
    assert [plain(one) for one in discrepancies(FOUR, came)] == said


def test_what_cannot_come_is_refused_at_its_line():
    for wrong, where in (
        (ReceivedLine(-1, None), "packs"),
        (ReceivedLine(1001, None), "packs"),
        (ReceivedLine(1, Decimal(-1)), "price"),
        (ReceivedLine(1, Decimal("NaN")), "price"),
        # Stored to a cent, it would be rounded in silence.
        (ReceivedLine(1, Decimal("8.705")), "price"),
    ):
        with pytest.raises(Refusal) as refused:
            wrong.check("lines/3")
        assert refused.value.where == f"lines/3/{where}"


def test_a_late_order_is_counted_on_for_a_day_and_no_longer():
    assert [expected_arrival_min(at) for at in (90.0, 0.0, -60.0, -1440.0, -1441.0)] == [90.0, 0.0, 0.0, 0.0, None]
