"""`manage.py up_to_date`: whether the database needs nothing before the site is started, and whose houses it holds."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from ulsek.team.models import House


class Command(BaseCommand):
    """Exits with 0 if every migration is applied and a house is there (with `--own` also without one), with 1 if something is still to be done. Prints `demo`
    if the made-up house is here, and `own` if a house of somebody's own is.
    """

    help = "Says by its exit code whether the database is migrated and holds a house, and prints whose houses it holds"

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--own", action="store_true", help="needs no house yet")

    def handle(self, *_args: Any, **options: Any) -> None:
        executor = MigrationExecutor(connection)
        if executor.migration_plan(executor.loader.graph.leaf_nodes()):
            sys.exit(1)
        kinds = set(House.objects.values_list("is_demo", flat=True))
        self.stdout.write(" ".join(word for is_demo, word in ((True, "demo"), (False, "own")) if is_demo in kinds))
        if not kinds and not options["own"]:
            sys.exit(1)
