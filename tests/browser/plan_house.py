"""The demo house with its plan emptied, for the stories that are told about a plan."""

from datetime import UTC, date, datetime, timedelta

import pytest

from tests.morning import at_ten

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
FRIDAY = ("17:15", "19:30")
LATE_START = timedelta(minutes=15)
"""How much later than its first minute the story may reach the plan, and still finds the same people with the same time before them."""


def from_now(hours):
    """From ten to eleven on for so many hours, by that zone: as long at the end of the hour as at its beginning, so that the same work fits."""
    begins = datetime.now(UTC).replace(hour=10) + LATE_START
    return tuple(f"{moment:%H:%M}" for moment in (begins, begins + timedelta(hours=hours)))


class Plan:
    """The demo house with its plan emptied: on the day after tomorrow something must stand there, and hardly anybody is in until then."""

    def __init__(self, hand):
        self.hand = hand
        self.house = hand.call("GET", "/house")
        self.before = {row["spec"]: row["must_ml"] for row in hand.call("GET", "/plan/pars") if row["must_ml"]}
        self.people = hand.call("GET", "/plan/people")
        self._house(zone=at_ten())
        self.specs = {row["name"]: row["spec"] for row in hand.call("GET", "/plan/pars")}
        for spec in self.before:
            hand.call("PUT", f"/plan/pars/{spec}", {"must_ml": []})
        self.today = date.fromisoformat(hand.call("GET", "/plan/today")["list"]["day"])
        self.needed = self.today + timedelta(days=2)

    def _house(self, **changed):
        kept = ("name", "zone", "currency", "altitude_m", "service_from", "service_until", "day_turns")
        self.hand.call("PUT", "/house", {**{key: self.house[key] for key in kept}, **changed})

    def stock(self, **packs):
        """So many packs of a kilogram of each material, whatever other stories have used."""
        for material, count in packs.items():
            delivery = {
                "material": material,
                "product": material,
                "supplier": "Osterlund Pantry",
                "price": "5",
                "pack_g": "1000",
                "packs": count,
            }
            self.hand.call("POST", "/stock", delivery)

    def must(self, **ml):
        """So much must stand there on the day after tomorrow, and on no other day."""
        for name, amount in ml.items():
            week = [amount if day == self.needed.weekday() else 0 for day in range(7)]
            self.hand.call("PUT", f"/plan/pars/{self.specs[name.replace('_', ' ')]}", {"must_ml": week})

    def hours(self, name, today, needed, between=None):
        """When somebody is in today, on the day after tomorrow, and on the day between."""
        week = [None] * 7
        week[self.today.weekday()], week[self.needed.weekday()] = today, needed
        week[(self.today.weekday() + 1) % 7] = between
        person = next(one["person"] for one in self.people if one["name"] == name)
        self.hand.call("PUT", f"/plan/people/{person}/hours", {"week": week})

    def as_before(self):
        for one in self.hand.call("GET", "/plan/pars"):
            if one["must_ml"]:
                self.hand.call("PUT", f"/plan/pars/{one['spec']}", {"must_ml": []})
        for spec, week in self.before.items():
            self.hand.call("PUT", f"/plan/pars/{spec}", {"must_ml": week})
        for one in self.people:
            self.hand.call("PUT", f"/plan/people/{one['person']}/hours", {"week": one["week"] or []})
        self._house()


@pytest.fixture
def plan(hand):
    hand.sign_in("ilse")
    found = Plan(hand)
    yield found
    hand.sign_out()
    hand.sign_in("ilse")
    found.as_before()
