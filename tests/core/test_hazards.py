"""Hazards: allergens, claims and restricted amounts, by hand; limits are dated, sourced data."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.kitchen import line, pour, worked
from ulsek.core.advice.sub_recipes import material_of, read_materials
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.materials.supply import key_from
from ulsek.core.properties.measure import measure
from ulsek.core.release.allergen_carryover import carried, left_on_gear
from ulsek.core.release.allergen_sheet import DECLARED, allergen_sheet, sheet_rows
from ulsek.core.release.allergens import allergen_answer
from ulsek.core.release.legal_names import legal_names
from ulsek.core.release.release_check import release_check
from ulsek.core.safety.hazards import AsPoured, bottle_words, restricted_amounts, starting_limits
from ulsek.core.safety.shipped_rules import starting_names
from ulsek.core.spec.json_form import read_spec


def steeped(material, grams, litres=1.0):
    return worked(
        pour(line("water", 998.2 * litres)), {"verb": "steep", "lines": [line(material, grams)]}, {"verb": "strain"}, {"verb": "bottle"}
    )


BARK = {"cinchona_bark": read_material("cinchona_bark", typical_materials()["cinchona_bark"])}


LONG = AsPoured(50.0, 200.0, None, said=True)


def test_quinine_by_hand():
    found = restricted_amounts({"cinchona_bark": 10.0}, BARK, 1000.0, LONG)[0]
    assert (found.per_serve_mg.value, found.per_serve_mg.low, found.per_serve_mg.high) == (10.0, 5.0, 30.0)
    assert (found.per_litre_mg.value, found.per_litre_mg.high) == (50.0, 150.0), "a dose of 50 mL in a drink of 200 mL"
    assert found.share == pytest.approx(150 / 83), "the high end is judged, against the tighter limit"
    assert found.severity == "stop"
    text = printed(found.remark.text).replace("\u00a0", " ")
    assert text.startswith("10.0 mg (at worst 30.0 mg) of quinine a serve, 50.0 mg (at worst 150 mg) a litre of drink")
    assert text.endswith("Cinchona bark: at worst 181 % of 83 mg/L in the drink, 50 mL in a drink of 200 mL.")
    assert printed(found.remark.remedy).startswith("At most 5.53\u00a0g of cinchona bark, and it holds 10.0\u00a0g.")
    assert "ask your authority" in printed(found.remark.remedy)
    by_itself = restricted_amounts({"cinchona_bark": 10.0}, BARK, 1000.0, AsPoured(150.0, 150.0, None, said=True))[0]
    assert by_itself.per_litre_mg.value == pytest.approx(200.0), "a drink is judged as it is"
    key = key_from("cinchona_bark", "delivery:7")
    named = restricted_amounts({key: 10.0}, {key: read_material(key, typical_materials()["cinchona_bark"])}, 1000.0, LONG)[0]
    assert (named.per_litre_mg, printed(named.remark.text)) == (found.per_litre_mg, printed(found.remark.text)), (
        "out of a named crate it is no safer"
    )


@pytest.mark.parametrize(
    ("material", "substance", "without", "with_"),
    [
        ("wormwood", "thujone_artemisia", 0.5, 35),
        ("sage", "thujone", 0.5, 10),
        ("quassia", "quassin", 0.5, 1.5),
        ("peppermint_oil", "pulegone", 20, 100),
        ("bitter_almond", "cyanide", 1, 35),
        ("basil_oil", "estragole", 10, 10),
        ("allspice_oil", "methyleugenol", 1, 1),
        ("germander", "teucrin_a", 2, 2),
        ("cassia_bark", "coumarin", 2, 2),
    ],
)
def test_a_limit_is_that_of_a_drink_with_or_without_alcohol_and_of_both_where_nobody_knows(material, substance, without, with_):
    known = {material: read_material(material, typical_materials()[material])}

    def limit(alcoholic):
        poured = AsPoured(200.0, 200.0, alcoholic, said=True)
        return next(item for item in restricted_amounts({material: 0.1}, known, 1000.0, poured) if item.substance == substance)

    assert limit(False).share == pytest.approx(limit(False).per_litre_mg.high / without)
    assert limit(True).share == pytest.approx(limit(True).per_litre_mg.high / with_)
    assert limit(None).share == max(limit(True).share, limit(False).share)
    assert "prudence" in starting_limits()["substances"]["coumarin"]["source"]


def test_the_drink_that_it_is_for_decides_and_a_short_one_until_somebody_says():
    def check(grams, **fields):
        data = {"format": "ulsek.spec", "version": 1, "name": "Bitter base", "serve_ml": 20, "vessels": [{"id": "pot"}], **fields}
        steps = [
            {"id": "s1", "verb": "combine", "lines": [line("water", 1000.0)]},
            {"id": "s2", "verb": "steep", "lines": [line("cinchona_bark", grams)]},
            {"id": "s3", "verb": "strain"},
        ]
        spec = read_spec({**data, "steps": steps})
        return {item.code: item for item in release_check(evaluate(spec, read_materials(typical_materials(), spec.material_keys)))}

    unsaid = check(8.0)
    assert unsaid["restricted_quinine"].severity == "stop", "20 mL in a drink of 100 mL: 96 mg/L at worst"
    assert (unsaid["drink_not_said"].severity, unsaid["drink_not_said"].where) == ("check", "served_in")
    tall = check(8.0, served_in={"dose_ml": 20, "drink_ml": 300})
    assert tall["restricted_quinine"].severity == "note"
    assert "drink_not_said" not in tall
    short = check(8.0, served_in={"dose_ml": 25, "drink_ml": 110})
    assert short["restricted_quinine"].severity == "stop", "its maker's own drink is what counts"
    assert "drink_not_said" not in check(0.05), "what no drink could pass is not asked for"
    with pytest.raises(Refusal, match="30 mL do not go into a drink of 20 mL"):
        check(8.0, served_in={"dose_ml": 30, "drink_ml": 20})


def test_the_house_s_drinks_that_it_goes_into_are_judged_as_they_are():
    base = steeped("cinchona_bark", 6.0)

    def drink(grams, size):
        mixed = put(line("base", grams), line("water", size - grams))
        return named("Long bitter", mixed, family="drink", serve_ml=size, materials={"base": material_of(base)})

    def remarks(*drinks):
        return [item for item in release_check(base, drinks=drinks) if item.code == "restricted_quinine_in_drink"]

    strong = remarks(drink(60.0, 120.0))
    assert [(item.severity, item.where) for item in strong] == [("stop", "drinks/long-bitter")]
    assert printed(strong[0].text).startswith("In Long bitter: ")
    assert remarks(drink(20.0, 300.0)) == []


@pytest.mark.parametrize(
    ("fields", "where"),
    [({"name": "Wormwood cordial"}, "name"), ({"note": "a little tonka at the end"}, "note"), ({"name": "Plain cordial"}, None)],
)
def test_a_restricted_thing_that_is_only_named_is_asked_about(fields, where):
    spec = named(fields.get("name", "Cordial"), put(line("water", 500.0), line("white_sugar", 500.0)), note=fields.get("note", ""))
    found = [item for item in release_check(spec) if item.code == "restricted_named"]
    assert [item.where for item in found] == ([where] if where else [])


def test_a_title_that_names_what_is_in_the_list_is_no_question():
    made = named("Allspice tincture", put(line("neutral_spirit_60", 500.0), line("allspice", 50.0)))
    assert not [item for item in release_check(made) if item.code == "restricted_named"]


def test_nothing_is_claimed_where_nobody_has_said_what_is_in_it():
    body = {"makeup": {"by": "substance", "g_per_100g": {"sucrose": 50}}, "name": "Bought syrup"}
    asked = worked(pour(line("bought", 100.0), line("water", 100.0)), bought=body)
    assert asked.hazards.unknown == ("Bought syrup",)
    assert asked.hazards.free_from == ("alcohol",)
    said = worked(pour(line("bought", 100.0), line("water", 100.0)), bought={**body, "allergens": []})
    assert said.hazards.unknown == ()
    assert "nuts" in said.hazards.free_from


def test_restricted_amounts_travel_up_a_nest():
    base = material_of(steeped("cinchona_bark", 10.0))
    outer = worked(pour(line("base", 100.0), line("water", 100.0)), base=base)
    by_itself, mixed = steeped("cinchona_bark", 10.0).hazards.restricted[0], outer.hazards.restricted[0]
    assert mixed.per_serve_mg.value == pytest.approx(by_itself.per_serve_mg.value / 2, rel=0.02)


def test_the_release_check_stops_what_passes_a_limit_and_only_that():
    for material, grams, severity in (
        ("cinchona_bark", 10.0, "stop"),
        ("sassafras_bark", 1.0, "stop"),
        ("liquorice_root", 12.0, "check"),
        ("smoked_tea", 5.0, "note"),
    ):
        remark = next(item for item in release_check(steeped(material, grams)) if item.code.startswith("restricted_"))
        assert remark.severity == severity, material
    assert not any(item.code.startswith("restricted_") for item in release_check(steeped("birch_tips", 20.0)))


def test_every_shipped_caution_says_whom_it_concerns():
    whom = ("Who peels: ", "Who makes it: ", "Who drinks: ", "Who serves it: ")
    cautions = {text for body in typical_materials().values() for text in body.get("cautions", [])}
    assert len(cautions) > 60
    assert [text for text in cautions if not text.startswith(whom)] == []


def test_allergens_are_answered_for_the_drink_through_its_preps_and_its_gear():
    nuts = [put(line("hazelnuts", 100.0), line("water", 300.0)), {"verb": "strain", "gear": ["fine sieve"]}]
    puree = named("Hazelnut purée", *nuts)
    egg = named(
        "Gooseberry raft", put(line("egg_white", 30.0), line("gooseberry_juice", 500.0)), {"verb": "strain", "gear": ["fine sieve"]}
    )
    made = {"puree": material_of(puree)}
    drink = named("Hazel sour", put(line("puree", 30.0), line("bergamot_juice", 20.0)), family="drink", materials=made)
    answer = allergen_answer(drink, {"puree": puree}, [left_on_gear(egg), left_on_gear(puree)])
    assert [(item.allergen, item.through) for item in answer.contains] == [("nuts", (("Hazelnut purée", "Hazelnuts, toasted"),))]
    assert [(item.gear, item.allergen, item.source) for item in answer.shared] == [
        ("tall jug", "egg", "Gooseberry raft"),
        ("fine sieve", "egg", "Gooseberry raft"),
    ]
    # Ice and a guest's glass are used once: what one drink leaves in them reaches no other.
    iced = named("Egg sour", {"verb": "build", "lines": [line("egg_white", 20.0)]}, family="drink")
    assert set(left_on_gear(iced).traces) == {"tall jug"}
    assert printed(answer.words) == (
        "It holds nuts (Hazelnut purée, from Hazelnuts, toasted). It shares the tall jug and the fine sieve with what holds egg: "
        "clean them before. Ask the lead."
    )


def test_a_sheet_marks_what_is_held_what_gear_brings_and_what_nobody_knows():
    nuts = [put(line("hazelnuts", 100.0), line("water", 300.0)), {"verb": "strain", "gear": ["fine sieve"]}]
    puree = named("Hazelnut purée", *nuts)
    coconut = named("Coconut", put(line("coconut_flesh", 30.0), line("water", 300.0)))
    sour = named(
        "Hazel sour", put(line("puree", 30.0), line("bergamot_juice", 20.0)), family="drink", materials={"puree": material_of(puree)}
    )
    bought = {"makeup": {"by": "substance", "g_per_100g": {"sucrose": 50}}, "name": "Bought syrup"}
    long = named("Long", put(line("bought", 40.0), line("water", 100.0)), family="drink", materials={"bought": bought})
    sheet = allergen_sheet(allergen_answer(drink, {"puree": puree}, [left_on_gear(coconut)]) for drink in (sour, long))
    assert sheet.allergens == (*DECLARED, "coconut"), "the declared ones in their order, then what else there is"
    marks = {row.name: dict(zip(sheet.allergens, row.marks, strict=True)) for row in sheet.rows}
    assert (marks["Hazel sour"]["nuts"], marks["Hazel sour"]["coconut"], marks["Hazel sour"]["egg"]) == ("holds", "gear", "")
    assert set(marks["Long"].values()) == {"ask"}, "of what nobody knows no cell stays empty, and no cleaning is enough"
    table = list(sheet_rows(sheet, ("day",), ("2026-12-02",)))
    assert table[0][:2] == ("day", "drink") and {len(row) for row in table} == {len(table[0])}
    assert table[1][-3:] == ("nuts (Hazelnut purée, from Hazelnuts, toasted)", "tall jug: coconut (Coconut)", "")
    assert "no promise" in printed(sheet.legend[-1])


def test_no_answer_says_no_allergens_and_a_bottle_is_no_drink():
    bought = {"makeup": {"by": "substance", "g_per_100g": {"sucrose": 50}}, "name": "Bought syrup"}
    syrup = named("Plain", put(line("water", 100.0), line("bought", 100.0)), materials={"bought": bought})
    prep = allergen_answer(syrup, {}, [])
    assert printed(prep.words) == (
        "None of the listed allergens goes into it as it is written. Nobody has said what Bought syrup holds. "
        "This is no drink: answer for the drink that it goes into. Ask the lead."
    )
    above = named("Long", put(line("plain", 40.0), line("water", 100.0)), family="drink", materials={"plain": material_of(syrup)})
    assert allergen_answer(above, {}, []).unknown == ("Plain",), "what is unknown below is unknown above"
    assert printed(bottle_words(())) == "none listed. Answer for the drink; ask the lead."
    assert printed(bottle_words(("nuts",))) == "nuts. Answer for the drink."
    assert printed(bottle_words(("nuts",), asks=True)).endswith("ask the lead.")


def test_claims_are_worked_out():
    plain = worked(pour(line("water", 100.0), line("white_sugar", 50.0)))
    assert set(plain.hazards.free_from) >= {"alcohol", "animal products", "nuts", "milk", "egg"}
    nutty = worked(pour(line("water", 100.0), line("hazelnuts", 50.0)), {"verb": "strain"})
    assert "nuts" not in nutty.hazards.free_from
    boiled = worked(pour(line("neutral_spirit_40", 100.0), line("water", 200.0)), {"verb": "simmer", "minutes": 60})
    assert "alcohol" not in boiled.hazards.free_from, "ethanol does not all boil off"
    honeyed = worked(pour(line("honey", 10.0)))
    assert "animal products" not in honeyed.hazards.free_from


@given(grams=st.floats(0.1, 50.0), litres=st.floats(0.2, 20.0), serve=st.floats(1.0, 300.0))
def test_amounts_grow_with_the_dose_and_fall_with_the_volume(grams, litres, serve):
    def one(mass, volume):
        return restricted_amounts({"tonka_bean": mass}, {}, 1000 * volume, AsPoured(serve, max(serve, 200.0), None, said=True))[0]

    assert one(grams * 2, litres).share == pytest.approx(2 * one(grams, litres).share)
    assert one(grams, litres * 2).share == pytest.approx(one(grams, litres).share / 2)
    assert one(grams, litres).per_serve_mg.value == pytest.approx(one(grams, litres).per_litre_mg.value * max(serve, 200) / 1000)


def test_limits_are_dated_and_sourced_and_every_material_is_known():
    rules = starting_limits()
    assert rules["dated"]
    for rule in rules["substances"].values():
        assert rule["source"]
        assert any(name.endswith(("per_litre_mg", "per_serve_mg")) for name in rule)
    for key, contents in rules["materials"].items():
        assert key in typical_materials()
        for substance, (value, low, high) in contents.items():
            assert substance in rules["substances"]
            assert low <= value <= high
    own = {**rules, "substances": {**rules["substances"], "caffeine": {**rules["substances"]["caffeine"], "per_serve_mg": 5}}}
    assert restricted_amounts({"smoked_tea": 5.0}, {}, 1000.0, LONG, own)[0].severity == "stop"


def named(name, *steps, **own):
    """A little spec under a name, worked out."""
    known = typical_materials()
    data = {
        "format": "ulsek.spec",
        "version": 1,
        "id": name.lower().replace(" ", "-"),
        "name": name,
        "vessels": [{"id": "pot", "name": "tall jug"}],
        "steps": [{"id": f"s{n}", "vessel": "pot", **step} for n, step in enumerate(steps)],
        **own,
    }
    spec = read_spec(data)
    return evaluate(spec, read_materials({**known, **data.get("materials", {})}, spec.material_keys))


def put(*lines):
    return {"verb": "combine", "lines": list(lines)}


@pytest.mark.parametrize(
    ("name", "lines", "words"),
    [
        ("Bergamot juice", [line("bergamot_juice", 900.0), line("white_sugar", 100.0)], "It holds white sugar."),
        ("Bergamot juice", [line("bergamot_juice", 900.0)], ""),
        ("Alcohol-free damson", [line("damson_juice", 995.0), line("neutral_spirit_60", 5.0)], "vol."),
        ("Alcohol-free damson", [line("damson_juice", 995.0)], ""),
        ("Non-alcoholic damson", [line("damson_juice", 997.0), line("neutral_spirit_40", 3.0)], ""),
        ("Hazelnut milk", [line("hazelnuts", 100.0), line("water", 900.0)], "It holds no dairy."),
        ("Cleared with milk", [line("whole_milk", 100.0), line("water", 900.0)], ""),
        ("Vegan honey syrup", [line("honey", 500.0), line("water", 500.0)], "It is not free from animal products."),
        ("Low sugar quince", [line("quince_juice", 1000.0)], "g/100 mL."),
        ("Damson nectar", [line("damson_juice", 700.0), line("white_sugar", 300.0)], "It has 30.00 %."),
        ("Organic quince", [line("quince_juice", 1000.0)], "Nothing here can show that."),
        ("Juicy quince", [line("quince_juice", 900.0), line("water", 100.0)], ""),
    ],
)
def test_names_with_a_legal_meaning_are_held_beside_what_is_in_them(name, lines, words):
    found = [
        printed(remark.text).replace("\u00a0", " ") for remark in release_check(named(name, put(*lines))) if remark.code == "legal_name"
    ]
    assert bool(found) is bool(words), found
    assert all(text.endswith(words) for text in found)


def test_every_legal_name_is_dated_and_sourced_and_places_are_kept_apart():
    rules = starting_names()
    assert rules["dated"]
    assert all(rule["source"] and rule["means"] and rule["place"] in rules["places"] for rule in rules["rules"])
    sweet = named("Bergamot juice", put(line("bergamot_juice", 900.0), line("citric_acid", 9.0)))
    assert [printed(remark.text)[:21] for remark in legal_names(sweet, "EU")] == ["“juice” in EU means f"]
    assert list(legal_names(sweet, "US")) == [], "acid is another question there"
    assert list(legal_names(sweet, rules={"rules": []})) == []


def test_gear_carries_an_allergen_until_it_is_cleaned():
    nuts = named("Nut water", put(line("hazelnuts", 100.0), line("water", 400.0)), {"verb": "strain", "gear": ["fine sieve"]})
    plain = named("Plain syrup", put(line("white_sugar", 400.0), line("water", 400.0)), {"verb": "strain", "gear": ["fine sieve"]})
    found = carried([nuts, plain])
    assert {(remark.where, printed(remark.text)) for remark in found} == {
        ("plain-syrup/steps/s0", "The tall jug still carries nuts from Nut water."),
        ("plain-syrup/steps/s1", "The fine sieve still carries nuts from Nut water."),
    }
    washed = named(
        "Nut water",
        put(line("hazelnuts", 100.0), line("water", 400.0)),
        {"verb": "strain", "gear": ["fine sieve"]},
        {"verb": "clean", "gear": ["fine sieve"]},
    )
    assert [remark.where for remark in carried([washed, plain])] == ["plain-syrup/steps/s0"], "the jug was not named"
    assert carried([nuts, nuts]) == (), "what holds nuts anyway is not spoken of"
    assert carried([plain, nuts]) == ()


SPIRITED = [line("damson_juice", 500.0), line("neutral_spirit_60", 500.0)]


@pytest.mark.parametrize(
    ("code", "steps", "safe"),
    [
        ("spirit_on_heat", [put(*SPIRITED), {"verb": "simmer", "minutes": 10}], [put(*SPIRITED), {"verb": "strain"}]),
        ("spirit_remains", [put(*SPIRITED), {"verb": "simmer", "minutes": 10}], [put(SPIRITED[0]), {"verb": "simmer", "minutes": 10}]),
        ("law_concentrating", [put(*SPIRITED), {"verb": "freeze_drip"}], [put(SPIRITED[0]), {"verb": "freeze_drip"}]),
        ("slow_cooling", [put(SPIRITED[0]), {"verb": "cool", "minutes": 400}], [put(SPIRITED[0]), {"verb": "cool", "minutes": 90}]),
        (
            "raw_egg",
            [put(line("bergamot_juice", 500.0), line("egg_white", 60.0))],
            [put(line("bergamot_juice", 500.0), line("egg_white", 60.0)), {"verb": "simmer", "minutes": 5}],
        ),
        (
            "strong_acid",
            [put(line("citric_acid", 100.0), line("water", 900.0)), {"verb": "bottle"}],
            [put(line("citric_acid", 50.0), line("water", 950.0)), {"verb": "bottle"}],
        ),
        (
            "approved_plan",
            [put(line("coconut_flesh", 300.0), line("water", 700.0)), {"verb": "bring_to", "temperature_c": 90}, {"verb": "hot_fill"}],
            [put(line("coconut_flesh", 300.0), line("water", 700.0)), {"verb": "bottle"}],
        ),
    ],
)
def test_what_the_work_can_do_is_said_at_its_step_and_only_then(code, steps, safe):
    found = [remark for remark in release_check(named("Cure", *steps)) if remark.code == code]
    assert [remark.where for remark in found][:1] and found[0].where.startswith("steps/s")
    assert not [remark for remark in release_check(named("Cure", *safe)) if remark.code == code]


def test_egg_that_goes_into_a_boiled_and_cooled_syrup_is_raw():
    boiled = [put(line("water", 500.0), line("white_sugar", 500.0)), {"verb": "simmer", "minutes": 5}, {"verb": "cool", "minutes": 60}]
    egg = {"verb": "combine", "lines": [line("egg_white", 60.0)]}
    raw = named("Foam", *boiled, egg)
    assert "raw_egg" in {remark.code for remark in release_check(raw)}
    cooked = named("Foam", *boiled, egg, {"verb": "hold", "temperature_c": 75, "minutes": 5})
    assert "raw_egg" not in {remark.code for remark in release_check(cooked)}


def test_acid_in_metal_stops_and_what_boils_off_is_told():
    sour = [put(line("citric_acid", 30.0), line("water", 900.0))]
    tin = named("Sour", *sour, vessels=[{"id": "pot", "name": "copper pan"}])
    assert [(remark.severity, remark.where) for remark in release_check(tin) if remark.code == "reactive_metal"] == [("stop", "steps/s0")]
    assert "reactive_metal" not in {remark.code for remark in release_check(named("Sour", *sour))}
    boiled = named("Cure", put(*SPIRITED), {"verb": "simmer", "minutes": 10})
    (told,) = [printed(remark.text).replace("\u00a0", " ") for remark in release_check(boiled) if remark.code == "spirit_remains"]
    left = measure(boiled.flow.steps[1].state.liquid)["abv"]
    assert 0 < left < 30
    assert f"{left:.1f} % vol" in told
