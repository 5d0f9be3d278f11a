"""Mail that goes out, where the operator has named a server for it."""

from __future__ import annotations

import re
from email.errors import HeaderParseError
from smtplib import SMTPException

from django.conf import settings
from django.core.mail import EmailMessage

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

MOST_ADDRESS = 254
_ADDRESS = re.compile(r"[^\s@,;<>\"()]+@[^\s@,;<>\"()]+\.[^\s@,;<>\"()]+")


def goes_out() -> bool:
    """Returns True if mail can be sent from this site."""
    return bool(settings.EMAIL_HOST and settings.DEFAULT_FROM_EMAIL)


def checked_address(text: str) -> str:
    """Returns a mail address; empty without one. Raises Refusal for what is none, and for any where no mail goes out."""
    address = text.strip()
    if not address:
        return ""
    if not goes_out():
        raise Refusal(
            message("This site sends no mail"),
            "mail",
            remedy=message("Leave it empty, and send the link yourself; whoever runs the site may name a server for mail"),
            code="no_mail",
        )
    if len(address) > MOST_ADDRESS or not _ADDRESS.fullmatch(address):
        raise Refusal(
            message("“{address}” is no mail address", address=address[:60]),
            "mail",
            remedy=message("Write one, such as kaja@bar.example"),
            code="unreadable",
        )
    return address


def send(to: str, subject: str, text: str) -> bool:
    """Sends a mail, and returns True if the server took it. Whoever asked is told otherwise, and goes on by hand."""
    try:
        return EmailMessage(subject, text, settings.DEFAULT_FROM_EMAIL, [to]).send() == 1
    except (OSError, SMTPException, HeaderParseError, ValueError):
        return False
