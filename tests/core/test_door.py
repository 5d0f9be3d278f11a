"""At the door: what is said of an order that came short, over, dearer or not at all, and how long a late one is counted on."""

from decimal import Decimal

import pytest

from tests.core.test_planning import plain
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.door import Came, Ordered, checked_came, checked_order, differences
from ulsek.core.planning.ordering import expected_arrival_min

FOUR = Ordered("Gooseberry juice", 4, Decimal("8.70"))


@pytest.mark.parametrize(
    ("came", "said"),
    [
        (Came(4, Decimal("8.70")), []),
        (Came(4, None), []),
        (Came(2, Decimal("8.70")), ["Gooseberry juice: 2 of 4 came"]),
        (Came(3, Decimal("9.10")), ["Gooseberry juice: 3 of 4 came", "Gooseberry juice: 9.10 a pack instead of 8.70"]),
        (Came(5, Decimal("8.70")), ["Gooseberry juice: 1 pack more than ordered"]),
        (Came(6, Decimal("8.70")), ["Gooseberry juice: 2 packs more than ordered"]),
        (Came(1, Decimal("8.70"), "mouldy"), ["Gooseberry juice: 1 of 4 taken, the rest refused: mouldy"]),
        # Of what was refused whole no price counts.
        (Came(0, Decimal("9.10")), ["Gooseberry juice: 0 of 4 came"]),
    ],
)
def test_what_is_not_as_it_was_ordered_is_said(came, said):
    assert [plain(one) for one in differences(FOUR, checked_came(came, "lines/0"))] == said


def test_what_cannot_come_is_refused_at_its_line():
    for wrong, where in (
        (Came(-1, None), "packs"),
        (Came(1001, None), "packs"),
        (Came(1, Decimal(-1)), "price"),
        (Came(1, Decimal("NaN")), "price"),
    ):
        with pytest.raises(Refusal) as refused:
            checked_came(wrong, "lines/3")
        assert refused.value.where == f"lines/3/{where}"
    with pytest.raises(Refusal):
        checked_order(0, "packs/juice")
    assert checked_order(1, "packs/juice") == 1


def test_a_late_order_is_counted_on_for_a_day_and_no_longer():
    assert [expected_arrival_min(at) for at in (90.0, 0.0, -60.0, -1440.0, -1441.0)] == [90.0, 0.0, 0.0, 0.0, None]
