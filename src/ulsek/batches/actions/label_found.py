"""Label a bottle whose making was not recorded."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message, template
from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.on_the_shelf import FOUND_ML, MOST_DAYS_AGO, checked_amount, found_dates
from ulsek.specs.models import Spec
from ulsek.specs.queries import version_evaluated
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.numbers import locked_series, next_number

from ..models import Lot

SERIES = "S"


@dataclass(frozen=True, slots=True, kw_only=True)
class FoundBottle:
    """What is known of a bottle whose making was not recorded: its published spec or only a `name`, its age in days (None: unknown), its volume [mL], its place."""

    spec: UUID | None = None
    name: str = ""
    days_ago: int | None = None
    amount_ml: float = FOUND_ML
    place: str = ""


@action
def label_found(member: Member, bottle: FoundBottle, at: datetime | None = None) -> Lot:
    """Returns a lot without a batch, with what is known of it: the allergens, cautions and keeping of its spec, the date from the day it was made.

    Raises Refusal without a spec and a name, for a spec that was never published or is withdrawn, a day that cannot be, and an amount out of bounds.
    """
    when = at or timezone.now()
    if bottle.days_ago is not None and not 0 <= bottle.days_ago <= MOST_DAYS_AGO:
        raise Refusal(
            message("{days} days ago cannot be", days=bottle.days_ago),
            "days_ago",
            message("from 0 to {most}", most=MOST_DAYS_AGO),
            message("Say that nobody knows"),
            "out_of_bounds",
        )
    amount = checked_amount(bottle.amount_ml, "mL", template("{value} {unit} cannot be in it"))
    if not amount:
        raise Refusal(
            message("An empty bottle needs no label"), "amount_ml", message("above 0 mL"), message("Say how much is in it"), "not_positive"
        )
    spec = get_object_or_404(Spec.objects.select_related("newest", "house"), pk=bottle.spec, house=member.house) if bottle.spec else None
    version = spec.versions.filter(withdrawal=None).order_by("-number").first() if spec else None
    if spec is not None and version is None:
        raise Refusal(
            message("{spec} is not published", spec=spec.name), "spec", remedy=message("Call the bottle by its name"), code="not_published"
        )
    name = spec.name if spec else free_text(bottle.name, "name", 300, message("The bottle has no name"), message("Write what it is"))
    evaluation = version_evaluated(version) if version else None
    today = member.day(when)
    made = None if bottle.days_ago is None else today - timedelta(days=bottle.days_ago)
    dates = found_dates(evaluation.keeping if evaluation else None, made, today)
    lot = Lot.objects.create(
        house=member.house,
        code=f"{SERIES}{next_number(locked_series(member.house, SERIES)):04d}",
        name=name,
        version_number=version.number if version else 0,
        amount=amount,
        left=amount,
        bottle_ml=amount,
        place=free_text(bottle.place, "place", 60),
        made_at=when - timedelta(days=bottle.days_ago or 0),
        made_by=member.person.display_name,
        cooled_at=when,
        use_by=dates.use_by,
        use_by_reason=dates.reason,
        keep_c=dates.keep_c,
        opened_days=dates.opened_days,
        allergens=list(evaluation.hazards.allergens) if evaluation else [],
        cautions=list(evaluation.hazards.cautions) if evaluation else [],
    )
    member.wrote("label_found", f"{lot.code} {name}", at=at, days_ago=bottle.days_ago)
    return lot
