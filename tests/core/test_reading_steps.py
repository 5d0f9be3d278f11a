"""At which step of the method an ingredient goes in, and in which parts."""

import pytest

from tests.core.pasted import lines_of, worked
from ulsek.core.recipe_text.answers import answered
from ulsek.core.recipe_text.parser import parse_recipe


def test_what_the_list_has_cut_draws_as_cut_fruit_does():
    text = "Pineapple syrup\n900 g pineapple{how}\n450 g caster sugar\nToss the pineapple with the sugar and leave for 4 hours. Strain."
    whole, diced = (parse_recipe(text.format(how=how)).draft for how in ("", ", diced"))
    assert [step["verb"] for step in diced["steps"]] == ["cut", *(step["verb"] for step in whole["steps"])]
    drawn = [worked(draft).figures[-1]["mass_g"] for draft in (whole, diced)]
    assert drawn[1] > 1.15 * drawn[0]


def test_what_is_added_to_taste_goes_in_behind_the_straining_and_what_steeps_is_no_question():
    read = parse_recipe("Quick\n750 ml vodka\nzest of 3 bergamots\nhoney to taste\nInfuse 7 days, strain, mix with 500 g of syrup.")
    assert [[line["material"] for line in step.get("lines", ())] for step in read.draft["steps"]] == [
        ["vodka", "bergamot_zest"],
        [],
        ["honey", "syrup"],
    ]
    assert "never_used" not in {doubt.code for doubt in read.doubts}


def test_what_is_added_by_name_later_does_not_go_in_with_everything():
    read = parse_recipe(
        "Base\n1 kg quinces\n500 g sugar\n300 g water\n20 g citric acid\nBring everything to the boil. Strain. Stir in the acid."
    )
    assert [[line["material"] for line in step.get("lines", ())] for step in read.draft["steps"]][::2] == [
        ["quince", "white_sugar", "water"],
        ["citric_acid"],
    ]
    lemon = parse_recipe(
        "Base\n500 ml gooseberry juice\n500 g sugar\nsqueeze of lemon\nWarm the juice and sugar. Take off the heat and add the lemon."
    )
    assert [line["material"] for line in lemon.draft["steps"][1]["lines"]] == ["lemon_juice"]
    twice = parse_recipe(
        "Base\n100 g sugar\n60 ml water\n250 ml hot water\nCook the sugar and 60 ml water for 10 minutes. Whisk in the hot water."
    )
    assert [[line["amount"].get("volume_ml") for line in step["lines"]] for step in twice.draft["steps"]] == [[None, 60.0], [250.0]]


def test_a_plural_is_all_that_are_called_so_and_the_end_of_a_name_is_a_name():
    both = parse_recipe(
        "Shrub\n500 g damsons\n250 g sugar\n180 ml cider vinegar\n60 ml balsamic vinegar\nToss damsons and sugar, leave 2 days. Strain. Whisk in both vinegars."
    )
    assert [line["material"] for line in both.draft["steps"][-1]["lines"]] == ["cider_vinegar", "balsamic_vinegar"]
    ends = parse_recipe(
        "Cordial\n1 kg blackcurrants\n300 g water\n500 g sugar\nPut the currants and water in a pan and simmer 10 min.\nStrain, add the sugar."
    )
    assert [line["material"] for line in ends.draft["steps"][0]["lines"]] == ["blackcurrant", "water"]
    assert not ends.doubts


def test_what_a_first_row_makes_is_no_line_of_the_list():
    for title in ("Bergamot & chilli cordial (2 L batch)", "Citric 5% w/v", "Sour mix 4 L\n", "Citric cordial (2.5 L)\n"):
        read = parse_recipe(f"{title}\n50 g citric acid\nwater to 1 L")
        assert read.draft["name"] == title.strip()
        assert [line["material"] for line in lines_of(read.draft)] == ["citric_acid", "water"]


def test_what_cannot_cover_any_more_is_asked_about_and_the_rest_is_worked_out():
    read = parse_recipe(
        "Peel syrup. Boil 300 g of bergamot peel in a litre of water for 10 minutes, then cover it with fresh water and 700 g of sugar, simmer, bottle."
    )
    assert [doubt.code for doubt in read.doubts if doubt.code == "cannot_be_done"] == ["cannot_be_done"]
    assert worked(read.draft).flow.refusal is None
    assert worked(read.draft).figures[-1]["brix"] > 30.0


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("Gin\n100 ml olive oil\n700 ml gin\nShake together in a jar. Leave 8 hours. Pour off the gin.", ["combine 2", "infuse 0", "settle 0", "strain 0"]),
        ("Plum\n700 g plums\n350 g sugar\n8 g malic acid\nSeal plums and sugar in a bag and cook at 60 °C for 90 min. Stir in the acid.", ["combine 2", "hold 0", "combine 1"]),
        ("Pulp\n6 passion fruit\n200 g sugar\nScoop the pulp into a pan with the sugar. Heat to 70 °C.", ["cut 2", "bring_to 0"]),
        ("Leaf\n400 g sugar\n400 g water\n12 moonroot leaves\nBoil the sugar and water. Drop in the leaves.", ["bring_to 2", "combine 1"]),
        ("Musc\n600g dem / 300g h2o\n1 van pod\n60C, stir, 30m, frz 12h", ["bring_to 3", "steep 0", "freeze 0"]),
        ("Curd\n4 bergamots\n300 g sugar\nGrate the bergamot rind, squeeze the juice and put both in a pan with the sugar.", ["zest 1", "juice 1", "combine 1"]),
    ],
    ids=lambda value: value[:4] if isinstance(value, str) else "",
)  # fmt: skip
def test_things_go_in_where_they_are_told_and_no_later(text, told):
    read = parse_recipe(text)
    assert [f"{step['verb']} {len(step.get('lines', ()))}" for step in read.draft["steps"]] == told
    assert "never_used" not in {doubt.code for doubt in read.doubts}


def test_of_two_waters_the_one_of_that_amount_goes_in_and_what_was_grilled_is_squeezed():
    gum = parse_recipe(
        "Gum\n1 kg demerara\n500 ml water\n60 g gum arabic\n120 ml water, for the gum\nStir the gum arabic into the 120 ml water and leave overnight. "
        "Warm the demerara with the 500 ml water to 70 °C. Whisk in the gum."
    )
    shares = [[line["amount"].get("volume_ml") for line in step.get("lines", ())] for step in gum.draft["steps"]]
    assert [volumes[-1:] for volumes in shares] == [[120.0], [], [500.0], []]
    assert not gum.doubts
    burnt = parse_recipe("Cordial\n12 bergamots, halved\n600 g sugar\nGrill the bergamots until black. Squeeze. Add the sugar and strain.")
    assert [step["verb"] for step in burnt.draft["steps"]] == ["cut", "toast", "juice", "combine", "strain"]
    assert not burnt.doubts


def test_so_many_bunches_are_of_what_was_spoken_of_and_what_is_sliced_is_simmered():
    basil = parse_recipe("What I do for the basil is, I take three big bunches, blend them with 400 ml of water and strain.")
    assert [line["material"] for line in lines_of(basil.draft)] == ["basil", "water"]
    made = parse_recipe("We make a quince cordial, so it's a litre of quince juice, eight hundred grams of sugar, blitz it all.")
    assert [line["material"] for line in lines_of(made.draft)] == ["quince_juice", "white_sugar"]
    short = parse_recipe(
        "Syrup\n500 g raspberries\n500 g sugar\n1 handful basil\nChuck the raspbs & sugar in a bag, leave overnight. Add basil, strain."
    )
    assert "never_used" not in {doubt.code for doubt in short.doubts}
    ginger = parse_recipe("X\n300 g ginger\n300 ml water\nSlice it, simmer it in the water 9 minutes.")
    assert [(step["verb"], step.get("minutes")) for step in ginger.draft["steps"]] == [("cut", None), ("simmer", 9.0)]
    assert not ginger.doubts


def test_a_row_of_the_list_that_says_no_amount_in_known_words_is_asked_about():
    read = parse_recipe("Shrub\n1 kg damsons\nvinegar enough for the lot\nStir all.")
    assert [(doubt.code, doubt.text) for doubt in read.doubts] == [("not_taken", "vinegar enough for the lot")]
    at = read.draft["note"].index("vinegar")
    assert not any(phrase.start <= at < phrase.end for phrase in read.phrases), "it is shown as not taken, and no note"


def test_what_keeps_before_the_list_is_a_claim_and_no_amount_without_density_stops_a_reading():
    keeps = parse_recipe("Cordial\nMakes 1.3 litres. Keeps 3 weeks chilled.\n500 g sugar\n500 ml water\nStir.")
    assert [step["verb"] for step in keeps.draft["steps"]] == ["combine"]
    strange = parse_recipe(
        "Brew: a hundred grams of coffee per litre of tea, so for two litres it's four hundred grams of moonroot. Filter."
    )
    assert "ratio_to_what" in {doubt.code for doubt in strange.doubts}


def test_a_liquid_fills_up_to_the_line_wherever_it_is_told():
    for text in ("Dissolve in 800 ml water, make up to 1 litre.", "Stir. Top up with water to 1 L.", "Add water to make 1 litre, stir."):
        read = parse_recipe(f"Acids\n\n40 g citric acid\n20 g malic acid\n\n{text}")
        figures = worked(read.draft).figures[-1]
        assert figures["volume_ml"] == pytest.approx(1000.0, rel=1e-3), text
        assert not read.doubts
    rest = parse_recipe("Acid mix\nCitric 4%\nMalic 2%\nWater to 100%\nStir.")
    assert [line["amount"]["mass_g"] for line in lines_of(rest.draft)] == [40.0, 20.0, 940.0]


def test_a_lead_says_what_is_made_and_the_fruit_before_is_what_is_juiced():
    honey = parse_recipe("Okay so for the honey ginger, juice about 300 g of ginger, then warm 400 g of honey with it. Strain it.")
    assert [line["material"] for line in lines_of(honey.draft)] == ["ginger_fresh", "honey"]
    leaves = parse_recipe("For the pandan, blend ten leaves with half a litre of water and strain it.")
    assert {line["material"] for line in lines_of(leaves.draft)} == {"water", "pandan"}
    juiced = parse_recipe("Zest two bergamots, juice them too, you'll get about 400 ml. Add 300 g of sugar and strain.")
    assert [line["material"] for line in lines_of(juiced.draft)] == ["bergamot_zest", "bergamot_juice", "white_sugar"]
    told = parse_recipe(
        "You want 200 g of quince tea syrup so brew 10 g of black tea in 200 ml of water for four minutes, strain, add 200 g of sugar."
    )
    assert not told.doubts
    tea = parse_recipe(
        "Tea syrup\nwater 1 L\ngreen tea 1.5% of the water\nsugar 1:1 with the tea\nSteep the tea 4 min, strain, stir in the sugar."
    )
    assert worked(tea.draft).figures[-1]["brix"] == pytest.approx(50.0, abs=1.5)


def test_what_a_spoken_sentence_tells_without_verbs_is_told_in_its_order():
    read = parse_recipe(
        "80 g coarse coffee in a litre of cold water, sixteen hours in the fridge, through a paper filter, and then you stir in 300 g of sugar."
    )
    told = [(step["verb"], [line["material"] for line in step.get("lines", ())]) for step in read.draft["steps"]]
    assert told == [("combine", ["coffee_beans", "water"]), ("steep", []), ("strain", []), ("combine", ["white_sugar"])]
    timed = parse_recipe("tea syr\n10 g black tea / 300 g h2o 90C 4min\nstrain, 300 g sug, stir")
    assert [(step["verb"], step.get("minutes"), step.get("temperature_c")) for step in timed.draft["steps"]][:2] == [
        ("steep", 4.0, 90.0),
        ("strain", None, None),
    ]
    spoken = parse_recipe(
        "What you do for the rhubarb is chop a kilo of it, put it in a pan with 300 g of sugar and cook it for 15 minutes. You need 10 g of ginger."
    )
    assert {line["material"]: line["amount"] for line in lines_of(spoken.draft)}["rhubarb"] == {"kind": "fixed", "mass_g": 1000.0}
    assert len(lines_of(spoken.draft)) == 3 and not spoken.doubts
    mint = parse_recipe(
        "Blanch two bunches of mint for ten seconds and shock them in ice water. Blend them with half a litre of quince juice. Squeeze in a bergamot."
    )
    assert [line["material"] for line in lines_of(mint.draft)] == ["mint", "quince_juice", "bergamot_juice"]


def test_what_covers_gives_nothing_and_a_milk_of_oats_is_no_piece():
    peel = parse_recipe("Take the peel off six bergamots, cover it with 300 g of sugar, leave it for a night and strain.")
    assert [(line["material"], line["amount"].get("assumed", False)) for line in lines_of(peel.draft)] == [
        ("bergamot_peel", True),
        ("white_sugar", False),
    ]
    punch = parse_recipe("Punch\n400 ml gin\n150 g sugar\n300 ml oat milk\nStir all. Rest 1 hour, then strain.")
    assert [step["verb"] for step in punch.draft["steps"]] == ["combine", "rest", "strain"]
    ratio = parse_recipe("Base\nQuince juice 500 g\nsugar at 1:1 by weight\nStir.")
    assert [round(mass) for mass in worked(ratio.draft).flow.masses.values()] == [500, 500]


def test_a_part_of_a_line_goes_in_where_it_is_said_and_the_rest_later():
    read = parse_recipe(
        "Verjus base\n750 ml verjus\n375 g sugar\nBring half the verjus and all the sugar to 60C. Strain into the remaining verjus. Bottle."
    )
    shares = [
        (step["verb"], line["material"], line["amount"].get("volume_ml")) for step in read.draft["steps"] for line in step.get("lines", ())
    ]
    assert shares == [("bring_to", "verjus_juice", 375.0), ("bring_to", "white_sugar", None), ("combine", "verjus_juice", 375.0)]
    whole = answered(read.draft, 0, 1)
    assert [line["amount"].get("volume_ml") for line in lines_of(whole)] == [750.0, None]
