"""Library of a house: lists and finds specs, their dependencies, when each was last made and what of it is on the shelf."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from django.db.models import Count, Max, Q, QuerySet, Sum
from django.db.models.functions import Coalesce

from ulsek.core.base import vocabulary
from ulsek.core.base.vocabulary import plain
from ulsek.core.run.start_times import PrepTimes
from ulsek.team.models import House

from .library_schemas import SpecQuery, SpecRow, TreeOut, TreesOut
from .models import Origin, Spec, SpecMaterial, SpecState, Version
from .origins import newest_there
from .projection import material_key_of

_DEEPEST = 8


ORDERS = {"family": ("family", "name", "key"), "made": ("-last_made", "name", "key")}
"""The columns of each order in which the library is listed."""


def found(house: House, wanted: SpecQuery) -> QuerySet[Spec]:
    """Returns the house's specs that match every filter; every word of `find` must be in a spec's texts, or all of it in a name of its
    family.
    """
    specs = Spec.objects.filter(house=house)
    if wanted.find.strip():
        by_words = Q()
        for word in plain(wanted.find).split():
            by_words &= Q(search__contains=word)
        # A family goes by more than one name: “oleo saccharum” is none of the words that its specs hold.
        specs = specs.filter(by_words | Q(family__in=[meant.key for meant in vocabulary.find(wanted.find, ("families",))]))
    if wanted.family:
        specs = specs.filter(family=wanted.family)
    if wanted.state:
        specs = specs.filter(state=wanted.state)
    if wanted.material:
        specs = specs.filter(pk__in=SpecMaterial.objects.filter(material=wanted.material).values("spec"))
    if wanted.on_shelf:
        specs = specs.filter(
            pk__in=Version.objects.filter(spec__house=house, run__lots__gone_at=None, run__lots__left__gt=0, run__lots__what="").values(
                "spec"
            )
        )
    if wanted.order == "made":
        # A rehearsal makes nothing.
        specs = specs.annotate(last_made=Max("versions__run__started_at", filter=Q(versions__run__rehearsal=False)))
    return specs


def rows(specs: Iterable[Spec]) -> tuple[SpecRow, ...]:
    """Returns one row for each spec, in order. Makes at most five queries, whatever the number of specs."""
    listed = list(specs)
    keys = [spec.pk for spec in listed]
    real = Q(run__rehearsal=False)
    made: dict[Any, dict[str, Any]] = {
        row["spec"]: dict(row)
        for row in Version.objects.filter(spec__in=keys)
        .values("spec")
        .annotate(last_made=Max("run__started_at", filter=real), batches=Count("run", filter=real, distinct=True))
    }
    shelf = dict(
        Version.objects.filter(spec__in=keys, run__lots__gone_at=None, run__lots__what="")
        .values_list("spec")
        .annotate(left=Coalesce(Sum("run__lots__left"), 0.0))
        .values_list("spec", "left")
    )
    followed = {spec.pk: spec.origin for spec in listed if hasattr(spec, "origin") and spec.origin.followed}
    newest = newest_there([origin.source for origin in followed.values()], listed[0].house_id) if followed else {}
    return tuple(
        SpecRow(
            id=spec.pk,
            key=spec.key,
            name=spec.name,
            family=spec.family,
            state=spec.state,
            version=spec.newest.number if spec.newest else None,
            why=spec.newest.why if spec.newest else "",
            brief=spec.newest.brief if spec.newest else None,
            draft_saved_at=spec.draft.saved_at,
            draft_saved_by=spec.draft.saved_by.display_name,
            last_made=made.get(spec.pk, {}).get("last_made"),
            batches=made.get(spec.pk, {}).get("batches", 0),
            on_shelf_ml=shelf.get(spec.pk, 0.0) or 0.0,
            base=spec.base.name if spec.base else "",
            trial_of=f"{spec.trial_of.spec.name}, version {spec.trial_of.number}" if spec.trial_of else "",
            follows=followed[spec.pk].house_name if spec.pk in followed else "",
            newer=_newer(followed.get(spec.pk), newest),
        )
        for spec in listed
    )


def _newer(origin: Origin | None, newest: Mapping[UUID, int]) -> int:
    """Returns the number of the version that a copy could take in; 0 if it has the newest."""
    there = newest.get(origin.source, 0) if origin else 0
    return there if origin and there > origin.number else 0


def with_newest(specs: QuerySet[Spec]) -> QuerySet[Spec]:
    """Returns the query with what a row shows, without bodies."""
    heavy = ("body", "materials", "final", "outputs")
    aside = ["draft__body", *(f"{place}__{name}" for place in ("newest", "trial_of") for name in heavy)]
    return specs.select_related("draft__saved_by", "newest", "base", "trial_of__spec", "origin").defer(*aside)


def tree(spec: Spec) -> TreesOut:
    """Returns what a spec is made with and what is made with it, through every prep between."""
    house = spec.house
    by_key = {material_key_of(row["key"]): row for row in Spec.objects.filter(house=house).values("id", "key", "name", "state", "family")}
    uses: dict[str, list[str]] = {}
    used_by: dict[str, list[str]] = {}
    for key, material in SpecMaterial.objects.filter(spec__house=house, material__in=list(by_key)).values_list("spec__key", "material"):
        uses.setdefault(material_key_of(key), []).append(material)
        used_by.setdefault(material, []).append(material_key_of(key))

    def branch(key: str, onward: dict[str, list[str]], seen: tuple[str, ...]) -> tuple[TreeOut, ...]:
        return tuple(
            TreeOut(**by_key[inner], branches=branch(inner, onward, (*seen, inner)))
            for inner in sorted(onward.get(key, []))
            if inner in by_key and inner not in seen and len(seen) <= _DEEPEST
        )

    own = material_key_of(spec.key)
    return TreesOut(draws_on=branch(own, uses, (own,)), drawn_on_by=branch(own, used_by, (own,)))


def made_of(house: House) -> dict[str, PrepTimes]:
    """Returns every published prep with its minutes and the preps that it needs, by material key."""
    keys = {
        spec.key: spec
        for spec in Spec.objects.filter(house=house, state=SpecState.PUBLISHED)
        .select_related("newest")
        .defer("newest__body", "newest__materials", "newest__final", "newest__outputs")
    }
    known = {material_key_of(key) for key in keys}
    uses: dict[str, list[str]] = {}
    for key, material in SpecMaterial.objects.filter(spec__house=house, material__in=known).values_list("spec__key", "material"):
        uses.setdefault(key, []).append(material)
    return {
        material_key_of(key): PrepTimes(
            material_key_of(key),
            spec.name,
            float(spec.newest.brief.get("takes_min", 0.0)) if spec.newest else 0.0,
            tuple(uses.get(key, ())),
            bool(spec.newest and spec.newest.brief.get("turns_before_ready")),
        )
        for key, spec in keys.items()
    }


def on_shelf(house: House) -> list[str]:
    """Returns the material keys of the preps that are on the shelf."""
    rows_ = (
        Version.objects.filter(spec__house=house, run__lots__gone_at=None, run__lots__left__gt=0, run__lots__what="")
        .values_list("spec__key", flat=True)
        .distinct()
    )
    return [material_key_of(key) for key in rows_]


def usage(house: House, material: str) -> list[str]:
    """Returns the names of the specs that use a material."""
    return list(Spec.objects.filter(house=house, uses__material=material).order_by("name").values_list("name", flat=True)[:50])
