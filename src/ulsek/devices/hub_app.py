"""The hub over HTTP: readings as server-sent events, and words to an instrument.

It runs beside the site, so that streams never delay requests. A screen has a ticket of an hour that the site signed for its person; it ends with the session
that it was issued in.
"""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from django.conf import settings
from django.core import signing
from sse_starlette.event import ServerSentEvent
from sse_starlette.sse import EventSourceResponse
from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import Response
from starlette.routing import Route

from .hub import Hub
from .tickets import Ticket, read_ticket

_NEVER_S = 86_400
"""The stream says itself every few seconds that it is still there, because it looks then whether its ticket has ended."""


def hub_app(hub: Hub) -> Starlette:
    """Returns the hub as an application: GET /stream, POST /tell?instrument=&word=, each with its ticket. Only a maker's ticket speaks."""

    async def asked_by(request: Request) -> Ticket | None:
        try:
            ticket = read_ticket(request.query_params.get("ticket", ""))
        except signing.BadSignature:
            return None
        return None if await hub.has_ended(ticket) else ticket

    async def events(ticket: Ticket) -> AsyncIterator[ServerSentEvent]:
        async for reading in hub.readings(ticket):
            yield ServerSentEvent(comment="still here") if reading is None else ServerSentEvent(data=json.dumps(reading))

    async def stream(request: Request) -> Response:
        ticket = await asked_by(request)
        return _answer(401) if ticket is None else EventSourceResponse(events(ticket), headers=_headers(), ping=_NEVER_S, sep="\n")

    async def tell(request: Request) -> Response:
        ticket = await asked_by(request)
        if ticket is None:
            return _answer(401)
        if not ticket.may_speak:
            return _answer(403)
        asked = request.query_params
        return _answer(204 if hub.say(ticket.house, asked.get("instrument", ""), asked.get("word", "")) else 404)

    @asynccontextmanager
    async def alive(_app: Starlette) -> AsyncIterator[None]:
        following = asyncio.create_task(hub.keep_up())
        yield
        following.cancel()
        hub.stop()

    return Starlette(routes=[Route("/stream", stream), Route("/tell", tell, methods=["POST"])], lifespan=alive)


def _headers() -> dict[str, str]:
    return {"Cache-Control": "no-store", "Access-Control-Allow-Origin": settings.BASE_ADDRESS, "X-Content-Type-Options": "nosniff"}


def _answer(status: int) -> Response:
    return Response(status_code=status, headers=_headers())
