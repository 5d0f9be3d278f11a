"""Signed actions: credited to whoever signed them, whoever carries them; held for a lead where nobody can be shown to have done them; never lost, never twice."""

import json
from dataclasses import replace
from datetime import timedelta
from uuid import uuid4

import pytest
from django.core.management import call_command
from django.utils import timezone

from tests.site.conftest import PASSWORD, Api, event
from tests.site.doors import On
from tests.site.signing import Key, carried, sealed
from ulsek.batches.models import RunEvent
from ulsek.sync.kinds import KINDS
from ulsek.sync.models import SignedAction
from ulsek.team.models import Device, HistoryRow, Membership, SignIn, SigningKey


def signs_in(role):
    api = Api()
    assert api.post("/session", {"name": role, "password": PASSWORD}).status_code == 200
    return api


@pytest.fixture
def scene(place):
    """A maker with a key, a batch, and a reader who carries what the maker did."""
    maker = signs_in("maker")
    return place.run(mass_g=500), maker, Key().register(maker), signs_in("reader")


def outcomes(answer):
    assert answer.status_code == 200, answer.content
    return [(item["outcome"], item["code"]) for item in answer.data["answers"]]


def weighed(mass=500):
    return event("weighed", line="juice", mass_g=mass)


def credited(run):
    return list(RunEvent.objects.filter(run=run).exclude(data__kind="started").values_list("person__username", "data__by", "data__proof"))


def test_whoever_carries_it_who_signed_it_is_credited_and_once(scene):
    run, maker, key, reader = scene
    three = [key.signed(run, item) for item in (weighed(), event("noted", text="clear"), event("step_done", step="s1"))]
    maker.post("/session/end")
    sent = reader.post("/signed-actions", carried(*three, view={"kind": "run_event", "subject": run}))
    assert outcomes(sent) == [("done", "")] * 3
    assert credited(run) == [("maker", "Maker", "key")] * 3
    assert [item["proof"] for item in sent.data["view"]["events"][1:]] == ["key"] * 3
    assert outcomes(reader.post("/signed-actions", carried(*three))) == [("done", "")] * 3, "sent again, nothing is done"
    assert (len(credited(run)), SignedAction.objects.count()) == (3, 3)
    assert SignedAction.objects.values_list("carried_by__username", flat=True).distinct().get() == "reader"


def test_one_altered_byte_is_refused_and_takes_nothing_with_it(scene):
    run, _, key, reader = scene
    good, bad = key.signed(run, weighed()), key.signed(run, weighed())
    bad["text"] = bad["text"].replace('"mass_g":500', '"mass_g":501')
    assert outcomes(reader.post("/signed-actions", carried(bad, good))) == [("refused", "altered"), ("done", "")]
    other = key.signed(run, weighed())
    other["signature"] = good["signature"]
    as_another = key.signed(run, weighed(), person=scene[0] and 1)
    assert outcomes(reader.post("/signed-actions", carried(other, as_another))) == [("refused", "altered")] * 2
    assert len(credited(run)) == 1


def test_the_signer_s_rights_count_not_the_carrier_s(place, scene):
    run, _, _, reader = scene
    read_only = Key().register(reader)
    refused = signs_in("lead").post("/signed-actions", carried(read_only.signed(run, weighed())))
    assert outcomes(refused) == [("refused", "not_allowed")]
    assert refused.data["answers"][0]["status"] == 403
    assert credited(run) == []


def test_each_refusal_says_which_and_the_others_are_done(scene):
    run, _, key, reader = scene
    cases = [
        key.signed(str(uuid4()), weighed()),
        key.signed(run, event("weighed", line="juice", mass_g=-1)),
        key.signed(run, weighed(), kind="unknown"),
        {"text": "{}", "signature": ""},
        key.signed(run, weighed()),
    ]
    answer = reader.post("/signed-actions", carried(*cases))
    assert [(item["outcome"], item["status"]) for item in answer.data["answers"]] == [
        ("refused", 404),
        *[("refused", 422)] * 3,
        ("done", 200),
    ]
    assert reader.post("/signed-actions", carried(*cases * 11)).status_code == 413


def test_a_fault_of_ours_keeps_none_of_the_others_waiting(scene, monkeypatch):
    run, _, key, reader = scene
    kind = KINDS["run_event"]

    def do(signer, subject, body, arrival):
        if body["body"].get("text") == "poison":
            raise ZeroDivisionError
        kind.do(signer, subject, body, arrival)

    monkeypatch.setitem(KINDS, "run_event", replace(kind, do=do))
    three = [key.signed(run, item) for item in (weighed(), event("noted", text="poison"), event("noted", text="clear"))]
    assert outcomes(reader.post("/signed-actions", carried(*three))) == [("done", ""), ("refused", "fault"), ("done", "")]
    assert len(credited(run)) == 2


def test_a_revoked_or_expired_key_s_actions_wait_for_a_lead_who_accepts_or_not(place, scene):
    run, maker, key, reader = scene
    there = maker.get("/own/sessions").data["items"][0]["id"]
    signs_in("maker").post(f"/own/sessions/{there}/end")
    two = [key.signed(run, weighed()), key.signed(run, event("noted", text="by a thief"))]
    answer = reader.post("/signed-actions", carried(*two))
    assert outcomes(answer) == [("held", "")] * 2
    assert "ended from elsewhere" in answer.data["answers"][0]["detail"]
    assert credited(run) == []
    lead = place.apis["lead"]
    held = lead.get("/signed-actions/held").data["items"]
    assert [(item["by"], item["carried_by"], item["body"]["kind"]) for item in held] == [
        ("Maker", "Reader", "weighed"),
        ("Maker", "Reader", "noted"),
    ]
    assert lead.get("/sync").data["held"] == 2
    assert place.apis["stranger"].get("/signed-actions/held").data["items"] == []
    assert place.apis["stranger"].post(f"/signed-actions/{held[0]['id']}/accept").status_code == 404
    assert lead.post(f"/signed-actions/{held[0]['id']}/accept").data["state"] == "accepted"
    assert lead.post(f"/signed-actions/{held[1]['id']}/throw-away").data["state"] == "dropped"
    assert credited(run) == [("maker", "Maker", "lead")]
    assert lead.post(f"/signed-actions/{held[1]['id']}/accept").data["code"] == "gone"
    assert {"accept_action", "throw_away_action"} <= set(HistoryRow.objects.values_list("action", flat=True))
    fresh = Key().register(signs_in("maker"))
    SigningKey.objects.filter(pk=fresh.id).update(expires_at=timezone.now() - timedelta(seconds=1))
    late = reader.post(
        "/signed-actions", carried(fresh.signed(run, weighed()), fresh.signed(run, {**weighed(), "lamport": "first"}, at="at noon"))
    )
    assert late.data["answers"][0]["detail"] == "The key that signed this is older than thirty days."
    waits = lead.get("/signed-actions/held").data["items"]
    assert [item["at"] for item in waits] == [None, None], "whatever a text says, it is shown to the lead"
    refusals = [lead.post(f"/signed-actions/{item['id']}/accept").status_code for item in waits]
    assert sorted(refusals) == [200, 422]


def test_what_nobody_signed_is_only_its_own_session_s_to_send(place, scene):
    run, maker, key, reader = scene
    plain = {**key.signed(run, weighed(), key=""), "signature": ""}
    assert outcomes(reader.post("/signed-actions", carried(plain))) == [("refused", "not_yours")]
    assert outcomes(maker.post("/signed-actions", carried(plain))) == [("done", "")]
    assert credited(run) == [("maker", "Maker", "")]
    before = {
        "text": json.dumps(
            {
                "format": "ulsek.action",
                "version": 1,
                "kind": "run_event",
                "subject": run,
                "id": "old-1",
                "body": {**weighed(), "id": "old-1"},
            }
        )
    }
    assert outcomes(reader.post("/signed-actions", carried(before))) == [("held", "")], "from before actions were signed"
    lead = place.apis["lead"]
    assert lead.post("/signed-actions/old-1/accept").data["where"] == "person"
    assert lead.post("/signed-actions/old-1/accept", {"person": place.stranger.person.pk}).data["where"] == "person"
    assert lead.post("/signed-actions/old-1/accept", {"person": place.members["maker"].person.pk}).data["state"] == "accepted"


def test_an_enrolled_device_carries_without_a_session_and_nobody_else_does(place, scene):
    run, _, key, _ = scene
    tablet = On(place, "bench tablet")
    assert outcomes(tablet.post("/signed-actions", carried(key.signed(run, weighed())))) == [("done", "")]
    assert Api().post("/signed-actions", carried(key.signed(run, weighed()))).status_code == 401
    assert Device.objects.get().pk == SignedAction.objects.get().carried_from_id
    place.apis["lead"].post(f"/devices/{tablet.device.pk}/revoke")
    assert tablet.post("/signed-actions", carried(key.signed(run, weighed()))).status_code == 401


def test_an_unconfirmed_claim_waits_for_a_lead_and_names_nobody(place, scene):
    run, _, _, _ = scene
    tablet, key = On(place, "bench tablet"), Key()
    key.person, key.house = place.members["maker"].person.pk, place.house.pk
    claimed = key.signed(run, weighed(), by="Maker")
    assert outcomes(tablet.post("/signed-actions", carried(claimed))) == [("held", "")]
    row = place.apis["lead"].get("/signed-actions/held").data["items"][0]
    assert (row["by"], row["claimed"], row["device"]) == ("", "Maker", "bench tablet")
    elsewhere = key.signed(run, weighed(), house=place.other.pk)
    assert outcomes(tablet.post("/signed-actions", carried(elsewhere))) == [("refused", "not_yours")], "nobody fills another house's list"
    device = tablet.get("/session").data["device"]
    signs_in("maker").call("put", "/own/pin", {"password": PASSWORD, "pin": "482915"})
    text = sealed(device["sealing_key"], person=key.person, pin="482915", device=device["id"], key=key.id)
    key.certificate = tablet.post("/session/claims", {"sealed": text, "public": key.public, "stays": False}).data["certificate"]
    assert outcomes(tablet.post("/signed-actions", carried(key.signed(run, weighed())))) == [("done", "")]


def test_its_person_says_what_becomes_of_what_was_refused(place, scene):
    run, maker, key, reader = scene
    lost = [key.signed(str(uuid4()), weighed()) for _ in range(3)]
    assert reader.post("/signed-actions/refused", {**lost[0], "decision": "throw_away"}).data["code"] == "not_yours"
    for item, (decision, state) in zip(lost, (("throw_away", "dropped"), ("again", "dropped"), ("keep", "held")), strict=True):
        assert maker.post("/signed-actions/refused", {**item, "decision": decision, "why": "no such batch"}).data["state"] == state
    assert maker.post("/signed-actions/refused", {**lost[0], "decision": "whatever"}).data["where"] == "decision"
    rows = HistoryRow.objects.filter(action="settle_refused").order_by("at").values_list("person__username", "detail__decision")
    assert list(rows) == [("maker", "thrown away"), ("maker", "done again"), ("maker", "kept for the lead")]
    broken = key.signed(run, weighed())
    broken["text"] = broken["text"].replace(":500", ":501")
    assert maker.post("/signed-actions/refused", {**broken, "decision": "keep"}).data["state"] == "held"
    assert "changed after it was signed" in place.apis["lead"].get("/signed-actions/held").data["items"][-1]["why"]


def test_an_id_that_somebody_else_took_loses_nothing(place, scene):
    """Whoever reads an id off a tablet sends something of their own under it: what was signed is refused in words, never passed over as known."""
    run, maker, key, reader = scene
    mine = weighed()
    lead = place.apis["lead"]
    lead.post(f"/runs/{run}/events", {"events": [{**event("noted", text="taken"), "id": mine["id"]}]})
    assert outcomes(reader.post("/signed-actions", carried(key.signed(run, mine)))) == [("refused", "twice")]
    other = weighed()
    altered = key.signed(run, other)
    altered["text"] = altered["text"].replace(":500", ":501")
    assert reader.post("/signed-actions/refused", {**altered, "decision": "keep"}).data["id"].startswith("altered-")
    assert outcomes(maker.post("/signed-actions", carried(key.signed(run, other)))) == [("done", "")]
    assert outcomes(maker.post("/signed-actions", carried(key.signed(run, {**weighed(), "id": "x"}, id="y")))) == [
        ("refused", "unreadable")
    ]
    held = lead.get("/signed-actions/held").data["items"][0]
    assert lead.post(f"/signed-actions/{held['id']}/accept", {"person": place.members["maker"].person.pk}).data["state"] == "accepted"
    assert [by for by, _, _ in credited(run)].count("maker") == 2


def test_what_cannot_be_shown_is_done_all_the_same(scene, monkeypatch):
    run, _, key, reader = scene
    wish = {"kind": "run_event", "subject": "no batch"}
    assert outcomes(reader.post("/signed-actions", carried(key.signed(run, weighed()), view=wish))) == [("done", "")]

    def view(carrier, subject):
        raise ZeroDivisionError

    monkeypatch.setitem(KINDS, "run_event", replace(KINDS["run_event"], view=view))
    sent = reader.post("/signed-actions", carried(key.signed(run, event("noted", text="x")), view={**wish, "subject": run}))
    assert (outcomes(sent), sent.data["view"]) == ([("done", "")], None)


def test_a_lead_decides_for_others_with_the_password_and_in_their_own_house(place, scene):
    _, _, key, _ = scene
    lost = {**key.signed(str(uuid4()), weighed()), "decision": "throw_away"}
    assert place.apis["stranger"].post("/signed-actions/refused", lost).data["code"] == "not_yours"
    lead = signs_in("lead")
    lead.call("put", "/own/pin", {"password": PASSWORD, "pin": "482915"})
    tablet = On(place, "bench tablet")
    tablet.post("/session/switch", {"person": place.members["lead"].person.pk, "pin": "482915"})
    assert tablet.post("/signed-actions/refused", lost).data["code"] == "password_wanted"
    tablet.post("/session/confirm", {"password": PASSWORD})
    assert tablet.post("/signed-actions/refused", lost).data["state"] == "dropped"


def test_a_restored_database_takes_again_what_it_lost_and_knows_the_keys(place, scene):
    run, _, key, reader = scene
    before = reader.get("/sync").data["epoch"]
    action = key.signed(run, weighed())
    reader.post("/signed-actions", carried(action))
    said = json.loads(action["text"])["id"]
    assert reader.get(f"/sync?last={said}").data["has_last"]
    # What the backup does not have: the event, the key, the session.
    SignedAction.objects.all().delete()
    RunEvent.objects.exclude(data__kind="started").delete()
    SigningKey.objects.all().delete()
    SignIn.objects.filter(person__username="maker").delete()
    call_command("restored")
    # Nobody is signed in any more.
    assert reader.get("/sync").status_code == 401
    assert reader.post("/session", {"name": "reader", "password": PASSWORD}).status_code == 200
    sync = reader.get(f"/sync?last={said}").data
    assert (sync["has_last"], sync["epoch"] == before) == (False, False)
    assert outcomes(reader.post("/signed-actions", carried(action))) == [("done", "")]
    assert credited(run) == [("maker", "Maker", "key")]
    forged = {**key.signed(run, weighed()), "certificate": action["certificate"][:-2] + "xx"}
    SigningKey.objects.filter(pk=key.id).delete() if not SignedAction.objects.filter(key=key.id).exists() else None
    assert outcomes(reader.post("/signed-actions", carried(forged))) == [("done", "")], "a known key needs no certificate"


def test_who_left_the_house_is_not_silently_credited(place, scene):
    run, _, key, reader = scene
    Membership.objects.filter(person=place.members["maker"].person).delete()
    assert outcomes(reader.post("/signed-actions", carried(key.signed(run, weighed())))) == [("held", "")]
    assert place.apis["lead"].get("/signed-actions/held").data["items"][0]["why"] == "Who signed this works in this house no more."


def test_the_clock_of_the_device_is_put_right_as_before(scene):
    run, _, key, reader = scene
    ahead = timedelta(days=1)
    made = event("noted", at=(timezone.now() + ahead).isoformat(), text="clear")
    body = {"actions": [key.signed(run, made)], "now": (timezone.now() + ahead).isoformat()}
    reader.post("/signed-actions", body)
    data = RunEvent.objects.get(pk=made["id"]).data
    assert (data["clock"], data["said_at"]) == ("corrected", made["at"])
