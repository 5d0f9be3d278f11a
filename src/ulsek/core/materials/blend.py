"""Blends: several supplies of one material together, when one runs empty while it is poured and another continues."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal

from ..base.messages import message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import SUGARS
from ..properties.density import density_g_ml
from .composition import ByParts, ByReading, BySubstance, Composition
from .material import Material

_Shares = Sequence[float]


def _mean(shares: _Shares, ranges: Iterable[Range]) -> Range:
    """Returns the mean by mass of ranges that move together: uncertainty that deliveries do not share is overestimated."""
    found = list(zip(shares, ranges, strict=True))
    # As if all deliveries erred in the same direction: the wide end, since nothing says that they do not.
    # As if all deliveries erred in the same direction: the wide end, since nothing says that they do not.
    value, low, high = (math.fsum(share * getattr(item, part) for share, item in found) for part in ("value", "low", "high"))
    return Range(value, min(low, value), max(high, value))


def _mean_split(weights: _Shares, splits: Iterable[Mapping[str, float]]) -> dict[str, float]:
    """Returns shares that add up to 1, weighted by the mass that each supply brings."""
    # Without any of it the shares of the first supply stand, since some must.
    total = math.fsum(weights)
    if total <= 0:
        return dict(next(iter(splits)))
    found: dict[str, float] = {}
    for weight, split in zip(weights, splits, strict=True):
        for key, share in split.items():
            found[key] = found.get(key, 0.0) + share * weight / total
    return found


def _of_substances(shares: _Shares, compositions: Sequence[BySubstance]) -> BySubstance:
    keys = sorted({key for composition in compositions for key in composition.g_per_100g} - {"water"})
    nothing = Range.exact(0.0)
    return BySubstance(
        {key: _mean(shares, (item.g_per_100g.get(key, nothing) for item in compositions)) for key in keys}, compositions[0].source
    )


def _of_readings(shares: _Shares, compositions: Sequence[ByReading]) -> ByReading:
    grams = [item.per_gram(0.0, 0.0) for item in compositions]
    together = Contents()
    for share, held in zip(shares, grams, strict=True):
        together = together + held.scaled(share)
    # A refractometer reads per mass, a titration per volume.
    by_volume = [share * density_g_ml(together) / density_g_ml(held) for share, held in zip(shares, grams, strict=True)]
    solids = [share * (1.0 - held.of("water")) for share, held in zip(shares, grams, strict=True)]
    all_solids = math.fsum(solids)

    def of(keys: Iterable[str]) -> list[float]:
        wanted = list(keys)
        return [share * held.total(wanted) for share, held in zip(shares, grams, strict=True)]

    return ByReading(
        brix_reading=_mean(shares, (item.brix_reading for item in compositions)),
        acid_g_100ml=_mean(by_volume, (item.acid_g_100ml for item in compositions)),
        acid_split=_mean_split(of({key for item in compositions for key in item.acid_split}), [item.acid_split for item in compositions]),
        sugar_split=_mean_split(of(SUGARS), [item.sugar_split for item in compositions]),
        # If a pH was read, the cation follows from it; cations mix linearly, pH does not.
        potassium_mg_100g=1e5 * math.fsum(of(["potassium"])),
        other_solids_share=_mean([part / all_solids for part in solids], (item.other_solids_share for item in compositions))
        if all_solids > 0
        else compositions[0].other_solids_share,
        source=compositions[0].source,
        brix_read=all(item.brix_read for item in compositions),
        acid_read=all(item.acid_read for item in compositions),
        pectin_g_100g=100.0 * math.fsum(of(["pectin"])),
    )


def _of_parts(shares: _Shares, compositions: Sequence[ByParts]) -> ByParts:
    names = list(compositions[0].compositions)
    found, weights = {}, {}
    for name in names:
        # The share of a part in the blend is by mass; inside it each supply counts by what it brought of that part.
        parts = [share * item.shares[name] for share, item in zip(shares, compositions, strict=True)]
        weights[name] = math.fsum(parts)
        inside = [part / weights[name] for part in parts] if weights[name] > 0 else list(shares)
        mixed = blended_composition(inside, [item.compositions[name] for item in compositions])
        if isinstance(mixed, ByParts):
            raise Refusal(message("A part has no parts of its own"), "makeup/parts")
        found[name] = mixed
    return ByParts(weights, found, compositions[0].source)


def _as_substances(composition: Composition) -> BySubstance:
    """Returns the composition by substance: at its best value, with all of it low, and with all of it high."""
    value, low, high = (composition.per_gram(z, z) for z in (0.0, -1.0, 1.0))
    keys = {key for held in (value, low, high) for key in held.grams} - {"water"}
    # Moved as a whole: a form without readings cannot say which of its substances moves.
    ends = {key: (low.of(key), value.of(key), high.of(key)) for key in keys}
    return BySubstance(
        {key: Range(100.0 * v, 100.0 * min(a, v, b), 100.0 * max(a, v, b)) for key, (a, v, b) in ends.items()}, composition.source
    )


def blended_composition(shares: _Shares, compositions: Sequence[Composition]) -> Composition:
    """Returns the composition of several supplies of one material, by their `shares` of the mass, which add up to 1.

    It keeps the form that they share, so that readings stay readings; else it is by substance. The mass of every substance adds up, for juices that were read
    to 2e-5 of the mass (the correction of a reading for acid is not linear). Source: mass balance.
    """
    if all(isinstance(item, BySubstance) for item in compositions):
        return _of_substances(shares, [item for item in compositions if isinstance(item, BySubstance)])
    if all(isinstance(item, ByReading) for item in compositions):
        return _of_readings(shares, [item for item in compositions if isinstance(item, ByReading)])
    whole = [item for item in compositions if isinstance(item, ByParts)]
    if len(whole) == len(compositions) and len({frozenset(item.compositions) for item in whole}) == 1:
        return _of_parts(shares, whole)
    return _of_substances(shares, [_as_substances(item) for item in compositions])


def blended(key: str, parts: Sequence[tuple[Material, float]]) -> Material:
    """Returns one material from several supplies of it, each with its mass [g].

    Safety data is the stricter of them: every allergen and caution, the earliest date, the most of what is restricted. Raises Refusal for supplies that weigh
    nothing together.
    """
    total = math.fsum(grams for _, grams in parts)
    if not total > 0:
        raise Refusal(message("Nothing of it is in"), "parts", message("above 0 g"), code="not_positive")
    shares, items = [grams / total for _, grams in parts], [item for item, _ in parts]
    first = items[0]

    def mean(of: Callable[[Material], Range | None]) -> Range | None:
        found = [of(item) for item in items]
        return _mean(shares, [item for item in found if item is not None]) if None not in found else of(first)

    prices = [item.price_per_kg for item in items]
    # The earliest date of any supply is that of the blend: what is mixed is as old as its oldest part.
    dates = [item.keeps_days for item in items if item.keeps_days is not None]
    restricted = sorted({name for item in items for name in item.contains_mg_g})
    return replace(
        first,
        key=key,
        composition=blended_composition(shares, [item.composition for item in items]),
        price_per_kg=None
        if None in prices
        else sum((price * Decimal(repr(share)) for price, share in zip(prices, shares, strict=True) if price is not None), Decimal(0)),
        allergens=tuple(dict.fromkeys(word for item in items for word in item.allergens)),
        cautions=tuple(dict.fromkeys(word for item in items for word in item.cautions)),
        hold_g_g=mean(lambda item: item.hold_g_g),
        bulk_density_g_ml=mean(lambda item: item.bulk_density_g_ml),
        piece_g=mean(lambda item: item.piece_g),
        vegan=all(item.vegan for item in items),
        heat_sensitive=any(item.heat_sensitive for item in items),
        delivery=" and ".join(dict.fromkeys(item.delivery for item in items if item.delivery)) or None,
        keeps_days=min(dates, default=None),
        contains_mg_g={
            name: max((item.contains_mg_g[name] for item in items if name in item.contains_mg_g), key=lambda found: found.high)
            for name in restricted
        },
        _cache={},
    )
