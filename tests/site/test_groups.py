"""A group of houses: joined by a code, led in each of them, left; specs copied between them, followed or going their own way."""

import pytest
from django.utils import timezone

from tests.core.cordial import FORM
from tests.site.conftest import PASSWORD, Api
from ulsek.site.management.commands.tidy import tidy
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.models import Origin, Spec, Version
from ulsek.stores.models import HouseMaterial
from ulsek.team.actions.group import settle_group
from ulsek.team.models import GroupLead, House, HouseGroup, Membership


def refused(answer, code, words=""):
    assert (answer.status_code, answer.data["code"]) == (422, code), answer.content
    assert words in answer.data["detail"]


@pytest.fixture
def grouped(place):
    """Tern House and Lantern Yard in one group, which the lead of Tern House leads. `chief` is that lead at Lantern Yard."""
    lead = place.apis["lead"]
    assert lead.post("/group", {"name": "The Shore"}).status_code == 201
    joined = place.apis["stranger"].post("/group/join", {"code": lead.post("/group/code").data["code"]})
    assert (joined.status_code, joined.data["houses"], joined.data["mine"]) == (200, ["Lantern Yard", "Tern House"], False)
    assert lead.post("/session/house", {"house": place.house.pk}).status_code == 200
    place.chief = Api()
    assert place.chief.post("/session", {"name": "lead", "password": PASSWORD}).data["house"] == "Tern House", "where they were last"
    assert place.chief.post("/session/house", {"house": place.other.pk}).data["role"] == "lead"
    return place


def changed(place, spec, minutes, why, api=None):
    """The next version of a spec, with its bath of another length."""
    api = api or place.apis["lead"]
    draft = api.get(f"/specs/{spec.pk}/draft").data
    steps = [{**step, "minutes": minutes} if step["id"] == "s4" else step for step in draft["body"]["steps"]]
    saved = api.put(f"/specs/{spec.pk}/draft", {"spec": {**draft["body"], "steps": steps}, "writer": "tab"}, draft["revision"])
    assert saved.status_code == 200, saved.content
    done = api.post(f"/specs/{spec.pk}/publish", {"revision": saved.data["revision"], "why": why})
    assert done.status_code == 201, done.content


def copied(place, spec, number=1, **how):
    return place.apis["lead"].post(f"/specs/{spec.pk}/versions/{number}/copy", {"house": place.other.pk, **how})


def test_a_house_joins_by_a_code_once_and_the_group_s_lead_sees_and_leads_both(grouped):
    rows = {row["name"]: row for row in grouped.apis["lead"].get("/group/houses").data}
    assert set(rows) == {"Tern House", "Lantern Yard"}
    grouped.run(grouped.spec())
    rows = {row["name"]: row for row in grouped.apis["lead"].get("/group/houses").data}
    assert [(rows[name]["published"], rows[name]["under_way"]) for name in ("Tern House", "Lantern Yard")] == [(1, 1), (0, 0)]
    assert grouped.apis["stranger"].get("/group/houses").status_code == 403, "a lead of one house sees the others' names, not their figures"
    assert grouped.apis["stranger"].post("/group/code").status_code == 403
    assert grouped.apis["maker"].get("/group/houses").status_code == 403
    assert grouped.apis["reader"].get("/group").status_code == 403
    refused(grouped.apis["stranger"].post("/group", {"name": "Mine"}), "twice", "Lantern Yard is in the group The Shore")
    refused(grouped.apis["lead"].post("/group", {"name": "Another"}), "twice")
    third = House.objects.create(name="Curlew", zone="UTC")
    outsider = grouped._member(third, "lead", "outsider")
    code = grouped.apis["lead"].post("/group/code").data["code"]
    refused(Api(outsider.person).post("/group", {"name": "The Shore"}), "twice")
    refused(Api(outsider.person).post("/group/join", {"code": code[::-1]}), "wrong_code", "This code opens no group")
    HouseGroup.objects.update(join_until=timezone.now())
    refused(Api(outsider.person).post("/group/join", {"code": code}), "wrong_code", "within a week")
    code = grouped.apis["lead"].post("/group/code").data["code"]
    assert Api(outsider.person).post("/group/join", {"code": code.lower()}).status_code == 200
    fourth = grouped._member(House.objects.create(name="Knot", zone="UTC"), "lead", "fourth")
    refused(Api(fourth.person).post("/group/join", {"code": code}), "wrong_code")


def test_the_group_s_lead_goes_with_the_group_and_only_with_it(grouped):
    lead, person = grouped.apis["lead"], grouped.members["lead"].person
    stranger = grouped.apis["stranger"]
    refused(stranger.post(f"/people/{person.pk}/let-go"), "by_group", "leads Lantern Yard with its group")
    refused(stranger.call("put", f"/people/{person.pk}/role", {"role": "reader"}), "by_group")
    refused(grouped.chief.post("/own/leave"), "by_group")
    refused(lead.call("delete", f"/group/leads/{person.pk}"), "last_lead")
    second = grouped.members["maker"].person
    lead.call("put", f"/people/{second.pk}/role", {"role": "lead"})
    also = Api(second)
    # Who leads the group is not let go of one of its houses, their own or not: within the hour they would be back.
    refused(also.post(f"/people/{person.pk}/let-go"), "by_group", "Take the lead of the group from them first")
    refused(lead.post("/own/leave"), "by_group")
    refused(lead.post(f"/people/{second.pk}/hand-over"), "by_group")
    settle_group(HouseGroup.objects.get())
    assert Membership.objects.filter(house=grouped.other).count() == 2, "done again it changes nothing"
    assert stranger.call("delete", "/group").data["name"] == ""
    assert not Membership.objects.filter(house=grouped.other, person=person).exists()
    assert grouped.chief.get("/specs").status_code == 401, "what was open there is over"
    assert lead.get("/specs").status_code == 200
    lead.call("delete", "/group")
    assert not HouseGroup.objects.exists(), "a group without a house is gone"


def test_two_leads_of_a_group_and_what_a_crash_left_undone(grouped):
    lead, maker = grouped.apis["lead"], grouped.members["maker"].person
    refused(lead.post("/group/leads", {"person": maker.pk}), "out_of_bounds", "Maker does not lead Tern House")
    lead.call("put", f"/people/{maker.pk}/role", {"role": "lead"})
    GroupLead.objects.create(group=HouseGroup.objects.get(), person=maker)
    tidy()
    assert Membership.objects.get(house=grouped.other, person=maker).by_group, "what was begun is finished within the hour"
    first = grouped.members["lead"].person
    assert grouped.apis["maker"].post("/session/house", {"house": grouped.house.pk}).status_code == 200
    assert grouped.apis["maker"].call("delete", f"/group/leads/{first.pk}").status_code == 200
    assert not Membership.objects.filter(house=grouped.other, person=first).exists()
    assert Membership.objects.get(house=grouped.house, person=first).role == "lead", "their own house stays theirs"
    Membership.objects.filter(house=grouped.other, person=grouped.stranger.person).delete()
    at_other = Api(maker)
    at_other.post("/session", {"name": "maker", "password": PASSWORD})
    at_other.post("/session/house", {"house": grouped.other.pk})
    refused(at_other.call("delete", "/group"), "last_lead", "has no lead but those of the group")


def test_a_followed_copy_comes_with_its_preps_and_takes_newer_versions_in(grouped):
    lead, stranger = grouped.apis["lead"], grouped.apis["stranger"]
    syrup = grouped.spec()
    outputs = Version.objects.get(spec=syrup).outputs
    (made,) = (key for key in outputs if outputs[key].get("made_by") == syrup.key)
    lines = [
        {"id": "base", "material": made, "amount": {"kind": "fixed", "written": "500 g"}},
        {"id": "salt", "material": "salt", "amount": {"kind": "fixed", "written": "1 g"}},
    ]
    body = {
        **FORM,
        "id": "salted",
        "name": "Salted cordial",
        "driver": "base",
        "goals": [],
        "steps": [{"id": "s1", "verb": "combine", "lines": lines}, FORM["steps"][-1]],
    }
    salted = start_spec(grouped.members["lead"], NewSpec("Salted cordial", "cordial"), body)
    publish_spec(grouped.members["lead"], salted.pk, 1, "first")
    done = copied(grouped, salted)
    assert done.status_code == 201, done.content
    assert (done.data["published"], done.data["also"], done.data["held_up"]) == (True, ["Sea buckthorn cordial"], None)
    there = {spec.name: spec for spec in Spec.objects.filter(house=grouped.other)}
    assert {spec.state for spec in there.values()} == {"published"}
    assert HouseMaterial.objects.filter(house=grouped.other, key=made).exists()
    copy = there["Sea buckthorn cordial"]
    assert stranger.get(f"/specs/{copy.pk}/origin").data["house"] == "Tern House"
    refused(copied(grouped, syrup), "twice", "Lantern Yard follows Sea buckthorn cordial already")
    draft = stranger.get(f"/specs/{copy.pk}/draft").data
    refused(
        stranger.put(f"/specs/{copy.pk}/draft", {"spec": draft["body"], "writer": "t"}, draft["revision"]), "followed", "follows Tern House"
    )
    refused(stranger.post(f"/specs/{copy.pk}/follow"), "unchanged", "Tern House has no newer version of it")
    changed(grouped, syrup, 50, "longer in the bath")
    assert stranger.get(f"/specs/{copy.pk}/origin").data["newest"] == 2
    rows = {row["name"]: row for row in lead.get("/group/houses").data}
    assert rows["Lantern Yard"]["behind"] == 1
    assert stranger.post(f"/specs/{copy.pk}/follow").data["why"] == "Tern House, version 2: longer in the bath"
    theirs, ours = Version.objects.get(spec=copy, number=2), Version.objects.get(spec=syrup, number=2)
    assert theirs.final == ours.final, "the same liquid"
    changed(grouped, syrup, 55, "longer still")
    (follower,) = lead.get(f"/specs/{syrup.pk}/followers").data
    assert lead.post(f"/specs/{syrup.pk}/followers/{follower['spec']}/take").data[0]["number"] == 3
    assert stranger.post(f"/specs/{copy.pk}/fork").status_code == 200
    refused(stranger.post(f"/specs/{copy.pk}/follow"), "not_followed")
    changed(grouped, copy, 44, "our own way", stranger)
    assert lead.get(f"/specs/{syrup.pk}/followers").data == []


def test_a_fork_is_a_draft_of_the_house_s_own(grouped):
    spec = grouped.spec()
    done = copied(grouped, spec, followed=False).data
    assert (done["published"], done["held_up"]) == (False, None)
    copy = Spec.objects.get(house=grouped.other)
    assert copy.state == "draft"
    changed(grouped, copy, 44, "ours", grouped.apis["stranger"])
    assert Origin.objects.get(spec=copy).number == 1


def test_nothing_is_copied_into_a_house_that_one_does_not_lead_nor_seen_out_of_the_group(grouped):
    spec = grouped.spec()
    third = House.objects.create(name="Curlew", zone="UTC")
    assert grouped.apis["lead"].post(f"/specs/{spec.pk}/versions/1/copy", {"house": third.pk}).status_code == 404
    refused(grouped.apis["lead"].post(f"/specs/{spec.pk}/versions/1/copy", {"house": grouped.house.pk}), "circle")
    assert copied(grouped, spec).status_code == 201
    copy = Spec.objects.get(house=grouped.other)
    grouped.apis["stranger"].call("delete", "/group")
    changed(grouped, spec, 50, "longer")
    assert grouped.apis["stranger"].get(f"/specs/{copy.pk}/origin").data["newest"] == 0, "out of the group, nothing more is seen"
    refused(grouped.apis["stranger"].post(f"/specs/{copy.pk}/follow"), "unchanged")


def test_what_the_other_house_s_rules_stop_stays_a_draft_there_and_says_why(grouped):
    spec = grouped.spec()
    changed(grouped, spec, 50, "longer")
    House.objects.filter(pk=grouped.other.pk).update(rules={"format": "ulsek.rules", "version": 1, "altitude_m": 3900})
    done = copied(grouped, spec, 2).data
    copy = Spec.objects.get(house=grouped.other)
    assert (copy.newest_id is None) == bool(done["held_up"]), done
