"""Keep a standard to taste against, make it again, take a portion of it, and end it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.batches.actions.change_lot import change_lot
from ulsek.batches.models import Lot
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import NOTHING, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.safety.shelf_life_rules import last_day
from ulsek.core.tasting.serving import CONTENTS
from ulsek.core.tasting.standards import READ, StandardKind, check_portions, check_reads_so, frozen_until
from ulsek.core.tasting.stops import check_servable
from ulsek.specs.models import Version
from ulsek.specs.queries import version_evaluated
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404
from ulsek.team.numbers import locked_series, next_number

from ..models import Standard, StandardMaking
from ..plans import contents_of

SERIES = "T"
MOST_NAME, MOST_PLACE, MOST_WHY = 120, 60, 300


@dataclass(frozen=True)
class NewStandard:
    """A standard as it is kept: frozen from the bottle `lot`, `portions` [count] of `portion_ml` [mL], for so many `days` (None: as long as it keeps); or made again of
    a version, `portion_ml` at a time, to its `readings` by figure (empty: to those that its spec says).
    """

    kind: StandardKind
    name: str = ""
    lot: str = ""
    spec: UUID | None = None
    version: int | None = None
    portions: int = 1
    portion_ml: float = 100.0
    days: int | None = None
    place: str = ""
    readings: Mapping[str, float] = field(default_factory=dict)


@action
def keep_standard(member: Member, new: NewStandard, at: datetime | None = None) -> Standard:
    """Returns a standard of a bottle or a version. Raises Refusal, at its place, for a bottle that nobody may taste, for portions that cannot be, and for a date past the
    one to which they keep frozen.
    """
    when = at or timezone.now()
    check_portions(new.portions, new.portion_ml)
    lot = _bottle(member, new.lot, when) if new.kind == "frozen" else None
    version = lot.batch.version if lot is not None else _version(member, new)
    done = version_evaluated(version)
    until, reason = frozen_until(done.rules.keeping, member.day(when), new.days) if lot is not None else (None, NOTHING)
    name = free_text(new.name, "name", MOST_NAME) or version.spec.name
    place = free_text(new.place, "place", MOST_PLACE)
    if lot is not None:
        _pour_off(member, lot, new.portions * new.portion_ml, at)
    standard = Standard.objects.create(
        house=member.house,
        code=f"{SERIES}{next_number(locked_series(member.house, SERIES)):04d}",
        name=name,
        version=version,
        lot=lot,
        contents=contents_of(lot.final or {}) if lot is not None else _contents(done),
        readings=_readings(done, new),
        portions=new.portions if lot is not None else None,
        portion_ml=new.portion_ml,
        place=place,
        until=until,
        until_reason=reason,
        made_by=member.person,
        made_at=when,
    )
    member.wrote("keep_standard", str(standard), at=at)
    return standard


def _pour_off(member: Member, lot: Lot, amount_ml: float, at: datetime | None) -> None:
    """Takes what is frozen out of its bottle. Raises Refusal for more than that holds."""
    if amount_ml > lot.left:
        raise Refusal(
            message("{lot} does not hold so much", lot=lot.code),
            "portions",
            remedy=message("Freeze fewer portions, or count the bottle"),
            code="out_of_bounds",
        )
    change_lot(member, lot.code, "used", {"amount": amount_ml}, at)


def _bottle(member: Member, code: str, when: datetime) -> Lot:
    rows = Lot.objects.select_related("run__version__spec__house", "run__version__withdrawal")
    lot = rows.filter(house=member.house, code=code.upper(), what="", run__isnull=False).first()
    if lot is None:
        raise Refusal(message("This house has no such bottle"), "lot", remedy=message("Choose it again"), code="unknown_reference")
    past = lot.use_by if when >= member.house.day_ends(lot.use_by) else None
    check_servable(str(lot), recalled=bool(lot.recalled or lot.withdrawn), past=past, gone=lot.gone_at is not None, where="lot")
    return lot


def _version(member: Member, new: NewStandard) -> Version:
    rows = Version.objects.select_related("spec__house", "withdrawal").filter(spec__house=member.house, number=new.version or 0)
    version = rows.filter(spec=new.spec).first() if new.spec is not None else None
    if version is None:
        raise Refusal(message("This house has no such version"), "version", remedy=message("Choose it again"), code="unknown_reference")
    check_servable(str(version), recalled=hasattr(version, "withdrawal"), past=None, gone=False, where="version")
    return version


def _contents(done: Evaluation) -> Mapping[str, float | None]:
    figures = done.figures[done.last] if done.last is not None else {}
    return {key: figures.get(key) for key in CONTENTS}


def _readings(done: Evaluation, new: NewStandard) -> Mapping[str, float]:
    """Returns what the standard reads: as it was read, or else as its spec says."""
    figures = done.figures[done.last] if done.last is not None else {}
    return {name: float(new.readings.get(name, figures[name])) for name in READ if name in new.readings or figures.get(name)}


def _standing(member: Member, standard_id: UUID) -> Standard:
    """Returns a standard of the member's house, locked alone. Raises Refusal for one that was ended."""
    standard = locked_or_404(Standard.objects.filter(pk=standard_id, house=member.house))
    if standard.ended_at is not None:
        raise Refusal(message("{standard} was ended", standard=str(standard)), "standard", remedy=message("Keep a new one"), code="gone")
    return standard


@action
def make_again(member: Member, standard_id: UUID, readings: Mapping[str, float], at: datetime | None = None) -> StandardMaking:
    """Returns one making of a standard that is made again, good for as long as its version keeps. Raises Refusal for one that is frozen, for readings that are not its
    own, and for none.
    """
    when = at or timezone.now()
    standard = _standing(member, standard_id)
    if standard.portions is not None:
        raise Refusal(message("This one is frozen"), "standard", remedy=message("Keep a new one of a fresh bottle"), code="refused")
    check_reads_so(standard.readings, readings)
    kept = version_evaluated(standard.version).keeping
    making = StandardMaking.objects.create(
        standard=standard, readings=dict(readings), until=last_day(member.day(when), kept.days), by=member.person, at=when
    )
    standard.until, standard.until_reason = making.until, kept.reason
    standard.save(update_fields=["until", "until_reason"])
    member.wrote("make_standard", str(standard), at=at)
    return making


@action
def take_portion(member: Member, standard_id: UUID, at: datetime | None = None) -> Standard:
    """Takes a portion out of the freezer without a panel, to learn from. Raises Refusal if nobody may taste it, or none is left."""
    standard = _standing(member, standard_id)
    if standard.portions is None:
        raise Refusal(message("This one has no portions"), "standard", remedy=message("Make it again by weight"), code="refused")
    if stop := standard.stopped(member.day(at or timezone.now())):
        raise Refusal(message("Leave it"), "standard", stop, message("Keep a new one"), "gone")
    standard.portions -= 1
    standard.save(update_fields=["portions"])
    member.wrote("take_portion", str(standard), at=at)
    return standard


@action
def end_standard(member: Member, standard_id: UUID, why: str, at: datetime | None = None) -> Standard:
    """Ends a standard: nothing is tasted against it any more; what was stays. Raises Refusal without a reason."""
    standard = _standing(member, standard_id)
    standard.ended_why = free_text(why, "why", MOST_WHY, message("Why is it none any more?"), message("Say what is wrong with it"))
    standard.ended_at = at or timezone.now()
    standard.save(update_fields=["ended_at", "ended_why"])
    member.wrote("end_standard", str(standard), at=at, why=standard.ended_why)
    return standard
