"""`manage.py compare_data`: whether what was read back of a backup is all that it was made from, or whether this site can read it."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db.migrations.loader import MigrationLoader

from ulsek.site.data_description import difference, unreadable


class Command(BaseCommand):
    """Compares a description with the one on standard input, or with `--readable` with the migrations that this site knows; ends with 1 and words if they differ."""

    help = "Says whether a backup is whole, or whether this site can read it"

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("description", help="the file that describes the backup")
        parser.add_argument("--readable", action="store_true", help="only whether this site can read it")

    def handle(self, *_args: Any, **options: Any) -> None:
        try:
            said = json.loads(Path(options["description"]).read_text(encoding="utf-8"))
        except (OSError, ValueError):
            raise CommandError("The description of the backup cannot be read.") from None
        if options["readable"]:
            known = dict(MigrationLoader(None, ignore_no_migrations=True).graph.leaf_nodes())
            wrong = unreadable(said, known)
        else:
            wrong = difference(said, json.loads(sys.stdin.read()))
        if wrong:
            raise CommandError(wrong)
        self.stdout.write("It is whole." if not options["readable"] else "It can be read.")
