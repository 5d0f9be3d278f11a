"""Several recipes in one text: where each begins, and their questions as one list."""

import pytest

from tests.core.pasted import KNOWN, lines_of
from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.open_forms import read_many
from ulsek.core.recipe_text.several import MOST_RECIPES, recipes_of, table_of
from ulsek.core.recipe_text.together import answered_together, shared_questions

DAMSON = "Damson cordial\n1 kg damsons\n500 ml water\n1.250 g sugar\nSimmer for 30 minutes. Strain and bottle."
GINGER = "Ginger syrup\n\n- a good thumb of ginger\n- 500 g sugar\n- 500 g water\n- 1.500 g honey\n\nBring to the boil, steep 20 minutes, strain.\nKeeps two weeks."
OLEO = "## Bergamot oleo\nPeel 4 bergamots. Toss the peels with 300 g sugar and leave overnight."
SALINE = "Saline\n20 g salt\n80 g water"
VERJUS = "Verjus & tarragon\nVerjus......750 ml\nCaster sugar......375 g\nWarm to 60C, steep 30 min, strain."
MINT = "Mint syrup: 300 g sugar, 300 g water, 20 g mint. Warm to 60 C, strain."
MANY = [DAMSON, GINGER, OLEO, SALINE, VERJUS, MINT]


def test_recipes_written_one_after_another_are_told_apart_with_all_their_words():
    assert list(recipes_of("\n\n".join(MANY), KNOWN)) == MANY
    assert list(recipes_of("\n\n---\n\n".join(MANY[:2]), KNOWN)) == [f"{DAMSON}\n\n---", GINGER]


@pytest.mark.parametrize(
    "text",
    [
        "Grenadine\n\nFor the syrup\n500 g sugar\n500 g water\nWarm to 60 C.\n\nFor the juice\n1 l pomegranate juice\nStir in.\n\nNotes\nServe cold.",
        "Two-part cordial\n\nPeel mix\n100 g sugar\n20 g bergamot peel\n\nJuice mix\n1 kg bergamot juice\n60 g sugar\n\nMethod\nStir all together.",
        "Damson cordial\n1 kg damsons\n\nSimmer for 30 minutes.\n\nStrain and press.\n\nEnjoy with Maren\n",
        GINGER,
    ],
    ids=["sub-recipes", "parts of a list", "a closing line", "a gap in one"],
)
def test_one_recipe_in_sections_stays_one(text):
    assert recipes_of(text, KNOWN) == (text.strip(),)


def test_a_table_is_a_recipe_for_each_name():
    table = 'Recipe;Ingredient;Amount;Unit;Method\nLime cordial;lime juice;500;ml;Stir all\n;white sugar;400;g;\nGrenadine;pomegranate juice;1;l;Warm to 60 C\n;sugar;"1,000";g;'
    assert table_of(table) == (
        "Lime cordial\n\n500 ml lime juice\n400 g white sugar\n\nStir all",
        "Grenadine\n\n1 l pomegranate juice\n1,000 g sugar\n\nWarm to 60 C",
    )
    read = read_many(table, KNOWN)
    assert [part.read.body["name"] for part in read] == ["Lime cordial", "Grenadine"]
    assert table_of("Salt, to taste\n500 g sugar, white") == ()
    assert len(read_many(DAMSON, KNOWN)) == 1


def test_what_cannot_be_read_is_said_and_kept_in_its_words():
    read = read_many(f"{DAMSON}\n\nMystery cordial:\nMakes 2 l\n\n{GINGER}", KNOWN)
    assert [part.read is None for part in read] == [False, True, False]
    assert read[1].text == "Mystery cordial:\nMakes 2 l"
    assert "No ingredient" in str(read[1].refused)


def test_too_many_at_once_are_refused_in_words():
    with pytest.raises(Refusal, match="too many recipes: at most 60"):
        recipes_of("\n\n".join([MINT] * (MOST_RECIPES + 1)), KNOWN)
    with pytest.raises(Refusal, match="too long: at most 100000 letters"):
        recipes_of("x " * 50_001, KNOWN)


def test_a_question_of_one_cause_is_asked_once_and_answered_in_all():
    drafts = [part.read.body for part in read_many("\n\n".join(MANY), KNOWN)]
    before = [[doubt["code"] for doubt in draft.get("doubts", ())] for draft in drafts]
    assert "thousands" in before[0] and "thousands" in before[1]
    asked = next(question for question in shared_questions(drafts) if question.key == "thousands")
    assert asked.drafts == (0, 1)
    assert len(shared_questions(drafts)) < sum(map(len, before))
    made = answered_together(drafts, "thousands", 1)
    assert not any(doubt["code"] == "thousands" for draft in made for doubt in draft.get("doubts", ()))
    sugar, honey = (next(line for line in lines_of(draft) if "1." in line["note"]) for draft in made[:2])
    assert (sugar["amount"]["mass_g"], honey["amount"]["mass_g"]) == (1.25, 1.5)
    assert [draft["steps"] for draft in made[2:]] == [draft["steps"] for draft in drafts[2:]]
    left = answered_together(drafts, "thousands", None)
    assert [draft["steps"] for draft in left] == [draft["steps"] for draft in drafts]
    assert all(question.key != "thousands" for question in shared_questions(left))
    with pytest.raises(Refusal, match="not open any more"):
        answered_together(made, "thousands", 0)
