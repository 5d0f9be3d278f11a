"""Copy a spec into another house, take a newer version of it in, or let the copy go its own way."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db.models import Q
from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import Message, message, read_stored, stored
from ulsek.core.base.refusals import Refusal
from ulsek.stores.actions.keep_own_material import keep_own_material
from ulsek.stores.queries import described
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import added, locked, locked_or_404

from ..models import Draft, Origin, Spec, SpecState, Version
from ..origins import newest_of
from ..projection import material_key_of, project
from ..queries import version_body
from .publish_spec import publish_spec
from .start_spec import NewSpec, start_spec

_DEEPEST = 6
"""How many preps within preps are copied with a spec."""


@dataclass(frozen=True)
class Copied:
    """A copy in another house: its spec, the names of the preps that came with it, and why it could not be published there; nothing if it was, or need not be."""

    spec: Spec
    also: tuple[str, ...]
    held_up: Message | None


@action(whole_house=True)
def _copied(member: Member, version_id: int, followed: bool) -> dict[str, Any]:
    also: list[str] = []
    spec, why = _copy(member, Version.objects.select_related("spec__house").get(pk=version_id), followed, also, _DEEPEST)
    return {"spec": str(spec.pk), "also": also, "held_up": stored(why) if why else None}


def copy_spec(member: Member, version: Version, *, followed: bool) -> Copied:
    """Copies a version into the member's house with the materials and preps that it needs and that are not there.

    A `followed` copy is published as it is, and takes newer versions in; otherwise it is a draft of the house's own. Materials that the house has under the
    same key are the house's own. Raises Refusal for a trial, for a version of the same house, for one that was withdrawn, and if the house follows it already.
    """
    source = version.spec
    if source.house_id == member.house.pk:
        raise Refusal(message("It is of this house"), "house", remedy=message("Choose another house"), code="circle")
    if source.trial_of_id is not None or hasattr(version, "withdrawal"):
        raise Refusal(
            message("{spec} is a trial, or was withdrawn", spec=str(version)),
            "spec",
            remedy=message("Copy a version that stands"),
            code="not_published",
        )
    done = _copied(member, version.pk, followed)
    return Copied(Spec.objects.get(pk=done["spec"]), tuple(done["also"]), read_stored(done["held_up"]) if done["held_up"] else None)


def _copy(member: Member, version: Version, followed: bool, also: list[str], depth: int) -> tuple[Spec, Message | None]:
    """Stores a copy and returns it, with the reason if the release check did not let it be published."""
    source = version.spec
    if Origin.objects.filter(spec__house=member.house, source=source.pk, followed=True).exists():
        raise Refusal(
            message("{house} follows {spec} already", house=member.house.name, spec=source.name),
            "house",
            remedy=message("Take its newest version in there"),
            code="twice",
        )
    _needed(member, version, followed, also, depth)
    spec = start_spec(member, NewSpec(source.name, source.family), _own_body(version))
    added(spec)
    Origin.objects.create(
        spec=spec,
        source=source.pk,
        house_name=source.house.name,
        spec_name=source.name,
        number=version.number,
        followed=followed,
        at=timezone.now(),
    )
    member.wrote("copy_spec", spec.name, of=source.house.name, version=version.number, followed=followed)
    if not followed:
        return spec, None
    try:
        publish_spec(member, spec.pk, spec.draft.revision, _why(source, version), critical=version.critical)
    except Refusal as refusal:
        return spec, refusal.message
    return spec, None


def _own_body(version: Version) -> dict[str, Any]:
    """Returns the body of a version without the base that it inherits in its own house, which the other house does not have."""
    return {key: value for key, value in version_body(version).items() if key != "base"}


def _why(source: Spec, version: Version) -> str:
    return f"{source.house.name}, version {version.number}: {version.why}"[:200]


def _needed(member: Member, version: Version, followed: bool, also: list[str], depth: int) -> None:
    """Stores what a version is made with and the member's house does not have: first the preps, each as a copy of its own, then materials."""
    known = described(member.house)
    missing = {key: body for key, body in version.materials.items() if key not in known}
    preps = {
        material_key_of(spec.key): spec
        for spec in Spec.objects.filter(house=version.spec.house, newest__isnull=False, state=SpecState.PUBLISHED, trial_of=None)
        .select_related("newest__spec__house")
        .filter(key__in=[str(body.get("made_by", "")) for body in missing.values()])
    }
    for body in missing.values():
        prep = preps.get(material_key_of(str(body.get("made_by", ""))))
        if prep is None or prep.newest is None or depth == 0:
            continue
        if not Origin.objects.filter(spec__house=member.house, source=prep.pk).exists():
            _copy(member, prep.newest, followed, also, depth - 1)
            also.append(prep.name)
    known = described(member.house)
    keep_own_material(member.house, {key: body for key, body in missing.items() if key not in known})


def _followed(spec: Spec) -> Origin:
    origin = Origin.objects.filter(spec=spec, followed=True).first()
    if origin is None:
        raise Refusal(message("{spec} follows no other house's", spec=spec.name), "spec", remedy=message("Edit it"), code="not_followed")
    return origin


@action
def take_newer(member: Member, spec_id: UUID) -> Version:
    """Publishes the newest version of the spec that a copy follows as the copy's next version, and returns that.

    Raises Refusal if there is none that is newer, and for whatever the release check stops; then nothing is changed.
    """
    # With its variants, which follow what is published.
    rows = locked(Spec.objects.filter(Q(pk=spec_id) | Q(base=spec_id), house=member.house))
    spec = get_object_or_404(Spec, pk__in=[row.pk for row in rows if row.pk == spec_id])
    origin = _followed(spec)
    version = newest_of(origin, member)
    if version is None or version.number <= origin.number:
        raise Refusal(
            message("{house} has no newer version of it", house=origin.house_name), "spec", remedy=message("Wait for one"), code="unchanged"
        )
    _needed(member, version, True, [], _DEEPEST)
    draft = Draft.objects.select_related("spec").get(spec=spec)
    draft.body = {**_own_body(version), "id": spec.key, "name": spec.name}
    draft.revision += 1
    draft.saved_by, draft.saved_at, draft.writer = member.person, timezone.now(), ""
    draft.save()
    project(spec, draft.body)
    made = publish_spec(member, spec.pk, draft.revision, _why(version.spec, version), critical=version.critical)
    origin.number, origin.at = version.number, timezone.now()
    origin.save(update_fields=["number", "at"])
    return made


@action
def fork(member: Member, spec_id: UUID) -> Spec:
    """Lets a copy that follows another house's spec go its own way, and returns it."""
    spec = locked_or_404(Spec.objects.filter(pk=spec_id, house=member.house))
    origin = _followed(spec)
    origin.followed = False
    origin.save(update_fields=["followed"])
    member.wrote("fork_spec", spec.name, of=origin.house_name)
    return spec
