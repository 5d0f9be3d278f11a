"""`manage.py open_house`: opens a house by questions on the terminal, or by what its options say."""

from __future__ import annotations

import sys
from collections.abc import Callable
from getpass import getpass
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from ulsek.core.base.refusals import Refusal
from ulsek.core.base.units import LOCALES
from ulsek.team.actions.open_house import NewPerson, open_house
from ulsek.team.actions.set_house import HouseFacts

_ASKED = {
    "name": ("What is the house called", ""),
    "zone": ("Time zone, such as Europe/Lisbon", "UTC"),
    "currency": ("Currency, three letters", "EUR"),
    "place": ("Whose food law it goes by: EU, UK, US, or empty for all of them", ""),
    "altitude": ("Height above the sea in metres", "0"),
    "cups": (f"Cups: {', '.join(LOCALES)}", "metric"),
    "service-from": ("Service begins at", "18:00"),
    "service-until": ("Service ends at", "02:00"),
    "day-turns": ("The day turns at, once the last have gone home", "05:00"),
    "lead": ("Your name to sign in by, without blanks", ""),
    "shown-as": ("Your name as labels show it", ""),
}
"""What is asked, in this order: the option, the question, and what an empty answer stands for."""


class Command(BaseCommand):
    help = "Opens a house with its first lead. Asks for what no option says; the password comes from the terminal, or as one line of standard input."

    def add_arguments(self, parser: CommandParser) -> None:
        for name, (question, usual) in _ASKED.items():
            parser.add_argument(f"--{name}", help=f"{question} [{usual}]" if usual else question)

    def handle(self, *_args: Any, **options: Any) -> None:
        asks = sys.stdin.isatty()
        said = {name: self._said(name, options[name.replace("-", "_")], asks) for name in _ASKED}
        password = getpass("Your password, ten letters at least: ") if asks else sys.stdin.readline().rstrip("\n")
        if asks and getpass("The same once more: ") != password:
            raise CommandError("The two passwords differ. Nothing was opened; begin again.")
        try:
            facts = HouseFacts(
                name=said["name"],
                zone=said["zone"],
                currency=said["currency"].upper(),
                place=said["place"].upper(),
                altitude_m=_metres(said["altitude"]),
                service_from=said["service-from"],
                service_until=said["service-until"],
                day_turns=said["day-turns"],
            )
            lead = open_house(facts, NewPerson(said["lead"], said["shown-as"], password), locale=said["cups"])
        except Refusal as refusal:
            raise CommandError(f"Nothing was opened. {refusal.text}") from None
        self.stdout.write(f"{lead.house.name} is open. Sign in as {lead.person.username}.")

    def _said(self, name: str, given: str | None, asks: bool, read: Callable[[str], str] = input) -> str:
        """Returns the answer to a question: the option's, else the terminal's, else the usual one."""
        question, usual = _ASKED[name]
        if given is None and asks:
            given = read(f"{question}{f' [{usual}]' if usual else ''}: ").strip()
        return given or usual


def _metres(text: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise CommandError(f"“{text}” is no height. Write metres, such as 650.") from None
