"""Take in the archive of a house: elsewhere as a house of its own, or in place of what its own site has of it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from itertools import islice
from typing import IO, Any

from django.core import serializers
from django.db import DataError, IntegrityError, connection, models, transaction
from django.utils import timezone

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.house_rows import delete_people_without_house, delete_rows, people_of, tables
from ulsek.team.models import Device, House, HouseGroup, Membership, Person, Role, SignIn, SigningKey
from ulsek.team.passwords import checked_password
from ulsek.team.sessions import end

from .form import LEFT_OUT, PEOPLE, Reader, file_of

_CHUNK = 1000
Keys = dict[Any, Any]
"""Primary keys in the archive, each with the one that its row has here."""


@dataclass
class TakenIn:
    """A house that was taken in. `renamed` names people whose sign-in name somebody had here already, each with their new one."""

    house: House
    rows: int = 0
    renamed: dict[str, str] = field(default_factory=dict)


def take_in_elsewhere(source: IO[bytes], lead: str, password: str, name: str = "") -> TakenIn:
    """Stores the house of an archive as a house of this site, under `name` if given. `lead`, one of its leads, signs in with `password`.

    Everybody else comes without a password; sessions and keys are ended, devices revoked, and who led it with its group alone has left. Raises Refusal for
    what is no whole archive, or one of a version that cannot be read here, for a house that is here already, for somebody who does not lead it, and for a weak password; then nothing is
    stored.
    """
    reader = Reader(source)
    with transaction.atomic():
        taken = _Taking(reader).all(name)
        found = Membership.objects.filter(house=taken.house, role=Role.LEAD).select_related("person")
        before = {new: old for old, new in taken.renamed.items()}
        leads = {before.get(row.person.username, row.person.username): row for row in found}
        if lead not in leads:
            raise Refusal(
                message("{name} does not lead {house}", name=lead or "—", house=taken.house.name),
                "lead",
                message("its leads are {leads}", leads=listed(sorted(leads), "comma")),
                message("Name one of them"),
                "unknown_reference",
            )
        person = leads[lead].person
        person.set_password(checked_password(password, person))
        person.save(update_fields=["password"])
        now = timezone.now()
        Membership.objects.filter(house=taken.house, by_group=True).exclude(person=person).update(left_at=now)
        Membership.ever.filter(house=taken.house).update(by_group=False)
        Device.objects.filter(house=taken.house, revoked_at=None).update(revoked_at=now)
        SignIn.objects.filter(house=taken.house, ended_at=None).update(ended_at=now, ended=SignIn.Ended.ELSEWHERE)
        SigningKey.objects.filter(sign_in__house=taken.house, revoked_at=None).update(revoked_at=now)
        Member(person, taken.house, Role.LEAD).wrote("take_in_house", taken.house.name, rows=taken.rows)
    return taken


def put_back(source: IO[bytes]) -> TakenIn:
    """Stores the house of an archive with secrets in place of what this site has of that house. Whoever is still known here keeps the password of now.

    Raises Refusal for an archive that cannot be read, for one without secrets, and if another house has its name; then nothing is changed.
    """
    reader = Reader(source)
    if not reader.about.secrets:
        raise Refusal(
            message("This archive was taken to go elsewhere"), "file", remedy=message("Take it in with bin/house import"), code="no_archive"
        )
    with transaction.atomic():
        taking = _Taking(reader)
        old = House.objects.select_for_update().filter(pk__in=taking.archived(House)).first()
        people = list(people_of(old).values_list("pk", flat=True)) if old else []
        if old is not None:
            taking.group = old.group_id
            end(SignIn.objects.filter(house=old), SignIn.Ended.ELSEWHERE)
            delete_rows(old)
        taken = taking.all("")
        SignIn.objects.filter(house=taken.house, ended_at=None).update(ended_at=timezone.now(), ended=SignIn.Ended.EXPIRED)
        delete_people_without_house(people)
    return taken


class _Taking:
    """The rows of one archive on their way into this database."""

    def __init__(self, reader: Reader) -> None:
        self._reader = reader
        self._models = [model for model, _lookup in tables() if model._meta.label not in LEFT_OUT]
        self._keys: dict[type[models.Model], Keys] = {}
        self._renamed: dict[str, str] = {}
        self.group: int | None = None

    def archived(self, model: type[models.Model]) -> list[Any]:
        """Returns the primary keys of a table in the archive."""
        column = model._meta.pk
        return [column.to_python(row["pk"]) for row in self._reader.lines(file_of(model))]

    def all(self, name: str) -> TakenIn:
        """Stores everything. Raises Refusal if something of it is here already, or refers to what is not in it."""
        try:
            for model in self._models:
                self._keys[model] = _free_keys(model, self.archived(model))
            (_one_house,) = self._keys[House]
            self._keys[Person] = dict(self._people())
            count = 0
            # Rows of one table may refer to later ones, as a spec does to its newest version.
            with connection.constraint_checks_disabled():
                for model in self._models:
                    rows = self._rows(model, name)
                    while some := list(islice(rows, _CHUNK)):
                        model._base_manager.bulk_create(some)
                        count += len(some)
            connection.check_constraints([model._meta.db_table for model in self._models])
        except (KeyError, TypeError, ValueError, IntegrityError, DataError, serializers.base.DeserializationError):
            raise Refusal(
                message("The archive does not hold together: something in it refers to what is not in it, or stands there twice"),
                "file",
                remedy=message("Take it anew"),
                code="no_archive",
            ) from None
        return TakenIn(House.objects.get(pk__in=self._keys[House].values()), count, self._renamed)

    def _people(self) -> Iterator[tuple[int, int]]:
        """Yields the key of everybody who is named in the archive, with their key here. In their own site people are who they were; elsewhere they are new."""
        secrets = self._reader.about.secrets
        for told in self._reader.lines(PEOPLE):
            key, sign_in = int(told["id"]), str(told["sign_in"])
            if secrets and (same := Person.objects.filter(pk=key, username=sign_in).first()):
                if not same.has_usable_password():
                    same.password, same.pin = told["password"], told["pin"]
                    same.save(update_fields=["password", "pin"])
                yield key, same.pk
                continue
            person = Person(username=_free_name(sign_in), display_name=str(told["name"])[:60])
            if person.username != sign_in:
                self._renamed[sign_in] = person.username
            if secrets:
                person.password, person.pin = told["password"], told["pin"]
            else:
                person.set_unusable_password()
            person.save()
            yield key, person.pk

    def _rows(self, model: type[models.Model], name: str) -> Iterator[models.Model]:
        """Yields the rows of a table with the keys that they have here. Raises KeyError for a row that refers to one outside the archive."""
        references = [column for column in model._meta.concrete_fields if isinstance(column, models.ForeignKey)]
        for told in self._reader.lines(file_of(model)):
            (found,) = serializers.deserialize("python", [{**told, "model": model._meta.label}])
            row = found.object
            row.pk = self._keys[model][row.pk]
            for column in references:
                value = getattr(row, column.attname)
                if column.related_model is HouseGroup:
                    # A group is its site's own: a house that goes back is in the one that it is in now.
                    setattr(row, column.attname, self.group)
                elif value is not None:
                    setattr(row, column.attname, self._keys[column.related_model][value])
            yield self._house(row, name) if isinstance(row, House) else row

    def _house(self, house: House, name: str) -> House:
        house.name = name.strip() or house.name
        house.closes_at = None
        if House.objects.filter(name=house.name).exists():
            raise Refusal(
                message("There is a house called {name} here already", name=house.name),
                "name",
                remedy=message("Take it in under another name: --name"),
                code="twice",
            )
        return house


def _free_keys(model: type[models.Model], keys: list[Any]) -> Keys:
    """Returns for each key in the archive the one of its row here: the same one if all of a table are free, else numbers after the last one here.

    Raises Refusal if one that is no number is taken: then the house, or a copy of it, is here.
    """
    if len(set(keys)) != len(keys):
        raise KeyError(model)
    if not _any_taken(model, keys):
        return dict(zip(keys, keys, strict=True))
    if not isinstance(model._meta.pk, models.AutoField):
        raise Refusal(
            message("This house, or a copy of it, is here already"),
            "file",
            remedy=message("Delete that one first, or leave it"),
            code="twice",
        )
    last = model._base_manager.aggregate(last=models.Max("pk"))["last"]
    return {key: number for number, key in enumerate(sorted(keys), last + 1)}


def _any_taken(model: type[models.Model], keys: Iterable[Any]) -> bool:
    waiting = iter(keys)
    while some := list(islice(waiting, _CHUNK)):
        if model._base_manager.filter(pk__in=some).exists():
            return True
    return False


def _free_name(sign_in: str) -> str:
    """Returns the sign-in name, with a number after it if somebody has it here."""
    name, number = sign_in, 1
    while Person.objects.filter(username=name).exists():
        number += 1
        name = f"{sign_in[:140]}-{number}"
    return name
