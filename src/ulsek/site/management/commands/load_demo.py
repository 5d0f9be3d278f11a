"""Loads the made-up house: people, deliveries, specs, six weeks of batches, lots on the shelf, batches running now."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction
from django.utils import timezone

from ulsek.batches.models import Lot, Run
from ulsek.site.demo.rows import load_record
from ulsek.site.demo.setting import Setting
from ulsek.site.demo.today import play_today
from ulsek.team.models import House


class Command(BaseCommand):
    help = "Loads the made-up house into an empty database; does nothing when a house is there."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--as-of", help="the moment that counts as now, ISO 8601 with offset")

    def handle(self, *_args: Any, **options: Any) -> None:
        if House.objects.exists():
            self.stdout.write("A house is there already; the demo house was not loaded.")
            return
        setting = Setting(datetime.fromisoformat(options["as_of"]) if options["as_of"] else timezone.now())
        with transaction.atomic():
            load_record(setting)
            setting.set_secrets()
            play_today(setting)
        self.stdout.write(
            f"Loaded {House.objects.count()} houses, {Run.objects.count()} batches, {Lot.objects.filter(gone_at=None).count()} lots on the shelf."
        )
