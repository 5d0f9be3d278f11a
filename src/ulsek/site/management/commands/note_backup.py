"""`manage.py note_backup FILE`: notes that a backup was made, read back and encrypted, so that a screen can say when."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.utils import timezone

from ulsek.team.models import BackupMade


class Command(BaseCommand):
    help = "Notes a good backup"

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file")

    def handle(self, *_args: Any, **options: Any) -> None:
        path = Path(options["file"])
        BackupMade.objects.create(at=timezone.now(), name=path.name[:80], size=path.stat().st_size)
