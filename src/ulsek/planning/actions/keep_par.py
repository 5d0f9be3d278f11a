"""Set how much of a prep must stand there, or end that; and days that are not usual."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.pars import DayChange as ChangedDay
from ulsek.core.planning.pars import checked_change, checked_week
from ulsek.specs.models import Spec
from ulsek.specs.projection import material_key_of
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..facts import preps_of
from ..models import DayChange, Par
from ..use import pars_by_use

MOST_NAME = 60


def prep_of(member: Member, spec_id: UUID) -> Spec:
    """Returns a spec of the member's house after taking a shared lock on it. Raises Http404 if the house has no such spec, and Refusal if it is a drink."""
    rows = Spec.objects.filter(pk=spec_id, house=member.house)
    locked(rows, shared=True)
    spec = get_object_or_404(rows)
    if spec.family == "drink":
        raise Refusal(message("A drink is mixed to order"), "spec", remedy=message("Set the pars of what goes into it"), code="refused")
    return spec


@action
def keep_par(member: Member, spec_id: UUID, must_ml: Sequence[float]) -> Par | None:
    """Stores the par of a prep [mL], Monday first, and returns the row. Seven zeros or an empty list delete it and return None.

    Raises Refusal, at the weekday, for a volume out of its bounds, and Http404 if the house has no such spec.
    """
    spec = prep_of(member, spec_id)
    week = checked_week(must_ml) if must_ml else ()
    rows = Par.objects.filter(house=member.house, spec=spec)
    if not any(week):
        if rows.delete()[0]:
            member.wrote("drop_par", spec.name)
        return None
    # What is known of its use stays: another par does not change how much is poured.
    par, _ = rows.update_or_create(
        defaults={"must_ml": list(week)}, create_defaults={"house": member.house, "spec": spec, "must_ml": list(week)}
    )
    member.wrote("keep_par", spec.name, must_ml=list(week))
    return par


@action
def keep_par_by_use(member: Member, spec_id: UUID, at: datetime | None = None) -> Par:
    """Stores the par of a prep that follows from what was used of it, with that use, and returns the row.

    Raises Refusal if too little of its use was noted, and Http404 if the house has no such spec.
    """
    spec = prep_of(member, spec_id)
    rows = Par.objects.filter(house=member.house, spec=spec)
    before = {row.spec_id: tuple(row.must_ml) for row in rows}
    facts = {one.pk: found for one, found in preps_of(member.house).items() if one.pk == spec.pk}
    used = pars_by_use(member.house, facts, before, at or timezone.now()).get(spec.pk)
    if used is None:
        raise Refusal(
            message("Too little of its use was noted"),
            "spec",
            message("three days at least"),
            message("Type the par; note what is used, or count what is left"),
            "missing",
        )
    said = {"must_ml": list(used.par.must_ml), "use_ml": list(used.use_ml)}
    par, _ = rows.update_or_create(defaults=said, create_defaults={"house": member.house, "spec": spec, **said})
    member.wrote("par_by_use", spec.name, must_ml=said["must_ml"], days=used.days)
    return par


@action
def change_day(member: Member, changed: ChangedDay, at: datetime | None = None) -> DayChange:
    """Stores a day whose pars differ from the usual week, in place of an earlier change of that day, and returns the row.

    Raises Refusal, at its place, for a day before today, a prep that the house does not have, and a factor or volume out of its bounds.
    """
    checked_change(changed, member.day(at or timezone.now()))
    name = free_text(changed.name, "name", MOST_NAME)
    known = {material_key_of(key) for key in Spec.objects.filter(house=member.house).exclude(family="drink").values_list("key", flat=True)}
    unknown = sorted(set(changed.must_ml) - known)
    if unknown:
        raise Refusal(
            message("There is no prep “{key}” here", key=unknown[0]),
            f"must_ml/{unknown[0]}",
            remedy=message("Choose it from the list"),
            code="unknown_reference",
        )
    said = {"name": name, "times": changed.times, "must_ml": dict(changed.must_ml)}
    found, _ = DayChange.objects.update_or_create(house=member.house, day=changed.day, defaults=said)
    member.wrote("change_day", str(found), times=changed.times)
    return found


@action
def usual_day(member: Member, day: date) -> None:
    """Deletes the change of a day. Raises Http404 if that day has none."""
    found = get_object_or_404(DayChange, house=member.house, day=day)
    member.wrote("usual_day", str(found))
    found.delete()
