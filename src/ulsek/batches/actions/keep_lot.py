"""Finish a batch: the product becomes a lot, by-products lots or waste, with their dates and reasons."""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from django.db.models import F

from ulsek.core.base.answer import fields_of, stored_json
from ulsek.core.base.messages import Message, counted, message, stored
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.evaluation.leftovers import weighed_expected_g
from ulsek.core.evaluation.product_shelf_life import keeping_of_remainder
from ulsek.core.materials.vessel_state import VesselState
from ulsek.core.operations.amounts import BY_PRODUCT, VESSEL
from ulsek.core.run.available_from import ready_from
from ulsek.core.run.dates import lot_dates
from ulsek.core.run.device_clocks import moment
from ulsek.core.run.events.batch import Finished
from ulsek.core.run.finish import missing_amount_question, volume_expected_ml
from ulsek.core.run.learned_priors import carried, stored_priors
from ulsek.core.run.rehearsal import score
from ulsek.core.run.run_result import run_result
from ulsek.core.run.state import RunState
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.rules_edition import edition_words
from ulsek.core.safety.spec_quality import no_longer_than
from ulsek.stores.models import StockItem
from ulsek.team.access import Member
from ulsek.team.locks import locked

from ..folding import supplies_pinned
from ..models import Container, Drawn, Learned, Lot, Run


def _checked(state: RunState) -> int:
    """Returns the step that holds the finished product. Raises Refusal while steps are left, and if nothing was made."""
    left = [step for step in state.spec.steps if step.id not in state.done]
    if left:
        raise Refusal(
            counted("One step is not done", "{n} steps are not done", len(left)),
            "body",
            remedy=message("Do them or skip them, then finish"),
            code="steps_left",
        )
    if state.evaluation.last is None:
        raise Refusal(message("Nothing was made"), "body", code="nothing_made")
    return state.evaluation.last


def _some(amount: float, where: str, unit: str, remedy: Message) -> float:
    """Returns the amount of a lot. Raises Refusal for 0, which an unmeasured prediction may be."""
    if amount <= 0:
        raise Refusal(message("0 {unit} cannot be", unit=unit), where, message("above 0 {unit}", unit=unit), remedy, "not_positive")
    return amount


def _check_explained(asked: Message, answer: str, where: str) -> None:
    """Raises Refusal for an amount far from the prediction, unless it is explained."""
    if asked and not answer.strip():
        raise Refusal(asked, where, remedy=message("Say it in a few words, or measure it again"), code="where_is_the_rest")


def _left(evaluation: Evaluation, key: str) -> VesselState | None:
    """Returns a leftover of a batch by its key; None if there is none."""
    if not key.startswith(VESSEL):
        return evaluation.flow.streams.get(key.removeprefix(BY_PRODUCT))
    return evaluation.flow.vessels[key.removeprefix(VESSEL)] if any(item.key == key for item in evaluation.leftovers) else None


def _by_products(member: Member, run: Run, state: RunState, event: Finished, common: Mapping[str, Any]) -> None:
    """Makes a lot of each by-product and each rest in a vessel that is kept. Raises Refusal for waste without a reason."""
    evaluation = state.evaluation
    # An event from before leftovers had keys names a rest as it was called then.
    by_name = {item.name.text(): item.key for item in evaluation.leftovers if item.stands == "vessel"}
    for n, item in enumerate(event.by_products, 1):
        where = f"body/by_products/{n}"
        key = item.key or by_name.get(item.name) or f"{BY_PRODUCT}{item.name}"
        stream = _left(evaluation, key)
        if stream is None:
            raise Refusal(message("“{name}” did not come of this batch", name=item.name), where, code="unknown_reference")
        if item.to == "bin":
            continue
        grams = _some(stream.mass_g if item.mass_g is None else item.mass_g, f"{where}/mass_g", "g", message("Weigh it"))
        _check_explained(missing_amount_question(weighed_expected_g(stream.mass_g), grams, "g"), item.rest, f"{where}/rest")
        fresh = keeping_of_remainder(evaluation, key)
        Lot.objects.create(
            **common,
            **fields_of(lot_dates(state, fresh, member.day, key)),
            code=f"L{run.code[1:]}-{n}"[:16],
            name=f"{item.name[:1].upper()}{item.name[1:]}, from {state.spec.name}",
            what=item.name,
            unit="g",
            amount=grams,
            left=grams,
            place=item.place or event.place,
            final=None,
        )


def _take_from_stores(run: Run, state: RunState) -> None:
    """Takes what was used out of the deliveries and lots."""
    # F() because several runs may draw on one delivery at once; below zero is shown, not refused.
    for supply, used in state.taken_g(supplies_pinned(run.snapshot)).items():
        kind, _, name = supply.partition(":")
        if kind == "delivery":
            StockItem.objects.filter(pk=name, house=run.house).update(remaining_g=F("remaining_g") - Decimal(f"{used:.1f}"))
            continue
        lot = Lot.objects.get(house=run.house, code=name)
        Lot.objects.filter(pk=lot.pk).update(left=F("left") - used / lot.unit_g)
    drawn = list(Drawn.objects.filter(run=run))
    weighed = state.taken_g({item.material: item.material for item in drawn})
    for item in drawn:
        item.mass_g = weighed.get(item.material, 0.0)
    Drawn.objects.bulk_update(drawn, ["mass_g"])


def _filled(member: Member, lot: Lot, event: Finished) -> None:
    """Records the product in its containers. Raises Refusal for one of another house."""
    found = locked(Container.objects.filter(house=member.house, pk__in=event.containers))
    if len(found) != len(event.containers):
        raise Refusal(
            message("One of the containers is not here"),
            "body/containers",
            remedy=message("Choose it from the list"),
            code="unknown_reference",
        )
    for container in found:
        container.holds, container.last_contents, container.last_allergens = lot, lot.name, lot.allergens
        container.cleaned_at = None
        container.save()


def _volume_ml(evaluation: Evaluation, last: int, event: Finished) -> float:
    """Returns the volume of the product [mL], as measured or else as predicted after step `last`. Raises Refusal for 0, and for an unexplained difference."""
    predicted = evaluation.figures[last]["volume_ml"]
    volume = _some(predicted if event.volume_ml is None else event.volume_ml, "body/volume_ml", "mL", message("Read the bottles"))
    expected = volume_expected_ml(evaluation)
    if expected is not None:
        _check_explained(missing_amount_question(expected, volume, "mL"), event.rest, "body/rest")
    return volume


def keep_lot(member: Member, run: Run, state: RunState, event: Finished) -> Lot | None:
    """Returns the lot of a run that ends with `event`; stores the result, takes what was used out of stock, stores what was learned. A rehearsal only gets a
    score.

    Part of the action that stores the event, which has locked the supplies. Raises Refusal while steps are left, and for deviations that nobody signed.
    """
    last = _checked(state)
    result = run_result(state)
    run.finished_at, run.result = moment(event.at), stored_json(result)
    run.result["rules"] = stored(edition_words(run.snapshot.get("edition"), run.snapshot.get("rules")))
    if run.rehearsal:
        found = score(state)
        run.result["score"] = stored_json(found)
        member.wrote("finish_rehearsal", str(run), at=run.finished_at, points=found.points)
        return None
    evaluation = state.evaluation
    if state.off_spec and not event.signed:
        remedy = message("Sign that it goes on the shelf like this, or mend it first")
        raise Refusal(state.off_spec, "body/signed", remedy=remedy, code="unsigned")
    bottle, made = state.bottle, run.finished_at
    # A date that the house shortened while the batch was under way holds for it too.
    kept = no_longer_than(evaluation.keeping, read_rules(member.house.rules).spec_quality.get(state.spec.id))
    ready, why = ready_from(state.spec.steps, state.done, state.begun, state.skipped, event.at)
    volume = _volume_ml(evaluation, last, event)
    common = {
        "house": run.house,
        "run": run,
        "version_number": run.version.number,
        "bottle_ml": bottle.bottle_ml,
        "made_at": made,
        "made_by": member.person.display_name,
        "allergens": list(evaluation.hazards.allergens),
        "cautions": list(evaluation.hazards.cautions),
        "recalled": run.recalled,
    }
    lot = Lot.objects.create(
        **common,
        **fields_of(lot_dates(state, kept, member.day)),
        code=f"L{run.code[1:]}",
        name=state.spec.name,
        amount=volume,
        left=volume,
        place=event.place,
        ready_at=ready if why else None,
        ready_why=why,
        off_spec=state.off_spec,
        final={**run.result["evaluation"]["final"], "readings": run.result["readings"]},
    )
    _by_products(member, run, state, event, common)
    _take_from_stores(run, state)
    _filled(member, lot, event)
    if any(lesson.kept for lesson in result.lessons):
        Learned.objects.create(house=run.house, spec=run.version.spec, run=run, groups=stored_priors(carried(evaluation.estimate)), at=made)
    member.wrote("finish_run", str(run), at=made, lot=lot.code)
    return lot
