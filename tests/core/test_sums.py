"""Quick sums against hand-computed cases; bad figures refused at their own place."""

import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.kitchen import answered, line, pour, worked
from tests.reference import rows
from ulsek.cli import run as command
from ulsek.core.base.answer import encode
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.properties.density import density_g_ml
from ulsek.core.properties.measure import measure
from ulsek.core.sums.catalogue import SUMS, work_out

MIXES = {row["id"]: row["outputs"] for row in rows("mixes")}


def told(mix, name):
    return float(re.search(rf"(?:^|; ){re.escape(name)}=(-?[\d.]+)", MIXES[mix])[1])


# name, figures in, {figure: (value, tolerance)}; by hand, or from the table of worked mixtures where its row is named.
CASES = [
    (
        "acid_solution",
        {"strength": 6, "volume": 100},
        {
            "citric acid": (6.0, 1e-9),
            "water, about": (told("M26", "water_needed"), 0.12),
            "titratable, as citric": (6.0, 0.005),
            "pH": (1.83, 0.06),
        },
    ),
    # Δ titratable = 5 × 10.294 − 0.4 × 10 = 47.47 g as citric; two of citric to one of malic carry (2 + 0.9552) / 3 each.
    (
        "acid_to_target",
        {"liquid": "pear_juice", "volume": 1000, "have": 0.4, "want": 5, "citric": 2, "malic": 1},
        {"citric acid": (32.13, 0.05), "malic acid": (16.06, 0.03), "volume then": (1029.4, 0.5)},
    ),
    ("acid_to_target", {"liquid": "water", "volume": 1000, "want": 6}, {"citric acid": (62.2, 0.2)}),
    # 1 mL per 29.57 mL and point is 3.38 per 100 mL; 60 mL by half a point.
    ("rule_of_thumb", {"volume": 60, "want": 0.5, "solution": 28}, {"by the rule": (1.0144, 1e-3), "exactly": (30 / 27.5, 1e-9)}),
    ("syrup_for_sugar", {"sugar": 15}, {"by weight": (30.0, 1e-9), "syrup": (30 / 1.22965, 0.01)}),
    ("specific_gravity", {"gravity": 1.04}, {"dissolved": (told("M54", "brix"), 0.01)}),
    (
        "thaw_recovery",
        {"juice": 12, "drip": 22, "caught": 450},
        {"of what is dissolved": (82.5, 1e-9), "the ice left stands at": (21 / 5.5, 1e-9), "steepness of this drip": (2.915, 0.01)},
    ),
    ("acid_solution", {"strength": 28, "volume": 500, "citric": 3, "malic": 1}, {"citric acid": (105.0, 1e-9), "malic acid": (35.0, 1e-9)}),
    # 60 mL from 0.5 to 1.5 g/100 mL with 28: 60 × 1.0 / 26.5; the linear rule says 60 × 1.0 / 28.
    (
        "acid_dose",
        {"volume": 60, "have": 0.5, "want": 1.5, "solution": 28},
        {"dose": (60 / 26.5, 1e-9), "by the linear rule": (60 / 28, 1e-9), "the rule is short by": (100 * 1.5 / 28, 1e-9)},
    ),
    # 22.5 mL at 5.8 g/100 mL is 1.305 g: 4.66 mL of 28.
    (
        "same_as_citrus",
        {"citrus": "lime_persian_juice", "serve": 22.5, "solution": 28},
        {"acid in the serve": (1.305, 1e-6), "dose": (4.661, 0.001), "less volume in the drink": (17.839, 0.001)},
    ),
    # 94 % citric and 6 % malic of 48 g as citric: 48 / (0.94 + 0.06 × 0.9552) = 48.13 g in all.
    (
        "mimic",
        {"citrus": "bergamot_juice", "volume": 1000},
        {"citric acid": (45.24, 0.01), "malic acid": (2.888, 0.002), "titratable, as citric": (4.8, 1e-6)},
    ),
    # 160 g × 2256.5 J/g / 300 s; 1000 g × 4.186 J/(g K) × 80 K / 1203.5 W.
    ("pot_power", {"lost": 160, "minutes": 5}, {"power into the pot": (1203.5, 1.0), "to the boil in": (4.637, 0.02)}),
    ("swap_acid", {"grams": 10, "have": "citric_acid", "want": "malic_acid"}, {"malic acid": (10.469, 0.001)}),
    ("titration", {"burette": 37.5}, {"titratable, as citric": (2.4015, 0.001), "as malic acid": (2.5141, 0.001)}),
    ("sugar_to_target", {"mass": 1000, "have": 10, "want": 50}, {"White sugar": (800.6, 0.2), "weight then": (1800.6, 0.2)}),
    (
        "dilute",
        {"mass": 1000, "have": 66.667, "want": 50},
        {
            "water": (told("M18", "water_to_add"), 0.1),
            "weight then": (told("M18", "final_mass"), 0.1),
            "volume then": (told("M18", "final_volume_20C"), 2),
        },
    ),
    (
        "blend",
        {"first": "honey", "second": "water", "total": 900, "want": 55.2},
        {"Honey": (600.0, 0.1), "Water": (300.0, 0.1), "volume": (told("M08", "volume_20C"), 3.6)},
    ),
    # 100 g of sugar is 99.96 g of solids; honey holds 82.8 %: 120.72 g, of which 20.77 g are water.
    (
        "swap_sugar",
        {"grams": 100, "have": "white_sugar", "want": "honey", "match": "solids"},
        {"Honey": (120.72, 0.05), "water that comes with it": (20.73, 0.05), "dissolved solids change by": (0.0, 1e-9)},
    ),
    # 30 mL × 1.2297 g/mL × 0.5 = 18.44 g; at 66.667 °Bx a mL holds 1.3267 × 0.66667 g.
    ("swap_syrup", {"dose": 30, "have": 50, "want": 66.667}, {"sugar that it carries": (18.445, 0.01), "dose": (20.853, 0.005)}),
    # 83 mg/L × 200 mL / 50 mL × 1 L / (60 mg in a gram, the high end).
    (
        "most_restricted",
        {"dose": 50, "drink": 200},
        {"at most": (83 * 4 / 60, 1e-9), "in the drink then, at worst": (83.0, 1e-9), "in one drink then, at worst": (16.6, 1e-9)},
    ),
    ("most_spirited", {"strength": 45, "drink": 180}, {"at most": (2.0, 1e-9), "by the dropper": (40.0, 1e-9)}),
    ("cut_infusion", {"mass": 1000, "too_strong": 25, "brix": 50}, {"plain syrup": (250.0, 1e-9), "of it sugar": (125.0, 1e-9)}),
    (
        "spirit_strength",
        {"volume": 1000, "have": 96, "want": 40},
        {
            "water": (told("M41", "water_to_add"), 1),
            "volume then": (told("M41", "final_volume"), 0.5),
            "as if volumes added": (1400.0, 1e-9),
            "lost by contraction": (told("M41", "volume_contraction"), 1),
        },
    ),
    ("swap_vinegar", {"amount": 100, "have": 6, "want": 5}, {"vinegar": (120.0, 1e-9), "water to leave out": (20.0, 1e-9)}),
    # 2 cups of 250 mL at 200 g per 236.6 mL.
    ("cups_to_grams", {"amount": 2, "material": "white_sugar"}, {"weight": (422.65, 0.1), "volume": (500.0, 1e-9)}),
    ("grams_by_drop", {"salt": 0.1}, {"drops": (10.0, 1e-9), "in one drop": (10.0, 1e-9)}),
    ("reading", {"shown": 50, "at": 28}, {"true solids": (told("M55", "50.0_at_28C"), 0.05)}),
    # 5 g in 100 g, 10 g of it in 1000 g, 40 g of that in 250 g: 0.05 × 0.01 × 0.16 = 80 mg/kg.
    (
        "concentrate_chain",
        {"oil": 5, "concentrate": 100, "into_syrup": 10, "syrup": 1000, "dose": 40, "drink": 250},
        {"in the drink": (80.0, 1e-9), "in one drink": (20.0, 1e-9), "drinks from the concentrate": (250.0, 1e-9)},
    ),
    ("siphon", {"fill": 900}, {"gas dissolved": (8.3, 0.1)}),
    (
        "reduction",
        {"mass": 2000, "have": 15.5, "want": 40},
        {"stop at": (told("M24", "final_mass"), 0.1), "steam": (told("M24", "water_removed"), 0.1), "minutes": (38.4, 0.2)},
    ),
    # The same grams as 60 mL at 1.5 would hold: 60 × 1.0 / 28, which is the linear rule; in 62.14 mL that stands at 1.448.
    (
        "acid_dose",
        {"volume": 60, "have": 0.5, "want": 1.5, "solution": 28, "mode": "grams"},
        {"dose": (60 / 28, 1e-9), "acid in it then": (0.9, 1e-9), "by the dropper": (43, 1e-9), "by the syringe, to its mark": (2.0, 1e-9)},
    ),
    # A house that pours 3 mL into every 100 mL for each g/100 mL wanted: 60 mL take 1.8 mL.
    (
        "acid_dose",
        {"volume": 60, "have": 0.5, "want": 1.5, "solution": 28, "rule": 3, "sugar": 10},
        {"by the house's rule": (1.8, 1e-9), "the rule would reach": ((30 + 50.4) / 61.8, 1e-9)},
    ),
    # 1 L of 50 and 2.5, too sweet by a quarter: 1250 mL of 40, so 6.25 g of acid; the water fills what 1250 mL leave.
    (
        "balance",
        {"volume": 1000, "sugar": 50, "acid": 2.5, "by": 25},
        {"citric acid": (6.25, 1e-4), "volume then": (1250, 0.01), "sugar then": (40, 1e-6), "acid then": (2.5, 1e-6)},
    ),
    # Too sharp by a quarter: 1250 mL again, and 125 g of sugar keep it at 50.
    (
        "balance",
        {"volume": 1000, "sugar": 50, "acid": 2.5, "by": 25, "wrong": "too sharp"},
        {"white sugar": (125, 1e-3), "acid then": (2.0, 1e-6), "sugar then": (50, 1e-6)},
    ),
    # 20 % vol too strong by a quarter: 16 % vol in 1250 mL, sugar and acid brought back.
    (
        "balance",
        {"volume": 1000, "sugar": 50, "acid": 2.5, "strength": 20, "by": 25, "wrong": "too strong"},
        {"strength then": (16, 1e-6), "white sugar": (125, 1e-3), "citric acid": (6.25, 1e-4)},
    ),
    # 50 mL of 40 % vol hold 20 mL of alcohol, 15.78 g; 100 mL of parts shrink a little as they meet.
    (
        "drink",
        {"spirit": 50, "syrup": 25, "juice": 25, "ice": "none"},
        {"alcohol in the glass": (15.785, 0.01), "volume": (99.8, 0.3), "alcohol": (20.0, 0.1), "acid": (1.2, 0.01)},
    ),
    # 12.60 over 38 whole serves of 25 mL out of 950 mL.
    (
        "serve_cost",
        {"cost": 12.6, "volume": 1000, "serve": 25},
        {"serves": (38, 1e-9), "a serve": (12.6 / 38, 1e-9), "a litre": (12.6, 1e-9)},
    ),
    # f of 1000 g at 15 °Bx with 15 (1 − (1 − f)⁴)/f = 30: f = 0.4563.
    ("drip", {"mass": 1000, "have": 15, "want": 30}, {"keep": (456.3, 0.1), "of the sugar": (91.26, 0.02)}),
    # 0.15 % of 1000 g; −90 ln 0.1 = 207.2 min at 45 °C, pH 3.5 and the usual dose.
    ("enzyme_dose", {"mass": 1000}, {"enzyme": (1.5, 1e-9), "minutes": (34.66, 0.01)}),
    # Half a unit below pH 3 doubles it, twice the dose halves it again.
    ("enzyme_dose", {"mass": 1000, "ph": 2.5, "percent": 0.3, "jars": 4}, {"in each jar": (0.75, 1e-9), "minutes": (34.66, 0.01)}),
    # 1040 g is a litre; 1 g/L buys 60 × 1 / 0.25 = 240 min on top of 20.
    ("ascorbic_dose", {"mass": 1040}, {"ascorbic acid": (1.0, 1e-9), "minutes before it browns": (260, 1e-6), "without it": (20, 1e-6)}),
    # Slope (7.00 − 4.11)/2.99 = 96.66 %; 4.01 + (3.10 − 4.11)/0.9666 = 2.965.
    ("ph_reading", {"shown": 3.1, "low": 4.11}, {"pH": (2.965, 0.001), "slope": (96.66, 0.01)}),
    # Carroll, Slupsky and Mather 1991: 6.6 g/L of water at 4 °C under 130 kPa, 3.3 volumes.
    ("carbonate", {"temperature": 4, "pressure": 130}, {"gas dissolved": (6.6, 0.02), "volumes": (3.34, 0.02)}),
    # 200 g of sugar are in already; of 700 g of juice at 4.8 g/100 mL and water so much that 2.0 g/100 mL stand.
    (
        "blend",
        {
            "first": "bergamot_juice",
            "second": "water",
            "total": 900,
            "third": "white_sugar",
            "third_g": 200,
            "figure": "acid_g_100ml",
            "want": 2,
        },
        {"White sugar": (200, 1e-9), "acid in it": (2.0, 1e-6), "Bergamot juice": (351, 0.5)},
    ),
]


@pytest.mark.parametrize(("name", "given_figures", "expected"), CASES, ids=lambda value: value if isinstance(value, str) else None)
def test_sum(name, given_figures, expected):
    answer = work_out(name, given_figures)
    for figure, (value, tolerance) in expected.items():
        assert answered(answer, figure) == pytest.approx(value, abs=tolerance), figure
    assert answer.formula
    assert answer.source
    assert all(math.isfinite(figure.value) for figure in answer.figures)


def test_every_sum_has_a_case():
    assert {name for name, _, _ in CASES} == set(SUMS)


@pytest.mark.parametrize(
    ("name", "figures", "place", "text"),
    [
        ("acid_dose", {"volume": 60, "want": 1.5}, "solution", "Strength of the solution is missing"),
        ("acid_dose", {"volume": 60, "have": 2, "want": 1.5, "solution": 28}, "want", "acid only raises it"),
        ("acid_dose", {"volume": 60, "want": 30, "solution": 28}, "solution", "it must be stronger than the target"),
        (
            "acid_dose",
            {"volume": -3, "want": 1, "solution": 28},
            "volume",
            "\u22123 mL is out of bounds: from 0.1 to 1\u00a0000\u00a0000 mL",
        ),
        ("acid_dose", {"volume": "a splash", "want": 1, "solution": 28}, "volume", "“a splash” is no number"),
        ("acid_dose", {"volume": float("nan"), "want": 1, "solution": 28}, "volume", "must be a number"),
        ("acid_dose", {"volume": 60, "want": 1, "solution": 28, "mood": 3}, "mood", "This sum does not ask for “mood”"),
        ("acid_solution", {"strength": 6, "volume": 100, "citric": 0}, "citric", "at least one must be above zero"),
        ("dilute", {"mass": 100, "have": 40, "want": 50}, "want", "it only lowers it"),
        ("sugar_to_target", {"mass": 100, "have": 10, "want": 84, "sweetener": "honey"}, "sweetener", "it must be richer than the target"),
        ("blend", {"first": "honey", "second": "water", "total": 100, "want": 95}, "want", "lies outside both"),
        ("swap_acid", {"grams": 5, "have": "citric_acid", "want": "battery_acid"}, "want", "“battery_acid” is not known here"),
        ("mimic", {"citrus": "moonfruit", "volume": 100}, "citrus", "Nothing is known about “moonfruit”"),
        (
            "concentrate_chain",
            {"oil": 5, "concentrate": 1, "into_syrup": 10, "syrup": 1000, "dose": 40, "drink": 250},
            "oil",
            "A part is larger than its whole",
        ),
        ("reduction", {"mass": 100, "have": 40, "want": 30}, "want", "30 °Bx is behind it already"),
        ("poetry", {}, "name", "“poetry” is no sum"),
        ("balance", {"volume": 100, "sugar": 0, "acid": 2}, "wrong", "It cannot be too sweet"),
        ("balance", {"volume": 100, "sugar": 110, "strength": 60}, "sugar", "So much sugar and alcohol do not fit"),
        ("drink", {}, "spirit", "Nothing is in the glass"),
        ("drink", {"spirit": 50, "syrup": 25, "juice": 25, "want_acid": 0.1}, "want_acid", "do not bring it there"),
        ("serve_cost", {"cost": 5, "volume": 20, "serve": 25}, "serve", "20 mL are not one serve"),
        ("drip", {"mass": 1000, "have": 30, "want": 20}, "want", "20 °Bx is behind it already"),
        ("drip", {"mass": 1000, "have": 4, "want": 60}, "want", "No drip stands at 60 °Bx"),
        ("enzyme_dose", {"mass": 1000, "temperature": 60}, "temperature", "60 °C kills the enzyme"),
        ("ph_reading", {"shown": 3, "low": 5, "high": 5.2}, "high", "The two buffers do not tell a slope"),
        (
            "blend",
            {"first": "honey", "second": "water", "total": 100, "want": 20, "third": "white_sugar", "third_g": 150},
            "third_g",
            "150 g are more than all of it",
        ),
    ],
)
def test_bad_figures_are_refused_at_their_place(name, figures, place, text):
    with pytest.raises(Refusal) as refused:
        work_out(name, figures)
    assert refused.value.where == place
    assert text in refused.value.text


@given(volume=st.floats(1, 5000), have=st.floats(0, 5), more=st.floats(0, 5), solution=st.floats(12, 50))
def test_a_dose_lands_on_its_target_and_the_rule_never_overshoots(volume, have, more, solution):
    want = have + more
    answer = work_out("acid_dose", {"volume": volume, "have": have, "want": want, "solution": solution})
    dose = answered(answer, "dose")
    assert (volume * have + dose * solution) / (volume + dose) == pytest.approx(want, rel=1e-9, abs=1e-12)
    assert answered(answer, "by the linear rule") <= dose + 1e-12


@given(dose=st.floats(1, 100), have=st.floats(20, 70), want=st.floats(20, 70))
def test_swapping_syrups_there_and_back_gives_the_first_dose(dose, have, want):
    there = answered(work_out("swap_syrup", {"dose": dose, "have": have, "want": want}), "dose")
    if 0.1 <= there <= 10000:
        assert answered(work_out("swap_syrup", {"dose": there, "have": want, "want": have}), "dose") == pytest.approx(dose, rel=1e-9)


def test_too_little_for_the_scale_is_said_with_its_pre_dilution():
    answer = work_out("acid_solution", {"strength": 1, "volume": 100, "scale_g": 0.1})
    assert "dissolve 10 g in 90 g of water and weigh 10 g of that" in printed(answer.remarks[-1])
    assert len(work_out("acid_solution", {"strength": 6, "volume": 1000, "scale_g": 0.1}).remarks) == 1
    assert "Concentrate, not a drink" in printed(work_out("acid_solution", {"strength": 28, "volume": 1000, "scale_g": 0.1}).remarks[1])


def test_typed_figures_read_as_people_write_them():
    assert answered(work_out("dilute", {"mass": "1 000", "have": "66,667", "want": "50"}), "water") == pytest.approx(333.3, abs=0.1)


def test_sums_on_the_command_line():
    assert encode(command(["sum", "dilute", "mass=1000", "have=60", "want=30"]))["figures"][0]["value"] == pytest.approx(1000.0)
    assert len(command(["sum"])["sums"]) == len(SUMS)


def test_one_part_of_sugar_by_volume_is_not_one_by_weight():
    cup = answered(work_out("cups_to_grams", {"amount": 1, "material": "white_sugar"}), "weight")
    assert cup / 250 < density_g_ml(Contents({"water": 1.0}))


@given(sugar=st.floats(5, 60), acid=st.floats(0.3, 6), by=st.floats(1, 60), wrong=st.sampled_from(("too sweet", "too sharp", "too weak")))
def test_putting_it_right_moves_one_figure_and_keeps_the_others(sugar, acid, by, wrong):
    answer = work_out("balance", {"volume": 1000, "sugar": sugar, "acid": acid, "by": by, "wrong": wrong})
    up = 1 + by / 100
    wanted = {"too sweet": (sugar / up, acid), "too sharp": (sugar, acid / up), "too weak": (sugar * up, acid * up)}[wrong]
    assert (answered(answer, "sugar then"), answered(answer, "acid then")) == pytest.approx(wanted, rel=1e-6)
    assert all(part.amount >= 0 for part in answer.parts)


def test_a_drink_is_thinned_by_its_ice_with_a_range_and_what_is_added_lands():
    built = work_out("drink", {"spirit": 50, "syrup": 25, "juice": 25, "ice": "shaken", "want_sugar": 14, "want_acid": 1.2})
    volume = built.figures[0]
    assert volume.low < volume.value < volume.high
    assert volume.value > answered(work_out("drink", {"spirit": 50, "syrup": 25, "juice": 25, "ice": "none"}), "volume") + 20
    assert (built.spots[-1].sugar, built.spots[-1].acid) == pytest.approx((14, 1.2), rel=1e-6)


def test_a_bottle_lends_only_figures_that_it_has():
    lent = {ask.lends for item in SUMS.values() for ask in item.asks.values() if ask.lends}
    assert lent == {"brix", "sugar_g_100ml", "acid_g_100ml", "abv"}
    assert lent <= set(measure(Contents({"water": 1.0})))


def test_a_house_material_stands_before_the_typical_one():
    own = {
        "makeup": {"by": "reading", "brix_reading": 9, "acid_g_100ml": 6.0, "acid_split": {"citric_acid": 1}, "sugar_split": {"sucrose": 1}}
    }
    figures = {"citrus": "bergamot_juice", "serve": 30, "solution": 30}
    assert answered(work_out("same_as_citrus", figures), "dose") == pytest.approx(4.8)
    assert answered(work_out("same_as_citrus", figures, {"bergamot_juice": {"name": "Bergamot", **own}}), "dose") == pytest.approx(
        6.0, abs=1e-6
    )


def test_every_answer_draws_what_it_puts_together_and_says_how_exact_it_is():
    for name, figures, _ in CASES:
        answer = work_out(name, figures)
        assert SUMS[name].error
        assert all(part.kind in ("water", "sugar", "acid", "spirit", "rest") and math.isfinite(part.amount) for part in answer.parts), name
        assert all(spot.sugar >= 0 and spot.acid >= 0 for spot in answer.spots), name


def test_a_rule_that_gives_too_much_is_over_and_never_short_by_less_than_nothing():
    figures = {"volume": 60, "have": 0.5, "want": 1.5, "solution": 28, "rule": 6}
    names = {printed(figure.name): figure.value for figure in work_out("acid_dose", figures).figures}
    assert names["the rule is over by"] > 0
    assert "the rule is short by" not in names


@pytest.mark.parametrize(
    ("said", "ml"),
    [
        ("0.3 mL per fluid ounce and point", 1.0144),
        ("3,5 ml per 100 ml and point", 3.5),
        ("35 ml per litre and point", 3.5),
        ("1 mL for every 2 fl oz and 0.5 points", 3.3814),
        ("6 drops per oz per point", 1.0144),
        ("1ml per 30ml", 3.3333),
    ],
)
def test_a_rule_of_thumb_is_read_as_people_say_it(said, ml):
    found = work_out("rule_of_thumb", {"rule": said, "volume": 60, "want": 1, "solution": 28})
    assert answered(found, "the rule, per 100 mL and point") == pytest.approx(ml, rel=1e-3)


@pytest.mark.parametrize("said", ["a bit per glass", "3 mL", "0 mL per fl oz", "per ounce", "x" * 121])
def test_a_rule_that_says_no_dose_is_refused_at_its_place(said):
    with pytest.raises(Refusal) as refused:
        work_out("rule_of_thumb", {"rule": said, "volume": 60, "want": 1, "solution": 28})
    assert refused.value.where == "rule"


@given(st.floats(0.0, 3.0), st.floats(3.0, 12.0), st.floats(0.0, 3.0))
def test_a_split_of_acids_lands_on_its_target_and_a_spec_does_the_same(have, want, malic):
    figures = {"liquid": "pear_juice", "volume": 800, "have": have, "want": want, "citric": 1, "malic": malic}
    answer = work_out("acid_to_target", figures)
    assert answer.spots[1].acid == pytest.approx(want, abs=1e-6)
    assert answered(answer, "malic acid") == pytest.approx(malic * answered(answer, "citric acid")) if malic else True


def test_lines_in_a_fixed_ratio_reach_a_target_together():
    target = {"id": "citric_acid", "material": "citric_acid", "amount": {"kind": "target", "property": "acid_g_100ml", "value": 5}}
    malic = {"id": "malic_acid", "material": "malic_acid", "amount": {"kind": "ratio", "to": {"line": "citric_acid"}, "ratio": 0.5}}
    for lines in ([target, malic], [malic, target]):
        done = worked(pour(line("pear_juice", 1000.0)), {"verb": "combine", "lines": lines})
        assert done.figures[1]["acid_g_100ml"] == pytest.approx(5.0)
        assert done.flow.masses["malic_acid"] == pytest.approx(0.5 * done.flow.masses["citric_acid"])
        assert done.range(1, "acid_g_100ml").half_width > 0.1, "a computed dose stays while the juice moves"
