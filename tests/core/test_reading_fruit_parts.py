"""Parts of a plant: the peel, zest and juice that steps take of the fruit in a list, and parts that are no fruit."""

import pytest

from tests.core.pasted import lines_of, taken
from ulsek.core.recipe_text.parser import parse_recipe


def test_the_juice_of_what_was_peeled_goes_in_as_much_as_is_wanted_and_a_plus_puts_in():
    read = parse_recipe(
        "So for lime cordial: peel off fifteen limes, leave that in six hundred grams of sugar overnight, juice the limes, you want about half a litre, "
        "stir that into the sugar. + citric. Strain it."
    )
    amounts = {line["material"]: line["amount"] for line in lines_of(read.draft)}
    assert amounts["lime_persian_juice"]["volume_ml"]["value"] == 500
    assert "citric_acid" in amounts


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


@pytest.mark.parametrize(
    ("text", "told"),
    [
        (
            "Limes\n\nten limes zested and juiced, that's around 300 ml of juice, and 250 grams of sugar, stirred",
            ["combine: lime_persian_zest 16.75, lime_persian_juice 300, white_sugar 250"],
        ),
        (
            "Zest 4 limes, juice them (300 ml). Add 700 g sugar. Stir in the juice.",
            ["zest: lime_persian_zest 6.7", "juice: ", "combine: white_sugar 700", "combine: lime_persian_juice 300"],
        ),
        (
            "zest\n\nlemon zest 60 g\nsugar 200 g\nrub, 12 h, + lemon juice 200 g, strain",
            ["macerate: lemon_zest 60, white_sugar 200", "combine: lemon_juice 200", "strain: "],
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
            "Limes\n\n300 ml orange juice\n\nPeel 12 limes. Juice the limes and add to the orange juice.",
            ["peel: lime_persian_peel 66.8606", "juice: lime_persian_juice 337.68", "combine: orange_sweet_juice 300"],
        ),
        (
            "Limes\n\n300 ml lime juice\n200 g sugar\n\nPeel 12 limes. Mix peel and sugar, leave 2 hours. Add the juice.",
            ["peel: lime_persian_peel 66.8606", "combine: white_sugar 200", "macerate: ", "combine: lime_persian_juice 300"],
        ),
        (
            "Limes\n\n300 ml lime juice\n200 g sugar\n\nZest 2 limes into the lime juice. Stir in the sugar.",
            ["zest: lime_persian_juice 300, lime_persian_zest 3.35", "combine: white_sugar 200"],
        ),
        (
            "Sirup\n\n6 Zitronen\n200 g Zucker\n\nZitronen schälen, Schalen mit Zucker mischen. Zitronen pressen, Saft einrühren.",
            ["peel: ", "combine: lemon_peel 87.318, white_sugar 200", "juice: ", "combine: lemon_juice 250.8"],
        ),
        (
            "Sirup\n\n6 Zitronen\n200 g Zucker\n\nDie Zitronen schälen, die Schale mit dem Zucker mischen. Den Saft der Zitronen zugeben.",
            ["peel: ", "combine: lemon_peel 87.318, white_sugar 200", "combine: lemon_juice 250.8"],
        ),
        (
            "Sirop\n\n6 citrons\n200 g de sucre\n\nPelez les citrons, mélangez les zestes avec le sucre. Pressez les citrons et ajoutez le jus.",
            ["peel: ", "combine: lemon_peel 87.318, white_sugar 200", "juice: ", "combine: lemon_juice 250.8"],
        ),
        (
            "Sirup\n\n4 Zitronen\n200 g Zucker\n\nDie Zitronen waschen und die Schale abreiben. Mit dem Zucker verreiben. Die Zitronen auspressen, Saft zugeben.",
            ["wash: ", "zest: lemon_zest 15.4", "combine: white_sugar 200", "juice: ", "combine: lemon_juice 167.2"],
        ),
        (
            "Limes\n\n4 limes\n100 g sugar\n\nScrub the limes, steep the peel in the sugar for an hour. Squeeze the limes and stir in the juice.",
            ["wash: ", "macerate: lime_persian_peel 22.2869, white_sugar 100", "juice: ", "combine: lime_persian_juice 112.56"],
        ),
        (
            "Limes\n\nPeel 6 lemons and 4 oranges, rub with 300 g sugar. Juice the lemons and the oranges, add the juice.",
            [
                "peel: lemon_peel 87.318, orange_sweet_peel 73.4832",
                "combine: white_sugar 300",
                "juice: ",
                "combine: lemon_juice 250.8, orange_sweet_juice 324",
            ],
        ),
        ("Limes\n\n500 g water\n\nFor the super juice I peel a dozen limes.", ["peel: water 500, lime_persian_peel 66.8606"]),
        (
            "Cordial\n\n2 lemons\n1 kg sugar\n1 L water\n\nWarm the sugar, water and thinly pared rind of the lemons. Strain. Add the lemon juice.",
            ["dissolve: lemon_peel 29.106, white_sugar 1000, water 1000", "strain: ", "combine: lemon_juice 83.6"],
        ),
        (
            "Blood orange cordial: juice 1.2 kg, zest 25 g, sugar 700 g, malic 9 g. Zest & sugar 1 h. Juice & acid in.",
            ["macerate: orange_blood_zest 25, white_sugar 700", "combine: orange_blood_juice 1200, malic_acid 9"],
        ),
        (
            "Husks of thirty limes, cover with a third of their weight in sugar, a night.",
            ["combine: white_sugar 0.333333, lime_persian_peel 167.152", "macerate: "],
        ),
    ],
    ids=lambda value: value[:24] if isinstance(value, str) else "",
)
def test_a_step_takes_so_much_of_the_fruit(text, told):
    assert taken(parse_recipe(text).draft) == told


@pytest.mark.parametrize(
    "row",
    [
        "10 g de noyaux d'abricot",
        "10 g de huesos de cereza",
        "10 g di noccioli di albicocca",
        "10 g de feuilles de tomate",
        "10 g de hojas de limón",
        "10 g di foglie di pomodoro",
        "10 g lemon blossoms",
        "10 g celery leaves",
    ],
)
def test_a_leaf_or_a_stone_is_not_its_fruit(row):
    read = parse_recipe(f"Test\n\n{row}\n500 g sugar")
    assert set(read.draft["materials"]) == {line["material"] for line in read.draft["steps"][0]["lines"]} - {"white_sugar"}
    asked = {doubt.code for doubt in read.doubts}
    assert ("confusable_name" if any(stone in row for stone in ("noyaux", "huesos", "noccioli")) else "unknown_material") in asked
