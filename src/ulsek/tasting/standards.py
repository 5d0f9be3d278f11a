"""What standards show: what they are, whether they may be tasted, how they are made again, and how batches and panels stand beside them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from django.db.models import QuerySet
from ninja import Field

from ulsek.batches.models import Lot
from ulsek.core.base.answer import fields_of
from ulsek.core.base.messages import Message, grams, message, read_stored, short_name
from ulsek.core.tasting.serving import SampleContents
from ulsek.core.tasting.standards import Batch, Drift, StandardKind, differs, drift, reads_words
from ulsek.specs.queries import version_evaluated
from ulsek.team.access import Member
from ulsek.team.models import House
from ulsek.team.schema import Schema

from .models import PanelSample, PanelState, Standard
from .plans import contents_of

_MOST_BATCHES = 60
"""Newest batches that are shown beside a standard [count]."""


class StandardIn(Schema):
    """A standard to keep: frozen portions of the bottle `lot` [count, mL] for so many days (null: as long as they keep), or a version made again to its readings."""

    kind: StandardKind
    name: str = ""
    lot: str = Field("", max_length=16)
    spec: UUID | None = None
    version: int | None = None
    portions: int = 1
    portion_ml: float = 100
    days: int | None = None
    place: str = ""
    brix_reading: float | None = Field(None, ge=0, le=100)
    acid_g_100ml: float | None = Field(None, ge=0, le=100)


class MadeAgainIn(Schema):
    """What a standard that was made again reads [°Bx, g/100 mL]; null where it was not read."""

    brix_reading: float | None = None
    acid_g_100ml: float | None = None

    def read(self) -> dict[str, float]:
        """Returns the readings by figure."""
        return {name: value for name, value in self.dict().items() if value is not None}


class EndStandardIn(Schema):
    """Why a standard is none any more."""

    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StandardRow:
    """A standard as lists show it. `portions` are null for one that is made again, `until` while it was not made yet; `stop` says why nobody may taste it today."""

    id: UUID
    code: str
    name: str
    kind: StandardKind
    spec: UUID
    version: int
    portions: int | None
    portion_ml: float
    place: str
    until: date | None
    stop: Message
    made_at: datetime
    made_by: str
    ended_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MakingOut:
    """One making of a standard: what it read, and until when it is good."""

    at: datetime
    by: str
    read: Message
    until: date


@dataclass(frozen=True, slots=True, kw_only=True)
class BesidePanel:
    """A panel that tasted something against the standard, and whether it showed that the two differ."""

    panel: UUID
    code: str
    day: date
    headline: Message
    is_shown: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class StandardOut(StandardRow):
    """A standard: what it reads, what goes into it by weight if it is made again, its makings, and what stood beside it by date."""

    until_reason: Message
    lot: str
    ended_why: str
    reads: Message
    weights: tuple[Message, ...]
    makings: tuple[MakingOut, ...]
    drift: Drift
    panels: tuple[BesidePanel, ...]


def standards_of(house: House) -> QuerySet[Standard]:
    """Returns the standards of a house with what their rows show."""
    return Standard.objects.filter(house=house).select_related("house", "lot", "made_by", "version__withdrawal")


def standard_row(standard: Standard, today: date) -> StandardRow:
    """Returns a standard of `standards_of` as lists show it on a day."""
    return StandardRow(
        id=standard.pk,
        code=standard.code,
        name=standard.name,
        kind=standard.kind,
        spec=standard.version.spec_id,
        version=standard.version.number,
        portions=standard.portions,
        portion_ml=standard.portion_ml,
        place=standard.place,
        until=standard.until,
        stop=standard.stopped(today),
        made_at=standard.made_at,
        made_by=standard.made_by.display_name,
        ended_at=standard.ended_at,
    )


def standard_view(standard: Standard, member: Member, today: date) -> StandardOut:
    """Returns a standard of `standards_of` as its page shows it on a day."""
    return StandardOut(
        **fields_of(standard_row(standard, today)),
        until_reason=standard.until_reason,
        lot=standard.lot.code if standard.lot is not None else "",
        ended_why=standard.ended_why,
        reads=reads_words(standard.readings),
        weights=_weights(standard),
        makings=tuple(
            MakingOut(at=item.at, by=item.by.display_name, read=reads_words(item.readings), until=item.until)
            for item in standard.makings.select_related("by")
        ),
        drift=drift(SampleContents(standard.name, **standard.contents), _batches(standard, member)),
        panels=_panels(standard, member),
    )


def _weights(standard: Standard) -> tuple[Message, ...]:
    """Returns what goes into one making, by weight; nothing for a frozen one."""
    if standard.portions is not None:
        return ()
    once = version_evaluated(standard.version)
    volume = once.figures[once.last]["volume_ml"] if once.last is not None else 0.0
    if volume <= 0.0:
        return ()
    made = version_evaluated(standard.version, standard.portion_ml / volume)
    lines, materials = made.inputs.spec.lines, made.inputs.materials
    return tuple(
        message("{mass} {name}", mass=grams(mass), name=short_name(materials[lines[key].material].name))
        for key, mass in made.flow.masses.items()
        if key in lines and lines[key].material in materials
    )


def _batches(standard: Standard, member: Member) -> list[Batch]:
    """Returns the newest batches of the standard's spec."""
    rows = Lot.objects.filter(house=member.house, run__version__spec=standard.version.spec_id, what="", split_of=None)
    newest = rows.exclude(final=None).order_by("-made_at", "code").only("code", "version_number", "made_at", "final")[:_MOST_BATCHES]
    return [
        Batch(lot.code, lot.version_number, member.day(lot.made_at), SampleContents(lot.code, **contents_of(lot.final or {})))
        for lot in newest
    ]


def _panels(standard: Standard, member: Member) -> tuple[BesidePanel, ...]:
    told = PanelSample.objects.filter(standard=standard, panel__state=PanelState.TOLD).select_related("panel")
    return tuple(
        BesidePanel(
            panel=sample.panel_id,
            code=sample.panel.code,
            day=member.day(sample.panel.opened_at or sample.panel.made_at),
            headline=read_stored((sample.panel.verdict or {})["headline"]),
            is_shown=differs(sample.panel.results["found"], sample.place),
        )
        for sample in told.order_by("panel__opened_at", "place")
        # Too few answers, or a stop: it says nothing of the two.
        if sample.panel.results and sample.panel.results["found"]
    )
