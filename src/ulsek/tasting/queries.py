"""What panels show, to whom, and when. Before the seal is broken nothing here names a sample but the sheet of who pours."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime
from typing import Any, cast
from uuid import UUID

import segno
from django.db.models import Count, Max, Q, QuerySet

from ulsek.core.base.answer import fields_of
from ulsek.core.base.messages import NOTHING, Message, read_stored
from ulsek.core.tasting.beforehand import beforehand, line_words
from ulsek.core.tasting.methods import ATTRIBUTES, METHODS
from ulsek.core.tasting.names import short_names
from ulsek.core.tasting.open_scores import OpenResult
from ulsek.core.tasting.serving import CONTENTS, alcohol_ml, poured_words, pours
from ulsek.core.tasting.standards import thaw_words
from ulsek.core.tasting.stops import before_the_first_glass
from ulsek.specs.models import Version
from ulsek.specs.queries import scored
from ulsek.team.access import Member
from ulsek.team.models import House, Role

from .ages import age_view
from .codes import letters, link_of
from .models import Panel, PanelSample, PanelState, Seat
from .needed import needed_ml, portions_needed
from .plans import stored_sample
from .schemas import (
    AskedAttribute,
    PanelOut,
    PanelRow,
    PanelStateName,
    PouredGlass,
    PouredSet,
    PouringOut,
    SampleOut,
    ScoredVersion,
    SeatOut,
    SeatRow,
    SheetPageOut,
    TastedSpec,
)
from .trials import how_to_make

_TOLD = PanelState.TOLD


def panels_of(house: House) -> QuerySet[Panel]:
    """Returns the panels of a house with what their rows show; the count of answers is `answers_given`."""
    counted = Count("seats__answers", filter=Q(seats__answers__late=False), distinct=True)
    return (
        Panel.objects.filter(house=house)
        .select_related("house", "made_by", "decided_by", "poured_by", "unsealed_by")
        .annotate(answers_given=counted)
    )


def about(panels: QuerySet[Panel], *, spec: UUID | None, lot: str) -> QuerySet[Panel]:
    """Returns those panels whose seal is broken and that tasted a version of a spec, or a lot."""
    if spec is not None:
        panels = panels.filter(state=_TOLD, samples__version__spec=spec)
    if lot:
        panels = panels.filter(state=_TOLD, samples__lot__code=lot)
    return panels.distinct()


def panel_row(panel: Panel, versions: Sequence[int] = ()) -> PanelRow:
    """Returns a panel of `panels_of` as lists show it."""
    design = panel.planned
    method = METHODS[design.method]
    verdict: Mapping[str, Any] = panel.verdict or {}
    return PanelRow(
        id=panel.pk,
        code=panel.code,
        question=panel.question,
        method=method.key,
        method_name=method.name,
        aim=method.aim,
        state=cast("PanelStateName", panel.state),
        tasters=design.tasters,
        rounds=design.rounds,
        answered=panel.answers_given,  # type: ignore[attr-defined]
        of=design.tasters * design.pages_each,
        made_at=panel.made_at,
        made_by=panel.made_by.display_name,
        opened_at=panel.opened_at,
        told_at=panel.told_at,
        headline=read_stored(verdict["headline"]) if verdict else NOTHING,
        is_shown=bool(verdict.get("is_shown")),
        decision=panel.decision,
        decided_by=panel.decided_by.display_name if panel.decided_by else "",
        versions=tuple(versions),
    )


def tasted_specs(house: House) -> list[TastedSpec]:
    """Returns for each spec of a house that was tasted the newest panel that is told, or else what was scored openly."""
    rows = PanelSample.objects.filter(panel__house=house, panel__state=_TOLD).filter(Q(version__isnull=False) | Q(spec__isnull=False))
    newest: dict[UUID, TastedSpec] = {}
    for sample in (
        rows.select_related("panel", "version")
        .defer("panel__results", "version__body", "version__materials", "version__final")
        .order_by("panel__told_at", "place")
    ):
        spec = sample.version.spec_id if sample.version else sample.spec_id
        panel = sample.panel
        if spec is None or panel.told_at is None or panel.verdict is None:
            continue
        before = newest.get(spec)
        number = sample.version.number if sample.version else None
        same = before.version if before is not None and before.panel == panel.pk else None
        newest[spec] = TastedSpec(
            spec=spec,
            version=max(filter(None, (number, same)), default=None),
            panel=panel.pk,
            code=panel.code,
            headline=read_stored(panel.verdict["headline"]),
            is_shown=bool(panel.verdict["is_shown"]),
            decision=panel.decision,
            told_at=panel.told_at,
        )
    return [*newest.values(), *(_openly(row) for row in _newest_scored(house) if row.spec_id not in newest)]


def scored_versions(house: House) -> QuerySet[Version]:
    """Returns the versions of a house that somebody scored openly, with `scored_at`, the moment of the newest score."""
    scored = Version.objects.filter(spec__house=house, scores__isnull=False).annotate(scored_at=Max("scores__at"))
    return scored.select_related("spec").prefetch_related("scores").defer("body", "materials", "final", "outputs")


def scored_row(version: Version) -> ScoredVersion:
    """Returns a version of `scored_versions` as lists show it. Raises LookupError for one that nobody scored."""
    return ScoredVersion(spec=version.spec_id, name=version.spec.name, version=version.number, result=_result_of(version))


def _result_of(version: Version) -> OpenResult:
    result = scored(version)
    if result is None:
        raise LookupError(f"{version} has no score")
    return result


def _newest_scored(house: House) -> Iterable[Version]:
    """Returns for each spec the version that was scored last."""
    ordered = sorted(scored_versions(house), key=lambda version: max(score.at for score in version.scores.all()))
    return {version.spec_id: version for version in ordered}.values()


def _openly(version: Version) -> TastedSpec:
    result = _result_of(version)
    return TastedSpec(
        spec=version.spec_id,
        version=version.number,
        panel=None,
        code="",
        headline=result.headline,
        is_shown=False,
        decision="",
        told_at=result.scores[0].at,
    )


def panel_view(panel: Panel, member: Member, now: datetime) -> PanelOut:
    """Returns a panel of `panels_of` as its page shows it to a member. What it planned is shown to leads, what was tasted to all once the seal is broken."""
    from ulsek.planners.tasting.expectations import expected

    design = panel.planned
    is_lead, is_open = member.role == Role.LEAD, panel.state == PanelState.OPEN
    shown = list(panel.samples.select_related("lot", "version")) if panel.state == _TOLD or (is_lead and not is_open) else []
    seats = list(
        panel.seats.order_by("number").annotate(
            given=Count("answers", filter=Q(answers__late=False)), too_late=Count("answers", filter=Q(answers__late=True))
        )
    )
    leads_in = is_open and member.role != Role.READER and bool(panel.seed)
    link = link_of(panel) if leads_in else ""
    return PanelOut(
        **fields_of(panel_row(panel)),
        line=line_words(design),
        design=design,
        serving=panel.served,
        poured_by=panel.poured_by_id,
        pourer=panel.poured_by.display_name if panel.poured_by else "",
        i_pour=panel.poured_by_id == member.person.pk,
        i_taste=any(seat.person_id == member.person.pk for seat in seats),
        stop=panel.stopped(now) if is_open else NOTHING,
        # Once it is told the verdict says more.
        beforehand=() if panel.state == _TOLD else beforehand(design, expected(design)).sentences,
        poured=poured_words(design, _spirit_ml(panel) if is_open and panel.seed else 0.0),
        seats=tuple(_seat_row(seat, design.pages_each) for seat in seats),
        samples=tuple(_sample(sample, short) for sample, short in zip(shown, short_names([item.name for item in shown]), strict=True)),
        link=link,
        letters=letters(panel.seed) if leads_in else "",
        qr=tuple("".join("01"[bit] for bit in row) for row in segno.make(link, error="m").matrix) if link else (),
        unsealed_by=panel.unsealed_by.display_name if panel.unsealed_by else "",
        unsealed_why=panel.unsealed_why,
        verdict=panel.verdict,
        results=panel.results,
        next_how=_next_how(panel, member.day(now)),
        age=age_view(panel) if panel.state == _TOLD else None,
        decision_why=panel.decision_why,
        decided_at=panel.decided_at,
        late=sum(seat.too_late for seat in seats),
    )


def _spirit_ml(panel: Panel) -> float:
    """Returns the pure alcohol [mL] that the taster of an open panel who is poured most is poured."""
    return alcohol_ml(panel.planned, [sample.inside for sample in panel.samples.all()], panel.served, panel.seed)


def _next_how(panel: Panel, today: date) -> Message:
    wanted = (panel.results or {}).get("next")
    if panel.state != _TOLD or wanted is None:
        return NOTHING
    joined = panel.samples.select_related("version__spec__house", "lot__run__version__spec__house")
    sample = joined.filter(place=wanted["sample"]).first()
    return how_to_make(sample, wanted["sugar"], wanted["acid"], today) if sample is not None else NOTHING


def _seat_row(seat: Seat, of: int) -> SeatRow:
    return SeatRow(
        number=seat.number,
        name=seat.name,
        answered=seat.given,  # type: ignore[attr-defined]
        of=of,
        is_out=seat.out_at is not None,
        is_maker=seat.is_maker,
    )


def _sample(sample: PanelSample, short: str) -> SampleOut:
    asked = stored_sample(sample)
    return SampleOut(
        kind=asked.kind,
        name=sample.name,
        short=short,
        lot=asked.lot,
        spec=asked.spec,
        version=asked.version,
        standard=asked.standard,
        **{key: sample.contents.get(key) for key in CONTENTS},
        allergens=tuple(sample.allergens),
        allergens_known=not sample.unknown,
    )


def pouring(panel: Panel) -> PouringOut:
    """Returns the key of an open panel, for who pours."""
    design, serving = panel.planned, panel.served
    samples = list(panel.samples.select_related("standard"))
    names = tuple(sample.name for sample in samples)
    tasters = dict(panel.seats.values_list("number", "name"))
    pages = [page for page in panel.pages if page.asks != "attributes"]
    doses = pours([sample.inside for sample in samples], serving) if serving.drink else None
    sets: dict[tuple[int, int], list[PouredGlass]] = {}
    for page in pages:
        glasses = sets.setdefault((page.round, page.seat), [])
        glasses += [PouredGlass(code=code, sample=at, name=names[at]) for code, at in zip(page.codes, page.samples, strict=True)]
    return PouringOut(
        code=panel.code,
        question=panel.question,
        glass_ml=design.glass_ml,
        dark_glasses=design.dark_glasses,
        pours=doses,
        needed_ml=needed_ml(panel, samples),
        thaw=tuple(thaw_words(count, names[place]) for place, count in portions_needed(panel, samples).items()),
        names=names,
        sets=tuple(
            PouredSet(seat=seat, taster=tasters.get(seat, ""), round=turn, glasses=tuple(glasses))
            for (turn, seat), glasses in sorted(sets.items())
        ),
    )


def seat_view(seat: Seat, now: datetime, secret: str = "") -> SeatOut:
    """Returns a seat as its taster sees it."""
    panel = seat.panel
    design = panel.planned
    method = METHODS[design.method]
    samples = list(panel.samples.all())
    allergens = [item for sample in samples for item in sample.allergens]
    attributes = [ATTRIBUTES[key] for key in design.attributes]
    return SeatOut(
        panel=panel.code,
        house=panel.house.name,
        number=seat.number,
        name=seat.name,
        state="told" if panel.state == _TOLD else "out" if seat.out_at else "open",
        stop=panel.stopped(now),
        first=before_the_first_glass(
            sorted(allergens), some_unknown=any(sample.unknown for sample in samples), alcohol_ml=_spirit_ml(panel)
        ),
        task=method.task,
        hint=method.hint,
        glass_ml=design.glass_ml,
        dark_glasses=design.dark_glasses,
        rounds=design.rounds,
        attributes=tuple(AskedAttribute(key=item.key, name=item.name, little=item.little, much=item.much) for item in attributes),
        pages=tuple(
            SheetPageOut(turn=page.turn, round=page.round, asks=page.asks, codes=page.codes)
            for page in panel.pages
            if page.seat == seat.number
        ),
        answered=tuple(seat.answers.order_by("turn").values_list("turn", flat=True)),
        secret=secret,
    )
