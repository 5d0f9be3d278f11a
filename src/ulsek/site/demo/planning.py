"""The plan of the demo house: the menu, pars, what was used, hours, supplier terms and a party, stored through the actions as they are today."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import time, timedelta
from decimal import Decimal

from ulsek.batches.actions.change_lot import change_lot
from ulsek.batches.models import Lot
from ulsek.core.planning.ordering import SupplierTerms
from ulsek.core.planning.pars import DayChange
from ulsek.core.planning.pour_cost import MenuEntry
from ulsek.planning.actions.keep_hours import keep_hours
from ulsek.planning.actions.keep_menu import keep_drink
from ulsek.planning.actions.keep_par import change_day, keep_par
from ulsek.planning.actions.keep_terms import keep_terms
from ulsek.specs.models import Spec
from ulsek.team.models import RegisterRow

from .setting import Setting

_WEEK = 7


def play_plan(setting: Setting) -> None:
    """Stores the menu, pars, hours, terms and the party. The register must be stored before. Raises Spec.DoesNotExist if a spec of a drink or par is missing, and as `_use` does."""
    lead, data = setting.members["ilse"], setting.data["plan"]
    for key, item in data["pars"].items():
        keep_par(
            lead,
            Spec.objects.get(house=lead.house, key=key).pk,
            [item["ml"] * share for share in data["shapes"][item.get("shape", "week")]],
        )
    for name, spans in data["hours"].items():
        keep_hours(lead, setting.members[name].person.pk, [spans.get(str(day)) for day in range(_WEEK)])
    for name, terms in data["terms"].items():
        cut_off, arrives = (time.fromisoformat(terms[part]) for part in ("cut_off", "arrives"))
        entry = RegisterRow.objects.get(house=lead.house, kind="supplier", name=name)
        keep_terms(lead, entry.pk, SupplierTerms(tuple(terms["weekdays"]), cut_off, terms["lead_days"], arrives))
    for item in data["parties"]:
        day = lead.day(setting.now) + timedelta(days=item["in_days"])
        change_day(lead, DayChange(day, item["name"], item["times"]), setting.now)
    for key, amounts in data["used"].items():
        _use(setting, key, amounts)
    today, menu = lead.day(setting.now), data["menu"]
    for item in menu["drinks"]:
        drink = MenuEntry(
            today - timedelta(days=item["days_ago"]),
            today + timedelta(days=item["until_in"]) if "until_in" in item else None,
            None if item["price"] is None else Decimal(item["price"]),
            Decimal(menu["tax"]),
            item["garnish"],
            Decimal(item["garnish_cost"]),
            Decimal(item["spill"]),
        )
        keep_drink(lead, Spec.objects.get(house=lead.house, key=item["spec"]).pk, drink)


def _use(setting: Setting, key: str, amounts: Sequence[float]) -> None:
    """Notes what was used [mL] of the newest bottle of a prep on each of the days before today, the earliest first. Raises Lot.DoesNotExist if none is as old as that."""
    maker = setting.members["noor"]
    bottles = Lot.objects.filter(house=maker.house, gone_at=None, what="", run__version__spec__key=key)
    lot = bottles.filter(made_at__lt=setting.ago(days=len(amounts))).latest("made_at")
    for days, amount in enumerate(reversed(amounts), 1):
        change_lot(maker, lot.code, "used", {"amount": amount}, setting.now - timedelta(days=days))
