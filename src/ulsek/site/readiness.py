"""Whether the site can serve: its database answers and has every migration."""

from __future__ import annotations

from functools import cache

from django.db import connection
from django.db.migrations.executor import MigrationExecutor


class _Pending(Exception):
    """Raised while migrations are missing, so that the answer is not kept."""


@cache
def _migrated() -> bool:
    """Returns True once every migration is applied, which holds for the life of a process. Raises _Pending before."""
    executor = MigrationExecutor(connection)
    if executor.migration_plan(executor.loader.graph.leaf_nodes()):
        raise _Pending
    return True


def not_ready() -> str:
    """Returns why the site cannot serve yet, in words; empty if it can. Raises OperationalError while the database is away."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
    try:
        _migrated()
    except _Pending:
        return "The tables are of another version. Run manage.py migrate, or bin/start."
    return ""
