"""The API: one router for each place, one shape for every error."""

from __future__ import annotations

import json
import logging
from dataclasses import dataclass
from typing import Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import InterfaceError, OperationalError, connection
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser
from ninja.renderers import JSONRenderer

from ulsek.batches.api import router as batches
from ulsek.batches.bench_api import router as bench
from ulsek.batches.clearances_api import router as clearances
from ulsek.batches.group_api import router as group_houses
from ulsek.batches.lots_api import router as lots
from ulsek.batches.register_api import router as register
from ulsek.batches.stocktake_api import router as stocktake
from ulsek.citrus.api import router as citrus
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.strict_json import read_json
from ulsek.core.run.events.schema import event_schema, kinds_schema
from ulsek.devices.api import router as devices
from ulsek.jobs.api import router as jobs
from ulsek.planning.api import router as planning
from ulsek.planning.menu_api import router as menu
from ulsek.planning.orders_api import router as orders
from ulsek.planning.till_api import router as till
from ulsek.specs.actions.save_draft import DraftConflict
from ulsek.specs.api import router as specs
from ulsek.specs.cards_api import router as cards
from ulsek.specs.copies_api import router as copies
from ulsek.specs.judgements_api import router as judgements
from ulsek.specs.library_api import router as library
from ulsek.specs.materials_api import router as materials
from ulsek.specs.versions_api import router as versions
from ulsek.stores.api import router as stores
from ulsek.sums.api import router as sums
from ulsek.sync.api import router as sync
from ulsek.tasting.api import router as tasting
from ulsek.tasting.seat_api import router as seats
from ulsek.tasting.standards_api import router as standards
from ulsek.team.access import MemberAuth, NotAllowed, NotForScripts, PasswordWanted
from ulsek.team.answer import REFERENCE, answers, published
from ulsek.team.api import router as team
from ulsek.team.authenticators import CodeWanted
from ulsek.team.backups_api import router as backups
from ulsek.team.csrf import StalePage
from ulsek.team.devices_api import router as enrolled
from ulsek.team.enrolled import NotEnrolled
from ulsek.team.group_api import router as group
from ulsek.team.hashers import TooMany
from ulsek.team.history_api import router as history
from ulsek.team.joining_api import router as joining
from ulsek.team.own_api import router as own
from ulsek.team.people_api import router as people
from ulsek.team.permissions import NEEDED, takes_a_person
from ulsek.team.pins import WrongPin
from ulsek.team.session_api import router as sessions
from ulsek.team.tokens_api import router as tokens

from .problems import database_away, on_fault, problem, too_big
from .readiness import not_ready


class UlsekAPI(NinjaAPI):
    """The OpenAPI description: schemas of answers are the core's, with the spec file's own schema, and the kinds of event for requests and answers."""

    def get_openapi_schema(self, **kwargs: Any) -> Any:
        described = super().get_openapi_schema(**kwargs)
        spec = json.loads((settings.FORMATS / "spec.schema.json").read_text(encoding="utf-8"))
        definitions = spec.pop("$defs")
        for unwanted in ("$schema", "$id"):
            spec.pop(unwanted, None)
        text = json.dumps({**definitions, "SpecFile": spec}).replace("#/$defs/", "#/components/schemas/")
        schemas = described["components"]["schemas"]
        schemas.update(json.loads(text))
        schemas["EventKind"] = {"description": "What happened: the kind of an event with its body.", **kinds_schema()}
        schemas["EventOut"] = {
            "description": "An event of a run, with who did it and what was found of its time.",
            **event_schema(received=True),
        }
        for name in ("EventIn", "EventOut"):
            common, _kinds = schemas[name]["allOf"]
            schemas[name]["allOf"] = [common, {"$ref": "#/components/schemas/EventKind"}]
        answered = published()
        if twice := set(schemas) & set(answered):
            raise TypeError(f"what is sent and what is answered share the names {', '.join(sorted(twice))}")
        schemas.update(answered)
        for path, operations in described["paths"].items():
            for method, operation in operations.items():
                name = f"{method.upper()} {path.removeprefix('/api')}"
                needed = NEEDED[name]
                operation["x-role"] = str(needed) if needed else "everybody"
                operation["x-scripts"] = needed is not None and not takes_a_person(name)
        return json.loads(json.dumps(described).replace(f'"{REFERENCE}"', '"$ref"'))


class StrictParser(Parser):
    """Reads bodies by the strict reader of JSON."""

    def parse_body(self, request: HttpRequest) -> Any:
        return read_json(request.body, "body")


class StrictRenderer(JSONRenderer):
    """Raises an error for NaN and infinite numbers, which no browser could read."""

    json_dumps_params = {"allow_nan": False, "ensure_ascii": False}  # noqa: RUF012 # declared so by the library


api = UlsekAPI(
    parser=StrictParser(),
    renderer=StrictRenderer(),
    title="Ulsek",
    version="1",
    auth=MemberAuth(),
    docs_url=None,
    openapi_url=None,
    urls_namespace="api",
)
api.add_router("", sessions)
api.add_router("", joining)
api.add_router("", own)
api.add_router("", people)
api.add_router("", history)
api.add_router("", group)
api.add_router("", tokens)
api.add_router("", backups)
api.add_router("", enrolled)
api.add_router("", team)
api.add_router("", sync)
api.add_router("", devices)
api.add_router("", jobs)
api.add_router("", stores)
api.add_router("", materials)
api.add_router("", specs)
api.add_router("", library)
api.add_router("", versions)
api.add_router("", cards)
api.add_router("", copies)
api.add_router("", judgements)
api.add_router("", batches)
api.add_router("", stocktake)
api.add_router("", bench)
api.add_router("", lots)
api.add_router("", clearances)
api.add_router("", register)
api.add_router("", group_houses)
api.add_router("", sums)
api.add_router("", citrus)
api.add_router("", tasting)
api.add_router("", seats)
api.add_router("", standards)
api.add_router("", planning)
api.add_router("", menu)
api.add_router("", orders)
api.add_router("", till)


@dataclass(frozen=True, slots=True)
class Health:
    """Whether the site and its database answer."""

    status: str


@api.get("/health", auth=None, response=answers(Health))
def health(request: HttpRequest) -> Health:
    """Answers when the site and its database do."""
    del request
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
    return Health("ok")


@api.get("/health/ready", auth=None, response=answers(Health))
def ready(request: HttpRequest) -> Health | HttpResponse:
    """Answers when the site can serve: its database answers and has the tables of this version. 503 says why not."""
    del request
    why = not_ready()
    return problem(503, "Not ready", why, code="not_ready") if why else Health("ready")


@api.exception_handler(Refusal)
def _refused(_request: HttpRequest, refusal: Refusal) -> HttpResponse:
    return problem(422, "Refused", refusal.text, code=refusal.code, where=refusal.where, remedy=refusal.remedy.text())


@api.exception_handler(DraftConflict)
def _conflict(_request: HttpRequest, conflict: DraftConflict) -> HttpResponse:
    return problem(
        412,
        "Two people wrote",
        conflict.text,
        code="conflict",
        where="draft",
        theirs=conflict.theirs,
        mine=conflict.mine,
        kept_as=conflict.kept_as,
    )


@api.exception_handler(NotAllowed)
def _forbidden(_request: HttpRequest, refused: NotAllowed) -> HttpResponse:
    return problem(403, "Not yours to do", refused.text, code="not_allowed")


@api.exception_handler(NotForScripts)
def _not_for_scripts(_request: HttpRequest, refused: NotForScripts) -> HttpResponse:
    return problem(403, "Not for a script", refused.text, code="not_for_scripts")


@api.exception_handler(PasswordWanted)
def _password_wanted(_request: HttpRequest, wanted: PasswordWanted) -> HttpResponse:
    return problem(403, "Your password, please", wanted.text, code="password_wanted")


@api.exception_handler(CodeWanted)
def _code_wanted(_request: HttpRequest, wanted: CodeWanted) -> HttpResponse:
    return problem(401, "Your authenticator, please", wanted.text, code="code_wrong" if wanted.wrong else "code_wanted", where="code")


@api.exception_handler(WrongPin)
def _wrong_pin(_request: HttpRequest, wrong: WrongPin) -> HttpResponse:
    return problem(403, "Not the PIN", wrong.text, code="wrong_pin", left=wrong.left)


@api.exception_handler(StalePage)
def _stale(_request: HttpRequest, stale: StalePage) -> HttpResponse:
    return problem(403, "Reload this page", stale.text, code="stale_page")


@api.exception_handler(NotEnrolled)
def _not_enrolled(_request: HttpRequest, refused: NotEnrolled) -> HttpResponse:
    return problem(403, "Not this device", refused.text, code="not_enrolled")


@api.exception_handler(AuthenticationError)
def _unknown(_request: HttpRequest, _error: AuthenticationError) -> HttpResponse:
    return problem(401, "Sign in first", "Nobody is signed in here. Sign in and try again; what you typed is kept.", code="signed_out")


@api.exception_handler(Http404)
def _missing(_request: HttpRequest, _error: Http404) -> HttpResponse:
    return problem(
        404, "Not here", "This house has nothing under that address. Check the link, or find it from its place.", code="not_here"
    )


@api.exception_handler(ValidationError)
def _unreadable(_request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0] if error.errors else {"loc": (), "msg": "unreadable"}
    where = "/".join(str(part) for part in first["loc"] if part not in ("body", "data", "payload"))
    return problem(422, "Refused", f"{where or 'The request'}: {first['msg']}.", code="unreadable", where=where)


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, _error: RequestDataTooBig) -> HttpResponse:
    return too_big(request.path)


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
def _away(_request: HttpRequest, error: Exception) -> HttpResponse:
    return database_away(error)


@api.exception_handler(Exception)
def _fault(request: HttpRequest, error: Exception) -> HttpResponse:
    logging.getLogger("django.request").error("%s %s", request.method, request.path, exc_info=error)
    return on_fault(request)


@api.exception_handler(TooMany)
def _too_many(_request: HttpRequest, _trouble: TooMany) -> HttpResponse:
    return problem(503, "Come back in a moment", "Many are signing in just now. Try again in a moment.", code="busy")


@api.exception_handler(HttpError)
def _other(request: HttpRequest, error: HttpError) -> HttpResponse:
    if isinstance(error.__cause__, Refusal):  # the reader of bodies said why
        return _refused(request, error.__cause__)
    return problem(error.status_code, "Refused", str(error), code="refused")
