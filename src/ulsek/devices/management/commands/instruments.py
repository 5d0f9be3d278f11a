"""The hub of instruments, served beside the site."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

import uvicorn
from django.conf import settings
from django.core.management.base import BaseCommand

from ulsek.devices.hub import Hub
from ulsek.devices.hub_app import hub_app


class Command(BaseCommand):
    help = "Owns the instruments and shows what they show, at the address of ULSEK_INSTRUMENTS."

    def handle(self, *_args: Any, **_options: Any) -> None:
        port = urlsplit(settings.INSTRUMENTS_ADDRESS).port or 80
        place: dict[str, Any] = {"uds": settings.INSTRUMENTS_SOCKET} if settings.INSTRUMENTS_SOCKET else {"host": "127.0.0.1", "port": port}
        uvicorn.run(hub_app(Hub()), **place, log_level="warning", timeout_graceful_shutdown=1)
