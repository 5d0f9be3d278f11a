"""Lists of runs and lots, and the shift."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import UTC, datetime

from django.db.models import Q, QuerySet

from ulsek.core.base.messages import read_stored
from ulsek.core.base.vocabulary import plain
from ulsek.core.run.device_clocks import moment
from ulsek.core.safety.on_the_shelf import expires_soon_until, too_warm
from ulsek.core.sums.offers import offers_of
from ulsek.team.access import Member
from ulsek.team.register import figures_of

from .models import Lot, Run
from .schemas import LotOut, RunRow, ShiftOut


def visible_runs(member: Member) -> QuerySet[Run]:
    """Returns the runs of the house that this person may see: a rehearsal is visible to its maker alone until it is shared."""
    mine = Q(rehearsal=False) | Q(started_by=member.person) | Q(shared=True)
    return Run.objects.filter(mine, house=member.house)


def _withdrawn(run: Run) -> str:
    """Returns why the version of a batch was withdrawn; empty if it was not."""
    return run.version.withdrawal.why if hasattr(run.version, "withdrawal") else ""


def run_row(run: Run) -> RunRow:
    """Returns a batch as lists show it."""
    return RunRow(
        id=run.pk,
        code=run.code,
        name=run.version.spec.name,
        version=run.version.number,
        started_by=run.started_by.display_name,
        started_at=run.started_at,
        finished_at=run.finished_at,
        withdrawn=_withdrawn(run),
        rehearsal=run.rehearsal,
        step=read_stored(run.projection["step"]) if "step" in run.projection else None,
        **{key: run.projection.get(key) for key in ("number", "of", "waiting", "last")},
    )


_LOT_COLUMNS = (
    *("code", "recalled", "opened_at", "gone_at", "name", "version_number", "amount", "left", "unit", "what", "ready_at", "ready_why"),
    *("off_spec", "bottle_ml", "place", "made_at", "made_by", "cooled_at", "use_by", "use_by_reason", "keep_c", "final"),
)


def lot_rows(member: Member, now: datetime) -> Callable[[Lot], LotOut]:
    """Returns a function from a lot to its row, with its state at `now`; the house's places are read once for all of them."""
    places = figures_of(member.house, "place")
    return lambda lot: _lot_row(member, lot, now, places)


def _lot_row(member: Member, lot: Lot, now: datetime, places: Mapping[str, Mapping[str, float]]) -> LotOut:
    return LotOut(
        **{name: getattr(lot, name) for name in _LOT_COLUMNS},
        standing=lot.standing(member.house, now),
        too_warm=too_warm(lot.keep_c, lot.place, places.get(plain(lot.place), {}).get("at_c")),
        sums=offers_of(*(lot.final[name]["value"] for name in ("acid_g_100ml", "brix"))) if lot.final else (),
        allergens=tuple(lot.allergens),
        allergens_words=lot.allergens_words,
        cautions=tuple(lot.cautions),
        run=lot.run_id,
        run_code=lot.run.code if lot.run else "",
        spec=lot.run.version.spec_id if lot.run else None,
        withdrawn=lot.withdrawn,
    )


_BEFORE_ALL = datetime(1, 1, 2, tzinfo=UTC)
_EVERY = Q()
_ON_SHELF = 60
"""Lots that expire later, as the shift shows them [count]."""


def due(row: RunRow) -> datetime:
    """Returns when a batch needs attention: at the end of its wait; before any other if it does not wait."""
    return moment(str(row.waiting["until"])) if row.waiting else _BEFORE_ALL


def due_order(row: RunRow) -> tuple[float, float, str]:
    """Returns the place of an open batch among the others: the most urgent first, of equals the newest."""
    return due(row).timestamp(), -row.started_at.timestamp(), row.code


def with_spec(runs: QuerySet[Run]) -> QuerySet[Run]:
    """Returns the runs with everything that their rows show, in one query."""
    return runs.select_related("version__spec", "version__withdrawal", "started_by")


def open_runs(member: Member, matching: Q = _EVERY) -> list[RunRow]:
    """Returns the runs that match and are not finished, the most urgent first."""
    return sorted(map(run_row, with_spec(visible_runs(member).filter(matching, finished_at=None))), key=due_order)


def shift(member: Member, now: datetime) -> ShiftOut:
    """Returns what needs attention now, what waits and until when, what expires in two days, and the first of what is on the shelf."""
    runs = [run for run in open_runs(member) if not run.rehearsal]
    on_shelf = Lot.objects.filter(house=member.house, gone_at=None).select_related("run__version__withdrawal").order_by("use_by", "code")
    last_soon = expires_soon_until(member.day(now))
    later = on_shelf.filter(use_by__gt=last_soon)
    shown = later[:_ON_SHELF]
    waiting = sorted((run for run in runs if run.waiting), key=due)
    over = [run for run in waiting if due(run) <= now]
    ready = [run for run in runs if not run.waiting]
    first = next(iter([*over, *ready]), None)
    row = lot_rows(member, now)
    return ShiftOut(
        now=now,
        zone=member.house.zone,
        service_from=member.house.service_from.strftime("%H:%M"),
        service_until=member.house.service_until.strftime("%H:%M"),
        hands=first.id if first else None,
        runs=(*waiting, *ready),
        turns=tuple(map(row, on_shelf.filter(use_by__lte=last_soon))),
        shelf=tuple(map(row, shown)),
        shelf_more=later.count() - len(shown) if len(shown) == _ON_SHELF else 0,
    )
