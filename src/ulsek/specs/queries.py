"""What the workbench shows."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from django.db.models import QuerySet

from ulsek.core.base.remarks import Remark
from ulsek.core.evaluation.evaluate import Evaluation, evaluate
from ulsek.core.evaluation.flow_values import AsMade
from ulsek.core.materials.material import read_material
from ulsek.core.release.release_check import remarks_by_others
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.spec import Spec
from ulsek.core.tasting.open_scores import OpenResult, OpenScore, open_result
from ulsek.core.workbench.answer import Workbench, draft_evaluated, workbench
from ulsek.stores.house import StoredHouse
from ulsek.stores.queries import Resolved, resolve
from ulsek.team.models import House

from .library_schemas import CopyOut, VersionOut
from .models import Spec as SpecRow
from .models import SpecMaterial, Version
from .outputs import outputs_of
from .projection import material_key_of
from .schemas import Pin, SideDraftOut


def evaluated(
    house: House, body: Mapping[str, Any], extra: tuple[str, ...] = (), *, own: SpecRow | None = None, chosen: dict[str, str] | None = None
) -> tuple[Evaluation, Resolved]:
    """Returns the evaluation of a draft as far as it can be read, with this house's materials; `own` is its spec, which it must not use."""
    stored = StoredHouse(house)
    above = makers_above(own) if own is not None else ()
    return draft_evaluated(stored, body, made_with_it=above, extra=extra, chosen=chosen), stored.resolved


def _other_briefs(house: House, own: Spec) -> Iterator[tuple[str, Mapping[str, Any]]]:
    """Yields name and brief of the newest version of each of the house's other specs."""
    rows = SpecRow.objects.filter(house=house, newest__isnull=False).exclude(key=own.id)
    yield from ((name, brief) for name, brief in rows.values_list("name", "newest__brief") if brief)


def house_doses(house: House, own: Spec) -> dict[str, list[float]]:
    """Returns the doses [g/L] of each material in the newest versions of the house's other specs."""
    found: dict[str, list[float]] = {}
    for _, brief in _other_briefs(house, own):
        for key, dose in brief.get("doses_g_l", {}).items():
            found.setdefault(key, []).append(dose)
    return found


_HIGHEST = 8


def drinks_with(house: House, own: SpecRow, evaluation: Evaluation) -> list[Evaluation]:
    """Returns evaluations of the house's drinks that contain this prep, with it as it is now; none if it holds nothing restricted.

    A drink that cannot be evaluated with it is omitted: its own check says why.
    """
    if not evaluation.hazards.restricted or evaluation.last is None:
        return []
    found: list[Evaluation] = []
    made = outputs_of(evaluation, own.key)
    seen, wave = {own.pk}, set(made)
    for _ in range(_HIGHEST):
        above = (
            SpecRow.objects.filter(house=house, uses__material__in=wave, newest__isnull=False)
            .exclude(pk__in=seen)
            .select_related("newest")
            .distinct()
        )
        wave = set()
        for row in above:
            seen.add(row.pk)
            if row.newest is None:
                continue
            spec = read_spec(version_body(row.newest))
            bodies = {**resolve(house, spec.material_keys).bodies, **{key: made[key] for key in spec.material_keys if key in made}}
            done = evaluate(spec, {key: read_material(key, body) for key, body in bodies.items()}, rules=read_rules(house.rules))
            if done.flow.refusal or done.last is None:
                continue
            if spec.family == "drink":
                found.append(done)
            else:
                onward = outputs_of(done, row.key)
                made |= onward
                wave |= set(onward)
        if not wave:
            break
    return found


def remarks_of_the_house(evaluation: Evaluation, house: House, own: SpecRow | None = None) -> tuple[Remark, ...]:
    """Returns the remarks on an evaluated draft that depend on the house's other specs."""
    drinks = drinks_with(house, own, evaluation) if own is not None else []
    return remarks_by_others(evaluation, house_doses(house, evaluation.inputs.spec), drinks)


def workbench_view(evaluation: Evaluation, house: House) -> Workbench:
    """Returns what the workbench shows of an evaluation, the house's other specs considered."""
    return workbench(evaluation, StoredHouse(house).measures, remarks_of_the_house(evaluation, house))


def house_pins(house: House, own: Spec) -> tuple[Pin, ...]:
    """Returns the newest versions of other specs as pins on the plate: name, sugar and acid in g/100 mL."""
    return tuple(Pin(name, brief["sugar_g_100ml"], brief["acid_g_100ml"]) for name, brief in _other_briefs(house, own))


def makers_above(own: SpecRow) -> list[str]:
    """Returns the material key of this spec, then that of every spec that is made with it, at any depth."""
    keys, wave = [material_key_of(own.key)], [material_key_of(own.key)]
    while wave:
        rows = SpecMaterial.objects.filter(spec__house=own.house_id, material__in=wave).values_list("spec__key", flat=True)
        wave = [key for key in map(material_key_of, rows) if key not in keys]
        keys += wave
    return keys


def version_body(version: Version) -> Mapping[str, Any]:
    """Returns the body of a version with its newest wording."""
    correction = version.corrections.order_by("-at").first()
    body: Mapping[str, Any] = correction.body if correction else version.body
    return body


def version_evaluated(version: Version, factor: float = 1.0, chosen: dict[str, str] | None = None) -> Evaluation:
    """Returns the evaluation of a version with the materials that it was published with, by the rules of today."""
    spec = read_spec(version_body(version), chosen=chosen)
    unpinned = [key for key in spec.material_keys if key not in version.materials]
    now = resolve(version.spec.house, unpinned).bodies if unpinned else {}
    materials = {key: read_material(key, version.materials.get(key) or now.get(key)) for key in spec.material_keys}
    return evaluate(spec, materials, AsMade(factor), rules=read_rules(version.spec.house.rules))


def side_drafts(spec: SpecRow) -> tuple[SideDraftOut, ...]:
    """Returns the side drafts of a spec, the newest first."""
    newest = spec.side_drafts.defer("body").order_by("-saved_at")[:10]
    return tuple(SideDraftOut(item.pk, item.name, item.saved_at) for item in newest)


def version_row(version: Version) -> VersionOut:
    """Returns a version as lists show it. Its parts are prefetched by `versions_of`."""
    withdrawal = getattr(version, "withdrawal", None)
    corrections = sorted(version.corrections.all(), key=lambda item: item.at)
    return VersionOut(
        spec=version.spec_id,
        number=version.number,
        why=version.why,
        author=version.author.display_name,
        at=version.at,
        critical=version.critical,
        corrected_at=corrections[-1].at if corrections else None,
        withdrawn=withdrawal.why if withdrawal else "",
        withdrawn_at=withdrawal.at if withdrawal else None,
        successor=withdrawal.successor.number if withdrawal and withdrawal.successor else None,
        scored=scored(version),
        copies=tuple(CopyOut(to=copy.to, by=copy.by.display_name, at=copy.at) for copy in version.copies.all()),
        acknowledged=tuple(item.person.display_name for item in version.acknowledgements.all() if item.read_at),
        trials=tuple(trial.name for trial in version.trials.all()),
    )


def scored(version: Version) -> OpenResult | None:
    """Returns what the tasters of a version thought who knew what they drank; None if nobody scored it."""
    return open_result([OpenScore(float(item.score), item.taster, item.reference, item.note, item.at) for item in version.scores.all()])


def versions_of(spec: SpecRow) -> QuerySet[Version]:
    """Returns the versions with everything that their rows show, in a fixed number of queries."""
    return spec.versions.select_related("author", "withdrawal__successor").prefetch_related(
        "scores", "copies__by", "acknowledgements__person", "trials", "corrections"
    )
