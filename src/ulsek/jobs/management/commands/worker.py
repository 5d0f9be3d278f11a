"""Does the jobs, and continues after the database was away."""

from __future__ import annotations

import time
from typing import Any

from django.db import Error, close_old_connections
from django_tasks_db.management.commands import db_worker

AGAIN_AFTER_S = 1.0


class Command(db_worker.Command):
    help = "Does the jobs that people asked for, one after another. Runs beside the site."

    def handle(self, **options: Any) -> None:
        """As `db_worker`, which ends with the first loss of the database. A job that was under way then is taken up again by its lease (`jobs/work.py`)."""
        while True:
            try:
                super().handle(**options)
            except Error as trouble:
                self.stderr.write(f"the database is away: {trouble}")
                time.sleep(AGAIN_AFTER_S)
                close_old_connections()
            else:
                return
