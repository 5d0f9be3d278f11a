"""Watches the waits of every house and alerts whoever is on duty."""

from __future__ import annotations

import time
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import Error, close_old_connections
from django.utils import timezone

from ulsek.batches.actions.alert_waits import alert_waits

EVERY_S = 15


class Command(BaseCommand):
    help = "Alerts whoever is on duty when a long wait is over. Runs beside the site."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--once", action="store_true", help="looks once and ends")

    def handle(self, *_args: Any, **options: Any) -> None:
        while True:
            close_old_connections()
            try:
                alert_waits(timezone.now())
            except Error as trouble:
                self.stderr.write(f"the database is away: {trouble}")  # looked for again below
            if options["once"]:
                return
            time.sleep(EVERY_S)
