"""Plays the history of the made-up house through the actions, and records its rows in demo/history.jsonl.gz, from which load_demo loads them."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.db import connection

from ulsek.site.demo.history import History
from ulsek.site.demo.rows import RECORDED_AT, same_ids, write_record
from ulsek.site.demo.setting import Setting


class Command(BaseCommand):
    help = "Plays the made-up house's history in a database of its own and records its rows."

    def handle(self, *_args: Any, **_options: Any) -> None:
        before = connection.settings_dict["NAME"]
        connection.creation.create_test_db(verbosity=0, autoclobber=True, serialize=False)
        try:
            with same_ids():
                History(Setting(RECORDED_AT)).play()
            self.stdout.write(f"Recorded {write_record()} rows.")
        finally:
            connection.creation.destroy_test_db(before, verbosity=0)
