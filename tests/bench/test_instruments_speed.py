"""From the hand on a simulated scale to the tablet: over the scale's cable, the hub as it is served, and the stream of readings."""

import statistics
import time

import pytest

from tests.instruments import hand, simulated
from tests.site.conftest import place  # noqa: F401  a fixture
from tests.site.test_hub_served import hub, readings, stream  # noqa: F401  a fixture
from ulsek.devices.models import Instrument
from ulsek.devices.tickets import ticket

WEIGHINGS = 60


@pytest.mark.benchmark(group="instruments")
def test_a_reading_reaches_a_tablet(place, hub, benchmark, capsys):  # noqa: F811  the fixtures of those names
    with simulated("scale") as port:
        Instrument.objects.create(house=place.house, name="bench", kind="scale", address=f"socket://127.0.0.1:{port}")
        shown = readings(stream(hub, ticket=ticket(place.members["maker"])))
        next(item for item in shown if item["value"] is not None)

        def pour():
            took = []
            for n in range(1, WEIGHINGS + 1):
                hand(port, f"put {100 * n}")
                began = time.monotonic()
                next(item for item in shown if item["value"] == 100 * n)
                took.append(1000 * (time.monotonic() - began))
            return sorted(took)

        took = benchmark.pedantic(pour, rounds=1)
    with capsys.disabled():
        # The scale itself speaks ten times a second: half of that, on average, is waiting for its next word.
        print(
            f"\nscale to tablet, {WEIGHINGS} weighings: median {statistics.median(took):.0f} ms, p95 {took[int(0.95 * len(took))]:.0f} ms"
        )
