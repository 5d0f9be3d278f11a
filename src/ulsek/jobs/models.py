"""Jobs of a house."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from ulsek.team.message_field import MessageField, said_nothing
from ulsek.team.models import House, Person


class JobState(models.TextChoices):
    """Waiting, running, done with a file, stopped by somebody, failed."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class Job(models.Model):
    """A long computation that a person asked for, with its state, its progress and, at the end, its file.

    `done` [count] of `of` [count] parts are finished; `seen_at` is when the worker last reported that; `tries` counts the workers that began it; `stop` asks
    the worker to end it.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.PROTECT)
    kind = models.CharField(max_length=40)
    state = models.CharField(max_length=8, choices=JobState.choices, default=JobState.WAITING)
    done = models.PositiveIntegerField(default=0)
    of = models.PositiveIntegerField(default=0)
    stop = models.BooleanField(default=False)
    tries = models.PositiveIntegerField(default=0)
    problem = MessageField(blank=True, default=said_nothing)
    asked_at = models.DateTimeField()
    seen_at = models.DateTimeField(null=True)
    file_name = models.CharField(max_length=120, blank=True, default="")
    media_type = models.CharField(max_length=60, blank=True, default="")
    data = models.BinaryField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "-asked_at"])]

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"
