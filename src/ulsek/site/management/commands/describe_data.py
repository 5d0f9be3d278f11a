"""`manage.py describe_data`: what the database holds, as JSON. `bin/backup` keeps it beside the data."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from django.core.management.base import BaseCommand

from ulsek.site.data_description import describe


class Command(BaseCommand):
    help = "Prints the last migration of each app and the number of rows of each table"

    def handle(self, *_args: Any, **_options: Any) -> None:
        self.stdout.write(json.dumps(asdict(describe()), indent=1))
