"""The house's own materials, deliveries and readings. Typical materials ship with the core and stand in no table."""

from __future__ import annotations

import uuid
from decimal import Decimal
from typing import ClassVar

from django.db import models

from ulsek.core.materials.delivery import price_per_kg
from ulsek.team.models import EXACT, House, Person


class HouseMaterial(models.Model):
    """A material that this house made up or changed; `body` is the open form of the spec file."""

    house = models.ForeignKey(House, models.CASCADE)
    key = models.SlugField(max_length=80, db_collation=EXACT)
    body = models.JSONField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "key"], name="one_material_a_key")]

    def __str__(self) -> str:
        return self.key


class StockItem(models.Model):
    """A delivery: a product of a material, from a supplier, at a price per pack. `remaining_g` may fall below zero after a miscount; `recalled` says
    why nobody may use it any more.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    material = models.CharField(max_length=80, db_collation=EXACT)
    product = models.CharField(max_length=80)
    supplier = models.CharField(max_length=80)
    form = models.CharField(max_length=40, blank=True)
    colour = models.CharField(max_length=80, blank=True)
    received_at = models.DateTimeField()
    price = models.DecimalField(max_digits=10, decimal_places=2)
    pack_g = models.DecimalField(max_digits=10, decimal_places=1)
    remaining_g = models.DecimalField(max_digits=10, decimal_places=1)
    makeup = models.JSONField(null=True)
    gone_at = models.DateTimeField(null=True)
    recalled = models.CharField(max_length=300, blank=True, default="")

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "material", "-received_at"])]

    def __str__(self) -> str:
        return f"{self.product} ({self.supplier})"

    @property
    def code(self) -> str:
        """How a delivery is called on the bench and on a label: short enough to type."""
        return f"D{self.id.hex[:6].upper()}"

    @property
    def price_per_kg(self) -> Decimal:
        return price_per_kg(self.price, self.pack_g)


class StockAction(models.Model):
    """One thing that somebody did to a thing that stands in the house. Never changed."""

    kind = models.CharField(max_length=12)
    body = models.JSONField(default=dict)
    by = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()

    class Meta:
        abstract = True


class StockEvent(StockAction):
    """One thing that happened to a delivery besides its readings: counted or tossed, with what stood in the books before."""

    stock = models.ForeignKey(StockItem, models.CASCADE, related_name="events")

    def __str__(self) -> str:
        return f"{self.stock} {self.kind}"


class Reading(models.Model):
    """What an instrument showed of a delivery. Never changed; a newer one wins."""

    stock = models.ForeignKey(StockItem, models.CASCADE, related_name="readings")
    property = models.CharField(max_length=20)
    value = models.FloatField()
    at = models.DateTimeField()
    by = models.ForeignKey(Person, models.PROTECT)

    def __str__(self) -> str:
        return f"{self.property} {self.value}"
