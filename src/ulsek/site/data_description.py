"""What a database holds, in short: the versions of its tables and the number of their rows. A backup is compared by it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db import connection
from django.db.migrations.recorder import MigrationRecorder
from django.utils import timezone

FORMAT, VERSION = "ulsek.backup", 1
GROWING = ("team_house", "team_historyrow", "batches_runevent", "specs_version")
"""Tables that hold at least as many rows after a copy as before it: their rows are deleted only with a house, which is rare."""


@dataclass(frozen=True, slots=True)
class Description:
    """The last migration of each app, and the number of rows of each table; when it was written [ISO 8601]."""

    migrations: Mapping[str, str]
    tables: Mapping[str, int]
    at: str = ""
    format: str = FORMAT
    version: int = VERSION


def describe() -> Description:
    """Returns what the database of this process holds."""
    # Of each app the last one stays.
    applied = dict(sorted(MigrationRecorder(connection).applied_migrations()))
    with connection.cursor() as cursor:
        names = sorted(connection.introspection.table_names(cursor))
        rows: dict[str, int] = {}
        for name in names:
            cursor.execute(f"SELECT COUNT(*) FROM {connection.ops.quote_name(name)}")  # noqa: S608 # the database's own names
            rows[name] = cursor.fetchone()[0]
    return Description(applied, rows, timezone.now().isoformat(timespec="seconds"))


def unreadable(said: Any, known: Mapping[str, str]) -> str:
    """Returns why a backup of this description cannot be read by a site that knows these migrations, in words; empty if it can."""
    if not isinstance(said, dict) or said.get("format") != FORMAT or not isinstance(said.get("migrations"), dict):
        return "This is no backup of Ulsek."
    if said.get("version") != VERSION:
        return f"It is a backup of another kind (version {said.get('version')}); this Ulsek reads version {VERSION}."
    newer = sorted(app for app, name in said["migrations"].items() if app in known and name > known[app])
    strange = sorted(set(said["migrations"]) - set(known))
    if newer or strange:
        return f"A newer Ulsek made it: this one does not know its tables of {', '.join((newer or strange)[:3])}."
    return ""


def difference(read_back: Mapping[str, Any], source: Mapping[str, Any]) -> str:
    """Returns what a database that was read back lacks of the one that it was made from, as `source` was counted before, in words; empty if it has all of it."""
    if read_back["migrations"] != source["migrations"]:
        return "What was read back has other migrations than the database."
    lost = sorted(set(source["tables"]) - set(read_back["tables"]))
    if lost:
        return f"What was read back lacks the table {lost[0]}."
    for name in GROWING:
        has, had = (described["tables"].get(name, 0) for described in (read_back, source))
        if has < had:
            return f"What was read back has {has} rows of {name}; the database has {had}."
    return ""
