"""The demo house's data, people and calendar, and the actions that both its history and its present day use."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from functools import cached_property
from typing import Any
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

from django.conf import settings
from django.contrib.auth.hashers import make_password

from ulsek.batches.actions.record_events import record_events
from ulsek.batches.actions.start_run import BatchOrder, start_run
from ulsek.batches.models import Run
from ulsek.core.run.state import RunState
from ulsek.specs.models import Spec
from ulsek.stores.actions.change_stock import change_stock
from ulsek.stores.actions.read_delivery import read_delivery
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.stores.queries import described
from ulsek.team.access import Member
from ulsek.team.models import Membership

DEMO = settings.ROOT / "demo"
_SPACE = UUID("6b0c7a2e-6a3c-4c55-9d53-2f1f0f1f7a01")

Happened = tuple[str, datetime, Mapping[str, Any]]
"""An event of a run before it is recorded, as a tuple: kind, moment, and body in the open form of docs/formats/run-events.md."""


def demo_id(name: str) -> UUID:
    """Returns a UUID that depends on `name` alone, so that every load gives the same one."""
    return uuid5(_SPACE, name)


@dataclass(frozen=True)
class Setting:
    """The demo house, loaded as if it were the moment `now` (aware)."""

    now: datetime

    @cached_property
    def data(self) -> Mapping[str, Any]:
        """The content of demo/house.json. Raises OSError if the file cannot be read."""
        read: Mapping[str, Any] = json.loads((DEMO / "house.json").read_text(encoding="utf-8"))
        return read

    @property
    def zone(self) -> ZoneInfo:
        """The zone of the demo house's clock."""
        return ZoneInfo(self.data["house"]["zone"])

    @cached_property
    def members(self) -> Mapping[str, Member]:
        """The members of the demo house by sign-in name, read from the database once. Empty if the house is not stored yet."""
        rows = Membership.objects.filter(house__name=self.data["house"]["name"]).select_related("house", "person")
        return {row.person.username: Member(row.person, row.house, row.role) for row in rows}

    def ago(self, **parts: float) -> datetime:
        """Returns `now` minus a duration, given in the units of `timedelta` (days, hours, minutes)."""
        return self.now - timedelta(**parts)

    @property
    def day(self) -> date:
        """The day of the demo house that it is at `now`: before the hour at which its day turns it is still the day before."""
        local = self.now.astimezone(self.zone)
        return local.date() - timedelta(days=local.time() < time.fromisoformat(self.data["house"]["day_turns"]))

    def on_day(self, days_ago: int, hour: float) -> datetime:
        """Returns the moment at `hour` o'clock [h, fractions allowed] in the house's time zone, `days_ago` days before its day at `now`."""
        midnight = datetime.combine(self.day, time(0), self.zone)
        return midnight - timedelta(days=days_ago) + timedelta(hours=hour)

    def this_morning(self) -> datetime:
        """Returns the earlier of 07:00 in the house's time zone today and six hours before `now`, so that it is never in the future."""
        return min(self.ago(hours=6), self.on_day(0, 7))

    def deliver(self, item: Mapping[str, Any], when: datetime) -> None:
        """Stores a delivery of demo/house.json at a moment, in the place of its kind, and its reading 20 minutes later if it has one. Raises Refusal for impossible data."""
        text = {name: item.get(name, "") for name in ("product", "supplier", "form", "colour")}
        delivery = Delivery(price=Decimal(item["price"]), pack_g=Decimal(item["pack_g"]), packs=item["packs"], **text)
        stock = receive_delivery(self.members["jonas"], item["material"], delivery, at=when)
        kind = described(stock.house)[stock.material]["kind"]
        place = next((place for place, kinds in self.data["stands"].items() if kind in kinds), "")
        if place and not stock.place:
            change_stock(self.members["jonas"], stock.pk, "moved", {"place": place}, at=when)
        if item.get("read"):
            read_delivery(self.members["jonas"], stock.pk, item["read"], at=when + timedelta(minutes=20))

    def begin(self, name: str, spec: Spec, by: str, at: datetime, mass_g: float | None) -> Run:
        """Returns a new batch of a spec, whose id depends on `name` alone, scaled to `mass_g` [g] of its first line if given. Raises Refusal if it cannot be made."""
        return start_run(self.members[by], demo_id(name), BatchOrder(spec.pk, mass_g=mass_g), at=at)

    def send(self, by: str, run: Run, happened: Sequence[Happened]) -> RunState:
        """Records events of a run in one request and returns the state after them. Raises Refusal for an event that the run does not allow."""
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

    def set_secrets(self) -> None:
        """Sets the passwords and PINs of the demo's people, which are published and stand in demo/house.json."""
        lead = self.data["neighbour_lead"]
        given = {item["name"]: item for item in (*self.data["people"], lead)}
        for row in Membership.objects.select_related("person"):
            item = given[row.person.username]
            row.person.set_password(item["password"])
            row.person.pin = make_password(item["pin"]) if "pin" in item else ""
            row.person.save(update_fields=["password", "pin"])
