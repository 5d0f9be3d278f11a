"""`manage.py restored`: after a backup was read back, so that devices send again what they have done since it was made."""

from __future__ import annotations

import uuid
from typing import Any

from django.core.management.base import BaseCommand

from ulsek.sync.models import Epoch


class Command(BaseCommand):
    help = "Begins a new epoch: every device sends again what it did in the last thirty days. Run it once after a backup was read back."

    def handle(self, *_args: Any, **_options: Any) -> None:
        row, _ = Epoch.objects.update_or_create(pk=1, defaults={"value": uuid.uuid4()})
        self.stdout.write(f"A new epoch has begun: {row.value}. Devices send again what is missing.")
