"""Whole texts of recipes: what they come to with every doubt still open, and what is kept of their words, titles, tables and claims."""

import re

import pytest

from tests.core.pasted import lines_of, worked
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.parser import parse_recipe

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


def test_a_yield_is_what_comes_of_it_and_a_title_may_say_its_strength():
    read = parse_recipe("Quince tincture (50 %)\nBatch: 3 kg quinces → about 1.8 L\n1 kg quinces\n2 L vodka\nInfuse a week, strain.")
    assert read.draft["name"] == "Quince tincture (50 %)"
    assert [(claim.kind, round(claim.amount.value), claim.unit) for claim in read.claims] == [("yield", 1800, "mL")]


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
