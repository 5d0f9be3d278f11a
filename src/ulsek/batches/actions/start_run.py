"""Start a batch of a published version, by its yield, its driving line or a factor."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core import CORE_VERSION
from ulsek.core.advice.batch_scaling import checked_factor, factor_for_mass, factor_for_volume
from ulsek.core.advice.corrections import REPAIR_MATERIALS
from ulsek.core.base.answer import OpenForm
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.flow_values import AsMade
from ulsek.core.run.start_times import expiry_before_ready
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.rules_edition import edition
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.options import settled
from ulsek.core.spec.spec import Spec
from ulsek.specs.actions.clear_person import lacks_clearance
from ulsek.specs.models import Acknowledgement, Version
from ulsek.specs.models import Spec as SpecRow
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import added, locked
from ulsek.team.models import House, Role
from ulsek.team.numbers import locked_series, next_number

from ..models import Learned, Run
from ..supplies import Pinned, pin
from .draw_on import draw_on, lock_supplies
from .record_events import record_events


@dataclass(frozen=True, slots=True)
class BatchOrder:
    """A batch of a spec: version `number` (None: the newest), the alternatives `chosen` by option group, and its size.

    The size is at most one of `mass_g` [g] of the driving line, `volume_ml` [mL] of product, and `times` the spec; once the spec without any.
    """

    spec_id: UUID
    number: int | None = None
    chosen: dict[str, str] | None = None
    mass_g: float | None = None
    volume_ml: float | None = None
    times: float | None = None
    rehearsal: bool = False

    def factor(self, spec: Spec, pinned: Pinned) -> float:
        """Returns how many times the spec the batch is. Raises Refusal for two sizes, and for a size that cannot be."""
        if sum(value is not None for value in (self.mass_g, self.volume_ml, self.times)) > 1:
            raise Refusal(message("A batch starts from a weight, a yield or a factor, one of them"), "mass_g", code="twice")
        if self.times is not None:
            return checked_factor(self.times)
        if self.mass_g is not None:
            return factor_for_mass(spec, pinned.materials, self.mass_g)
        return factor_for_volume(spec, pinned.materials, self.volume_ml) if self.volume_ml is not None else 1.0


def _may_be_made(member: Member, version: Version, *, rehearsal: bool) -> None:
    """Raises Refusal for a withdrawn version, one that this person must acknowledge first, and a first batch before its questions are answered. A rehearsal is
    refused for the first reason only.
    """
    withdrawal = getattr(version, "withdrawal", None)
    if withdrawal is not None:
        successor = withdrawal.successor
        instead = message("Make version {number}", number=successor.number) if successor else message("Ask your lead what to make instead")
        raise Refusal(
            message("Version {number} is withdrawn: {why}", number=version.number, why=withdrawal.why),
            "version",
            remedy=instead,
            code="withdrawn",
        )
    if rehearsal:
        return
    known = Acknowledgement.objects.filter(version__spec=version.spec, person=member.person)
    if version.critical and not known.filter(version=version, read_at__isnull=False).exists():
        raise Refusal(
            message("Version {number} changes something critical: {why}", number=version.number, why=version.why),
            "version",
            remedy=message("Read its card and acknowledge it"),
            code="unread",
        )
    if version.spec.asks_questions and member.role != Role.LEAD:
        made = Run.objects.filter(version__spec=version.spec, started_by=member.person, finished_at__isnull=False, rehearsal=False)
        if not known.filter(passed_at__isnull=False).exists() and not made.exists():
            raise Refusal(
                message("This would be your first make of it"),
                "version",
                remedy=message("Answer the three questions on its card"),
                code="questions_open",
            )


def _started(member: Member, run_id: UUID) -> Run | None:
    """Returns the run of this id if it was started already. Raises Refusal if the id belongs to another house's run."""
    found = Run.objects.filter(pk=run_id).first()
    if found is not None and found.house_id != member.house.pk:
        raise Refusal(message("This id belongs to another batch"), "id", remedy=message("Start it again from its card"), code="twice")
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class _Chosen:
    """The version of a batch with what it is made of: its spec with the alternatives that were chosen, the pinned inputs, and the multiple of the spec."""

    version: Version
    spec: Spec
    pinned: Pinned
    factor: float


def _version(member: Member, order: BatchOrder) -> Version:
    """Returns the version that is ordered: by its number, else the newest that is not withdrawn. Raises Refusal, or Http404 for an unknown number."""
    versions = (
        Version.objects.select_related("spec", "withdrawal__successor")
        .filter(spec=order.spec_id, spec__house=member.house)
        .order_by("-number")
    )
    if not versions.exists():
        raise Refusal(
            message("This spec has never been published"),
            "spec",
            remedy=message("Ask your lead to check and publish it"),
            code="not_published",
        )
    version = get_object_or_404(versions, number=order.number) if order.number else versions.filter(withdrawal=None).first() or versions[0]
    _may_be_made(member, version, rehearsal=order.rehearsal)
    return version


def _choose(member: Member, order: BatchOrder, when: datetime) -> _Chosen:
    """Returns what a batch is made of. Raises Refusal for an order that cannot be made, or would be out of date before it is ready."""
    house, version = member.house, _version(member, order)
    spec = read_spec(version.body, chosen=order.chosen)
    # Water, sugar and acid are pinned beside the spec's own materials, so that a repair can use them.
    pinned = pin(house, (*spec.material_keys, *REPAIR_MATERIALS), when)
    factor = order.factor(spec, pinned)
    if not order.rehearsal and spec.family != "drink":
        evaluation = evaluate(spec, pinned.materials, AsMade(factor), rules=read_rules(house.rules))
        turned = expiry_before_ready(evaluation, member.local(when))
        if turned:
            raise Refusal(
                message("It would be out of date before it is ready"),
                "version",
                turned,
                message("Rest it shorter, or ask your lead"),
                "turns_before_ready",
            )
    return _Chosen(version=version, spec=spec, pinned=pinned, factor=factor)


def _snapshot(house: House, order: BatchOrder, chosen: _Chosen) -> OpenForm:
    """Returns what a run pins at its start, as it is stored."""
    learned = Learned.objects.filter(house=house, spec=chosen.version.spec).order_by("-at").first()
    return {
        "core": CORE_VERSION,
        "spec": settled(chosen.version.body, order.chosen)[0],
        "chosen": order.chosen or {},
        "materials": dict(chosen.pinned.bodies),
        "stock": dict(chosen.pinned.stock),
        "lots": dict(chosen.pinned.lots),
        "rules": house.rules,
        "edition": edition(house.rules),
        "learned": learned.groups if learned else {},
    }


def _event(run_id: UUID, order: BatchOrder, factor: float, when: datetime) -> OpenForm:
    """Returns the first event of a run, as a device would send it."""
    return {
        "id": f"{run_id}-started"[:64],
        "kind": "started",
        "at": when.isoformat(),
        "lamport": 0,
        "device": "site",
        "sequence": 0,
        "body": {"factor": factor, "mass_g": order.mass_g, "volume_ml": order.volume_ml},
    }


@action
def start_run(member: Member, run_id: UUID, order: BatchOrder, at: datetime | None = None) -> Run:
    """Returns a run of the ordered batch with its inputs pinned. The same `run_id` again returns the first one and changes nothing.

    A rehearsal asks no questions first and takes nothing out of stock. Raises Refusal for an order that cannot be made.
    """
    already = _started(member, run_id)
    if already is not None:
        return already
    house, when = member.house, at or timezone.now()
    # Shared: a version may not be withdrawn, nor another published, between the choice of one and the start.
    locked(SpecRow.objects.filter(pk=order.spec_id, house=house), shared=True)
    chosen = _choose(member, order, when)
    if not order.rehearsal:
        lock_supplies(house, {"stock": chosen.pinned.stock, "lots": chosen.pinned.lots}, chosen.spec.material_keys, shared=True)
    letter = "R" if order.rehearsal else "B"
    series = locked_series(house, letter)
    # The same start, sent twice at once, has waited for the series.
    already = _started(member, run_id)
    if already is not None:
        return already
    run = Run.objects.create(
        id=run_id,
        house=house,
        version=chosen.version,
        code=f"{letter}{next_number(series):04d}",
        rehearsal=order.rehearsal,
        started_by=member.person,
        started_at=when,
        snapshot=_snapshot(house, order, chosen),
    )
    added(run)
    draw_on(run, chosen.spec.material_keys)
    record_events(member, run_id, [_event(run_id, order, chosen.factor, when)], received=when)
    member.wrote("start_run", str(run), at=when, factor=chosen.factor)
    # People call in sick: whoever stands there makes it, and the lead can see that they were not cleared.
    if not order.rehearsal and lacks_clearance(member, chosen.version.spec):
        member.wrote("make_uncleared", str(run), at=when)
    run.refresh_from_db()
    return run
