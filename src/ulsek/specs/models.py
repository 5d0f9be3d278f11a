"""Specs, their drafts and side drafts, and published versions."""

from __future__ import annotations

import uuid
from typing import Any, ClassVar, NoReturn

from django.db import models

from ulsek.team.models import EXACT, House, Person


class SpecState(models.TextChoices):
    """Draft: never published. Published: staff may make it. Trial: of another spec. Withdrawn: may not be made any more."""

    DRAFT = "draft"
    PUBLISHED = "published"
    TRIAL = "trial"
    WITHDRAWN = "withdrawn"


class Spec(models.Model):
    """A house ingredient or drink. `key` is the id of its file, unique in the house; name, family, state, `newest` version and `search` (the text that the
    library searches) follow the draft and its versions.

    `base` is what a variant inherits; `trial_of` the version that a trial branched from.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    key = models.SlugField(max_length=80, default="", db_collation=EXACT)
    name = models.CharField(max_length=120)
    family = models.CharField(max_length=40)
    state = models.CharField(max_length=10, choices=SpecState.choices, default=SpecState.DRAFT)
    newest = models.ForeignKey("Version", models.SET_NULL, null=True, related_name="+")
    search = models.TextField(default="")
    base = models.ForeignKey("self", models.SET_NULL, null=True, related_name="variants")
    trial_of = models.ForeignKey("Version", models.PROTECT, null=True, related_name="trials")
    asks_questions = models.BooleanField(default=True)
    created_at = models.DateTimeField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "family", "name"])]
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "key"], name="one_spec_a_key")]

    def __str__(self) -> str:
        return self.name


class SpecMaterial(models.Model):
    """A material that the draft of a spec uses, so that its users are found without reading every draft."""

    spec = models.ForeignKey(Spec, models.CASCADE, related_name="uses")
    material = models.CharField(max_length=80, db_collation=EXACT)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["material", "spec"])]

    def __str__(self) -> str:
        return f"{self.material} in {self.spec}"


class Draft(models.Model):
    """The one draft of a spec: the open file as typed, even if it cannot be read yet.

    `revision` counts every save; `writer` is the browser tab that made the newest.
    """

    spec = models.OneToOneField(Spec, models.CASCADE, related_name="draft")
    body = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    writer = models.CharField(max_length=40, default="")
    saved_by = models.ForeignKey(Person, models.PROTECT)
    saved_at = models.DateTimeField()

    def __str__(self) -> str:
        return f"draft of {self.spec}"


class SideDraft(models.Model):
    """A draft that lost a conflict, kept under a name."""

    spec = models.ForeignKey(Spec, models.CASCADE, related_name="side_drafts")
    name = models.CharField(max_length=120)
    body = models.JSONField()
    saved_by = models.ForeignKey(Person, models.PROTECT)
    saved_at = models.DateTimeField()

    def __str__(self) -> str:
        return self.name


class Version(models.Model):
    """A published spec. Never changed: saving it a second time is refused.

    `brief` is what lists show of `final`, `outputs` are what it makes as materials, by key; `critical` asks those concerned to acknowledge it.
    """

    spec = models.ForeignKey(Spec, models.PROTECT, related_name="versions")
    number = models.PositiveIntegerField()
    body = models.JSONField()
    materials = models.JSONField()
    why = models.CharField(max_length=200)
    author = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()
    final = models.JSONField()
    brief = models.JSONField(default=dict)
    outputs = models.JSONField(default=dict)
    critical = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["spec", "number"], name="one_version_a_number")]

    def __str__(self) -> str:
        return f"{self.spec} {self.number}"

    def save(self, **kwargs: Any) -> None:
        """Stores a new version. Raises TypeError for one that is stored already."""
        if self.pk is not None:
            self._refuse()
        super().save(**kwargs)

    @staticmethod
    def _refuse() -> NoReturn:
        raise TypeError("a published version is never changed; publish the next one")


class Correction(models.Model):
    """New wording of a published version, without a change of a number. The newest one is shown."""

    version = models.ForeignKey(Version, models.CASCADE, related_name="corrections")
    body = models.JSONField()
    by = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"words of {self.version}"


class Withdrawal(models.Model):
    """Why a version may not be made any more, and which one replaces it."""

    version = models.OneToOneField(Version, models.CASCADE, related_name="withdrawal")
    why = models.CharField(max_length=300)
    successor = models.ForeignKey(Version, models.PROTECT, null=True, related_name="+")
    by = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.version} withdrawn"


class Score(models.Model):
    """The score of a version by a taster, relative to a reference."""

    version = models.ForeignKey(Version, models.CASCADE, related_name="scores")
    taster = models.CharField(max_length=60)
    score = models.DecimalField(max_digits=4, decimal_places=2)
    reference = models.CharField(max_length=120, blank=True)
    note = models.CharField(max_length=500, blank=True)
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.score} for {self.version}"


class Acknowledgement(models.Model):
    """A person has read a critical version; with `passed`, also answered its questions right."""

    version = models.ForeignKey(Version, models.CASCADE, related_name="acknowledgements")
    person = models.ForeignKey(Person, models.PROTECT)
    read_at = models.DateTimeField(null=True)
    passed_at = models.DateTimeField(null=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["version", "person"], name="one_acknowledgement_a_person")]

    def __str__(self) -> str:
        return f"{self.person} read {self.version}"


class HandedOut(models.Model):
    """A copy of a card that a person carries."""

    version = models.ForeignKey(Version, models.CASCADE, related_name="copies")
    to = models.CharField(max_length=60)
    by = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.version} for {self.to}"


class Attachment(models.Model):
    """A small file of a spec: a scan of the first note, a picture of the colour. It is stored in the database, because the site keeps nothing on disk."""

    spec = models.ForeignKey(Spec, models.CASCADE, related_name="attachments")
    name = models.CharField(max_length=120)
    media_type = models.CharField(max_length=60)
    data = models.BinaryField()
    by = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()

    def __str__(self) -> str:
        return self.name


class Clearance(models.Model):
    """Permission of a person to make a spec alone: given by a lead (`by`) at `at`, ended at `ended_at` (None: still valid). It restricts nobody: a batch that a person
    without one starts is recorded in the history.
    """

    spec = models.ForeignKey(Spec, models.CASCADE, related_name="clearances")
    person = models.ForeignKey(Person, models.PROTECT, related_name="+")
    by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["spec", "person"], name="one_clearance_a_person")]

    def __str__(self) -> str:
        return f"{self.person} for {self.spec}"


class Origin(models.Model):
    """Where a spec was copied from: version `number` of the spec `source` of another house, of which no row is held, since that house may go.

    A copy that is `followed` takes that spec's newer versions in as they are; the others go their own way.
    """

    spec = models.OneToOneField(Spec, models.CASCADE, related_name="origin")
    source = models.UUIDField()
    house_name = models.CharField(max_length=80)
    spec_name = models.CharField(max_length=120)
    number = models.PositiveIntegerField()
    followed = models.BooleanField(default=False)
    at = models.DateTimeField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["source", "followed"])]

    def __str__(self) -> str:
        return f"{self.spec} of {self.house_name}"
