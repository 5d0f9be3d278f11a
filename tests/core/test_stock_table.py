"""Tables of stock and prices: which column is which, what a row is, what a pack weighs and costs; and the shelf that most bars have."""

import pytest

from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.delivery import pack_g
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.materials.shipped import shipped_material, usual_shelf
from ulsek.core.recipe_text.stock_table import MOST_ROWS, read_stock_table

KNOWN = typical_materials()


def read(text, *meanings):
    return read_stock_table(text, KNOWN, meanings)


def test_a_table_is_read_by_its_heads_and_every_row_says_what_it_lacks():
    found = read(
        "Item;Supplier;Pack size;On hand;Price\n"
        "Lemons, unwaxed;Calder Citrus Yard;5 kg;2;€ 14,50\n"
        "Citric acid, food grade;Meridian Dry Goods;1000 g;1;6.20\n"
        "Gin, house pour;Osterlund Pantry;6 x 700 ml;1;1.234,00\n"
        "Blue thing;Osterlund Pantry;;1;dear\n"
        ";;;;\n"
    )
    assert [column.meaning for column in found.columns] == ["product", "supplier", "pack", "packs", "price"]
    assert [(row.line, row.material, row.pack, row.packs, row.price) for row in found.rows] == [
        (2, "lemon", "5 kg", 2, "14.50"),
        (3, "citric_acid", "1000 g", 1, "6.20"),
        (4, "gin", "700 ml", 6, "1234.00"),
        (5, "", "", 1, ""),
    ]
    assert [printed(doubt) for doubt in found.rows[3].doubts] == [
        "No material is called that: say what it is.",
        "What does a pack hold?",
        "“dear” is no price.",
    ]


@pytest.mark.parametrize(
    ("heads", "row", "key"),
    [
        ("Artikel,Gebinde,Preis", "Zitronen,5 kg,12", "lemon"),
        ("Produit,Contenance,Prix", "Citrons verts,4 kg,12", "lime_persian"),
        ("Producto,Envase,Precio", "Ácido cítrico,1 kg,9", "citric_acid"),
        ("Prodotto,Confezione,Prezzo", "Miele,1 kg,8", "honey"),
        ("Product,Pack (kg),Cost", "White sugar,10,9", "white_sugar"),
    ],
)
def test_heads_and_products_are_read_in_every_language_and_a_unit_may_stand_in_the_head(heads, row, key):
    found = read(f"{heads}\n{row}\n").rows[0]
    assert (found.material, found.doubts) == (key, ())
    assert found.pack.endswith("kg")


@pytest.mark.parametrize(
    ("written", "price"),
    [
        ("12", "12"),
        ("1,234", "1234"),
        ("1.5", "1.5"),
        ("3,20 EUR", "3.20"),
        ("1 250,00", "1250.00"),
        ("£1,250.75", "1250.75"),
        ("free", ""),
    ],
)
def test_a_price_is_read_whatever_marks_it_has(written, price):
    assert read(f'item;pack;price\nhoney;1 kg;"{written}"').rows[0].price == price


def test_columns_may_be_said_and_nothing_is_read_without_the_product():
    table = "what,where from,holds\nhoney,the hill,1 kg\n"
    with pytest.raises(Refusal) as refused:
        read(table)
    assert refused.value.text == "No column says what it is: the heads are what, where from, holds. Say which column is the product."
    assert read(table, "product", "supplier", "pack").rows[0].supplier == "the hill"
    with pytest.raises(Refusal, match="A column cannot be “colour”"):
        read(table, "product", "colour")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "This is no table"),
        ("item,price", "This is no table"),
        ("item,price\n" + "honey,1\n" * (MOST_ROWS + 1), "The table has too many rows"),
        ("item,price\nx" + "," * 200_001, "The table is too long"),
    ],
)
def test_what_is_no_table_is_refused(text, words):
    with pytest.raises(Refusal, match=words):
        read(text)


def test_a_pack_is_weighed_by_what_it_holds():
    assert float(pack_g("2 kg", shipped_material("white_sugar"))) == 2000.0
    assert float(pack_g("700 ml", shipped_material("water"))) == pytest.approx(698.7, abs=0.1), "0.99821 g/mL at 20 °C"
    for wrong in ("3 each", "700", "much"):
        with pytest.raises(Refusal) as refused:
            pack_g(wrong, shipped_material("water"))
        assert refused.value.where == "pack"


def test_everything_on_the_usual_shelf_is_known_and_its_pack_can_be_weighed():
    for packs in usual_shelf().values():
        for key, pack in packs.items():
            assert pack_g(pack, shipped_material(key)) > 0, key


@pytest.mark.parametrize("product", ["Tonic water", "Coconut rum", "Ginger beer", "Orange liqueur"])
def test_a_word_beside_a_name_that_may_make_it_another_thing_leaves_it_open(product):
    row = read(f"item;pack\n{product};1 L").rows[0]
    assert row.doubts


@pytest.mark.parametrize(
    ("product", "key"),
    [
        ("LEMONS 5KG", "lemon"),
        ("Sugar, fine", "white_sugar"),
        ("Vodka house 40%", "vodka"),
        ("Organic lemons", "lemon"),
        ("Green apples", "apple_granny_smith"),
    ],
)
def test_words_that_only_describe_leave_it_sure(product, key):
    row = read(f"item;pack\n{product};1 kg").rows[0]
    assert (row.material, row.doubts) == (key, ())


def test_what_a_pack_holds_may_stand_in_the_product_s_name():
    row = read('item,price\n"Gin, house pour 70cl",14\n').rows[0]
    assert (row.material, row.pack, row.price, row.doubts) == ("gin", "70cl", "14", ())


@pytest.mark.parametrize(
    ("count", "packs", "doubt"),
    [
        ("2", 2, None),
        ("3.0", 3, None),
        ("0", 0, "None of it is there."),
        ("2.5", 1, "“2.5” is no count of packs."),
        ("some", 1, "“some” is no count of packs."),
    ],
)
def test_a_count_is_taken_as_it_stands_or_doubted_never_made_up(count, packs, doubt):
    row = read(f"item,pack,count\nhoney,1 kg,{count}").rows[0]
    assert (row.packs, [printed(item) for item in row.doubts]) == (packs, [doubt] if doubt else [])


@pytest.mark.parametrize("price", ["-3", "(3.00)", "€ −3"])
def test_a_negative_price_is_none(price):
    row = read(f"item;pack;price\nhoney;1 kg;{price}").rows[0]
    assert (row.price, [printed(item) for item in row.doubts]) == ("", [f"“{price}” is no price."])


def test_no_cell_is_cut():
    row = read(f"item;supplier;pack\nhoney {'x' * 200};{'y' * 200};1 kg").rows[0]
    assert (len(row.product), len(row.supplier)) == (206, 200)
