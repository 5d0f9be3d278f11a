"""Parts of a pasted recipe that hang on others: alternatives, preps within it, what one drink or day takes, phrases given by hand, what the house keeps."""

import pytest

from tests.core.pasted import KNOWN, lines_of, worked
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.answers import answered
from ulsek.core.recipe_text.given import given
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.release.release_check import release_check
from ulsek.core.results.told import told_and_worked_out
from ulsek.core.spec.json_form import read_spec


def codes(draft):
    return [doubt["code"] for doubt in draft.get("doubts", ())]


def position(draft, code):
    return codes(draft).index(code)


def mass(draft):
    done = worked(draft)
    assert (done.flow.refusal, done.inputs.spec.faults) == (None, ())
    return done.figures[done.last]["mass_g"]


def test_what_may_stand_instead_is_an_option_with_its_own_amount():
    read = parse_recipe("Base\n600 g honey (or 450 g maple syrup)\n1 vanilla pod or 1 tsp vanilla extract\n500 g water\nStir all. Bottle.")
    amounts = {line["material"]: (line["amount"], line.get("only")) for line in lines_of(read.draft)}
    assert amounts["maple_syrup"] == ({"kind": "fixed", "mass_g": 450.0}, "or1/b")
    assert (amounts["honey"][1], amounts["vanilla_pod"][1], amounts["extract_of_vanilla"][1]) == ("or1/a", "or2/a", "or2/b")
    assert codes(read.draft) == ["alternatives", "alternatives"]
    assert mass(read.draft) == pytest.approx(1103, abs=2)
    other = answered(read.draft, 0, 1)
    assert (other["options"][0]["chosen"], mass(other)) == ("b", pytest.approx(953, abs=2))
    assert mass(answered(read.draft, 0, 0)) == mass(read.draft), "what it was read as"


TEA = "Tea base\n\nFor the syrup:\n250 g sugar\n250 g water\nBring to 60 °C until dissolved, cool.\n\nFor the infusion:\n{line}\n10 g green tea\n\nSteep the tea in the syrup for 2 hours. Strain. Bottle."


@pytest.mark.parametrize(("line", "share", "asked"), [("250 g syrup (above)", 0.5, []), ("500 g of the syrup", 1.0, []), ("1 kg syrup, from above", 1.0, ["more_than_made"])])  # fmt: skip
def test_a_prep_within_a_recipe_is_made_in_its_own_vessel_and_poured(line, share, asked):
    read = parse_recipe(TEA.format(line=line))
    steps = read.draft["steps"]
    assert [(step["verb"], step["vessel"]) for step in steps] == [
        ("bring_to", "syrup"),
        ("cool", "syrup"),
        ("split", "syrup"),
        ("steep", "pot"),
        ("strain", "pot"),
        ("bottle", "pot"),
    ]
    assert (steps[2]["share"], steps[2]["into"], codes(read.draft)) == (share, "pot", asked)
    assert mass(read.draft) == pytest.approx(500 * share + 10 - 36, abs=25), "the leaves keep some"
    assert "materials" not in read.draft


def test_steps_that_are_told_together_stay_in_one_vessel():
    read = parse_recipe(
        "Base\n\nFor the syrup:\n250 g sugar\n250 g water\n\nTo finish:\n200 g syrup\n5 g citric acid\n\nDissolve the sugar in the water. Stir in the acid."
    )
    assert {step["vessel"] for step in read.draft["steps"]} == {"pot"}
    assert "unknown_material" in codes(read.draft), "nothing is lost: the syrup is asked about"


def test_what_no_step_took_is_asked_about_and_given_to_one_by_hand():
    text = "Base\n\n500 ml quince juice\n450 g sugar\n\nStir everything. Strain. Bottle.\n\nLovely with 5 g of salt as well, said Maren."
    read = parse_recipe(text)
    assert codes(read.draft) == ["not_taken"]
    assert codes(parse_recipe(text.replace("5 g of salt", "50 ml of almond syrup")).draft) == ["not_taken"]
    doubles = parse_recipe(
        "So for espresso syrup pull eight doubles, that's about three hundred mil, and while it's hot stir in 400 g of demerara. Bottle."
    )
    assert codes(doubles.draft) == ["not_taken"]
    phrase = (text.index("5 g"), text.index(" as well"))
    salted = given(read.draft, phrase, "s1", KNOWN)
    line = lines_of(salted.spec)[-1]
    assert (line["material"], line["amount"], line["id"]) == ("salt", {"kind": "fixed", "mass_g": 5.0}, "l3")
    assert [(item.kind, item.at, text[item.start : item.end]) for item in salted.phrases] == [("line", "l3", "5 g of salt")]
    assert mass(salted.spec) == pytest.approx(mass(read.draft) + 5, abs=0.5)
    behind = given(read.draft, phrase, "s2", KNOWN).spec
    assert [(step["id"], step["verb"]) for step in behind["steps"]] == [
        ("s1", "combine"),
        ("s2", "strain"),
        ("s4", "combine"),
        ("s3", "bottle"),
    ]
    words = given(read.draft, (text.index("said"), len(text)), "s1", KNOWN)
    assert words.spec["steps"][0]["note"] == "Stir everything; said Maren."
    for where, step in (((0, 10**6), "s1"), (phrase, "s9")):
        with pytest.raises(Refusal):
            given(read.draft, where, step, KNOWN)


def test_an_unknown_material_is_told_once_and_is_no_question_then():
    read = parse_recipe("Base\n200 ml Amaro Selva\n100 g glowberries\n300 g sugar\nStir all. Bottle.")
    assert [[answer["word"] for answer in doubt["answers"]][:1] for doubt in read.draft["doubts"]] == [
        ["a liqueur of 20 % vol"],
        ["a fruit"],
    ]
    told = answered(read.draft, 0, 2)
    selva = told["materials"]["amaro_selva"]
    assert ("taken_as" in selva, selva["kind"], told["materials"]["glowberries"]["taken_as"]) == (False, "spirit", "fresh plant matter")
    weak, strong = (worked(body).figures[-1]["abv"] for body in (answered(read.draft, 0, 0), told))
    assert strong == pytest.approx(1.5 * weak, rel=0.03)
    assert "taken_as" in {remark.code for remark in release_check(worked(read.draft))}
    again = parse_recipe("Base\n100 ml amaro selva\nStir.", known={**KNOWN, "amaro_selva": selva})
    assert (lines_of(again.draft)[0]["material"], codes(again.draft)) == ("amaro_selva", [])


def test_which_citric_acid_is_asked_where_the_house_has_not_said():
    text = "Base\n500 g water\n20 g citric acid\n5 g citric acid, anhydrous\nStir."
    asked, said = parse_recipe(text, shelf={}), parse_recipe(text, shelf={"citric_acid": "citric_acid_monohydrate"})
    assert (codes(asked.draft), asked.draft["doubts"][0]["text"], codes(said.draft)) == (["on_the_shelf"], "20 g citric acid", [])
    assert [line["material"] for line in lines_of(said.draft)] == ["water", "citric_acid_monohydrate", "citric_acid"]
    assert lines_of(answered(asked.draft, 0, 1))[1]["material"] == "citric_acid_monohydrate"
    assert codes(parse_recipe(text).draft) == [], "nobody is there to be asked"


def test_a_dose_far_from_published_practice_is_asked_about_until_the_house_has_its_own():
    read = parse_recipe("Clove syrup\n500 g water\n500 g sugar\n60 g cloves\nBring to a simmer, steep 20 minutes, strain. Bottle.")
    far = [printed(remark.text) for remark in release_check(worked(read.draft)) if remark.code == "far_from_practice"]
    assert len(far) == 1 and far[0].startswith("Cloves") and "0.04 to 8" in far[0]
    assert "far_from_practice" not in {remark.code for remark in release_check(worked(read.draft), {"cloves": [60.0, 70.0]})}


def test_told_strength_and_dose_stand_beside_what_is_worked_out():
    read = parse_recipe("Cordial\n300 ml bergamot juice\n300 g sugar\nStir. Bottle.\nServe: 25 ml\nBrix: 65\n54 °Bx\nABV 12%")
    claims = told_and_worked_out(worked(read.draft))
    assert [(claim.kind, claim.agrees) for claim in claims] == [
        ("serve", None),
        ("strength", False),
        ("strength", True),
        ("strength", False),
    ]
    assert printed(claims[0].worked_out).replace("\u00a0", " ").startswith("25.0 mL holds 16.0 g of sugar and")
    assert [printed(claim.cause).split(":")[0] for claim in claims[1:]] == [
        "More than its parts come to",
        "",
        "More than its parts come to",
    ]
    assert read_spec(read.draft).claims[1].unit == "°Bx"


def test_a_strain_that_keeps_nothing_back_says_nothing_of_its_pulp():
    read = parse_recipe("Berry water\n1 kg blueberries\n20 g salt\nLeave for 5 days. Strain through a superbag.")
    assert release_check(worked(read.draft))
