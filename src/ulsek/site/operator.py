"""Django's admin for whoever runs the site: off by default, for operators alone, behind an authenticator, and for reading.

What belongs to a house is written by its actions, which lock, check and note what is done; nothing of it is changed from here.
"""

from __future__ import annotations

from typing import Any

from axes.models import AccessAttempt
from django.contrib.admin import ModelAdmin
from django.db import models
from django.http import HttpRequest
from django_otp.admin import OTPAdminSite

from ulsek.jobs.models import Job
from ulsek.team.models import BackupMade, Device, HistoryRow, House, HouseGroup, Membership, Person, SignIn


class OperatorSite(OTPAdminSite):  # type: ignore[misc]
    """The admin site, open to persons whom `manage.py operator NAME` has marked and who signed in with password and authenticator."""

    site_header = site_title = "Ulsek: operator"
    index_title = "What this site holds"

    def has_permission(self, request: HttpRequest) -> bool:
        """Returns True if the request comes from an operator who signed in with their authenticator in this session."""
        return bool(super().has_permission(request) and request.user.is_superuser)


class _Read(ModelAdmin):  # type: ignore[type-arg]
    """A model whose rows are shown and cannot be added, changed or deleted."""

    def has_add_permission(self, _request: HttpRequest, *_more: Any) -> bool:
        return False

    def has_change_permission(self, _request: HttpRequest, _row: Any = None) -> bool:
        return False

    def has_delete_permission(self, _request: HttpRequest, _row: Any = None) -> bool:
        return False


class _Unlock(_Read):
    """Failed sign-ins of a name from an address: deleting them ends the lock-out."""

    list_display = ("username", "ip_address", "attempt_time", "failures_since_start")
    fields = ("username", "ip_address", "attempt_time", "failures_since_start")

    def has_delete_permission(self, _request: HttpRequest, _row: Any = None) -> bool:
        return True


_SHOWN: dict[type[models.Model], tuple[tuple[str, ...], tuple[str, ...]]] = {
    House: (("name", "zone", "is_demo", "closes_at"), ("name",)),
    HouseGroup: (("name", "made_at"), ("name",)),
    Person: (("username", "display_name", "is_superuser", "last_login"), ("username", "display_name")),
    Membership: (("person", "house", "role", "left_at", "by_group"), ("person__username",)),
    Device: (("name", "house", "enrolled_at", "revoked_at"), ("name",)),
    SignIn: (("person", "house", "started_at", "seen_at", "ended"), ("person__username",)),
    HistoryRow: (("at", "house", "person", "action", "subject"), ("action", "subject")),
    Job: (("kind", "house", "state", "asked_at", "tries"), ("kind",)),
    BackupMade: (("at", "name", "size"), ("name",)),
}
"""What is shown of each table, and what is searched. Columns that let somebody in are in none."""


def operator_site() -> OperatorSite:
    """Returns the admin with everything that it shows."""
    site = OperatorSite(name="admin")
    for model, (columns, searched) in _SHOWN.items():
        site.register(
            model, type(f"{model.__name__}Read", (_Read,), {"list_display": columns, "fields": columns, "search_fields": searched})
        )
    site.register(AccessAttempt, _Unlock)
    return site
