"""The house's own materials, deliveries and readings. Typical materials ship with the core and are in no table."""

from __future__ import annotations

import uuid
from decimal import Decimal
from typing import ClassVar

from django.db import models

from ulsek.core.materials.delivery import price_per_kg
from ulsek.team.models import EXACT, House, Person


class HouseMaterial(models.Model):
    """A material that this house defined or changed; `body` is the open form of the spec file."""

    house = models.ForeignKey(House, models.CASCADE)
    key = models.SlugField(max_length=80, db_collation=EXACT)
    body = models.JSONField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "key"], name="one_material_a_key")]

    def __str__(self) -> str:
        return self.key


class StockItem(models.Model):
    """A delivery: a product of a material, from a supplier, at a price per pack (None: nobody knows it). `remaining_g` may be negative after a miscount; `recalled` is the reason of a
    recall.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    material = models.CharField(max_length=80, db_collation=EXACT)
    product = models.CharField(max_length=80)
    supplier = models.CharField(max_length=80)
    form = models.CharField(max_length=40, blank=True)
    colour = models.CharField(max_length=80, blank=True)
    received_at = models.DateTimeField()
    price = models.DecimalField(max_digits=10, decimal_places=2, null=True)
    pack_g = models.DecimalField(max_digits=10, decimal_places=1)
    remaining_g = models.DecimalField(max_digits=10, decimal_places=1)
    makeup = models.JSONField(null=True)
    gone_at = models.DateTimeField(null=True)
    recalled = models.CharField(max_length=300, blank=True, default="")
    place = models.CharField(max_length=60, blank=True, default="")

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "material", "-received_at"])]

    def __str__(self) -> str:
        return f"{self.product} ({self.supplier})"

    @property
    def code(self) -> str:
        """Code of a delivery, short enough to type."""
        return f"D{self.id.hex[:6].upper()}"

    @property
    def price_per_kg(self) -> Decimal | None:
        """Price of a kilogram [currency/kg]; None if nobody knows it."""
        return None if self.price is None else price_per_kg(self.price, self.pack_g)


class StockAction(models.Model):
    """Base of what people did to a lot or a delivery. Never changed."""

    kind = models.CharField(max_length=12)
    body = models.JSONField(default=dict)
    by = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()

    class Meta:
        abstract = True


class StockEvent(StockAction):
    """A count, toss or move of a delivery, with the amount before."""

    stock = models.ForeignKey(StockItem, models.CASCADE, related_name="events")

    def __str__(self) -> str:
        return f"{self.stock} {self.kind}"


class Reading(models.Model):
    """A reading of a delivery. Never changed; the newest counts."""

    stock = models.ForeignKey(StockItem, models.CASCADE, related_name="readings")
    property = models.CharField(max_length=20)
    value = models.FloatField()
    at = models.DateTimeField()
    by = models.ForeignKey(Person, models.PROTECT)

    def __str__(self) -> str:
        return f"{self.property} {self.value}"
