"""Computations of the core over HTTP; none of them stores anything."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from ulsek.computing import in_time
from ulsek.core.advice.batch_scaling import BatchSize, Scaled, scaled
from ulsek.core.advice.corrections import Ways, repair_materials, ways
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.remarks import Remark
from ulsek.core.evaluation.cost import FullCost
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.recipe_text.capture import captured, materials_in
from ulsek.core.recipe_text.parser import Parsed, parse_recipe
from ulsek.core.release.allergen_carryover import carried
from ulsek.core.results.evaluation_result import KeepingResult, keeping_result
from ulsek.core.safety.barriers import Evidence, HotFill
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.shelf_life import HouseDate
from ulsek.core.workbench.questions import SpecForm
from ulsek.stores.queries import described, resolve
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.models import House

from .actions.start_spec import NewSpec, start_spec
from .judgement_schemas import (
    CaptureIn,
    CostIn,
    GearIn,
    KeepIn,
    ParseIn,
    ScaleIn,
    WaysIn,
)
from .queries import evaluated
from .schemas import SavedDraft

router = Router(tags=["judgements"])


def _sound(house: House, body: Mapping[str, Any], extra: tuple[str, ...] = ()) -> Evaluation:
    """Returns the evaluation of a spec. Raises Refusal, at its place, for a spec with a fault: a result for half of it would mislead."""
    evaluation, _ = evaluated(house, body, extra)
    for fault in (*evaluation.inputs.spec.faults, *([evaluation.flow.refusal] if evaluation.flow.refusal else [])):
        raise fault
    return evaluation


@router.post("/ways", response=answers(Ways))
def ways_to(request: HttpRequest, payload: WaysIn) -> Ways:
    """Up to three ways to bring a product to figures; nothing is stored."""
    evaluation = _sound(member_of(request).house, payload.spec, ("water", *payload.add))
    known = evaluation.inputs.materials
    named = [known[key] for key in payload.add if key in known]
    for n, key in enumerate(payload.add):
        if key not in known:
            raise Refusal(
                message("Nothing is known about “{key}”", key=key),
                f"add/{n}",
                remedy=message("Choose a material of Stores"),
                code="unknown_reference",
            )
    found = ways(evaluation, [aim.dict() for aim in payload.aims], named or repair_materials(evaluation.inputs.spec, known))
    return Ways(tuple(found))


@router.post("/keeping", response=answers(KeepingResult))
def keep(request: HttpRequest, payload: KeepIn) -> KeepingResult:
    """How long a product keeps with evidence and the house's own dates; nothing is stored."""
    evaluation = _sound(member_of(request).house, payload.spec)
    filled = HotFill(**payload.hot_fill.dict()) if payload.hot_fill else None
    evidence = Evidence(payload.read, payload.meter_checked, payload.strength_by_label, payload.frozen_c, filled)
    return keeping_result(evaluation, evidence, HouseDate(**payload.house.dict()) if payload.house else None)


@router.post("/parse", response=answers(Parsed))
def parse(request: HttpRequest, payload: ParseIn) -> Parsed:
    """A pasted recipe as a draft, with each doubtful reading marked; nothing is stored."""
    member = member_of(request)
    words = read_rules(member.house.rules).words["words"]
    return in_time(parse_recipe, payload.text, payload.locale, described(member.house), words)


@router.post("/scale", response=answers(Scaled))
def scale(request: HttpRequest, payload: ScaleIn) -> Scaled:
    """A spec scaled to a volume, serves, stock, or a vessel; nothing is stored."""
    evaluation = _sound(member_of(request).house, payload.spec, ("water",))
    return scaled(evaluation.inputs.spec, evaluation.inputs.materials, BatchSize(**payload.dict(exclude={"spec"})))


@router.post("/cost", response=answers(FullCost))
def cost(request: HttpRequest, payload: CostIn) -> FullCost:
    """The cost of a batch with labour, allocated to product and by-products; nothing is stored."""
    evaluation = _sound(member_of(request).house, payload.spec)
    return evaluation.full_cost(payload.labour_per_hour, payload.worth_per_kg, payload.split)


def _captured(house: House, payload: CaptureIn) -> Mapping[str, Any]:
    """Returns the draft of weighings, with the house's materials."""
    return captured(payload.name, payload.weighings, resolve(house, materials_in(payload.weighings)).materials)


@router.post("/capture", response=answers(SpecForm))
def capture(request: HttpRequest, payload: CaptureIn) -> SpecForm:
    """A draft from weighings; nothing is stored until it is saved."""
    member = member_of(request)
    return SpecForm(_captured(member.house, payload))


@router.post("/capture/start", response={201: answers(SavedDraft)})
def start_captured(request: HttpRequest, payload: CaptureIn) -> Status[SavedDraft]:
    """Starts a spec from weighings, to be read and published by the lead."""
    member = member_of(request)
    spec = start_spec(member, NewSpec(payload.name, "other"), _captured(member.house, payload))
    return Status(201, SavedDraft(spec.pk, 1))


@router.post("/gear", response=answers(tuple[Remark, ...]))
def gear(request: HttpRequest, payload: GearIn) -> list[Remark]:
    """Allergens that equipment carries from one spec into the next."""
    house = member_of(request).house
    return list(carried([_sound(house, body) for body in payload.specs]))
