"""Materials over HTTP: those that a house may use, and those that it describes itself."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.http import Http404, HttpRequest
from ninja import Query, Router, Status

from ulsek.computing import in_time
from ulsek.core.base.answer import OpenForm
from ulsek.core.materials.material import read_material
from ulsek.core.materials.naming import called
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.own_material import MaterialChoices, checked_material, material_choices
from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, slice_of_values
from ulsek.team.schema import Schema

from .actions.keep_material import keep_material, own_keys
from .queries import described, had_by, is_typical, material_view
from .schemas import MaterialOut

router = Router(tags=["materials"])


class MaterialQuery(ListQuery):
    """Which materials are listed: all, or with `own` those that the house has described itself; `find` also looks at aliases."""

    own: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class MaterialFile:
    """A material in the open form. `own`: the house has described it itself; `ships`: there are typical figures under its key; `made_by`: the spec that makes it."""

    key: str
    body: OpenForm
    own: bool
    ships: bool
    made_by: str
    view: MaterialOut


class MaterialIn(Schema):
    """A material in the open form."""

    body: dict[str, Any]


@router.get("/materials", response=answers(Slice[MaterialOut]))
def materials(request: HttpRequest, asked: Query[MaterialQuery]) -> Slice[MaterialOut]:
    """Returns every material that the house may use, typical ones included: those that it has had first, then by name."""
    member = member_of(request)
    bodies, had = described(member.house), had_by(member.house)
    found = called(bodies, asked.find)
    if asked.own:
        mine = own_keys(member)
        found = [key for key in found if key in mine and not bodies[key].get("made_by")]
    shown = slice_of_values(found, lambda key: (key not in had, bodies[key]["name"], key), asked, "materials")
    return shown.each(lambda key: material_view(key, bodies[key], read_material(key, bodies[key])))


@router.get("/material-choices", response=answers(MaterialChoices))
def choices(request: HttpRequest) -> MaterialChoices:
    """What may be chosen for a material of the house: kinds, substances, allergens, classes of keeping."""
    return material_choices(read_rules(member_of(request).house.rules))


def _file(member: Member, key: str) -> MaterialFile:
    bodies = described(member.house)
    if key not in bodies:
        raise Http404
    body = bodies[key]
    view = material_view(key, body, read_material(key, body))
    made_by = str(body.get("made_by", ""))
    own = key in own_keys(member) and not made_by
    return MaterialFile(key=key, body=body, own=own, ships=is_typical(key), made_by=made_by, view=view)


@router.get("/materials/{key}", response=answers(MaterialFile))
def material(request: HttpRequest, key: str) -> MaterialFile:
    """A material in the open form, without the reading of its current delivery."""
    return _file(member_of(request), key)


def _looked_at(body: Mapping[str, Any], rules: Mapping[str, Any]) -> MaterialOut:
    return material_view("new", body, checked_material("new", body, read_rules(rules)))


@router.post("/materials/read", response=answers(MaterialOut))
def look(request: HttpRequest, payload: MaterialIn) -> MaterialOut:
    """What a material reads that is described so; nothing is stored."""
    return in_time(_looked_at, payload.body, member_of(request).house.rules)


@router.post("/materials", response={201: answers(MaterialFile)})
def describe(request: HttpRequest, payload: MaterialIn) -> Status[MaterialFile]:
    """Stores a new material of the house, under a key by its name."""
    member = member_of(request)
    return Status(201, _file(member, keep_material(member, payload.body)))


@router.put("/materials/{key}", response=answers(MaterialFile))
def change(request: HttpRequest, key: str, payload: MaterialIn) -> MaterialFile:
    """Stores what the house says of a material; a typical one then counts with the house's own figures."""
    member = member_of(request)
    return _file(member, keep_material(member, payload.body, key))
