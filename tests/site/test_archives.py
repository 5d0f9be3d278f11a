"""A house as an archive: written while it goes on, taken in elsewhere, put back, closed; and what is stored about a person."""

import hashlib
import io
import json
import threading
import zipfile
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db import connection
from django.utils import timezone

from tests.core.cordial import FORM
from tests.site.conftest import PASSWORD, Api, event
from tests.site.test_jobs import ask, stands, work
from ulsek.archives.form import ABOUT, PEOPLE, migrations_here
from ulsek.archives.taking_in import put_back, take_in_elsewhere
from ulsek.archives.writing import write_archive
from ulsek.core.base.refusals import Refusal
from ulsek.jobs.models import Job
from ulsek.site.management.commands.tidy import tidy
from ulsek.specs.models import Spec
from ulsek.team.actions.close_house import WAITING
from ulsek.team.actions.enrol_device import enrol_device
from ulsek.team.house_rows import delete_house, tables
from ulsek.team.models import Device, HistoryRow, House, HouseGroup, Membership, Person, SignIn

pytestmark = pytest.mark.django_db(transaction=True)

NEW = "grey-plover-11"
SHOWN = ("/specs", "/stock", "/lots", "/runs", "/containers", "/citrus/cases")


def archive_of(house, **how):
    file = io.BytesIO()
    write_archive(house, file, **how)
    return file.getvalue()


def counts(house):
    return {model._meta.label: model._base_manager.filter(**{lookup: house.pk}).count() for model, lookup in tables()}


@pytest.fixture
def lived_in(place):
    """The house with a spec, a delivery, a finished batch with its bottle, a container, an enrolled device and a session."""
    spec = place.spec()
    place.delivery()
    run = place.run(spec, mass_g=500)
    weighed = [event("weighed", line=line, mass_g=mass) for line, mass in (("juice", 500), ("sugar", 259.5), ("malic", 4.0))]
    done = [*weighed, *(event("step_done", step=f"s{n}") for n in range(1, 6)), event("finished", volume_ml=600, rest="spoon", signed=True)]
    assert place.apis["maker"].post(f"/runs/{run}/events", {"events": done}).status_code == 200
    place.apis["maker"].post("/containers", {"name": "white tub", "tare_g": 200})
    enrol_device(place.members["lead"], "the bench")
    assert Api().post("/session", {"name": "maker", "password": PASSWORD}).status_code == 200
    return place


def rewritten(archive, name, change):
    """The archive with one file changed and its digest set right: what somebody could send who knows the form."""
    old, out = zipfile.ZipFile(io.BytesIO(archive)), io.BytesIO()
    about = json.loads(old.read(ABOUT))
    with zipfile.ZipFile(out, "w") as new:
        for entry in old.namelist():
            if entry == ABOUT:
                continue
            data = change(old.read(entry)) if entry == name else old.read(entry)
            about["digests"][entry] = hashlib.sha256(data).hexdigest()
            new.writestr(entry, data)
        new.writestr(ABOUT, json.dumps(about))
    return out.getvalue()


def test_a_house_goes_elsewhere_whole_and_nothing_that_lets_anybody_in_goes_with_it(lived_in):
    before = {path: lived_in.apis["lead"].get(path).data for path in SHOWN}
    had, archive = counts(lived_in.house), archive_of(lived_in.house)
    secrets = [*Person.objects.values_list("password", flat=True), *Device.objects.values_list("secret", flat=True)]
    secrets += list(SignIn.objects.values_list("session_key", flat=True))
    packed = zipfile.ZipFile(io.BytesIO(archive))
    plain = b"".join(packed.read(name) for name in packed.namelist()).decode()
    assert [secret for secret in secrets if secret and secret in plain] == []
    lead, house = lived_in.members["lead"].person, lived_in.house
    delete_house(house)
    # Elsewhere others have these numbers, and one of them the lead's name.
    House.objects.create(pk=house.pk, name="Curlew")
    Person.objects.create(pk=lead.pk, username="lead", display_name="Another")
    taken = take_in_elsewhere(io.BytesIO(archive), "lead", NEW)
    assert (taken.house.name, taken.renamed) == ("Tern House", {"lead": "lead-2"})
    assert taken.house.pk != house.pk
    left_out = {"team.Receipt", "team.Invitation", "jobs.Job", "devices.AlertAddress", "devices.Alerted"}
    now = counts(taken.house)
    assert now.pop("team.HistoryRow") == had.pop("team.HistoryRow") + 1
    assert {k: n for k, n in now.items() if k not in left_out} == {k: n for k, n in had.items() if k not in left_out}
    assert had["batches.RunEvent"] > 5
    moved = Api()
    assert moved.post("/session", {"name": "lead-2", "password": NEW}).data["role"] == "lead"
    assert {path: moved.get(path).data for path in SHOWN} == before
    assert Api().post("/session", {"name": "maker", "password": PASSWORD}).status_code == 401, "everybody else gets a code from the lead"
    assert not Device.objects.filter(revoked_at=None).exists()
    assert not Membership.objects.filter(person=lead.pk).exists(), "whoever has the same name here got nothing"


def test_what_is_written_while_an_archive_is_made_is_in_it_whole_or_not_at_all(lived_in):
    def writes():
        lived_in.members["lead"].wrote("set_units", "meanwhile")
        connection.close()

    def told(done, _of):
        if done == 1:
            other = threading.Thread(target=writes)
            other.start()
            other.join()

    file = io.BytesIO()
    about = write_archive(lived_in.house, file, told)
    assert about.rows["rows/team.historyrow.jsonl"] == HistoryRow.objects.filter(house=lived_in.house).count() - 1


def outside(data):
    """The rows with one that refers to a house that is not in the archive."""
    first, *rest = data.decode().splitlines()
    row = json.loads(first)
    row["fields"]["house"] = row["fields"]["house"] + 1
    return "\n".join([json.dumps(row), *rest]).encode()


def twice(data):
    """The rows with the first one again, under a key of its own."""
    rows = [json.loads(line) for line in data.decode().splitlines()]
    again = {**rows[0], "pk": max(row["pk"] for row in rows) + 1}
    return "\n".join(json.dumps(row) for row in (*rows, again)).encode()


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda archive: archive[: len(archive) // 2], "it is cut off"),
        (lambda _archive: b"no zip", "it is cut off"),
        (lambda archive: archive.replace(b"PK\x01\x02", b"PK\x01\x03", 1), "cut off"),
        (lambda archive: rewritten(archive, "rows/team.membership.jsonl", outside), "refers to what is not in it"),
        (lambda archive: rewritten(archive, "rows/team.membership.jsonl", twice), "stands there twice"),
        (lambda archive: rewritten(archive, PEOPLE, lambda data: data.split(b"\n", 1)[1]), "refers to what is not in it"),
        (lambda archive: rewritten(archive, "rows/team.house.jsonl", lambda data: data + data), "refers to what is not in it"),
    ],
)
def test_an_archive_that_is_not_whole_is_refused_and_nothing_is_stored(lived_in, change, words):
    archive = archive_of(lived_in.house)
    delete_house(lived_in.house)
    with pytest.raises(Refusal, match=words):
        take_in_elsewhere(io.BytesIO(change(archive)), "lead", NEW)
    assert (House.objects.count(), Person.objects.count()) == (1, 1)
    take_in_elsewhere(io.BytesIO(archive), "lead", NEW)


def test_one_byte_that_was_changed_is_seen(lived_in):
    archive = archive_of(lived_in.house)
    old, out = zipfile.ZipFile(io.BytesIO(archive)), io.BytesIO()
    with zipfile.ZipFile(out, "w") as new:
        for entry in old.namelist():
            new.writestr(entry, old.read(entry).replace(b"Tern House", b"Gull House") if entry != ABOUT else old.read(entry))
    with pytest.raises(Refusal, match="The archive was changed"):
        take_in_elsewhere(out, "lead", NEW)


@pytest.mark.parametrize(
    ("lead", "password", "name", "words"),
    [
        ("maker", NEW, "", "maker does not lead Tern House"),
        ("lead", "short", "", "too short"),
        ("lead", NEW, "Lantern Yard", "There is a house called Lantern Yard here already"),
    ],
)
def test_a_wrong_lead_a_weak_password_and_a_name_twice_are_refused(lived_in, lead, password, name, words):
    archive = archive_of(lived_in.house)
    with pytest.raises(Refusal, match="or a copy of it, is here already"):
        take_in_elsewhere(io.BytesIO(archive), "lead", NEW, "Copy")
    delete_house(lived_in.house)
    with pytest.raises(Refusal, match=words):
        take_in_elsewhere(io.BytesIO(archive), lead, password, name)
    assert list(House.objects.values_list("name", flat=True)) == ["Lantern Yard"]


def of_an_older_ulsek(archive, **migrations):
    """The archive as it was before some migrations: without the table and the column that the register brought."""
    old, out = zipfile.ZipFile(io.BytesIO(archive)), io.BytesIO()
    about = json.loads(old.read(ABOUT))
    about["migrations"] |= migrations
    with zipfile.ZipFile(out, "w") as new:
        for entry in set(old.namelist()) - {ABOUT, "rows/team.registerrow.jsonl"}:
            data = old.read(entry)
            if entry == "rows/team.house.jsonl":
                house = json.loads(data)
                del house["fields"]["language"]
                data = json.dumps(house).encode() + b"\n"
            about["digests"][entry] = hashlib.sha256(data).hexdigest()
            new.writestr(entry, data)
        about["digests"].pop("rows/team.registerrow.jsonl", None)
        new.writestr(ABOUT, json.dumps(about))
    return out.getvalue()


def test_an_archive_of_an_older_ulsek_is_taken_in_where_all_since_has_only_been_added(lived_in):
    had, archive = counts(lived_in.house), archive_of(lived_in.house)
    delete_house(lived_in.house)
    taken = take_in_elsewhere(io.BytesIO(of_an_older_ulsek(archive, team="0013_api_tokens")), "lead", NEW)
    assert counts(taken.house) == {**had, "team.HistoryRow": had["team.HistoryRow"] + 1, "team.Receipt": 0}
    assert taken.house.language == "en"


def test_another_version_is_told(lived_in, monkeypatch):
    archive = archive_of(lived_in.house)
    delete_house(lived_in.house)
    now = migrations_here()
    monkeypatch.setattr("ulsek.archives.form.migrations_here", lambda: {**now, "team": "0001_initial"})
    with pytest.raises(Refusal, match="A newer Ulsek wrote"):
        take_in_elsewhere(io.BytesIO(archive), "lead", NEW)
    monkeypatch.undo()
    for before, changed in (
        ({"team": "0008_longer_subjects"}, "team.0009_houses_of_ones_own"),
        ({"stores": "0004_counted_and_recalled"}, "stores.0005_recalled_before"),
        ({"batches": "0003_lots_traced"}, "batches.0004_fill_run_stock"),
    ):
        with pytest.raises(Refusal, match="An older Ulsek wrote this archive: its rows lack what") as refused:
            take_in_elsewhere(io.BytesIO(of_an_older_ulsek(archive, **before)), "lead", NEW)
        assert changed in str(refused.value), "the first of those that a row would have to go through itself"
    assert not House.objects.filter(name="Tern House").exists()


def test_one_house_is_put_back_and_the_others_stay(lived_in, tmp_path, capsys):
    device = Device.objects.get(house=lived_in.house)
    call_command("export_house", lived_in.house.name, tmp_path / "house.zip", "--secrets")
    assert (tmp_path / "house.zip").stat().st_mode & 0o077 == 0
    had = counts(lived_in.house)
    assert lived_in.apis["lead"].call("put", "/own/password", {"old": PASSWORD, "new": "another-one-22"}).status_code == 200
    assert Api(Person.objects.get(username="lead")).post(f"/people/{lived_in.members['maker'].person.pk}/let-go").status_code == 200
    lived_in.apis["stranger"].post("/containers", {"name": "blue tub", "tare_g": 210})
    assert Api(Person.objects.get(username="lead")).post("/specs", {"name": "Lost again", "family": "cordial"}).status_code == 201
    others, signed_in = counts(lived_in.other), Api()
    signed_in.post("/session", {"name": "lead", "password": "another-one-22"})
    assert signed_in.get("/specs").status_code == 200
    call_command("import_house", tmp_path / "house.zip", "--back")
    assert "rows taken in" in capsys.readouterr().out
    now = counts(House.objects.get(pk=lived_in.house.pk))
    skipped = {"team.Receipt"}
    assert {k: n for k, n in now.items() if k not in skipped} == {k: n for k, n in had.items() if k not in skipped}
    assert counts(lived_in.other) == others
    assert Device.objects.get(pk=device.pk).secret == device.secret, "what it signed is still believed"
    assert signed_in.get("/specs").status_code == 401, "sessions are dead"
    assert Api().post("/session", {"name": "lead", "password": "another-one-22"}).status_code == 200, "the password of now"
    assert Api().post("/session", {"name": "maker", "password": PASSWORD}).status_code == 200, "who was let go since is back"
    delete_house(House.objects.get(pk=lived_in.house.pk))
    call_command("import_house", tmp_path / "house.zip", "--back")
    assert Api().post("/session", {"name": "lead", "password": PASSWORD}).data["house"] == "Tern House", (
        "a house that was deleted comes back"
    )
    with pytest.raises(CommandError, match="There is no house “Nowhere” here"):
        call_command("export_house", "Nowhere", tmp_path / "x.zip")
    with pytest.raises(Refusal, match="taken to go elsewhere"):
        put_back(io.BytesIO(archive_of(lived_in.other)))


def test_a_lead_takes_the_archive_and_nobody_else(lived_in):
    assert lived_in.apis["maker"].post("/jobs", {"kind": "house"}).status_code == 403
    job = ask(lived_in, kind="house")
    work()
    found = stands(lived_in, job)
    assert (found["state"], found["file_name"]) == ("done", "house.ulsek.zip"), found
    file = lived_in.apis["lead"].client.get(f"/api/jobs/{job['id']}/file").content
    delete_house(House.objects.get(pk=lived_in.house.pk))
    assert take_in_elsewhere(io.BytesIO(file), "lead", NEW).house.name == "Tern House"


def test_a_house_that_is_too_large_for_the_database_to_hold_as_a_file_says_what_to_do(lived_in, monkeypatch):
    monkeypatch.setattr("ulsek.jobs.work.MOST_BYTES", 1000)
    job = ask(lived_in, kind="house")
    work()
    found = stands(lived_in, job)
    assert (found["state"], "bin/house export writes the archive" in found["problem"]) == ("failed", True), found


def test_everybody_takes_what_is_stored_about_them(lived_in):
    job = ask(lived_in, role="maker", kind="mine")
    work()
    answer = lived_in.apis["maker"].client.get(f"/api/jobs/{job['id']}/file")
    told = json.loads(answer.content)
    assert (told["sign_in"], told["has_password"], told["has_pin"]) == ("maker", True, False)
    assert {row["action"] for row in told["rows"]["team.HistoryRow"]} >= {"start_run", "ask_for_job"}
    assert len(told["rows"]["batches.RunEvent"]) == 10
    maker = lived_in.members["maker"].person
    assert {row["person"] for row in told["rows"]["team.HistoryRow"]} == {maker.pk}, "nobody else's"
    assert Person.objects.get(pk=maker.pk).password not in answer.content.decode()
    assert all("session_key" not in row for row in told["rows"]["team.SignIn"])


def test_a_house_is_deleted_after_its_waiting_time_unless_a_lead_calls_it_off(lived_in):
    lead = lived_in.apis["lead"]
    assert lead.post("/house/closing", {"name": "Tern House", "password": "wrong"}).status_code == 403
    assert lead.post("/house/closing", {"name": "Tern", "password": PASSWORD}).data["where"] == "name"
    asked = timezone.now()
    said = lead.post("/house/closing", {"name": "Tern House", "password": PASSWORD})
    assert said.status_code == 200, said.content
    closes = House.objects.get(pk=lived_in.house.pk).closes_at
    assert closes - asked - WAITING < timedelta(minutes=1)
    assert lived_in.apis["reader"].get("/session").data["closes_at"] is not None, "everybody sees it"
    again = lead.post("/house/closing", {"name": "Tern House", "password": PASSWORD})
    assert again.data["closes_at"] == said.data["closes_at"], "asked twice, it is no later"
    tidy()
    assert House.objects.count() == 2
    assert lead.call("delete", "/house/closing").data["closes_at"] is None
    group = HouseGroup.objects.create(name="The Shore", made_at=asked)
    House.objects.filter(pk=lived_in.house.pk).update(closes_at=asked, group=group)
    tidy()
    assert list(House.objects.values_list("name", flat=True)) == ["Lantern Yard"]
    assert list(Person.objects.values_list("username", flat=True)) == ["stranger"]
    assert not HouseGroup.objects.exists(), "nor a group without a house"
    House.objects.update(is_demo=True)
    assert lived_in.apis["stranger"].post("/house/closing", {"name": "Lantern Yard", "password": PASSWORD}).data["code"] == "the_demo"


def read_archive(api, data):
    return api.told("post", "/read-archive", api.client.post("/api/read-archive", {"file": SimpleUploadedFile("a.zip", data)}))


def test_another_house_begins_with_the_specs_of_an_archive(lived_in):
    ask(lived_in, kind="library")
    work()
    library = Job.objects.get(kind="library").data
    stranger = lived_in.apis["stranger"]
    for data in (bytes(library), archive_of(lived_in.house)):
        answer = read_archive(stranger, data)
        assert answer.status_code == 200, answer.content
        (part,) = answer.data
        assert (part["read"]["kind"], part["read"]["body"]["name"], part["refused"]) == ("spec file", "Sea buckthorn cordial", None)
        made = stranger.post("/specs", {"name": "Theirs", "family": "cordial", "body": part["read"]["body"]})
        assert made.status_code == 201
        theirs = stranger.get(f"/specs/{made.data['id']}/draft").data["result"]["final"]
        ours = lived_in.apis["lead"].get(f"/specs/{Spec.objects.get(house=lived_in.house).pk}/draft").data["result"]["final"]
        assert (theirs["brix"]["value"], theirs["acid_g_100ml"]["value"]) == (ours["brix"]["value"], ours["acid_g_100ml"]["value"])
    assert lived_in.apis["maker"].client.post("/api/read-archive", {"file": SimpleUploadedFile("a.zip", b"x")}).status_code == 403


def packed(files):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"no zip", "unreadable"),
        (packed({"README.txt": "nothing"}), "no_archive"),
        (packed({"specs/a.json": b"\xff\xfe"}), "unreadable"),
        (packed({"rows/specs.spec.jsonl": "{}\n"}), "unreadable"),
        (packed({"specs/a.json": b"0" * 61_000_000}), "too_long"),
        (packed({f"specs/{n}.json": "{}" for n in range(301)}), "too_long"),
    ],
)
def test_an_archive_that_is_hostile_or_empty_is_refused_in_words(place, data, code):
    answer = read_archive(place.apis["lead"], data)
    assert (answer.status_code, answer.data["code"], answer.data["where"]) == (422, code, "file"), answer.content


def test_what_is_no_spec_in_an_archive_is_refused_beside_those_that_are(place):
    archive = packed({"specs/a.json": json.dumps(FORM), "specs/b.json": "[1", "specs/c.json": '{"format": "ulsek.spec", "version": 99}'})
    parts = read_archive(place.apis["lead"], archive).data
    assert [part["refused"] is None for part in parts] == [True, False, False]
