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


def test_the_juice_of_what_was_peeled_goes_in_as_much_as_is_wanted_and_a_plus_puts_in():
    read = parse_recipe(
        "So for lime cordial: peel off fifteen limes, leave that in six hundred grams of sugar overnight, juice the limes, you want about half a litre, "
        "stir that into the sugar. + citric. Strain it."
    )
    amounts = {line["material"]: line["amount"] for line in lines_of(read.draft)}
    assert amounts["lime_persian_juice"]["volume_ml"]["value"] == 500
    assert "citric_acid" in amounts


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


@pytest.mark.parametrize(
    ("method", "then"),
    [
        ("Zest the bergamots into the sugar. Add the water. Stir in the juice.", ["bergamot_zest", "white_sugar", "water", "bergamot_juice"]),
        ("Grate the zest of the bergamots into the sugar. Add the water and the juice of the fruit.", ["bergamot_zest", "white_sugar", "bergamot_juice", "water"]),
        ("Slice the bergamots, cover with the sugar, leave overnight. Add the water. Strain the juice.", ["bergamot", "white_sugar", "water"]),
    ],
)  # fmt: skip
def test_what_is_left_of_fruit_that_was_zested_is_not_lost(method, then):
    read = parse_recipe(f"Base\n4 bergamots\n500 g sugar\n500 ml water\n{method}")
    assert [line["material"] for line in lines_of(read.draft)] == then


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


def test_a_terse_text_with_a_german_word_or_two_is_english():
    read = parse_recipe("SYR\n300g gngr jce\n300g dem\n10g cit\nall in, 50C, 20m, strn, btl")
    assert read.language == "en"
    assert [(step["verb"], step.get("minutes"), len(step.get("lines", ()))) for step in read.draft["steps"]] == [
        ("hold", 20.0, 3),
        ("strain", None, 0),
        ("bottle", None, 0),
    ]
    leaves = parse_recipe("Water\n1.5 kg tomatoes\n15 basil leaves\nChop the tomatoes and leave 30 minutes. Blend. Tear the basil into it.")
    assert [len(step.get("lines", ())) for step in leaves.draft["steps"]] == [1, 0, 0, 1]


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


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("Rum\n500 g Zucker\n300 g Wasser\n20 g Minze\nAlles aufkochen. Durch ein feines Sieb geben. Die Minze mit dem Zucker bedecken.", [("bring_to", 3), ("strain", 0), ("combine", 0)]),
        ("Cordiale\n2 limoni a fette\n300 g zucchero\nacqua fino a 1 l\nCoprire i limoni con lo zucchero. Filtrare.", [("combine", 3), ("strain", 0)]),
        ("Sirop\n500 g de sucre\nle jus d'un demi-citron\nrhum brun 200 ml\nMélanger le sucre et le rhum. Ajouter le jus.", [("combine", 2), ("combine", 1)]),
        ("Jarabe\n500 g de azúcar\n2 vainas de vainilla abiertas\n500 ml de agua\nHervir todo. Colar.", [("bring_to", 3), ("strain", 0)]),
        ("Café\n100 g de azúcar\n600 ml de agua\nCalentar el agua. Unir el azúcar. Pasar por un filtro de papel.", [("dissolve", 1), ("combine", 1), ("strain", 0)]),
        ("Sirop\n300 g de sucre\n300 g d'eau\nFaire un sirop avec l'eau et le sucre, laisser tiédir. Écumer. Décanter.", [("dissolve", 2), ("cool", 0), ("settle", 0)]),
        ("Saft\n1 kg Feigen\n400 ml Wasser\nDie Feigen mit dem Wasser 10 Minuten blanchieren. Durch ein Passiertuch drücken. Gut schütteln.", [("simmer", 2), ("strain", 0), ("combine", 0)]),
        ("Orzata\n250 g di mandorle\n750 ml d'acqua\nMetti a bagno le mandorle per 2 ore e scolale. Frullale con l'acqua. Spremi con una garza.", [("steep", 1), ("blend", 1), ("strain", 0)]),
        ("Rhum\n700 ml de rhum\n150 g de beurre\nFondre le beurre dans le rhum, laisser 2 h puis une nuit au congélateur. Puis à travers un linge et en bouteille.", [("dissolve", 2), ("infuse", 0), ("freeze", 0), ("settle", 0), ("strain", 0), ("bottle", 0)]),
        ("Saft\n1 kg Rhabarber\n500 g Zucker\n10 Minuten kochen, 2 Tage an einem kühlen Ort ziehen lassen. Durch ein Tuch ablaufen lassen. Absieben, in Flaschen.", [("simmer", 2), ("steep", 0), ("strain", 0), ("strain", 0), ("bottle", 0)]),
        ("Sciroppo\n80 g di menta\n400 ml d'acqua\nSbollenta la menta 10 secondi e raffreddala in acqua e ghiaccio. Scalda l'acqua.", [("simmer", 1), ("cool", 0), ("dissolve", 1)]),
        ("Lösung\n60 g Zitronensäure\nWasser auf 1 l auffüllen\nSäure in 700 ml Wasser lösen, auf 1 l auffüllen, abfüllen.", [("dissolve", 2), ("make_up", 1), ("bottle", 0)]),
        ("Ingwer\nIhr nehmt 250 Gramm Ingwer, den reibt ihr grob, kocht ihn mit einem halben Liter Wasser zwanzig Minuten, dann durch ein Tuch drücken.", [("combine", 1), ("cut", 0), ("simmer", 1), ("strain", 0)]),
        ("Soluzione\n2 etti di zucchero\nacqua fino a 1 litro\nSciogliere lo zucchero in 700 ml di acqua e portare a 1 litro. Lasciar sgocciolare in un telo.", [("dissolve", 2), ("make_up", 1), ("strain", 0)]),
        ("Shrub\nTu mélanges 500 grammes de fraises et 25 centilitres de vinaigre de cidre, tu laisses égoutter.", [("combine", 2), ("strain", 0)]),
        ("Hibisco\nPones un litro de agua a hervir y echas 50 gramos de jamaica y unas 3 ramas de canela.", [("combine", 1), ("bring_to", 0), ("combine", 2)]),
        ("Pepino\nPela 300 g de pepino, cúbrelo con 700 ml de vodka y deja 24 horas. Cuelga en un paño toda la noche. Meter en la nevera.", [("peel", 1), ("combine", 1), ("infuse", 0), ("strain", 0), ("store", 0)]),
        ("Amande\nOn prend un litre de lait d'amande, on ajoute 300 g de purée de mangue, on met au frais. Ça se garde cinq jours.", [("combine", 1), ("combine", 1), ("store", 0)]),
        ("Sirup\nIch koche 500 ml Wasser auf, gebe 40 g Minze dazu, lasse es zehn Minuten ziehen. Abseihen und in eine Tropfflasche füllen.", [("bring_to", 1), ("combine", 1), ("steep", 0), ("strain", 0), ("bottle", 0)]),
        ("Caffè\n30 g di caffè macinato\n750 ml di vermouth rosso\nMescolare. Appendere in una garza. Filtrare e rimettere in bottiglia.", [("combine", 2), ("strain", 0), ("strain", 0), ("bottle", 0)]),
        ("Essig\n400 g Himbeeren\n400 ml Apfelessig\nHimbeeren mit dem Essig übergießen, 3 Tage kühl stellen. Durch ein Tuch abseihen.", [("combine", 2), ("steep", 0), ("strain", 0)]),
        ("Succo\n500 g di cetrioli\n8 g di acido citrico\nCentrifugare i cetrioli. Mischiare con l'acido.", [("juice", 1), ("combine", 1)]),
    ],
)  # fmt: skip
def test_other_languages_put_in_what_they_name(text, told):
    read = parse_recipe(text)
    assert [(step["verb"], len(step.get("lines", ()))) for step in read.draft["steps"]] == told
    assert {doubt.code for doubt in read.doubts} <= {"count_of_fruit"}
    assert "materials" not in read.draft


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


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("Quince\n\n1 kg quince, water to cover, simmer 30 min, strain", ["simmer: quince 1000, water cover", "strain: "]),
        ("Cherries\n\n1 kg sour cherries\n\nCover with vodka and leave 2 months.", ["combine: cherry_sour 1000, vodka cover", "infuse: "]),
        ("Pflaumen\n\n1 kg Zwetschgen\nMit Wasser bedecken und 20 Minuten köcheln.", ["combine: plum 1000, water cover", "simmer: "]),
        (
            "Ginger\n\n1 kg ginger juice\nSame again of sugar, stir it in cold, and ten grams of citric for every litre.",
            ["combine: ginger_root 1000, white_sugar 1, citric_acid 0.01"],
        ),
        ("Cherries\n\n500 g cherries\n\nStone half the cherries. Add the rest.", ["core: cherry_sweet 250", "combine: cherry_sweet 250"]),
        (
            "Limes\n\nten limes zested and juiced, that's around 300 ml of juice, and 250 grams of sugar, stirred",
            ["combine: lime_persian_zest 16.75, lime_persian_juice 300, white_sugar 250"],
        ),
        ("Sour\n\nlemons, sugar, water\n\nJuice the lemons.", ["juice: lemon 200, white_sugar 300, water 500"]),
        (
            "Chilli tequila\n\n700 ml tequila\n2 jalapenos\n\nDrop the jalapenos into the bottle. Strain.",
            ["combine: tequila 700, chilli_fresh 2", "strain: "],
        ),
        (
            "Pineapple\n\n1.5 L water\nsug 1:1 w/ strained\nsimmer 40 min, strain, add sug",
            ["simmer: water 1500", "strain: ", "combine: white_sugar 1"],
        ),
        (
            "Lime jelly\n\n1 L lime juice\n\nStir in two grams per litre of agar.",
            ["combine: lime_persian_juice 1000, agar 0.002"],
        ),
        ("Base\n\nFor every litre of lime juice add 30 g citric acid.", ["combine: lime_persian_juice 1000, citric_acid 0.0288842"]),
        (
            "Zest 4 limes, juice them (300 ml). Add 700 g sugar. Stir in the juice.",
            ["zest: lime_persian_zest 6.7", "juice: ", "combine: white_sugar 700", "combine: lime_persian_juice 300"],
        ),
        (
            "Shrub\n\n1 kg plums\n500 g sugar\n\nMix, leave a day. Strain and chuck the fruit.",
            ["combine: plum 1000, white_sugar 500", "macerate: ", "strain: "],
        ),
        (
            "Vinegar\n\n1 kg raspberries\n1 l vinegar\nsugar\n\nSteep the berries in the vinegar 4 days. Strain. Allow 800 g sugar to each litre.",
            ["steep: raspberry 1000, white_wine_vinegar 1000", "strain: ", "combine: white_sugar 0.8"],
        ),
        (
            "We had loads of coffee. I take 100 g of that, cover with 1 l of water, leave it overnight.",
            ["combine: coffee_beans 100", "combine: water 1000", "steep: "],
        ),
        (
            "Base\n\ncold brew coffee 1 kg\nsugar 60% of the coffee\n\nStir the sugar into half of the coffee. Cool. Add the rest.",
            ["combine: cold_brew_coffee 500, white_sugar 1.2", "cool: ", "combine: cold_brew_coffee 500"],
        ),
        (
            "I just do equal parts raspberries and sugar, 500 g of each, mash them together.",
            ["combine: raspberry 500, white_sugar 500", "crush: "],
        ),
        (
            "zest\n\nlemon zest 60 g\nsugar 200 g\nrub, 12 h, + lemon juice 200 g, strain",
            ["macerate: lemon_zest 60, white_sugar 200", "combine: lemon_juice 200", "strain: "],
        ),
        (
            "vin\n\nrasps 500g\nsug 350g\nwwv 500ml\nbrandy 100ml\n\nrasps + vin 5d, strain, + sug, 60C, + brandy, btl",
            [
                "steep: raspberry 500, white_wine_vinegar 500",
                "strain: ",
                "combine: white_sugar 350",
                "bring_to: ",
                "combine: brandy 100",
                "bottle: ",
            ],
        ),
        (
            "Limes\n\n12 limes\n250 g sugar\n\nZest 4 of the limes. Rub the zest with the sugar. Juice half of them, add the juice and strain.",
            ["zest: ", "combine: lime_persian_zest 6.7, white_sugar 250", "juice: ", "combine: lime_persian_juice 168.84", "strain: "],
        ),
        (
            "Limes\n\n12 limes\n500 g syrup\n\nWarm the syrup. Add the zest of 4 of the limes. Stir in the juice of all twelve.",
            ["dissolve: syrup 500", "combine: lime_persian_zest 6.7", "combine: lime_persian_juice 337.68"],
        ),
        (
            "Sirop\n\n8 citrons\n250 g de sucre\n\nZester 4 des citrons. Mélanger le zeste avec le sucre. Presser tous les citrons, ajouter le jus.",
            ["zest: ", "combine: lemon_zest 15.4, white_sugar 250", "juice: ", "combine: lemon_juice 334.4"],
        ),
        (
            "Limes\n\nZest 4 limes into 200 g sugar. Juice 10 limes, add the juice.",
            ["zest: lime_persian_zest 6.7, white_sugar 200", "juice: lime_persian_juice 281.4", "combine: "],
        ),
        (
            "Mint\n\n50 g mint\n\nBlend with 500 ml of hot sugar syrup (2 parts sugar to 1 part water). Strain.",
            ["blend: mint 50, 2_1_sugar_syrup 500", "strain: "],
        ),
        (
            "Menthe\n\n50 g de menthe\n\nMixer la menthe avec 500 ml de sirop de sucre (1 kg de sucre pour 1 litre d'eau). Filtrer.",
            ["blend: mint 50, 1_1_sucre_syrup 500", "strain: "],
        ),
        (
            "Almond\n\n300 g almonds\n700 g water\nsugar, same weight as the milk\n\nBlend almonds and water. Strain. Add the sugar. About 1 kg out.",
            ["blend: almonds 300, water 700", "strain: ", "combine: white_sugar 1"],
        ),
        (
            "Limes\n\nPeel 12 limes and rub the peel with 200 g sugar. Leave 2 hours. Squeeze them, add the juice and strain.",
            [
                "peel: lime_persian_peel 66.8606",
                "combine: white_sugar 200",
                "macerate: ",
                "juice: ",
                "combine: lime_persian_juice 337.68",
                "strain: ",
            ],
        ),
        (
            "Tea\n\n1 kg peaches\n20 g black tea\n800 g water\nsugar: equal to the strained weight\ncitric acid 0.4% of final weight\n\nBrew the tea in 95 C water for 4 min, strain. Pour over peaches, cool, 24 h in the fridge. Strain. Add sugar and acid.",
            [
                "steep: black_tea 20, water 800",
                "strain: ",
                "combine: peach 1000",
                "cool: ",
                "steep: ",
                "strain: ",
                "combine: white_sugar 1, citric_acid 0.004",
            ],
        ),
        (
            "Mint\n\nInfuse 50 g mint in 500 ml water for 10 min. Strain, weigh, add 60 % of that in sugar.",
            ["steep: mint 50, water 500", "strain: ", "combine: white_sugar 0.6"],
        ),
        (
            "Limes\n\n500 g lime juice\n3 g agar\n100 g water\n\nBoil the agar and water 2 min. Stir in the juice. Cut the gel with a whisk.",
            ["simmer: agar 3, water 100", "combine: lime_persian_juice 500", "agar: "],
        ),
        (
            "What I do with overripe bananas: mash four of them with 400 grams of brown sugar.",
            ["crush: brown_sugar_soft_light 400, banana 4"],
        ),
        (
            "Base\n\n500 g sugar\n500 g water\n5 g citric acid\n\nSimmer all but the acid for 20 min. Bottle.",
            ["simmer: white_sugar 500, water 500", "combine: citric_acid 5", "bottle: "],
        ),
        ("Base\n\n1 kg rhubarb\n400 g sugar\n\nLid on, low heat, 25 minutes.", ["simmer: rhubarb 1000, white_sugar 400"]),
        ("Mix 20 g of sugar. Add 100 g of mango purée.", ["combine: white_sugar 20", "combine: mango_juice 100"]),
        ("Saline\n\nTwo ounces of ground ginger and a litre of water, stirred.", ["combine: dried_ginger 56.699, water 1000"]),
        ("Orgeat v3 - 2 L\n\nalm 500 g\nwater 1.2 L blend 3 min\nnut bag, squeeze hard", ["blend: almonds 500, water 1200", "strain: "]),
        (
            "Bitters\n\n5 g gentian, 250 ml 60% neut, 2 wks, strain, + 20 g gly",
            ["combine: gentian_root 5", "steep: ", "strain: ", "combine: glycerin 20"],
        ),
        (
            "So what we do for the vermouth is two bottles of dry white wine, a hundred grams of sugar and five grams of wormwood, warm it to fifty",
            ["combine: white_wine 1500, white_sugar 100, wormwood 5", "dissolve: "],
        ),
        ("sage honey 2:1 - 400 honey 200 water 15 sage, 70C bag 1h, chill", ["combine: honey 2, water 200, sage 9", "steep: ", "cool: "]),
        ("Limes\n\n500 g water\n\nFor the super juice I peel a dozen limes.", ["peel: water 500, lime_persian_peel 66.8606"]),
        (
            "Gomme\n\nGum arabic 60 g\nHot water 60 g\nSugar 500 g\nWater 250 g\n\nMix gum arabic and hot water. Warm sugar and water.",
            ["combine: gum_arabic 60, water 60", "dissolve: white_sugar 500, water 250"],
        ),
        (
            "Cordial\n\n2 lemons\n1 kg sugar\n1 L water\n\nWarm the sugar, water and thinly pared rind of the lemons. Strain. Add the lemon juice.",
            ["dissolve: lemon_peel 29.106, white_sugar 1000, water 1000", "strain: ", "combine: lemon_juice 83.6"],
        ),
        (
            "Shrub\n\napples 800 g\ndemerara 400 g\nvinegar 400 g\n\nMix apples and sugar. 2 days cold.\nPress.\n+ vinegar, 1 wk\nStrain.",
            [
                "combine: apple_dessert_mixed 800, demerara 400",
                "macerate: ",
                "strain: ",
                "combine: white_wine_vinegar 400",
                "rest: ",
                "strain: ",
            ],
        ),
        (
            "Tea\ntea 25 g / h2o 1 L 95c 5 min\nstrain\nsug 600 g / citric 18 g\nbottle",
            ["steep: black_tea 25, water 1000", "strain: ", "combine: white_sugar 600, citric_acid 18", "bottle: "],
        ),
        (
            "Whey\nwhey 1 kg, sugar 600 g, citric 12 g\n45 C, stir, strain, citric, bottle",
            ["bring_to: whey 1000, white_sugar 600", "combine: ", "strain: ", "combine: citric_acid 12", "bottle: "],
        ),
        (
            "Blood orange cordial: juice 1.2 kg, zest 25 g, sugar 700 g, malic 9 g. Zest & sugar 1 h. Juice & acid in.",
            ["macerate: orange_blood_zest 25, white_sugar 700", "combine: orange_blood_juice 1200, malic_acid 9"],
        ),
        (
            "So you get a bottle of mezcal and put in 200 g of pineapple and leave it two days, then strain it.",
            ["combine: mezcal 700", "combine: pineapple 200", "infuse: ", "strain: "],
        ),
        (
            "Cardamom\n\n8 cardamom pods\n200 g sugar\n\nStir in another 200 g sugar.",
            ["combine: green_cardamom 8, white_sugar 200, white_sugar 200"],
        ),
        (
            "Ginger\n\nsug/water 500/400\nginger 80 g\n\nGinger in the water, 80 C, 20 min. Everything else in a jar.",
            ["steep: water 400, ginger_fresh 80", "combine: white_sugar 500"],
        ),
        (
            "Apples, cooking, 2 lb\nwater, 1 L\nsugar 500 g\nlime juice 50 g\nsalt 2 g\n\nWater and apples in a pan. Boil 10 min. Strain. Sugar in while hot. Lime + salt.",
            [
                "combine: apple_dessert_mixed 907.185, water 1000",
                "simmer: ",
                "strain: ",
                "combine: white_sugar 500",
                "combine: lime_persian_juice 50, salt 2",
            ],
        ),
        (
            "Husks of thirty limes, cover with a third of their weight in sugar, a night.",
            ["combine: white_sugar 0.333333, lime_persian_peel 167.152", "macerate: "],
        ),
        (
            "Butter syrup\n\n200 g butter\n500 g water\nblend, freeze overnight, lift fat off",
            ["blend: butter 200, water 500", "freeze: "],
        ),
    ],
    ids=lambda value: value[:24] if isinstance(value, str) else "",
)
def test_what_goes_in_is_told_in_many_ways(text, told):
    steps = parse_recipe(text).draft["steps"]
    lines = [", ".join(f"{line['material']} {_figure(line['amount'])}" for line in step.get("lines", ())) for step in steps]
    assert [f"{step['verb']}: {each}" for step, each in zip(steps, lines, strict=True)] == told


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


def _figure(amount):
    figure = next((amount[name] for name in ("mass_g", "volume_ml", "ratio", "count", "state") if name in amount), None)
    figure = figure["value"] if isinstance(figure, dict) else figure
    return figure if isinstance(figure, str) else f"{figure:g}"
