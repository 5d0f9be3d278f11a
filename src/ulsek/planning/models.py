"""Stored data of the plan: menu entries, pars, unusual days, working hours, absences, supplier terms, orders, sales, and decisions about a day's list. The list itself is computed, not stored."""

from __future__ import annotations

import uuid
from datetime import date
from decimal import Decimal
from typing import ClassVar

from django.db import models

from ulsek.core.planning.order_receipt import OrderedLine
from ulsek.core.planning.ordering import SupplierTerms
from ulsek.core.planning.pars import DayChange as ChangedDay
from ulsek.core.planning.pars import Par as WeekPar
from ulsek.core.planning.pour_cost import MenuEntry
from ulsek.specs.models import Spec
from ulsek.team.models import EXACT, House, Person, RegisterRow


class Par(models.Model):
    """How much of a prep must stand there when the house opens: `must_ml` [mL] of seven days, Monday first; `use_ml` what is expected to be used (None: nobody knows)."""

    house = models.ForeignKey(House, models.CASCADE)
    spec = models.ForeignKey(Spec, models.CASCADE, related_name="+")
    must_ml = models.JSONField()
    use_ml = models.JSONField(null=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "spec"], name="one_par_a_spec")]

    def __str__(self) -> str:
        return f"par of {self.spec}"

    @property
    def week(self) -> WeekPar:
        """The par as the core reads it."""
        return WeekPar(tuple(self.must_ml), None if self.use_ml is None else tuple(self.use_ml))


class DayChange(models.Model):
    """A day whose pars differ from the usual week: `times` the usual ones, except for the preps in `must_ml` [mL], by material key, which have a par of their own."""

    house = models.ForeignKey(House, models.CASCADE)
    day = models.DateField()
    name = models.CharField(max_length=60, blank=True, default="")
    times = models.FloatField(default=1.0)
    must_ml = models.JSONField(default=dict)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "day"], name="one_change_a_day")]

    def __str__(self) -> str:
        return f"{self.day} {self.name}"

    @property
    def change(self) -> ChangedDay:
        """The change as the core reads it."""
        return ChangedDay(self.day, self.name, self.times, self.must_ml)


class Hours(models.Model):
    """When somebody has time for preps in a usual week: for each of seven days, Monday first, null or the clock from and until ("10:00", "18:00")."""

    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.CASCADE, related_name="+")
    week = models.JSONField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "person"], name="one_week_a_person")]

    def __str__(self) -> str:
        return f"hours of {self.person}"


class Away(models.Model):
    """An absence of a person from `first` to `last`, inclusive. No reason is stored."""

    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.CASCADE, related_name="+")
    first = models.DateField()
    last = models.DateField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "last"])]

    def __str__(self) -> str:
        return f"{self.person} away until {self.last}"

    def covers(self, day: date) -> bool:
        """Returns True for a day on which they are away."""
        return self.first <= day <= self.last


class ListWish(models.Model):
    """What was decided about one prep of a day's list: who makes it (None: whoever is free), how many bottles (None: as worked out; 0: not that day); `extra` puts it on."""

    house = models.ForeignKey(House, models.CASCADE)
    day = models.DateField()
    spec = models.ForeignKey(Spec, models.CASCADE, related_name="+")
    person = models.ForeignKey(Person, models.CASCADE, null=True, related_name="+")
    bottles = models.PositiveSmallIntegerField(null=True)
    extra = models.BooleanField(default=False)
    by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "day", "spec"], name="one_wish_a_spec_and_day")]

    def __str__(self) -> str:
        return f"{self.spec} on {self.day}"


class Terms(models.Model):
    """The delivery terms of a supplier of the register: weekdays (0 is Monday), arrival time, and the cut-off of orders, a clock time `lead_days` days before the delivery."""

    supplier = models.OneToOneField(RegisterRow, models.CASCADE, related_name="terms")
    weekdays = models.JSONField()
    cut_off = models.TimeField()
    lead_days = models.PositiveSmallIntegerField()
    arrives = models.TimeField()

    def __str__(self) -> str:
        return f"terms of {self.supplier}"

    @property
    def terms(self) -> SupplierTerms:
        """The terms as the core reads them."""
        return SupplierTerms(tuple(self.weekdays), self.cut_off, self.lead_days, self.arrives)


class MenuDrink(models.Model):
    """A drink on the menu from `first` to `last`, inclusive (None: until further notice). `price` holds the tax; None: nobody has said it."""

    house = models.ForeignKey(House, models.CASCADE)
    spec = models.ForeignKey(Spec, models.CASCADE, related_name="+")
    first = models.DateField()
    last = models.DateField(null=True)
    price = models.DecimalField(max_digits=8, decimal_places=2, null=True)
    tax_percent = models.DecimalField(max_digits=5, decimal_places=2, default=Decimal(0))
    garnish = models.CharField(max_length=80, blank=True, default="")
    garnish_cost = models.DecimalField(max_digits=9, decimal_places=3, default=Decimal(0))
    spill_percent = models.DecimalField(max_digits=4, decimal_places=1, default=Decimal(0))

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "spec"], name="one_menu_entry_a_spec")]

    def __str__(self) -> str:
        return f"{self.spec} on the menu"

    @property
    def entry(self) -> MenuEntry:
        """The entry as the core reads it."""
        return MenuEntry(self.first, self.last, self.price, self.tax_percent, self.garnish, self.garnish_cost, self.spill_percent)


class PlacedOrder(models.Model):
    """An order that was placed with a supplier. `arrives` is when it is expected (None: nobody knows); `closed_at` when it was received (None: it is open)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    supplier = models.CharField(max_length=80)
    arrives = models.DateTimeField(null=True)
    placed_at = models.DateTimeField()
    placed_by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    closed_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "closed_at"])]

    def __str__(self) -> str:
        return f"order of {self.supplier}"


class PlacedLine(models.Model):
    """A line of an order: so many packs of `pack_g` [g] at `price` each (None: nobody knows it), and what was received of it (None: not received yet)."""

    order = models.ForeignKey(PlacedOrder, models.CASCADE, related_name="lines")
    material = models.CharField(max_length=80, db_collation=EXACT)
    product = models.CharField(max_length=80)
    pack_g = models.DecimalField(max_digits=10, decimal_places=1)
    packs = models.PositiveSmallIntegerField()
    price = models.DecimalField(max_digits=10, decimal_places=2, null=True)
    received_packs = models.PositiveSmallIntegerField(null=True)
    received_price = models.DecimalField(max_digits=10, decimal_places=2, null=True)
    refused = models.CharField(max_length=120, blank=True, default="")

    def __str__(self) -> str:
        return f"{self.packs} packs of {self.product}"

    @property
    def ordered(self) -> OrderedLine:
        """The line as the core reads it."""
        return OrderedLine(self.product, self.packs, self.price)


class TillFormat(models.Model):
    """Format of the tables of a house's till: the headings of the columns, the meaning of each, and the order of its dates."""

    house = models.OneToOneField(House, models.CASCADE, related_name="till")
    heads = models.JSONField()
    meanings = models.JSONField()
    order = models.CharField(max_length=3)

    def __str__(self) -> str:
        return f"till of {self.house}"


class TillName(models.Model):
    """The drink that a product name of the till stands for; `spec` is None if it is no drink of the house. `plain` is the normalised name."""

    house = models.ForeignKey(House, models.CASCADE)
    plain = models.CharField(max_length=80, db_collation=EXACT)
    spec = models.ForeignKey(Spec, models.CASCADE, null=True, related_name="+")

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "plain"], name="one_drink_a_till_name")]

    def __str__(self) -> str:
        return self.plain


class Sale(models.Model):
    """Number of serves of a drink sold on a day of the house [count]; negative if more were refunded than sold."""

    house = models.ForeignKey(House, models.CASCADE)
    day = models.DateField()
    spec = models.ForeignKey(Spec, models.CASCADE, related_name="+")
    count = models.FloatField()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "day", "spec"], name="one_sale_a_day_and_drink")]

    def __str__(self) -> str:
        return f"{self.count:g} {self.spec} on {self.day}"
