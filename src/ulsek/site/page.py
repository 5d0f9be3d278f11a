"""The page of the application, with the style nonce of the answer."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

PLACE_FOR_NONCE = "STYLE_NONCE"


@cache
def _built() -> str:
    path = settings.WEB_DIST / "index.html"
    return (
        path.read_text(encoding="utf-8")
        if path.is_file()
        else "<!doctype html><title>Ulsek</title><p>The front end is not built yet: run bin/start."
    )


@require_safe
@ensure_csrf_cookie
def page(request: HttpRequest, _path: str = "") -> HttpResponse:
    """Answers every address outside the API with the application, which does its own routing."""
    nonce = str(getattr(request, "csp_nonce", ""))
    answer = HttpResponse(_built().replace(PLACE_FOR_NONCE, nonce))
    answer["Cache-Control"] = "no-store"
    return answer


@require_safe
def service_worker(_request: HttpRequest) -> HttpResponse:
    """The service worker, at the root so that its scope is every address. It is never cached, so that a new build is found at once. Raises Http404 without a
    build.
    """
    path = settings.WEB_DIST / "sw.js"
    if not path.is_file():
        raise Http404
    answer = HttpResponse(path.read_bytes(), content_type="text/javascript; charset=utf-8")
    answer["Cache-Control"] = "no-cache"
    return answer


@require_safe
def house_certificate(_request: HttpRequest) -> HttpResponse:
    """The certificate of this house's own authority, for a tablet to trust; its key never leaves the machine. Raises Http404 if there is none."""
    path = Path(settings.CERTIFICATE).with_name("house.crt") if settings.CERTIFICATE else None
    if path is None or not path.is_file():
        raise Http404
    answer = HttpResponse(path.read_bytes(), content_type="application/x-x509-ca-cert")
    answer["Content-Disposition"] = 'attachment; filename="ulsek-house.crt"'
    return answer
