"""`manage.py wipe_demo`: deletes the made-up houses that ship."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from ulsek.team.actions.wipe_demo import wipe_demo


class Command(BaseCommand):
    help = "Deletes the made-up houses with all that is in them; a house of one's own is never touched"

    def handle(self, *_args: Any, **_options: Any) -> None:
        count = wipe_demo()
        self.stdout.write(f"Wiped: {count} made-up houses." if count else "There is no demo here.")
