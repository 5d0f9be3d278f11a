"""Citrus of the demo house: weeks of cases with natural scatter, cut and recorded, the newest of them dry."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator, Mapping
from datetime import datetime, timedelta
from decimal import Decimal
from functools import partial
from typing import Any

from ulsek.citrus.actions.keep_trial import keep_trial, weigh_packed_peel
from ulsek.citrus.actions.measure_fruit import measure_fruit
from ulsek.citrus.actions.plan_cuts import Gave, carry_out, save_plan
from ulsek.citrus.actions.receive_case import NewCase, receive_case
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.yields import FruitMeasurement

from .setting import Setting

_SEED = 404


class CitrusHistory:
    """The citrus of the demo house as moments, to be merged with everything else by time."""

    def __init__(self, setting: Setting) -> None:
        self.setting, self.members, self.data = setting, setting.members, setting.data["citrus"]
        self.chance = random.Random(_SEED)  # noqa: S311  scatter of demo fruit, no secret

    def moments(self) -> Iterator[tuple[datetime, Callable[[datetime], None]]]:
        """Yields what happened on earlier days."""
        for name, hour, happens in (("cases", 7, self._case), ("trials", 15, self._trial), ("packed", 14, self._packed)):
            for item in self.data[name]:
                if item["days_ago"] > 0:
                    yield self.setting.on_day(item["days_ago"], hour), partial(happens, item)

    def today(self) -> None:
        """Takes in the cases that came this morning."""
        for item in self.data["cases"]:
            if item["days_ago"] == 0:
                self._case(item, self.setting.this_morning())

    def _case(self, item: Mapping[str, Any], when: datetime) -> None:
        of = variety(item["fruit"])
        weight = round(item["count"] * of.piece_g.value * self.chance.uniform(0.93, 1.07))
        came = NewCase(
            supplier=item["supplier"], size=item["size"], count=item["count"], weight_g=float(weight), price=Decimal(item["price"])
        )
        case = receive_case(self.members["jonas"], of.key, came, at=when)
        share = item["share"]
        if item.get("measured", True):
            juice = 10 * case.fruit_g * share / of.density * self.chance.uniform(0.97, 1.03)
            measure_fruit(self.members["jonas"], case, FruitMeasurement(10, juice_ml=float(round(juice))), at=when + timedelta(minutes=30))
        if not item["cut"]:
            return
        begun = when + timedelta(hours=1)
        wants = [
            {"what": "juice", "fruits": [of.key], "amount": item["juice_ml"], "by": (begun + timedelta(hours=3)).isoformat()},
            {"what": "zest", "fruits": [of.key], "amount": item["zest_g"], "by": (begun + timedelta(hours=3)).isoformat()},
        ]
        plan = save_plan(self.members["ilse"], f"{of.name}, weekly cut", [{"case": str(case.pk)}], wants, at=begun)
        for row in plan.answer["cuts"]:
            count = row["count"]
            gives = row["gives"]
            skin = gives.get("zest", 0.0) * self.chance.uniform(0.94, 1.05)
            juice = count * case.fruit_g * share / of.density * self.chance.uniform(0.95, 1.02) if "juice" in gives else 0.0
            gave = Gave(count, float(round(juice)), float(round(skin, 1)))
            carry_out(self.members["noor"], plan, row["row"], gave, at=begun + timedelta(hours=2))
        case.refresh_from_db()
        case.left, case.gone_at = 0, begun + timedelta(days=5)
        case.save(update_fields=["left", "gone_at"])

    def _trial(self, item: Mapping[str, Any], when: datetime) -> None:
        keep_trial(self.members["noor"], item["fruit"], item["first"], item["second"], [(a, b) for a, b in item["pairs"]], at=when)

    def _packed(self, item: Mapping[str, Any], when: datetime) -> None:
        weigh_packed_peel(self.members["noor"], item["fruit"], item["ml"], item["grams"], at=when)
