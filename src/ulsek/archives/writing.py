"""Write the archive of a house, as it is at one moment, while the house goes on."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import IO

from django.core import serializers
from django.db import connection, models, transaction
from django.utils import timezone

from ulsek.team.house_rows import rows_of
from ulsek.team.models import House, Person

from .form import LEFT_OUT, PEOPLE, SECRETS, About, Writer, file_of, migrations_here, people_in

_CHUNK = 500


def write_archive(house: House, to: IO[bytes], told: Callable[[int, int], None] | None = None, *, secrets: bool = False) -> About:
    """Writes the archive of a house, and returns its description. `told` is called before each table with how many are done, and how many there are.

    With `secrets` it holds what lets people in: only for putting the house back into the site that it is of.
    """
    with _one_moment():
        house = House.objects.get(pk=house.pk)
        about = About(house.name, timezone.now().isoformat(timespec="seconds"), migrations_here(), secrets=secrets)
        archive, people = Writer(to, about), set[int]()
        tables = [rows for rows in rows_of(house) if rows.model._meta.label not in LEFT_OUT]
        for done, rows in enumerate(tables):
            if told is not None:
                told(done, len(tables))
            archive.rows(file_of(rows.model), _lines(rows, people, secrets=secrets))
        archive.rows(PEOPLE, _people(people, secrets=secrets))
        archive.end()
        return about


@contextmanager
def _one_moment() -> Iterator[None]:
    """Reads everything inside as it was at one moment, whatever is written meanwhile."""
    if connection.in_atomic_block:
        # Somebody else's transaction: a test's.
        yield
        return
    with connection.cursor() as cursor:
        cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
    with transaction.atomic():
        yield


def _lines(rows: models.QuerySet[models.Model], people: set[int], *, secrets: bool) -> Iterator[str]:
    """Yields the rows of a table as lines of JSON, and adds whom they name to `people`."""
    blank = () if secrets else SECRETS.get(rows.model._meta.label, ())
    named = people_in(rows.model)
    for row in rows.order_by().iterator(chunk_size=_CHUNK):
        people.update(key for column in named if (key := getattr(row, column)) is not None)
        for column in blank:
            setattr(row, column, "")
        yield serializers.serialize("jsonl", [row], ensure_ascii=False)


def _people(keys: set[int], *, secrets: bool) -> Iterator[str]:
    """Yields the people who are named in the rows: the name they sign in by, the one that labels show, and with `secrets` what lets them in."""
    for person in Person.objects.filter(pk__in=keys).order_by("username"):
        told = {"id": person.pk, "sign_in": person.username, "name": person.display_name}
        if secrets:
            told |= {"password": person.password, "pin": person.pin}
        yield json.dumps(told, ensure_ascii=False) + "\n"
