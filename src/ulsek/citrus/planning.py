"""A cut plan for people: cases and wants as the house has them, through the planner, and back as rows, streams and sentences."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any, cast
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import Given, message
from ulsek.core.base.number_format import amount as said
from ulsek.core.base.number_format import given
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.cut_plan import DAY_OLD_H, GRIPS, KEEPS_H, KINDS, SOON_H, UNIT, WAYS, Cut, Fruit, Kind, Plan, Want, naive_plan
from ulsek.core.citrus.fruit import varieties, variety
from ulsek.core.citrus.house_experience import figure
from ulsek.core.citrus.stretched_juice import stretch
from ulsek.planners.cut_plan import cut_plan
from ulsek.specs.library import usage
from ulsek.specs.models import Version
from ulsek.specs.queries import version_evaluated
from ulsek.team.access import Member

from .models import CutPlan
from .plan_schemas import NaiveOut, PackOut, PlanAnswer, PlanCut, PlanNamed, PlanOver, PlanShare, PlanShort, PlanSource, Span
from .queries import case_view, records, with_samples
from .schemas import EachOut

_USUAL_TIMES = 4.0
_CUT_ALREADY = "cut already: "
_MATERIAL: Mapping[Kind, str] = {"juice": "juice", "zest": "zest", "peel": "peel"}
_UNNOTICED = 0.005
"""Of a want: less than that is not short, since nobody could weigh it out."""


def fruits_of(member: Member, chosen: Sequence[Mapping[str, Any]], done: CutPlan | None = None) -> list[Fruit]:
    """The fruit that may be used, each with what one of them gives by what is known of its case; what `done` has cut already comes first, as it is."""
    cases = {str(case.pk): case for case in with_samples(member.house).filter(gone_at=None)}
    found = list(_cut_already(done)) if done is not None else []
    record = records(member.house, {case.fruit for case in cases.values()})
    for n, item in enumerate(chosen):
        case = cases.get(str(item["case"]))
        if case is None:
            raise Refusal(message("That case is not here"), f"cases/{n}", remedy=message("Count it in first"), code="unknown_reference")
        view = case_view(case, record)
        asked = item.get("count")
        count = max(0, case.left) if asked is None else int(asked)
        if count < 0:
            raise Refusal(
                message("{count} fruits cannot be", count=count),
                f"cases/{n}/count",
                message("nothing or more"),
                message("Count them again"),
                "out_of_bounds",
            )
        if count > max(0, case.left):
            raise Refusal(
                message("{count} are not there", count=count),
                f"cases/{n}/count",
                message("{left} are left of that case", left=case.left),
                message("Count them"),
                "more_than_there_is",
            )
        found.append(
            Fruit(
                str(case.pk),
                f"{view.name}, {case.supplier}",
                case.fruit,
                count,
                case.fruit_g,
                view.each.juice_ml.value,
                view.each.zest_g,
                view.each.peel_g,
                density=variety(case.fruit).density,
                price=float(case.price) / case.count,
                spread=_spread(view.each),
            )
        )
    return found


def _spread(each: EachOut) -> dict[Kind, tuple[float, float]]:
    """Least and most of juice, zest and peel that one fruit gives, against what is expected of it."""
    ranges: dict[Kind, Range] = {"juice": each.juice_ml, "zest": each.zest_range, "peel": each.peel_range}
    return {kind: (found.low / found.value, found.high / found.value) for kind, found in ranges.items() if found.value > 0}


def _cut_already(plan: CutPlan) -> Iterable[Fruit]:
    """What has been cut and measured, as sources that take no fruit: juice and skin apart, since both may be used."""
    for cut in plan.cuts.select_related("case"):
        of = variety(cut.case.fruit)
        name = f"{of.name}, cut already"
        if cut.juice_ml:
            grams = cut.juice_ml * of.density
            yield Fruit(f"{_CUT_ALREADY}{cut.pk}j", name, cut.case.fruit, 1, grams, cut.juice_ml, 0.0, 0.0, density=of.density)
        skin = cut.skin_g - cut.skin_binned_g
        if skin > 0:
            zest, peel = (skin, 0.0) if "zest" in cut.way else (0.0, skin)
            yield Fruit(f"{_CUT_ALREADY}{cut.pk}s", name, cut.case.fruit, 1, skin, 0.0, zest, peel, density=of.density)


def packs_of(member: Member, wants: Sequence[Want]) -> list[Fruit]:
    """A pack to order of each fruit that is wanted: as the house's last case of it came, else of the usual size at no known price."""
    found = []
    wanted = list(dict.fromkeys(fruit for want in wants for fruit in want.fruits))
    record = records(member.house, wanted)
    for key in wanted:
        of = variety(key)
        last = with_samples(member.house).filter(fruit=key).first()
        view = case_view(last, record) if last else None
        each = last.fruit_g if last else of.piece_g.value
        zest, peel = of.skin_g(each)
        found.append(
            Fruit(
                f"order {key}",
                f"{of.name}, {last.supplier}" if last else of.name,
                key,
                0,
                each,
                view.each.juice_ml.value if view else of.juice_ml(),
                view.each.zest_g if view else zest,
                view.each.peel_g if view else peel,
                density=of.density,
                price=float(last.price) / last.count if last else 0.0,
                pack=last.count if last else int(figure("cut", "fruits_in_a_pack")),
            )
        )
    return found


def wants_of(member: Member, asked: Sequence[Mapping[str, Any]], now: datetime) -> list[Want]:
    """What is wanted, as kinds and amounts. Refuses what is unknown or already too late, each at its place."""
    found = []
    for n, item in enumerate(asked):
        where = f"wants/{n}"
        by = datetime.fromisoformat(str(item["by"]))
        if by.tzinfo is None:
            # As it stands on the house's own clock.
            by = by.replace(tzinfo=ZoneInfo(member.house.zone))
        hours = (by - now).total_seconds() / 3600.0
        if hours < -0.25:
            raise Refusal(message("That time is behind us"), f"{where}/by", remedy=message("Say by when from now on"), code="too_late")
        what, fruits = str(item["what"]), [str(key) for key in item.get("fruits") or ()]
        for key in fruits:
            variety(key, f"{where}/fruits")
        name = free_text(item.get("name"), f"{where}/name", 60)
        takes, called, of = _takes(member, item, what, fruits, where)
        found.append(Want(f"{n}", name or called, takes, tuple(of), max(0.0, hours), bool(item.get("day_old"))))
    return found


def _takes(member: Member, item: Mapping[str, Any], what: str, fruits: list[str], where: str) -> tuple[dict[Kind, float], str, list[str]]:
    amount = float(item.get("amount") or 0.0)
    if not (math.isfinite(amount) and 0 < amount <= 1e6):
        raise Refusal(
            message("How much is missing") if not amount else message("{amount} cannot be", amount=Given(amount)),
            f"{where}/amount",
            message("more than nothing"),
            message("Write it"),
            "missing",
        )
    if what == "spec":
        return _of_spec(member, str(item.get("spec")), amount, where)
    called = variety(fruits[0]).name.lower() if fruits else "citrus"
    if what in KINDS:
        return {what: amount}, f"{called.capitalize()} {what}", fruits
    if what == "oil_sugar":
        return {"peel": amount}, f"Oil-sugar of {called}", fruits
    if what == "stretched":
        if not fruits:
            raise Refusal(message("Which fruit is stretched is missing"), f"{where}/fruits", remedy=message("Choose one"), code="missing")
        times = _USUAL_TIMES if item.get("times") is None else float(item["times"])
        made = stretch(variety(fruits[0]), amount / times, times)
        return {"juice": amount / times, "zest": made.peel_g}, f"Stretched {called}", fruits[:1]
    raise Refusal(
        message("“{what}” is nothing that is cut", what=what),
        f"{where}/what",
        message("juice, zest, peel, wheels, whole, stretched, oil_sugar or spec"),
        code="unknown_word",
    )


def _of_spec(member: Member, spec: str, batches: float, where: str) -> tuple[dict[Kind, float], str, list[str]]:
    """Citrus that a batch of a published spec takes, by its materials: <fruit>_juice, _zest and _peel, and whole fruit, counted by its usual weight."""
    version = Version.objects.filter(spec__house=member.house, spec_id=spec).order_by("-number").first() if _is_id(spec) else None
    if version is None:
        raise Refusal(
            message("That spec is not published here"),
            f"{where}/spec",
            remedy=message("Publish it first, or ask for its juice"),
            code="unknown_reference",
        )
    takes: dict[Kind, float] = {}
    fruits: list[str] = []
    for flow in version_evaluated(version).plain.steps:
        for added in flow.added:
            if added.material in varieties():
                takes["whole"] = takes.get("whole", 0.0) + added.mass_g * batches / variety(added.material).piece_g.value
                fruits.append(added.material)
                continue
            fruit, _, kind = added.material.rpartition("_")
            if kind in _MATERIAL.values() and fruit in varieties():
                grams = added.mass_g * batches
                each = variety(fruit).density if kind == "juice" else 1.0
                takes[cast(Kind, kind)] = takes.get(cast(Kind, kind), 0.0) + grams / each
                fruits.append(fruit)
    if not takes:
        raise Refusal(
            message("{spec} takes no citrus", spec=version.spec.name),
            f"{where}/spec",
            remedy=message("Choose another spec"),
            code="nothing_wanted",
        )
    return takes, version.spec.name, list(dict.fromkeys(fruits))


def _is_id(text: str) -> bool:
    try:
        UUID(text)
    except ValueError:
        return False
    return True


def planned(
    member: Member,
    cases: Sequence[Mapping[str, Any]],
    wants: Sequence[Mapping[str, Any]],
    now: datetime,
    *,
    done: CutPlan | None = None,
    order: bool = False,
) -> PlanAnswer:
    """A plan in the form that the place shows and keeps; `order` counts the packs that must come in besides."""
    wanted = wants_of(member, wants, now)
    fruits = fruits_of(member, cases, done)
    if order:
        fruits += packs_of(member, wanted)
    plan = cut_plan(fruits, wanted)
    naive = naive_plan(fruits, wanted)
    by_key = {fruit.key: fruit for fruit in fruits}
    asked = {(want.key, kind): amount for want in wanted for kind, amount in want.takes.items()}
    short = {at: missing for at, missing in plan.short.items() if missing > max(0.5, _UNNOTICED * asked[at])}
    names = {want.key: want.name for want in wanted}
    cut_now = [cut for cut in plan.cuts if not cut.fruit.startswith(_CUT_ALREADY)]
    kept_rows = [] if done is None else [row for row in done.answer.get("cuts", []) if done.cuts.filter(row=row["row"]).exists()]
    return PlanAnswer(
        cuts=(*kept_rows, *(_row(cut, by_key[cut.fruit], now) for cut in cut_now)),
        sources=tuple(
            PlanSource(case=key, name=by_key[key].name, grams=sum(c.count for c in plan.cuts if c.fruit == key) * by_key[key].fruit_g)
            for key in plan.used
        ),
        wants=tuple(PlanNamed(key=want.key, name=want.name, by=now + timedelta(hours=want.by_h)) for want in wanted),
        shares=tuple(
            PlanShare(
                case=share.fruit,
                kind=share.kind,
                want=share.want,
                amount=share.amount,
                unit=UNIT[share.kind],
                grams=share.amount * by_key[share.fruit].grams(share.kind),
            )
            for share in plan.shares
        ),
        over=_over(member, plan, by_key),
        could=tuple(_could(plan, by_key)),
        notes=(*_where_little(plan, wanted, by_key), *_day_old(wanted)),
        bin_g=plan.bin_g - sum(amount * by_key[key].grams(kind) for (key, kind), amount in plan.over.items()),
        cost=plan.cost,
        fruits=sum(cut.count for cut in cut_now),
        naive=NaiveOut(bin_g=naive.bin_g, cost=naive.cost, fruits=sum(cut.count for cut in naive.cuts), short=bool(naive.short)),
        short=tuple(_short(want, kind, missing, wanted, fruits, now) for (want, kind), missing in short.items()),
        packs=tuple(_packs(by_key[key], count) for key, count in plan.packs.items()),
        proved=plan.proved,
        text=_sentence(plan, naive, [names[want] for want, _ in short]),
    )


def _row(cut: Cut, fruit: Fruit, now: datetime) -> PlanCut:
    """A cut as one row of the plan, with an id of its own."""
    return PlanCut(
        row=uuid4().hex[:12],
        case=cut.fruit,
        fruit=fruit.name,
        way=cut.way,
        count=cut.count,
        at=now + timedelta(hours=cut.at_h),
        then=now + timedelta(hours=cut.then_h),
        gives={kind: cut.count * fruit.gives(kind, cut.way) for kind in WAYS[cut.way]},
        gives_range=_gives_range(fruit, cut),
    )


def _packs(fruit: Fruit, count: int) -> PackOut:
    return PackOut(fruit=fruit.name, packs=count, each=fruit.pack, price=count * fruit.pack * fruit.price or None)


def _sentence(plan: Plan, naive: Plan, short: Sequence[str]) -> str:
    count = sum(cut.count for cut in plan.cuts if not cut.fruit.startswith(_CUT_ALREADY))
    alone = sum(cut.count for cut in naive.cuts)
    spared = alone - count
    words = f"{count} fruits do it"
    if spared > 0 and not naive.short:
        words += f", {spared} fewer than each on its own"
    if short:
        words = f"Not all of it: short for {', '.join(dict.fromkeys(short))}. This is the nearest"
    return words + ("." if plan.proved else "; the best found so far, a better one may exist.")


def _over(member: Member, plan: Plan, by_key: Mapping[str, Fruit]) -> tuple[PlanOver, ...]:
    """What stays over, and which specs of this house could take it."""
    found = []
    for (key, kind), amount in plan.over.items():
        fruit = by_key[key]
        offers = usage(member.house, f"{fruit.kind}_{_MATERIAL[kind]}") if kind in _MATERIAL else []
        grams = amount * fruit.grams(kind)
        found.append(PlanOver(case=key, fruit=fruit.name, kind=kind, amount=amount, unit=UNIT[kind], grams=grams, offers=tuple(offers[:4])))
    return tuple(found)


def _could(plan: Plan, by_key: Mapping[str, Fruit]) -> list[str]:
    """Skin that goes with fruit that is only juiced, and juice that stays in fruit that only gave its skin: what it would still give."""
    words = []
    for cut in plan.cuts:
        fruit = by_key[cut.fruit]
        if cut.way == "juice" and cut.count * fruit.peel_g >= 20:
            peel = said(cut.count * fruit.peel_g, "g", 0)
            words.append(f"{cut.count} of {fruit.name} are juiced with their skin on: {peel} of peel could go on sugar first.")
        if cut.way in ("zest", "peel") and cut.count * fruit.juice_ml >= 20:
            juice = said(cut.count * GRIPS * fruit.juice_ml, "mL", 0)
            words.append(
                f"{cut.count} of {fruit.name} give only their {cut.way}: {juice} of juice are still in them, pressed within {given(SOON_H)} h."
            )
    return words


def _gives_range(fruit: Fruit, cut: Cut) -> dict[str, Span]:
    """Least and most that a cut may give of each kind that is known to differ, by hand and fruit."""
    found: dict[str, Span] = {}
    for kind in WAYS[cut.way]:
        low, high = fruit.spread.get(kind, (1.0, 1.0))
        gives = cut.count * fruit.gives(kind, cut.way)
        if high > low:
            found[kind] = Span(low * gives, high * gives)
    return found


def _where_little(plan: Plan, wants: Sequence[Want], by_key: Mapping[str, Fruit]) -> list[str]:
    """Wants of skin that come short when the fruit or the hand gives little: by how much, and how many more fruits would cover it."""
    words = []
    for want in wants:
        for kind in ("zest", "peel"):
            shares = [share for share in plan.shares if share.want == want.key and share.kind == kind]
            cut = {share.fruit: share.amount + plan.over.get((share.fruit, kind), 0.0) for share in shares}
            least = math.fsum(amount * by_key[fruit].spread.get(kind, (1.0, 1.0))[0] for fruit, amount in cut.items())
            missing = math.fsum(share.amount for share in shares) - least
            each = max((by_key[share.fruit].gives(kind, kind) for share in shares), default=0.0)
            if missing > max(1.0, _UNNOTICED * want.takes.get(kind, 0.0)) and each > 0:
                more = math.ceil(missing / each)
                words.append(
                    f"{want.name}: {kind} differs by hand and fruit; where it gives little, {said(missing, 'g', 0)} are short. "
                    f"Keep {more} more {'fruit' if more == 1 else 'fruits'} at hand, or weigh the {kind} of a few once."
                )
    return words


def _day_old(wants: Sequence[Want]) -> list[str]:
    """Juice that has to be pressed again only because it would be too old by then: why, and what would allow it."""
    words = []
    sessions = sorted({want.by_h for want in wants})
    for want in wants:
        if want.takes.get("juice", 0.0) <= 0 or want.day_old:
            continue
        before = [at for at in sessions if KEEPS_H["juice"] < want.by_h - at <= DAY_OLD_H]
        if before:
            old = want.by_h - before[-1]
            words.append(
                f"{want.name} gets fresh juice: pressed with the cut before, it would be {said(old, 'h', 0)} old, and juice serves {given(KEEPS_H['juice'])} h here. "
                f"Say that day-old juice will do, and up to {given(DAY_OLD_H)} h are allowed."
            )
    return words


def _short(want: str, kind: Kind, missing: float, wants: Sequence[Want], fruits: Sequence[Fruit], now: datetime) -> PlanShort:
    named = next(item for item in wants if item.key == want)
    each = max((fruit.gives(kind, kind if kind != "zest" else "zest") for fruit in fruits if named.may_use(fruit)), default=0.0)
    more = f" {math.ceil(missing / each)} more fruits would do it." if each > 0 else " No such fruit is here."
    return PlanShort(
        want=want,
        name=named.name,
        kind=kind,
        amount=missing,
        unit=UNIT[kind],
        by=now + timedelta(hours=named.by_h),
        text=f"{said(missing, UNIT[kind], 0)} of {kind} are short for {named.name}.{more}",
    )
