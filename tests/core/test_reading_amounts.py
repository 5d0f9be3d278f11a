"""What an amount in a text is of, and how much it comes to: counts, shares, ratios, parts of a fruit, amounts that are said twice."""

import pytest

from tests.core.pasted import lines_of, worked
from ulsek.core.recipe_text.parser import parse_recipe


def test_a_count_may_stand_behind_its_x_and_a_volume_of_what_cannot_be_measured_so_spoils_no_other():
    read = parse_recipe("Base\n500 ml aged rum\ngreen cardamom pods x 8, bruised\n20 ml glowberry\nStir all. Strain. Don't squeeze.")
    amounts = {line["material"]: line["amount"] for line in lines_of(read.draft)}
    assert (amounts["aged_rum"], amounts["green_cardamom"]) == ({"kind": "fixed", "volume_ml": 500.0}, {"kind": "fixed", "count": 8.0})
    assert len(amounts) == 3


def test_percent_in_an_empty_vessel_is_of_what_stands_beside_it():
    read = parse_recipe("Acid blend\nWater 1 kg\nCitric acid 4%\nSalt 0.1%\nStir.")
    assert [line["amount"] for line in lines_of(read.draft)] == [{"kind": "fixed", "mass_g": grams} for grams in (1000.0, 40.0, 1.0)]
    assert {doubt.code for doubt in read.doubts} == {"percent_of_what"}


def test_what_is_said_to_come_out_of_juicing_is_the_amount():
    read = parse_recipe("So, juice about fifteen bergamots, that gives you four hundred mil. Blend w/ 500 g 1:1 syrup. Strain.")
    juice, syrup = lines_of(read.draft)
    assert (juice["material"], juice["amount"]) == ("bergamot_juice", {"kind": "fixed", "volume_ml": 400.0})
    assert (syrup["amount"]["mass_g"], read.draft["materials"][syrup["material"]]["taken_as"]) == (500.0, "a 1:1 syrup")


def test_fruits_that_follow_share_the_part_of_the_first():
    read = parse_recipe("Base\n1 kg water\nzest & juice of 1 orange, 1 lemon and 2 limes\nPeel 2 kg quinces. Stir all.")
    kinds = [line["material"].rsplit("_", 1)[1] for line in lines_of(read.draft) if "_" in line["material"]]
    assert sorted(kinds) == ["juice"] * 3 + ["zest"] * 3
    assert [line["amount"] for line in lines_of(read.draft) if line["material"] == "quince"] == [{"kind": "fixed", "mass_g": 2000.0}]


@pytest.mark.parametrize(
    ("line", "ratio"),
    [
        ("Sugar, 35 % of the strained juice", 0.35),
        ("60 % sugar by weight of the milk", 0.6),
        ("300 g cstr per 500ml liq", 0.6),
        ("same weight of sugar as liquid", 1.0),
        ("sugar, half the weight of the liquid", 0.5),
    ],
)
def test_a_share_of_what_was_strained_is_measured_in_the_vessel(line, ratio):
    read = parse_recipe(f"Almond base\n200 g almonds\n500 g water\n{line}\nBlend almonds and water. Strain. Add the sugar.")
    sugar = next(item for item in lines_of(read.draft) if item["material"] in ("white_sugar", "caster_sugar"))
    assert (sugar["amount"]["to"], sugar["amount"]["ratio"]) == ({"vessel": "pot"}, ratio)


def test_a_ratio_before_an_amount_is_no_thousand_and_a_spoken_number_is_not_cut():
    foam = parse_recipe("Foam\nwater 200g\nsugar syrup 1:1 100g\nStir.")
    assert [line["amount"]["mass_g"] for line in lines_of(foam.draft)] == [200.0, 100.0]
    bitters = parse_recipe("Celery bitters: celery seed 10g, gentian 1g, neutral spirit 60% 200ml. 10 days. Filter.")
    assert [(line["material"], line["amount"].get("mass_g", line["amount"].get("volume_ml"))) for line in lines_of(bitters.draft)] == [
        ("celery_seed", 10.0),
        ("gentian_root", 1.0),
        ("neutral_spirit_60", 200.0),
    ]


def test_equal_parts_and_parts_between_colons_are_parts_and_percent_is_of_all_of_them():
    read = parse_recipe("Equal parts honey and hot water by weight, plus 1% of the total in fresh mint. Steep 40 min, strain.")
    assert [round(mass) for mass in worked(read.draft).flow.masses.values()] == [500, 500, 10]
    assert "parts_basis" not in {doubt.code for doubt in read.doubts}
    told = parse_recipe("Quince cordial in parts: 4 quince juice : 3 honey : 1 water. Warm to 50, stir, bottle.")
    _first, *others = lines_of(told.draft)
    assert [(item["material"], item["amount"]["ratio"]) for item in others] == [("honey", 0.75), ("water", 0.25)]


def test_a_number_before_a_liquid_that_nobody_knows_is_no_word_of_the_method():
    read = parse_recipe("Mint oil\n\nBlanch 100 g mint 15 sec. Blitz with 200 neutral oil 3 min @ 65C. Strain.")
    assert {doubt.code for doubt in read.doubts} >= {"unknown_material", "no_unit"}
    assert [line["amount"].get("mass_g") for line in lines_of(read.draft)] == [100.0, 200.0]


def test_a_part_belongs_to_the_fruit_behind_it():
    read = parse_recipe("Bark syrup — 4 g cinchona bark, zest of 2 bergamots + 1 orange, 30 g citric acid, 500 g water. Stir.")
    assert read.draft["name"] == "Bark syrup"
    assert [line["material"] for line in lines_of(read.draft)] == [
        "cinchona_bark", "bergamot_zest", "orange_sweet_zest", "citric_acid", "water",
    ]  # fmt: skip


def test_sugar_to_the_pint_is_measured_against_the_strained_juice():
    read = parse_recipe(
        "Quince syrup\n2 lb quinces\n½ pint water\nsugar, 12 oz to the pint\nStew for 20 minutes. Strain. Add the sugar.", "imperial"
    )
    sugar = next(line for line in lines_of(read.draft) if line["material"] == "white_sugar")
    assert (sugar["amount"]["to"], round(sugar["amount"]["ratio"], 2)) == ({"vessel": "pot"}, 0.6)


def test_a_water_with_a_name_is_not_the_water():
    read = parse_recipe("Base\n1.5 L water\n500 g sugar\nHeat the water and sugar to 60 C. Add 2 ml orange flower water and bottle.")
    assert [(line["material"], line["amount"]["volume_ml"]) for line in lines_of(read.draft) if "volume_ml" in line["amount"]] == [
        ("water", 1500.0),
        ("orange_flower_water", 2.0),
    ]


def test_a_part_goes_on_to_the_next_fruit_and_a_name_may_be_its_letters():
    read = parse_recipe(
        "Base\n500 g water\n4 ml orange flower water\nStir the zest of two limes and three bergamots into the water. Strain. Add ofw."
    )
    assert [[line["material"] for line in step.get("lines", ())] for step in read.draft["steps"]] == [
        ["water", "lime_persian_zest", "bergamot_zest"],
        [],
        ["orange_flower_water"],
    ]
    assert {doubt.code for doubt in read.doubts} == {"count_of_fruit"}
    peels = parse_recipe("Base\nPeel of 6 bananas\nEqual weight of demerara sugar to peels\nLayer in a jar, leave overnight. Strain.")
    peel, sugar = lines_of(peels.draft)
    assert (peel["material"], sugar["amount"]) == (
        "banana_peel",
        {"kind": "ratio", "to": {"line": peel["id"]}, "basis": "weight", "ratio": 1.0},
    )
    assert [doubt.code for doubt in peels.doubts] == ["unknown_material", "count_of_fruit"]


def test_an_amount_may_be_said_again_and_the_line_is_filled_where_it_is_told():
    can = parse_recipe(
        "For the coconut syrup you want one can of coconut milk, that's 400 ml, and 300 g of sugar. Warm it gently. Strain it."
    )
    assert lines_of(can.draft)[0]["amount"] == {"kind": "fixed", "volume_ml": 400.0} and not can.doubts
    filled = parse_recipe("Acids\n40 g citric acid\nwater to 1 L\nDissolve the acid in 500 ml of the water. Make up to the line. Bottle.")
    assert [[line["material"] for line in step.get("lines", ())] for step in filled.draft["steps"]] == [
        ["citric_acid", "water"],
        ["water"],
        [],
    ]


def test_an_amount_is_of_what_it_can_be():
    both = parse_recipe("Base\njuice and zest of 10 bergamots (300 ml)\n300 g sugar\nMix.")
    assert [(line["material"], line["amount"].get("volume_ml")) for line in lines_of(both.draft)][:2] == [
        ("bergamot_juice", 300.0),
        ("bergamot_zest", None),
    ]
    parts = parse_recipe("Base\n2 parts strawberries\n1 part sugar\n1 part bergamot\nMix.")
    assert [line["material"] for line in lines_of(parts.draft)] == ["strawberry", "white_sugar", "bergamot_juice"]
    listed = parse_recipe(
        "Tea\n10 g hibiscus\n500 g water\n500 g caster sugar\nSteep the hibiscus in the water 15 min, strain. Add an equal weight of sugar."
    )
    assert [line["material"] for line in listed.draft["steps"][-1]["lines"]] == ["caster_sugar"]
    ahead = parse_recipe("Make this a day ahead. Take 300 g of dates, soak them in 500 ml of water overnight and strain.")
    assert [step.get("minutes") for step in ahead.draft["steps"]] == [None, 720.0, None]


def test_the_skin_alone_of_whole_fruit_goes_in_where_nothing_else_of_it_is_used():
    text = "Base\n6 bergamots\n200 g sugar\nPeel the bergamots. Muddle the peels with the sugar. {then}"
    thens = ("Strain.", "Add the juice of the fruit. Strain.", "Add the flesh. Strain.")
    skin, juiced, whole = (lines_of(parse_recipe(text.format(then=then)).draft) for then in thens)
    assert (skin[0]["material"], whole[0]["material"]) == ("bergamot_peel", "bergamot")
    assert [line["material"] for line in juiced] == ["bergamot_peel", "white_sugar", "bergamot_juice"]
    assert skin[0]["amount"]["assumed"] and "assumed" not in whole[0]["amount"]


def test_a_line_may_say_up_to_which_solids_it_goes_in():
    read = parse_recipe("Pear\n1 kg pear juice\nsugar to bring it to 25 brix\n2 g salt\nMix the pear juice and salt. Add the sugar.")
    assert lines_of(read.draft)[-1]["amount"] == {"kind": "target", "property": "brix", "value": 25.0}
    assert 24.9 < worked(read.draft).figures[-1]["brix"] < 25.1


@pytest.mark.parametrize(
    ("row", "parts"),
    [
        ("1 kg lemons, zested and juiced", {"lemon_zest": 35.0, "lemon_juice": 380.0}),
        ("juice of 1 kg lemons", {"lemon_juice": 380.0}),
        ("1 kg de citrons pressés", {"lemon_juice": 380.0}),
        ("1 kg Zitronen, ausgepresst", {"lemon_juice": 380.0}),
        ("1 kg lemons, zested and juiced (about 350 g juice)", {"lemon_zest": 35.0, "lemon_juice": 350.0}),
        ("200 g freshly squeezed lemon", {"lemon_juice": 200.0}),
        ("100 g of the juice of 3 lemons", {"lemon_juice": 100.0}),
    ],
)
def test_fruit_that_is_weighed_whole_gives_its_share_of_juice_and_zest(row, parts):
    words = {"1 kg de": "Sirop\n\n{}\n350 g de sucre\n\nMélanger le tout.", "1 kg Zi": "Sirup\n\n{}\n350 g Zucker\n\nAlles verrühren."}
    read = parse_recipe(words.get(row[:7], "Lemon syrup\n\n{}\n350 g sugar\n\nStir everything.").format(row))
    *fruit, _sugar = lines_of(read.draft)
    written = {line["material"]: line["amount"]["mass_g"] for line in fruit}
    assert {key: round(mass["value"] if isinstance(mass, dict) else mass, 1) for key, mass in written.items()} == parts


def test_to_quarter_fruit_takes_no_quarter_of_it():
    read = parse_recipe("Lime syrup\n\n6 limes\n200 g sugar\n\nQuarter the limes and muddle with the sugar. Strain.")
    assert [line["amount"] for line in lines_of(read.draft)] == [{"kind": "fixed", "count": 6.0}, {"kind": "fixed", "mass_g": 200.0}]
    part = parse_recipe("Lime syrup\n\n8 limes\n200 g sugar\n\nMuddle a quarter of the limes with the sugar. Add the rest of the limes.")
    assert "part_of_it" in {doubt.code for doubt in part.doubts}


def test_what_a_text_makes_is_no_ingredient_of_it():
    lines = {"Lime oleo": "For a litre of lime oleo: 250 g lime peel, 250 g sugar, seal, 12 h; strain."}
    lines["quince syrup"] = "So for 2 litres of quince syrup we mix 250 g quince with 250 g sugar, and leave it 12 h. Strain."
    for name, text in lines.items():
        read = parse_recipe(text)
        assert (read.draft["name"].lower(), [claim["kind"] for claim in read.draft["claims"]]) == (name.lower(), ["yield"])
        assert [line["amount"]["mass_g"] for line in lines_of(read.draft)] == [250.0, 250.0]
        assert [step["minutes"] for step in read.draft["steps"] if "minutes" in step] == [720.0]
    fruit = parse_recipe("For 1 kg of quinces: 500 g sugar. Leave 12 hours. Strain.")
    assert [line["amount"]["mass_g"] for line in lines_of(fruit.draft)] == [1000.0, 500.0]


def test_a_number_shares_the_unit_before_it_a_fruit_its_kind_and_a_stranger_its_name():
    read = parse_recipe(
        "Zest six blood oranges into 400 g of sugar. Juice the oranges, you want 450 ml, add 12 grams of citric and 4 of malic."
    )
    amounts = {line["material"]: line["amount"].get("mass_g", line["amount"].get("volume_ml")) for line in lines_of(read.draft)}
    assert (amounts["orange_blood_juice"], amounts["malic_acid"]) == (450.0, 4.0)
    assert "no_unit" not in {doubt.code for doubt in read.doubts}
    again = parse_recipe(
        "Lime juice 1 kg\nFoozle 1.5 g\n\nStir in the foozle, wait 15 min. Stir in another 1.5 g foozle, or it goes bitter."
    )
    assert [line["material"] for line in lines_of(again.draft)] == ["lime_persian_juice", "foozle", "foozle"]
    assert [doubt.code for doubt in again.doubts] == ["unknown_material"]


def test_water_without_an_amount_is_what_fills_up():
    read = parse_recipe("Base\n\ncitric acid 94 g\nwater\n\nStir, make up to 1 L.")
    assert lines_of(read.draft)[-1]["amount"] == {"kind": "target", "property": "volume_ml", "value": 1000.0}
    assert read.doubts == ()
