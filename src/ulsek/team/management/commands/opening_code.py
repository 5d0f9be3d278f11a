"""`manage.py opening_code`: the code with which the first house is opened from another machine."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from ulsek.team.opening import may_open, opening_code


class Command(BaseCommand):
    help = "Prints the code with which the first house of this site is opened from another machine"

    def handle(self, *_args: Any, **_options: Any) -> None:
        self.stdout.write(
            opening_code() if may_open() else "This site has its house: its lead invites people; bin/house opens another one."
        )
