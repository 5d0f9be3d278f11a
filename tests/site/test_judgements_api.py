"""The core's judgements over HTTP: each answers, refuses what it cannot judge at its place, and keeps nothing."""

from copy import deepcopy

import pytest

from tests.core.cordial import FORM
from tests.site.drinks import published_drink
from ulsek.batches.folding import events_of, folded
from ulsek.batches.models import Run
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.models import Draft, Spec, Version
from ulsek.team.models import HistoryRow


def renamed(name):
    return {**deepcopy(FORM), "name": name}


def bent(**lines):
    """The cordial with the amounts of whole lines replaced."""
    spec = deepcopy(FORM)
    for step in spec["steps"]:
        for line in step.get("lines", ()):
            line["amount"] = lines.get(line["id"], line["amount"])
    return spec


def test_a_pasted_recipe_becomes_a_draft_that_the_house_can_work_out(place):
    text = "Quince syrup\n900 g quince juice\n32 oz white sugar\n21 oz honey\nDissolve the juice, sugar and honey.\nBottle. Makes 2 litres."
    found = place.apis["lead"].post("/parse", {"text": text})
    assert [(doubt["code"], doubt["answers"]) for doubt in found.data["doubts"]] == [("which_ounce", ["fluid ounces", "by weight"])]
    read = place.apis["lead"].post("/read-draft", {"spec": found.data["draft"]}).data
    fluid, by_weight = read["questions"][0]["answers"]
    assert fluid["then"] == "", "it is read as fluid already"
    told = read["workbench"]["told"][0]
    assert (told["told"], told["agrees"]) == ("Makes 2 litres", True)
    answered = place.apis["lead"].post("/answered", {"spec": found.data["draft"], "position": 0, "answer": 1}).data["spec"]
    assert "doubts" not in answered
    worked = place.apis["lead"].post("/evaluate", {"spec": answered}).data["final"]
    assert worked["mass_g"]["value"] == pytest.approx(900 + 53 * 28.3495, rel=0.03)
    assert by_weight["then"] == f"acid {worked['acid_g_100ml']['value']:.2f}", "the button said what it would do"
    gone = place.apis["lead"].post("/answered", {"spec": answered, "position": 0, "answer": 1})
    assert (gone.status_code, gone.data["detail"]) == (422, "This question is not open any more. Look at the draft as it is now.")
    refused = place.apis["lead"].post("/parse", {"text": " "})
    assert (refused.status_code, refused.data["code"]) == (422, "empty")


def test_a_spec_is_scaled_to_what_there_is_and_to_one_thing_only(place):
    found = place.apis["maker"].post("/scale", {"spec": FORM, "have_g": {"sea_buckthorn_juice": 4200}, "resolution_g": 1})
    assert found.data["factor"] == pytest.approx(4.2)
    assert found.data["rounded"]["masses_g"]["sugar"] == round(4200 * 0.519)
    said = {remark["code"]: remark["where"] for remark in found.data["remarks"]}
    assert said["out_of_proportion"] == "steps/s4", "cooling does not follow"
    assert "vessel_too_small" in said, "the pot holds five litres"
    refused = place.apis["lead"].post("/scale", {"spec": FORM, "serves": 40, "volume_ml": 2000})
    assert (refused.status_code, refused.data["code"]) == (422, "missing")


def test_a_batch_is_costed_with_hands(place):
    found = place.apis["lead"].post("/cost", {"spec": FORM, "labour_per_hour": "24"})
    assert float(found.data["labour"]) == pytest.approx(found.data["hands_min"] / 60 * 24)
    assert float(found.data["outputs"]["product"]) == pytest.approx(float(found.data["materials"]) + float(found.data["labour"]))
    refused = place.apis["lead"].post("/cost", {"spec": FORM, "worth_per_kg": {"peel": "4"}})
    assert (refused.status_code, refused.data["where"]) == (422, "worth_per_kg/peel")


def test_a_dose_is_held_beside_the_house_s_other_specs(place):
    for n in range(2):
        place.spec(body={**renamed(f"Plain {n}"), "id": f"plain{n}"})
    heavy = deepcopy(FORM)
    heavy["steps"][2]["lines"][0]["amount"] = {"kind": "fixed", "mass_g": 300}
    found = place.apis["lead"].post("/evaluate", {"spec": {**heavy, "id": "heavy"}})
    remark = next(item for item in found.data["by_others"] if item["code"] == "far_from_usual")
    assert remark["where"] == "lines/malic"
    assert "the house’s usual" in remark["text"].replace("'", "’")


def test_gear_between_two_specs_over_http(place):
    nuts = {**renamed("Nut cordial"), "id": "nuts"}
    nuts["steps"][0]["lines"].append({"id": "n", "material": "hazelnuts", "amount": {"kind": "fixed", "mass_g": 50}})
    found = place.apis["lead"].post("/gear", {"specs": [nuts, {**FORM, "id": "plain"}]})
    assert "The heavy pot still carries nuts from Nut cordial." in [remark["text"] for remark in found.data]
    assert place.apis["lead"].post("/gear", {"specs": [FORM] * 21}).status_code == 422


def test_weighings_become_a_draft_over_http(place):
    asked = {"name": "Grown", "weighings": [{"material": "honey", "mass_g": 600}, {"material": "water", "mass_g": 300}]}
    draft = place.apis["maker"].post("/capture", asked).data["spec"]
    worked = place.apis["maker"].post("/evaluate", {"spec": draft})
    assert worked.data["final"]["mass_g"]["value"] == pytest.approx(900, rel=1e-6)
    refused = place.apis["maker"].post("/capture", {"name": "Grown", "weighings": [{"material": "honey"}]})
    assert (refused.status_code, refused.data["where"]) == (422, "weighings/0")


def test_a_maker_starts_a_draft_from_weighings_and_publishes_nothing(place):
    weighings = [{"material": "honey", "mass_g": 500}, {"material": "water", "mass_g": 250}, {"verb": "rest", "minutes": 30}]
    made = place.apis["maker"].post("/capture/start", {"name": "Caught", "weighings": weighings})
    assert made.status_code == 201
    body = Draft.objects.get(spec=made.data["spec"]).body
    assert [step["verb"] for step in body["steps"]][:2] == ["combine", "rest"]
    refused = place.apis["maker"].post(f"/specs/{made.data['spec']}/publish", {"revision": 1, "why": "x"})
    assert refused.status_code == 403
    assert place.apis["reader"].post("/capture/start", {"name": "x", "weighings": weighings}).status_code == 403
    assert place.apis["maker"].post("/capture/start", {"name": " ", "weighings": weighings}).data["where"] == "name"


def test_ways_reach_any_figure_the_fewest_additions_first(place):
    api = place.apis["maker"]
    asked = {"spec": FORM, "aims": [{"property": "brix", "value": 45}, {"property": "acid_g_100ml", "bound": "keep"}]}
    found = api.post("/ways", asked).data["ways"]
    assert [len(way["additions"]) for way in found] == sorted(len(way["additions"]) for way in found)
    stands = api.post("/evaluate", {"spec": FORM}).data["final"]
    for way in found:
        assert way["figures"]["brix"] == pytest.approx(45.0, abs=1e-6)
        assert way["figures"]["acid_g_100ml"] == pytest.approx(stands["acid_g_100ml"]["value"], abs=0.01)
    honeyed = api.post("/ways", {"spec": FORM, "aims": [{"property": "brix", "value": 45}], "add": ["honey"]}).data["ways"]
    assert [item["material"] for item in honeyed[0]["additions"]] == ["honey"]


@pytest.mark.parametrize(
    ("change", "where", "words"),
    [
        ({"aims": []}, "aims", "Nothing is aimed at"),
        ({"aims": [{"property": "mood", "value": 3}]}, "aims/0/property", "This is nothing to aim at"),
        ({"aims": [{"property": "brix"}]}, "aims/0/value", "A number is missing"),
        ({"aims": [{"property": "brix", "value": 400}]}, "aims/0/value", "400 is out of bounds"),
        ({"add": ["moon_dust"]}, "add/0", "Nothing is known about “moon_dust”"),
        ({"aims": [{"property": "brix", "value": 5}], "add": ["white_sugar"]}, "", "cannot be reached by adding white sugar"),
        ({"aims": [{"property": "cost", "value": 5}], "add": ["honey"]}, "materials/honey/price_per_kg", "what honey costs"),
    ],
)
def test_ways_that_cannot_be_are_refused_at_their_place(place, change, where, words):
    refused = place.apis["lead"].post("/ways", {"spec": FORM, "aims": [{"property": "brix", "value": 45}], **change})
    assert refused.status_code == 422
    assert refused.data["where"] == where
    assert words in refused.data["detail"]


def test_keeping_hears_evidence_and_the_house(place):
    api = place.apis["lead"]
    plain = api.post("/keeping", {"spec": FORM}).data
    assert (plain["keeping"]["days"], plain["keeping"]["safety"]["kind"]) == (5, "class")
    assert {way["barrier"] for way in plain["keeps_longer"]} >= {"ph", "abv", "frozen"}
    assert api.post("/keeping", {"spec": FORM, "read": {"ph": 2.9}}).data["keeping"]["safety"]["kind"] == "class", (
        "nobody checked the meter"
    )
    shown = api.post("/keeping", {"spec": FORM, "read": {"ph": 2.9}, "meter_checked": True}).data["keeping"]
    assert (shown["days"], shown["safety"]["kind"], shown["at_most_c"]) == (28, "barrier", 5)
    wrong = api.post("/keeping", {"spec": FORM, "read": {"ph": 2.9, "brix_reading": 10}, "meter_checked": True}).data["keeping"]
    assert wrong["days"] == 28
    assert "10.0\u00a0°Bx read" in wrong["not_shown"][0]
    shorter = api.post("/keeping", {"spec": FORM, "house": {"of": "safety", "days": 2}}).data["keeping"]
    assert shorter["days"] == 2
    longer = {"of": "safety", "days": 9, "name": "Ilse M.", "reason": "we always did"}
    refused = api.post("/keeping", {"spec": FORM, "house": longer})
    assert (refused.status_code, refused.data["code"]) == (422, "no_evidence")
    assert api.post("/keeping", {"spec": FORM, "house": {**longer, "authority": "letter of 2 March"}}).data["keeping"]["days"] == 9


@pytest.mark.parametrize(("name", "value"), [("mood", 3), ("ph", 15), ("water_activity", 1.2)])
def test_readings_that_say_nothing_of_keeping_are_refused(place, name, value):
    refused = place.apis["lead"].post("/keeping", {"spec": FORM, "read": {name: value}})
    assert (refused.status_code, refused.data["where"]) == (422, f"read/{name}")


@pytest.mark.parametrize("path", ["/ways", "/keeping", "/scale", "/cost"])
def test_no_judgement_is_given_on_half_a_spec(place, path):
    half = bent(sugar={"kind": "ratio", "to": {"line": "juice"}, "basis": "weight", "ratio": "0,"})
    more = {"/ways": {"aims": [{"property": "brix", "value": 45}]}, "/scale": {"serves": 40}}.get(path, {})
    refused = place.apis["lead"].post(path, {"spec": half, **more})
    assert (refused.status_code, refused.data["where"]) == (422, "steps/s2/lines/sugar/amount/ratio")
    lost = bent(sugar={"kind": "fixed", "mass_g": 9000})
    stuck = place.apis["lead"].post(path, {"spec": {**lost, "steps": [*lost["steps"], {"id": "s6", "verb": "press"}]}, **more})
    assert stuck.status_code == 422
    assert stuck.data["where"].startswith("steps/s6")


@pytest.mark.parametrize(
    ("asked", "where"),
    [
        ({"serves": 0}, "serves"),
        ({"serves": 0.001}, "serves"),
        ({"volume_ml": -4}, "volume_ml"),
        ({"have_g": {"honey": 400}}, "have_g/honey"),
        ({"have_g": {"white_sugar": -1}}, "have_g/white_sugar"),
        ({"vessel": "tub", "capacity_ml": 4000}, "vessel"),
        ({"vessel": "pot"}, "capacity_ml"),
        ({"serves": 40, "resolution_g": 0}, "resolution_g"),
        ({"serves": 40, "jigger_ml": 30}, "resolution_g"),
    ],
)
def test_what_cannot_be_scaled_to_is_refused_and_nothing_is_clamped(place, asked, where):
    refused = place.apis["maker"].post("/scale", {"spec": FORM, **asked})
    assert (refused.status_code, refused.data["where"]) == (422, where), refused.content


def test_a_vessel_sets_the_batch_with_its_head_room(place):
    half = place.apis["maker"].post("/scale", {"spec": FORM, "vessel": "pot", "capacity_ml": 5000, "head_room_percent": 50}).data
    full = place.apis["maker"].post("/scale", {"spec": FORM, "vessel": "pot", "capacity_ml": 5000, "head_room_percent": 0}).data
    assert full["factor"] == pytest.approx(2 * half["factor"])
    assert full["masses_g"]["sugar"] == pytest.approx(0.519 * full["masses_g"]["juice"])


def test_a_quick_sum_answers_and_refuses_at_its_figure(place):
    api = place.apis["reader"]
    assert {"acid_solution", "dilute", "titration"} <= {item["name"] for item in api.get("/sums").data}
    found = api.post("/sums/dilute", {"figures": {"mass": "1000", "have": 66.667, "want": "50"}}).data
    assert found["figures"][0]["value"] == pytest.approx(333.3, abs=0.1)
    for figures, where in (({"mass": 1000, "have": 40, "want": 50}, "want"), ({"mass": "much", "have": 66, "want": 50}, "mass")):
        refused = api.post("/sums/dilute", {"figures": figures})
        assert (refused.status_code, refused.data["where"]) == (422, where)
    assert api.post("/sums/alchemy", {"figures": {}}).status_code == 422


def test_no_judgement_keeps_anything(place):
    place.spec()
    before = (Draft.objects.count(), Version.objects.count())
    api = place.apis["lead"]
    api.post("/parse", {"text": "Syrup\n1 kg water\n1 kg white sugar\nMix everything."})
    api.post("/capture", {"name": "Grown", "weighings": [{"material": "honey", "mass_g": 600}]})
    api.post("/ways", {"spec": FORM, "aims": [{"property": "brix", "value": 45}]})
    api.post("/keeping", {"spec": FORM})
    assert (Draft.objects.count(), Version.objects.count()) == before


def test_a_house_s_rules_judge_its_specs_anew_and_leave_an_open_run_alone(place):
    api, days = place.apis["lead"], lambda: place.apis["lead"].post("/keeping", {"spec": FORM}).data["keeping"]["safety"]["days"]
    run = place.run()
    entry = {"days": 2, "source": "house, after a warm summer", "dated": "2026-11-25"}
    stricter = {"format": "ulsek.rules", "version": 1, "classes": {"fresh_juice": entry}}
    answer = api.put("/rules", {"rules": stricter}, 1)
    assert (answer.status_code, answer.data["standing"]["classes"]["fresh_juice"]["days"]) == (200, 2)
    assert days() == 2
    assert api.get("/rules").data["rules"] == stricter
    assert place.apis["stranger"].get("/rules").data["rules"] == {}
    pinned = Run.objects.get(pk=run)
    assert folded(pinned, events_of(pinned)).evaluation.rules.keeping["classes"]["fresh_juice"]["days"] == 3
    looser = {**stricter, "classes": {"fresh_juice": {**entry, "days": 9}}}
    refused = api.put("/rules", {"rules": looser}, 1)
    assert (refused.status_code, refused.data["where"]) == (422, "classes/fresh_juice/authority")
    assert days() == 2, "what was refused changed nothing"


BARK = {
    "format": "ulsek.spec",
    "version": 1,
    "id": "bitter-base",
    "name": "Bitter base",
    "family": "bitter_base",
    "serve_ml": 20,
    "driver": "water",
    "vessels": [{"id": "pot", "name": "pot"}],
    "steps": [
        {"id": "s1", "verb": "combine", "lines": [{"id": "water", "material": "water", "amount": {"kind": "fixed", "mass_g": 1000}}]},
        {"id": "s2", "verb": "steep", "lines": [{"id": "bark", "material": "cinchona_bark", "amount": {"kind": "fixed", "mass_g": 3}}]},
        {"id": "s3", "verb": "strain"},
        {"id": "s4", "verb": "bottle"},
    ],
    "served_in": {"dose_ml": 20, "drink_ml": 250},
}


def test_a_prep_is_judged_in_the_house_s_drinks_and_a_limit_passed_there_stops_it(place):
    lead, api = place.members["lead"], place.apis["lead"]
    base = start_spec(lead, NewSpec("Bitter base", "bitter_base"), BARK)
    publish_spec(lead, base.pk, 1, "first")
    published_drink(lead, "Long bitter", "bitter_base", 60)
    codes = {item["code"]: item for item in api.get(f"/specs/{base.pk}/draft").data["result"]["by_others"]}
    assert codes["restricted_quinine_in_drink"]["severity"] == "check"
    stronger = deepcopy(BARK)
    stronger["steps"][1]["lines"][0]["amount"]["mass_g"] = 6
    saved = api.put(f"/specs/{base.pk}/draft", {"spec": stronger}, 1).data
    remarks = {item["code"]: item for key in ("remarks", "by_others") for item in saved["result"][key]}
    assert remarks["restricted_quinine"]["severity"] == "note", "in the drink that it is for it is well within"
    assert remarks["restricted_quinine_in_drink"]["severity"] == "stop"
    assert remarks["restricted_quinine_in_drink"]["text"].startswith("In Long bitter: ")
    refused = api.post(f"/specs/{base.pk}/publish", {"revision": 2, "why": "more bitter"})
    assert (refused.status_code, refused.data["code"]) == (422, "restricted_quinine_in_drink")


def test_allergens_are_answered_for_a_drink_through_its_preps(place):
    lead, api = place.members["lead"], place.apis["reader"]
    nuts = deepcopy(BARK) | {"id": "nut-base", "name": "Nut base", "family": "nut_puree"}
    nuts["steps"][1]["lines"][0] = {"id": "nut", "material": "hazelnuts", "amount": {"kind": "fixed", "mass_g": 100}}
    base = start_spec(lead, NewSpec("Nut base", "nut_puree"), nuts)
    publish_spec(lead, base.pk, 1, "first")
    drink = published_drink(lead, "Nut long", "nut_base", 40)
    answer = api.get(f"/specs/{drink.pk}/allergens").data
    assert answer["contains"] == [{"allergen": "nuts", "through": [["Nut base", "Hazelnuts, toasted"]]}]
    assert answer["words"] == "It holds nuts (Nut base, from Hazelnuts, toasted)."
    prep = api.get(f"/specs/{base.pk}/allergens").data
    assert (prep["is_drink"], prep["asks_lead"]) == (False, True)
    assert [item["name"] for item in prep["drinks"]] == ["Nut long"]
    assert place.apis["stranger"].get(f"/specs/{drink.pk}/allergens").status_code == 404


def test_a_house_says_its_height_once_and_a_batch_keeps_what_it_started_with(place):
    api = place.apis["lead"]
    assert api.get("/session").data["altitude_m"] is None
    run = place.run()
    assert api.put("/house/altitude", {"altitude_m": 1600}, 1).data["altitude_m"] == 1600
    assert place.apis["maker"].put("/house/altitude", {"altitude_m": 10}, 1).status_code == 403
    assert api.put("/house/altitude", {"altitude_m": 12000}, 1).data["detail"].startswith("12\u00a0000 m is no place for a bar")
    later = place.run(Spec.objects.get(key="cordial"))
    assert [folded(item, events_of(item)).evaluation.rules.altitude_m for item in (Run.objects.get(pk=run), Run.objects.get(pk=later))] == [
        0,
        1600,
    ]
    assert HistoryRow.objects.filter(action="set_altitude").count() == 1
