"""`manage.py restored`: after a backup was read back, so that devices send again what they have done since it was made."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.sessions.models import Session
from django.core.management.base import BaseCommand, CommandParser
from django.utils import timezone

from ulsek.sync.models import Epoch
from ulsek.team.models import SignIn


class Command(BaseCommand):
    help = "Ends every session and begins a new epoch: every device sends again what it did in the last thirty days. Run it once after a backup was read back."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--house", default="", help="only of this house; its sessions ended when it was put back")

    def handle(self, *_args: Any, **options: Any) -> None:
        now = timezone.now()
        # A session of before the backup may be in anybody's hands by now. Its keys stand: what they signed is still its person's.
        whose = {"house__name": options["house"]} if options["house"] else {}
        if not whose:
            Session.objects.all().delete()
        SignIn.objects.filter(ended_at=None, **whose).update(ended_at=now, ended=SignIn.Ended.EXPIRED)
        row, _ = Epoch.objects.update_or_create(pk=1, defaults={"value": uuid.uuid4()})
        self.stdout.write(f"A new epoch has begun: {row.value}. Devices send again what is missing.")
