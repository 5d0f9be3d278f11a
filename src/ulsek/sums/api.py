"""Quick sums over HTTP. Computing one stores nothing; using one does."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.strict_json import read_json
from ulsek.core.sums.catalogue import sums_at
from ulsek.core.sums.sheet import Sum, SumAnswer
from ulsek.devices.label import pdf_answer
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of
from ulsek.team.register import equipment_of

from .actions.keep_sum import keep_sum
from .label import sum_label
from .models import RecentSum
from .queries import answer_of, liquid
from .schemas import LiquidOut, RecentOut, SumIn

router = Router(tags=["sums"])


def _recent(item: RecentSum) -> RecentOut:
    return RecentOut(name=item.name, figures=item.figures, said=item.said, at=item.at)


@router.get("/sums", response=answers(tuple[Sum, ...]))
def sums(request: HttpRequest) -> list[Sum]:
    """The quick sums, each with its inputs, those of the house's own scale and dropper filled in."""
    return sums_at(equipment_of(member_of(request).house))


@router.get("/sums/recent", response=answers(Slice[RecentOut]))
def recent(request: HttpRequest, asked: Query[ListQuery]) -> Slice[RecentOut]:
    """Returns the last sums of the person who asks, newest first."""
    member = member_of(request)
    found = RecentSum.objects.filter(holding(asked.find, "name", "said"), house=member.house, person=member.person)
    return slice_of(found, ("-at", "name", "pk"), asked).each(_recent)


@router.get("/sums/liquids/{code}", response=answers(LiquidOut))
def one_liquid(request: HttpRequest, code: str) -> LiquidOut:
    """A lot by the code on its label, or a material as it was read."""
    return liquid(member_of(request).house, code)


@router.post("/sums/{name}", response=answers(SumAnswer))
def sum_up(request: HttpRequest, name: str, payload: SumIn) -> SumAnswer:
    """The answer of a quick sum, for figures as numbers or as typed, with the house's own materials."""
    return answer_of(member_of(request).house, name, payload.figures)


@router.post("/sums/{name}/kept", response={201: answers(RecentOut)})
def keep(request: HttpRequest, name: str, payload: SumIn) -> Status[RecentOut]:
    """Stores a sum among the person's last ones."""
    return Status(201, _recent(keep_sum(member_of(request), name, payload.figures)))


@router.get("/sums/{name}/label.pdf", response={200: None})
def label(request: HttpRequest, name: str, figures: str = "{}", size: str = "100x70") -> HttpResponse:
    """The label of a sum's answer in a bottle, as PDF; `figures` as JSON."""
    try:
        given = SumIn(figures=read_json(figures, "figures")).figures
    except ValueError:
        raise Refusal(message("These are no figures"), "figures", message("an object of names and numbers"), code="unreadable") from None
    return pdf_answer([sum_label(member_of(request), name, given)], size, "sum")
