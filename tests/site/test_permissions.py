"""Who may do what: every operation of the API, asked with a body that it takes, by each role, by nobody, by another house, by a PIN and from a revoked device."""

import json

import pytest
from django.contrib.auth.hashers import make_password

from tests.instruments import simulated
from tests.site.conftest import Api
from tests.site.doors import PIN, Doors, On
from ulsek.team.actions.enrol_device import revoke_device
from ulsek.team.models import House, Person, Role
from ulsek.team.permissions import NEEDED

RANK = {role: n for n, role in enumerate((Role.READER, Role.MAKER, Role.LEAD))}
CHECKS_FOR_ITSELF = {
    "POST /session",
    "POST /session/end",
    "POST /session/switch",
    "POST /session/claims",
    "POST /session/code",
    "POST /session/opening",
    "POST /session/join",
    "POST /session/house",
    "POST /own/leave",
    "POST /seat",
    "GET /seat",
    "POST /seat/answers",
    "POST /seat/out",
}
"""These change who asks, or are asked by a taster's phone: tests/site/test_sessions.py, test_moving_in.py, test_seats.py."""
CARRIED = {"GET /sync", "POST /signed-actions", "POST /signed-actions/refused"}
"""These ask for a session or an enrolled device."""


@pytest.fixture
def people(place):
    """One of each who may ask: nobody, each role, a lead by their PIN, a lead of another house, and somebody on a device that has been revoked."""
    Person.objects.filter(pk=place.members["lead"].person.pk).update(pin=make_password(PIN))
    pin = On(place, "bench tablet")
    assert pin.post("/session/switch", {"person": place.members["lead"].person.pk, "pin": PIN}).data["by_pin"]
    lost = On(place, "lost tablet").signs_in("lead")
    assert lost.get("/specs").status_code == 200
    revoke_device(place.members["lead"], lost.device.pk)
    return {
        "nobody": Api(),
        "revoked": lost,
        **{role: place.apis[role] for role in ("reader", "maker")},
        "pin": pin,
        "stranger": place.apis["stranger"],
        "lead": place.apis["lead"],
    }


def wanted(operation, who, theirs, mine):
    """What somebody is to hear: one status, some, or None for any of success."""
    needed = NEEDED[operation]
    if needed is None:
        return (401,) if operation in CARRIED and who in ("nobody", "revoked") else None
    if who in ("nobody", "revoked"):
        return (401,)
    if RANK[needed] > RANK[{"pin": Role.MAKER, "stranger": Role.LEAD}.get(who) or Role(who)]:
        return (403,)
    found = theirs if who == "stranger" and theirs else mine.get(who, mine.get("*"))
    return (found,) if isinstance(found, int) else found


def test_everybody_hears_what_the_table_says_at_every_operation(place, people):
    House.objects.filter(pk=place.house.pk).update(is_demo=True)
    with simulated("scale") as scale, simulated("label_printer") as paper:
        doors = Doors(place, scale, paper)
        assert set(doors.doors) | CHECKS_FOR_ITSELF == set(NEEDED), "every operation is walked"
        wrong = []
        for operation, (_path, _body, *rest) in doors.doors.items():
            theirs, mine = (rest[0] if rest else None), (rest[1] if len(rest) > 1 else {})
            for who, api in people.items():
                if who == "pin" and NEEDED[operation] != Role.LEAD:
                    continue
                answer = doors.ask(operation, api, who)
                expected = wanted(operation, who, theirs, mine)
                if (answer.status_code not in expected) if expected else answer.status_code >= 300:
                    wrong.append((operation, who, answer.status_code, expected, answer.content[:160]))
                if answer.status_code >= 400:
                    assert answer["Content-Type"] == "application/problem+json", (operation, who, answer.status_code)
                    assert set(json.loads(answer.content)) >= {"title", "status", "detail", "code"}
                if who == "pin":
                    assert json.loads(answer.content)["code"] == "password_wanted", operation
        assert not wrong, "\n".join(map(str, wrong))
