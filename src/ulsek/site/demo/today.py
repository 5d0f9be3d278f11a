"""The demo house's present day: instruments, this morning's deliveries, open batches and containers, stored through the actions."""

from __future__ import annotations

import os
from collections.abc import Mapping
from datetime import timedelta
from typing import Any

from ulsek.batches.actions.keep_container import clean_container, keep_container
from ulsek.batches.actions.keep_register import keep_entry
from ulsek.batches.folding import events_of, folded
from ulsek.batches.models import Container, Lot
from ulsek.devices.actions.connect_instrument import connect_instrument
from ulsek.specs.models import Spec

from .citrus import CitrusHistory
from .planning import play_plan
from .setting import Happened, Setting
from .tasting import PanelHistory


def play_today(setting: Setting) -> None:
    """Stores instruments, the register, this morning's deliveries and cases, open batches and containers, marks expired lots as gone, opens the panel that is half tasted, and stores the plan.

    The history must be stored before. Raises Spec.DoesNotExist if a spec of an open batch is missing.
    """
    first = int(os.environ.get("ULSEK_INSTRUMENT_PORT", "9711"))
    for n, item in enumerate(setting.data["instruments"]):
        connect_instrument(setting.members["ilse"], item["name"], item["kind"], f"socket://127.0.0.1:{first + n}")
    for item in setting.data["register"]:
        keep_entry(setting.members["ilse"], item["kind"], item["name"], item["figures"], item.get("note", ""))
    for item in setting.data["deliveries"]:
        if item["days_ago"] == 0:
            setting.deliver(item, setting.this_morning())
    CitrusHistory(setting).today()
    for item in setting.data["open"]:
        _open_run(setting, item)
    _fill_containers(setting)
    Lot.objects.filter(use_by__lt=setting.on_day(0, 0).date()).update(gone_at=setting.now, left=0)
    PanelHistory(setting).today()
    play_plan(setting)


def _fill_containers(setting: Setting) -> None:
    """Puts the newest lots into some of the containers; the others were cleaned this week."""
    for item in setting.data["containers"]:
        keep_container(setting.members["jonas"], item["name"], item["tare_g"], item["capacity_ml"])
    containers = Container.objects.order_by("name")
    for container, lot in zip(containers[:3], Lot.objects.order_by("-made_at")[:3], strict=True):
        container.holds, container.last_contents, container.last_allergens = lot, lot.name, lot.allergens
        container.save()
    for n, container in enumerate(containers[3:]):
        clean_container(setting.members["noor"], container.pk, at=setting.ago(days=1 + n))


def _open_run(setting: Setting, item: Mapping[str, Any]) -> None:
    by, at = item["by"], setting.ago(minutes=item["began_minutes_ago"])
    run = setting.begin(f"{item['spec']} now", Spec.objects.get(key=item["spec"]), by, at, item["mass_g"])
    state = folded(run, events_of(run))
    for step in state.spec.steps[: item["done_steps"]]:
        masses = state.evaluation.flow.masses
        weighed: list[Happened] = [("weighed", at, {"line": line.id, "mass_g": round(masses[line.id], 1)}) for line in step.lines]
        at += timedelta(minutes=1)
        state = setting.send(by, run, [*weighed, ("step_done", at, {"step": step.id})])
    if "begun_minutes_ago" in item and state.current is not None:
        begun, step_id = setting.ago(minutes=item["begun_minutes_ago"]), state.current.id
        happened: list[Happened] = [
            ("weighed", begun, {"line": line.id, "mass_g": round(state.evaluation.flow.masses[line.id], 1)}) for line in state.current.lines
        ]
        happened.append(("step_begun", begun, {"step": step_id}))
        for ago, name, value in item.get("reads", []):
            happened.append(("read", setting.ago(minutes=ago), {"step": step_id, "property": name, "value": value}))
        setting.send(by, run, happened)
