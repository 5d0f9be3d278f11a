"""Whether a first house of one's own may be opened from a browser, and the code that it takes on a network."""

from __future__ import annotations

from typing import Literal
from urllib.parse import urlsplit

from django.conf import settings
from django.utils.crypto import constant_time_compare, salted_hmac

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .models import House

_LOOPBACK = ("127.0.0.1", "localhost", "::1", "testserver")
_CODE_LETTERS = 12


def may_open() -> Literal["", "freely", "by code"]:
    """Returns how a first house may be opened over HTTP: not at all once there is one beside the demo, freely on a machine that serves only itself, else by
    the code that `bin/house code` prints.
    """
    if House.objects.filter(is_demo=False).exists():
        return ""
    return "freely" if urlsplit(settings.BASE_ADDRESS).hostname in _LOOPBACK else "by code"


def opening_code() -> str:
    """Returns the code with which whoever runs this site lets somebody open its first house from another machine. It follows from the site's secret key."""
    return salted_hmac("ulsek.opening", "first house", algorithm="sha256").hexdigest()[:_CODE_LETTERS]


def check_opening(code: str) -> None:
    """Raises Refusal unless a first house may be opened now, with this code where one is needed."""
    how = may_open()
    if not how:
        raise Refusal(
            message("This site has its house"),
            "name",
            remedy=message("Ask its lead for an invitation; whoever runs the site opens another one with bin/house"),
            code="opened",
        )
    if how == "by code" and not constant_time_compare(code.strip().lower(), opening_code()):
        raise Refusal(
            message("That is not this site's opening code"),
            "opening_code",
            remedy=message("Whoever runs the site gets it from bin/house code"),
            code="wrong_code",
        )
