"""A stretched citrus as the house would make it: its own case, its prices, and beside it the house's other sours."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import Http404

from ulsek.batches.models import Lot
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.keeps import keeps
from ulsek.core.citrus.stretch import SHARP_G_100ML, School, at_equal, stretch
from ulsek.stores.queries import resolve
from ulsek.team.access import Member

from .queries import known_of, records, with_samples

_SOURS = 6
_DOSE_ML = 25.0


def stretched(
    member: Member,
    *,
    fruit: str,
    juice_ml: float,
    times: float,
    school: School,
    target: float | None,
    peel_g: float | None,
    most_oil_mg_l: float | None,
    case: UUID | None,
) -> dict[str, Any]:
    """The core's stretch with the juice as this house read it and the price of the named case or the fruit's last one; sours of the house at equal doses."""
    of = variety(fruit)
    have = with_samples(member.house).filter(fruit=of.key)
    mine = have.filter(pk=case).first() if case else have.first()
    if case and mine is None:
        raise Http404
    juice = resolve(member.house, [f"{of.key}_juice"]).materials.get(f"{of.key}_juice")
    acid = resolve(member.house, ["citric_acid"]).materials.get("citric_acid")
    known = known_of(mine, records(member.house, [of.key]))[0] if mine else None
    made = stretch(
        of,
        juice_ml,
        times,
        school=school,
        target=target,
        peel_g=peel_g,
        most_oil_mg_l=most_oil_mg_l,
        own=juice,
        share=known.share.value if known else None,
        price_kg=float(mine.price) / mine.weight_g * 1000 if mine and mine.price else None,
        acid_kg=float(acid.price_per_kg) if acid and acid.price_per_kg is not None else None,
    )
    fresh = made.fresh
    sours = [("fresh", fresh["sugar_g_100ml"], fresh["acid_g_100ml"]), ("stretched", made.sugar_g_100ml, made.acid_g_100ml)]
    sours += _house_sours(member)
    kept = {item.form: item for item in keeps()}
    return {
        **made.as_data(),
        "from_what": f"{of.name} from {mine.supplier}" if mine else "typical values",
        "keeps": [
            f"{name}: {kept[name].quality_h.value:.0f} h at its best, {kept[name].safe_days:.0f} days by the safety rule"
            for name in ("fresh, strained fine", "stretched")
        ],
        "serve_ml": _DOSE_ML,
        "equal_acid": [_mixer(item) for item in at_equal(sours, "acid", _DOSE_ML * fresh["acid_g_100ml"] / 100.0)],
        "equal_sugar": [_mixer(item) for item in at_equal(sours, "sugar", _DOSE_ML * fresh["sugar_g_100ml"] / 100.0)],
    }


def _mixer(item: Any) -> dict[str, Any]:
    return {"name": item.name, "dose_ml": item.dose_ml, "sugar_g": item.sugar_g, "acid_g": item.acid_g}


def _house_sours(member: Member) -> list[tuple[str, float, float]]:
    """What stands on the shelf and is sharp: name, sugar, acid [g/100 mL]."""
    found: dict[str, tuple[str, float, float]] = {}
    for lot in Lot.objects.filter(house=member.house, gone_at=None, what="", recalled="").exclude(final=None).order_by("-made_at")[:60]:
        final = lot.final or {}
        sugar, acid = (float(final[name]["value"]) for name in ("sugar_g_100ml", "acid_g_100ml"))
        if acid >= SHARP_G_100ML:
            found.setdefault(lot.name, (lot.name, sugar, acid))
    return list(found.values())[:_SOURS]
