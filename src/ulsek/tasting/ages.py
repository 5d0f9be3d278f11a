"""How old the samples of a panel were when it was opened, and what follows for the quality date of their spec."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import datetime

from ulsek.core.base.messages import NOTHING, Message, days, message, read_stored
from ulsek.core.safety.shelf_life_rules import day_of_life
from ulsek.core.tasting.old_bottle import AgedSample
from ulsek.specs.models import Version
from ulsek.specs.queries import version_evaluated
from ulsek.team.models import House

from .models import Panel, PanelSample
from .plans import FoundSample
from .schemas import AgeOut

FRESH_DAY = 1
"""The day of its life of what is made for a panel."""


def _day_of(house: House, sample: PanelSample | FoundSample, at: datetime) -> int | None:
    """Returns the day of a sample's life at a moment [days, the making is day 1]; None for what nobody knows: a mixture, a draft, a bottle from elsewhere, and
    for what was frozen, which differs by that too.
    """
    lot, standard = sample.lot, sample.standard
    if standard is not None and standard.lot_id is not None:
        return None
    if lot is None:
        return FRESH_DAY if sample.version is not None else None
    return None if lot.topped_up_with.exists() else day_of_life(house.day(lot.cooled_at), house.day(at))


def _version_of(sample: PanelSample | FoundSample) -> Version | None:
    """Returns the version that a sample is the product of; None for a by-product, too."""
    return None if sample.lot is not None and sample.lot.what else sample.version


def aged_version(samples: Iterable[PanelSample | FoundSample]) -> Version | None:
    """Returns the version of the first lot that was tasted; None without one. Age is told among samples of one version only: another one differs anyhow."""
    return next((version for item in samples if item.lot is not None and (version := _version_of(item)) is not None), None)


def aged(house: House, samples: Sequence[PanelSample | FoundSample], at: datetime) -> list[AgedSample]:
    """Returns the samples of one version whose age is known at a moment, if one of them is a lot."""
    version = aged_version(samples)
    if version is None:
        return []
    found = ((place, _day_of(house, item, at)) for place, item in enumerate(samples) if _version_of(item) == version)
    return [AgedSample(place, day) for place, day in found if day is not None]


def age_view(panel: Panel) -> AgeOut | None:
    """Returns what a panel found of age, with the dates of the spec as they stand now; None if it tasted no older bottle beside a younger one."""
    found = (panel.results or {}).get("age")
    if found is None:
        return None
    words: Message = read_stored(found["words"])
    version = aged_version(list(panel.samples.select_related("lot", "version__spec__house")))
    most: int | None = found["days"]
    if version is None or most is None:
        return AgeOut(words=words, days=None, stands=NOTHING, caution=NOTHING)
    kept = version_evaluated(version).keeping
    stands = message("Quality stands at {quality}, safety at {safety}.", quality=days(kept.quality.days), safety=days(kept.safety.days))
    return AgeOut(words=words, days=most if most < kept.quality.days else None, stands=stands, caution=read_stored(found["caution"]))
