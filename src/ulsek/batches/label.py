"""Labels of a bottle, a by-product or a waiting vessel."""

from __future__ import annotations

from django.conf import settings

from ulsek.core.base.figures import quantity
from ulsek.core.base.messages import message
from ulsek.core.base.number_format import amount, given
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import doing
from ulsek.core.run.state import RunState
from ulsek.core.run.waiting import waiting_of
from ulsek.core.safety.hazards import FOLLOW, bottle_words
from ulsek.devices.label import Label
from ulsek.team.access import Member

from .models import Lot, Run


def address(lot: Lot) -> str:
    """Returns the address in the code on the bottle."""
    return f"{settings.BASE_ADDRESS}/lots/{lot.code}"


def _figures(lot: Lot) -> str:
    final = lot.final
    if not final:
        return ""
    measured = {reading["property"]: reading["value"] for reading in final.get("readings", []) if reading["agrees"]}
    brix, acid = (
        f"{quantity(name, measured[name])} read" if name in measured else f"{quantity(other, final[other]['value'])} predicted"
        for name, other in (("brix_reading", "brix"), ("acid_g_100ml", "acid_g_100ml"))
    )
    abv = final["abv"]["value"]
    strength = f" · {quantity('abv', abv)}" if abv else ""
    return f"{brix} · acid {acid}{strength}"


def lot_label(member: Member, lot: Lot) -> Label:
    """Returns the label of the bottles, or of the tub of a by-product."""
    withdrawn = lot.withdrawn
    strong = [
        *([f"WITHDRAWN: do not serve. {withdrawn}"] if withdrawn else []),
        *([f"RECALLED: do not serve. {lot.recalled}"] if lot.recalled else []),
        *([f"Not before {member.local(lot.ready_at):%a %d %b %H:%M}: {lot.ready_why}"] if lot.ready_at else []),
        f"Use by {lot.use_by:%a %d %b %Y}",
    ]
    held = amount(lot.amount, lot.unit, 0) + (f" in {amount(lot.bottle_ml, 'mL', 0)} bottles" if not lot.what else "")
    made = f"made {member.local(lot.made_at):%a %d %b %Y %H:%M} by {lot.made_by}"
    if lot.run is None:
        made = f"labelled {member.local(lot.cooled_at):%a %d %b %Y %H:%M} by {lot.made_by}"
    keep = f"Keep at {given(lot.keep_c)} °C or colder."
    allergens = f"Allergens: {lot.allergens_words}"
    cautions = [f"Caution: {caution}" for caution in lot.cautions]
    lines = [
        f"version {lot.version_number} · {held}" if lot.version_number else held,
        made,
        *([_figures(lot)] if lot.final else []),
        *([lot.off_spec.text()] if lot.off_spec else []),
        f"{lot.use_by_reason} {keep}",
        allergens,
        *cautions,
        f"{FOLLOW} {member.house.name}.",
    ]
    may_pour = not (withdrawn or lot.recalled)
    glance = f"{'use' if lot.what else 'pour'} until {f'{lot.use_by:%a}'.upper()}" if may_pour else ""
    return Label(lot.code, address(lot), lot.name, tuple(strong), tuple(lines), (made, keep, allergens, *cautions), glance)


def waiting_label(member: Member, run: Run, state: RunState) -> Label:
    """Returns the label of a vessel that waits, from when its wait begins. Raises Refusal for a batch that does not wait."""
    waiting = waiting_of(state)
    step = state.current
    if waiting is None or step is None:
        raise Refusal(message("{run} does not wait", run=run.code), "run", remedy=message("Start its clock first"), code="not_waiting")
    until = member.local(waiting.until)
    vessel = state.spec.vessels[step.vessel].name
    hazards = state.evaluation.hazards
    lines = [
        f"batch {run.code}, version {run.version.number} · {vessel}",
        f"since {member.local(waiting.since):%a %d %b %H:%M}, {state.events[-1].by}",
        *([f"Done when: {step.check}"] if step.check else []),
        f"Allergens: {bottle_words(hazards.allergens, hazards.unknown)}",
        *(f"Caution: {caution}" for caution in hazards.cautions),
        f"{member.house.name}.",
    ]
    strong = (f"{doing(step.verb)} until {until:%a %d %b %H:%M}", "NOT FINISHED: do not pour")
    return Label(run.code, f"{settings.BASE_ADDRESS}/make/{run.pk}", state.spec.name, strong, tuple(lines))
