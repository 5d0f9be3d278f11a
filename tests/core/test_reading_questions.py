"""What is asked about a text, what is never assumed, and what an answer changes in the draft."""

import pytest

from tests.core.pasted import lines_of, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.answers import answered
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.release.release_check import release_check


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


def test_a_ratio_per_litre_of_another_line_counts_the_litres_of_that_line():
    read = parse_recipe("Honey water\n1 kg honey\n500 g water\na pinch of salt a litre\nStir.")
    at = next(n for n, doubt in enumerate(read.draft["doubts"]) if doubt["code"] == "ratio_to_what")
    words = [each["word"] for each in read.draft["doubts"][at]["answers"]]
    grams = [
        lines_of(answered(read.draft, at, n))[-1]["amount"]["mass_g"]
        for n, word in enumerate(words)
        if word.startswith("for each litre of")
    ]
    honey, water = grams
    assert 0.68 < honey / (2 * water) < 0.74, "a kilogram of honey is 0.7 L"


def test_sugar_boiled_beyond_the_range_of_a_reduction_is_asked_about():
    within, beyond = (parse_recipe(f"Heavy syrup\n\n1 kg sugar\n500 g water\n\nBoil to {heat} °C. Cool and bottle.") for heat in (106, 118))
    assert [step["to_brix"] for read in (within, beyond) for step in read.draft["steps"] if step["verb"] == "reduce"] == [73.2, 85.0]
    assert [doubt.code for doubt in within.doubts] == []
    assert [doubt.code for doubt in beyond.doubts] == ["end_state"]
