"""The rules of a house as a sheet: every figure that may be set is on it, and what is changed there is what is judged by."""

import pytest

from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.house_rules import TABLES, read_rules, shipped, tables
from ulsek.core.safety.rule_sheet import rule_sheet, with_rule

JUICE = {"days": 2, "source": "house", "dated": "2026-12-01"}


def row(sheet, table, key):
    return next(item for item in next(found for found in sheet.tables if found.key == table).rows if item.key == key)


def test_every_figure_that_a_house_may_set_is_on_the_sheet_with_its_words_and_source():
    ships = tables(shipped())
    for table in rule_sheet({}).tables:
        settable = {
            (key, name)
            for key, rule in ships[table.key].items()
            for name in TABLES[table.key].looser_up
            if isinstance(rule.get(name), int | float)
        }
        assert {(item.key, figure.name) for item in table.rows for figure in item.figures} == settable
        for item in table.rows:
            assert item.words, item.key
            assert item.source, item.key
            assert not item.own
            assert all(figure.value == figure.ships and figure.label.text() for figure in item.figures)


def test_a_rule_of_the_house_stands_beside_what_ships_and_goes_again():
    own = with_rule({"place": "EU"}, "classes", "fresh_juice", JUICE)
    assert own == {"format": "ulsek.rules", "version": 1, "place": "EU", "classes": {"fresh_juice": JUICE}}
    changed = row(rule_sheet(own), "classes", "fresh_juice")
    assert (changed.own, changed.figures[0].value, changed.figures[0].ships, changed.source) == (True, 2, 3, "house")
    assert read_rules(own).keeping["classes"]["fresh_juice"]["days"] == 2
    more = with_rule(own, "limits", "quinine", {"per_litre_mg": 50, "source": "house", "dated": "2026-12-01"})
    back = with_rule(more, "classes", "fresh_juice", None)
    assert (set(back), back["limits"]) == ({"format", "version", "place", "limits"}, more["limits"])
    assert not row(rule_sheet(back), "classes", "fresh_juice").own


@pytest.mark.parametrize(
    ("table", "key", "entry", "where"),
    [
        ("classes", "fresh_juice", {"days": 9}, "classes/fresh_juice/authority"),
        ("quality", "opened gas does not stay", {"days": 3}, "quality/opened gas does not stay/by"),
        ("classes", "no_such", {"days": 1}, "classes/no_such"),
        ("limits", "caffeine", {"per_litre_mg": 5}, "limits/caffeine/per_litre_mg"),
    ],
)
def test_what_a_house_may_not_set_is_refused_at_its_place(table, key, entry, where):
    own = with_rule({}, table, key, {**entry, "source": "house", "dated": "2026-12-01"})
    with pytest.raises(Refusal) as refused:
        rule_sheet(own)
    assert refused.value.where == where


HOT = {"fill_c": 88, "hold_min": 3, "most_ph": 4.0, "days": 30, "cap": "metal", "glass": "made for heat", "authority": "letter"}


def test_a_procedure_of_hot_filling_and_a_handful_are_told_beside_the_figures():
    assert rule_sheet({}).procedures == ()
    own = with_rule({}, "procedures", "hot cordial", {**HOT, "source": "our authority", "dated": "2026-12-01"})
    (kept,) = rule_sheet(own).procedures
    assert (kept.name, kept.fill_c, kept.hold_min, kept.most_ph, kept.days, kept.cap) == ("hot cordial", 88, 3, 4.0, 30, "metal")
    mine = with_rule(own, "words", "handful", {"unit": "g", "value": 18, "low": 12, "high": 24})
    words = {word.key: word for word in rule_sheet(mine).words}
    assert (words["handful"].value, words["handful"].own, words["pinch"].own) == (18, True, False)
    assert rule_sheet(with_rule(with_rule(mine, "words", "handful", None), "procedures", "hot cordial", None)) == rule_sheet({})
    with pytest.raises(Refusal) as refused:
        rule_sheet(with_rule({}, "procedures", "hot cordial", {**HOT, "fill_c": 60, "source": "x", "dated": "2026-12-01"}))
    assert refused.value.where == "procedures/hot cordial/fill_c"
