"""Whether an archive that an older version wrote can be read: every migration since then must have only added to the tables."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from django.db import connection
from django.db.migrations import AddConstraint, AddField, AddIndex, AlterModelManagers, AlterModelOptions, CreateModel
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.operations.base import Operation

_HARMLESS = (CreateModel, AddIndex, AddConstraint, AlterModelManagers, AlterModelOptions)


def changed_since(then: Mapping[str, str], here: Mapping[str, str]) -> str:
    """Returns the first migration since `then` (the last one of each app) that a row of then would have to go through itself; empty if there is none.

    A column that has come since is no reason if a row without it has a value all the same: its default, or none.
    """
    for name, operation in sorted(_since(then, here), key=lambda found: found[0]):
        if not (isinstance(operation, _HARMLESS) or (isinstance(operation, AddField) and _fills_itself(operation))):
            return name
    return ""


def _since(then: Mapping[str, str], here: Mapping[str, str]) -> Iterator[tuple[str, Operation]]:
    for (app, name), migration in MigrationLoader(connection).disk_migrations.items():
        if app in here and then.get(app, "") < name <= here[app]:
            for operation in migration.operations:
                yield f"{app}.{name}", operation


def _fills_itself(operation: AddField) -> bool:
    # A default that was given for the rows of that day alone is no default of the column.
    return bool(operation.preserve_default and (operation.field.null or operation.field.has_default()))
