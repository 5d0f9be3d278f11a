"""The form of a house's archive: a zip file of one file of rows for each table, the people, and a description with a digest of each file.

Its open form is described in docs/formats/house-archive.md.
"""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import asdict, dataclass, field
from functools import cache
from typing import IO, Any

from django.apps import apps
from django.db import connection, models
from django.db.migrations.recorder import MigrationRecorder

from ulsek.core.base.messages import Message, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.models import Person

from .older import changed_since

FORMAT, VERSION = "ulsek.house", 1
ABOUT, PEOPLE = "house.json", "people.jsonl"

LEFT_OUT = ("team.Receipt", "team.Invitation", "team.ApiToken", "jobs.Job", "devices.AlertAddress", "devices.Alerted")
"""Tables that mean something only to the site they are of: requests that may be sent again, open invitations, tokens, jobs, and addresses of alerts."""
SECRETS: Mapping[str, tuple[str, ...]] = {
    "team.Device": ("secret",),
    "team.SignIn": ("session_key",),
    "team.Person": ("password", "pin"),
    "team.ApiToken": ("digest",),
    "tasting.Panel": ("seed", "link_digest", "letters_digest"),
    "tasting.Seat": ("digest", "again_digest"),
}
"""Columns that let somebody in. They are written empty, but for a house that goes back into its own site."""


@dataclass
class About:
    """The description in an archive: the house's name, the moment it was written [ISO 8601], the last migration of each app, and of each file its number of
    rows and the SHA-256 of its bytes [hex]. `secrets` tells that it is for the site that it was made of.
    """

    house: str
    at: str
    migrations: Mapping[str, str]
    rows: dict[str, int] = field(default_factory=dict)
    digests: dict[str, str] = field(default_factory=dict)
    secrets: bool = False
    format: str = FORMAT
    version: int = VERSION


def migrations_here() -> dict[str, str]:
    """Returns the last migration of each of Ulsek's apps that this database has."""
    ours = {config.label for config in apps.get_app_configs() if config.name.startswith("ulsek.")}
    return {app: name for app, name in sorted(MigrationRecorder(connection).applied_migrations()) if app in ours}


def file_of(model: type[models.Model]) -> str:
    """Returns the name of the file with a table's rows."""
    return f"rows/{model._meta.label_lower}.jsonl"


@cache
def people_in(model: type[models.Model]) -> tuple[str, ...]:
    """Returns the columns of a table that name a person, as attributes."""
    return tuple(column.attname for column in model._meta.concrete_fields if column.related_model is Person)


class Writer:
    """Writes the files of an archive one after the other, and last its description."""

    def __init__(self, to: IO[bytes], about: About) -> None:
        self._zip, self._about = zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED), about

    def rows(self, name: str, lines: Iterable[str]) -> None:
        """Writes a file of rows, each a line of JSON."""
        digest, count = hashlib.sha256(), 0
        with self._zip.open(name, "w") as file:
            for line in lines:
                encoded = line.encode()
                file.write(encoded)
                digest.update(encoded)
                count += 1
        self._about.rows[name], self._about.digests[name] = count, digest.hexdigest()

    def end(self) -> None:
        """Writes the description."""
        self._zip.writestr(ABOUT, json.dumps(asdict(self._about), ensure_ascii=False, indent=1) + "\n")
        self._zip.close()


class Reader:
    """Reads an archive whose every file is as its description says. Raises Refusal for anything else."""

    def __init__(self, source: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(source)
            said = json.loads(self._zip.read(ABOUT))
        except (zipfile.BadZipFile, KeyError, ValueError, NotImplementedError, RuntimeError):
            raise _refused(message("This is no archive of a house, or it is cut off"), message("Take another copy of it")) from None
        if not isinstance(said, dict) or said.get("format") != FORMAT:
            raise _refused(
                message("This is no archive of a house"),
                message("An archive is what a lead takes under The house, or bin/house export writes"),
            )
        if said.get("version") != VERSION:
            raise _refused(
                message("Another Ulsek wrote this archive in another form"), message("Install the Ulsek that wrote it, or a newer one")
            )
        try:
            self.about = About(**said)
            self._check()
        except (TypeError, AttributeError, KeyError, zipfile.BadZipFile, EOFError, OSError, NotImplementedError, RuntimeError):
            raise _refused(message("The archive was changed, or is cut off"), message("Take another copy of it")) from None

    def _check(self) -> None:
        here = migrations_here()
        if dict(self.about.migrations) != here:
            if any(name > here.get(app, "") for app, name in self.about.migrations.items()):
                raise _refused(message("A newer Ulsek wrote this archive"), message("Upgrade this site first"))
            if changed := changed_since(self.about.migrations, here):
                raise _refused(
                    message("An older Ulsek wrote this archive: its rows lack what {migration} has changed", migration=changed),
                    message("Upgrade the site that it is from, and take it anew there"),
                )
        if set(self.about.digests) != set(self._zip.namelist()) - {ABOUT}:
            raise KeyError(ABOUT)
        for name, digest in self.about.digests.items():
            counted = hashlib.sha256()
            with self._zip.open(name) as file:
                while part := file.read(1 << 20):
                    counted.update(part)
            if counted.hexdigest() != digest:
                raise KeyError(name)

    def lines(self, name: str) -> Iterator[Mapping[str, Any]]:
        """Yields the rows of a file, none where the archive has no such file."""
        if name not in self.about.digests:
            return
        with self._zip.open(name) as file:
            for line in io.TextIOWrapper(file, encoding="utf-8"):
                yield json.loads(line)


def _refused(what: Message, remedy: Message) -> Refusal:
    return Refusal(what, "file", remedy=remedy, code="no_archive")
