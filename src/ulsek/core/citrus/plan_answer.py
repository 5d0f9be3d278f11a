"""The answer to a cut plan, made from the plan, and the sentences about it."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..base.answer import OpenForm
from ..base.messages import Computed, Given, Message, counted, listed, message, sentences
from ..base.ranges import Range
from .cut_plan import DAY_OLD_H, JUICE_AFTER_ZEST_SHARE, KEEPS_H, MAX_ZEST_TO_JUICE_H, UNIT, WAYS, Cut, Fruit, Kind, Plan, Want
from .fruit import Variety
from .plan_form import (
    Interval,
    PlanAnswer,
    PlanBin,
    PlanCut,
    PlanNaive,
    PlanOver,
    PlanPacks,
    PlanShare,
    PlanShort,
    PlanSource,
    PlanWantName,
)
from .wanted import material_of

CUT_ALREADY = "cut already: "
"""Prefix of the key of juice or skin that was cut before the plan was computed again; every other key is that of a case of whole fruit."""
_UNNOTICED_SHARE, _UNNOTICED = 0.005, 0.5
"""Less than this share of a want, or less than half a unit, is not short: nobody could weigh it out. House experience."""
_TOLD_G, _TOLD_UNITS = 1.0, 20.0
"""Skin that may come short is told from 1 g on; what a fruit would still give from 20 g or mL on. House experience."""


@dataclass(frozen=True, slots=True)
class PlanProblem:
    """What a plan was computed for: demands, fruit in hand and to order, the plan, the naive plan, and the moment."""

    plan: Plan
    naive: Plan
    wants: Sequence[Want]
    fruits: Sequence[Fruit]
    now: datetime

    @property
    def by_key(self) -> Mapping[str, Fruit]:
        """The fruit by key."""
        return {fruit.key: fruit for fruit in self.fruits}

    @property
    def cut_now(self) -> list[Cut]:
        """Returns the rows of the plan without those that were cut before it was computed again."""
        return [cut for cut in self.plan.cuts if not cut.fruit.startswith(CUT_ALREADY)]

    @property
    def short(self) -> Mapping[tuple[str, Kind], float]:
        """Returns the shortages that are large enough to notice, by demand and kind."""
        # A solver works to a tolerance and rounds to whole fruits: what nobody could weigh out is not short.
        asked = {(want.key, kind): amount for want in self.wants for kind, amount in want.takes.items()}
        return {at: missing for at, missing in self.plan.short.items() if missing > max(_UNNOTICED, _UNNOTICED_SHARE * asked[at])}


def cut_already(key: str, of: Variety, way: str, juice_ml: float, skin_g: float) -> Iterable[Fruit]:
    """Yields what was cut and measured, as sources that need no fruit: juice [mL] and skin [g] apart, since both may be used."""
    name = f"{of.name}, cut already"
    if juice_ml:
        yield Fruit(f"{CUT_ALREADY}{key}j", name, of.key, 1, juice_ml * of.density, juice_ml, 0.0, 0.0, density=of.density)
    if skin_g > 0:
        # The way that was cut names the skin: a grater gives zest, a peeler peel.
        zest, peel = (skin_g, 0.0) if "zest" in way else (0.0, skin_g)
        yield Fruit(f"{CUT_ALREADY}{key}s", name, of.key, 1, skin_g, 0.0, zest, peel, density=of.density)


def spread_of(ranges: Mapping[Kind, Range]) -> dict[Kind, tuple[float, float]]:
    """Returns least and most of each kind that one fruit yields, as multiples of the expected yield."""
    return {kind: (found.low / found.value, found.high / found.value) for kind, found in ranges.items() if found.value > 0}


def bins_of(sources: Iterable[tuple[str, float]], used: Iterable[tuple[str, float]]) -> tuple[PlanBin, ...]:
    """Returns the waste of each case [g]: what is cut of it less what is `used` or surplus, both as (case, mass). Source: mass balance."""
    out = list(used)
    return tuple(
        PlanBin(case=case, grams=max(0.0, grams - math.fsum(mass for other, mass in out if other == case))) for case, grams in sources
    )


def plan_answer(
    asked: PlanProblem, *, kept: Sequence[OpenForm], row_id: Callable[[], str], offers: Callable[[str], Sequence[str]]
) -> PlanAnswer:
    """Returns a plan as it is shown and stored, after the rows `kept` of an earlier one. `row_id` makes the id of each new row; `offers` names the specs that
    could use a surplus material.
    """
    plan, by_key, now = asked.plan, asked.by_key, asked.now
    sources = tuple(
        PlanSource(case=key, name=by_key[key].name, grams=sum(cut.count for cut in plan.cuts if cut.fruit == key) * by_key[key].fruit_g)
        for key in plan.used
    )
    shares = tuple(
        PlanShare(
            case=share.fruit,
            kind=share.kind,
            want=share.want,
            amount=share.amount,
            unit=UNIT[share.kind],
            grams=share.amount * by_key[share.fruit].grams(share.kind),
        )
        for share in plan.shares
    )
    over = tuple(_over(asked, offers))
    used = [(share.case, share.grams) for share in shares] + [(rest.case, rest.grams) for rest in over]
    return PlanAnswer(
        cuts=(*kept, *(_row(cut, by_key[cut.fruit], now, row_id()) for cut in asked.cut_now)),
        sources=sources,
        wants=tuple(PlanWantName(key=want.key, name=want.name, by=now + timedelta(hours=want.by_h)) for want in asked.wants),
        shares=shares,
        over=over,
        bins=bins_of(((item.case, item.grams) for item in sources), used),
        could=tuple(_could(plan, by_key)),
        notes=(*_where_little(asked), *_day_old(asked.wants)),
        # Surplus is offered for use, so it is not waste here, though the plan counts it until somebody takes it.
        bin_g=plan.bin_g - sum(amount * by_key[key].grams(kind) for (key, kind), amount in plan.over.items()),
        cost=plan.cost,
        fruits=sum(cut.count for cut in asked.cut_now),
        naive=PlanNaive(
            bin_g=asked.naive.bin_g,
            cost=asked.naive.cost,
            fruits=sum(cut.count for cut in asked.naive.cuts),
            short=bool(asked.naive.short),
        ),
        short=tuple(_short(asked, want, kind, missing) for (want, kind), missing in asked.short.items()),
        packs=tuple(_packs(by_key[key], count) for key, count in plan.packs.items()),
        proved=plan.proved,
        text=_sentence(asked),
    )


def _row(cut: Cut, fruit: Fruit, now: datetime, row_id: str) -> PlanCut:
    return PlanCut(
        row=row_id,
        case=cut.fruit,
        fruit=fruit.name,
        way=cut.way,
        count=cut.count,
        at=now + timedelta(hours=cut.at_h),
        then=now + timedelta(hours=cut.then_h),
        gives={kind: cut.count * fruit.gives(kind, cut.way) for kind in WAYS[cut.way]},
        gives_range=_gives_range(fruit, cut),
    )


def _gives_range(fruit: Fruit, cut: Cut) -> dict[str, Interval]:
    """Returns least and most that a cut may yield of each kind that is known to differ."""
    found: dict[str, Interval] = {}
    for kind in WAYS[cut.way]:
        low, high = fruit.spread.get(kind, (1.0, 1.0))
        gives = cut.count * fruit.gives(kind, cut.way)
        # A known spread only: an amount without one is shown as a plain figure.
        if high > low:
            found[kind] = Interval(low * gives, high * gives)
    return found


def _packs(fruit: Fruit, count: int) -> PlanPacks:
    return PlanPacks(fruit=fruit.name, packs=count, each=fruit.pack, price=count * fruit.pack * fruit.price or None)


def _over(asked: PlanProblem, offers: Callable[[str], Sequence[str]]) -> Iterable[PlanOver]:
    """Yields the surplus, and the specs of this house that could use it."""
    for (key, kind), amount in asked.plan.over.items():
        fruit = asked.by_key[key]
        material = material_of(fruit.kind, kind)
        yield PlanOver(
            case=key,
            fruit=fruit.name,
            kind=kind,
            amount=amount,
            unit=UNIT[kind],
            grams=amount * fruit.grams(kind),
            offers=tuple(offers(material)) if material else (),
        )


def _sentence(asked: PlanProblem) -> Message:
    """Returns the count of fruits that the plan cuts, its shortages, and whether a better plan may exist."""
    count, naive_count = sum(cut.count for cut in asked.cut_now), sum(cut.count for cut in asked.naive.cuts)
    names = {want.key: want.name for want in asked.wants}
    short = list(dict.fromkeys(names[want] for want, _ in asked.short))
    if short:
        does = message("Not all of it: short for {wants}. This is the nearest", wants=listed(short, "comma"))
    # Sparing is only claimed against a baseline that covers everything too.
    elif naive_count > count and not asked.naive.short:
        does = message("{count} fruits do it, {spared} fewer than each on its own", count=count, spared=naive_count - count)
    else:
        does = message("{count} fruits do it", count=count)
    if asked.plan.proved:
        return message("{plan}.", plan=does)
    return message("{plan}; the best found so far, a better one may exist.", plan=does)


def _could(plan: Plan, by_key: Mapping[str, Fruit]) -> Iterable[Message]:
    """Yields what is not used: skin of fruit that is only juiced, and juice of fruit that is only peeled, with its amounts."""
    for cut in plan.cuts:
        fruit = by_key[cut.fruit]
        if cut.way == "juice" and cut.count * fruit.peel_g >= _TOLD_UNITS:
            yield message(
                "{count} of {fruit} are juiced with their skin on: {peel} of peel could go on sugar first.",
                count=cut.count,
                fruit=fruit.name,
                peel=Computed(cut.count * fruit.peel_g, "g", 0),
            )
        if cut.way in ("zest", "peel") and cut.count * fruit.juice_ml >= _TOLD_UNITS:
            yield message(
                "{count} of {fruit} give only their {skin}: {juice} of juice are still in them, pressed within {soon}.",
                count=cut.count,
                fruit=fruit.name,
                skin=cut.way,
                juice=Computed(cut.count * JUICE_AFTER_ZEST_SHARE * fruit.juice_ml, "mL", 0),
                soon=Given(MAX_ZEST_TO_JUICE_H, "h"),
            )


def _where_little(asked: PlanProblem) -> Iterable[Message]:
    """Yields demands for skin that fall short at the low end of the yields: by how much, and the count of fruits that would cover it."""
    by_key = asked.by_key
    skins: tuple[Kind, ...] = ("zest", "peel")
    for want in asked.wants:
        for kind in skins:
            shares = [share for share in asked.plan.shares if share.want == want.key and share.kind == kind]
            cut = {share.fruit: share.amount + asked.plan.over.get((share.fruit, kind), 0.0) for share in shares}
            # All fruits at the low end together: one hand cuts them all, so they differ in the same direction.
            least = math.fsum(amount * by_key[fruit].spread.get(kind, (1.0, 1.0))[0] for fruit, amount in cut.items())
            missing = math.fsum(share.amount for share in shares) - least
            each = max((by_key[share.fruit].gives(kind, kind) for share in shares), default=0.0)
            if missing > max(_TOLD_G, _UNNOTICED_SHARE * want.takes.get(kind, 0.0)) and each > 0:
                yield sentences(
                    message(
                        "{want}: {skin} differs by hand and fruit; where it gives little, {missing} are short.",
                        want=want.name,
                        skin=kind,
                        missing=Computed(missing, "g", 0),
                    ),
                    counted(
                        "Keep {n} more fruit at hand, or weigh the {skin} of a few once.",
                        "Keep {n} more fruits at hand, or weigh the {skin} of a few once.",
                        math.ceil(missing / each),
                        skin=kind,
                    ),
                )


def _day_old(wants: Sequence[Want]) -> Iterable[Message]:
    """Yields demands whose juice is pressed again only because it would be too old, and the setting that would allow it."""
    sessions = sorted({want.by_h for want in wants})
    for want in wants:
        if want.takes.get("juice", 0.0) <= 0 or want.day_old:
            continue
        # A session so long before that fresh juice would be too old, but not too old if day-old juice were allowed.
        before = [at for at in sessions if KEEPS_H["juice"] < want.by_h - at <= DAY_OLD_H]
        if before:
            yield message(
                "{want} gets fresh juice: pressed with the cut before, it would be {age} old, and juice serves {keeps} here. "
                "Say that day-old juice will do, and up to {day_old} are allowed.",
                want=want.name,
                age=Computed(want.by_h - before[-1], "h", 0),
                keeps=Given(KEEPS_H["juice"], "h"),
                day_old=Given(DAY_OLD_H, "h"),
            )


def _short(asked: PlanProblem, want: str, kind: Kind, missing: float) -> PlanShort:
    named = next(item for item in asked.wants if item.key == want)
    # By the fruit that gives most, so that the count is the least that would do.
    each = max((fruit.gives(kind, kind) for fruit in asked.fruits if named.may_use(fruit)), default=0.0)
    lacking = message("{amount} of {kind} are short for {want}.", amount=Computed(missing, UNIT[kind], 0), kind=kind, want=named.name)
    if each > 0:
        more = counted("{n} more fruit would do it.", "{n} more fruits would do it.", math.ceil(missing / each))
    else:
        more = message("No such fruit is here.")
    return PlanShort(
        want=want,
        name=named.name,
        kind=kind,
        amount=missing,
        unit=UNIT[kind],
        by=asked.now + timedelta(hours=named.by_h),
        text=sentences(lacking, more),
    )
