"""Signed actions as they arrived, and the epoch of this database."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from ulsek.team.models import EXACT, Device, House, Person, SigningKey


class State(models.TextChoices):
    """DONE: performed for its signer. HELD: waits for a lead. ACCEPTED: performed because a lead accepted it. DROPPED: discarded by its person or a lead."""

    DONE = "done"
    HELD = "held"
    ACCEPTED = "accepted"
    DROPPED = "dropped"


class SignedAction(models.Model):
    """A signed action as received: its exact `text`, the `signature` over it, and the `key` that made the signature.

    `person` signed it; None if unknown. `carried_by` is the person whose session sent it, `carried_from` the enrolled device that sent it. `why` says
    why it was held or dropped; `decided_by` decided about it.
    """

    id = models.CharField(primary_key=True, max_length=64, db_collation=EXACT)
    house = models.ForeignKey(House, models.CASCADE)
    kind = models.CharField(max_length=40)
    subject = models.CharField(max_length=64, db_collation=EXACT)
    text = models.TextField()
    signature = models.CharField(max_length=90, blank=True, default="")
    key = models.ForeignKey(SigningKey, models.PROTECT, null=True)
    person = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    carried_by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    carried_from = models.ForeignKey(Device, models.PROTECT, null=True, related_name="+")
    received_at = models.DateTimeField()
    state = models.CharField(max_length=8, choices=State.choices)
    why = models.TextField(blank=True, default="")
    decided_by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    decided_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "state", "received_at"])]

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"


class Epoch(models.Model):
    """One row: which course of events this database is in. `manage.py restored` gives it a new value after a backup was read back."""

    value = models.UUIDField(default=uuid.uuid4)

    def __str__(self) -> str:
        return str(self.value)


def epoch_now() -> str:
    """Returns the epoch of this database; the first call creates it."""
    row, _ = Epoch.objects.get_or_create(pk=1)
    return str(row.value)
