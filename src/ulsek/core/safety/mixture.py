"""Mixtures: a bottle into which another was poured has the earliest date, all allergens and all cautions."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from ..base.messages import NOTHING, Message, message, sentences


@dataclass(frozen=True, slots=True)
class Bottled:
    """The data of a label: last day, its reason, warmest °C, allergens, cautions, what is off its spec, why it was recalled."""

    use_by: date
    reason: Message
    keep_c: float
    allergens: tuple[str, ...]
    cautions: tuple[str, ...]
    off_spec: Message = NOTHING
    recalled: str = ""


def mixed(one: Bottled, other: Bottled, other_name: str) -> Bottled:
    """Returns the data of both in one bottle: the earlier date with its reason, the colder place, everything that either holds.

    A bottle to Friday topped up with one to Wednesday is to Wednesday. Source: date marking of a food code, as prudence.
    """
    # The older part decides: what is in it is in all of the mixture now.
    earlier = one if one.use_by <= other.use_by else other
    turned = message("Topped up with {other}, which turns first.", other=other_name)
    reason = one.reason if earlier is one else sentences(turned, other.reason)
    return Bottled(
        earlier.use_by,
        reason,
        # Each part must stay as cold as it asks for.
        min(one.keep_c, other.keep_c),
        tuple(dict.fromkeys((*one.allergens, *other.allergens))),
        tuple(dict.fromkeys((*one.cautions, *other.cautions))),
        one.off_spec or other.off_spec,
        one.recalled or other.recalled,
    )


def opened_until(use_by: date, opened_on: date, opened_days: int) -> date:
    """Returns the last day of a bottle opened or decanted on a day: `opened_days` from that day, which is the first, and never past its first date."""
    # The day of opening is the first, hence one day less.
    return min(use_by, opened_on + timedelta(days=opened_days - 1))
