"""The menu and its allergen sheet over HTTP."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Status

from ulsek.core.planning.pour_cost import MenuEntry
from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .actions.keep_menu import drop_drink, keep_drink
from .menu import menu, menu_sheet
from .menu_papers import sheet_csv, sheet_html
from .menu_schemas import AllergenSheetOut, MenuIn, MenuOut

router = Router(tags=["planning"])


def _sheet(request: HttpRequest, day: date | None) -> AllergenSheetOut:
    member, now = member_of(request), timezone.now()
    return menu_sheet(member, day or member.day(now), now)


@router.get("/plan/menu", response=answers(MenuOut))
def drinks(request: HttpRequest, day: date | None = None) -> MenuOut:
    """The menu as of a day, by default today, with pour costs at the prices of today."""
    member = member_of(request)
    return menu(member, day or member.day(timezone.now()))


@router.put("/plan/menu/{spec_id}", response={204: None})
def set_drink(request: HttpRequest, spec_id: UUID, payload: MenuIn) -> Status[None]:
    """Puts a drink on the menu, or changes what was said of it."""
    keep_drink(member_of(request), spec_id, MenuEntry(**payload.dict()))
    return Status(204, None)


@router.delete("/plan/menu/{spec_id}", response={204: None})
def unset_drink(request: HttpRequest, spec_id: UUID) -> Status[None]:
    """Takes a drink off the menu."""
    drop_drink(member_of(request), spec_id)
    return Status(204, None)


@router.get("/plan/allergens", response=answers(AllergenSheetOut))
def sheet(request: HttpRequest, day: date | None = None) -> AllergenSheetOut:
    """Every drink on the menu of a day, by default today, against every allergen."""
    return _sheet(request, day)


@router.get("/plan/allergens.pdf", response={200: None})
def sheet_pdf(request: HttpRequest, day: date | None = None) -> HttpResponse:
    """The allergen sheet as pages of paper."""
    from weasyprint import HTML

    found = _sheet(request, day)
    answer = HttpResponse(HTML(string=sheet_html(member_of(request), found)).write_pdf(), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="allergens-{found.day}.pdf"'
    return answer


@router.get("/plan/allergens.csv", response={200: None})
def sheet_table(request: HttpRequest, day: date | None = None) -> HttpResponse:
    """The allergen sheet as a table in CSV."""
    found = _sheet(request, day)
    answer = HttpResponse(sheet_csv(member_of(request), found), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="allergens-{found.day}.csv"'
    return answer
