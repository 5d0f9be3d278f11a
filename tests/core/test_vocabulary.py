"""Words: the vocabulary in both languages, what is confused, every demo spec said, the handbook as the code writes it."""

import json
from pathlib import Path

import pytest

from tests.core.kitchen import KNOWN
from ulsek.core.base import vocabulary
from ulsek.core.base.catalogue import languages
from ulsek.core.base.messages import minutes as minutes_said
from ulsek.core.base.units import KNOWN_UNITS, parse_quantity
from ulsek.core.chemistry.substances import SUBSTANCES
from ulsek.core.operations.catalogue import VERBS
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.sentences import step_title

ROOT = Path(__file__).parents[2]


@pytest.mark.parametrize("path", sorted((ROOT / "demo" / "specs").glob("*.json")), ids=lambda path: path.stem)
def test_every_demo_spec_can_be_said_in_both_languages(path):
    data = json.loads(path.read_text(encoding="utf-8"))
    spec = read_spec(data)
    for step in spec.steps:
        for language in languages():
            said = step_title(step, {}).text(language)
            assert said
            assert "{" not in said
            assert "  " not in said


def test_the_demo_covers_every_family_and_both_heat_schools():
    specs = [json.loads(path.read_text(encoding="utf-8")) for path in (ROOT / "demo" / "specs").glob("*.json")]
    assert len(specs) >= 24
    families = {data["family"] for data in specs}
    assert families >= {
        *("syrup", "sweetener_syrup", "infused_syrup", "fruit_syrup", "oil_sugar", "cordial", "shrub", "solution", "acid_adjusted_juice"),
        *("stretched_citrus", "clarified_juice", "clarified_syrup", "freeze_concentrate", "spirit_infusion", "spirited_syrup"),
        *("soda_concentrate", "soda_syrup", "bitter_base", "sour_mix", "nut_puree", "drink"),
    }
    verbs = {step["verb"] for data in specs for step in data["steps"]}
    assert {"simmer", "reduce", "macerate", "freeze_drip", "enzyme", "egg_raft", "agar", "milk_clarify", "carbonate"} <= verbs


def test_the_vocabulary_holds_every_verb_unit_and_material_in_both_languages():
    for kind in vocabulary.KINDS:
        assert not [key for key, words in vocabulary._data()[kind].items() if not {"en", "es"} <= set(words)], kind
    assert set(vocabulary.aliases("verbs").values()) == set(VERBS)
    assert {item.key for key in KNOWN for item in vocabulary.find(key.replace("_", " "), ("materials",)) if item.key == key} == set(KNOWN)
    for unit in KNOWN_UNITS.split(", "):
        assert parse_quantity(f"3 {unit}").value > 0


@pytest.mark.parametrize(
    ("written", "kind", "key"),
    [
        ("vitamin C", "materials", "ascorbic_acid"),
        ("Ácido  málico", "materials", "malic_acid"),
        ("boil down", "verbs", "reduce"),
        ("congelar", "verbs", "freeze"),
        ("fluid ounces", "units", "fl oz"),
        ("corn syrup", "materials", "glucose_syrup_DE42"),
        ("colador fino", "gear", "fine_sieve"),
    ],
)
def test_words_are_found_by_what_people_call_them(written, kind, key):
    assert vocabulary.find(written)[0].key == key
    assert vocabulary.find(written)[0].kind == kind


def test_words_that_people_confuse_are_known():
    assert any("browning" in item.why for item in vocabulary.confused_with("citric_acid"))
    assert any("volume" in item.why for item in vocabulary.confused_with("oz"))
    assert any("not established as safe" in item.why for item in vocabulary.confused_with("cinchona_bark"))
    assert list(vocabulary.confused_with("water")) == []
    with pytest.raises(LookupError, match="“moonlight” is not in the list of materials"):
        vocabulary.word("materials", "moonlight")


def test_every_substance_has_a_mass_and_a_volume():
    for key, substance in SUBSTANCES.items():
        assert substance.molar_mass > 0, key
        assert -0.1 < substance.volume_ml_g < 1.5, key


@pytest.mark.parametrize(
    ("minutes", "words"),
    [(0, "0 min"), (20, "20 min"), (59.6, "1 h"), (90, "1 h 30 min"), (1440, "24 h"), (2880, "2 days"), (2940, "49 h"), (10080, "7 days")],
)
def test_spans_are_said_as_the_bench_says_them(minutes, words):
    assert minutes_said(minutes).text().replace("\u00a0", " ") == words
