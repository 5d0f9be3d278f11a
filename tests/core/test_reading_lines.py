"""Single lines of a list and single sentences of a method, as people write and say them: what each comes to."""

import pytest

from tests.core.pasted import lines_of, worked
from ulsek.core.recipe_text.parser import parse_recipe

# line | locale | material | low and high [g] | code of its doubt, or none
LINES = """
1,000 g white sugar | metric | white_sugar | 1000 1000 |
1.250 g water | metric | water | 1250 1250 | thousands
2,5 dl birch sap | metric | birch_sap | 245 260 |
1-1/2 cups quince juice | us | quince_juice | 355 385 |
a cup and a half of honey | us | honey | 480 520 |
half a litre of gooseberry juice | metric | gooseberry_juice | 500 530 |
three quarters of a teaspoon of salt | metric | salt | 3 6 |
two dozen kumquats | metric | kumquat | 312 312 |
2x250 g damsons | metric | damson | 500 500 |
1 lb 4 oz greengage juice | us | greengage_juice | 560 610 |
2 (250 g) tins coconut milk | metric | coconut_milk | 500 500 |
70 cl bottle gin | metric | gin | 650 675 |
Medlar purée: 800 g | metric | medlar_puree | 800 800 |
Bergamot juice - 450 ml | metric | bergamot_juice | 455 480 |
Honey......300 g | metric | honey | 300 300 |
[x] 12 g fennel seed | metric | fennel_seed | 12 12 |
**40 g** dried mallow flowers | metric | mallow_flowers | 40 40 |
4 bergamots, juiced | metric | bergamot_juice | 120 360 | count_of_fruit
grated zest of 3 bergamots | metric | bergamot_zest | 5 25 | count_of_fruit
8 bergamot peels | metric | bergamot_peel | 80 200 | count_of_fruit
3 cm ginger | metric | ginger_fresh | 9 33 | imprecise
a good thumb of ginger | metric | ginger_fresh | 10 35 | imprecise
3 sprigs of rosemary | metric | rosemary | 2 8 | imprecise
15 allspice berries | metric | allspice | 1 2 |
4 tea bags | metric | black_tea | 6 12 | imprecise
500 ml strong brewed black tea | metric | strong_brewed_black_tea | 490 510 | unknown_material
300 ml simple syrup | metric | simple_syrup | 350 390 | unknown_material
20 ml saline | metric | saline_20 | 21 24 |
60 g grapefruits | metric | grapefruit_pink | 60 60 |
150 g hazlenuts | metric | hazelnuts | 150 150 | unknown_material
100 g citric acid monohydrate | metric | citric_acid_monohydrate | 100 100 |
8 g acid | metric | citric_acid | 8 8 | which_acid
500 g honey (or 400 g agave syrup) | metric | honey | 500 500 | alternatives
salt to taste | metric | salt | 0.3 3 | to_taste
ca. 600 g demerara sugar | metric | demerara | 600 600 |
caster sugar 400 | metric | caster_sugar | 400 400 | no_unit
500 cucumber juice | metric | cucumber_juice | 500 500 | no_unit
ripe damsons 1.2 kg (stoned weight) | metric | damson | 1200 1200 |
neutral spirit 60% 400 ml | metric | neutral_spirit_60 | 350 370 |
citric acid q.b. | metric | citric_acid | 1 15 | to_taste
1 bottle dry white (750 ml) | metric | white_wine | 735 750 |
10 g peach leaves | metric | peach_leaf | 10 10 | unknown_material
1 litre 96% spirit | metric | neutral_spirit_96 | 790 820 |
0.1234 kg honey | metric | honey | 123.4 123.4 |
strip of lime peel | metric | lime_persian_peel | 1 5 | imprecise
2 dried chillies | metric | dried_chilli | 0.8 4 | count_of_pieces
150 g dried elderberries | metric | dried_elderberries | 150 150 | unknown_material
200 ml demerara syrup | metric | demerara_syrup | 220 270 | unknown_material
2 pints water | metric | water | 1130 1140 | which_pint
2 pints (1.1 l) water | metric | water | 1095 1105 |
4 cinn stk | metric | cinnamon | 8 40 |
8 oz fresh ginger juice | us | ginger_root | 235 255 |
500 g birch sap at 40 °C | metric | birch_sap | 500 500 |
Vanilla pod, one, split | metric | vanilla_pod | 2 5 |
gooseberry juice 10x the water | metric | gooseberry_juice | 9000 9000 |
5 g malic per litre of water | metric | malic_acid | 4.4 4.6 |
gum arabic 5% (of the water) | metric | gum_arabic | 45 45 |
0.2% agar of the total | metric | agar | 1.8 1.8 |
honey, a third of the weight of the water | metric | honey | 300 300 |
twice as much honey as water | metric | honey | 1800 1800 |
1/4 of its weight in honey | metric | honey | 225 225 |
300 g demerara equal weight to the water | metric | demerara | 300 300 |
6 bergamots (about 1 1/2 cups juice) | us | bergamot_juice | 320 405 |
2 kg bergamots (about 700 ml juice) | metric | bergamot_juice | 640 810 |
5 bergamots, 250 ml juice | metric | bergamot_juice | 255 265 |
1 (4-inch) piece ginger, peeled | us | ginger_fresh | 30 105 | imprecise
two 3-inch strips of bergamot peel | us | bergamot_peel | 2 10 | imprecise
gooseberry juice, warm 300 ml | metric | gooseberry_juice | 300 318 |
½ oz essence of ginger | us | ginger_extract | 12 16 | unknown_material
25 g gum arabic that you've mixed into the sugar | metric | gum_arabic | 25 25 |
3 lb rhubarb, cut into 1 inch lengths | us | rhubarb | 1360 1361 |
1 kg quinces, grated with skin | metric | quince | 1000 1000 |
25 g bergamot zest, from ~6 bergamots | metric | bergamot_zest | 25 25 |
500 g 2:1 | metric | 2_1_syrup | 500 500 | unknown_material
12 bergamots, 20 g zest and 300 ml of juice | metric | bergamot_zest | 20 20 |
6 bergamots ~800 g | metric | bergamot | 720 880 |
80 g gngr | metric | ginger_fresh | 80 80 | unknown_material
sug 600g | metric | white_sugar | 600 600 |
40 ml bergamot | metric | bergamot_juice | 40 43 |
a stick of cinnamon | metric | cinnamon | 2 5 |
10 ml lactic acid 80% | metric | lactic_acid_80 | 11 13 |
30 g lactic (88 %) | metric | lactic_acid_80 | 30 30 | other_strength
1 kg watermelon, rind removed | metric | watermelon | 1000 1000 |
4 wide strips bergamot peel | metric | bergamot_peel | 4 20 | imprecise
700 vodka | metric | vodka | 655 675 | no_unit
a tin of coconut milk per drink | metric | coconut_milk | 330 430 | imprecise,per_serving
3 tbsp medlar purée | metric | medlar_puree | 40 55 |
2 dashes orange bitters | metric | aromatic_bitters | 0.5 3 | imprecise
kilo of honey | metric | honey | 1000 1000 |
whites of 4 eggs | metric | egg_white | 110 150 |
zest of 3 bergamots (no pith!) | metric | bergamot_zest | 5 25 | count_of_fruit
200 ml sugar syrup (2:1) | metric | 2_1_sugar_syrup | 255 270 | unknown_material
four fifty of demerara | metric | demerara | 450 450 | no_unit
two twenty-five ml quince juice | metric | quince_juice | 225 245 |
a litre eight of quince juice | metric | quince_juice | 1850 1950 |
500ml celery jce | metric | celery_juice | 490 520 |
1 kg quinces, peeled, cored and cut in 1-inch rings | metric | quince | 1000 1000 |
1 (32-oz) bottle quince juice | us | quince_juice | 950 1050 |
quinces 3 pcs | metric | quince | 500 1200 |
400 g superfine sugar | metric | caster_sugar | 400 400 |
half a litre of two to one syrup | metric | 2_1_syrup | 640 670 | unknown_material
80 g ging | metric | ginger_fresh | 80 80 |
60 g berga | metric | bergamot | 60 60 | unknown_material
two vanilla pods split down the middle | metric | vanilla_pod | 5 7 |
1 x 5 cm cinnamon stick | metric | cinnamon | 2 5 |
6 cups (1.4 l) quince juice | metric | quince_juice | 1420 1500 |
4 bergamots' worth of peel | metric | bergamot_peel | 30 120 | count_of_fruit
250 g rasberries | metric | raspberry | 250 250 | unknown_material
300 ml quinec juice | metric | quince_juice | 305 325 | unknown_material
250 g dried glowberries | metric | dried_glowberries | 250 250 | unknown_material
2 tsp ground ginger | metric | dried_ginger | 2 8 |
2 spoons of honey | metric | honey | 10 55 | imprecise
pinch of saffron | metric | saffron | 0.05 0.6 | imprecise
warm gooseberry juice 200 g | metric | gooseberry_juice | 200 200 |
banana peels 300 g | metric | banana_peel | 300 300 | unknown_material
20 bergamot husks | metric | bergamot_peel | 150 500 | count_of_fruit
bit of salt | metric | salt | 0.3 3 | imprecise
3 cloves of black garlic | metric | black_garlic | 9 24 | unknown_material,imprecise
500 ml quinc juice | metric | quince_juice | 515 535 | unknown_material
300 g suger | metric | white_sugar | 300 300 | unknown_material
8 oz by weight honey | us | honey | 226 228 |
30 ml saline (20%) | metric | saline_20 | 33 36 |
20 ml fish sauce | metric | fish_sauce | 19 22 | unknown_material
300 g sugar or to taste | metric | white_sugar | 300 300 |
4 black limes, crushed | metric | black_limes | 5 500 | unknown_material,no_piece_weight
2 camomile tea bags | metric | chamomile | 2 8 | imprecise
1 kg prickly pears | metric | prickly_pears | 1000 1000 | unknown_material
30 ml vegetable glycerin | metric | glycerin | 37 39 |
500 ml white rum 57% | metric | white_rum_57 | 450 465 |
300 ml spirit 60% | metric | neutral_spirit_60 | 268 278 |
sugar....1.8 kg | metric | white_sugar | 1800 1800 |
sugar,1.8kg | metric | white_sugar | 1800 1800 |
2*500 g sugar | metric | white_sugar | 1000 1000 |
1kg500 sugar | metric | white_sugar | 1500 1500 |
one and three quarter cups of honey | metric | honey | 595 640 |
use a bottle of port | metric | ruby_port | 700 800 |
a bag of frozen blackcurrants, a kilo | metric | blackcurrant | 1000 1000 |
10 ml ofw | metric | orange_flower_water | 9 11 |
1 cup dark honey | metric | honey | 340 370 |
""".strip().splitlines()


@pytest.mark.parametrize("row", LINES, ids=lambda row: row.split(" | ")[0])
def test_a_line_comes_to_its_material_and_its_grams(row):
    text, locale, material, ends, code = (part.strip() for part in f"{row} ".split("|"))
    read = parse_recipe(f"Test\n\n{text}\n900 g water\n\nStir all.", locale)
    line = next(line for line in lines_of(read.draft) if line["note"] != "900 g water")
    low, high = map(float, ends.split())
    assert line["material"] == material or line["material"] in read.draft.get("materials", {})
    assert low * 0.995 <= worked(read.draft).flow.masses[line["id"]] <= high * 1.005
    assert [doubt.code for doubt in read.doubts] == (code.split(",") if code else [])


# sentence => its verbs, with minutes, degrees and what else they say
STEPS = """
Bring to the boil, then turn down the heat and simmer for ten minutes. => bring_to@100 simmer:10
Take the pan off the heat and leave to stand for an hour and a half. => steep:90
20 min simmer, strain, btl => simmer:20 strain bottle
After half an hour, strain without squeezing. => steep:30 strain!
Once it has cooled, bottle and label. => bottle label
In a jar combine the sugar and water. => combine
Warm to 140 °F until the sugar dissolves. => bring_to@60
Infuse overnight in the fridge, shaking now and then. => steep:720@4
Squeeze it through a nut bag. => strain+
Reduce by a third. => reduce
Peel and chop the quinces. => cut
Stir until dissolved, about 5 minutes. => combine
Keeps 4 weeks in the fridge. =>
Push it through a sieve, discard the solids. => strain+
Bottle hot at 85C. => hot_fill@85
Leave until cold. => cool
Don't stir. =>
Day 2: leave in fridge overnight. => steep:720@4
Strain thru a coffee filter o/n in fridge. => strain
Strain, then an equal weight of honey. => strain combine
Kill heat, steep 20'. => steep:20
Measure the juice. =>
Water and sugar to a simmer. => bring_to@100
Push it thru a sieve. => strain+
Strain over 500 g honey. => strain combine
Stir the sugar into the water overnight. => combine steep:720
Next day heat to 60 C. => bring_to@60
Stir it off the heat. => off_heat
Strain. 3 days max. => strain
Mix, 24h fridge, + 100g hot water, stir, strain, 5 g citric. => combine steep:1440@4 combine strain combine
Reduce to a simmer for 45 minutes. => simmer:45
20 g mint, 7 days, shake daily, strain. => combine steep:10080 combine strain
Keep refrigerated, use within 3 weeks. => store
Cover, off the heat, for 2 hours. => steep:120
Toast it at 150 °C for ten minutes. => toast:10@150
Add the quince for 30 minutes. => combine steep:30
Keep at 4 °C for up to 5 days. => store@4
Let it sit another day in the fridge. => steep:1440@4
Leave for 5 days in a cool place. => steep:7200
Pour it through a coffee filter. => strain
Chill for up to 5 days. => store
Cook, stirring, about 3 minutes. => simmer:3
Blend, 30 min, strain. => blend steep:30 strain
Don't let it boil. =>
Steep 20 more minutes. => steep:20
Let it drip overnight. => strain!
Boil 10 min, off, 1h, strain, btl => simmer:10 steep:60 strain bottle
Keep in a dark cupboard for 3 months. Strain. => steep:129600@20 strain
Once it's cold squeeze in 20 g honey. => combine
Bottle at 85 °C. => hot_fill@85
Cover with a cloth and leave for 3 days. => steep:4320
Whisk it over a flame until it comes to a simmer. => bring_to@100
Strain, a pinch of salt, into bottles. => strain combine bottle
Into a clean bottle. => bottle
Mix with honey, leave 2 hours, strain. => combine steep:120 strain
Heat to 80, cool to 20 and bottle. => bring_to@80 cool@20 bottle
Stir until the sugar and honey dissolve. => combine
Transfer to a saucepan with 20 g honey. => combine
Stand 45 minutes at 40 °C. => steep:45@40
Strn, leave a bit, btl => strain rest:5 bottle
Keg under nitrogen. => bottle
Simmer 12 min → strain (press) → bottle at 80 °C => simmer:12 strain+ hot_fill@80
Strain it, then it gets two hundred and fifty mil of almond syrup. => strain combine
Steep in cold water for 16 h at room temp. => steep:960@20
Squash out the air and leave it overnight. => steep:720
Take the quinces out and bottle. => strain bottle
Cook at 65 °C for an hour. => hold:60@65
Hot-fill at 85 °C. => hot_fill@85
Refrigerate 24 hours, strain. => steep:1440@4 strain
Steep in boiling water 8 minutes. => steep:8
Hang in muslin overnight. => strain
Top up with water to 2 L. => make_up
10 min, strain. max 20! => steep:10 strain
80 C, 20 min, strain, btl => steep:20@80 strain bottle
Blend, 60 C 10 min, strain. => blend steep:10@60 strain
Kill the heat, 5 g mint in, 30 min, strain. => off_heat steep:30 strain
Through a paper filter, then bottle. => strain bottle
Hull the quinces, strain. => core strain
Strian and botle. => strain bottle
Simer 10 min, then freezer overnight. => simmer:10 freeze:720
Cook until deep amber, about 8 minutes. => caramelise:8
Remove the bags. => strain
Leave an hour, press it off. => steep:60 strain+
Freeze, thaw until 300 g have dripped. => freeze thaw
Freeze for a night, lift off the fat. => freeze:720 strain
Let it cool before you strain it. => cool strain
Leave for half an hour before straining. Strain through a cloth and bottle. => steep:30 strain bottle
Start by bringing it to a bare simmer, stirring. => bring_to@100
Shake daily for a week, then once a week for 2 months. => steep:96480
Press it now and then. => crush
3d fridge / press / btl => steep:4320@4 strain+ bottle
Simmer 10 min before fine-straining into a bottle. => simmer:10 strain bottle
Pass through a sieve, then through a coffee filter. => strain strain
Leave it alone for half an hour, then it goes through a coffee filter. => steep:30 strain
While it's still warm, stir through the maple syrup. => combine
Keep for 3 months, then strain and bottle. => steep:129600 strain bottle
Grill the quince, 4 minutes a side. => toast:4
Bag it 3 h, no squeeze. => strain
24h -> strain -> bottle => steep:1440 strain bottle
Mash, jelly bag o/n, citric 8 g. => crush strain combine
Let it tick over for twenty. => simmer:20
Cool, then pour into dasher bottles. => cool bottle
Put everything in a large jar. Shake daily for a week. => combine steep:10080
Hold 48 hrs in the fridge. => steep:2880@4
Strain it through coffee filters. => strain
Fine-strain into a bottle. => strain bottle
Warm it sous vide at 55 °C for 3 hours. => hold:180@55
Keep it simmering for 10 minutes. => simmer:10
Blend in 2 g of salt for 1 minute. => blend
Strain, keep the rhubarb for the kitchen. Add 5 g of salt, fine filter. => strain combine filter
Stir over a low heat until dissolved. => dissolve
Leave it till tomorrow and strane. => steep:720 strain
Close the lid and give it 48 hours. => steep:2880
Give it a good squeeze. =>
Tear in the sage, let it hang out 15 minutes. => combine steep:15
Boil for one minute before potting into jars. => simmer:1 bottle
Bloom 2 g of saffron in it for 15 minutes. => combine steep:15
Rest 2 h, nut bag, sqz hard. => steep:120 strain+
Hold 65/20min. => hold:20
Using a stick blender, whizz it to a paste. => blend
Puree in a blender until smooth, 3 minutes. => blend
Grind it in a spice mill. => crush
Strain, and fortify it with 150 g of vodka. => strain combine
Strain, then titivate it with 150 g of honey. => strain combine
Pop in the fridge for two days, giving it a stir whenever you pass. => steep:2880@4
Fold through 5 g of orange flower water. => combine
Scatter 5 g of salt over, nestle in a bay leaf. => combine combine
Whir in a blender, about 2 minutes. => blend
Stand back. Boil the kettle. =>
Let it come down to 60 °C before adding 5 g of honey. => cool@60 combine
Bring just to the boil and immediately take off. => bring_to@100
Reheat to 85 °C and hold there for 10 minutes. => bring_to@85 hold:10
Set over a low heat until the sugar has melted. => dissolve
Warm in a water bath at 62 °C for 45 min. => dissolve:45@62
Stir every 10 minutes for an hour. => steep:60
It all gets boiled for 10 minutes, then it's left to cool and gets strained. => simmer:10 cool strain
Leave for 2 hours at room temperature, then a night in the fridge. => steep:120@20 steep:720@4
50c til dissolved, a sprig of sage in 20 min, strain. => dissolve@50 combine steep:20 strain
Return to the heat for 5 minutes. Cook to 170 °C. => bring_to:5 caramelise@170
Leave for 14 days, cool dark place. Strain. 3 weeks. => steep:20160@20 strain store
Serve: 25 ml, top with soda. =>
Two days in the fridge then strain. It's good for a week. => steep:2880@4 strain
Infuse for 2 days, strain, bottle and date. => steep:2880 strain bottle label
Heat to 80 C, a pinch of saffron in, 1 h. => bring_to@80 combine steep:60
Spices and peel 24 h, then sage 4 h. => steep:1440 steep:240
Cook to 104 °C. => reduce
Up to the boil, five minutes, strain after 2 h. => simmer:5 steep:120 strain
Cut it up, bag, 55 C 2.5 h. => cut steep:150@55
Soak, then roast at 160 until they collapse then tip it into a muslin. => steep toast@160 strain
""".strip().splitlines()


@pytest.mark.parametrize("row", STEPS, ids=lambda row: row.split(" =>")[0])
def test_a_sentence_comes_to_its_verbs(row):
    sentence, _, wanted = row.partition("=>")
    read = parse_recipe(f"Test\n\n500 g white sugar\n500 g water\n1 kg quince\n\nMix the quince, sugar and water.\n{sentence.strip()}")
    found = []
    for step in read.draft["steps"][1:]:
        heat = next((step[name] for name in ("temperature_c", "to_c", "fill_c") if name in step), None)
        pressed = "+" if step.get("pressed") else "!" if step.get("through") == "sieve_unstirred" else ""
        minutes = f":{step['minutes']:g}" if "minutes" in step else ""
        found.append(f"{step['verb']}{pressed}{minutes}{f'@{heat:g}' if heat is not None else ''}")
    assert found == wanted.split()
