"""Put a drink on the menu, change what it costs there, or take it off."""

from __future__ import annotations

from dataclasses import asdict, replace
from decimal import ROUND_HALF_UP, Decimal
from uuid import UUID

from django.shortcuts import get_object_or_404

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.pour_cost import MenuEntry, checked_entry
from ulsek.specs.allergens import newest_of
from ulsek.specs.models import Spec
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import MenuDrink

MOST_GARNISH = 80
_STORED = {"price": Decimal("0.01"), "tax_percent": Decimal("0.01"), "garnish_cost": Decimal("0.001"), "spill_percent": Decimal("0.1")}


def _drink_of(member: Member, spec_id: UUID) -> Spec:
    """Returns a drink of the member's house after taking a shared lock on it. Raises Http404 if the house has no such spec, and Refusal if it is no drink or never published."""
    rows = Spec.objects.filter(pk=spec_id, house=member.house).select_related("newest")
    locked(Spec.objects.filter(pk=spec_id, house=member.house), shared=True)
    spec = get_object_or_404(rows)
    if spec.family != "drink":
        raise Refusal(
            message("{name} is no drink", name=spec.name),
            "spec",
            remedy=message("Put the drink that it goes into on the menu"),
            code="refused",
        )
    newest_of(spec)
    return spec


def _as_stored(entry: MenuEntry) -> MenuEntry:
    """Returns the entry in the decimals that are stored. Raises Refusal, at its place, for a number with more of them: nothing is rounded in silence."""
    for name, step in _STORED.items():
        value = getattr(entry, name)
        if value is not None and value != value.quantize(step, ROUND_HALF_UP):
            raise Refusal(
                message("{value} is finer than it can be kept", value=str(value)),
                name,
                message("to {step}", step=str(step)),
                message("Write it with fewer decimals"),
                "out_of_bounds",
            )
    return replace(entry, garnish=free_text(entry.garnish, "garnish", MOST_GARNISH))


@action
def keep_drink(member: Member, spec_id: UUID, entry: MenuEntry) -> MenuDrink:
    """Stores a drink on the menu, in place of what was said of it before, and returns the row.

    Raises Refusal for a spec that is no drink or was never published, and as `checked_entry` does; Http404 if the house has no such spec.
    """
    spec = _drink_of(member, spec_id)
    kept = _as_stored(checked_entry(entry))
    row, _ = MenuDrink.objects.update_or_create(house=member.house, spec=spec, defaults=asdict(kept))
    member.wrote("keep_drink", spec.name, price="" if kept.price is None else str(kept.price))
    return row


@action
def drop_drink(member: Member, spec_id: UUID) -> None:
    """Deletes a drink from the menu. Raises Http404 if it is not on it."""
    row = get_object_or_404(MenuDrink.objects.select_related("spec"), house=member.house, spec=spec_id)
    member.wrote("drop_drink", row.spec.name)
    row.delete()
