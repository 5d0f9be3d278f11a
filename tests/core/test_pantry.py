"""What a bar calls its things: pasted as people write them, each is known, and made of what it can be made of."""

import pytest

from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.messages import term
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.safety.hazards import CLAIMS
from ulsek.core.spec.json_form import read_spec

KNOWN = typical_materials()
CALLED = {
    "lime juice": "lime_persian_juice",
    "orange juice": "orange_sweet_juice",
    "grapefruit juice": "grapefruit_pink_juice",
    "blood orange juice": "orange_blood_juice",
    "apple juice": "apple_dessert_mixed_juice",
    "passion fruit juice": "passion_fruit_purple_juice",
    "limes": "lime_persian",
    "lemon peel": "lemon_peel",
    "lemon zest": "lemon_zest",
    "orange peel": "orange_sweet_peel",
    "grapefruit zest": "grapefruit_pink_zest",
    "bergamot peel": "bergamot_peel",
    "strawberries": "strawberry",
    "cherries": "cherry_sweet",
    "peaches": "peach",
    "tomatoes": "tomato",
    "bananas": "banana",
    "dates": "dates",
    "cinnamon sticks": "cinnamon",
    "cassia": "cassia_bark",
    "cloves": "cloves",
    "green cardamom pods": "green_cardamom",
    "vanilla bean": "vanilla_pod",
    "juniper berries": "juniper_berries",
    "pink peppercorns": "pink_pepper",
    "fresh ginger": "ginger_fresh",
    "lemongrass": "lemongrass",
    "mint leaves": "mint",
    "rosemary": "rosemary",
    "lime leaves": "makrut_lime_leaf",
    "dried hibiscus flowers": "hibiscus",
    "elderflower": "elderflowers",
    "rose petals": "rose_petals",
    "green tea": "green_tea",
    "earl grey": "bergamot_tea",
    "coffee beans": "coffee_beans",
    "cacao nibs": "cocoa_nibs",
    "blanched almonds": "almonds",
    "sesame seeds": "sesame_seeds",
    "coconut milk": "coconut_milk",
    "heavy cream": "double_cream",
    "butter": "butter",
    "oats": "oats",
    "jalapeño": "chilli_fresh",
    "celery": "celery_stalk",
    "red wine vinegar": "red_wine_vinegar",
    "champagne vinegar": "sparkling_wine_vinegar",
    "white vinegar": "spirit_vinegar",
    "cream of tartar": "cream_of_tartar",
    "saline solution": "saline_20",
    "xanthan gum": "xanthan_gum",
    "muscovado sugar": "muscovado_dark",
    "demerara sugar": "demerara",
    "turbinado sugar": "turbinado",
    "dark brown sugar": "muscovado_dark",
    "organic cane sugar": "white_sugar",
    "palm sugar": "palm_sugar",
    "soda water": "water",
    "orange flower water": "orange_flower_water",
    "apple cider vinegar": "cider_vinegar",
    "vodka": "vodka",
    "gin": "gin",
    "bourbon": "whisky",
    "dry white wine": "white_wine",
    "sherry": "fino_sherry",
    "sweet vermouth": "sweet_vermouth",
    "angelica root": "angelica_root",
    "orris": "orris_root",
}


def read(name):
    found = parse_recipe(f"100 g {name}", "us", KNOWN)
    lines = [line for step in found.draft["steps"] for line in step.get("lines", [])]
    return [line["material"] for line in lines], [doubt.code for doubt in found.doubts]


@pytest.mark.parametrize(("called", "key"), CALLED.items(), ids=CALLED)
def test_what_a_bar_calls_its_things_is_known(called, key):
    assert read(called) == ([key], [])


@pytest.mark.parametrize(
    ("called", "code"),
    [
        ("coconut rum", "partly_read"),
        ("cocoa butter", "partly_read"),
        ("vanilla sugar", "partly_read"),
        ("tonic water", "partly_read"),
        ("cherry brandy", "partly_read"),
        ("acetic acid", "which_strength"),
        ("star anise", "confusable_name"),
        ("gentian root", "confusable_name"),
        ("moon dust", "unknown_material"),
        ("ginger beer", "partly_read"),
    ],
)
def test_what_may_be_another_thing_is_asked_about(called, code):
    assert read(called)[1] == [code]


def test_nothing_that_ships_holds_more_than_itself_however_rich_it_is():
    for key, body in KNOWN.items():
        material = read_material(key, body)
        for z in (-1.0, 0.0, 1.0):
            assert material.per_gram(z, z).mass_g == pytest.approx(1.0), (key, z)


def test_what_can_hurt_says_so_in_both_languages():
    allergens = {word for body in KNOWN.values() for word in body.get("allergens", ())}
    assert {"peanuts", "sesame", "gluten", "soya", "mustard", "celery", *CLAIMS} <= allergens
    for word in allergens - {"gluten"}:
        assert term(word).text("es") != word, word
    for kind, wanted in (("nut", {"nuts", "peanuts", "sesame", "coconut"}), ("dairy", {"milk"})):
        for key, body in KNOWN.items():
            if body["kind"] == kind:
                assert wanted & set(body.get("allergens", ())), key
    assert any("caffeine" in text for text in KNOWN["green_tea"]["cautions"])


def test_a_spirit_has_its_label_s_strength_and_a_peel_gives_its_oil():
    """40 % by volume; 100 g of lemon peel on as much sugar draws out and holds less than the whole."""
    for key, abv in (("gin", 40.0), ("mezcal", 45.0), ("overproof_rum", 63.0), ("white_wine", 12.4), ("ruby_port", 20.0)):
        data = {
            "format": "ulsek.spec",
            "version": 1,
            "name": key,
            "family": "other",
            "driver": "a",
            "vessels": [{"id": "v", "name": "jar"}],
        }
        line = {"id": "a", "material": key, "amount": {"kind": "fixed", "mass_g": 500}}
        spec = read_spec({**data, "steps": [{"id": "s", "verb": "combine", "vessel": "v", "lines": [line]}]})
        assert evaluate(spec, read_materials(KNOWN, (key,))).figures[0]["abv"] == pytest.approx(abv, abs=0.45), key
    peel = read_material("lemon_peel", KNOWN["lemon_peel"])
    assert peel.pieces
    assert peel.drawn_g_g.value == 0.3
    assert 2 * peel.per_gram().of("oil") < read_material("lemon_zest", KNOWN["lemon_zest"]).per_gram().of("oil"), (
        "oil sits in the coloured layer"
    )


def draft(*lines):
    found = parse_recipe("\n".join(lines), "us", KNOWN)
    return found.draft["steps"], [doubt.code for doubt in found.doubts]


def test_a_method_says_what_goes_where_as_people_write_it():
    """“The acids”, a filter that is called after coffee, a sentence with no verb that it knows, a method that names nothing."""
    steps, doubts = draft("200 g lime juice", "6 g citric acid, anhydrous", "2 g malic acid", "Add the acids to the lime juice and stir.", "Strain through a coffee filter.")  # fmt: skip
    assert [line["material"] for line in steps[0]["lines"]] == ["lime_persian_juice", "citric_acid", "malic_acid"]
    assert doubts == []
    steps, _ = draft(
        "1 l apple juice", "2 g agar", "Simmer the juice with the agar for 2 minutes. Chill until set. Break the gel and strain it."
    )
    assert [step["verb"] for step in steps] == ["simmer", "cool", "agar"], "what was broken runs off the gel"
    steps, doubts = draft("300 g demerara sugar", "150 g water", "Blend until dissolved.", "Bottle.")
    assert [step["verb"] for step in steps] == ["blend", "bottle"]
    assert doubts == []
    steps, doubts = draft("zest and juice of 3 limes", "300 g sugar", "Combine all.")
    assert [line["material"] for line in steps[0]["lines"]] == ["lime_persian_zest", "lime_persian_juice", "white_sugar"]
    assert doubts == ["count_of_fruit", "count_of_fruit"]
    steps, doubts = draft(
        "1 l water", "5 g allspice", "800 g sugar", "Simmer everything but the sugar and rest for 4 hours.", "Stir in the sugar."
    )
    assert [[line["material"] for line in step.get("lines", [])] for step in steps] == [["water", "allspice"], [], ["white_sugar"]]
    assert (steps[1]["verb"], steps[1]["minutes"], doubts) == ("steep", 240.0, ["how_long"])
    assert draft("1 l apple juice", "2 g agar", "Simmer 250 ml of the juice with the agar for 2 minutes.")[1] == ["part_of_it"]
    assert draft("1 cup honey", "1 cup water", "Stir all.")[1] == [], "a cup has its range"
