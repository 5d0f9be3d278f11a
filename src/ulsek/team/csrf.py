"""CSRF: requests that write carry the token of this site's page in a header; a body is never read to find it."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import CsrfViewMiddleware, InvalidTokenFormat, RejectRequest, _check_token_format, _does_token_match  # type: ignore[attr-defined]


class StalePage(Exception):
    """Raised for a writing request without the token of this site's page."""

    text = "This page is stale. Reload it and try again."


class _HeaderOnly(CsrfViewMiddleware):
    """Django's check without reading a form, because a form may hold files and arrives before the permission check."""

    def _check_token(self, request: HttpRequest) -> None:
        given = request.META.get(settings.CSRF_HEADER_NAME, "")
        try:
            secret = self._get_secret(request)  # type: ignore[attr-defined]
            _check_token_format(given)
        except InvalidTokenFormat as trouble:
            raise RejectRequest(trouble.reason) from None
        if secret is None or not _does_token_match(given, secret):
            raise RejectRequest("the token is not this page's")


def check_csrf(request: HttpRequest) -> None:
    """Raises StalePage if a writing request does not come from this site's page."""
    check = _HeaderOnly(lambda _request: HttpResponse())
    request.csrf_processing_done = False  # type: ignore[attr-defined]
    check.process_request(request)
    if check.process_view(request, lambda _request: HttpResponse(), (), {}) is not None:
        raise StalePage
