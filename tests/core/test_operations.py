"""Every verb on a bench, one case at least for each (`tests/core/verbs`), mass kept by each; and the pure functions behind them."""

import importlib
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.kitchen import after, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.evaluation.line_mass import to_cover_ml
from ulsek.core.operations import clarify, concentrate, extract, steam
from ulsek.core.operations.catalogue import VERBS
from ulsek.core.properties import sugar


def case_of(verb):
    """The verb's case, from the module of its name beside its operation's."""
    module = importlib.import_module(f"tests.core.verbs.{VERBS[verb].__module__.rpartition('.')[2]}")
    return getattr(module, "filter_" if verb == "filter" else verb)


@pytest.mark.parametrize("verb", VERBS)
def test_verb(verb):
    case_of(verb)()


@pytest.mark.parametrize(
    "verb",
    [
        verb
        for verb, kind in VERBS.items()
        if not kind.stays_put
        and verb
        not in (
            "wash",
            "whip",
            "combine",
            "dry_mix",
            "off_heat",
            "make_up",
            "emulsify",
            "label",
            "clean",
            "store",
            "rest",
            "discard",
            "caramelise",
            "dry_shake",
        )
    ],
)
def test_an_empty_vessel_is_refused_or_stays_empty(verb):
    try:
        done = worked({"verb": verb, **({"to_fraction": 0.5} if verb == "reduce" else {"share": 0.5} if verb == "split" else {})})
    except Refusal as refusal:
        assert refusal.where == "steps/s0", refusal.text
        assert refusal.remedy
    else:
        assert after(done).mass_g == 0.0


@given(kept=st.floats(0.02, 0.9), k=st.floats(3.0, 5.0), brix=st.floats(5.0, 30.0), cold=st.floats(-28.0, -4.0))
def test_a_drip_keeps_mass_and_never_passes_the_freezing_curve(kept, k, brix, cold):
    liquid = Contents({"water": 100.0 - brix, "sucrose": brix})
    try:
        drip, ice = concentrate.dripped(liquid, kept, k, cold)
    except Refusal as refusal:
        assert refusal.code == "more_than_there_is"
        return
    assert drip.mass_g + ice.mass_g == pytest.approx(100.0, rel=1e-12)
    brine = (100.0 - brix) * (1.0 - concentrate.ice_share(liquid, cold))
    assert sugar.brix(drip) <= 100.0 * brix / (brix + brine) + 1e-9


@given(share=st.floats(0.0, 1.0), spirit=st.floats(1.0, 90.0))
def test_an_exchange_keeps_every_substance(share, spirit):
    liquid = Contents({"water": 100.0 - spirit, "ethanol": spirit})
    piece = extract.Piece("damson", {"flesh": Contents({"water": 80.0, "glucose": 12.0, "insolubles": 8.0})}, 100.0)
    around, within = extract.exchange(liquid, piece, share)
    for key in ("water", "ethanol", "glucose", "insolubles"):
        total = liquid.of(key) + piece.contents.of(key)
        assert around.of(key) + within.contents.of(key) == pytest.approx(total, rel=1e-12, abs=1e-12)
    assert within.contents.mass_g == pytest.approx(100.0, rel=1e-12)


@given(takes=st.floats(0.0, 1.0), loss=st.floats(0.0, 0.9))
def test_fining_splits_and_keeps(takes, loss):
    liquid = Contents({"water": 90.0, "glucose": 8.0, "pectin": 0.5, "insolubles": 1.5})
    clear, lees = clarify.fined(liquid, takes, loss)
    assert clear.mass_g + lees.mass_g == pytest.approx(100.0, rel=1e-12)
    assert clear.of("insolubles") <= 1.5 * (1 - takes) + 1e-12


def test_worked_numbers_of_the_pure_functions():
    assert extract.extent(24 * 60, 24.0, 20.0) == pytest.approx(1 - math.exp(-1))
    assert extract.extent(60, 24.0, 30.0) == pytest.approx(extract.extent(120, 24.0, 20.0)), "twice as fast per 10 K"
    assert clarify.enzyme_done(50.0, 45.0, 3.5, 1.0) == pytest.approx(1 - math.exp(-1), abs=1e-6)
    assert clarify.enzyme_done(90.0, 45.0, 2.5, 1.0) < clarify.enzyme_done(90.0, 45.0, 3.0, 1.0)
    assert clarify.enzyme_done(90.0, 60.0, 3.5, 1.0) == 0.0
    assert to_cover_ml(500.0, 0.42, 0.0) == pytest.approx(1.03 * 500 / 0.58 - 500)
    assert steam.vapour(Contents({"water": 1000.0, "acetic_acid": 60.0}), 100.0, 0.65, 1.0).of("acetic_acid") == pytest.approx(
        60 * (1 - 0.9**0.65)
    )
    with pytest.raises(Refusal, match="It stands covered already"):
        to_cover_ml(100.0, 0.42, 900.0)
