"""Treatments of a juice, with the last batch of this house that used each."""

from __future__ import annotations

from django.http import Http404

from ulsek.batches.models import Run
from ulsek.core.advice.juice_treatment import clear_ways, missable, stronger_ways, without
from ulsek.core.base.answer import fields_of
from ulsek.stores.queries import resolve
from ulsek.team.models import House

from .schemas import DeskIn, DeskOut, MethodSeen, MissableOut

_LOOKED_AT = 40


def desk(house: House, asked: DeskIn) -> DeskOut:
    """Returns the ways to clear a juice of this house, or to strengthen it if `want_brix` is set. Raises Http404 for an unknown material."""
    juice = resolve(house, [asked.material]).materials.get(asked.material)
    if juice is None:
        raise Http404
    ways = (
        stronger_ways(juice, asked.mass_g, asked.want_brix)
        if asked.want_brix is not None
        else clear_ways(juice, asked.mass_g, warm_c=asked.warm_c, missing=asked.missing, scale_g=asked.scale_g)
    )
    seen = _last_times(house, {way.verb for way in ways})
    stands = juice.measured()
    return DeskOut(
        name=juice.delivery or juice.name,
        missable=tuple(MissableOut(key=key, name=name) for key, name in missable()),
        without=without(asked.missing),
        brix=stands["brix"],
        sugar_g_100ml=stands["sugar_g_100ml"],
        acid_g_100ml=stands["acid_g_100ml"],
        ways=tuple(MethodSeen(**fields_of(way), last_time=seen.get(way.verb, "")) for way in ways),
    )


def _last_times(house: House, verbs: set[str]) -> dict[str, str]:
    """Returns for each verb the last finished batch that used it: its code, its spec and its date."""
    found: dict[str, str] = {}
    runs = (
        Run.objects.filter(house=house, rehearsal=False).exclude(finished_at=None).select_related("version__spec").order_by("-finished_at")
    )
    for run in runs[:_LOOKED_AT]:
        for step in run.version.body.get("steps", []):
            verb = step.get("verb")
            if verb in verbs and verb not in found and run.finished_at:
                found[verb] = f"{run.version.spec.name}, batch {run.code}, {run.finished_at:%d %b}"
    return found
