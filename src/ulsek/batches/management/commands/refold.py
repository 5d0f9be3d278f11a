"""`manage.py refold`: works out again what lists show of every open run, from its events."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from ...folding import events_of, folded, projection
from ...models import Run


class Command(BaseCommand):
    """Rebuilds the projection of every run that is not finished. What is frozen stays as it is."""

    help = "Works out again what lists show of every open run"

    def handle(self, *_args: Any, **_options: Any) -> None:
        count = 0
        for key in Run.objects.filter(finished_at=None).values_list("pk", flat=True):
            with transaction.atomic():
                run = Run.objects.select_for_update().get(pk=key)
                if run.finished_at is None:
                    run.projection = projection(folded(run, events_of(run)), run.snapshot)
                    run.save(update_fields=["projection"])
                    count += 1
        self.stdout.write(f"{count} open runs worked out again.")
