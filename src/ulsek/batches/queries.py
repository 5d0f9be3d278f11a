"""Lists of runs and lots, and the shift."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.db.models import Q, QuerySet

from ulsek.core.run.device_clocks import moment
from ulsek.team.access import Member

from .models import Lot, Run

SOON = timedelta(days=2)


def visible_runs(member: Member) -> QuerySet[Run]:
    """The runs of the house that this person may see: a rehearsal is its maker's alone until it is shared."""
    mine = Q(rehearsal=False) | Q(started_by=member.person) | Q(shared=True)
    return Run.objects.filter(mine, house=member.house)


def run_row(run: Run) -> dict[str, Any]:
    return {
        "id": run.pk,
        "code": run.code,
        "name": run.version.spec.name,
        "version": run.version.number,
        "started_by": run.started_by.display_name,
        "started_at": run.started_at,
        "finished_at": run.finished_at,
        "withdrawn": run.version.withdrawal.why if hasattr(run.version, "withdrawal") else "",
        "rehearsal": run.rehearsal,
        **{key: run.projection.get(key) for key in ("step", "number", "of", "waiting", "last")},
    }


def lot_row(lot: Lot) -> dict[str, Any]:
    names = (
        "code",
        "recalled",
        "opened_at",
        "gone_at",
        "name",
        "version_number",
        "amount",
        "left",
        "unit",
        "what",
        "ready_at",
        "ready_why",
        "off_spec",
        "bottle_ml",
        "place",
        "made_at",
        "made_by",
        "cooled_at",
    )
    more = ("use_by", "use_by_reason", "keep_c", "allergens", "allergens_words", "cautions", "final")
    return {name: getattr(lot, name) for name in (*names, *more)} | {
        "run": lot.run_id,
        "run_code": lot.run.code,
        "spec": lot.run.version.spec_id,
        "withdrawn": lot.run.version.withdrawal.why if hasattr(lot.run.version, "withdrawal") else "",
    }


def open_runs(member: Member) -> list[dict[str, Any]]:
    """Every run that is not finished, the most urgent wait first. A bench never holds more than a few dozen."""
    runs = (
        visible_runs(member)
        .filter(finished_at=None)
        .select_related("version__spec", "version__withdrawal", "started_by")
        .order_by("-started_at")[:100]
    )
    rows = [run_row(run) for run in runs]
    return sorted(rows, key=lambda row: (row["waiting"] or {}).get("until", ""))


def shift(member: Member, now: datetime) -> dict[str, Any]:
    """What needs hands now, what waits and until when, what turns in the next two days, what stands on the shelf."""
    runs = [run for run in open_runs(member) if not run["rehearsal"]]
    lots = list(
        Lot.objects.filter(house=member.house, gone_at=None).select_related("run__version__withdrawal").order_by("use_by", "code")[:60]
    )
    today = member.local(now).date()
    waiting = sorted((run for run in runs if run["waiting"]), key=lambda run: run["waiting"]["until"])
    over = [run for run in waiting if moment(run["waiting"]["until"]) <= now]
    ready = [run for run in runs if not run["waiting"]]
    hands: UUID | None = (over or ready or [{"id": None}])[0]["id"]
    return {
        "now": now,
        "zone": member.house.zone,
        "service_from": member.house.service_from.strftime("%H:%M"),
        "service_until": member.house.service_until.strftime("%H:%M"),
        "hands": hands,
        "runs": [*waiting, *ready],
        "turns": [lot_row(lot) for lot in lots if lot.use_by <= today + SOON],
        "shelf": [lot_row(lot) for lot in lots if lot.use_by > today + SOON],
    }
