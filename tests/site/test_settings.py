"""Settings: from the environment or a file, checked together and refused in words; readiness; the log as JSON."""

import json
import logging
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest
from django.core.exceptions import ImproperlyConfigured
from django.db import connection, connections
from django.test import Client
from prometheus_client.parser import text_string_to_metric_families

from tests.site.conftest import PASSWORD
from ulsek.site import readiness
from ulsek.site.database.base import DatabaseWrapper
from ulsek.site.environment import SETTINGS, read_settings
from ulsek.site.middleware import JsonLines
from ulsek.team.models import HistoryRow

ROOT = Path(__file__).parents[2]
KEY = "k" * 40


def test_what_is_not_said_has_its_default_and_the_environment_goes_before_the_file(tmp_path):
    file = tmp_path / "ulsek.env"
    file.write_text('# ours\n\nULSEK_DB_HOST = db.example\nULSEK_DB_NAME="bar"\n')
    found = read_settings({"ULSEK_SECRET_KEY": KEY, "ULSEK_SETTINGS": str(file), "ULSEK_DB_HOST": "127.0.0.2"})
    assert (found["ULSEK_DB_HOST"], found["ULSEK_DB_NAME"], found["ULSEK_DB_PORT"]) == ("127.0.0.2", "bar", "3713")


def test_a_secret_may_stand_in_a_file_of_its_own(tmp_path):
    (tmp_path / "db").write_text("quiet\n")
    (tmp_path / "key").write_text(KEY)
    said = {"ULSEK_SECRET_KEY_FILE": str(tmp_path / "key"), "ULSEK_DB_PASSWORD_FILE": str(tmp_path / "db")}
    found = read_settings(said)
    assert (found["ULSEK_SECRET_KEY"], found["ULSEK_DB_PASSWORD"]) == (KEY, "quiet")


def test_everything_that_is_wrong_is_told_at_once_with_what_to_do_and_no_secret_is_shown(tmp_path):
    file = tmp_path / "ulsek.env"
    file.write_text("ULSEK_DB_PROT=3\nhello\n")
    said = {
        "ULSEK_SETTINGS": str(file),
        "ULSEK_SECRET_KEY": "hush-hush",
        "ULSEK_DB_PORT": "99999",
        "ULSEK_ADDRESS": "ulsek.example",
        "ULSEK_DB_TLS_CA": "/nowhere/ca.pem",
        "ULSEK_BEHIND_PROXY": "perhaps",
        "ULSEK_DB_PASSWORD_FILE": "/nowhere/password",
    }
    with pytest.raises(ImproperlyConfigured) as refused:
        read_settings(said)
    assert str(refused.value).splitlines() == [
        "The settings cannot be used.",
        f"  {file}, line 1: there is no setting ULSEK_DB_PROT",
        f"  {file}, line 2: “hello” is no setting; write NAME=value",
        "  ULSEK_SECRET_KEY: a secret has at least 32 letters: head -c 32 /dev/urandom | od -An -tx1 | tr -d ' \\n'",
        "  ULSEK_ADDRESS is “ulsek.example”: write it as http://127.0.0.1:8713 or https://ulsek.example",
        "  ULSEK_BEHIND_PROXY is “perhaps”: write yes or no",
        "  ULSEK_DB_PORT is “99999”: a port is a number from 1 to 65535",
        "  ULSEK_DB_PASSWORD_FILE is “/nowhere/password”: it cannot be read (No such file or directory)",
        "  ULSEK_DB_TLS_CA is “/nowhere/ca.pem”: there is no such file",
    ]


def test_without_a_key_and_with_a_file_that_is_not_there_nothing_starts():
    with pytest.raises(ImproperlyConfigured, match="ULSEK_SECRET_KEY is not set: what sessions and links are signed with"):
        read_settings({})
    with pytest.raises(ImproperlyConfigured, match="ULSEK_SETTINGS is “/nowhere”: it cannot be read"):
        read_settings({"ULSEK_SECRET_KEY": KEY, "ULSEK_SETTINGS": "/nowhere"})


def test_every_setting_stands_in_the_operator_s_page_and_no_other():
    page = (ROOT / "docs" / "operating.md").read_text(encoding="utf-8")
    table = page.split("## Settings of the site", 1)[1].split("\n## ", 1)[0]
    assert set(re.findall(r"^\| `(ULSEK_\w+)`", table, re.MULTILINE)) == set(SETTINGS)


def test_a_site_behind_tls_passes_django_s_own_check_for_deployment(tmp_path):
    said = {
        "ULSEK_ADDRESS": "https://ulsek.example",
        "ULSEK_HOSTS": "ulsek.example",
        "ULSEK_BEHIND_PROXY": "yes",
        "ULSEK_SECRET_KEY": "a7b3c9" * 12,
    }
    done = subprocess.run(
        [sys.executable, str(ROOT / "manage.py"), "check", "--deploy", "--fail-level", "WARNING"],
        env={**said, "PATH": "/usr/bin:/bin", "ULSEK_STATE": str(tmp_path)},
        capture_output=True,
        text=True,
        check=False,
    )
    assert (done.returncode, done.stdout.strip()) == (0, "System check identified no issues (3 silenced)."), done.stderr


def test_the_site_is_ready_once_its_tables_are_of_this_version(place, monkeypatch):
    nobody = place.apis["nobody"]
    assert nobody.get("/health/ready").data == {"status": "ready"}

    def pending():
        raise readiness._Pending

    monkeypatch.setattr(readiness, "_migrated", pending)
    answer = nobody.get("/health/ready")
    assert (answer.status_code, answer.data["code"]) == (503, "not_ready")


def test_a_line_of_the_log_may_be_json_with_the_trace_of_its_error():
    try:
        int("spilt")
    except ValueError:
        record = logging.LogRecord("ulsek.site", logging.ERROR, __file__, 1, "it broke: %s", ("jar",), sys.exc_info())
    record.request_id = "abc"
    said = json.loads(JsonLines().format(record))
    assert (said["level"], said["request"], said["from"], said["message"]) == ("ERROR", "abc", "ulsek.site", "it broke: jar")
    assert said["trace"].endswith("ValueError: invalid literal for int() with base 10: 'spilt'")
    assert said["at"].endswith("+00:00")


def test_figures_are_for_whoever_has_their_token_and_name_nobody(place, settings):
    client = Client()
    assert client.get("/metrics").status_code == 404, "off by default"
    settings.METRICS_TOKEN = "figures-" + "x" * 32
    for header in ("", "Bearer ", "Bearer x", settings.METRICS_TOKEN):
        assert client.get("/metrics", headers={"Authorization": header}).status_code == 404
    spec = place.spec()
    run = place.run(spec)
    assert place.apis["maker"].get(f"/specs/{spec.pk}/draft").status_code == 200
    client.generic("DANCE", "/api/specs")
    answer = client.get("/metrics", headers={"Authorization": f"Bearer {settings.METRICS_TOKEN}"})
    assert answer.status_code == 200
    text = answer.content.decode()
    figures = {item.name: item for item in text_string_to_metric_families(text)}
    assert figures["ulsek_open_batches"].samples[0].value == 1
    assert figures["ulsek_houses"].samples[0].value == 2
    asked = [item for item in figures["ulsek_requests"].samples if item.labels.get("route", "").endswith("spec_id>/draft")]
    assert ("GET", "200") in [(item.labels["method"], item.labels["status"]) for item in asked if item.name.endswith("_total")]
    assert run not in text, "no id, no name"
    assert "DANCE" not in text, "a word that somebody sends makes no figure of its own"
    assert "Tern House" not in text


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ({"ULSEK_METRICS_TOKEN": "short"}, "ULSEK_METRICS_TOKEN: a secret has at least 32 letters"),
        ({"ULSEK_SMTP_HOST": "mail.bar.example"}, "ULSEK_MAIL_FROM is not set"),
        ({"ULSEK_SMTP_TLS": "maybe"}, "write starttls, tls or none"),
        ({"ULSEK_MAIL_FROM": "me"}, "write a mail address"),
        ({"ULSEK_CONTACT": "a@b"}, "write a mail address"),
        ({"ULSEK_PUSH_SERVICE": "push"}, "write it as http://"),
    ],
)
def test_what_cannot_be_reached_or_mailed_with_is_said_at_start(said, words):
    with pytest.raises(ImproperlyConfigured, match=re.escape(words)):
        read_settings({"ULSEK_SECRET_KEY": "x" * 40, **said})


OPERATES = """
import django
django.setup()
from django.conf import settings
from django.core.management import call_command
from django.db import connection, connections
from django.test import Client
from django.test.utils import setup_test_environment
from django_otp.plugins.otp_totp.models import TOTPDevice
import base64
from tests.site.test_authenticator import digits as shows

def digits_of(device):
    return shows(base64.b32encode(device.bin_key).decode())

settings.DATABASES["default"]["NAME"] = {name!r}
from django.db import connections
connections["default"].settings_dict["NAME"] = {name!r}
from ulsek.team.models import Person
setup_test_environment()

import atexit
call_command("migrate", "admin", verbosity=0)
atexit.register(call_command, "migrate", "admin", "zero", verbosity=0)
client = Client()
assert client.get("/operator/").status_code == 302, "nobody is signed in"
person = Person.objects.get(username="lead")

def tries(**said):
    return client.post("/operator/login/?next=/operator/", {{"username": "lead", "password": {password!r}, "next": "/operator/", **said}})

def inside():
    return client.get("/operator/").status_code == 200

device = TOTPDevice.objects.create(user=person, name="phone", confirmed=True)
tries(otp_device=device.persistent_id, otp_token=digits_of(device))
assert not inside(), "a lead is no operator"
person.is_staff = person.is_superuser = True
person.save()
TOTPDevice.objects.update(last_t=-1, throttling_failure_count=0, throttling_failure_timestamp=None)
tries()
assert not inside(), "not without the authenticator"
tries(otp_device=device.persistent_id, otp_token=digits_of(device))
assert inside()
shown = client.get("/operator/team/person/").content.decode()
assert "lead" in shown and person.password not in shown
page = client.get(f"/operator/team/person/{{person.pk}}/change/").content.decode()
assert person.password not in page and 'type="text"' not in page, "for reading"
assert client.get("/operator/team/house/add/").status_code == 403
assert client.post(f"/operator/team/person/{{person.pk}}/delete/", {{"post": "yes"}}).status_code == 403
print("well")
"""


@pytest.mark.django_db(transaction=True)
def test_the_operator_s_pages_are_off_by_default_and_then_behind_their_own_permission(place):
    shown = Client().get("/operator/")
    assert b"Django" not in shown.content, "an address like any other"
    asks = OPERATES.format(name=connection.settings_dict["NAME"], password=PASSWORD)
    env = {**os.environ, "ULSEK_ADMIN": "yes", "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"}
    done = subprocess.run([sys.executable, "-c", asks], cwd=ROOT, env=env, capture_output=True, text=True, check=False)
    assert done.stdout.strip() == "well", done.stderr[-1500:]


def test_a_rule_is_changed_by_itself_and_specs_are_judged_by_it_at_once(place):
    lead = place.apis["lead"]
    spec = place.spec()
    before = lead.get(f"/specs/{spec.pk}/draft").data["result"]["final"]["keeps_days"]
    asked = {"table": "classes", "key": "fresh_juice", "figures": {"days": 1}, "source": "a warm summer"}
    sheet = lead.call("put", "/rules/one", asked)
    assert sheet.status_code == 200, sheet.content
    row = next(
        item for table in sheet.data["tables"] if table["key"] == "classes" for item in table["rows"] if item["key"] == "fresh_juice"
    )
    assert (row["own"], row["figures"][0]["value"], row["source"]) == (True, 1.0, "a warm summer")
    loosened = lead.call("put", "/rules/one", {**asked, "figures": {"days": 20}})
    assert (loosened.status_code, loosened.data["where"]) == (422, "classes/fresh_juice/authority")
    assert lead.call("put", "/rules/one", {**asked, "source": " "}).data["where"] == "classes/fresh_juice/source"
    assert lead.call("put", "/rules/one", {**asked, "table": "all"}).data["where"] == "table"
    assert place.apis["maker"].call("put", "/rules/one", asked).status_code == 403
    assert lead.get("/rules").data["rules"]["classes"]["fresh_juice"]["days"] == 1, "what was refused changed nothing"
    place.house.refresh_from_db()
    assert set(place.house.rules) == {"format", "version", "classes"}
    lead.post("/rules/one/drop", {"table": "classes", "key": "fresh_juice"})
    assert lead.get(f"/specs/{spec.pk}/draft").data["result"]["final"]["keeps_days"] == before
    assert [row.action for row in HistoryRow.objects.filter(action="set_rules")] == ["set_rules", "set_rules"]


def test_a_procedure_and_a_handful_are_written_down_by_themselves(place):
    lead = place.apis["lead"]
    figures = {"fill_c": 88, "hold_min": 3, "most_ph": 4.0, "days": 30}
    said = {"cap": "metal, with a liner", "glass": "made for heat", "source": "our authority"}
    asked = {"table": "procedures", "key": "hot cordial", "figures": figures, **said}
    assert lead.call("put", "/rules/one", asked).data["where"] == "procedures/hot cordial/authority"
    sheet = lead.call("put", "/rules/one", {**asked, "authority": "letter of 2 October"}).data
    assert [(row["name"], row["days"], row["authority"]) for row in sheet["procedures"]] == [("hot cordial", 30, "letter of 2 October")]
    wrong = lead.call(
        "put", "/rules/one", {"table": "words", "key": "handful", "figures": {"value": 9, "low": 12, "high": 24}, "unit": "g"}
    )
    assert (wrong.status_code, wrong.data["where"]) == (422, "words/handful")
    kept = lead.call(
        "put", "/rules/one", {"table": "words", "key": "handful", "figures": {"value": 18, "low": 12, "high": 24}, "unit": "g"}
    )
    assert next(word for word in kept.data["words"] if word["own"])["key"] == "handful"
    read = lead.post("/read", {"text": "Mint syrup\n\na handful of mint\n500 g sugar\n500 g water\n\nSteep."}).data
    masses = [line["amount"].get("mass_g") for step in read["body"]["steps"] for line in step.get("lines", ())]
    assert any(isinstance(mass, dict) and mass["value"] == 18 for mass in masses), masses
    back = lead.post("/rules/one/drop", {"table": "words", "key": "handful"}).data
    assert not any(word["own"] for word in back["words"])


@pytest.mark.parametrize(
    ("is_mariadb", "version", "words"),
    [(True, (10, 6, 18), "MariaDB 10.6.18: Ulsek takes MariaDB 10.11 or newer"), (False, (8, 0, 30), "another kind, version 8.0.30")],
)
def test_an_old_database_server_and_one_of_another_kind_are_told_in_words(db, monkeypatch, is_mariadb, version, words):
    connection.check_database_version_supported()
    monkeypatch.setattr(connections["default"], "mysql_is_mariadb", is_mariadb)
    monkeypatch.setattr(DatabaseWrapper, "get_database_version", lambda _self: version)
    with pytest.raises(ImproperlyConfigured, match=re.escape(words)):
        connection.check_database_version_supported()
