"""Who may do what, for every operation of the API. Written here once; an operation that is not listed is answered to nobody.

`ulsek.team.access.MemberAuth` asks this table before a request's body is read. What a device signed is checked by the same table, for the person who
signed it (`ulsek.sync`). Rules that depend on the row (a rehearsal is its maker's own) stand in the actions.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import cache

from django.http import HttpRequest

from .models import Role

EVERYBODY = None
"""The operation asks for no signed-in person; it checks for itself what it needs."""

_ROUTE_PARAMETER = re.compile(r"<(?:\w+:)?(\w+)>")

NEEDED: Mapping[str, Role | None] = {
    "GET /health": EVERYBODY,
    "GET /session": EVERYBODY,
    "POST /session": EVERYBODY,
    "POST /session/end": EVERYBODY,
    "POST /session/switch": EVERYBODY,
    "POST /session/claims": EVERYBODY,
    "POST /session/code": EVERYBODY,
    "POST /session/confirm": Role.READER,
    "POST /session/key": Role.READER,
    "GET /own/sessions": Role.READER,
    "POST /own/sessions/{sign_in_id}/end": Role.READER,
    "PUT /own/password": Role.READER,
    "PUT /own/pin": Role.READER,
    "GET /people": Role.MAKER,
    "POST /people/{person_id}/code": Role.LEAD,
    "GET /devices": Role.MAKER,
    "POST /devices": Role.LEAD,
    "POST /devices/{device_id}/revoke": Role.LEAD,
    "GET /sync": EVERYBODY,
    "POST /signed-actions": EVERYBODY,
    "POST /signed-actions/refused": EVERYBODY,
    "GET /signed-actions/held": Role.MAKER,
    "POST /signed-actions/{action_id}/accept": Role.LEAD,
    "POST /signed-actions/{action_id}/throw-away": Role.LEAD,
    "GET /may-attach": Role.LEAD,
    "PUT /house/units": Role.LEAD,
    "PUT /house/altitude": Role.LEAD,
    "GET /rules": Role.READER,
    "PUT /rules": Role.LEAD,
    "GET /instruments": Role.READER,
    "POST /instruments": Role.LEAD,
    "DELETE /instruments/{instrument}": Role.LEAD,
    "POST /instruments/{instrument}/hand": Role.MAKER,
    "GET /duty": Role.READER,
    "PUT /duty": Role.READER,
    "POST /jobs": Role.READER,
    "GET /jobs/{job_id}": Role.READER,
    "POST /jobs/{job_id}/stop": Role.READER,
    "GET /jobs/{job_id}/file": Role.READER,
    "GET /stock": Role.READER,
    "POST /stock": Role.MAKER,
    "GET /materials": Role.READER,
    "POST /stock/{stock_id}/readings": Role.MAKER,
    "POST /stock/{stock_id}/events": Role.MAKER,
    "GET /stock/{stock_id}/events": Role.READER,
    "GET /stock/{stock_id}/label.pdf": Role.READER,
    "POST /stock/{stock_id}/print": Role.MAKER,
    "GET /specs/{spec_id}/draft": Role.READER,
    "PUT /specs/{spec_id}/draft": Role.LEAD,
    "DELETE /side-drafts/{side_id}": Role.LEAD,
    "POST /side-drafts/{side_id}/take": Role.LEAD,
    "POST /specs/{spec_id}/publish": Role.LEAD,
    "GET /words": Role.READER,
    "GET /house-bundle": Role.READER,
    "POST /evaluate": Role.READER,
    "POST /solve": Role.READER,
    "POST /take": Role.LEAD,
    "POST /working": Role.READER,
    "POST /step-line": Role.LEAD,
    "GET /specs": Role.READER,
    "POST /specs": Role.LEAD,
    "GET /families/{family}/schools": Role.READER,
    "POST /read": Role.READER,
    "GET /specs/{spec_id}/tree": Role.READER,
    "PUT /specs/{spec_id}/settings": Role.LEAD,
    "GET /specs/{spec_id}/export": Role.READER,
    "GET /materials.csv": Role.READER,
    "POST /materials.csv": Role.LEAD,
    "DELETE /materials/{key}": Role.LEAD,
    "GET /specs/{spec_id}/attachments": Role.READER,
    "POST /specs/{spec_id}/attachments": Role.LEAD,
    "GET /attachments/{attachment_id}": Role.READER,
    "DELETE /attachments/{attachment_id}": Role.LEAD,
    "GET /specs/{spec_id}/versions": Role.READER,
    "GET /compare": Role.READER,
    "POST /specs/{spec_id}/versions/{number}/scores": Role.MAKER,
    "POST /specs/{spec_id}/versions/{number}/withdraw": Role.LEAD,
    "POST /specs/{spec_id}/versions/{number}/branch": Role.LEAD,
    "POST /specs/{spec_id}/promote": Role.LEAD,
    "POST /specs/{spec_id}/correct": Role.LEAD,
    "POST /specs/{spec_id}/versions/{number}/acknowledge": Role.READER,
    "GET /specs/{spec_id}/versions/{number}/reading": Role.READER,
    "POST /specs/{spec_id}/versions/{number}/answers": Role.MAKER,
    "POST /specs/{spec_id}/versions/{number}/copies": Role.MAKER,
    "GET /specs/{spec_id}/card": Role.READER,
    "GET /specs/{spec_id}/card.pdf": Role.READER,
    "GET /booklet.pdf": Role.READER,
    "GET /specs/{spec_id}/start-by": Role.READER,
    "GET /specs/{spec_id}/start-by.ics": Role.READER,
    "GET /specs/{spec_id}/allergens": Role.READER,
    "POST /ways": Role.READER,
    "POST /keeping": Role.READER,
    "POST /parse": Role.READER,
    "POST /scale": Role.READER,
    "POST /cost": Role.READER,
    "POST /capture": Role.READER,
    "POST /capture/start": Role.MAKER,
    "POST /gear": Role.READER,
    "GET /runs": Role.READER,
    "POST /runs": Role.MAKER,
    "GET /runs/{run_id}": Role.READER,
    "GET /runs/{run_id}/draft": Role.READER,
    "POST /runs/{run_id}/events": Role.MAKER,
    "GET /lots": Role.READER,
    "GET /lots/{code}": Role.READER,
    "GET /lots/{code}/label.pdf": Role.READER,
    "GET /shift": Role.READER,
    "GET /runs/{run_id}/offline": Role.READER,
    "GET /runs/{run_id}/supplies": Role.READER,
    "GET /runs/{run_id}/supplies/scanned": Role.READER,
    "GET /runs/{run_id}/rehearsal": Role.READER,
    "POST /runs/{run_id}/share": Role.READER,
    "GET /runs/{run_id}/labels.pdf": Role.READER,
    "POST /runs/{run_id}/print": Role.MAKER,
    "POST /runs/{run_id}/photos": Role.MAKER,
    "GET /runs/{run_id}/photos/{photo_id}": Role.READER,
    "POST /runs/{run_id}/into-draft": Role.LEAD,
    "GET /waits.ics": Role.READER,
    "GET /containers": Role.READER,
    "POST /containers": Role.MAKER,
    "PUT /containers/{key}": Role.MAKER,
    "POST /containers/{key}/cleaned": Role.MAKER,
    "POST /lots/{code}/events": Role.MAKER,
    "GET /lots/{code}/trace": Role.READER,
    "POST /lots/{code}/recall": Role.LEAD,
    "GET /stock/{stock_id}/trace": Role.READER,
    "POST /stock/{stock_id}/recall": Role.LEAD,
    "POST /specs/{spec_id}/versions/{number}/recall": Role.LEAD,
    "GET /sums": Role.READER,
    "GET /sums/recent": Role.READER,
    "GET /sums/liquids/{code}": Role.READER,
    "POST /sums/{name}": Role.READER,
    "POST /sums/{name}/kept": Role.READER,
    "GET /sums/{name}/label.pdf": Role.READER,
    "GET /citrus/varieties": Role.READER,
    "GET /citrus/cases": Role.READER,
    "POST /citrus/cases": Role.MAKER,
    "POST /citrus/cases/{case_id}/samples": Role.MAKER,
    "POST /citrus/cases/{case_id}/samples/{sample_id}/aside": Role.MAKER,
    "GET /citrus/record/{fruit}": Role.READER,
    "POST /citrus/plan": Role.READER,
    "GET /citrus/plans": Role.READER,
    "POST /citrus/plans": Role.MAKER,
    "PUT /citrus/plans/{plan_id}": Role.MAKER,
    "POST /citrus/plans/{plan_id}/cuts": Role.MAKER,
    "POST /citrus/stretch": Role.READER,
    "POST /citrus/stretch/spec": Role.LEAD,
    "POST /citrus/oil-sugar": Role.READER,
    "POST /citrus/spent-peel": Role.MAKER,
    "POST /citrus/packed-peel": Role.MAKER,
    "GET /citrus/keeps": Role.READER,
    "GET /citrus/trials": Role.READER,
    "POST /citrus/trials": Role.MAKER,
    "GET /citrus/ledger": Role.READER,
    "POST /desk": Role.READER,
}
"""Method and path of each operation, with the lowest role that may do it."""


@cache
def _operation(method: str, route: str) -> str:
    path = _ROUTE_PARAMETER.sub(r"{\1}", route)
    return f"{method} /{path.removeprefix('api/')}"


def operation_of(request: HttpRequest) -> str:
    """Returns the operation of a request, as `NEEDED` names it: `POST /runs/{run_id}/events`. Raises RuntimeError for a request that has no route yet."""
    match = request.resolver_match
    if match is None:
        raise RuntimeError("the request has no route yet")
    return _operation(request.method or "", match.route)
