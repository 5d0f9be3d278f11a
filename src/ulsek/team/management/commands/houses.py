"""`manage.py houses`: the houses of this site."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from ulsek.team.models import House, Membership, Role


class Command(BaseCommand):
    help = "Prints every house of this site, with its leads"

    def handle(self, *_args: Any, **_options: Any) -> None:
        for house in House.objects.order_by("name"):
            leads = Membership.objects.filter(house=house, role=Role.LEAD).select_related("person").order_by("person__username")
            names = ", ".join(row.person.username for row in leads) or "nobody"
            self.stdout.write(f"{house.name}{' (demo)' if house.is_demo else ''}, {house.zone}; leads: {names}")
        if not House.objects.exists():
            self.stdout.write("There is no house here yet.")
