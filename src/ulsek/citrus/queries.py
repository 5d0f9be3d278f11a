"""Citrus of a house, and its record."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from uuid import UUID

from django.db.models import F, QuerySet, Window
from django.db.models.functions import RowNumber

from ulsek.core.base.answer import HIDDEN, in_answer
from ulsek.core.base.messages import Message
from ulsek.core.base.ranges import Range
from ulsek.core.citrus.fruit import varieties, variety
from ulsek.core.citrus.yields import RECORD, FruitMeasurement, YieldEstimate, against_record, expected_share, expected_skin, own_share
from ulsek.team.access import Member
from ulsek.team.models import House

from .models import Case, CutDone, FruitSample, PeelMeasure
from .schemas import CaseOut, EachOut, FruitSampleOut, LedgerRow, VarietyOut

LOOKED_AT = 3 * RECORD
"""Cases among which the measured ones of the record are sought: not every case is measured."""


def seen_of(sample: FruitSample) -> FruitMeasurement:
    """Returns a stored measurement as the core reads it."""
    return FruitMeasurement(sample.count, sample.weight_g, sample.juice_ml, sample.peel_g, sample.zest_g, sample.brix, sample.acid_g_100ml)


def samples_of(case: Case) -> list[FruitMeasurement]:
    """Returns all measurements of the juice of a case: its samples that count, and its ordinary cuts."""
    seen = [seen_of(sample) for sample in case.samples.all() if not sample.set_aside]
    seen += [FruitMeasurement(cut.count, cut.count * case.fruit_g, cut.juice_ml) for cut in case.cuts.all() if cut.juice_ml]
    return [sample.weighed(case.fruit_g) for sample in seen]


def with_samples(house: House) -> QuerySet[Case]:
    """Returns the house's cases with their measurements, newest first."""
    return Case.objects.filter(house=house).prefetch_related("samples__by", "cuts").order_by("-came_at", "supplier", "size")


@dataclass(frozen=True, slots=True)
class RecordPoint:
    """One case of the record: its date, supplier and size, and the share of it that was juice."""

    case: UUID = field(metadata=HIDDEN)
    fruit: str = field(metadata=HIDDEN)
    came_at: datetime
    supplier: str
    size: str
    share: float
    zest_share: float | None = field(default=None, metadata=HIDDEN)
    peel_share: float | None = field(default=None, metadata=HIDDEN)

    @property
    @in_answer()
    def ml_kg(self) -> float:
        """Juice of a kilogram of the case [mL]."""
        return variety(self.fruit).ml_kg(self.share)


Record = Mapping[str, Sequence[RecordPoint]]


def records(house: House, fruits: Iterable[str]) -> Record:
    """Returns the house's measured cases of each fruit, newest first, in a fixed number of queries."""
    found: dict[str, list[RecordPoint]] = {variety(fruit).key: [] for fruit in fruits}
    # Limited per fruit, so that a frequent one does not displace a rare one.
    nth = Window(RowNumber(), partition_by=F("fruit"), order_by=(F("came_at").desc(), F("pk")))
    for case in with_samples(house).filter(fruit__in=found).annotate(nth=nth).filter(nth__lte=LOOKED_AT):
        share = own_share(variety(case.fruit), samples_of(case))
        if share is not None:
            zest, peel = skin_of(case)
            skin = (None if grams is None else grams / case.fruit_g for grams in (zest, peel))
            found[case.fruit].append(RecordPoint(case.pk, case.fruit, case.came_at, case.supplier, case.size, share, *skin))
    return found


def known_of(case: Case, record: Record) -> tuple[YieldEstimate, Message]:
    """Returns the estimate of the juice of one case, and a sentence if it differs from the cases before it."""
    of = variety(case.fruit)
    past = [point.share for point in record[case.fruit] if point.came_at < case.came_at and point.case != case.pk][:RECORD]
    samples = samples_of(case)
    return expected_share(of, past, samples), against_record(of, past, samples)


def _mean(values: Iterable[float | None]) -> float | None:
    given = [value for value in values if value is not None]
    return sum(given) / len(given) if given else None


def skin_of(case: Case) -> tuple[float | None, float | None]:
    """Returns (zest, peel) [g] of one fruit of a case as it was weighed; None if it was not."""
    standing = [sample for sample in case.samples.all() if not sample.set_aside]
    return (
        _mean(s.zest_g / s.count for s in standing if s.zest_g is not None),
        _mean(s.peel_g / s.count for s in standing if s.peel_g is not None),
    )


def _skin_shares(points: Sequence[RecordPoint]) -> tuple[list[float], list[float]]:
    """Returns zest and peel of earlier cases as shares of the fruit's mass [g/g], two lists. A case without one of them is omitted from its list."""
    return (
        [point.zest_share for point in points if point.zest_share is not None],
        [point.peel_share for point in points if point.peel_share is not None],
    )


def case_view(case: Case, record: Record) -> CaseOut:
    """Returns one case as it is shown: what is left, the yields of one fruit with their ranges and sources."""
    of = variety(case.fruit)
    known, unlike = known_of(case, record)
    standing = [sample for sample in case.samples.all() if not sample.set_aside]
    each = case.fruit_g / of.density
    zest_usual, peel_usual = of.skin_g(case.fruit_g)
    zest, peel = skin_of(case)
    past = [point for point in record.get(case.fruit, ()) if point.case != case.pk][:RECORD]
    zests, peels = _skin_shares(past)
    zest_range = expected_skin(zest, zests, zest_usual, case.fruit_g)
    peel_range = expected_skin(peel, peels, peel_usual, case.fruit_g)
    return CaseOut(
        id=case.pk,
        fruit=case.fruit,
        name=of.name,
        supplier=case.supplier,
        size=case.size,
        came_at=case.came_at,
        count=case.count,
        left=case.left,
        weight_g=case.weight_g,
        fruit_g=case.fruit_g,
        price=case.price,
        each=EachOut(
            juice_ml=Range(known.share.value * each, known.share.low * each, known.share.high * each),
            zest_g=zest_range.value,
            peel_g=peel_range.value,
            zest_range=zest_range,
            peel_range=peel_range,
        ),
        share=known.share,
        source=known.source,
        from_count=known.count,
        unlike=unlike,
        brix=_mean(s.brix for s in standing),
        acid_g_100ml=_mean(s.acid_g_100ml for s in standing),
        samples=tuple(map(_sample, case.samples.all())),
    )


def _sample(sample: FruitSample) -> FruitSampleOut:
    return FruitSampleOut(
        id=sample.pk,
        count=sample.count,
        juice_ml=sample.juice_ml,
        weight_g=sample.weight_g,
        at=sample.at,
        by=str(sample.by),
        set_aside=sample.set_aside,
    )


def variety_rows(house: House) -> list[VarietyOut]:
    """Returns every citrus with its point on the plate and the yields of one fruit, by the house's record if there is one."""
    rows = []
    packed = {item.fruit: item.grams / item.ml for item in PeelMeasure.objects.filter(house=house).order_by("at")}
    record = records(house, varieties())
    for of in varieties().values():
        points = record[of.key][:RECORD]
        past = [point.share for point in points]
        known = expected_share(of, past)
        zest_usual, peel_usual = of.skin_g(of.piece_g.value)
        zests, peels = _skin_shares(points)
        zest = expected_skin(None, zests, zest_usual, of.piece_g.value)
        peel = expected_skin(None, peels, peel_usual, of.piece_g.value)
        plate = of.plate()
        each = of.piece_g.value / of.density
        rows.append(
            VarietyOut(
                key=of.key,
                name=of.name,
                sugar_g_100ml=plate["sugar_g_100ml"],
                acid_g_100ml=plate["acid_g_100ml"],
                piece_g=of.piece_g.value,
                juice_ml=Range(known.share.value * each, known.share.low * each, known.share.high * each),
                zest_g=zest.value,
                peel_g=peel.value,
                zest_range=zest,
                peel_range=peel,
                ml_kg=of.ml_kg(known.share.value),
                source=known.source,
                cases=len(past),
                confidence=of.confidence,
                packed_g_ml=packed.get(of.key),
            )
        )
    return sorted(rows, key=lambda row: (row.source == "typical", row.name))


@dataclass
class _Week:
    """Sums of one fruit over a week."""

    fruits: int = 0
    kg: float = 0.0
    litres: float = 0.0
    skin_used_g: float = 0.0
    skin_thrown_g: float = 0.0
    money: float = 0.0


def ledger(member: Member, now: datetime, weeks: int = 12) -> list[LedgerRow]:
    """Week by week and fruit by fruit, newest first: kilograms cut, litres, skin used and thrown, money."""
    since = now - timedelta(weeks=weeks)
    sums: dict[tuple[date, str], _Week] = {}
    for cut in CutDone.objects.filter(case__house=member.house, at__gte=since).select_related("case").order_by("at"):
        monday = member.day(cut.at)
        monday -= timedelta(days=monday.weekday())
        of = variety(cut.case.fruit)
        week = sums.setdefault((monday, of.name), _Week())
        mass = cut.count * cut.case.fruit_g
        week.fruits += cut.count
        week.kg += mass / 1000
        week.litres += cut.juice_ml / 1000
        week.skin_used_g += cut.skin_g - cut.skin_binned_g
        week.skin_thrown_g += of.thrown_skin_g(mass, cut.skin_g, cut.skin_binned_g)
        week.money += cut.case.fruit_price * cut.count
    return [LedgerRow(week=monday, fruit=fruit, **vars(week)) for (monday, fruit), week in sorted(sums.items(), reverse=True)]
