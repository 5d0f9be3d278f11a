"""Recipes in Spanish, French, German and Italian: the verb of each step and how many ingredients go in."""

import pytest

from ulsek.core.recipe_text.parser import parse_recipe


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
