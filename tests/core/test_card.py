"""The spec card: right numbers at any batch, in both languages; the lead's words as written."""

import re

import pytest

from tests.core.cordial import FORM
from tests.core.kitchen import known
from ulsek.core.card import card, in_spoons, markdown, on_scale
from ulsek.core.evaluate import evaluate
from ulsek.core.refusals import Refusal
from ulsek.core.spec_file import read_spec


def made(language="en", factor=1.0, body=FORM, **how):
    spec = read_spec(body)
    evaluation = evaluate(spec, known(spec), factor=factor)
    return evaluation, card(evaluation, language, **how)


def amounts(found):
    return {line["id"]: line["amount"] for step in found["steps"] for line in step["lines"]}


@pytest.mark.parametrize(
    ("mass", "resolution", "shown"),
    [
        (618.27, 1.0, "618 g"),
        (3.962, 1.0, "3.96 g"),
        (3.962, 0.1, "3.96 g"),
        (12.34, 0.1, "12.3 g"),
        (0.004, 1.0, "0.01 g"),
        (1234.5, 5.0, "1 235 g"),
    ],
)
def test_weights_are_shown_as_the_scale_shows_them(mass, resolution, shown):
    assert on_scale(mass, resolution).replace("\u00a0", " ") == shown


@pytest.mark.parametrize(
    ("ml", "locale", "shown"),
    [
        (250, "metric", "1 cup"),
        (236.6, "us", "1 cup"),
        (150, "metric", "1/2 cup"),
        (22.5, "metric", "1 1/2 tbsp"),
        (5, "metric", "1 tsp"),
        (1, "metric", ""),
    ],
)
def test_cups_stand_beside_in_the_house_s_size(ml, locale, shown):
    assert in_spoons(ml, locale) == shown


def test_every_weight_is_the_evaluation_s_at_twice_the_batch():
    evaluation, found = made(factor=2.0)
    for key, shown in amounts(found).items():
        grams = float(re.sub(r"[^\d.]", "", shown))
        step = 1.0 if evaluation.plain.masses[key] >= 50 else 0.01
        assert grams == pytest.approx(evaluation.plain.masses[key], abs=step / 2 + 1e-9)
    assert amounts(made(factor=1.0)[1]) != amounts(found)


def test_spanish_says_the_same_numbers_with_a_comma_and_marks_what_is_written():
    english, spanish = made()[1], made("es")[1]
    for key, shown in amounts(english).items():
        assert amounts(spanish)[key] == shown.replace(".", ",")
    assert spanish["labels"]["allergens"] == "Alérgenos"
    assert spanish["steps"][0]["title"] != english["steps"][0]["title"]
    assert spanish["marks"]
    assert not english["marks"]
    notes = [step["note"] for step in english["steps"]]
    assert [step["note"] for step in spanish["steps"]] == notes, "what the lead wrote is never translated"
    assert not re.search(
        r"\b(Stir|Pour|until|days|serves|Bring)\b",
        " ".join(step["title"] + step["check"] for step in spanish["steps"]) + spanish["makes"] + spanish["keeps"],
    )


def test_volumes_stand_beside_weights_where_wanted():
    lines = [line for step in made(beside="volume")[1]["steps"] for line in step["lines"]]
    assert any(line["beside"].endswith("mL") for line in lines)
    assert all(line["beside"] == "" for step in made()[1]["steps"] for line in step["lines"])


def test_a_card_is_readable_without_ulsek():
    text = markdown(made()[1])
    assert text.startswith("# Sea buckthorn cordial\n")
    for shown in amounts(made()[1]).values():
        assert shown in text
    assert "ask your authority" in text


@pytest.mark.parametrize(
    ("how", "where"), [({"language": "tlh"}, "language"), ({"resolution_g": 0}, "resolution_g"), ({"beside": "parts"}, "beside")]
)
def test_what_a_card_cannot_be_is_refused(how, where):
    with pytest.raises(Refusal) as refused:
        made(**how)
    assert refused.value.where == where
