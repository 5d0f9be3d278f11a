"""Cost of the materials and of the labour, and its allocation to product and by-products."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ..base.messages import listed, message
from ..base.refusals import Refusal
from ..materials.material import Material
from .flow_values import Flow, LineAddition

CENT = Decimal("0.0001")
_LEAST_SERVES = 0.001
NO_COST = Decimal(0)
LEFT_OVER = "left over"
"""The output that carries the share of what stands beside the product at the end."""


@dataclass(frozen=True, slots=True)
class Cost:
    """Cost of the batch and per litre in the house's currency. `unpriced` names materials without a price, which count as free; `left` is the cost of what is
    left besides the product, which the product does not carry.
    """

    batch: Decimal
    per_litre: Decimal
    unpriced: tuple[str, ...]
    left: Decimal = NO_COST


def per_serve(batch: Decimal, serves: float) -> Decimal:
    """Returns the cost of one of so many serves [currency]; the whole cost for less than one. Source: definition."""
    return (batch / Decimal(repr(max(serves, _LEAST_SERVES)))).quantize(CENT)


def cost(added: Iterable[LineAddition], materials: Mapping[str, Material], volume_ml: float, left: Decimal = NO_COST) -> Cost:
    """Returns the cost: mass × price per kilogram over all lines; per litre of `volume_ml` [mL], less what is `left` over. Labour: see `full_cost`. 2 kg at
    3.50: 7.00.
    """
    batch = Decimal(0)
    unpriced: list[str] = []
    for item in added:
        # A by-product or another vessel was paid for when its materials went in.
        if item.own:
            continue
        # A material without a price counts as free, and is named, so that nobody takes the sum for complete.
        price = materials[item.material].price_per_kg
        if price is None:
            unpriced.append(materials[item.material].name)
        else:
            batch += Decimal(repr(item.mass_g)) / 1000 * price
    litres = Decimal(repr(volume_ml)) / 1000
    per_litre = (batch - left) / litres if litres > 0 else Decimal(0)
    return Cost(batch.quantize(CENT), per_litre.quantize(CENT), tuple(dict.fromkeys(unpriced)), left.quantize(CENT))


CostAllocation = Literal["credit", "mass"]
WAYS: tuple[CostAllocation, ...] = ("credit", "mass")
"""Two schools for a by-product that is kept: the product pays for everything less what the by-product is worth, or both pay by their weight."""


@dataclass(frozen=True, slots=True)
class FullCost:
    """Cost of a batch in the house's currency: materials, labour, and the share of each output (the product is "product", what remains in vessels "left over");
    per litre of product.
    """

    materials: Decimal
    labour: Decimal
    hands_min: float
    outputs: Mapping[str, Decimal]
    per_litre: Decimal
    unpriced: tuple[str, ...]


def full_cost(
    materials_cost: Cost,
    made: Flow,
    product: Mapping[str, float],
    labour_per_hour: Decimal = NO_COST,
    worth_per_kg: Mapping[str, Decimal] | None = None,
    way: CostAllocation = "credit",
) -> FullCost:
    """Returns materials and hands-on time × people × `labour_per_hour`, allocated to the `product` (its mass_g [g] and volume_ml [mL]) and the by-products that
    are kept.

    With "credit" each by-product carries its own worth (`worth_per_kg` by its name) and the product the rest; with "mass" each carries its share of the mass.
    Raises Refusal for a negative price, a by-product that is not kept, and credits above the cost of the batch.
    """
    prices = dict(worth_per_kg or {})
    kept = {stream.name: stream.contents.mass_g for step in made.steps for stream in step.outgoing if stream.kept}
    for name, price in (("labour_per_hour", labour_per_hour), *((f"worth_per_kg/{name}", price) for name, price in prices.items())):
        if not price.is_finite() or price < 0:
            raise Refusal(message("{price} is no price", price=str(price)), name, message("0 or more in the house's currency"))
    for name in prices:
        if name not in kept:
            raise Refusal(
                message("No by-product “{name}” is kept", name=name),
                f"worth_per_kg/{name}",
                message("there are {names}", names=listed(kept, "comma")) if kept else message("there are none"),
                code="unknown_reference",
            )
    # Two people for ten minutes are twenty minutes to pay.
    hands = math.fsum(step.step.labour_min * step.step.people for step in made.steps)
    labour = Decimal(repr(hands)) / 60 * labour_per_hour
    total = materials_cost.batch - materials_cost.left + labour
    # A by-product that was used up again in this batch carries nothing.
    left = {name: made.streams[name].mass_g if name in made.streams else mass for name, mass in kept.items()}
    # Two schools of cost accounting: by-products pay what they are worth, or what they weigh.
    if way == "credit":
        shares = {name: Decimal(repr(left[name])) / 1000 * price for name, price in prices.items()}
        if sum(shares.values()) > total:
            raise Refusal(
                message("The by-products would be worth more than the batch costs"),
                "worth_per_kg",
                message("the batch costs {cost}", cost=str(total.quantize(Decimal("0.01")))),
                message("Lower their worth, or split by weight"),
            )
    else:
        whole = math.fsum([product["mass_g"], *left.values()])
        shares = {name: total * Decimal(repr(mass / whole)) for name, mass in left.items()} if whole > 0 else {}
    # The product bears the remainder, so that the outputs always add up to the whole cost.
    bears = total - sum(shares.values(), NO_COST)
    litres = Decimal(repr(product["volume_ml"])) / 1000
    outputs = {"product": bears.quantize(CENT), **{name: share.quantize(CENT) for name, share in shares.items()}}
    if materials_cost.left:
        outputs[LEFT_OVER] = materials_cost.left
    per_litre = (bears / litres if litres > 0 else Decimal(0)).quantize(CENT)
    return FullCost(materials_cost.batch, labour.quantize(CENT), hands, outputs, per_litre, materials_cost.unpriced)
