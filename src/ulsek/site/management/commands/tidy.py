"""`manage.py tidy`: deletes rows that are no longer needed, every hour."""

from __future__ import annotations

import time
from datetime import timedelta
from typing import Any

from django.contrib.sessions.models import Session
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser
from django.db import Error, close_old_connections
from django.utils import timezone

from ulsek.devices.models import Alerted
from ulsek.tasting.models import WrongCode
from ulsek.team.actions.close_house import delete_closed
from ulsek.team.actions.group import settle_group
from ulsek.team.models import HouseGroup, Receipt, SignIn

EVERY_S = 3600
RECEIPTS, ALERTS, WRONG_CODES = timedelta(days=30), timedelta(days=7), timedelta(days=1)
"""How long a request may be sent again and is still known; how long an alert that is past its time, and a wrong code of a taster, is kept."""


def tidy() -> None:
    """Deletes receipts, alerts and wrong codes past their age, finished tasks of the worker, expired sessions, houses whose waiting time is over, and groups without a house.

    Completes the memberships of the leads of groups (`settle_group`).
    """
    now = timezone.now()
    delete_closed(now)
    HouseGroup.objects.filter(houses=None).delete()
    for group in HouseGroup.objects.all():
        settle_group(group)
    Receipt.objects.filter(at__lt=now - RECEIPTS).delete()
    Alerted.objects.filter(at__lt=now - ALERTS).delete()
    WrongCode.objects.filter(at__lt=now - WRONG_CODES).delete()
    call_command("prune_db_task_results", verbosity=0)
    call_command("clearsessions", verbosity=0)
    open_keys = Session.objects.values("session_key")
    SignIn.objects.filter(ended_at=None).exclude(session_key__in=open_keys).update(ended_at=now, ended=SignIn.Ended.EXPIRED)


class Command(BaseCommand):
    help = "Deletes what nobody asks for any more, every hour. Runs beside the site."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--once", action="store_true", help="does it once and ends")

    def handle(self, *_args: Any, **options: Any) -> None:
        while True:
            close_old_connections()
            try:
                tidy()
            except Error as trouble:
                self.stderr.write(f"the database is away: {trouble}")  # done an hour later
            if options["once"]:
                return
            time.sleep(EVERY_S)
