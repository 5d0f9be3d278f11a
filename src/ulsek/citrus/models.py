"""Cases of citrus, their measurements and cuts, plans, trials, and the house's own mass of packed peel."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from ulsek.stores.models import StockItem
from ulsek.team.models import House, Person


class Case(models.Model):
    """A case of one citrus, counted and weighed when it came. `fruit` is the key of its variety; `left` falls as it is cut and may be counted again."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    stock = models.ForeignKey(StockItem, models.PROTECT, null=True, related_name="cases")
    fruit = models.CharField(max_length=40)
    supplier = models.CharField(max_length=80)
    size = models.CharField(max_length=40, blank=True)
    came_at = models.DateTimeField()
    count = models.PositiveIntegerField()
    left = models.IntegerField()
    weight_g = models.FloatField()
    price = models.DecimalField(max_digits=10, decimal_places=2)
    gone_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "fruit", "-came_at"])]

    def __str__(self) -> str:
        return f"{self.fruit} from {self.supplier}"

    @property
    def fruit_g(self) -> float:
        """Weight of one fruit, by the case's own weighing."""
        return self.weight_g / self.count

    @property
    def fruit_price(self) -> float:
        """What one fruit cost [currency]."""
        return float(self.price) / self.count


class FruitSample(models.Model):
    """A measurement of some fruits of a case. Never changed; one that is `set_aside` was an error, with the reason."""

    case = models.ForeignKey(Case, models.CASCADE, related_name="samples")
    count = models.PositiveIntegerField()
    weight_g = models.FloatField(null=True)
    juice_ml = models.FloatField(null=True)
    peel_g = models.FloatField(null=True)
    zest_g = models.FloatField(null=True)
    brix = models.FloatField(null=True)
    acid_g_100ml = models.FloatField(null=True)
    at = models.DateTimeField()
    by = models.ForeignKey(Person, models.PROTECT)
    set_aside = models.CharField(max_length=120, blank=True, default="")

    def __str__(self) -> str:
        return f"{self.count} of {self.case}"


class CutPlan(models.Model):
    """The demands on citrus, and the last plan for them. `cases` names how many of each case may be used."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    name = models.CharField(max_length=80)
    cases = models.JSONField(default=list)
    wants = models.JSONField(default=list)
    answer = models.JSONField(default=dict)
    made_at = models.DateTimeField()
    made_by = models.ForeignKey(Person, models.PROTECT)
    done_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "done_at", "-made_at"])]

    def __str__(self) -> str:
        return self.name


class CutDone(models.Model):
    """Fruit that was cut: the count, the way and the yields. The ledger adds these up. `used_*` is what was not thrown away."""

    case = models.ForeignKey(Case, models.PROTECT, related_name="cuts")
    plan = models.ForeignKey(CutPlan, models.SET_NULL, null=True, related_name="cuts")
    row = models.CharField(max_length=120, blank=True, default="")
    way = models.CharField(max_length=20)
    count = models.PositiveIntegerField()
    juice_ml = models.FloatField(default=0.0)
    skin_g = models.FloatField(default=0.0)
    skin_binned_g = models.FloatField(default=0.0)
    at = models.DateTimeField()
    by = models.ForeignKey(Person, models.PROTECT)

    def __str__(self) -> str:
        return f"{self.count} of {self.case}: {self.way}"


class PeelMeasure(models.Model):
    """The mass of a measure packed with peel of this house; the newest of a fruit counts."""

    house = models.ForeignKey(House, models.CASCADE)
    fruit = models.CharField(max_length=40)
    ml = models.FloatField()
    grams = models.FloatField()
    at = models.DateTimeField()
    by = models.ForeignKey(Person, models.PROTECT)

    def __str__(self) -> str:
        return f"{self.ml:g} mL of {self.fruit} peel"


class SpentPeel(models.Model):
    """A jar of peel in sugar: its peel before and after, from which the house's own draw is learned."""

    house = models.ForeignKey(House, models.CASCADE)
    fruit = models.CharField(max_length=40)
    peel_g = models.FloatField()
    spent_g = models.FloatField()
    hours = models.FloatField()
    warm_c = models.FloatField()
    at = models.DateTimeField()
    by = models.ForeignKey(Person, models.PROTECT)

    def __str__(self) -> str:
        return f"{self.peel_g:g} g of {self.fruit} peel became {self.spent_g:g} g"


class YieldTrial(models.Model):
    """Two ways tried on halves of the same fruit: mL of juice per kilogram, pair by pair."""

    house = models.ForeignKey(House, models.CASCADE)
    fruit = models.CharField(max_length=40)
    first = models.CharField(max_length=60)
    second = models.CharField(max_length=60)
    pairs = models.JSONField(default=list)
    at = models.DateTimeField()
    by = models.ForeignKey(Person, models.PROTECT)

    def __str__(self) -> str:
        return f"{self.fruit}: {self.first} against {self.second}"
