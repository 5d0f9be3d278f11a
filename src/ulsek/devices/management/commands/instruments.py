"""The hub of instruments, served beside the site."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

import uvicorn
from django.conf import settings
from django.core.management.base import BaseCommand

from ulsek.devices.hub import Hub


class Command(BaseCommand):
    help = "Owns the instruments and shows what they show, at the address of ULSEK_INSTRUMENTS."

    def handle(self, *_args: Any, **_options: Any) -> None:
        address = urlsplit(settings.INSTRUMENTS_ADDRESS)
        uvicorn.run(
            Hub(),
            host=settings.INSTRUMENTS_BIND,
            port=address.port or 80,
            log_level="warning",
            timeout_graceful_shutdown=1,
            ssl_certfile=settings.CERTIFICATE or None,
            ssl_keyfile=settings.CERTIFICATE_KEY or None,
        )
