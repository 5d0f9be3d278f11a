"""The rows of one house in every table: by which column each table reaches its house, and their deletion."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterable, Iterator
from functools import cache

from django.apps import apps
from django.core import serializers
from django.db import connection, models, transaction
from django.db.models import ProtectedError

from .models import House, Membership, Person


@cache
def tables() -> tuple[tuple[type[models.Model], str], ...]:
    """Returns every table that holds rows of a house, those that others refer to first, each with the lookup from its rows to their house (`pk` for the
    houses themselves). Tables whose rows belong to no house are left out.
    """
    own = [(app, list(app.get_models())) for app in apps.get_app_configs() if app.name.startswith("ulsek.")]
    ordered: list[type[models.Model]] = serializers.sort_dependencies(own, allow_cycles=True)
    found = ((model, _lookup(model)) for model in ordered)
    return tuple((model, lookup) for model, lookup in found if lookup)


def _lookup(model: type[models.Model]) -> str:
    """Returns the shortest chain of columns from a table to its house, as a lookup; empty if there is none. Persons belong to no house."""
    waiting: deque[tuple[type[models.Model], tuple[str, ...]]] = deque([(model, ())])
    seen: set[type[models.Model]] = {Person}
    while waiting:
        now, path = waiting.popleft()
        if now is House:
            return "__".join(path) or "pk"
        if now in seen:
            continue
        seen.add(now)
        for field in now._meta.concrete_fields:
            if isinstance(field, models.ForeignKey) and isinstance(field.related_model, type):
                waiting.append((field.related_model, (*path, field.name)))
    return ""


def rows_of(house: House) -> Iterator[models.QuerySet[models.Model]]:
    """Yields the rows of a house, table by table, those that others refer to first."""
    for model, lookup in tables():
        yield model._base_manager.filter(**{lookup: house.pk})


def people_of(house: House) -> models.QuerySet[Person]:
    """Returns everybody who is or was in a house."""
    return Person.objects.filter(pk__in=Membership.ever.filter(house=house).values("person"))


def delete_rows(house: House) -> None:
    """Deletes a house with every row of it. The people stay. Belongs into a transaction."""
    # Rows of one table may refer to later ones, as a spec does to its newest version.
    with connection.constraint_checks_disabled():
        for rows in reversed(list(rows_of(house))):
            rows._raw_delete(rows.db)
    connection.check_constraints([model._meta.db_table for model, _lookup in tables()])


def delete_people_without_house(people: Iterable[int]) -> None:
    """Deletes those of the people, by their keys, who were in no house that is left."""
    for person in Person.objects.filter(pk__in=people).exclude(pk__in=Membership.ever.values("person")):
        try:
            with transaction.atomic():
                person.delete()
        except ProtectedError:
            # Something of another house bears their name: it stays, and nobody signs in by it.
            person.set_unusable_password()
            person.pin = ""
            person.save(update_fields=["password", "pin"])


def delete_house(house: House) -> None:
    """Deletes a house with every row of it, and the people who were in no other one. All of it is deleted or nothing."""
    with transaction.atomic():
        people = list(people_of(house).values_list("pk", flat=True))
        delete_rows(house)
        delete_people_without_house(people)
