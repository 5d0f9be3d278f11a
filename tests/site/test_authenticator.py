"""The second factor: digits of an authenticator beside the password, recovery codes in its place, and nothing without them."""

import base64
import hashlib
import hmac
import json
import struct
import time

import pytest
from django.core.management import call_command
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from tests.site.conftest import PASSWORD, Api
from ulsek.team.actions.own_credentials import fresh_code
from ulsek.team.models import HistoryRow


def digits(secret, at=None):
    """What an authenticator shows (RFC 6238, SHA-1, 30 s, six digits), computed without the library that checks it."""
    key = base64.b32decode(secret + "=" * (-len(secret) % 8))
    mac = hmac.new(key, struct.pack(">Q", int((at or time.time()) // 30)), hashlib.sha1).digest()
    place = mac[-1] & 15
    return f"{(struct.unpack('>I', mac[place : place + 4])[0] & 0x7FFFFFFF) % 1_000_000:06d}"


def test_the_digits_of_the_tests_are_those_of_the_standard():
    """RFC 6238, appendix B: of the eight digits 94287082 at 59 s the last six."""
    assert digits(base64.b32encode(b"12345678901234567890").decode(), 59) == "287082"


def later():
    """Lets the wait after a wrong code pass, and the digits that were used be new ones."""
    TOTPDevice.objects.update(throttling_failure_timestamp=None, throttling_failure_count=0, last_t=-1)


@pytest.fixture
def guarded(place):
    """The lead with an authenticator: its secret and recovery codes."""
    api = place.apis["lead"]
    assert api.post("/own/authenticator", {"password": "guessed"}).status_code == 403
    begun = api.post("/own/authenticator", {"password": PASSWORD}).data
    assert begun["picture"].lstrip().startswith("<svg")
    wrong = api.post("/own/authenticator/confirm", {"code": "000000"})
    assert (wrong.status_code, wrong.data["code"]) == (422, "wrong_code")
    assert not api.get("/session").data["has_authenticator"], "it does not count before its digits were typed"
    later()
    codes = api.post("/own/authenticator/confirm", {"code": digits(begun["secret"])}).data["codes"]
    assert len(set(codes)) == 8
    later()
    return begun["secret"], codes


def sign_in(code="", **more):
    return Api().post("/session", {"name": "lead", "password": PASSWORD, "code": code, **more})


def test_a_password_alone_is_not_enough_any_more_and_a_wrong_password_says_nothing_of_it(place, guarded):
    secret, _codes = guarded
    asked = sign_in()
    assert (asked.status_code, asked.data["code"]) == (401, "code_wanted")
    assert "code" not in sign_in(digits(secret), password="guessed").data["detail"]
    wrong = sign_in("123456" if digits(secret) != "123456" else "654321")
    assert (wrong.status_code, wrong.data["code"]) == (401, "code_wrong")
    assert sign_in(digits(secret)).status_code == 401, "after a wrong one the right one waits too"
    later()
    code = digits(secret)
    assert sign_in(f"{code[:3]} {code[3:]}").status_code == 200
    assert sign_in(code).status_code == 401, "the same digits twice"


def test_a_recovery_code_signs_in_once_and_is_not_stored(place, guarded):
    _secret, codes = guarded
    stored = json.dumps(list(StaticToken.objects.values_list("token", flat=True)))
    assert not any(code in stored or code.replace("-", "") in stored for code in codes)
    assert sign_in(codes[0].upper()).status_code == 200
    assert sign_in(codes[0]).status_code == 401
    fresh = place.apis["lead"].post("/own/authenticator/recovery", {"password": PASSWORD}).data["codes"]
    assert set(fresh).isdisjoint(codes)
    StaticDevice.objects.update(throttling_failure_timestamp=None, throttling_failure_count=0)
    assert sign_in(codes[1]).status_code == 401, "the earlier ones count no more"
    StaticDevice.objects.update(throttling_failure_timestamp=None, throttling_failure_count=0)
    assert sign_in(fresh[1]).status_code == 200


def test_no_other_way_in_passes_it_by(place, guarded):
    secret, _codes = guarded
    code = place.apis["stranger"].post("/invitations", {"name": "Lead", "role": "maker"}).data["code"]
    body = {"code": code, "is_known": True, "person": {"sign_in": "lead", "password": PASSWORD}}
    assert Api().post("/session/join", body).data["code"] == "code_wanted"
    lead = place.members["lead"].person
    forgot = {"name": "lead", "code": fresh_code(lead, lead), "password": "another-long-one"}
    assert Api().post("/session/code", forgot).data["code"] == "code_wanted"
    later()
    answer = Api().post("/session", {"name": "lead", "password": "another-long-one", "code": digits(secret)})
    assert answer.status_code == 200, "the new password stands"


def test_it_is_given_up_with_the_password_and_taken_away_by_whoever_runs_the_machine(place, guarded, capsys):
    api = place.apis["lead"]
    assert api.post("/own/authenticator/drop", {"password": "guessed"}).status_code == 403
    assert api.post("/own/authenticator/drop", {"password": PASSWORD}).status_code == 204
    assert sign_in().status_code == 200
    assert api.post("/own/authenticator/recovery", {"password": PASSWORD}).status_code == 422
    acts = list(HistoryRow.objects.filter(action__contains="authenticator").order_by("at").values_list("action", flat=True))
    assert acts == ["set_authenticator", "drop_authenticator"]
    begun = api.post("/own/authenticator", {"password": PASSWORD}).data
    api.post("/own/authenticator/confirm", {"code": digits(begun["secret"])})
    assert sign_in().status_code == 401
    call_command("one_time_code", "lead", "--without-authenticator")
    assert len(capsys.readouterr().out.strip()) == 10
    assert sign_in().status_code == 200
