"""Who may make what: for each spec and person what they have read, rehearsed, made beside somebody and made, and whether a lead has cleared them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from django.db.models import Count, Max, Q
from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router

from ulsek.specs.actions.clear_person import clear_person
from ulsek.specs.models import Acknowledgement, Clearance, Spec
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of
from ulsek.team.models import House, Membership, Role
from ulsek.team.schema import Schema

from .models import Run, RunEvent

router = Router(tags=["clearances"])
BESIDE_WITHIN = timedelta(days=400)
"""Age up to which batches are searched for several people working on one."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Practice:
    """What a person has done with a spec: when they read its newest version, last rehearsed it, made it together with others, how often they finished a batch of it; and who
    cleared them when. None and empty for what they have not.
    """

    person: int
    read_at: datetime | None = None
    rehearsed_at: datetime | None = None
    made: int = 0
    made_at: datetime | None = None
    beside_at: datetime | None = None
    beside: tuple[str, ...] = ()
    cleared_at: datetime | None = None
    cleared_by: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class SpecPractice:
    """A published spec, and everybody's practice with it."""

    id: UUID
    name: str
    version: int
    people: tuple[Practice, ...]


def _read(specs: list[Spec]) -> Mapping[tuple[UUID, int], datetime | None]:
    newest = [spec.newest_id for spec in specs]
    rows = Acknowledgement.objects.filter(version__in=newest).values_list("version__spec", "person", "read_at", "passed_at")
    # Whoever wrote it has read it.
    wrote = {(spec.pk, spec.newest.author_id): spec.newest.at for spec in specs if spec.newest}
    return {**wrote, **{(spec, person): read or passed for spec, person, read, passed in rows}}


def _made(specs: list[Spec]) -> dict[tuple[UUID, int], tuple[datetime | None, int, datetime | None]]:
    """Returns by spec and person (last rehearsal, number of real batches that they finished, the last of them)."""
    done = Run.objects.filter(version__spec__in=specs, finished_at__isnull=False)
    found = done.values_list("version__spec", "started_by").annotate(
        rehearsed=Max("finished_at", filter=Q(rehearsal=True)),
        made=Count("pk", filter=Q(rehearsal=False)),
        last=Max("finished_at", filter=Q(rehearsal=False)),
    )
    return {(spec, person): (rehearsed, made, last) for spec, person, rehearsed, made, last in found.order_by()}


def _beside(specs: list[Spec], now: datetime) -> dict[tuple[UUID, int], tuple[datetime, tuple[str, ...]]]:
    """Returns by spec and person the last batch that several people had their hands in, and the names of the others."""
    rows = (
        RunEvent.objects.filter(run__version__spec__in=specs, run__rehearsal=False, run__finished_at__gte=now - BESIDE_WITHIN, late=False)
        .values_list("run", "run__version__spec", "run__finished_at", "person", "person__display_name")
        .distinct()
        .order_by("run__finished_at", "run")
    )
    hands: defaultdict[tuple[UUID, UUID, datetime], dict[int, str]] = defaultdict(dict)
    for run, spec, at, person, name in rows:
        if at is not None:
            hands[run, spec, at][person] = name
    found: dict[tuple[UUID, int], tuple[datetime, tuple[str, ...]]] = {}
    for (_run, spec, at), people in hands.items():
        if len(people) > 1:
            for person in people:
                found[spec, person] = (at, tuple(sorted(name for other, name in people.items() if other != person)))
    return found


def _practice(specs: Iterable[Spec], house: House) -> dict[UUID, tuple[Practice, ...]]:
    """Returns by spec the practice of everybody in the house who makes things, in order of their names. Six queries for any number of specs."""
    listed = list(specs)
    makers = Membership.objects.filter(house=house).exclude(role=Role.READER).order_by("person__display_name", "person")
    people = list(makers.values_list("person", flat=True))
    read, made, beside = _read(listed), _made(listed), _beside(listed, timezone.now())
    cleared = {(row.spec_id, row.person_id): row for row in Clearance.objects.filter(spec__in=listed, ended_at=None).select_related("by")}

    def of(spec: UUID, person: int) -> Practice:
        rehearsed, count, last = made.get((spec, person), (None, 0, None))
        together, names = beside.get((spec, person), (None, ()))
        row = cleared.get((spec, person))
        return Practice(
            person=person,
            read_at=read.get((spec, person)),
            rehearsed_at=rehearsed,
            made=count,
            made_at=last,
            beside_at=together,
            beside=names,
            cleared_at=row.at if row else None,
            cleared_by=row.by.display_name if row else "",
        )

    return {spec.pk: tuple(of(spec.pk, person) for person in people) for spec in listed}


@router.get("/clearances", response=answers(Slice[SpecPractice]))
def clearances(request: HttpRequest, asked: Query[ListQuery]) -> Slice[SpecPractice]:
    """Returns the published specs by name, each with everybody's practice with it."""
    house = member_of(request).house
    found = Spec.objects.filter(holding(asked.find, "name"), house=house, newest__isnull=False, trial_of=None).select_related("newest")
    shown = slice_of(found, ("name", "pk"), asked)
    practice = _practice(shown.items, house)
    return shown.each(lambda spec: _row(spec, practice[spec.pk]))


def _row(spec: Spec, people: tuple[Practice, ...]) -> SpecPractice:
    return SpecPractice(id=spec.pk, name=spec.name, version=spec.newest.number if spec.newest else 0, people=people)


class ClearanceIn(Schema):
    cleared: bool


@router.put("/specs/{spec_id}/clearances/{person_id}", response=answers(SpecPractice))
def clear(request: HttpRequest, spec_id: UUID, person_id: int, payload: ClearanceIn) -> SpecPractice:
    """Clears a person to make a spec alone, or takes that back."""
    member = member_of(request)
    clear_person(member, spec_id, person_id, cleared=payload.cleared)
    spec = Spec.objects.select_related("newest").get(pk=spec_id, house=member.house)
    return _row(spec, _practice([spec], member.house)[spec.pk])
