"""Standards; panels, their samples, seats and answers."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import ClassVar

from django.db import models

from ulsek.batches.models import Lot
from ulsek.core.base.messages import NOTHING, Message, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.tasting.design import PanelDesign, SheetPage, pages_of
from ulsek.core.tasting.serving import SampleContents, Serving
from ulsek.core.tasting.standards import StandardKind, standard_stop
from ulsek.core.tasting.stops import stop_words
from ulsek.specs.models import Spec, Version
from ulsek.team.message_field import MessageField, said_nothing
from ulsek.team.models import EXACT, House, Person


class PanelState(models.TextChoices):
    """Planned: may be changed. Open: the seal is on, tasters answer. Told: the seal is broken."""

    PLANNED = "planned"
    OPEN = "open"
    TOLD = "told"


class Panel(models.Model):
    """A panel. Which glass holds what follows from `seed` alone, which is drawn when it is opened, and is stored nowhere else before the seal is broken.

    `link_digest` and `letters_digest` are the SHA-256 of the two codes that lead to a seat; both follow from the seed. `verdict` and `results` are computed once, when the
    seal is broken (`told_at`): by the last answer, or by a lead (`unsealed_by`) with a reason. `poured_by` alone opens the key before.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    code = models.CharField(max_length=12)
    question = models.CharField(max_length=160)
    state = models.CharField(max_length=8, choices=PanelState.choices, default=PanelState.PLANNED)
    design = models.JSONField()
    serving = models.JSONField(default=dict)
    seed = models.CharField(max_length=32, blank=True, default="", db_collation=EXACT)
    link_digest = models.CharField(max_length=64, blank=True, default="", db_collation=EXACT)
    letters_digest = models.CharField(max_length=64, blank=True, default="", db_collation=EXACT)
    made_by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    made_at = models.DateTimeField()
    poured_by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    opened_at = models.DateTimeField(null=True)
    told_at = models.DateTimeField(null=True)
    unsealed_by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    unsealed_why = models.CharField(max_length=300, blank=True, default="")
    verdict = models.JSONField(null=True)
    results = models.JSONField(null=True)
    decision = models.CharField(max_length=160, blank=True, default="")
    decision_why = models.CharField(max_length=300, blank=True, default="")
    decided_by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    decided_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["house", "-made_at", "id"]),
            models.Index(fields=["link_digest"]),
            models.Index(fields=["letters_digest"]),
        ]
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "code"], name="one_panel_a_code")]

    def __str__(self) -> str:
        return f"{self.code} {self.question}"

    @property
    def planned(self) -> PanelDesign:
        """The design as the core reads it."""
        return PanelDesign(**{**self.design, "attributes": tuple(self.design.get("attributes", ()))})

    @property
    def served(self) -> Serving:
        """How the samples are served, as the core reads it."""
        return Serving(**self.serving)

    @property
    def pages(self) -> tuple[SheetPage, ...]:
        """Every page of every taster. Raises Refusal if the seed is not here: the panel was open when its house was moved."""
        if not self.seed:
            raise Refusal(
                message("The key of this panel stayed on another site"),
                "panel",
                remedy=message("Break its seal, and plan it again"),
                code="gone",
            )
        return pages_of(self.planned, self.seed)

    def stopped(self, at: datetime) -> Message:
        """Returns why nobody may taste on at a moment; empty if they may. It names no sample."""
        for sample in self.samples.select_related("lot__run__version__withdrawal", "version__withdrawal", "standard__lot"):
            standard = sample.standard
            lot = sample.lot or (standard.lot if standard is not None else None)
            until = standard.until if standard is not None else lot.use_by if lot is not None else None
            past = until is not None and at >= self.house.day_ends(until)
            gone = (lot is not None and bool(lot.recalled)) or (sample.version is not None and hasattr(sample.version, "withdrawal"))
            if words := stop_words(recalled=gone, past=past):
                return words
        return NOTHING


class Standard(models.Model):
    """What is tasted against. Frozen: `portions` left [count] of `portion_ml` [mL] each, of the bottle `lot`, until `until`. Made: the version made again by weight
    whenever it is wanted, whose newest making is good until `until` (None: not made yet).

    `contents` are sugar and acid [g/100 mL] and strength [% v/v] as they were when it was kept, `readings` what it reads, by figure. `ended_why` says why it is
    none any more.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    code = models.CharField(max_length=12)
    name = models.CharField(max_length=120)
    version = models.ForeignKey(Version, models.PROTECT, related_name="+")
    lot = models.ForeignKey(Lot, models.PROTECT, null=True, related_name="+")
    contents = models.JSONField(default=dict)
    readings = models.JSONField(default=dict)
    portions = models.PositiveSmallIntegerField(null=True)
    portion_ml = models.FloatField()
    place = models.CharField(max_length=60, blank=True, default="")
    until = models.DateField(null=True)
    until_reason = MessageField(blank=True, default=said_nothing)
    made_by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    made_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    ended_why = models.CharField(max_length=300, blank=True, default="")

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "-made_at", "id"])]
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "code"], name="one_standard_a_code")]

    def __str__(self) -> str:
        return f"{self.code} {self.name}"

    @property
    def kind(self) -> StandardKind:
        """Frozen portions of a bottle, or made again."""
        return "made" if self.lot_id is None else "frozen"

    def stopped(self, today: date) -> Message:
        """Returns why nobody may taste against it today; empty if they may."""
        lot = self.lot
        recalled = hasattr(self.version, "withdrawal") or (lot is not None and bool(lot.recalled))
        return standard_stop(ended=self.ended_why, recalled=recalled, until=self.until, portions=self.portions, today=today)


class StandardMaking(models.Model):
    """One making of a standard that is made again by weight: what it read, by figure, and its last day."""

    standard = models.ForeignKey(Standard, models.CASCADE, related_name="makings")
    readings = models.JSONField()
    until = models.DateField()
    by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        ordering: ClassVar = ["-at"]

    def __str__(self) -> str:
        return f"{self.standard} made again"


class PanelSample(models.Model):
    """A sample of a panel, at its `place` from 0: a lot, a version or the draft of a spec, a standard (with its version), or a bottle from elsewhere. The first is the control, or what the house makes now.

    `contents` are sugar and acid [g/100 mL] and strength [% v/v] as they were when the panel was opened, `allergens` what it holds, `unknown` what nobody
    has said the allergens of, `makers` the names of those who made it.
    """

    panel = models.ForeignKey(Panel, models.CASCADE, related_name="samples")
    place = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=330)
    lot = models.ForeignKey(Lot, models.PROTECT, null=True, related_name="+")
    version = models.ForeignKey(Version, models.PROTECT, null=True, related_name="+")
    spec = models.ForeignKey(Spec, models.PROTECT, null=True, related_name="+")
    standard = models.ForeignKey(Standard, models.PROTECT, null=True, related_name="samples")
    contents = models.JSONField(default=dict)
    allergens = models.JSONField(default=list)
    unknown = models.JSONField(default=list)
    makers = models.JSONField(default=list)

    class Meta:
        ordering: ClassVar = ["place"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["panel", "place"], name="one_sample_a_place")]

    def __str__(self) -> str:
        return f"sample {self.place} of {self.panel_id}"

    @property
    def inside(self) -> SampleContents:
        """What is in it, as the core reads it."""
        return SampleContents(self.name, **self.contents)


class Seat(models.Model):
    """A place at a panel, from 1. Whoever holds the secret (`digest` is its SHA-256) answers there; `again_digest` is that of the code for another phone, once.

    `person` is known where somebody signed in took it, or a maker typed a paper sheet of theirs. `is_maker` marks somebody who made one of the samples.
    `out_at`: they stepped out; why is nobody's business and not kept.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    panel = models.ForeignKey(Panel, models.CASCADE, related_name="seats")
    number = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=60)
    person = models.ForeignKey(Person, models.SET_NULL, null=True, related_name="+")
    digest = models.CharField(max_length=64, blank=True, default="", db_collation=EXACT)
    again_digest = models.CharField(max_length=64, blank=True, default="", db_collation=EXACT)
    is_maker = models.BooleanField(default=False)
    taken_at = models.DateTimeField()
    out_at = models.DateTimeField(null=True)

    class Meta:
        ordering: ClassVar = ["number"]
        indexes: ClassVar = [models.Index(fields=["digest"]), models.Index(fields=["again_digest"])]
        constraints: ClassVar = [models.UniqueConstraint(fields=["panel", "number"], name="one_seat_a_number")]

    def __str__(self) -> str:
        return f"seat {self.number} of {self.panel_id}"


class PanelAnswer(models.Model):
    """The answer to one page, in the core's form. Never changed. `id` is made by the taster's device; `late` came after the seal was broken and does not count."""

    id = models.CharField(primary_key=True, max_length=64, db_collation=EXACT)
    seat = models.ForeignKey(Seat, models.CASCADE, related_name="answers")
    turn = models.PositiveSmallIntegerField()
    answer = models.JSONField()
    at = models.DateTimeField()
    received_at = models.DateTimeField()
    late = models.BooleanField(default=False)
    typed_by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["seat", "turn"], name="one_answer_a_page")]

    def __str__(self) -> str:
        return f"page {self.turn} of {self.seat_id}"


class WrongCode(models.Model):
    """A code that led to no seat, and the address that it was typed at. It belongs to no house."""

    address = models.CharField(max_length=45)
    at = models.DateTimeField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["address", "at"])]

    def __str__(self) -> str:
        return f"from {self.address}"
