"""Sums and cut plans over HTTP: aims p95 100 ms for a sum, 2 s for a plan of 12 wants over 10 cases."""

import random
import statistics
import time
from datetime import UTC, datetime, timedelta
from decimal import Decimal

import pytest

from tests.core.test_sums import CASES
from tests.site.conftest import Place
from ulsek.citrus.actions.receive_case import NewCase, receive_case
from ulsek.planners.cut_plan import warm

FRUITS = ("bergamot", "lemon", "yuzu", "mandarin", "lime_persian")


def p95(times):
    return 1000 * statistics.quantiles(times, n=20)[-1]


@pytest.fixture
def place(db):
    return Place()


def test_every_sum_over_http(place, benchmark):
    api, times = place.apis["reader"], []

    def all_of_them():
        for name, figures, _ in CASES:
            began = time.perf_counter()
            assert api.post(f"/sums/{name}", {"figures": figures}).status_code == 200
            times.append(time.perf_counter() - began)

    benchmark.pedantic(all_of_them, rounds=5, warmup_rounds=1)
    benchmark.extra_info["p95 of one, ms"] = round(p95(times), 1)
    print(f"\n  a sum: median {1000 * statistics.median(times):.1f} ms, p95 {p95(times):.1f} ms")


def test_a_plan_of_twelve_wants_over_ten_cases(place, benchmark):
    # The site loads the solver as it starts.
    warm()
    chance = random.Random(11)
    api = place.apis["maker"]
    cases = [
        receive_case(
            place.members["maker"],
            FRUITS[n % 5],
            NewCase(
                supplier="Calder Citrus Yard",
                count=60 + 20 * n,
                weight_g=float((60 + 20 * n) * chance.uniform(90, 130)),
                price=Decimal(20 + n),
            ),
        )
        for n in range(10)
    ]
    now, times, bodies = datetime.now(UTC), [], []
    for _ in range(8):
        wants = [
            {
                "what": chance.choice(("juice", "juice", "zest", "peel", "stretched", "wheels")),
                "fruits": [chance.choice(FRUITS)],
                "amount": chance.randint(40, 400),
                "by": (now + timedelta(hours=chance.choice((3, 5, 9, 26, 30, 50)))).isoformat(),
            }
            for _ in range(12)
        ]
        bodies.append({"cases": [{"case": str(case.pk)} for case in cases], "wants": wants})

    def every_plan():
        for body in bodies:
            began = time.perf_counter()
            answer = api.post("/citrus/plan", body)
            assert answer.status_code == 200
            times.append(time.perf_counter() - began)

    benchmark.pedantic(every_plan, rounds=2, warmup_rounds=1)
    print(f"\n  a plan: median {1000 * statistics.median(times):.0f} ms, p95 {p95(times):.0f} ms")
