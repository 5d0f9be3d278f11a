"""Quick sums over HTTP. Working one out keeps nothing; using one does."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from ulsek.core.base.refusals import Refusal
from ulsek.core.base.strict_json import read_json
from ulsek.core.sums.catalogue import SUMS
from ulsek.devices.label import pdf_answer
from ulsek.team.access import member_of

from .actions.keep_sum import KEPT, keep_sum
from .label import sum_label
from .models import RecentSum
from .queries import answer_of, liquid
from .schemas import AnswerOut, LiquidOut, RecentOut, SumIn, SumOut

router = Router(tags=["sums"])


@router.get("/sums", response=list[SumOut])
def sums(request: HttpRequest) -> list[dict[str, Any]]:
    """The quick sums, each with what it asks."""
    member_of(request)
    return [item.as_data() for item in SUMS.values()]


@router.get("/sums/recent", response=list[RecentOut])
def recent(request: HttpRequest) -> Any:
    """What this person worked out last, newest first."""
    member = member_of(request)
    return RecentSum.objects.filter(house=member.house, person=member.person).order_by("-at", "name")[:KEPT]


@router.get("/sums/liquids/{code}", response=LiquidOut)
def one_liquid(request: HttpRequest, code: str) -> dict[str, Any]:
    """What stands in a bottle, by the code on its label, or in a material as it was read."""
    return liquid(member_of(request).house, code)


@router.post("/sums/{name}", response=AnswerOut)
def sum_up(request: HttpRequest, name: str, payload: SumIn) -> dict[str, Any]:
    """One quick sum worked out, figures as numbers or as typed; the house's own materials are known to it."""
    return answer_of(member_of(request).house, name, payload.figures).as_data()


@router.post("/sums/{name}/kept", response={201: RecentOut})
def keep(request: HttpRequest, name: str, payload: SumIn) -> Status[RecentSum]:
    """This person used it: it stands among their last sums."""
    return Status(201, keep_sum(member_of(request), name, payload.figures))


@router.get("/sums/{name}/label.pdf", response={200: None})
def label(request: HttpRequest, name: str, figures: str = "{}", size: str = "100x70") -> HttpResponse:
    """The label of what the sum puts in a bottle, as PDF; `figures` as JSON."""
    try:
        given = SumIn(figures=read_json(figures, "figures")).figures
    except ValueError:
        raise Refusal("These are no figures", "figures", "an object of names and numbers", code="unreadable") from None
    return pdf_answer([sum_label(member_of(request), name, given)], size, "sum")
