"""The situation of a house as the core plans it: its pars and days, its bottles and batches, its people, its materials and their suppliers."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from django.db.models import Max, Q, QuerySet

from ulsek.batches.models import Lot, Run
from ulsek.core.base.vocabulary import plain
from ulsek.core.planning.hours import cleared_preps
from ulsek.core.planning.ordering import USUAL_TERMS, expected_arrival_min, next_delivery
from ulsek.core.planning.pars import must_and_use
from ulsek.core.planning.prep_facts import PrepFacts
from ulsek.core.planning.situation import Coming, MaterialSupply, PlanDay, Situation, Supply, Wish, Worker, expected_ready_min
from ulsek.core.run.device_clocks import moment
from ulsek.core.safety.shelf_life_rules import last_day
from ulsek.specs.models import Clearance, Spec
from ulsek.specs.projection import material_key_of
from ulsek.stores.models import StockItem
from ulsek.stores.queries import described
from ulsek.team.models import House, Membership, Role

from .calendar import days_of, minutes_from, windows_of
from .facts import preps_of
from .models import Away, DayChange, Hours, ListWish, Par, PlacedLine
from .sales import poured_of
from .supplier_terms import terms_of


@dataclass(frozen=True)
class HouseSituation:
    """The situation of a house, the spec and the facts of every prep that it has published, and the batches that were begun today."""

    situation: Situation
    specs: Mapping[str, Spec]
    facts: Mapping[str, PrepFacts]
    runs: tuple[Run, ...]


def situation_of(house: House, now: datetime) -> HouseSituation:
    """Returns the situation of a house at a moment."""
    local = now.astimezone(house.clock)
    days, facts = days_of(house, local), {material_key_of(spec.key): (spec, one) for spec, one in preps_of(house).items()}
    specs, every = {key: spec for key, (spec, _) in facts.items()}, {key: one for key, (_, one) in facts.items()}
    must, use = _pars(house, specs, days)
    wishes = _wishes(house, specs, days[0].day)
    used = _taken_part(every, {*must, *(key for key, wish in wishes.items() if wish.extra)})
    preps = {key: one for key, one in every.items() if key in used}
    poured = poured_of(house, every, [day.day for day in days], local)
    open_runs = list(_runs(house).filter(finished_at=None))
    taken, workers = _taken_g(open_runs), _workers(house, specs, days, local)
    begun = _runs(house).filter(started_at__gte=house.day_ends(_before(days[0].day)))
    return HouseSituation(
        Situation(
            local,
            days,
            preps,
            must,
            use,
            (*_on_shelf(house, [specs[key] for key in preps], local, taken), *_under_way(house, preps, local, open_runs)),
            workers,
            not workers,
            _materials(house, preps, local, taken, poured),
            wishes,
            poured,
        ),
        specs,
        every,
        tuple(begun.order_by("started_at", "code")),
    )


def _before(day: date) -> date:
    return date.fromordinal(day.toordinal() - 1)


def _pars(
    house: House, specs: Mapping[str, Spec], days: tuple[PlanDay, ...]
) -> tuple[dict[str, tuple[float, ...]], dict[str, tuple[float, ...]]]:
    changes = {row.day: row.change for row in DayChange.objects.filter(house=house, day__gte=days[0].day, day__lte=days[-1].day)}
    must, use = {}, {}
    for row in Par.objects.filter(house=house).select_related("spec"):
        key = material_key_of(row.spec.key)
        if key in specs:
            must[key], use[key] = must_and_use(key, row.week, [one.day for one in days], changes)
    return must, use


def _taken_part(preps: Mapping[str, PrepFacts], wanted: Iterable[str]) -> set[str]:
    """Returns the preps that are wanted, with everything that they are made of."""
    found, waiting = set[str](), [key for key in wanted if key in preps]
    while waiting:
        key = waiting.pop()
        if key not in found:
            found.add(key)
            waiting += [part for part in preps[key].needs if part in preps]
    return found


def _runs(house: House) -> QuerySet[Run]:
    rows = Run.objects.filter(house=house, rehearsal=False, recalled="").select_related("version__spec", "started_by")
    return rows.defer("snapshot", "result", "version__body", "version__materials", "version__final", "version__outputs")


def _taken_g(open_runs: Iterable[Run]) -> Mapping[str, float]:
    """Returns the mass [g] that unfinished batches have used, by supply. The stock itself is reduced only when a batch is finished."""
    taken: dict[str, float] = defaultdict(float)
    for run in open_runs:
        for supply, mass in run.projection.get("taken_g", {}).items():
            taken[supply] += mass
    return taken


def _on_shelf(house: House, specs: Iterable[Spec], now: datetime, taken_g: Mapping[str, float]) -> list[Supply]:
    """Returns the bottles that may be poured now or later: not gone, recalled or of a withdrawn version; less what batches under way have taken."""
    rows = Lot.objects.filter(house=house, gone_at=None, what="", recalled="", run__version__withdrawal=None, run__version__spec__in=specs)
    found = []
    for code, left, use_by, ready_at, final, key in rows.values_list(
        "code", "left", "use_by", "ready_at", "final", "run__version__spec__key"
    ):
        density = float(final["density_g_ml"]["value"]) if final else 1.0
        ready = minutes_from(now, ready_at) if ready_at else 0.0
        past = minutes_from(now, house.day_ends(use_by))
        found.append(Supply(material_key_of(key), code, left - taken_g.get(f"lot:{code}", 0.0) / density, min(ready, past), past))
    return found


def _under_way(house: House, preps: Mapping[str, PrepFacts], now: datetime, open_runs: Iterable[Run]) -> list[Supply]:
    """Returns what the batches under way are expected to give, when, and until when it keeps."""
    found = []
    for run in open_runs:
        key = material_key_of(run.version.spec.key)
        volume = float(run.projection.get("batch_ml") or 0.0)
        if key not in preps or volume <= 0.0:
            continue
        facts, waiting = preps[key], run.projection.get("waiting")
        waits = minutes_from(now, moment(str(waiting["until"]))) if waiting else None
        ready = expected_ready_min(facts, minutes_from(now, run.started_at), waits)
        counts = house.day(run.started_at + timedelta(minutes=facts.counts_from_min))
        past = minutes_from(now, house.day_ends(last_day(counts, facts.keeps_days)))
        found.append(Supply(key, run.code, volume, ready, past))
    return found


def _workers(house: House, specs: Mapping[str, Spec], days: tuple[PlanDay, ...], now: datetime) -> tuple[Worker, ...]:
    """Returns the makers whose hours are recorded, by name."""
    hours = {row.person_id: row.week for row in Hours.objects.filter(house=house)}
    away: dict[int, list[Away]] = defaultdict(list)
    for row in Away.objects.filter(house=house, last__gte=days[0].day, first__lte=days[-1].day):
        away[row.person_id].append(row)
    keys = {spec.pk: key for key, spec in specs.items()}
    given = Clearance.objects.filter(spec__in=keys, ended_at=None).values_list("person", "spec")
    cleared = cleared_preps([(person, keys[spec]) for person, spec in given], keys.values(), hours)
    members = Membership.objects.filter(house=house, role__in=(Role.MAKER, Role.LEAD), person__in=hours).select_related("person")
    found = []
    for member in members.order_by("person__display_name", "person_id"):
        person = member.person
        present = [day for day in days if not any(row.covers(day.day) for row in away[person.pk])]
        windows = windows_of(house, hours[person.pk], present, now)
        found.append(Worker(str(person.pk), person.display_name, windows, cleared[person.pk], days[0] not in present))
    return tuple(found)


def _wishes(house: House, specs: Mapping[str, Spec], day: date) -> dict[str, Wish]:
    keys = {spec.pk: key for key, spec in specs.items()}
    return {
        keys[row.spec_id]: Wish(keys[row.spec_id], str(row.person_id or ""), row.bottles, row.extra)
        for row in ListWish.objects.filter(house=house, day=day, spec__in=keys)
    }


def _materials(
    house: House, preps: Mapping[str, PrepFacts], now: datetime, taken_g: Mapping[str, float], poured: Collection[str]
) -> dict[str, MaterialSupply]:
    """Returns the stock of each material that is needed or `poured` and that the house has ever received, with the next delivery of the supplier who brought it last. Other materials are omitted: they are
    assumed to be at hand.
    """
    wanted = {key for one in preps.values() for key in one.needs if key not in preps} | set(poured)
    items = StockItem.objects.filter(house=house, material__in=wanted)
    newest = items.values("material").annotate(last=Max("received_at")).values_list("material", "last")
    last_ones = Q(pk__in=[])
    for material, received_at in newest:
        last_ones |= Q(material=material, received_at=received_at)
    last: dict[str, StockItem] = {}
    here: dict[str, float] = defaultdict(float)
    for item in items.filter(last_ones | Q(gone_at=None)).order_by("received_at", "product"):
        last[item.material] = item
        if item.gone_at is None and not item.recalled:
            here[item.material] += float(item.remaining_g) - taken_g.get(f"delivery:{item.pk}", 0.0)
    terms, names, ordered = terms_of(house), described(house), _ordered(house, now)
    found = {}
    for key, item in last.items():
        said = terms.get(plain(item.supplier), USUAL_TERMS)
        delivery = next_delivery(said, now)
        following = next_delivery(said, delivery[1]) if delivery else None
        found[key] = MaterialSupply(
            key,
            str(names[key]["name"]) if key in names else item.product,
            here[key],
            item.supplier,
            None if delivery is None else minutes_from(now, delivery[0]),
            None if delivery is None else minutes_from(now, delivery[1]),
            float(item.pack_g),
            None if item.price is None else str(item.price),
            tuple(ordered[key]),
            None if following is None else minutes_from(now, following[1]),
        )
    return found


def _ordered(house: House, now: datetime) -> dict[str, list[Coming]]:
    """Returns the quantities of open orders by material key. Orders that are overdue by more than a day are omitted (see `expected_arrival_min`)."""
    found: dict[str, list[Coming]] = defaultdict(list)
    lines = PlacedLine.objects.filter(order__house=house, order__closed_at=None, order__arrives__isnull=False)
    for key, arrives, packs, pack_g in lines.values_list("material", "order__arrives", "packs", "pack_g"):
        at = expected_arrival_min(minutes_from(now, arrives)) if arrives else None
        if at is not None:
            found[key].append(Coming(at, float(packs * pack_g)))
    return found
