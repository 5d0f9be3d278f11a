"""What the bar pours itself: means of weekdays, when it runs out, and the order that follows until the delivery after the next."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from tests.core.test_planning import situation
from ulsek.core.planning.ordering import to_order
from ulsek.core.planning.poured import Poured, poured_before_g, runs_out_min, weekday_means
from ulsek.core.planning.schedule import schedule
from ulsek.core.planning.situation import Coming, MaterialSupply

MONDAY = date(2026, 11, 2)


def test_a_weekday_has_its_own_mean_and_one_without_days_that_of_all():
    days = {MONDAY + timedelta(days=n): amount for n, amount in ((0, 100.0), (7, 300.0), (4, 800.0))}
    assert weekday_means(days) == (200.0, 400.0, 400.0, 400.0, 800.0, 400.0, 400.0)
    assert weekday_means({}) == (0.0,) * 7


def test_it_lasts_until_the_day_during_which_it_is_used_up():
    opens = (480.0, 1920.0, 3360.0)
    assert poured_before_g((100.0, 200.0, 400.0), opens, 2000.0) == 300.0
    assert [runs_out_min((100.0, 200.0, 400.0), opens, here) for here in (99.0, 100.0, 300.0, 700.0)] == [480.0, 1920.0, 3360.0, None]
    # Opened already: it runs out today.
    assert runs_out_min((100.0,), (-60.0,), 0.0) == -60.0


def asked(here_g, **supply):
    plain = situation()
    gin = MaterialSupply("gin", "Juniper spirit", here_g, "Brandt Stillroom", 360.0, 1440.0, 700.0, "20.00", following_min=2880.0)
    per_day = tuple(500.0 for _ in plain.days)
    poured = {"gin": Poured(per_day, ("Damson long",)), "unknown": Poured(per_day, ("Ice",))}
    return replace(plain, materials={**plain.materials, "gin": replace(gin, **supply)}, poured=poured)


def test_what_the_bar_pours_is_ordered_until_the_delivery_after_the_next():
    # Wednesday 10:00: two evenings before Friday 10:00, 1,000 g.
    whole = asked(300.0)
    (order,) = to_order(whole, schedule(whole))
    (line,) = order.lines
    assert (order.supplier, line.material, line.lacking_g, line.packs, str(line.price)) == ("Brandt Stillroom", "gin", 700.0, 1, "20.00")
    assert (line.wanted_g, line.needed_for) == (1000.0, ("Damson long",))
    assert line.needed_at == whole.at(whole.days[0].opens_min), "what is here does not last through tonight"
    lasting = asked(700.0)
    (order,) = to_order(lasting, schedule(lasting))
    assert order.lines[0].needed_at == lasting.at(lasting.days[1].opens_min)


@pytest.mark.parametrize(
    ("here_g", "supply"),
    [(1000.0, {}), (300.0, {"coming": (Coming(600.0, 700.0),)}), (500.0, {"following_min": None})],
)
def test_nothing_is_ordered_of_what_lasts_or_comes_already(here_g, supply):
    whole = asked(here_g, **supply)
    assert to_order(whole, schedule(whole)) == ()


def test_batches_and_the_bar_want_the_same_material_together():
    plain = situation()
    poured = {"citric": Poured(tuple(300.0 for _ in plain.days), ("Sour",))}
    supply = replace(plain.materials["citric"], following_min=2880.0)
    whole = replace(plain, materials={**plain.materials, "citric": supply}, poured=poured)
    made = schedule(whole)
    taken = sum(claim.mass_g for claim in made.fruit.claims if claim.material == "citric")
    assert taken > 0.0
    (order,) = to_order(whole, made)
    (line,) = order.lines
    # 500 g are here; the batches come first.
    assert line.lacking_g == pytest.approx(600.0 + taken - 500.0)
    assert (line.wanted_g, line.needed_for) == (pytest.approx(600.0 + taken), ("Sour",))
