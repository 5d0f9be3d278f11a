"""`manage.py up_to_date`: whether the database needs nothing before the site is started."""

from __future__ import annotations

import sys
from typing import Any

from django.core.management.base import BaseCommand
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from ulsek.team.models import House


class Command(BaseCommand):
    """Exits with 0 if every migration is applied and a house is there; with 1 if something is still to be done."""

    help = "Says by its exit code whether the database is migrated and holds a house"

    def handle(self, *_args: Any, **_options: Any) -> None:
        executor = MigrationExecutor(connection)
        pending = executor.migration_plan(executor.loader.graph.leaf_nodes())
        if pending or not House.objects.exists():
            sys.exit(1)
