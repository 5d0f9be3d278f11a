"""Loads the made-up house: people, deliveries, specs, six weeks of batches, lots on the shelf, batches running now.

Everything goes through the same actions as the screens use, at times counted back from `--as-of` (default: now), with a fixed seed.
"""

from __future__ import annotations

import json
import os
import random
from collections.abc import Callable, Iterator, Mapping, Sequence
from datetime import datetime, timedelta
from decimal import Decimal
from functools import partial
from typing import Any
from uuid import UUID, uuid5

from django.conf import settings
from django.contrib.auth.hashers import make_password
from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction
from django.utils import timezone

from ulsek.batches.actions.keep_container import clean_container, keep_container
from ulsek.batches.actions.record_events import record_events
from ulsek.batches.actions.start_run import BatchOrder, start_run
from ulsek.batches.folding import events_of, folded
from ulsek.batches.models import Container, Lot, Run
from ulsek.core.results.quiz import questions
from ulsek.core.run.state import RunState
from ulsek.devices.actions.connect_instrument import connect_instrument
from ulsek.specs.actions.branch_spec import branch_trial, start_variant
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.read_version import Verdict, acknowledge, answer_questions, hand_out, score_version
from ulsek.specs.actions.save_draft import save_draft
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.actions.withdraw_version import withdraw_version
from ulsek.specs.models import Spec, Version
from ulsek.specs.queries import version_evaluated
from ulsek.stores.actions.read_delivery import read_delivery
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.team.access import Member
from ulsek.team.models import House, Membership, Person, Role

from ..demo_citrus import CitrusHistory

SEED = 1713
_SPACE = UUID("6b0c7a2e-6a3c-4c55-9d53-2f1f0f1f7a01")


class Demo:
    """One loading of the demo house."""

    def __init__(self, now: datetime) -> None:
        self.now = now
        self.data = json.loads((settings.ROOT / "demo" / "house.json").read_text(encoding="utf-8"))
        self.chance = random.Random(SEED)  # noqa: S311  scatter of demo readings, no secret
        self.members: dict[str, Member] = {}
        self.specs: dict[str, Spec] = {}
        self.runs = 0

    def ago(self, **parts: float) -> datetime:
        """Returns the moment so long before the moment of the load."""
        return self.now - timedelta(**parts)

    def on_day(self, days_ago: int, hour: float) -> datetime:
        """Returns an hour of the house's own clock so many days ago, so that what keeps three days expires on the same day at whatever hour it is loaded."""
        midnight = self.members["ilse"].local(self.now).replace(hour=0, minute=0, second=0, microsecond=0)
        return midnight - timedelta(days=days_ago) + timedelta(hours=hour)

    def load(self) -> None:
        """Loads the house: people first, then its history in order of time."""
        house = House.objects.create(**self.data["house"])
        for item in self.data["people"]:
            person = Person(username=item["name"], display_name=item["display_name"])
            person.set_password(item["password"])
            person.pin = make_password(item["pin"])
            person.save()
            Membership.objects.create(house=house, person=person, role=item["role"])
            self.members[item["name"]] = Member(person, house, item["role"])
        self._neighbour()
        first = int(os.environ.get("ULSEK_INSTRUMENT_PORT", "9711"))
        for n, item in enumerate(self.data["instruments"]):
            connect_instrument(self.members["ilse"], item["name"], item["kind"], f"socket://127.0.0.1:{first + n}")
        for item in self.data["containers"]:
            keep_container(self.members["jonas"], item["name"], item["tare_g"], item["capacity_ml"])
        citrus = CitrusHistory(self.members, self.now, self.data["citrus"])
        for when, happens in sorted((*self._history(), *citrus.moments()), key=lambda moment: moment[0]):
            happens(when)
        for item in self.data["open"]:
            self._open_run(item)
        self._fill_containers()
        Lot.objects.filter(use_by__lt=self.members["ilse"].local(self.now).date()).update(gone_at=self.now, left=0)

    def _fill_containers(self) -> None:
        """Puts the newest lots into some of the containers; the others were cleaned this week."""
        containers = Container.objects.order_by("name")
        for container, lot in zip(containers[:3], Lot.objects.order_by("-made_at")[:3], strict=True):
            container.holds, container.last_contents, container.last_allergens = lot, lot.name, lot.allergens
            container.save()
        for n, container in enumerate(containers[3:]):
            clean_container(self.members["noor"], container.pk, at=self.ago(days=1 + n))

    def _history(self) -> Iterator[tuple[datetime, Callable[[datetime], None]]]:
        """Yields deliveries, specs and batches of the past weeks, so that each uses what was in stock on its day."""
        for key, why in self.data["whys"].items():
            yield self.ago(days=42), partial(self._publish, key, why)
        for item in self.data["changes"]:
            yield self.ago(days=item["days_ago"]), partial(self._change, item)
        for item in self.data["variants"]:
            yield self.ago(days=item["days_ago"]), partial(self._variant, item)
        for item in self.data["trials"]:
            yield self.ago(days=item["days_ago"]), partial(self._trial, item)
        for item in self.data["scores"]:
            yield self.ago(days=item["days_ago"]), partial(self._score, item)
        for item in self.data["withdrawn"]:
            yield self.ago(days=item["days_ago"]), partial(self._withdraw, item)
        for item in self.data["copies"]:
            yield self.ago(days=item["days_ago"]), partial(self._hand_out, item)
        for item in self.data["deliveries"]:
            yield min(self.ago(days=item["days_ago"], hours=6), self.on_day(item["days_ago"], 7.0)), partial(self._deliver, item)
        for item in self.data["history"]:
            for days in item["days_ago"]:
                yield self.on_day(days, self.chance.uniform(11, 14)), partial(self._past_run, item["spec"])

    def _publish(self, key: str, why: str, when: datetime) -> None:
        body = json.loads((settings.ROOT / "demo" / "specs" / f"{key}.json").read_text(encoding="utf-8"))
        self.specs[key] = start_spec(self.members["ilse"], NewSpec(body["name"], body["family"]), body, at=when)
        self._learned(publish_spec(self.members["ilse"], self.specs[key].pk, 1, why, at=when), when)

    def _learned(self, version: Version, when: datetime) -> None:
        """Lets both makers answer the questions of a version and read it, so that the past batches could be made."""
        right = {item.id: item.right for item in questions(version_evaluated(version))}
        for name in ("jonas", "noor"):
            answer_questions(self.members[name], version, right, at=when)
            if version.critical:
                acknowledge(self.members[name], version, at=when)

    def _bent(self, spec: Spec, item: Mapping[str, Any], when: datetime) -> Version:
        """Publishes the next version, with the figures of `item` set in the draft."""
        draft = spec.draft
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
        save_draft(self.members["ilse"], spec.pk, body, draft.revision)
        version = publish_spec(
            self.members["ilse"], spec.pk, draft.revision + 1, item["why"], at=when, critical=item.get("critical", False)
        )
        self._learned(version, when)
        return version

    def _change(self, item: Mapping[str, Any], when: datetime) -> None:
        self._bent(Spec.objects.get(pk=self.specs[item["spec"]].pk), item, when)

    def _variant(self, item: Mapping[str, Any], when: datetime) -> None:
        base = Spec.objects.get(pk=self.specs[item["base"]].pk)
        self._bent(start_variant(self.members["ilse"], base, item["name"], at=when), item, when)

    def _version(self, item: Mapping[str, Any]) -> Version:
        spec = self.specs[item["spec"]]
        return Version.objects.select_related("spec__house").get(spec=spec, number=item["version"])

    def _trial(self, item: Mapping[str, Any], when: datetime) -> None:
        trial = branch_trial(self.members["ilse"], self._version(item), item["name"], at=when)
        self.specs[item["name"]] = trial
        self._bent(trial, item, when)

    def _score(self, item: Mapping[str, Any], when: datetime) -> None:
        verdict = Verdict(item["score"], item["taster"], item["reference"], item["note"])
        score_version(self.members["ilse"], self._version(item), verdict, at=when)

    def _withdraw(self, item: Mapping[str, Any], when: datetime) -> None:
        withdraw_version(self.members["ilse"], self._version(item), item["why"], at=when)

    def _hand_out(self, item: Mapping[str, Any], when: datetime) -> None:
        hand_out(self.members["ilse"], self._version(item), item["to"], at=when)

    def _neighbour(self) -> None:
        """Makes a second house, so that scoping can be seen."""
        house = House.objects.create(**self.data["neighbour"])
        lead = self.data["neighbour_lead"]
        person = Person(username=lead["name"], display_name=lead["display_name"])
        person.set_password(lead["password"])
        person.save()
        Membership.objects.create(house=house, person=person, role=Role.LEAD)
        start_spec(Member(person, house, Role.LEAD), NewSpec("Lantern syrup", "syrup"), at=self.ago(days=3))

    def _deliver(self, item: Mapping[str, Any], when: datetime) -> None:
        text = {name: item.get(name, "") for name in ("product", "supplier", "form", "colour")}
        delivery = Delivery(price=Decimal(item["price"]), pack_g=Decimal(item["pack_g"]), packs=item["packs"], **text)
        stock = receive_delivery(self.members["jonas"], item["material"], delivery, at=when)
        if item.get("read"):
            read_delivery(self.members["jonas"], stock.pk, item["read"], at=when + timedelta(minutes=20))

    def _begin(self, key: str, by: str, at: datetime, mass_g: float | None) -> Run:
        self.runs += 1
        run_id = uuid5(_SPACE, f"{key} {self.runs}")
        return start_run(self.members[by], run_id, BatchOrder(self.specs[key].pk, mass_g=mass_g), at=at)

    def _send(self, by: str, run: Run, kind: str, at: datetime, **body: Any) -> RunState:
        return self._send_all(by, run, [(kind, at, body)])

    def _send_all(self, by: str, run: Run, happened: Sequence[tuple[str, datetime, Mapping[str, Any]]]) -> RunState:
        """Sends events of a run at once, as a tablet does that was away."""
        first = run.events.count()
        events = [
            {
                "id": str(uuid5(run.pk, str(number))),
                "kind": kind,
                "at": at.isoformat(),
                "lamport": number,
                "device": "demo",
                "sequence": number,
                "body": body,
            }
            for number, (kind, at, body) in enumerate(happened, first)
        ]
        return record_events(self.members[by], run.pk, events, received=happened[-1][1])[1]

    def _steps(self, by: str, run: Run, count: int, at: datetime) -> datetime:
        """Does `count` steps with weights that scatter as a careful hand does, and returns when they were done."""
        state = folded(run, events_of(run))
        for step in state.spec.steps[:count]:
            at += timedelta(minutes=3)
            happened: list[tuple[str, datetime, Mapping[str, Any]]] = [("step_begun", at, {"step": step.id})]
            for line in step.lines:
                planned = state.evaluation.flow.masses[line.id]
                scatter = self.chance.gauss(0, 0.004)
                at += timedelta(minutes=2)
                happened.append(("weighed", at, {"line": line.id, "mass_g": round(max(0.1, planned * (1 + scatter)), 1)}))
            at += timedelta(minutes=getattr(step, "minutes", 1.0))
            state = self._send_all(by, run, [*happened, ("step_done", at, {"step": step.id})])
        return at

    def _past_run(self, key: str, at: datetime) -> None:
        by = self.chance.choice(["jonas", "noor"])
        run = self._begin(key, by, at, None)
        state = folded(run, events_of(run))
        count = len(state.spec.steps)
        at = self._steps(by, run, count - 1, at)
        state = folded(run, events_of(run))
        place = state.place
        if place is not None and state.spec.goals:
            predicted = state.evaluation.figures[place]
            at += timedelta(minutes=4)
            self._send(by, run, "read", at, property="brix_reading", value=round(predicted["brix_reading"] + self.chance.gauss(0, 0.15), 1))
        state = self._send(by, run, "step_done", at + timedelta(minutes=6), step=state.spec.steps[-1].id)
        last = state.evaluation.last
        volume = state.evaluation.figures[last]["volume_ml"] if last is not None else 0.0
        poured = round(volume * self.chance.uniform(0.965, 0.99) / 10) * 10
        self._send(
            by,
            run,
            "finished",
            at + timedelta(minutes=8),
            volume_ml=float(poured),
            signed=True,
            place=self.chance.choice(["cold room, shelf 2", "bar fridge", "cold room, shelf 3"]),
        )
        Lot.objects.filter(run=run).update(left=round(poured * self.chance.uniform(0.15, 0.9) / 10) * 10)

    def _open_run(self, item: Mapping[str, Any]) -> None:
        at = self.ago(minutes=item["began_minutes_ago"])
        run = self._begin(item["spec"], item["by"], at, item["mass_g"])
        state = folded(run, events_of(run))
        offset = at
        for step in state.spec.steps[: item["done_steps"]]:
            masses = state.evaluation.flow.masses
            weighed = [("weighed", offset, {"line": line.id, "mass_g": round(masses[line.id], 1)}) for line in step.lines]
            offset += timedelta(minutes=1)
            state = self._send_all(item["by"], run, [*weighed, ("step_done", offset, {"step": step.id})])
        if "begun_minutes_ago" in item and state.current is not None:
            begun = self.ago(minutes=item["begun_minutes_ago"])
            for line in state.current.lines:
                self._send(item["by"], run, "weighed", begun, line=line.id, mass_g=round(state.evaluation.flow.masses[line.id], 1))
            self._send(item["by"], run, "step_begun", begun, step=state.current.id)
            for ago, name, value in item.get("reads", []):
                self._send(item["by"], run, "read", self.ago(minutes=ago), step=state.current.id, property=name, value=value)


class Command(BaseCommand):
    help = "Loads the made-up house into an empty database; does nothing when a house is there."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--as-of", help="the moment that counts as now, ISO 8601 with offset")

    def handle(self, *_args: Any, **options: Any) -> None:
        if House.objects.exists():
            self.stdout.write("A house is there already; the demo house was not loaded.")
            return
        now = datetime.fromisoformat(options["as_of"]) if options["as_of"] else timezone.now()
        with transaction.atomic():
            Demo(now).load()
        self.stdout.write(
            f"Loaded {House.objects.count()} houses, {Run.objects.count()} batches, {Lot.objects.filter(gone_at=None).count()} lots on the shelf."
        )
