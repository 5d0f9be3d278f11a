"""Events: every kind is read, written and described from the same declarations; what cannot have happened is refused at its place."""

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.cordial import open_form
from ulsek.core.base.refusals import Refusal
from ulsek.core.run.events.catalogue import EVENTS, read_event, read_stored_event
from ulsek.core.run.events.schema import event_schema

BURETTE = {"naoh_ml": 37.5, "sample_ml": 10.0, "normality": 0.1}
ADDITION = {"line": "repair1.water", "material": "water", "mass_g": 12.5, "name": "water"}
LEFTOVER = {"name": "pulp", "key": "by_product:pulp", "to": "lot", "mass_g": 210.0, "rest": "in the cloth", "place": "shelf 2"}
GOOD = {
    "line": "juice", "step": "s1", "supply": "delivery:7", "material": "water", "property": "acid_g_100ml", "sense": "look", "verdict": "odd", "repair": "repair1",
    "of": "e1", "text": "clear", "to": "Noor", "mass_g": 5.0, "planned_g": 5.5, "replaces": "e0", "count": 3.0, "volume_ml": 1.5, "drops": 24.0, "drop_ml": 0.05,
    "factor": 2.0, "value": 2.4, "burette": BURETTE, "checked": True, "share": 0.5, "tare_g": 812.0, "changes": {"minutes": 12}, "additions": [ADDITION], "place": "cold room",
    "signed": True, "by_products": [LEFTOVER, {"name": "peel", "to": "bin", "reason": "spent"}], "containers": [3, 1], "rest": "spilled",
}  # fmt: skip
"""A value that each part may have, by its name."""
EVIL = (
    *(None, "", "x", True, False, 0, -1, 5, 0.04, 0.9, 1e9, -1e-7, [], {}, [1, 2], [1, 1], ["x"], [{}], {"id": "s9"}, "lot:L1", "jar", "right", "taste", "ph", "bin"),
    *({**BURETTE, "normality": 0}, {"naoh_ml": 1}, [{**ADDITION, "mass_g": 0}], [{**ADDITION, "name": None}], [{"line": "x"}], [{**LEFTOVER, "to": "sea"}]),
    *("x" * 61, [{**LEFTOVER, "mass_g": None}], [{**LEFTOVER, "place": "x" * 61}], [{"name": "pulp", "to": "bin"}], [ADDITION, 3]),
)  # fmt: skip
SCHEMA = jsonschema.Draft202012Validator(event_schema())
UNSAYABLE = {"reading_out_of_range", "not_finite", "unreadable"}
"""Codes of refusals that depend on two parts at once: the bounds of a reading on its property, its burette too."""


def full(kind):
    """A body with every part that the kind has."""
    step = {"id": "extra", "verb": "combine", "lines": []} if kind == "step_added" else "s1"
    body = {name: GOOD[name] for name in EVENTS[kind].parts()}
    return {**body, "step": step} if "step" in body else body


@pytest.mark.parametrize("kind", EVENTS)
def test_every_kind_comes_out_as_it_went_in(kind):
    bodies = [full(kind), {name: full(kind)[name] for name, part in EVENTS[kind].parts().items() if part.required}]
    for body in bodies if kind != "read" else bodies[:1]:
        event = read_event(open_form(kind, body))
        out = event.as_data()
        assert out["body"] == body
        assert read_event(out) == event
        assert read_event({**out, "body": {**out["body"], "colour": "blue"}}) == event, "parts that nobody declared are passed over"
        SCHEMA.validate(out)


@settings(max_examples=3000)
@given(st.data())
def test_what_the_schema_describes_is_what_is_read(data):
    kind = data.draw(st.sampled_from(list(EVENTS)))
    wrong = data.draw(st.dictionaries(st.sampled_from(list(EVENTS[kind].parts()) or ["none"]), st.sampled_from(EVIL), max_size=2))
    left_out = data.draw(st.sets(st.sampled_from(list(EVENTS[kind].parts()) or ["none"]), max_size=1))
    body = {name: value for name, value in {**full(kind), **wrong}.items() if name not in left_out}
    described = SCHEMA.is_valid(open_form(kind, body))
    try:
        event = read_event(open_form(kind, body))
    except Refusal as refusal:
        two_parts = (kind == "read" and refusal.code in UNSAYABLE) or refusal.where.endswith("/reason")
        assert not described or two_parts, f"{kind} {body}: {refusal.text}"
        assert refusal.where.startswith("body/")
        return
    assert described, f"{kind} {body} is read, and not described"
    assert read_event(event.as_data()) == event


@settings(max_examples=1000)
@given(st.sampled_from(list(EVENTS)), st.data())
def test_an_event_that_was_kept_stays_readable_whatever_stands_in_its_optional_parts(kind, data):
    body = full(kind)
    optional = [name for name, part in EVENTS[kind].parts().items() if not part.required and name != "value"]
    wrong = data.draw(st.dictionaries(st.sampled_from(optional or ["none"]), st.sampled_from(EVIL)))
    event = read_stored_event(open_form(kind, {**body, **wrong}))
    assert all(getattr(event, name) == getattr(read_event(open_form(kind, body)), name) for name in body if name not in wrong)


def test_what_lets_a_run_take_from_another_delivery_is_known_by_kind():
    moves = {kind for kind, event in EVENTS.items() if event.moves_supplies}
    assert moves == {"repair_taken", "step_added", "taken_from", "undone", "went_on", "wrong_jar"}


def test_a_weight_is_read_without_its_vessel():
    weight = {"property": "mass_g", "value": 1545.0, "tare_g": 812.0}
    assert read_event(open_form("read", weight)).reading().value == 733.0
    assert read_event(open_form("read", {**weight, "property": "temperature_c", "value": 20.0})).reading().value == 20.0
    with pytest.raises(Refusal, match="−12 cannot be: from 0 g to a tonne"):
        read_event(open_form("read", {**weight, "value": 800.0}))


def test_a_kept_event_without_what_it_needs_is_refused_still():
    with pytest.raises(Refusal, match="“weighed” needs mass_g"):
        read_stored_event(open_form("weighed", {"line": "juice"}))


@pytest.mark.parametrize(
    ("kind", "body", "text"),
    [
        ("weighed", {"line": "sugar", "mass_g": -4}, "\u22124 cannot be: a weight is above 0 g and at most a tonne. Weigh again, or skip the line."),
        ("weighed", {"line": "sugar", "mass_g": float("nan")}, "A number is missing: a weight is above 0 g and at most a tonne. Weigh again, or skip the line."),
        ("weighed", {"line": "sugar"}, "“weighed” needs mass_g."),
        ("read", {"property": "brix_reading", "value": 400}, "400 cannot be: a refractometer reads from 0 to 85 °Bx. Read again, or check the unit."),
        ("read", {"property": "mood", "value": 4}, "“mood” cannot be read: choose one of brix_reading, acid_g_100ml, mass_g, temperature_c, ph, volume_ml, water_activity."),
        ("read", {"property": "acid_g_100ml", "burette": {**BURETTE, "sample_ml": 0}}, "0 cannot be: from 0.1 mL to 1 L. Read the burette again."),
        ("read", {"property": "ph", "burette": BURETTE}, "Only a titration has a burette."),
        ("read", {"property": "ph"}, "A number is missing: a meter reads from pH 0 to 14. Read again, or check the unit."),
        ("started", {"factor": 0}, "0 cannot be: above 0 and at most 10 000 times the spec. Start a smaller batch."),
        ("finished", {"by_products": [{"name": "pulp", "to": "bin", "reason": " "}]}, "pulp goes into the bin without a reason. Say why in a few words."),
        ("finished", {"by_products": [{"name": "pulp"}]}, "A by-product becomes a lot or goes into the bin."),
        ("finished", {"volume_ml": "600"}, "A number is missing: above 0 mL and at most 1 000 L. Read the bottles again."),
        ("repair_taken", {"repair": "repair1"}, "A repair needs its additions."),
        ("sang", {}, f"“sang” is no kind of event: the kinds are {', '.join(EVENTS)}."),
    ],
)  # fmt: skip
def test_events_that_cannot_be_are_refused_in_words(kind, body, text):
    with pytest.raises(Refusal) as caught:
        read_event(open_form(kind, body))
    assert caught.value.text == text


@pytest.mark.parametrize(
    ("kind", "body", "where"),
    [
        ("counted", {"line": "juice", "count": 0}, "body/count"),
        ("counted", {"line": "juice", "count": 1e9}, "body/count"),
        ("measured", {"line": "juice", "volume_ml": float("inf")}, "body/volume_ml"),
        ("dosed", {"line": "juice", "drops": 0}, "body/drops"),
        ("dosed", {"line": "juice", "drops": 5, "drop_ml": 4}, "body/drop_ml"),
        ("taken_from", {"line": "juice", "supply": "the big jar"}, "body/supply"),
        ("taken_from", {"line": "juice", "supply": ["lot:L0007"]}, "body/supply"),
        ("sampled", {"step": "s1", "mass_g": -5}, "body/mass_g"),
        ("tasted", {"step": "s1", "sense": "hearing", "verdict": "right"}, "body/sense"),
        ("tasted", {"step": "s1", "sense": "taste", "verdict": "lovely"}, "body/verdict"),
        ("tasted", {"step": "s1", "sense": "taste", "verdict": "strong", "share": 9}, "body/share"),
        ("step_added", {"step": "stir"}, "body/step"),
        ("read", {"property": "acid_g_100ml", "burette": {"naoh_ml": 37.5, "sample_ml": 10}}, "body/burette/normality"),
        ("repair_taken", {"repair": "repair1", "additions": [ADDITION, {**ADDITION, "mass_g": 0}]}, "body/additions/2/mass_g"),
        ("finished", {"by_products": [LEFTOVER, {**LEFTOVER, "mass_g": -1}]}, "body/by_products/2/mass_g"),
        ("finished", {"place": "x" * 61}, "body/place"),
    ],
)
def test_what_cannot_have_happened_is_refused_at_its_place(kind, body, where):
    with pytest.raises(Refusal) as caught:
        read_event(open_form(kind, body))
    assert caught.value.where == where


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"id": ""}, "id"),
        ({"device": "x" * 65}, "device"),
        ({"at": 5}, "at"),
        ({"lamport": -1}, "lamport"),
        ({"lamport": 2**53}, "lamport"),
        ({"sequence": True}, "lamport"),
        ({"body": [1]}, "body"),
    ],
)
def test_an_event_needs_its_id_device_time_and_counters(change, where):
    form = {**open_form("noted", {"text": "clear"}), **change}
    with pytest.raises(Refusal) as caught:
        read_event(form)
    assert caught.value.where == where
    assert not SCHEMA.is_valid(form)
