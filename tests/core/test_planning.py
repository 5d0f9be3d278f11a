"""The list of a day: what is made when and by whom, checked by a validator that is seen to fail; pars, use, deliveries, and what is said."""

from dataclasses import replace
from datetime import date, datetime, time

import pytest

from tests.core.drawn_weeks import ZONE, days_from, drawn_situation
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.day_list import day_list
from ulsek.core.planning.hours import checked_absence, checked_hours, cleared_preps
from ulsek.core.planning.ordering import USUAL_TERMS, SupplierTerms, checked_terms, next_delivery, to_order
from ulsek.core.planning.pars import DayChange, Par, checked_change, checked_week, must_and_use
from ulsek.core.planning.prep_facts import HandsOn, PrepFacts
from ulsek.core.planning.schedule import schedule
from ulsek.core.planning.schedule_validator import faults
from ulsek.core.planning.situation import MaterialSupply, Situation, Supply, Window, Wish, Worker, expected_ready_min

WEDNESDAY = datetime(2026, 12, 2, 10, 0, tzinfo=ZONE)
CORDIAL = PrepFacts(
    "cordial",
    "Bergamot cordial",
    (HandsOn(0.0, 15.0), HandsOn(1080.0, 10.0)),
    0.0,
    0.0,
    5,
    500.0,
    475.0,
    2000.0,
    1.1,
    {"bergamot": 0.9},
    "tall jug",
)
STOCK = PrepFacts("stock", "Acid stock", (HandsOn(0.0, 12.0),), 0.0, 0.0, 180, 250.0, 245.0, 2700.0, 1.05, {"citric": 0.1}, "tall jug")
SOUR = PrepFacts(
    "sour", "Sour mix", (HandsOn(0.0, 20.0),), 0.0, 0.0, 3, 500.0, 475.0, 2700.0, 1.1, {"cordial": 0.5, "stock": 0.2}, "tall jug"
)


def plain(said):
    """A text with plain spaces."""
    return " ".join(str(said).split())


def in_from(days, begins, until, but=()):
    """Somebody who is in on every day from so many minutes before it opens; `but` on those days."""
    return tuple(Window(max(0.0, day.opens_min - begins), day.opens_min - until) for n, day in enumerate(days) if n not in but)


def situation(now=WEDNESDAY, **changed):
    """Three preps that use each other, two people, Friday's par alone."""
    days = days_from(now)
    friday = next(n for n, day in enumerate(days) if day.day.weekday() == 4)
    must = {key: tuple(900.0 if n == friday else 0.0 for n in range(len(days))) for key in ("cordial", "stock", "sour")}
    use = {key: tuple(0.7 * one for one in row) for key, row in must.items()}
    workers = (Worker("jonas", "Jonas", in_from(days, 480.0, 0.0)), Worker("noor", "Noor", in_from(days, 480.0, 0.0)))
    materials = {
        "bergamot": MaterialSupply("bergamot", "Bergamot, whole", 9000.0, "Calder Citrus Yard", 360.0, 1440.0, 5000.0, "28.00"),
        "citric": MaterialSupply("citric", "Citric acid", 500.0, "Meridian Dry Goods", 360.0, 1440.0, 1000.0, "9.00"),
    }
    said = {"preps": {one.key: one for one in (CORDIAL, STOCK, SOUR)}, "must": must, "use": use, "workers": workers, "materials": materials}
    return Situation(now, days, **{**said, **changed})


def test_a_large_bar_whose_parts_and_fruit_come_late_settles_and_passes_the_validator():
    for seed in (1, 4):
        drawn = drawn_situation(seed, preps=90, people=5)
        found = schedule(drawn)
        assert faults(drawn, found) == ()
        # More preps than rounds: what waits for fruit is made when that is here, and not given up.
        assert any(one.not_before == "fruit" for one in found.batches)


@pytest.mark.parametrize("part", range(4))
def test_every_drawn_week_passes_the_validator(part):
    made = 0
    for seed in range(125 * part, 125 * (part + 1)):
        drawn = drawn_situation(seed, by_the_clock=seed % 7 == 0)
        found = schedule(drawn)
        made += len(found.batches)
        assert faults(drawn, found) == (), seed
        # A list can be read of every schedule.
        assert len(day_list(drawn, found).lines) <= len(found.batches)
    assert made > 500


def test_a_batch_that_is_ready_as_the_house_opens_is_made_once_at_every_second():
    slow = replace(CORDIAL, hands=(HandsOn(0.0, 14.0), HandsOn(240.0, 6.0), HandsOn(120.0, 2.0), HandsOn(30.0, 8.0)), fits_ml=475.0)
    for second in range(0, 840, 7):
        # From 10:31 on it can be ready at 18:00 sharp, and not half an hour before.
        now = WEDNESDAY.replace(minute=31 + second // 60, second=second % 60)
        days = days_from(now)
        today_only = {"cordial": tuple(300.0 if n == 0 else 0.0 for n in range(len(days)))}
        workers = (Worker("jonas", "Jonas", in_from(days, 480.0, -60.0)), Worker("noor", "Noor", in_from(days, 480.0, -60.0)))
        made = schedule(situation(now, preps={"cordial": slow}, must=today_only, use=today_only, workers=workers))
        assert [one.key for one in made.batches] == ["cordial"] and not made.shorts, now


def changed(made, key, number=0, **what):
    """A schedule with one batch of it changed."""
    batches = tuple(replace(one, **what) if (one.key, one.number) == (key, number) else one for one in made.batches)
    assert batches != made.batches
    return replace(made, batches=batches)


def moved(batch, by):
    """The hands of a batch so many minutes later."""
    return tuple(replace(one, from_min=one.from_min + by, until_min=one.until_min + by) for one in batch.hands)


def test_the_validator_finds_every_fault():
    asked = situation()
    made = schedule(asked)
    assert faults(asked, made) == ()
    batch = {one.key: one for one in made.batches}

    def said(wrong, given=asked):
        return " ".join(str(one) for one in faults(given, wrong))

    assert "Acid stock is not in whole bottles" in said(changed(made, "stock", makes_ml=300.0))
    assert "Acid stock does not fit" in said(changed(made, "stock", bottles=12, makes_ml=12 * 245.0))
    assert "Bergamot cordial is ready before its waits are over" in said(
        changed(made, "cordial", ready_min=batch["cordial"].start_min + 60.0)
    )
    assert "Sour mix is said to keep longer than it does" in said(changed(made, "sour", past_min=batch["sour"].past_min + 1440.0))
    assert "Bergamot cordial is out of date before it is ready" in said(changed(made, "cordial", past_min=batch["cordial"].ready_min))
    assert "Sour mix begins before now" in said(changed(made, "sour", hands=moved(batch["sour"], -9000.0)))
    late = {"hands": moved(batch["sour"], 4000.0), "ready_min": batch["sour"].ready_min + 4000.0}
    assert "Sour mix is late, and nobody is told" in said(changed(made, "sour", **late))
    assert "Sour mix is short of its par, and nobody is told" in said(changed(made, "sour", **late))
    early = {"hands": moved(batch["sour"], -1500.0), "ready_min": batch["sour"].ready_min - 1500.0}
    assert "Bergamot cordial is taken before it is ready, or twice" in said(changed(made, "sour", **early))
    assert "Bergamot, whole is taken twice, or before it is here" in said(
        made, replace(asked, materials={**asked.materials, "bergamot": replace(asked.materials["bergamot"], here_g=100.0)})
    )
    assert "is made when jonas is not in" in said(made, replace(asked, workers=(Worker("jonas", "Jonas", ()), Worker("noor", "Noor", ()))))
    assert "Nobody makes" in said(made, replace(asked, workers=()))
    both = changed(made, "stock", hands=(replace(batch["sour"].hands[0], until_min=batch["sour"].hands[0].until_min),))
    assert "at once" in said(both)


def test_a_friday_need_starts_on_wednesday_or_thursday_through_rests_and_nested_preps():
    asked = situation()
    read = day_list(asked, schedule(asked))
    by = {one.key: one for one in (*read.lines, *read.later)}
    assert set(by) == {"cordial", "stock", "sour"}
    # The sour mix takes both others on Friday; the cordial rests 18 h, so that it is begun on Thursday before opening.
    assert f"{by['sour'].start_by:%A}" == "Friday"
    assert f"{by['cordial'].start_by:%A}" == "Thursday"
    assert by["cordial"].ready_at <= by["sour"].start_by
    # 900 mL must stand there and 475 of sour mix take 0.5 g of cordial each: 900 + 950 × 0.5 / 1.1 = 1 332 mL, three bottles.
    assert (by["sour"].bottles, by["cordial"].bottles) == (2, 3)
    assert [plain(one) for one in by["sour"].why][:1] == ["It takes 20 min, and must stand there on Friday 18:00."]
    assert read.missed == ()


def test_somebody_who_is_ill_moves_the_work_and_what_misses_friday_is_named_with_the_nearest_that_can():
    asked = situation()
    days = asked.days
    # Nobody but Noor from today on; the next to come in is Jonas, on Friday at noon.
    alone = replace(
        asked, workers=(Worker("noor", "Noor", (), is_away=True), Worker("jonas", "Jonas", in_from(days, 360.0, 0.0, but=(0, 1))))
    )
    read = day_list(alone, schedule(alone))
    assert faults(alone, schedule(alone)) == ()
    missed = {one.key: one for one in read.missed}
    assert "cordial" in missed
    assert (
        plain(missed["cordial"].what)
        == "Bergamot cordial: 900 mL short for Friday 18:00, because nobody is in who could make it in time; Noor is away."
    )
    assert str(missed["cordial"].nearest).startswith("The nearest that can: ready Saturday")
    assert str(read.said).endswith("miss their day · Noor is away")
    # The stock needs one pair of hands for a quarter of an hour, and is made on Friday.
    assert "stock" not in missed


def test_fruit_that_is_not_here_is_ordered_or_moves_its_batch():
    little = situation()
    little = replace(little, materials={**little.materials, "bergamot": replace(little.materials["bergamot"], here_g=100.0)})
    made = schedule(little)
    assert faults(little, made) == ()
    order = to_order(little, made)
    assert [(one.supplier, [(line.name, line.packs, str(line.price)) for line in one.lines]) for one in order] == [
        ("Calder Citrus Yard", [("Bergamot, whole", 1, "28.00")])
    ]
    assert order[0].is_today
    assert order[0].lines[0].needed_for == ("Bergamot cordial",)
    # It comes only on Friday at ten: the cordial cannot rest until then, nor can the sour mix that takes it.
    late = replace(little.materials["bergamot"], arrives_min=2880.0, order_by_min=1440.0)
    later = replace(little, materials={**little.materials, "bergamot": late})
    read = day_list(later, schedule(later))
    assert faults(later, schedule(later)) == ()
    assert {one.key: str(one.what).split(", because ")[1] for one in read.missed} == {
        "cordial": "the bergamot for it is not here.",
        "sour": "the bergamot for it is not here.",
    }


def test_on_hand_counts_only_what_is_in_date_on_the_day_that_it_is_for():
    asked = situation()
    friday = asked.days[2]
    good = replace(asked, supplies=(Supply("stock", "L0001", 2000.0, -60.0, friday.ends_min),))
    turned = replace(asked, supplies=(Supply("stock", "L0001", 2000.0, -60.0, friday.opens_min - 600.0),))
    assert "stock" not in {one.key for one in schedule(good).batches}
    assert "stock" in {one.key for one in schedule(turned).batches}
    # What turns on Thursday's end is not there on Friday.
    read = day_list(turned, schedule(turned))
    assert next(one for one in (*read.lines, *read.later) if one.key == "stock").there_ml == 0.0


def test_a_par_table_alone_works_by_the_clock_and_a_week_without_people_says_so():
    clock = situation(workers=(), by_the_clock=True)
    read = day_list(clock, schedule(clock))
    assert faults(clock, schedule(clock)) == ()
    assert read.by_the_clock
    assert {one.hands[0].name for one in (*read.lines, *read.later)} == {""}
    # Ready on the minute that Friday's sour mix is begun with it.
    cordial = next(one for one in (*read.lines, *read.later) if one.key == "cordial")
    assert cordial.ready_at <= datetime(2026, 12, 4, 17, 45, tzinfo=ZONE) and cordial.start_by > datetime(2026, 12, 3, 22, 0, tzinfo=ZONE)
    nobody = situation(workers=(Worker("jonas", "Jonas", ()),))
    missed = day_list(nobody, schedule(nobody)).missed
    assert [str(one.nearest) for one in missed if one.key == "stock"] == [
        "Nothing within a week can: see who could come in, and what could be ordered."
    ]


def test_a_day_that_has_opened_asks_for_nothing_more_but_goes_on_using():
    # Friday at half past eleven at night: of the eleven hours from six in the evening until the day turns, half are left.
    asked = situation(now=datetime(2026, 12, 4, 23, 30, tzinfo=ZONE))
    made = schedule(asked)
    assert (made.shorts, made.batches, faults(asked, made)) == ((), (), ())
    stocked = replace(asked, supplies=(Supply("stock", "L0001", 1000.0, -60.0, 20000.0),))
    met = made.demands["stock"][0]
    assert (met.at_min, met.must_ml, met.use_ml) == (0.0, 0.0, pytest.approx(0.7 * 900.0 / 2))
    assert next(one.left_ml for one in day_list(stocked, schedule(stocked)).runs_out if one.key == "stock") == 1000.0


def test_hours_and_absences_are_read_or_refused_at_their_place():
    assert checked_hours([["09:00", "18"], None, ["22:00", "02:00"], *[None] * 4]) == [
        ["09:00", "18:00"],
        None,
        ["22:00", "02:00"],
        *[None] * 4,
    ]
    for bad, where in (
        ([["10:00", "10:00"], *[None] * 6], "week/monday"),
        ([None, ["soon", "late"], *[None] * 5], "week/tuesday"),
        ([None, ["10:00"], *[None] * 5], "week/tuesday"),
    ):
        with pytest.raises(Refusal) as refused:
            checked_hours(bad)
        assert refused.value.where == where
    today = date(2026, 12, 2)
    assert checked_absence(None, None, today) == (today, today)
    for first, last in ((date(2026, 12, 1), None), (date(2026, 12, 4), date(2026, 12, 3)), (today, date(2028, 1, 1))):
        with pytest.raises(Refusal):
            checked_absence(first, last, today)


def test_a_prep_for_which_nobody_was_cleared_is_open_to_everybody():
    found = cleared_preps([(1, "stock"), (9, "sour")], ["stock", "sour", "cordial"], [1, 2])
    assert found == {1: frozenset({"stock", "cordial"}), 2: frozenset({"cordial"})}


def test_a_batch_under_way_is_ready_when_its_time_and_its_wait_are_over():
    # It takes 15 min, 18 h and 10 min.
    assert expected_ready_min(CORDIAL, -100.0, None) == 1005.0
    assert expected_ready_min(CORDIAL, -100.0, 1200.0) == 1200.0
    assert expected_ready_min(CORDIAL, -5000.0, None) == 15.0


def test_a_clearance_is_a_preference_and_no_lock():
    asked = situation()
    cleared = tuple(replace(one, cleared=frozenset({"stock", "sour", "cordial"} if one.key == "noor" else ())) for one in asked.workers)
    assert {one.hands[0].worker for one in schedule(replace(asked, workers=cleared)).batches} == {"noor"}
    only = (replace(cleared[1], windows=()), cleared[0])
    read = day_list(replace(asked, workers=only), schedule(replace(asked, workers=only)))
    assert {(one.hands[0].worker, one.is_cleared) for one in (*read.lines, *read.later)} == {("jonas", False)}


def test_a_lead_says_who_and_how_many_and_puts_something_on_or_off_the_list():
    asked = situation()
    wished = replace(asked, wishes={"stock": Wish("stock", "noor", 2, extra=True)})
    first = next(one for one in schedule(wished).batches if one.key == "stock")
    assert (first.bottles, first.hands[0].worker, first.start_min < 60.0) == (2, "noor", True)
    friday = situation(now=datetime(2026, 12, 4, 10, 0, tzinfo=ZONE))
    off = replace(friday, wishes={"stock": Wish("stock", bottles=0)})
    assert "stock" in {one.key for one in schedule(friday).batches if one.start_min < friday.days[0].ends_min}
    assert "stock" not in {one.key for one in schedule(off).batches if one.start_min < off.days[0].ends_min}
    assert "stock" in {one.key for one in schedule(off).shorts}


def test_preps_that_are_made_of_one_another_are_refused_by_name():
    round_ = {**situation().preps, "stock": replace(STOCK, needs={"sour": 0.1})}
    with pytest.raises(Refusal) as refused:
        schedule(situation(preps=round_))
    assert str(refused.value.what) == "These preps are made of one another: Sour mix, Acid stock, Sour mix"


def test_what_can_never_be_made_says_why():
    small = situation(preps={**situation().preps, "stock": replace(STOCK, fits_ml=100.0, fits_vessel="small jug")})
    turns = situation(preps={**situation().preps, "stock": replace(STOCK, turns_before_ready=True)})

    def said(asked):
        return " ".join(str(one.what) for one in day_list(asked, schedule(asked)).missed)

    assert "because not even one bottle of it fits the small jug." in said(small)
    assert "because it would be out of date by then." in said(turns)


@pytest.mark.parametrize(
    ("now", "opening", "hours"),
    [
        # Clocks go back on 25 October 2026 and forward on 28 March 2027.
        (datetime(2026, 10, 24, 10, 0, tzinfo=ZONE), datetime(2026, 10, 25, 18, 0, tzinfo=ZONE), 33),
        (datetime(2027, 3, 27, 10, 0, tzinfo=ZONE), datetime(2027, 3, 28, 18, 0, tzinfo=ZONE), 31),
    ],
)
def test_a_day_that_changes_its_clock_keeps_every_hour_of_a_rest(now, opening, hours):
    days = days_from(now)
    assert days[1].opens_min == hours * 60
    must = {"cordial": tuple(900.0 if n == 1 else 0.0 for n in range(len(days)))}
    asked = Situation(now, days, {"cordial": CORDIAL}, must, must, by_the_clock=True)
    batch = schedule(asked).batches[0]
    assert asked.at(batch.ready_min) <= opening
    assert (asked.at(batch.ready_min).timestamp() - asked.at(batch.start_min).timestamp()) / 60.0 >= 1080.0 + 25.0
    assert str(asked.when(days[1].opens_min)) == "Sunday 18:00"


def test_a_week_of_pars_refuses_what_cannot_stand_there_at_its_day():
    assert checked_week([0, 1, 2, 3, 4, 5, 6]) == (0.0, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0)
    with pytest.raises(Refusal) as refused:
        checked_week([0, 0, -5, 0, 0, 0, 0])
    assert (refused.value.where, plain(refused.value)) == (
        "must_ml/wednesday",
        "−5 mL cannot stand there: from 0 to 1 000 000 mL. Write 0 for a day on which none is needed.",
    )
    for bad in ([0] * 6, [0] * 6 + [float("nan")], [0] * 6 + [1e9]):
        with pytest.raises(Refusal):
            checked_week(bad)
    with pytest.raises(Refusal):
        checked_change(DayChange(date(2026, 12, 4), times=-1.0), date(2026, 12, 4))
    with pytest.raises(Refusal):
        checked_change(DayChange(date(2026, 12, 4)), date(2026, 12, 5))


def test_a_party_changes_the_pars_of_its_day():
    par = Par((1000.0,) * 4 + (2000.0,) * 3)
    days = [date(2026, 12, 3), date(2026, 12, 4)]
    assert must_and_use("cordial", par, days, {}) == ((1000.0, 2000.0), (700.0, 1400.0))
    party = {date(2026, 12, 4): DayChange(date(2026, 12, 4), "party of 60", 1.5)}
    assert must_and_use("cordial", par, days, party) == ((1000.0, 3000.0), (700.0, pytest.approx(2100.0)))
    named = {date(2026, 12, 4): DayChange(date(2026, 12, 4), "party of 60", 1.0, {"cordial": 5000.0})}
    assert must_and_use("cordial", par, days, named)[0] == (1000.0, 5000.0)
    closed = {date(2026, 12, 4): DayChange(date(2026, 12, 4), "closed", 0.0)}
    assert must_and_use("cordial", par, days, closed) == ((1000.0, 0.0), (700.0, 0.0))


@pytest.mark.parametrize(
    ("now", "order_by", "arrives"),
    [
        (datetime(2026, 12, 2, 15, 59, tzinfo=ZONE), datetime(2026, 12, 2, 16, 0, tzinfo=ZONE), datetime(2026, 12, 3, 10, 0, tzinfo=ZONE)),
        (datetime(2026, 12, 2, 16, 1, tzinfo=ZONE), datetime(2026, 12, 3, 16, 0, tzinfo=ZONE), datetime(2026, 12, 4, 10, 0, tzinfo=ZONE)),
        # Saturday evening: nothing on Sunday, ordered on Sunday for Monday.
        (datetime(2026, 12, 5, 18, 0, tzinfo=ZONE), datetime(2026, 12, 6, 16, 0, tzinfo=ZONE), datetime(2026, 12, 7, 10, 0, tzinfo=ZONE)),
    ],
)
def test_the_next_delivery_is_the_first_that_can_still_be_ordered(now, order_by, arrives):
    assert next_delivery(USUAL_TERMS, now) == (order_by, arrives)


def test_a_supplier_who_comes_on_no_day_is_refused():
    for weekdays, lead in (((), 1), ((7,), 1), ((1, 1), 1), ((1,), 15), ((1,), -1)):
        with pytest.raises(Refusal):
            checked_terms(SupplierTerms(weekdays, time(16), lead, time(10)))
