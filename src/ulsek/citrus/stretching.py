"""Stretched juice of a house: of its own case, at its prices, compared with its other sours."""

from __future__ import annotations

from decimal import Decimal
from uuid import UUID

from django.http import Http404

from ulsek.batches.models import Lot
from ulsek.core.base.answer import fields_of
from ulsek.core.citrus.fruit import Variety, variety
from ulsek.core.citrus.storage import keeps, keeps_words
from ulsek.core.citrus.stretched_juice import (
    SERVE_ML,
    SHARP_G_100ML,
    OwnFruit,
    Stretched,
    StretchInputs,
    sours_at_equal,
    stretch,
    stretched_spec,
)
from ulsek.core.materials.delivery import price_per_kg
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.models import Spec
from ulsek.stores.queries import resolve
from ulsek.team.access import Member

from .models import Case
from .queries import known_of, records, with_samples
from .schemas import StretchOut

_SOURS = 6


def _made(member: Member, fruit: str, asked: StretchInputs, case: UUID | None) -> tuple[Variety, Stretched, Case | None]:
    """Returns the fruit, its stretched juice as this house would make it, and the case that it is computed from: the one named, else the fruit's last."""
    of = variety(fruit)
    have = with_samples(member.house).filter(fruit=of.key)
    mine = have.filter(pk=case).first() if case else have.first()
    if case and mine is None:
        raise Http404
    found = resolve(member.house, [f"{of.key}_juice", "citric_acid"]).materials
    juice, acid = found.get(f"{of.key}_juice"), found.get("citric_acid")
    known = known_of(mine, records(member.house, [of.key]))[0] if mine else None
    own = OwnFruit(
        juice,
        known.share.value if known else None,
        float(price_per_kg(mine.price, Decimal(mine.weight_g))) if mine and mine.price else None,
        float(acid.price_per_kg) if acid and acid.price_per_kg is not None else None,
    )
    return of, stretch(of, asked, own), mine


def start_stretched(member: Member, fruit: str, asked: StretchInputs, case: UUID | None) -> Spec:
    """Starts a spec of the stretched juice, for the lead to read, taste and publish."""
    of, made, _ = _made(member, fruit, asked, case)
    known = resolve(member.house, [f"{of.key}_juice", f"{of.key}_zest", "water", *made.acids_g]).materials
    body = stretched_spec(of, made, asked.school, known)
    return start_spec(member, NewSpec(body["name"], body["family"]), body)


def stretched(member: Member, fruit: str, asked: StretchInputs, case: UUID | None) -> StretchOut:
    """Returns the stretched juice with the reading of this house and the price of the named case or the fruit's last one; sours of the house at equal doses."""
    of, made, mine = _made(member, fruit, asked, case)
    fresh = made.fresh
    sours = [("fresh", fresh["sugar_g_100ml"], fresh["acid_g_100ml"]), ("stretched", made.sugar_g_100ml, made.acid_g_100ml)]
    sours += _house_sours(member)
    equal_acid, equal_sugar = sours_at_equal(sours, fresh["sugar_g_100ml"], fresh["acid_g_100ml"])
    kept = {item.form: item for item in keeps()}
    return StretchOut(
        **fields_of(made),
        from_what=f"{of.name} from {mine.supplier}" if mine else "typical values",
        keeps=tuple(keeps_words(kept[name]) for name in ("fresh, strained fine", "stretched")),
        serve_ml=SERVE_ML,
        equal_acid=equal_acid,
        equal_sugar=equal_sugar,
    )


def _house_sours(member: Member) -> list[tuple[str, float, float]]:
    """Returns the sours on the shelf: name, sugar, acid [g/100 mL]."""
    found: dict[str, tuple[str, float, float]] = {}
    for lot in Lot.objects.filter(house=member.house, gone_at=None, what="", recalled="").exclude(final=None).order_by("-made_at")[:60]:
        final = lot.final or {}
        sugar, acid = (float(final[name]["value"]) for name in ("sugar_g_100ml", "acid_g_100ml"))
        if acid >= SHARP_G_100ML:
            found.setdefault(lot.name, (lot.name, sugar, acid))
    return list(found.values())[:_SOURS]
