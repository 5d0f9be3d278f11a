"""`manage.py private_passwords`: replaces the passwords that are published with the demo."""

from __future__ import annotations

import json
from typing import Any

from django.conf import settings
from django.contrib.auth.hashers import check_password
from django.core.management.base import BaseCommand

from ulsek.team.models import Person
from ulsek.team.spoken_codes import spoken_code


class Command(BaseCommand):
    """Gives everybody whose password is in the demo's file another one, and prints it, once. PINs of the file are removed."""

    help = "Replaces the passwords that are published with the demo, and prints the new ones once"

    def handle(self, *_args: Any, **_options: Any) -> None:
        demo = json.loads((settings.ROOT / "demo" / "house.json").read_text(encoding="utf-8"))
        made = []
        for item in (*demo["people"], demo["neighbour_lead"]):
            person = Person.objects.filter(username=item["name"]).first()
            if person is None:
                continue
            if person.pin and check_password(item.get("pin", ""), person.pin):
                person.pin = ""
                person.save(update_fields=["pin"])
            if not person.check_password(item["password"]):
                continue
            words = spoken_code(3, 5)
            person.set_password(words)
            person.save(update_fields=["password"])
            made.append(f"    {item['name']:<8}{words}")
        if made:
            self.stdout.write("  Passwords made for this house, shown this once:\n" + "\n".join(made))
