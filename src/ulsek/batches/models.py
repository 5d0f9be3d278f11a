"""Runs as append-only events with a projection for lists, and lots."""

from __future__ import annotations

from datetime import datetime
from typing import ClassVar

from django.db import models

from ulsek.core.base.messages import Message
from ulsek.core.safety.hazards import bottle_words
from ulsek.core.safety.on_the_shelf import ShelfFacts, ShelfState, shelf_state
from ulsek.specs.models import Spec, Version
from ulsek.stores.models import StockAction, StockItem
from ulsek.team.message_field import MessageField, said_nothing
from ulsek.team.models import EXACT, House, Person


class Run(models.Model):
    """One batch. `snapshot` pins what it started from: spec, materials, deliveries, core version, learned priors. `projection` is what lists show.

    A rehearsal takes nothing from stock, and is visible to its maker alone until it is `shared`. `recalled` says that it holds something that was recalled.
    """

    id = models.UUIDField(primary_key=True)
    house = models.ForeignKey(House, models.CASCADE)
    version = models.ForeignKey(Version, models.PROTECT)
    code = models.CharField(max_length=12)
    started_by = models.ForeignKey(Person, models.PROTECT)
    started_at = models.DateTimeField()
    finished_at = models.DateTimeField(null=True)
    snapshot = models.JSONField()
    projection = models.JSONField(default=dict)
    result = models.JSONField(null=True)
    rehearsal = models.BooleanField(default=False)
    shared = models.BooleanField(default=False)
    recalled = models.CharField(max_length=300, blank=True, default="")

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "finished_at", "-started_at"])]
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "code"], name="one_run_a_code")]

    def __str__(self) -> str:
        return f"{self.code} {self.version}"


class RunEvent(models.Model):
    """One event of a run, in its open form. Never changed. `late` is True for one that came after the finish and does not count."""

    id = models.CharField(primary_key=True, max_length=64, db_collation=EXACT)
    run = models.ForeignKey(Run, models.CASCADE, related_name="events")
    data = models.JSONField()
    person = models.ForeignKey(Person, models.PROTECT)
    received_at = models.DateTimeField()
    late = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"{self.data['kind']} in {self.run_id}"


class Lot(models.Model):
    """What came of a run: its product in mL, or a by-product (`what`) in g; without a `run` a bottle whose making was not recorded. `left` may be negative after a miscount; `recalled` is the reason of a recall,
    `off_spec` what is off its spec.
    """

    house = models.ForeignKey(House, models.CASCADE)
    run = models.ForeignKey(Run, models.PROTECT, related_name="lots", null=True)
    code = models.CharField(max_length=16)
    name = models.CharField(max_length=300)
    what = models.CharField(max_length=200, blank=True, default="")
    unit = models.CharField(max_length=2, default="mL")
    version_number = models.PositiveIntegerField()
    amount = models.FloatField()
    left = models.FloatField()
    bottle_ml = models.FloatField()
    place = models.CharField(max_length=60, blank=True)
    made_at = models.DateTimeField()
    made_by = models.CharField(max_length=60)
    cooled_at = models.DateTimeField()
    ready_at = models.DateTimeField(null=True)
    ready_why = MessageField(blank=True, default=said_nothing)
    off_spec = MessageField(blank=True, default=said_nothing)
    use_by = models.DateField()
    use_by_reason = MessageField()
    keep_c = models.FloatField()
    allergens = models.JSONField(default=list)
    cautions = models.JSONField(default=list)
    final = models.JSONField(null=True)
    gone_at = models.DateTimeField(null=True)
    opened_at = models.DateTimeField(null=True)
    opened_days = models.PositiveIntegerField()
    recalled = models.CharField(max_length=300, blank=True, default="")
    split_of = models.ForeignKey("self", models.PROTECT, null=True, related_name="parts")

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "gone_at", "use_by"])]
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "code"], name="one_lot_a_code")]

    def __str__(self) -> str:
        return f"{self.code} {self.name}"

    @property
    def unit_g(self) -> float:
        """Mass of one unit [g]: of a millilitre its density, of a gram 1."""
        return float(self.final["density_g_ml"]["value"]) if self.final else 1.0

    def standing(self, house: House, at: datetime) -> ShelfState:
        """Returns its state on the shelf of its house at a moment; its last day ends when the house's day does."""
        past_at = house.day_ends(self.use_by)
        shelved = ShelfFacts(past_at, self.ready_at, self.ready_why, self.withdrawn, self.recalled, self.gone_at is not None)
        return shelf_state(shelved, at)

    @property
    def batch(self) -> Run:
        """The batch that it came of. Raises LookupError for a bottle whose making was not recorded."""
        if self.run is None:
            raise LookupError(f"{self.code} came of no batch")
        return self.run

    @property
    def withdrawn(self) -> str:
        """Why its version was withdrawn; empty if it was not, or if it has none."""
        version = self.run.version if self.run else None
        return version.withdrawal.why if version and hasattr(version, "withdrawal") else ""

    @property
    def allergens_words(self) -> Message:
        """What this bottle may say of allergens; a by-product refers to the lead, because its unknown ones are not stored."""
        unknown = (self.final or {}).get("allergens_unknown", ())
        return bottle_words(self.allergens, unknown, asks=self.final is None)


class LotEvent(StockAction):
    """One change of a lot: opened, decanted, topped up, moved, used, counted, split, tossed, recalled."""

    lot = models.ForeignKey(Lot, models.CASCADE, related_name="events")

    def __str__(self) -> str:
        return f"{self.lot} {self.kind}"


class LotMix(models.Model):
    """How much of one lot was poured `into` another, in its unit (mL or g), so that a recall reaches the mixture."""

    into = models.ForeignKey(Lot, models.CASCADE, related_name="topped_up_with")
    lot = models.ForeignKey(Lot, models.PROTECT, related_name="poured_into")
    amount = models.FloatField()
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.lot} into {self.into}"


class Drawn(models.Model):
    """How much a run took from a lot, for tracing."""

    run = models.ForeignKey(Run, models.CASCADE, related_name="drawn")
    lot = models.ForeignKey(Lot, models.PROTECT, related_name="into")
    material = models.CharField(max_length=160, db_collation=EXACT)
    mass_g = models.FloatField(default=0.0)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["run", "material"], name="one_lot_a_material")]

    def __str__(self) -> str:
        return f"{self.lot} into {self.run}"


class RunStock(models.Model):
    """A run took from a delivery: the inverse of its snapshot, for tracing."""

    run = models.ForeignKey(Run, models.CASCADE, related_name="took")
    stock = models.ForeignKey(StockItem, models.PROTECT, related_name="runs")

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["run", "stock"], name="once_a_delivery")]

    def __str__(self) -> str:
        return f"{self.stock} into {self.run}"


class Learned(models.Model):
    """The priors of a spec's steps after a batch of a house that changed them; the newest row counts."""

    house = models.ForeignKey(House, models.CASCADE)
    spec = models.ForeignKey(Spec, models.CASCADE)
    run = models.OneToOneField(Run, models.CASCADE)
    groups = models.JSONField()
    at = models.DateTimeField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "spec", "-at"])]

    def __str__(self) -> str:
        return f"learned from {self.run}"


class RunPhoto(models.Model):
    """A picture of a run: the sample that was set aside. It is stored in the database, because the site keeps nothing on disk."""

    run = models.ForeignKey(Run, models.CASCADE, related_name="photos")
    step = models.CharField(max_length=60)
    media_type = models.CharField(max_length=20)
    data = models.BinaryField()
    by = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"picture of {self.run} at {self.step}"


class Container(models.Model):
    """A container that is used again: its tare, its last content, when it was cleaned and by whom."""

    house = models.ForeignKey(House, models.CASCADE)
    name = models.CharField(max_length=60)
    tare_g = models.FloatField()
    capacity_ml = models.FloatField(null=True)
    holds = models.ForeignKey(Lot, models.SET_NULL, null=True, related_name="containers")
    last_contents = models.CharField(max_length=300, blank=True, default="")
    last_allergens = models.JSONField(default=list)
    cleaned_at = models.DateTimeField(null=True)
    cleaned_by = models.ForeignKey(Person, models.PROTECT, null=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "name"], name="one_container_a_name")]

    def __str__(self) -> str:
        return self.name
