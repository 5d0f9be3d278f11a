"""A corpus of pasted recipes of our own: seven clean ones, and slips planted in them one at a time, each with the doubt that must be raised."""

CLEAN = {
    "quince": """Quince and allspice syrup
1.2 kg quince, peeled
900 g white sugar
1.1 kg water
12 g allspice
Cut the quince.
Simmer quince, sugar and water for 35 min.
Steep the allspice 20 min at 75 °C.
Strain.
Cool to 4 °C.
Bottle.""",
    "cordial": """Bergamot cordial
800 g bergamot juice
440 g caster sugar
8 g malic acid
15 g bergamot zest
Stir in the bergamot juice, caster sugar and malic acid.
Steep the zest 4 h at 4 °C.
Strain and press.
Bottle.""",
    "shrub": """Medlar shrub
800 g medlar purée
560 g demerara
640 g cider vinegar
Mix the medlar, demerara and vinegar.
Rest 4 days.
Strain.
Bottle.""",
    "stock": """Sharp stock
180 g tartaric acid
100 g malic acid
720 g water
Mix everything.
Bottle.""",
    "honey": """Birch honey
600 g honey
330 g water
23 g birch tips
Warm the honey and water to 50 °C for 8 min.
Steep the birch tips 25 min at 45 °C.
Strain.
Bottle.""",
    "spirit": """Damson spirit
900 g damson
810 g neutral spirit, 60 %
20 g fennel seed
Core the damsons.
Infuse the damsons, spirit and fennel seed 3 days.
Strain.
Bottle.""",
    "clear": """Clear greengage
1.5 kg greengage juice
2.4 g pectin enzyme
3 g ascorbic acid
Stir in the greengage juice, enzyme and ascorbic acid.
Clear with enzyme 240 min at 42 °C.
Filter.
Bottle.""",
}

# (recipe, line as it stands, line as it is planted, the doubt that must be raised)
PLANTED = [
    # two units for one amount that cannot both be right
    ("quince", "900 g white sugar", "900 g (3 cups) white sugar", "units_disagree"),
    ("quince", "900 g white sugar", "4 cups (600 g) white sugar", "units_disagree"),
    ("quince", "1.1 kg water", "1.1 kg (2 cups) water", "units_disagree"),
    ("cordial", "800 g bergamot juice", "800 g (20 oz) bergamot juice", "units_disagree"),
    ("honey", "600 g honey", "1 cup (500 g) honey", "units_disagree"),
    ("shrub", "640 g cider vinegar", "640 g (1 l) cider vinegar", "units_disagree"),
    ("stock", "720 g water", "720 g / 900 ml water", "units_disagree"),
    # a percentage and its grams
    ("quince", "12 g allspice", "12 g (5 %) allspice", "percent_disagrees"),
    ("cordial", "15 g bergamot zest", "15 g (8 %) bergamot zest", "percent_disagrees"),
    ("honey", "23 g birch tips", "23 g (10 %) birch tips", "percent_disagrees"),
    # acids by name and form
    ("cordial", "8 g malic acid", "8 g acid", "which_acid"),
    ("stock", "100 g malic acid", "100 g maleic acid", "confusable_name"),
    ("cordial", "8 g malic acid", "8 g lactic acid", "which_strength"),
    # parts and percent without a basis
    ("honey", "600 g honey", "2 parts honey", "parts_basis"),
    ("honey", "330 g water", "1 part water", "parts_basis"),
    ("shrub", "560 g demerara", "1 1/2 parts demerara", "parts_basis"),
    ("cordial", "8 g malic acid", "1 % malic acid", "percent_of_what"),
    ("quince", "12 g allspice", "0.5 percent allspice", "percent_of_what"),
    # thousands and decimals, ounces of what is denser than water
    ("honey", "330 g water", "1.330 g water", "thousands"),
    ("honey", "600 g honey", "21 oz honey", "which_ounce"),
    # parts of a line
    ("quince", "Simmer quince, sugar and water for 35 min.", "Simmer quince, sugar and half of the water for 35 min.", "part_of_it"),
    # imprecise words
    ("honey", "23 g birch tips", "a handful of birch tips", "imprecise"),
    ("honey", "330 g water", "a good splash of water", "imprecise"),
    ("quince", "12 g allspice", "2 pinches allspice", "imprecise"),
    ("spirit", "810 g neutral spirit, 60 %", "3 shots neutral spirit, 60 %", "imprecise"),
    ("cordial", "15 g bergamot zest", "2 handfuls bergamot zest", "imprecise"),
    ("clear", "2.4 g pectin enzyme", "20 drops pectin enzyme", "imprecise"),
    ("clear", "2.4 g pectin enzyme", "1 dropper pectin enzyme", "imprecise"),
    ("shrub", "640 g cider vinegar", "4 dashes cider vinegar", "imprecise"),
    ("stock", "100 g malic acid", "5 scoops malic acid", "imprecise"),
    # no amount, to taste, alternatives
    ("honey", "23 g birch tips", "some birch tips", "missing_amount"),
    ("quince", "12 g allspice", "allspice", "missing_amount"),
    ("spirit", "20 g fennel seed", "a few fennel seed", "no_piece_weight"),
    ("cordial", "8 g malic acid", "malic acid, to taste", "to_taste"),
    ("quince", "12 g allspice", "allspice, optional", "to_taste"),
    ("honey", "600 g honey", "600 g honey or agave syrup", "alternatives"),
    ("shrub", "640 g cider vinegar", "640 g cider vinegar or white wine vinegar", "alternatives"),
    # counts that nobody has weighed
    ("honey", "23 g birch tips", "12 birch tips", "no_piece_weight"),
    ("spirit", "20 g fennel seed", "20 fennel seeds", "no_piece_weight"),
    # unknown, twice, unlisted, unused
    ("quince", "12 g allspice", "12 g moonroot", "unknown_material"),
    ("cordial", "15 g bergamot zest", "15 g glowberry", "unknown_material"),
    ("quince", "Strain.", "Strain over the honey.", "not_in_list"),
    ("cordial", "Strain and press.", "Stir in the lactic acid.", "not_in_list"),
    ("quince", "Steep the allspice 20 min at 75 °C.", "Rest 20 min.", "never_used"),
    ("cordial", "Steep the zest 4 h at 4 °C.", "Rest 4 h.", "never_used"),
    # temperatures, heat, ends, waits
    ("quince", "Steep the allspice 20 min at 75 °C.", "Steep the allspice 20 min at 75 degrees.", "temperature_without_unit"),
    ("honey", "Warm the honey and water to 50 °C for 8 min.", "Warm the honey and water to 50° for 8 min.", "temperature_without_unit"),
    ("quince", "Strain.", "Reduce.", "end_state"),
    ("honey", "330 g water", "2 parts honey to 1 part water", "parts_basis"),
    # what the acid is, what sourness is, how many times
    ("cordial", "8 g malic acid", "8 g malic acid, technical", "acid_grade"),
    ("cordial", "Strain and press.", "Stir in malic acid to pH 2.6, strain.", "ph_for_acidity"),
    ("quince", "900 g white sugar", "600 g white sugar per kg of medlar", "ratio_to_what"),
    # a sentence without a known verb, fruit by the piece
    ("cordial", "Strain and press.", "Coax everything along the side of the bowl.", "which_step"),
    ("cordial", "800 g bergamot juice", "juice of 9 bergamots", "count_of_fruit"),
    ("cordial", "15 g bergamot zest", "zest of 2 bergamots", "count_of_fruit"),
    # plants that are confused
    ("spirit", "20 g fennel seed", "20 g star anise", "confusable_name"),
    ("honey", "23 g birch tips", "23 g birch bark", "confusable_name"),
]

FAIR = [
    ("cordial", "8 g malic acid", "8 g citric acid"),
    ("quince", "900 g white sugar", "32 oz white sugar"),
    ("quince", "900 g white sugar", "4 1/2 cups white sugar"),
    ("honey", "330 g water", "12 ounces water"),
    ("stock", "720 g water", "make up to 1 l with water"),
    ("quince", "Strain.", "Reduce by half."),
    ("quince", "Simmer quince, sugar and water for 35 min.", "Simmer quince, sugar and water on low heat for 35 min."),
    ("shrub", "Rest 4 days.", "Rest 4 days. Makes 1.5 litres."),
    ("quince", "12 g allspice", "12,0 g allspice"),
    ("quince", "900 g white sugar", "750 g white sugar per kg of quince"),
    ("honey", "330 g water", "For the base:\n330 g water"),
    ("honey", "Bottle.", "Bottle.\nKeeps 2 weeks in the fridge."),
    ("stock", "720 g water", "720 g water and 2 g salt"),
    ("quince", "Cool to 4 °C.", "Fine strain, cool to 4C and bottle."),
    ("quince", "900 g white sugar", "4 1/2 cups (900 g) white sugar"),
    ("quince", "1.2 kg quince, peeled", "1.2 kg quince (peeled, cored)"),
    ("quince", "Simmer quince, sugar and water for 35 min.", "Cook quince, sugar and water for 35 min."),
    ("quince", "900 g white sugar", "900 g (32 oz) white sugar"),
    ("honey", "330 g water", "330 g (330 ml) water"),
    ("honey", "330 g water", "about 330 g water"),
    ("cordial", "800 g bergamot juice", "750-850 g bergamot juice"),
    ("cordial", "800 g bergamot juice", "780 ml bergamot juice"),
    ("quince", "1.1 kg water", "1 100 g water"),
    ("quince", "12 g allspice", "12 g (1 %) allspice"),
    ("spirit", "900 g damson", "60 damson"),
    ("quince", "900 g white sugar", "• 900 g white sugar"),
    ("shrub", "560 g demerara", "560,5 g demerara"),
]
"""Readings that are right as they stand: none may raise a doubt."""
