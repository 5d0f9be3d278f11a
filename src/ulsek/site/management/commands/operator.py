"""`manage.py operator NAME`: makes somebody an operator of this site, or not any more."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from ulsek.team.authenticators import has_authenticator
from ulsek.team.models import Person


class Command(BaseCommand):
    help = "Lets somebody into /operator/, where ULSEK_ADMIN is yes. They need an authenticator."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", help="the name they sign in by")
        parser.add_argument("--no-more", action="store_true", help="takes it back")

    def handle(self, *_args: Any, **options: Any) -> None:
        person = Person.objects.filter(username=options["name"]).first()
        if person is None:
            raise CommandError(f"Nobody signs in by “{options['name']}” here.")
        is_operator = not options["no_more"]
        if is_operator and not has_authenticator(person):
            raise CommandError(f"{person.username} has no authenticator yet: their name, Mine, My authenticator.")
        person.is_staff = person.is_superuser = is_operator
        person.save(update_fields=["is_staff", "is_superuser"])
        self.stdout.write(f"{person.username} is {'an' if is_operator else 'no'} operator{'' if is_operator else ' any more'}.")
