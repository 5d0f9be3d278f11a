"""Houses, people and their roles, and the history of every write."""

from __future__ import annotations

import uuid
from datetime import date, datetime, time, timedelta
from typing import ClassVar
from zoneinfo import ZoneInfo

from django.contrib.auth.models import AbstractUser
from django.db import models

from ulsek.core.base.catalogue import SOURCE_LANGUAGE
from ulsek.core.base.register import RegisterEntry
from ulsek.core.base.units import LOCALES
from ulsek.core.results.spec_card import SECOND_MEASURES

EXACT = "utf8mb4_nopad_bin"
"""The collation of ids: two that differ in a letter's case, an accent or a space at the end are two."""


class HouseGroup(models.Model):
    """Houses that belong together. `join_digest` is the SHA-256 of the code with which one more house may join until `join_until`; empty without one."""

    name = models.CharField(max_length=80, unique=True)
    made_at = models.DateTimeField()
    join_digest = models.CharField(max_length=64, blank=True, default="", db_collation=EXACT)
    join_until = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.name


class House(models.Model):
    """A bar. Every other row belongs to one. `beside` is the second measure of masses, in its `locale`; `language` is that of its cards; `rules` is its own rules file.

    Its day runs from `day_turns` to `day_turns` on the clock of `zone`, so that what is done after midnight in service counts for the evening. `is_demo`
    marks the made-up house that ships. At `closes_at` it is deleted for good, as a lead has asked.
    """

    name = models.CharField(max_length=80, unique=True)
    zone = models.CharField(max_length=64, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    locale = models.CharField(max_length=12, default="metric", choices=[(name, name) for name in LOCALES])
    service_from = models.TimeField(default=time(18))
    service_until = models.TimeField(default=time(2))
    language = models.CharField(max_length=8, default=SOURCE_LANGUAGE)
    beside = models.CharField(max_length=8, default="nothing", choices=[(name, name) for name in SECOND_MEASURES])
    rules = models.JSONField(default=dict, blank=True)
    day_turns = models.TimeField(default=time(0))
    is_demo = models.BooleanField(default=False)
    closes_at = models.DateTimeField(null=True)
    group = models.ForeignKey(HouseGroup, models.SET_NULL, null=True, related_name="houses")

    def __str__(self) -> str:
        return self.name

    @property
    def clock(self) -> ZoneInfo:
        """The zone of the house's clock."""
        return ZoneInfo(self.zone)

    def day(self, at: datetime) -> date:
        """Returns the house's day of a moment: at 01:00 with a day that turns at 05:00 it is still the day before."""
        local = at.astimezone(self.clock)
        return local.date() - timedelta(days=local.time() < self.day_turns)

    def day_ends(self, day: date) -> datetime:
        """Returns the moment at which a day of the house ends."""
        return datetime.combine(day + timedelta(days=1), self.day_turns, self.clock)


class RegisterRow(models.Model):
    """An entry of the house's register (`ulsek.core.base.register`): a scale, pot, jigger, dropper, place, supplier or size of label; `figures` by key, in their units."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    kind = models.CharField(max_length=12, db_collation=EXACT)
    name = models.CharField(max_length=60)
    figures = models.JSONField(default=dict)
    note = models.CharField(max_length=300, blank=True, default="")

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "kind", "name"], name="one_register_row_a_name")]

    def __str__(self) -> str:
        return self.name

    @property
    def entry(self) -> RegisterEntry:
        """The entry as the core reads it."""
        return RegisterEntry(self.kind, self.name, self.figures, self.note)


class Person(AbstractUser):
    """Somebody who can sign in; `display_name` is what labels and runs show. `pin` is the hash of the six digits for enrolled devices; empty without."""

    display_name = models.CharField(max_length=60)
    pin = models.CharField(max_length=128, blank=True, default="")

    def __str__(self) -> str:
        return self.display_name


class Role(models.TextChoices):
    """In ascending order: readers, makers, leads."""

    READER = "reader"
    MAKER = "maker"
    LEAD = "lead"


class Present(models.Manager["Membership"]):
    """The memberships of people who have not left."""

    def get_queryset(self) -> models.QuerySet[Membership]:
        """Returns the memberships that have not ended."""
        return super().get_queryset().filter(left_at=None)


class Membership(models.Model):
    """A person's role in a house. Those who have left (`left_at`) keep their row, since what they did stays; `objects` does not return it, `ever` does.

    `by_group` marks a lead of the house's group who came in with the group, and goes with it.
    """

    house = models.ForeignKey(House, models.CASCADE, related_name="members")
    person = models.ForeignKey(Person, models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=8, choices=Role.choices)
    left_at = models.DateTimeField(null=True)
    by_group = models.BooleanField(default=False)

    objects = Present()
    ever: ClassVar[models.Manager[Membership]] = models.Manager()

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "person"], name="one_role_in_a_house")]

    def __str__(self) -> str:
        return f"{self.person} ({self.role})"


class GroupLead(models.Model):
    """Somebody who leads a group of houses: they are a lead in each of them."""

    group = models.ForeignKey(HouseGroup, models.CASCADE, related_name="leads")
    person = models.ForeignKey(Person, models.CASCADE, related_name="+")

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["group", "person"], name="once_a_lead_of_a_group")]

    def __str__(self) -> str:
        return f"{self.person} of {self.group}"


class HistoryRow(models.Model):
    """One write: who did what to what, and when. Never changed."""

    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()
    action = models.CharField(max_length=40)
    subject = models.CharField(max_length=400)
    detail = models.JSONField(default=dict)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "-at"])]

    def __str__(self) -> str:
        return f"{self.action} {self.subject}"


class Receipt(models.Model):
    """An action that was done for a request, stored in its transaction: the same request sent again returns `result` and changes nothing."""

    house = models.ForeignKey(House, models.CASCADE)
    key = models.CharField(max_length=64, db_collation=EXACT)
    action = models.CharField(max_length=40)
    digest = models.CharField(max_length=64, blank=True)
    person = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField()
    result = models.JSONField(null=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "key", "action"], name="one_receipt_a_request")]
        indexes: ClassVar = [models.Index(fields=["at"])]

    def __str__(self) -> str:
        return f"{self.action} {self.key}"


class Series(models.Model):
    """Numbers that a house assigns, one row for each kind of code: the `last` one. A number is never assigned twice."""

    house = models.ForeignKey(House, models.CASCADE)
    name = models.CharField(max_length=40, db_collation=EXACT)
    last = models.PositiveIntegerField(default=0)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["house", "name"], name="one_series_a_name")]

    def __str__(self) -> str:
        return f"{self.name} {self.last}"


class Device(models.Model):
    """A tablet or computer that a lead has enrolled for a house. It holds a secret in a cookie, whose SHA-256 is `secret`."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    name = models.CharField(max_length=60)
    secret = models.CharField(max_length=64)
    enrolled_by = models.ForeignKey(Person, models.PROTECT)
    enrolled_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.name


class SignIn(models.Model):
    """One session of a person, from signing in until `ended_at`; `ended` says how it ended. `session_key` finds the session itself."""

    class Ended(models.TextChoices):
        """By the person on that device; by another person who took over there; by whoever may end it from elsewhere; by its age."""

        OUT = "signed out"
        SWITCHED = "switched"
        ELSEWHERE = "ended from elsewhere"
        EXPIRED = "expired"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.CASCADE)
    device = models.ForeignKey(Device, models.PROTECT, null=True)
    session_key = models.CharField(max_length=40, blank=True, db_collation=EXACT)
    browser = models.CharField(max_length=80, blank=True)
    started_at = models.DateTimeField()
    seen_at = models.DateTimeField()
    by_pin = models.BooleanField(default=False)
    ended_at = models.DateTimeField(null=True)
    ended = models.CharField(max_length=24, choices=Ended.choices, blank=True, default="")

    class Meta:
        indexes: ClassVar = [models.Index(fields=["person", "ended_at", "-started_at"])]

    def __str__(self) -> str:
        return f"{self.person} since {self.started_at}"


class SigningKey(models.Model):
    """The public half of a key pair (ECDSA, P-256) that a browser made for one session; the private half cannot leave that browser.

    `id` is the base64url SHA-256 of the point, `public` the uncompressed point in base64url (RFC 5480). After `expires_at`, or once `revoked_at` is set,
    what arrives under this key waits for a lead.
    """

    id = models.CharField(primary_key=True, max_length=43, db_collation=EXACT)
    sign_in = models.ForeignKey(SignIn, models.CASCADE, related_name="keys")
    public = models.CharField(max_length=88)
    made_at = models.DateTimeField()
    expires_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.id


class PinTries(models.Model):
    """The count of wrong PINs in a row, for one person on one device. Signing in there with the password sets `wrong` back to 0."""

    device = models.ForeignKey(Device, models.CASCADE)
    person = models.ForeignKey(Person, models.CASCADE)
    wrong = models.PositiveIntegerField(default=0)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(fields=["device", "person"], name="one_count_a_person_and_device")]

    def __str__(self) -> str:
        return f"{self.person} on {self.device}: {self.wrong}"


class Invitation(models.Model):
    """A lead's invitation into a house, for one person, once. `digest` is the SHA-256 of its code, which is shown once and not stored."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    digest = models.CharField(max_length=64, unique=True, db_collation=EXACT)
    role = models.CharField(max_length=8, choices=Role.choices)
    name = models.CharField(max_length=60)
    by = models.ForeignKey(Person, models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    used_by = models.ForeignKey(Person, models.SET_NULL, related_name="+", null=True)
    revoked_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "-made_at"])]

    def __str__(self) -> str:
        return f"{self.name} ({self.role})"


class TokenScope(models.TextChoices):
    """What a script may do: read what a reader sees; make what a maker makes; lead as its lead does, but for people, devices and the house itself."""

    READ = "read"
    MAKE = "make"
    LEAD = "lead"


class ApiToken(models.Model):
    """A token with which a script of the house asks the API, for the lead who made it. `digest` is the SHA-256 of the token, which is shown once and not stored."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    house = models.ForeignKey(House, models.CASCADE)
    person = models.ForeignKey(Person, models.CASCADE)
    name = models.CharField(max_length=60)
    digest = models.CharField(max_length=64, unique=True, db_collation=EXACT)
    scope = models.CharField(max_length=8, choices=TokenScope.choices)
    made_at = models.DateTimeField()
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    revoked_at = models.DateTimeField(null=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["house", "-made_at"])]

    def __str__(self) -> str:
        return f"{self.name} ({self.scope})"


class OneTimeCode(models.Model):
    """A code from a lead with which a person who forgot their password sets a new one, once. `code` is its hash."""

    person = models.OneToOneField(Person, models.CASCADE)
    code = models.CharField(max_length=128)
    by = models.ForeignKey(Person, models.CASCADE, related_name="+")
    expires_at = models.DateTimeField()
    wrong = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return f"for {self.person}"


class BackupMade(models.Model):
    """A backup of the whole site that was read back and encrypted: its file's name and size [bytes]. It belongs to no house."""

    at = models.DateTimeField()
    name = models.CharField(max_length=80)
    size = models.BigIntegerField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["-at"])]

    def __str__(self) -> str:
        return self.name
