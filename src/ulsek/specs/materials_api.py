"""Materials over HTTP: those that a house may use, and those that it describes itself."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Query, Router, Status

from ulsek.computing import in_time
from ulsek.core.base.answer import OpenForm
from ulsek.core.materials.material import read_material
from ulsek.core.materials.naming import called
from ulsek.core.recipe_text.open_forms import materials_csv, materials_from_csv
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.own_material import MaterialChoices, checked_material, material_choices
from ulsek.stores.actions.add_materials import add_materials
from ulsek.stores.actions.drop_own_material import drop_own_material
from ulsek.stores.actions.keep_material import keep_material, own_keys
from ulsek.stores.actions.keep_own_material import import_materials
from ulsek.stores.queries import described, had_by, is_typical, material_view, resolve
from ulsek.stores.schemas import MaterialOut
from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, slice_of_values
from ulsek.team.schema import Schema

from .library import usage
from .library_schemas import CsvIn, MaterialsIn, MaterialsRead

router = Router(tags=["materials"])


class MaterialQuery(ListQuery):
    """Which materials are listed: all, those that are bought, or of these the ones that the house has described itself; `find` also looks at aliases."""

    of: Literal["all", "bought", "own"] = "all"


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

    body: OpenForm


@router.get("/materials", response=answers(Slice[MaterialOut]))
def materials(request: HttpRequest, asked: Query[MaterialQuery]) -> Slice[MaterialOut]:
    """Returns every material that the house may use, typical ones included: those that it has had first, then by name."""
    member = member_of(request)
    bodies, had = described(member.house), had_by(member.house)
    found = called(bodies, asked.find)
    if asked.of != "all":
        mine = own_keys(member) if asked.of == "own" else frozenset(bodies)
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


@router.post("/read-material", response=answers(MaterialOut))
def look(request: HttpRequest, payload: MaterialIn) -> MaterialOut:
    """Returns the figures of a material in the open form, each with its range, and what is in it; stores nothing. Refuses what cannot be stored."""
    made = checked_material("new", payload.body, read_rules(member_of(request).house.rules))
    return material_view("new", payload.body, made)


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


@router.get("/materials.csv", response={200: None})
def materials_table(request: HttpRequest) -> HttpResponse:
    """Every material of the house as a table."""
    house = member_of(request).house
    answer = HttpResponse(materials_csv(resolve(house, described(house)).materials), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="materials.csv"'
    return answer


@router.post("/materials.csv", response=answers(MaterialsRead))
def read_materials_table(request: HttpRequest, payload: CsvIn) -> MaterialsRead:
    """What is understood of a table of materials; with `keep` they become the house's own."""
    member = member_of(request)
    read_in, trouble = in_time(materials_from_csv, payload.text)
    if payload.keep:
        import_materials(member, read_in)
    return MaterialsRead(materials=read_in, not_understood=tuple(trouble))


@router.post("/new-materials", response={204: None})
def add_new_materials(request: HttpRequest, payload: MaterialsIn) -> Status[None]:
    """Adds materials that came with a file and that the house does not have; refused whole where it has one of them."""
    add_materials(member_of(request), payload.materials)
    return Status(204, None)


@router.delete("/materials/{key}", response={204: None})
def drop_material(request: HttpRequest, key: str) -> Status[None]:
    """Deletes one of the house's own materials; refused while a spec uses it."""
    member = member_of(request)
    drop_own_material(member, key, usage(member.house, key))
    return Status(204, None)
