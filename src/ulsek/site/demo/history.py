"""The past six weeks of the demo house, stored through the actions with a fixed random seed."""

from __future__ import annotations

import json
import random
from collections.abc import Callable, Iterator, Mapping
from datetime import datetime, timedelta
from functools import partial
from typing import Any

from ulsek.batches.folding import events_of, folded
from ulsek.batches.models import Lot, Run
from ulsek.core.results.quiz import questions
from ulsek.specs.actions.branch_spec import branch_trial, start_variant
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.read_version import Verdict, acknowledge, answer_questions, hand_out, score_version
from ulsek.specs.actions.save_draft import save_draft
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.actions.withdraw_version import withdraw_version
from ulsek.specs.models import Spec, Version
from ulsek.specs.queries import version_evaluated
from ulsek.team.access import Member
from ulsek.team.models import House, Membership, Person, Role

from .citrus import CitrusHistory
from .setting import DEMO, Happened, Setting
from .tasting import PanelHistory

SEED = 1713
_OPENED_DAYS_AGO = 42


class History:
    """Everything that happened in the demo house before today. No moment depends on the time of day of `Setting.now`."""

    def __init__(self, setting: Setting) -> None:
        self.setting = setting
        self.chance = random.Random(SEED)  # noqa: S311  scatter of demo readings, no secret
        self.specs: dict[str, Spec] = {}
        self.runs = 0

    def play(self) -> None:
        """Stores both houses and their people, then their events in order of time. Raises Refusal if the demo's data break a rule."""
        data = self.setting.data
        house = House.objects.create(**data["house"])
        for item in data["people"]:
            person = Person.objects.create(
                username=item["name"], display_name=item["display_name"], date_joined=self.setting.on_day(_OPENED_DAYS_AGO + 1, 6)
            )
            Membership.objects.create(house=house, person=person, role=item["role"])
        self._neighbour()
        for when, happens in sorted(self._moments(), key=lambda moment: moment[0]):
            happens(when)

    def _moments(self) -> Iterator[tuple[datetime, Callable[[datetime], None]]]:
        """Yields deliveries, specs and batches of the past weeks, so that each uses what was in stock on its day."""
        data, on_day = self.setting.data, self.setting.on_day
        for key, why in data["whys"].items():
            yield on_day(_OPENED_DAYS_AGO, 10), partial(self._publish, key, why)
        kinds: tuple[tuple[str, float, Callable[[Mapping[str, Any], datetime], None]], ...] = (
            ("deliveries", 7, self.setting.deliver),
            ("changes", 15, self._change),
            ("variants", 15, self._variant),
            ("trials", 15, self._trial),
            ("scores", 16, self._score),
            ("withdrawn", 16, self._withdraw),
            ("copies", 16, self._hand_out),
        )
        for name, hour, happens in kinds:
            for item in data[name]:
                if item["days_ago"] > 0:
                    yield on_day(item["days_ago"], hour), partial(happens, item)
        for item in data["history"]:
            for days in item["days_ago"]:
                yield on_day(days, self.chance.uniform(11, 14)), partial(self._past_run, item["spec"])
        yield from CitrusHistory(self.setting).moments()
        yield from PanelHistory(self.setting).moments()

    def _publish(self, key: str, why: str, when: datetime) -> None:
        lead = self.setting.members["ilse"]
        body = json.loads((DEMO / "specs" / f"{key}.json").read_text(encoding="utf-8"))
        self.specs[key] = start_spec(lead, NewSpec(body["name"], body["family"]), body, at=when)
        self._learned(publish_spec(lead, self.specs[key].pk, 1, why, at=when), when)

    def _learned(self, version: Version, when: datetime) -> None:
        """Lets both makers answer the questions of a version and read it, so that the past batches could be made."""
        right = {item.id: item.right for item in questions(version_evaluated(version))}
        for name in ("jonas", "noor"):
            maker = self.setting.members[name]
            answer_questions(maker, version, right, at=when)
            if version.critical:
                acknowledge(maker, version, at=when)

    def _bent(self, spec: Spec, item: Mapping[str, Any], when: datetime) -> None:
        """Publishes the next version, with the figures of `item` set in the draft."""
        lead, draft = self.setting.members["ilse"], spec.draft
        body = draft.body
        for *path, name, value in item["set"]:
            place: Any = body
            for part in path:
                place = (
                    next(inner for inner in place if inner["id"] == part)
                    if isinstance(place, list) and isinstance(part, str)
                    else place[part]
                )
            place[name] = value
        save_draft(lead, spec.pk, body, draft.revision, at=when)
        version = publish_spec(lead, spec.pk, draft.revision + 1, item["why"], at=when, critical=item.get("critical", False))
        self._learned(version, when)

    def _change(self, item: Mapping[str, Any], when: datetime) -> None:
        self._bent(Spec.objects.get(pk=self.specs[item["spec"]].pk), item, when)

    def _variant(self, item: Mapping[str, Any], when: datetime) -> None:
        base = Spec.objects.get(pk=self.specs[item["base"]].pk)
        self._bent(start_variant(self.setting.members["ilse"], base, item["name"], at=when), item, when)

    def _version(self, item: Mapping[str, Any]) -> Version:
        return Version.objects.select_related("spec__house").get(spec=self.specs[item["spec"]], number=item["version"])

    def _trial(self, item: Mapping[str, Any], when: datetime) -> None:
        trial = branch_trial(self.setting.members["ilse"], self._version(item), item["name"], at=when)
        self.specs[item["name"]] = trial
        self._bent(trial, item, when)

    def _score(self, item: Mapping[str, Any], when: datetime) -> None:
        verdict = Verdict(item["score"], item["taster"], item["reference"], item["note"])
        score_version(self.setting.members["ilse"], self._version(item), verdict, at=when)

    def _withdraw(self, item: Mapping[str, Any], when: datetime) -> None:
        withdraw_version(self.setting.members["ilse"], self._version(item), item["why"], at=when)

    def _hand_out(self, item: Mapping[str, Any], when: datetime) -> None:
        hand_out(self.setting.members["ilse"], self._version(item), item["to"], at=when)

    def _neighbour(self) -> None:
        """Makes a second house, so that scoping can be seen."""
        data = self.setting.data
        house = House.objects.create(**data["neighbour"])
        lead = data["neighbour_lead"]
        person = Person.objects.create(
            username=lead["name"], display_name=lead["display_name"], date_joined=self.setting.on_day(_OPENED_DAYS_AGO + 1, 6)
        )
        Membership.objects.create(house=house, person=person, role=Role.LEAD)
        start_spec(Member(person, house, Role.LEAD), NewSpec("Lantern syrup", "syrup"), at=self.setting.on_day(3, 12))

    def _past_run(self, key: str, at: datetime) -> None:
        self.runs += 1
        by = self.chance.choice(["jonas", "noor"])
        run = self.setting.begin(f"{key} {self.runs}", self.specs[key], by, at, None)
        state = folded(run, events_of(run))
        at = self._steps(by, run, len(state.spec.steps) - 1, at)
        state = folded(run, events_of(run))
        place = state.place
        if place is not None and state.spec.goals:
            predicted = state.evaluation.figures[place]
            at += timedelta(minutes=4)
            read = {"property": "brix_reading", "value": round(predicted["brix_reading"] + self.chance.gauss(0, 0.15), 1)}
            self.setting.send(by, run, [("read", at, read)])
        state = self.setting.send(by, run, [("step_done", at + timedelta(minutes=6), {"step": state.spec.steps[-1].id})])
        last = state.evaluation.last
        volume = state.evaluation.figures[last]["volume_ml"] if last is not None else 0.0
        poured = round(volume * self.chance.uniform(0.965, 0.99) / 10) * 10
        place_name = self.chance.choice(["cold room, shelf 2", "bar fridge", "cold room, shelf 3"])
        finished = {"volume_ml": float(poured), "signed": True, "place": place_name}
        self.setting.send(by, run, [("finished", at + timedelta(minutes=8), finished)])
        Lot.objects.filter(run=run).update(left=round(poured * self.chance.uniform(0.15, 0.9) / 10) * 10)

    def _steps(self, by: str, run: Run, count: int, at: datetime) -> datetime:
        """Records the first `count` steps of a run, with masses that scatter by 0.4 % (standard deviation), and returns the moment of the last."""
        state = folded(run, events_of(run))
        for step in state.spec.steps[:count]:
            at += timedelta(minutes=3)
            happened: list[Happened] = [("step_begun", at, {"step": step.id})]
            for line in step.lines:
                planned = state.evaluation.flow.masses[line.id]
                scatter = self.chance.gauss(0, 0.004)
                at += timedelta(minutes=2)
                happened.append(("weighed", at, {"line": line.id, "mass_g": round(max(0.1, planned * (1 + scatter)), 1)}))
            at += timedelta(minutes=getattr(step, "minutes", 1.0))
            state = self.setting.send(by, run, [*happened, ("step_done", at, {"step": step.id})])
        return at
