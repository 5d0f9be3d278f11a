"""Today's list, and the lists of pars, days, hours and suppliers."""

from __future__ import annotations

from datetime import datetime, time

from django.utils import timezone

from ulsek.batches.models import Run
from ulsek.core.planning.day_list import day_list
from ulsek.core.planning.left_over import keeps_leftovers, with_left_over
from ulsek.core.planning.ordering import USUAL_TERMS, SupplierTerms, to_order
from ulsek.core.planning.schedule import Schedule, schedule
from ulsek.core.planning.situation import Situation, Wish
from ulsek.core.planning.used import ParFromUse
from ulsek.specs.models import Spec
from ulsek.specs.projection import material_key_of
from ulsek.team.access import Member
from ulsek.team.models import Membership, RegisterRow, Role

from .facts import preps_of
from .left_overs import left_overs
from .models import Away, DayChange, Hours, Par, Terms
from .schemas import AwayOut, BegunToday, ByUse, DayChangeOut, HoursOut, ParOut, PrepRef, TermsOut, TodayOut, WorkerOut
from .situations import situation_of
from .use import pars_by_use


def _begun(run: Run) -> BegunToday:
    return BegunToday(
        run=run.pk,
        code=run.code,
        spec=run.version.spec_id,
        name=run.version.spec.name,
        makes_ml=float(run.projection.get("batch_ml") or 0.0),
        by=run.started_by.display_name,
        started_at=run.started_at,
        finished_at=run.finished_at,
    )


def _prep(spec: Spec, wish: Wish | None) -> PrepRef:
    return PrepRef(
        spec=spec.pk,
        name=spec.name,
        family=spec.family,
        person=int(wish.worker) if wish and wish.worker else None,
        bottles=wish.bottles if wish else None,
        extra=bool(wish and wish.extra),
    )


def _scheduled(situation: Situation) -> tuple[Situation, Schedule]:
    """Returns the situation and its schedule. Leftovers of today's batches are incoming material for the preps that were added to the list by hand, if that delays none of them."""
    made = schedule(situation)
    counted = with_left_over(situation, made)
    if counted is situation:
        return situation, made
    again = schedule(counted)
    return (counted, again) if keeps_leftovers(situation, made, again) else (situation, made)


def today(member: Member, now: datetime) -> TodayOut:
    """Returns the list of today as it follows from what is known at a moment. Raises Refusal for preps that are made of one another."""
    house = member.house
    found = situation_of(house, now)
    situation, made = _scheduled(found.situation)
    listed = day_list(situation, made)
    left = left_overs(house, situation, made, found.facts)
    first = situation.days[0]
    changed = DayChange.objects.filter(house=house, day=first.day).first()
    return TodayOut(
        list=listed,
        preps={
            key: _prep(found.specs[key], situation.wishes.get(key))
            for key in sorted({*situation.preps, *(taker.key for one in left for taker in one.takers)})
        },
        begun=tuple(_begun(run) for run in found.runs if material_key_of(run.version.spec.key) in found.specs),
        workers=tuple(WorkerOut(person=int(one.key), name=one.name, is_away=one.is_away) for one in situation.workers),
        orders=to_order(situation, made),
        left_over=left,
        pars=len(situation.must),
        opens_at=situation.at(first.opens_min),
        changed=(changed.name or f"{changed.times:g}×") if changed else "",
    )


def pars(member: Member) -> list[ParOut]:
    """Returns every prep of the house with its par; those that have one first."""
    rows = {row.spec_id: tuple(row.must_ml) for row in Par.objects.filter(house=member.house)}
    preps = preps_of(member.house)
    used = pars_by_use(member.house, {spec.pk: facts for spec, facts in preps.items()}, rows, timezone.now())
    found = [
        ParOut(
            spec=spec.pk,
            key=facts.key,
            name=spec.name,
            family=spec.family,
            must_ml=rows.get(spec.pk),
            bottle_ml=facts.bottle_ml,
            keeps_days=facts.keeps_days,
            takes_min=facts.takes_min,
            by_use=_by_use(used.get(spec.pk)),
        )
        for spec, facts in preps.items()
    ]
    return sorted(found, key=lambda one: (one.must_ml is None, one.name))


def _by_use(found: ParFromUse | None) -> ByUse | None:
    return None if found is None else ByUse(must_ml=found.par.must_ml, days=found.days, said=found.said)


def day_changes(member: Member) -> list[DayChangeOut]:
    """Returns the days from today on that are not usual."""
    rows = DayChange.objects.filter(house=member.house, day__gte=member.day(timezone.now())).order_by("day")
    return [change_row(row) for row in rows]


def change_row(row: DayChange) -> DayChangeOut:
    """Returns a day that is not usual as lists show it."""
    return DayChangeOut(day=row.day, name=row.name, times=row.times, must_ml=row.must_ml)


def hours(member: Member) -> list[HoursOut]:
    """Returns everybody who makes things, with their hours and their absences from today on."""
    house, day = member.house, member.day(timezone.now())
    weeks = {row.person_id: row.week for row in Hours.objects.filter(house=house)}
    away: dict[int, list[AwayOut]] = {}
    for row in Away.objects.filter(house=house, last__gte=day).order_by("first"):
        away.setdefault(row.person_id, []).append(AwayOut(id=row.pk, first=row.first, last=row.last))
    members = Membership.objects.filter(house=house, role__in=(Role.MAKER, Role.LEAD)).select_related("person")
    return [
        HoursOut(
            person=one.person_id,
            name=one.person.display_name,
            week=None
            if one.person_id not in weeks
            else tuple(None if span is None else (span[0], span[1]) for span in weeks[one.person_id]),
            away=tuple(away.get(one.person_id, ())),
        )
        for one in members.order_by("person__display_name", "person_id")
    ]


def _clock(at: time) -> str:
    return f"{at:%H:%M}"


def terms_row(entry: RegisterRow, terms: SupplierTerms, *, is_usual: bool) -> TermsOut:
    """Returns the terms of a supplier as lists show them."""
    return TermsOut(
        entry=entry.pk,
        supplier=entry.name,
        weekdays=terms.weekdays,
        cut_off=_clock(terms.cut_off),
        lead_days=terms.lead_days,
        arrives=_clock(terms.arrives),
        is_usual=is_usual,
    )


def suppliers(member: Member) -> list[TermsOut]:
    """Returns the suppliers of the register with their terms."""
    said = {row.supplier_id: row.terms for row in Terms.objects.filter(supplier__house=member.house)}
    rows = RegisterRow.objects.filter(house=member.house, kind="supplier").order_by("name")
    return [terms_row(row, said.get(row.pk, USUAL_TERMS), is_usual=row.pk not in said) for row in rows]
