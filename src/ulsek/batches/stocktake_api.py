"""The stocktake over HTTP."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .stocktake import StocktakeOut, stocktake

router = Router(tags=["stores"])


@router.get("/stocktake", response=answers(StocktakeOut))
def stocktake_of_today(request: HttpRequest) -> StocktakeOut:
    """Returns the open deliveries and lots in counting order, with the differences that were counted today in amount and money."""
    return stocktake(member_of(request), timezone.now())
