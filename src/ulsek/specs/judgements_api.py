"""The core's judgements over HTTP: nothing is kept by any of them."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from ulsek.computing import in_time
from ulsek.core.advice.batch_scaling import Asked, scaled
from ulsek.core.advice.corrections import repair_materials, ways
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.recipe_text.capture import captured, materials_in
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.release.allergen_carryover import carried
from ulsek.core.results.evaluation_data import keeping_data
from ulsek.core.safety.barriers import Evidence, HotFill
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.shelf_life import HouseDate
from ulsek.stores.queries import described, resolve
from ulsek.team.access import member_of
from ulsek.team.models import House

from .actions.start_spec import start_spec
from .evaluation_schemas import RemarkOut
from .judgement_schemas import (
    CaptureIn,
    CostIn,
    CostOut,
    DraftForm,
    GearIn,
    KeepIn,
    KeepOut,
    ParseIn,
    ParseOut,
    ScaleIn,
    ScaleOut,
    WaysIn,
    WaysOut,
)
from .queries import evaluated
from .schemas import SavedDraft

router = Router(tags=["judgements"])


def _sound(house: House, body: dict[str, Any], extra: tuple[str, ...] = ()) -> Evaluation:
    """A spec worked out to its end. Refuses one with a fault in it, at its place: a judgement on half of it would mislead."""
    evaluation, _ = evaluated(house, body, extra)
    for fault in (*evaluation.inputs.spec.faults, *([evaluation.plain.refusal] if evaluation.plain.refusal else [])):
        raise fault
    return evaluation


@router.post("/ways", response=WaysOut)
def ways_to(request: HttpRequest, payload: WaysIn) -> dict[str, Any]:
    """Up to three ways to bring a product to any figures; nothing is kept."""
    evaluation = _sound(member_of(request).house, payload.spec, ("water", *payload.add))
    known = evaluation.inputs.materials
    named = [known[key] for key in payload.add if key in known]
    for n, key in enumerate(payload.add):
        if key not in known:
            raise Refusal(f"Nothing is known about “{key}”", f"add/{n}", remedy="Choose a material of Stores", code="unknown_reference")
    found = ways(evaluation, [aim.dict() for aim in payload.aims], named or repair_materials(evaluation.inputs.spec, known))
    return {"ways": [way.as_data() for way in found]}


@router.post("/keeping", response=KeepOut)
def keep(request: HttpRequest, payload: KeepIn) -> dict[str, Any]:
    """How long a product keeps when this is shown of it, and as the house has it; nothing is kept."""
    evaluation = _sound(member_of(request).house, payload.spec)
    filled = HotFill(**payload.hot_fill.dict()) if payload.hot_fill else None
    evidence = Evidence(payload.read, payload.meter_checked, payload.strength_by_label, payload.frozen_c, filled)
    return keeping_data(evaluation, evidence, HouseDate(**payload.house.dict()) if payload.house else None)


@router.post("/parse", response=ParseOut)
def parse(request: HttpRequest, payload: ParseIn) -> dict[str, Any]:
    """A pasted recipe as a draft, read with this house's materials, each doubtful reading marked; nothing is kept."""
    member = member_of(request)
    return in_time(
        parse_recipe, payload.text, payload.locale, described(member.house), read_rules(member.house.rules).words["words"]
    ).as_data()


@router.post("/scale", response=ScaleOut)
def scale(request: HttpRequest, payload: ScaleIn) -> dict[str, Any]:
    """A spec scaled to a volume, serves, what is there, or a vessel; nothing is kept."""
    evaluation = _sound(member_of(request).house, payload.spec, ("water",))
    return scaled(evaluation.inputs.spec, evaluation.inputs.materials, Asked(**payload.dict(exclude={"spec"})))


@router.post("/cost", response=CostOut)
def cost(request: HttpRequest, payload: CostIn) -> dict[str, Any]:
    """What a batch costs with hands, split over the product and the by-products that are kept; nothing is kept."""
    evaluation = _sound(member_of(request).house, payload.spec)
    return evaluation.full_cost(payload.labour_per_hour, payload.worth_per_kg, payload.split).as_data()


def _captured(house: House, payload: CaptureIn) -> dict[str, Any]:
    """The draft, with the materials as this house has them."""
    return captured(payload.name, payload.weighings, resolve(house, materials_in(payload.weighings)).materials)


@router.post("/capture", response=DraftForm)
def capture(request: HttpRequest, payload: CaptureIn) -> dict[str, Any]:
    """A draft grown from weighings; nothing is kept until it is saved."""
    member = member_of(request)
    return {"spec": _captured(member.house, payload)}


@router.post("/capture/start", response={201: SavedDraft})
def start_captured(request: HttpRequest, payload: CaptureIn) -> Status[dict[str, Any]]:
    """What was weighed without a spec becomes a draft, to be read and published by the lead."""
    member = member_of(request)
    spec = start_spec(member, payload.name, "other", body=_captured(member.house, payload))
    return Status(201, {"spec": spec.pk, "revision": 1})


@router.post("/gear", response=list[RemarkOut])
def gear(request: HttpRequest, payload: GearIn) -> list[dict[str, Any]]:
    """Allergens that gear carries from one spec into the next."""
    house = member_of(request).house
    return [remark.as_data() for remark in carried([_sound(house, body) for body in payload.specs])]
