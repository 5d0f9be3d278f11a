"""What the library shows and searches of a spec, stored beside its draft so that no list reads bodies."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ulsek.core.base.vocabulary import listed_word, plain, word
from ulsek.core.recipe_text.templates import file_id
from ulsek.core.safety.shelf_life import is_expired_when_ready
from ulsek.core.spec.json_form import read_spec
from ulsek.stores.queries import described, is_typical
from ulsek.team.models import House

from .models import Spec, SpecMaterial, SpecState, Version

MOST_KEY = 60


def free_key(house: House, wanted: str) -> str:
    """Returns an id that no other spec of the house has: the wanted one, else with a number after it."""
    base = file_id(wanted)[: MOST_KEY - 4]
    taken = set(Spec.objects.filter(house=house, key__startswith=base).values_list("key", flat=True))
    return next(key for key in (base, *(f"{base}-{n}" for n in range(2, len(taken) + 3))) if key not in taken)


def material_key_of(key: str) -> str:
    """Returns the key under which a spec's product is among the materials."""
    return key.replace("-", "_")


def _texts(spec: Spec, body: Mapping[str, Any], materials: list[str]) -> str:
    names = dict(described(spec.house)) if not all(map(is_typical, materials)) else {}
    called = [listed_word("materials", key, "en") or str(names.get(key, {}).get("name", key)) for key in materials]
    notes = [str(step.get("note", "")) for step in body.get("steps", []) if isinstance(step, dict)]
    family = word("families", spec.family)
    parts = [spec.name, family, *called, *materials, *notes, str(body.get("note", ""))[:2000], str(body.get("source", ""))]
    return plain(" ".join(part for part in parts if part))


def project(spec: Spec, body: Mapping[str, Any]) -> None:
    """Updates name, family, search text and used materials from the body. Called inside the transaction of the save."""
    read = read_spec(body, strict=False)
    materials = [key for key in read.mentioned if key]
    before = spec.name, spec.search
    spec.name = str(body.get("name") or spec.name)[:120]
    spec.search = _texts(spec, body, materials)
    if (spec.name, spec.search) == before:
        # The texts hold every material's name: where they stay, so does what it draws on. Most edits change a figure.
        return
    spec.save(update_fields=["name", "search"])
    held = set(spec.uses.values_list("material", flat=True))
    wanted = {key[:80] for key in materials}
    if held - wanted:
        spec.uses.filter(material__in=held - wanted).delete()
    SpecMaterial.objects.bulk_create(SpecMaterial(spec=spec, material=key) for key in sorted(wanted - held))


_SHOWN = ("brix", "acid_g_100ml", "sugar_g_100ml", "volume_ml")
_KEPT = ("keeps_days", "cost_per_litre", "unpriced", "doses_g_l", "takes_min")


def brief_of(final: Mapping[str, Any]) -> Mapping[str, Any]:
    """Returns what lists, the plate's pins and usual doses need of a final result: a hundredth of it."""
    turns = is_expired_when_ready(final.get("keeping", {}).get("stands_days", 0.0), final["keeps_days"])
    return (
        {name: final[name]["value"] for name in _SHOWN}
        | {name: final[name] for name in _KEPT if name in final}
        | {"turns_before_ready": turns}
    )


def settle_state(spec: Spec) -> None:
    """Sets the state and newest version that follow from the versions: the newest that is not withdrawn counts."""
    versions = Version.objects.filter(spec=spec).order_by("-number")
    spec.newest = versions.filter(withdrawal=None).first() or versions.first()
    if spec.newest is None:
        spec.state = SpecState.TRIAL if spec.trial_of_id else SpecState.DRAFT
    else:
        spec.state = (
            SpecState.WITHDRAWN if hasattr(spec.newest, "withdrawal") else SpecState.TRIAL if spec.trial_of_id else SpecState.PUBLISHED
        )
    spec.save(update_fields=["newest", "state"])
