"""Who may make what: what somebody has read, rehearsed and made, whether they are cleared, and that a batch without it is noted and not refused."""

from tests.site.conftest import event
from ulsek.specs.actions.read_version import acknowledge
from ulsek.team.models import HistoryRow, Membership, Person

WEIGHED = [("juice", 500), ("sugar", 259.5), ("malic", 4.0)]


def practice(place, person, api="lead"):
    (row,) = place.apis[api].get("/clearances").data["items"]
    return next(item for item in row["people"] if item["person"] == person.pk)


def finishes(place, run, *roles):
    """Everybody named weighs or ticks something off, and the last of them finishes the batch."""
    weighed = [event("weighed", line=line, mass_g=mass) for line, mass in WEIGHED]
    done = [event("step_done", step=f"s{n}") for n in range(1, 6)]
    last = roles[-1]
    assert place.apis[roles[0]].post(f"/runs/{run}/events", {"events": weighed}).status_code == 200
    end = event("finished", volume_ml=600, rest="spoon", signed=True)
    assert place.apis[last].post(f"/runs/{run}/events", {"events": [*done, end]}).status_code == 200


def test_what_somebody_did_with_a_spec_stands_in_the_matrix(place):
    spec, maker, lead = place.spec(), place.members["maker"].person, place.members["lead"].person
    empty = practice(place, maker)
    assert (empty["read_at"], empty["rehearsed_at"], empty["made"], empty["beside"], empty["cleared_at"]) == (None, None, 0, [], None)
    acknowledge(place.members["maker"], spec.versions.get())
    finishes(place, place.run(spec, rehearsal=True, mass_g=500), "maker")
    finishes(place, place.run(spec, mass_g=500), "maker", "lead")
    mine = practice(place, maker)
    assert mine["read_at"]
    assert mine["rehearsed_at"]
    assert (mine["made"], mine["beside"]) == (1, ["Lead"]), "the batch that was begun by the maker, with the lead's hands in it"
    assert practice(place, lead)["beside"] == ["Maker"]
    assert practice(place, lead)["made"] == 0
    readers = {item["person"] for item in place.apis["maker"].get("/clearances").data["items"][0]["people"]}
    assert place.members["reader"].person.pk not in readers


def test_a_batch_without_clearance_is_noted_and_never_refused(place):
    spec, maker = place.spec(), place.members["maker"].person
    place.run(spec, mass_g=500)
    assert not HistoryRow.objects.filter(action="make_uncleared").exists(), "a house that clears nobody asks for none"
    other = Person.objects.create(username="noor", display_name="Noor")
    Membership.objects.create(house=place.house, person=other, role="maker")
    path, lead = f"/specs/{spec.pk}/clearances", place.apis["lead"]
    assert lead.call("put", f"{path}/{other.pk}", {"cleared": True}).status_code == 200
    assert place.apis["maker"].get(f"/specs/{spec.pk}/versions/1/reading").data["lacks_clearance"]
    assert not lead.get(f"/specs/{spec.pk}/versions/1/reading").data["lacks_clearance"]
    place.run(spec, mass_g=500)
    place.run(spec, rehearsal=True, mass_g=500)
    assert HistoryRow.objects.filter(action="make_uncleared", person=maker).count() == 1, "the batch, not the rehearsal"
    cleared = lead.call("put", f"{path}/{maker.pk}", {"cleared": True}).data
    mine = next(item for item in cleared["people"] if item["person"] == maker.pk)
    assert (bool(mine["cleared_at"]), mine["cleared_by"]) == (True, "Lead")
    assert not place.apis["maker"].get(f"/specs/{spec.pk}/versions/1/reading").data["lacks_clearance"]
    lead.call("put", f"{path}/{maker.pk}", {"cleared": False})
    assert practice(place, maker)["cleared_at"] is None
    acts = HistoryRow.objects.filter(action__in=("clear_person", "end_clearance")).order_by("at").values_list("action", "subject")
    assert list(acts)[-1] == ("end_clearance", "Maker: Sea buckthorn cordial")


def test_who_only_reads_is_not_cleared(place):
    spec, reader = place.spec(), place.members["reader"].person
    answer = place.apis["lead"].call("put", f"/specs/{spec.pk}/clearances/{reader.pk}", {"cleared": True})
    assert (answer.status_code, answer.data["detail"]) == (422, "Reader only reads here. Make them a maker first.")


def test_the_matrix_takes_as_many_queries_for_many_specs_as_for_one(place, django_assert_max_num_queries):
    for _ in range(3):
        place.spec()
    with django_assert_max_num_queries(12):
        assert len(place.apis["lead"].get("/clearances").data["items"]) == 3
