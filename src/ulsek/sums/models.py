"""The last sums of each person."""

from __future__ import annotations

from typing import ClassVar

from django.db import models

from ulsek.team.models import House, Person


class RecentSum(models.Model):
    """A sum that somebody used, as typed, with its first answer in words. The same figures again move it to the front."""

    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.CASCADE)
    name = models.CharField(max_length=40)
    figures = models.JSONField(default=dict)
    said = models.CharField(max_length=160)
    at = models.DateTimeField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "person", "-at"])]

    def __str__(self) -> str:
        return f"{self.name}: {self.said}"
