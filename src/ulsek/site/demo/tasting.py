"""Panels and standards of the demo house: four panels that were told in the past weeks, and one that is half tasted today. What tasters answer is drawn with a fixed seed."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Mapping
from datetime import datetime, timedelta
from functools import partial
from typing import Any

from ulsek.batches.models import Lot
from ulsek.core.tasting.answers import Answer
from ulsek.core.tasting.design import LINES, PanelDesign, SheetPage
from ulsek.core.tasting.methods import JUST_RIGHT, METHODS
from ulsek.specs.models import Spec
from ulsek.tasting.actions.answer_page import GivenAnswer, answer_page
from ulsek.tasting.actions.decide import decide
from ulsek.tasting.actions.keep_standard import NewStandard, keep_standard, make_again
from ulsek.tasting.actions.open_panel import open_panel
from ulsek.tasting.actions.plan_panel import PanelPlan, plan_panel
from ulsek.tasting.actions.take_seat import take_seat
from ulsek.tasting.models import Panel, Seat, Standard
from ulsek.tasting.panels import Taster, as_host
from ulsek.tasting.plans import WantedSample
from ulsek.team.models import Person

from .setting import Setting, demo_id

_SEED = 606
_SCATTER, _TASTER = 1.1, 0.6
"""Standard deviations of a drawn score, and of how kindly a taster scores [points]."""


class PanelHistory:
    """The panels of the demo house as moments, to be merged with everything else by time."""

    def __init__(self, setting: Setting) -> None:
        self.setting, self.data = setting, setting.data["panels"]
        # Answers of demo tasters and readings of the demo: no secrets. One more reading changes no answer.
        self.chance, self.readings = random.Random(_SEED), random.Random(_SEED + 1)  # noqa: S311

    def moments(self) -> Iterator[tuple[datetime, Callable[[datetime], None]]]:
        """Yields the panels and the standards of earlier days."""
        for item in self.setting.data["standards"]:
            yield self.setting.on_day(item["days_ago"], 17.0), partial(self._standard, item)
            for days in item.get("made_days_ago", ()):
                yield self.setting.on_day(days, 17.5), partial(self._made_again, item["name"])
        for item in self.data:
            if item["days_ago"] > 0:
                yield self.setting.on_day(item["days_ago"], 16.5), partial(self._panel, item)

    def today(self) -> None:
        """Opens the panel that is half tasted, an hour ago."""
        for item in self.data:
            if item["days_ago"] == 0:
                self._panel(item, self.setting.ago(minutes=40))

    def _panel(self, item: Mapping[str, Any], when: datetime) -> None:
        lead = self.setting.members["ilse"]
        design = PanelDesign(
            item["method"],
            len(item["tasters"]) + item.get("free", 0),
            item.get("rounds", 1),
            item.get("line", LINES[METHODS[item["method"]].aim].usual),
            len(item["samples"]),
            attributes=tuple(item.get("attributes", ())),
        )
        wanted = [self._wanted(sample) for sample in item["samples"]]
        plan = PanelPlan(item["question"], design, wanted, poured_by=self.setting.members["jonas"].person.pk)
        panel = plan_panel(lead, plan, at=when - timedelta(minutes=30))
        panel = open_panel(lead, panel.pk, at=when, seed=demo_id(item["question"]).hex)
        self._answers(panel, item, when)
        if "decision" in item:
            decide(lead, panel.pk, item["decision"], item["why"], at=when + timedelta(minutes=50))

    def _standard(self, item: Mapping[str, Any], when: datetime) -> None:
        of = {"lot": self._lot(item)} if item["kind"] == "frozen" else {"spec": self._spec(item["spec"]), "version": item["version"]}
        new = NewStandard(
            item["kind"],
            item.get("name", ""),
            portions=item.get("portions", 1),
            portion_ml=item["portion_ml"],
            place=item["where"],
            **of,
        )
        keep_standard(self.setting.members["ilse"], new, at=when)

    def _made_again(self, name: str, when: datetime) -> None:
        standard = Standard.objects.get(name=name)
        read = round(standard.readings["brix_reading"] + self.readings.uniform(-0.2, 0.2), 1)
        make_again(self.setting.members["noor"], standard.pk, {"brix_reading": read}, at=when)

    def _lot(self, item: Mapping[str, Any]) -> str:
        lots = Lot.objects.filter(run__version__spec__key=item["lot_of"], what="", gone_at=None).order_by("-made_at")
        place: int = item["place"]
        return lots[place].code

    def _wanted(self, sample: Mapping[str, Any]) -> WantedSample:
        if "spec" in sample:
            return WantedSample("version", spec=self._spec(sample["spec"]), version=sample["version"])
        if "lot_of" in sample:
            return WantedSample("lot", lot=self._lot(sample))
        return WantedSample("bought", **sample)

    def _spec(self, name: str) -> Any:
        return (Spec.objects.filter(key=name).first() or Spec.objects.get(name=name)).pk

    def _answers(self, panel: Panel, item: Mapping[str, Any], when: datetime) -> None:
        host, pages = as_host(panel), panel.pages
        kindness = {name: self.chance.gauss(0.0, _TASTER) for name in item["tasters"]}
        people = {person.display_name: person for person in Person.objects.filter(display_name__in=item["tasters"])}
        seats: list[Seat] = []
        for n, name in enumerate(item["tasters"]):
            seats.append(take_seat(host, panel.pk, Taster(name, people.get(name)), "", when + timedelta(minutes=2, seconds=20 * n)))
        left = item.get("answered", len(pages))
        for turn in range(1, max(page.turn for page in pages) + 1):
            for seat in seats:
                page = next(found for found in pages if (found.seat, found.turn) == (seat.number, turn))
                if left == 0:
                    return
                left -= 1
                at = when + timedelta(minutes=4 + 3 * turn, seconds=17 * seat.number)
                answer = self._answer(item, page, kindness[seat.name])
                answer_page(host, seat.pk, GivenAnswer(f"demo-{panel.code}-{seat.number}-{turn}", turn, answer, at), at)

    def _answer(self, item: Mapping[str, Any], page: SheetPage, kindness: float) -> Answer:
        if page.asks == "odd":
            odd = next(place for place, sample in enumerate(page.samples) if page.samples.count(sample) == 1)
            right = self.chance.random() < item["right"]
            wrong = [code for place, code in enumerate(page.codes) if place != odd]
            return {"code": page.codes[odd] if right else self.chance.choice(wrong)}
        liked = [item["liked"][sample] + self.chance.gauss(0.0, _SCATTER) for sample in page.samples]
        if page.asks == "preferred":
            return {"code": page.codes[liked.index(max(liked))]}
        if page.asks == "ranking":
            return {"order": [code for _, code in sorted(zip(liked, page.codes, strict=True), reverse=True)]}
        if page.asks == "liking":
            return {"score": round(min(10.0, max(1.0, liked[0] + kindness)), 1)}
        off = item["off"][page.samples[0]]
        return {"marks": {key: self._mark(off.get(key, 0.0)) for key in item["attributes"]}}

    def _mark(self, off: float) -> int:
        """Returns a mark on a scale that is just right in its middle, for a sample that is `off` by so many steps."""
        return min(5, max(1, JUST_RIGHT + round(off + self.chance.gauss(0.0, 0.5))))
