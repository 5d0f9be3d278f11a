"""Instruments of a house, and push addresses of its people."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from ulsek.team.models import EXACT, House, Person, SignIn

from .lines import KINDS
from .push import Subscription


class Instrument(models.Model):
    """An instrument: `address` is a pyserial one, a serial port or `socket://host:port`."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=16, choices=[(kind, kind) for kind in KINDS])
    address = models.CharField(max_length=120)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "name"], name="one_instrument_a_name")]

    def __str__(self) -> str:
        return f"{self.name} ({self.kind})"


class AlertAddress(models.Model):
    """A push subscription of a device, for alerts without an open screen; `p256dh` and `auth` are its keys (RFC 8291). It ends with the session (`sign_in`)."""

    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.CASCADE)
    endpoint = models.CharField(max_length=300, unique=True)
    p256dh = models.CharField(max_length=90, default="")
    auth = models.CharField(max_length=24, default="")
    sign_in = models.ForeignKey(SignIn, models.CASCADE, null=True)
    on_duty = models.BooleanField(default=True)

    def __str__(self) -> str:
        return f"{self.person} at {self.endpoint}"

    @property
    def subscription(self) -> Subscription:
        """The subscription as it is sent to."""
        return Subscription(self.endpoint, self.p256dh, self.auth)


class Alerted(models.Model):
    """One alert since it was due: the devices that accepted it (`taken_by`), the count of tries, and when it may be tried again."""

    house = models.ForeignKey(House, models.CASCADE)
    what = models.CharField(max_length=120, unique=True, db_collation=EXACT)
    at = models.DateTimeField()
    reached = models.PositiveIntegerField(default=0)
    taken_by = models.JSONField(default=list)
    tries = models.PositiveIntegerField(default=0)
    next_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.what
