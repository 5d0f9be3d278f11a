"""Whole texts of recipes: what they come to with every doubt still open, what is asked and what an answer changes."""

import re

import pytest

from tests.core.pasted import lines_of, worked
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.answers import answered
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.release.release_check import release_check

SPOKEN = (
    "Take about a kilo of quinces, chop them up and throw them in with a litre of water. Simmer gently for forty minutes till they're soft, then strain, don't "
    "press. For every 100 g of that, 60 of sugar, back on low till it's gone. Off the heat, a good squeeze of bergamot and citric, about five grams. Cool it, "
    "bottle. Makes a litre and a half, keeps a month."
)
# text | locale | family | low and high [g] | low and high [°Bx]
TEXTS = [
    (SPOKEN, "metric", "cordial", (1600, 1950), (39, 44)),
    ("CLEAR GREENGAGE\n1L greengage juice\n2g agar\n250ml water\nboil water + agar 2min, whisk into juice, fridge 1h, break up gel, strain cloth, btl", "metric", "clarified_juice", (900, 1200), (8, 16)),
    ("Birch base\n| Ingredient | Amount |\n|---|---|\n| Birch sap | 1 kg |\n| Honey | 600 g |\n| Malic acid | 6 g |\n\n1. Stir everything until dissolved.\n2. Bottle.", "metric", "cordial", (1600, 1610), (29, 33)),
    ("Medlar shrub - cold\n1 part medlar purée\n1 part sugar\n1 part ACV\nMix medlar and sugar, 24h fridge. Strain. Add vinegar. 1 wk.", "metric", "shrub", (1000, 1500), (30, 46)),
    ("Sharp stock\ncitric 30g\nmalic 20g\nwater to 1000 ml", "metric", "solution", (1005, 1030), (3, 6)),
    ("Kumquat syrup: 400g kumquats, 300 g sugar, 300ml water. Halve kumquats. Simmer all 30 mins. Blend & strain.", "metric", "fruit_syrup", (500, 900), (36, 50)),
    ("Damson gin\n1 lb damsons\n8 oz caster sugar\n1¾ pints gin\n\nPut all in a jar. Shake daily for a week, then leave for 3 months. Strain and bottle.", "imperial", "spirit_infusion", (1000, 1500), (10, 25)),
    ("Jarabe de jengibre\n300 g de jengibre fresco\n1 kg de azúcar\n1 litro de agua\n\nLlevar el agua a ebullición, añadir el jengibre y dejar infusionar 30 minutos. Colar, añadir el azúcar y remover hasta que se disuelva. Enfriar y embotellar.", "metric", "infused_syrup", (1800, 2100), (47, 54)),
    ("Sirop de gingembre\n250 g de gingembre frais\n500 g de sucre\n50 cl d'eau\n\nPorter l'eau et le sucre à ébullition. Ajouter le gingembre et laisser mijoter 15 minutes. Filtrer. Laisser refroidir et mettre en bouteille.", "metric", "infused_syrup", (800, 1000), (44, 58)),
    ("Holunderblütensirup\n20 Holunderblütendolden\n1,5 l Wasser\n1,5 kg Zucker\n40 g Zitronensäure\n\nWasser mit dem Zucker aufkochen und abkühlen lassen. Blüten und Zitronensäure dazugeben und 2 Tage ziehen lassen. Durch ein Tuch abseihen und abfüllen.", "metric", "cordial", (2700, 3100), (46, 54)),
    ("So for oleo you peel a dozen lemons, no pith, and that gives you about 180 grams of peel. Put them in a bag with the same weight of sugar and leave it overnight. Next day add 200 grams of boiling water, swish it round and strain.", "metric", "oil_sugar", (340, 420), (38, 48)),
    ("For the quince thing blend about a kilo of quince flesh with half a litre of water, strain it, and for every litre of juice add 600 g of sugar and 25 g of malic. Bottle.", "metric", "cordial", (1700, 2000), (36, 46)),
    ("Pues mira, para el jarabe de tamarindo cojo 200 gramos de tamarindo y lo pongo en medio litro de agua hirviendo. Lo dejo una hora, lo paso por un colador apretando y le echo 400 gramos de azúcar moreno. Lo caliento hasta que se disuelva y a la botella.", "metric", "fruit_syrup", (900, 1080), (46, 58)),
    ("Alors pour le gingembre, tu prends 200 grammes de gingembre, tu le râpes, tu le mets dans un demi-litre d'eau et tu laisses bouillir dix minutes. Tu filtres, tu ajoutes 500 grammes de sucre, tu mélanges et tu mets en bouteille.", "metric", "infused_syrup", (850, 1010), (50, 60)),
    ("Our sour: quince juice two litres, bergamot juice half a litre, sugar a kilo and a half. Shake the lot, fine strain, bottle.", "metric", "cordial", (4050, 4200), (40, 47)),
    ("ok so the ginger syrup we do every tuesday is about a kilo of ginger, don't bother peeling, chuck it through the juicer, you get maybe seven hundred mil, let that settle twenty minutes, then same weight of sugar, stir till it's gone, bottle. four days tops.", "metric", "infused_syrup", (1200, 1500), (48, 60)),
    ("My vinegar: you cover two pounds of blackberries with a pint and a half of malt vinegar, leave it three days, strain it, and for every pint you get you put a pound of sugar, boil it ten minutes and bottle it.", "imperial", "shrub", (1200, 2200), (40, 56)),
    ("QUINCE SHRB\n1kg quinces grtd\n400g dem\n500ml acv\n3d fridge, press, strn, btl", "metric", "shrub", (700, 1200), (28, 45)),
    ("Allora, per il caffè: prendi mezzo litro d'acqua fredda, ci metti 60 grammi di caffè macinato grosso e lo lasci in frigo dodici ore. Poi lo filtri, aggiungi 300 grammi di zucchero e giri finché non si è sciolto. Imbottigli e via.", "metric", "infused_syrup", (640, 760), (40, 50)),
    ("Sciroppo di menta\n50 g menta fresca\n500 g zucchero\n500 ml acqua\n\nPortare a ebollizione l'acqua con lo zucchero. Spegnere il fuoco, aggiungere la menta e lasciare in infusione per 30 minuti. Filtrare e imbottigliare.", "metric", "infused_syrup", (850, 1000), (48, 56)),
]  # fmt: skip


@pytest.mark.parametrize(
    ("text", "locale", "family", "mass", "brix"), TEXTS, ids=lambda value: value.splitlines()[0][:24] if isinstance(value, str) else ""
)
def test_a_whole_text_gives_mass_and_solids_at_once(text, locale, family, mass, brix):
    read = parse_recipe(text, locale)
    done = worked(read.draft)
    assert (done.flow.refusal, done.inputs.spec.faults) == (None, ())
    assert mass[0] <= done.figures[done.last]["mass_g"] <= mass[1]
    assert brix[0] <= done.figures[done.last]["brix"] <= brix[1]
    assert read.draft["family"] == family
    assert len(read.doubts) <= 3, [doubt.code for doubt in read.doubts]


def test_every_word_of_a_text_is_tied_to_what_was_taken_from_it():
    read = parse_recipe(SPOKEN)
    left = list(SPOKEN)
    for phrase in read.phrases:
        left[phrase.start : phrase.end] = " " * (phrase.end - phrase.start)
    assert set(re.findall(r"[a-z]+", "".join(left).lower())) <= {"and", "then"}
    ids = {step["id"] for step in read.draft["steps"]} | {line["id"] for line in lines_of(read.draft)}
    assert {phrase.at for phrase in read.phrases if phrase.kind in ("line", "step")} == ids
    assert [(claim.kind, claim.amount.value, claim.unit) for claim in read.claims] == [("yield", 1500.0, "mL"), ("keeps", 30.0, "days")]
    assert read.draft["name"] == "Quince cordial"


def test_what_the_list_has_cut_draws_as_cut_fruit_does():
    text = "Pineapple syrup\n900 g pineapple{how}\n450 g caster sugar\nToss the pineapple with the sugar and leave for 4 hours. Strain."
    whole, diced = (parse_recipe(text.format(how=how)).draft for how in ("", ", diced"))
    assert [step["verb"] for step in diced["steps"]] == ["cut", *(step["verb"] for step in whole["steps"])]
    drawn = [worked(draft).figures[-1]["mass_g"] for draft in (whole, diced)]
    assert drawn[1] > 1.15 * drawn[0]


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


def test_what_is_added_to_taste_goes_in_behind_the_straining_and_what_steeps_is_no_question():
    read = parse_recipe("Quick\n750 ml vodka\nzest of 3 bergamots\nhoney to taste\nInfuse 7 days, strain, mix with 500 g of syrup.")
    assert [[line["material"] for line in step.get("lines", ())] for step in read.draft["steps"]] == [
        ["vodka", "bergamot_zest"],
        [],
        ["honey", "syrup"],
    ]
    assert "never_used" not in {doubt.code for doubt in read.doubts}


@pytest.mark.parametrize(
    ("line", "ratio"),
    [("Sugar, 35 % of the strained juice", 0.35), ("60 % sugar by weight of the milk", 0.6), ("300 g cstr per 500ml liq", 0.6)],
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


def test_the_juice_of_what_was_peeled_goes_in_as_much_as_is_wanted_and_a_plus_puts_in():
    read = parse_recipe(
        "So for lime cordial: peel off fifteen limes, leave that in six hundred grams of sugar overnight, juice the limes, you want about half a litre, "
        "stir that into the sugar. + citric. Strain it."
    )
    amounts = {line["material"]: line["amount"] for line in lines_of(read.draft)}
    assert amounts["lime_persian_juice"]["volume_ml"]["value"] == 500
    assert "citric_acid" in amounts


def test_a_part_belongs_to_the_fruit_behind_it():
    read = parse_recipe("Bark syrup — 4 g cinchona bark, zest of 2 bergamots + 1 orange, 30 g citric acid, 500 g water. Stir.")
    assert read.draft["name"] == "Bark syrup"
    assert [line["material"] for line in lines_of(read.draft)] == [
        "cinchona_bark", "bergamot_zest", "orange_sweet_zest", "citric_acid", "water",
    ]  # fmt: skip


def test_a_yield_is_what_comes_of_it_and_a_title_may_say_its_strength():
    read = parse_recipe("Quince tincture (50 %)\nBatch: 3 kg quinces → about 1.8 L\n1 kg quinces\n2 L vodka\nInfuse a week, strain.")
    assert read.draft["name"] == "Quince tincture (50 %)"
    assert [(claim.kind, round(claim.amount.value), claim.unit) for claim in read.claims] == [("yield", 1800, "mL")]


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
        ("Succo\n500 g di cetrioli\n8 g di acido citrico\nCentrifugare i cetrioli. Mischiare con l'acido.", [("juice", 1), ("combine", 1)]),
    ],
)  # fmt: skip
def test_other_languages_put_in_what_they_name(text, told):
    read = parse_recipe(text)
    assert [(step["verb"], len(step.get("lines", ()))) for step in read.draft["steps"]] == told
    assert {doubt.code for doubt in read.doubts} <= {"count_of_fruit"}
    assert "materials" not in read.draft


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


def test_the_skin_alone_of_whole_fruit_goes_in_where_nothing_else_of_it_is_used():
    text = "Base\n6 bergamots\n200 g sugar\nPeel the bergamots. Muddle the peels with the sugar. {then}"
    skin, whole = (lines_of(parse_recipe(text.format(then=then)).draft)[0] for then in ("Strain.", "Add the juice of the fruit. Strain."))
    assert (skin["material"], whole["material"]) == ("bergamot_peel", "bergamot")
    assert skin["amount"]["assumed"] and "assumed" not in whole["amount"]


def test_a_table_is_read_by_its_columns():
    for mark, fence in (("|", "| "), (";", ""), (",", "")):
        rows = [("Name", "Amount", "Unit", "Note"), ("Honey", "200", "g", "runny"), ("Verjus", "500", "ml", "")]
        text = "\n".join(f"{fence}{f' {mark} '.join(row)}{fence and ' |'}" for row in rows)
        read = parse_recipe(f"{text}\n\nWarm the honey and verjus to 50 °C. Bottle.")
        assert [(line["material"], line["amount"]) for line in lines_of(read.draft)] == [
            ("honey", {"kind": "fixed", "mass_g": 200.0}),
            ("verjus_juice", {"kind": "fixed", "volume_ml": 500.0}),
        ], mark
    tabbed = parse_recipe("Ingredient\tAmount\nQuince\t300 g\nWhite sugar\t200 g\n\nToss the quince with the sugar. Strain.")
    assert tabbed.draft["name"] == "Quince syrup" and len(lines_of(tabbed.draft)) == 2
    grams = parse_recipe("Ingredient, g\nSugar, 500\nQuince juice, 300\n\nStir.")
    assert [line["amount"]["mass_g"] for line in lines_of(grams.draft)] == [500.0, 300.0] and not grams.doubts


def test_a_table_without_a_title_is_named_after_what_is_in_it():
    assert parse_recipe("Ingredient,Amount\nQuince juice,500 g\nSugar,250 g\n\nBlend all. Bottle.").draft["name"] == "Quince cordial"
    assert (
        parse_recipe("Right, quince syrup: one litre of quince juice, a kilo of sugar. Warm it to 80 and bottle it.").draft["name"]
        == "quince syrup"
    )


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


def _figure(amount):
    figure = next((amount[name] for name in ("mass_g", "volume_ml", "ratio", "count", "state") if name in amount), None)
    figure = figure["value"] if isinstance(figure, dict) else figure
    return figure if isinstance(figure, str) else f"{figure:g}"


def test_what_can_hurt_is_never_assumed_and_what_moves_the_result_stops():
    read = parse_recipe("Bark syrup\n500 g water\ncinchona bark\nsome honey\na pinch of salt\nStir. Bottle.")
    amounts = {line["material"]: line["amount"] for line in lines_of(read.draft)}
    assert amounts["cinchona_bark"] == {"kind": "fixed", "written": ""}
    assert amounts["honey"]["assumed"] and amounts["salt"]["assumed"]
    stops = {(remark.code, remark.where.split("/")[-2]) for remark in release_check(worked(read.draft)) if remark.severity == "stop"}
    assert {("assumed_amount", next(line["id"] for line in lines_of(read.draft) if line["material"] == key)) for key in ("honey",)} <= stops
    assert "unreadable_amount" in {code for code, _ in stops}


def test_an_answer_changes_the_draft_and_settles_every_doubt_of_its_cause():
    read = parse_recipe("Base\n3 parts honey\n1 part water\nzest of 2 bergamots\nStir all. Strain. Bottle.")
    parts = [n for n, doubt in enumerate(read.draft["doubts"]) if doubt["code"] == "parts_basis"]
    by_volume = answered(read.draft, parts[0], 1)
    assert [doubt["code"] for doubt in by_volume["doubts"]] == ["count_of_fruit"]
    assert [line["amount"].get("basis", line["amount"].get("volume_ml")) for line in lines_of(by_volume)][:2] == [1500.0, "volume"]
    at_the_bench = answered(by_volume, 0, 3)
    assert "doubts" not in at_the_bench
    zest = next(line for line in lines_of(at_the_bench) if line["material"] == "bergamot_zest")
    assert zest["amount"]["to_taste"] and "assumed" not in zest["amount"]
    with pytest.raises(Refusal, match="not open any more"):
        answered(at_the_bench, 0, 0)


@pytest.mark.parametrize(
    ("text", "code", "answer", "then"),
    [
        ("Base\n500 g water\n500 g sugar\n1 vanilla pod\nWarm the water. Stir in the sugar. Bottle.", "never_used", "at “Stir in the sugar”", [["water"], ["white_sugar", "vanilla_pod"], []]),
        ("Base\n500 ml celery salt\nStir.", "partly_read", "celery salt, made up like salt", [["celery_salt"]]),
        ("Base\n500 g water\n3 star anise\nStir all.", "confusable_name", "leave it out", [["water"]]),
        ("Base\n500 g water\n5 g bitters per drink\nStir all.", "per_serving", "20 times as much", [["water", "aromatic_bitters"]]),
        ("Base\n500 g water\n20 g honey\nStir the honey into the water. Stir in the malic acid.", "not_in_list", "5 g", [["water", "honey"], ["malic_acid"]]),
        ("Base\n500 g water\n500 g sugar\nStir all. Coax the sugar along the bowl.", "which_step", "leave this step out", [["water", "white_sugar"]]),
    ],
)  # fmt: skip
def test_a_question_about_a_reading_has_an_answer_that_repairs_it(text, code, answer, then):
    read = parse_recipe(text)
    asked = next(n for n, doubt in enumerate(read.draft["doubts"]) if doubt["code"] == code)
    words = [each["word"] for each in read.draft["doubts"][asked]["answers"]]
    made = answered(read.draft, asked, words.index(answer))
    assert [[line["material"] for line in step.get("lines", ())] for step in made["steps"]] == then
    assert worked(made).flow.refusal is None


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


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("Berkensiroop\n500 g suiker\n500 ml water\nBreng het water met de suiker aan de kook en laat afkoelen.", "This looks like Dutch"),
        ("Xarope\n500 g de açúcar\n500 ml de água\nLeve ao fogo até ferver e deixe esfriar.", "This looks like Portuguese"),
        ("Сироп\n500 г сахара\n500 мл воды", "This looks like Russian"),
        ("梅シロップ\n梅 500グラム", "Japanese"),
    ],
)
def test_a_language_that_is_not_read_is_named(text, words):
    with pytest.raises(Refusal, match=words):
        parse_recipe(text)


def test_markup_and_marks_are_words_and_nothing_more():
    read = parse_recipe("<script>alert(1)</script>\n500 g honey \u202e\n1e308 g water\n250 g <b>water</b>\nStir.")
    assert [line["material"] for line in lines_of(read.draft)][-1] == "water"
    assert read.draft["note"].startswith("<script>"), "the text is kept as it was"
    assert all("alert" not in printed(doubt.question) for doubt in read.doubts)
