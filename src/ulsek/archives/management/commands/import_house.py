"""`manage.py import_house`: the archive of a house, taken in here."""

from __future__ import annotations

import sys
from getpass import getpass
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from ulsek.archives.taking_in import TakenIn, put_back, take_in_elsewhere
from ulsek.core.base.refusals import Refusal


class Command(BaseCommand):
    help = "Takes in the archive of a house. Its lead's new password comes from the terminal, or as one line of standard input."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--lead", default="", help="the name that one of its leads signs in by")
        parser.add_argument("--name", default="", help="another name for the house")
        parser.add_argument(
            "--back", action="store_true", help="in place of what this site has of it, from an archive with secrets: for bin/restore alone"
        )

    def handle(self, *_args: Any, **options: Any) -> None:
        try:
            with options["file"].open("rb") as file:
                if options["back"]:
                    taken = put_back(file)
                else:
                    asks = sys.stdin.isatty()
                    password = (
                        getpass(f"A password for {options['lead']}, ten letters at least: ") if asks else sys.stdin.readline().rstrip("\n")
                    )
                    taken = take_in_elsewhere(file, options["lead"], password, options["name"])
        except OSError as trouble:
            raise CommandError(f"{options['file']} cannot be read: {trouble.strerror}.") from None
        except Refusal as refusal:
            raise CommandError(f"Nothing was changed. {refusal.text}") from None
        self._said(taken)

    def _said(self, taken: TakenIn) -> None:
        self.stdout.write(f"{taken.house.name}: {taken.rows} rows taken in.")
        for old, new in taken.renamed.items():
            self.stdout.write(f"Somebody signs in by “{old}” here already: theirs is “{new}” now.")
