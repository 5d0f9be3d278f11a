"""Ways of telling a recipe, one in a row: the verb of each step, and the ingredients and amounts that go in."""

import pytest

from tests.core.pasted import taken
from ulsek.core.recipe_text.parser import parse_recipe


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
        (
            "Gomme\n\nGum arabic 60 g\nHot water 60 g\nSugar 500 g\nWater 250 g\n\nMix gum arabic and hot water. Warm sugar and water.",
            ["combine: gum_arabic 60, water 60", "dissolve: white_sugar 500, water 250"],
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
            "Butter syrup\n\n200 g butter\n500 g water\nblend, freeze overnight, lift fat off",
            ["blend: butter 200, water 500", "freeze: "],
        ),
    ],
    ids=lambda value: value[:24] if isinstance(value, str) else "",
)
def test_a_step_takes_what_is_told_of_it(text, told):
    assert taken(parse_recipe(text).draft) == told


def test_what_a_syrup_is_made_of_adds_nothing_and_is_tied_to_it():
    text = "Mint\n\n50 g mint\n\nBlend with 500 ml of simple syrup (1 cup sugar, 1 cup water). Strain."
    read = parse_recipe(text)
    assert taken(read.draft) == ["blend: mint 50, 0_847_1_simple_syrup 500", "strain: "]
    inside = text.index("1 cup sugar")
    assert any(phrase.start <= inside < phrase.end and phrase.kind == "line" for phrase in read.phrases)
