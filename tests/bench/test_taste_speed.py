"""Panels: aims 1 s for a verdict of 12 samples by 30 tasters, p95 100 ms for a list of 1,000 panels."""

import copy
import random
import statistics
import time
from uuid import uuid4

from django.utils import timezone

from tests.site.conftest import Place
from ulsek.core.tasting.answers import Answered
from ulsek.core.tasting.design import PanelDesign, pages_of
from ulsek.planners.tasting import warm
from ulsek.planners.tasting.telling import Told, told
from ulsek.tasting.actions.break_seal import break_seal
from ulsek.tasting.actions.open_panel import open_panel
from ulsek.tasting.actions.plan_panel import PanelPlan, plan_panel
from ulsek.tasting.models import Panel
from ulsek.tasting.plans import WantedSample


def test_a_verdict_of_twelve_samples_by_thirty_tasters(benchmark):
    warm()
    chance = random.Random(3)
    design = PanelDesign("scores", 30, 1, 1.0, 12, attributes=("sweet", "tart", "bitter", "body"))
    pages = pages_of(design, "ab" * 16)
    answered = [
        Answered(page, {"score": round(min(10.0, max(1.0, 5.5 + 0.2 * page.samples[0] + chance.gauss(0, 1.3))), 1)})
        if page.asks == "liking"
        else Answered(page, {"marks": {key: chance.randint(1, 5) for key in design.attributes}})
        for page in pages
    ]
    names = [f"sample {n}" for n in range(12)]
    verdict, _ = benchmark(lambda: told(Told(design, names, pages, answered, [])))
    assert "comes first" in str(verdict.headline)


def test_a_list_of_a_thousand_panels(db, benchmark):
    place = Place()
    lead, now = place.members["lead"], timezone.now()
    samples = [WantedSample("bought", name=name) for name in ("market bottle", "harbour bottle")]
    plan = PanelPlan("Which is liked?", PanelDesign("paired", 6, 1, 0.65), samples, poured_by=place.members["maker"].person.pk)
    panel = break_seal(lead, open_panel(lead, plan_panel(lead, plan).pk).pk, "a benchmark")
    rows = []
    for n in range(2, 1001):
        other = copy.copy(panel)
        other.pk, other.code, other.made_at = uuid4(), f"P{n:04d}", now
        rows.append(other)
    Panel.objects.bulk_create(rows)
    api, times = place.apis["lead"], []

    def first_slice():
        began = time.perf_counter()
        assert len(api.get("/panels?state=told").data["items"]) == 50
        times.append(time.perf_counter() - began)

    benchmark.pedantic(first_slice, rounds=40, warmup_rounds=2)
    # The first ones find nothing in the database's memory: rows were added a moment ago.
    first, times = times[:2], times[2:]
    print(f"\n  the first two: {', '.join(f'{1000 * taken:.0f} ms' for taken in first)}")
    print(f"  a list: median {1000 * statistics.median(times):.1f} ms, p95 {1000 * statistics.quantiles(times, n=20)[-1]:.1f} ms")
