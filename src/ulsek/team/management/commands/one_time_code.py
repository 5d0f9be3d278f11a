"""`manage.py one_time_code NAME`: a code for somebody whom no lead can help, by whoever runs the machine."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from ulsek.team.actions.own_credentials import fresh_code
from ulsek.team.authenticators import forget_authenticator
from ulsek.team.models import Person


class Command(BaseCommand):
    help = "Prints a code with which a person sets a new password, once, within a day."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", help="the name they sign in with")
        parser.add_argument("--without-authenticator", action="store_true", help="takes their authenticator and recovery codes away too")

    def handle(self, *_args: Any, **options: Any) -> None:
        person = Person.objects.filter(username=options["name"]).first()
        if person is None:
            raise CommandError(f"Nobody signs in as “{options['name']}”. Check the name.")
        if options["without_authenticator"]:
            forget_authenticator(person)
        self.stdout.write(fresh_code(person, person))
