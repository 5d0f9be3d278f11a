"""`manage.py export_house`: a house of this site as one archive."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from ulsek.archives.writing import write_archive
from ulsek.team.models import House


class Command(BaseCommand):
    help = "Writes everything of a house into one file, without what lets anybody in"

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("house")
        parser.add_argument("file", type=Path)
        parser.add_argument("--secrets", action="store_true", help="with what lets people in: for bin/restore alone")

    def handle(self, *_args: Any, **options: Any) -> None:
        house = House.objects.filter(name=options["house"]).first()
        if house is None:
            names = ", ".join(House.objects.order_by("name").values_list("name", flat=True)) or "none"
            raise CommandError(f"There is no house “{options['house']}” here. There are: {names}.")
        to: Path = options["file"]
        part = to.with_name(f"{to.name}.part")
        try:
            # Whoever can read the file reads the house.
            with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
                about = write_archive(house, file, secrets=options["secrets"])
            part.replace(to)
        except OSError as trouble:
            part.unlink(missing_ok=True)
            raise CommandError(f"{to} cannot be written: {trouble.strerror}. Name another file, or make room.") from None
        self.stdout.write(f"{house.name}: {sum(about.rows.values())} rows in {to}")
