"""Start a batch of a published version, by the yield that is wanted or by the fruit that was weighed."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core import CORE_VERSION
from ulsek.core.advice.batch_scaling import checked_factor, factor_for_mass, factor_for_volume
from ulsek.core.advice.corrections import SPARE
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.flow_values import AsMade
from ulsek.core.run.start_times import turned_before_ready
from ulsek.core.safety.house_rules import edition, read_rules
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.options import settled
from ulsek.core.spec.spec import Spec
from ulsek.specs.models import Acknowledgement, Version
from ulsek.specs.models import Spec as SpecRow
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import added, locked
from ulsek.team.models import Role
from ulsek.team.numbers import locked_series, next_number

from ..models import Learned, Run
from ..supplies import Pinned, pin
from .draw_on import draw_on, lock_supplies
from .record_events import record_events


def _may_be_made(member: Member, version: Version, *, rehearsal: bool) -> None:
    """Refuses a withdrawn version; unless it is only rehearsed, one that this person has to acknowledge first too, and a first make before the questions
    are answered, which no rehearsal stands in for.
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


def _factor(spec: Spec, pinned: Pinned, mass_g: float | None, volume_ml: float | None, times: float | None) -> float:
    if sum(value is not None for value in (mass_g, volume_ml, times)) > 1:
        raise Refusal(message("A batch starts from a weight, a yield or a factor, one of them"), "mass_g", code="twice")
    if times is not None:
        return checked_factor(times)
    if mass_g is not None:
        return factor_for_mass(spec, pinned.materials, mass_g)
    return factor_for_volume(spec, pinned.materials, volume_ml) if volume_ml is not None else 1.0


def _started(member: Member, run_id: UUID) -> Run | None:
    """The run of this id where it was started already. Raises Refusal where the id belongs to another house's."""
    found = Run.objects.filter(pk=run_id).first()
    if found is not None and found.house_id != member.house.pk:
        raise Refusal(message("This id belongs to another batch"), "id", remedy=message("Start it again from its card"), code="twice")
    return found


@action
def start_run(
    member: Member,
    run_id: UUID,
    spec_id: UUID,
    *,
    number: int | None = None,
    chosen: dict[str, str] | None = None,
    mass_g: float | None = None,
    volume_ml: float | None = None,
    times: float | None = None,
    rehearsal: bool = False,
    at: datetime | None = None,
) -> Run:
    """A run of version `number` (the newest when none is named), scaled, with its inputs pinned. Sending the same `run_id` again changes nothing.

    A rehearsal asks no questions first, and draws on nothing. Refuses specs that were never published, weights and yields that cannot be.
    """
    already = _started(member, run_id)
    if already is not None:
        return already
    house = member.house
    # Shared: a version may not be withdrawn, nor another published, between the choice of one and the start.
    locked(SpecRow.objects.filter(pk=spec_id, house=house), shared=True)
    versions = Version.objects.select_related("spec", "withdrawal__successor").filter(spec=spec_id, spec__house=house).order_by("-number")
    if not versions.exists():
        raise Refusal(
            message("This spec has never been published"),
            "spec",
            remedy=message("Ask your lead to check and publish it"),
            code="not_published",
        )
    version = get_object_or_404(versions, number=number) if number else versions.filter(withdrawal=None).first() or versions[0]
    _may_be_made(member, version, rehearsal=rehearsal)
    spec = read_spec(version.body, chosen=chosen)
    when = at or timezone.now()
    # The spare ones are pinned beside the spec's own materials, so that a repair can use them.
    pinned = pin(house, (*spec.material_keys, *SPARE), when)
    factor = _factor(spec, pinned, mass_g, volume_ml, times)
    turned = turned_before_ready(evaluate(spec, pinned.materials, AsMade(factor), rules=read_rules(house.rules)), member.local(when))
    if turned and spec.family != "drink" and not rehearsal:
        raise Refusal(
            message("It would be out of date before it is ready"),
            "version",
            turned,
            message("Rest it shorter, or ask your lead"),
            "turns_before_ready",
        )
    learned = Learned.objects.filter(house=house, spec=version.spec).order_by("-at").first()
    if not rehearsal:
        lock_supplies(house, {"stock": pinned.stock, "lots": pinned.lots}, spec.material_keys, shared=True)
    letter = "R" if rehearsal else "B"
    series = locked_series(house, letter)
    # The same start, sent twice at once, has waited for the series.
    already = _started(member, run_id)
    if already is not None:
        return already
    run = Run.objects.create(
        id=run_id,
        house=house,
        version=version,
        code=f"{letter}{next_number(series):04d}",
        rehearsal=rehearsal,
        started_by=member.person,
        started_at=when,
        snapshot={
            "core": CORE_VERSION,
            "spec": settled(version.body, chosen)[0],
            "chosen": chosen or {},
            "materials": dict(pinned.bodies),
            "stock": dict(pinned.stock),
            "lots": dict(pinned.lots),
            "rules": house.rules,
            "edition": edition(house.rules),
            "learned": learned.groups if learned else {},
        },
    )
    added(run)
    draw_on(run, spec.material_keys)
    started = {
        "id": f"{run_id}-started"[:64],
        "kind": "started",
        "at": when.isoformat(),
        "lamport": 0,
        "device": "site",
        "sequence": 0,
        "body": {"factor": factor, "mass_g": mass_g, "volume_ml": volume_ml},
    }
    record_events(member, run_id, [started])
    member.wrote("start_run", str(run), at=when, factor=factor)
    run.refresh_from_db()
    return run
