"""Supplies of a run: the house's open deliveries and own lots, each with its composition, and how much each still makes."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.utils import timezone

from ulsek.core.base.messages import Day, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.material import Material, read_material
from ulsek.core.materials.supply import code_on_label, key_from, makes_more_ml, material_of_key
from ulsek.core.run.state import RunState
from ulsek.specs.outputs import output_key, outputs_of
from ulsek.stores.models import StockItem
from ulsek.stores.queries import body_of, described, resolve
from ulsek.team.access import Member
from ulsek.team.models import House

from .folding import events_of, folded
from .models import Lot, Run
from .schemas import SupplyOut
from .tracing import lots_for, lots_of


@dataclass(frozen=True)
class Pinned:
    """Materials as a run pins them, with their delivery or lot. `stock` names the deliveries, `lots` the lots, by material."""

    bodies: Mapping[str, Mapping[str, Any]]
    materials: Mapping[str, Material]
    stock: Mapping[str, str]
    lots: Mapping[str, str]


def lot_body(lot: Lot, promised: Mapping[str, Any]) -> Mapping[str, Any]:
    """Returns a lot as a material in the open form: with the figures of its own batch, else with those that its spec `promised`."""
    spec = lot.batch.version.spec.key
    made = outputs_of(folded(lot.batch, events_of(lot.batch)).evaluation, spec)
    key = output_key(spec, lot.what)
    return {
        **(made.get(key) or made.get(f"house_{key}") or promised),
        "delivery": f"{lot.code}, {lot.name}",
        "use_by": lot.use_by.isoformat(),
    }


def pin(house: House, keys: Iterable[str], at: datetime | None = None) -> Pinned:
    """Returns the named materials as this house has them now: the newest delivery as it was read; of what the house makes, the lot to be taken first."""
    wanted = list(keys)
    found, lots = resolve(house, wanted), lots_for(house, wanted, at)
    own = {key: lot_body(lot, found.bodies[key]) for key, lot in lots.items() if key in found.bodies}
    bodies = {**found.bodies, **own}
    materials = {**found.materials, **{key: read_material(key, body) for key, body in own.items()}}
    return Pinned(bodies, materials, found.stock, {key: lot.code for key, lot in lots.items()})


def pin_supply(member: Member, run: Run, material: str, supply: str, at: datetime | None = None) -> None:
    """Adds a delivery or lot, as a material with its own composition, to the materials that the run pins; `at` is when it was taken for a line.

    Raises Refusal for a supply that does not exist, was recalled, was past its last day, or is another material than the line's.
    """
    if run.rehearsal:
        raise Refusal(
            message("A rehearsal takes nothing from Stores"),
            "body/supply",
            remedy=message("Go on without choosing a bottle"),
            code="rehearsal",
        )
    kind, _, code = supply.partition(":")
    key = key_from(material, supply)
    if kind == "delivery":
        item = _delivery(member.house, code)
        _wanted(material, item.material, str(item), gone=item.gone_at is not None)
        # In place of the house's material: the reading of another delivery does not apply to this one.
        run.snapshot["materials"][key] = body_of(described(member.house)[material], item)
        run.snapshot["stock"][key] = str(item.pk)
    else:
        lot = _lot(member.house, code)
        state = lot.standing(member.house, at or timezone.now()).state
        if state in ("recalled", "withdrawn"):
            why = lot.recalled or lot.withdrawn
            raise Refusal(
                message("{lot} was recalled: {recalled}", lot=lot.code, recalled=why)
                if state == "recalled"
                else message("{lot} is of a version that was withdrawn: {why}", lot=lot.code, why=why),
                "body/supply",
                remedy=message("Put it away, and take another"),
                code=state,
            )
        if state == "past":
            raise Refusal(
                message("{lot} was to be used by {use_by}", lot=lot.code, use_by=Day(lot.use_by.isoformat())),
                "body/supply",
                remedy=message("Toss it, and take another; if it went in already, say so under “Went wrong”"),
                code="out_of_date",
            )
        if lot.run is None:
            raise Refusal(
                message("Nobody wrote down what is in {lot}", lot=lot.code),
                "body/supply",
                remedy=message("Take a bottle that a batch made, or weigh it in as its own material"),
                code="no_batch",
            )
        own = output_key(lot.run.version.spec.key, lot.what)
        _wanted(material, material if material in (own, f"house_{own}") else own, str(lot), gone=lot.gone_at is not None)
        run.snapshot["materials"][key] = lot_body(lot, run.snapshot["materials"][material])
        run.snapshot.setdefault("lots", {})[key] = lot.code


def _delivery(house: House, code: str) -> StockItem:
    found = StockItem.objects.filter(house=house, pk=code).first() if len(code) == 36 else None
    if found is None:
        raise Refusal(
            message("There is no delivery “{code}” here", code=code),
            "body/supply",
            remedy=message("Choose it from the list"),
            code="unknown_reference",
        )
    return found


def _lot(house: House, code: str) -> Lot:
    found = Lot.objects.select_related("run__version__spec", "run__version__withdrawal").filter(house=house, code=code.upper()).first()
    if found is None:
        raise Refusal(message("There is no lot “{code}” here", code=code), "body/supply", remedy=message("Read the code again, or choose it from the list"), code="unknown_reference")  # fmt: skip
    return found


def _wanted(material: str, other: str, name: str, *, gone: bool) -> None:
    if other != material:
        raise Refusal(
            message("{name} is another material than this line wants", name=name),
            "body/supply",
            remedy=message("If it went in already, say so under “Went wrong”"),
            code="another_material",
        )
    if gone:
        raise Refusal(
            message("{name} is gone", name=name), "body/supply", remedy=message("Count it back in first, or take another"), code="gone"
        )


def supplies_of(member: Member, run: Run) -> list[SupplyOut]:
    """Returns every delivery and lot that a line of this run can be taken from, the newest delivery and the first lot to expire first. Nothing is folded for it."""
    batch_g: Mapping[str, float] = run.projection.get("batch_g", {})
    volume: float = run.projection.get("batch_ml", 0.0)
    open_now = Run.objects.filter(house=run.house, finished_at=None, rehearsal=False).values_list("projection", flat=True)
    drawn = [projection.get("taken_g", {}) for projection in open_now]

    def stands(supply: str, material: str, held_g: float, **words: str) -> SupplyOut:
        left = held_g - math.fsum(taken.get(supply, 0.0) for taken in drawn)
        makes = makes_more_ml(left, batch_g[material], volume) if batch_g[material] > 0 and volume > 0 else None
        return SupplyOut(supply=supply, material=material, left_g=left, makes_ml=makes, **words)

    found = [
        stands(
            f"delivery:{item.pk}",
            item.material,
            float(item.remaining_g),
            code=item.code,
            name=item.product,
            about=f"{item.supplier}, {member.local(item.received_at):%d %b}",
            warning="",
        )
        for item in StockItem.objects.filter(house=run.house, material__in=batch_g, gone_at=None).order_by("-received_at")
    ]
    now = timezone.now()
    for material, lot in lots_of(run.house, batch_g):
        about = f"{lot.place or 'no place'}, use by {lot.use_by:%d %b}"
        state = lot.standing(member.house, now).state
        warning = f"rests until {member.local(lot.ready_at):%a %H:%M}" if state == "resting" and lot.ready_at else ""
        if state == "past":
            warning = f"turned on {lot.use_by:%d %b}"
        found.append(stands(f"lot:{lot.code}", material, lot.left * lot.unit_g, code=lot.code, name=lot.name, about=about, warning=warning))
    return found


def pinned_supplies(member: Member, run: Run) -> dict[str, Mapping[str, Any]]:
    """Returns every supply of the lines of this run, with its own composition, under its key: for a tablet without the network. The batch of each lot is folded."""
    if run.rehearsal:
        return {}
    materials = set(run.projection.get("batch_g", {})) & set(run.snapshot["materials"])
    known = described(member.house)
    deliveries = StockItem.objects.select_related("house").filter(house=run.house, material__in=materials & set(known), gone_at=None)
    found = {key_from(item.material, f"delivery:{item.pk}"): body_of(known[item.material], item) for item in deliveries}
    for material, lot in lots_of(run.house, materials):
        found[key_from(material, f"lot:{lot.code}")] = lot_body(lot, run.snapshot["materials"][material])
    return found


def supply_scanned(member: Member, run: Run, state: RunState, line_id: str, text: str) -> str:
    """Returns the supply of a code, typed or scanned from a label, for a line. Raises Refusal for an unknown code, and for another material than the line's."""
    line = state.spec.lines.get(line_id)
    if line is None:
        raise Refusal(message("There is no line “{line_id}” in this run", line_id=line_id), "line", code="unknown_reference")
    code = code_on_label(text)
    material = material_of_key(line.material)
    deliveries = StockItem.objects.filter(house=run.house, gone_at=None)
    item = next((item for item in deliveries if code in (item.code, str(item.pk).upper())), None)
    supply = f"delivery:{item.pk}" if item else f"lot:{_lot(run.house, code).code}"
    # Tried on the run as it stands here; nothing is kept by asking.
    pin_supply(member, run, material, supply)
    return supply
