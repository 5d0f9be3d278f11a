"""Answers besides figures that every Python must agree on, word for word: checks, advice, citrus, batches, and what is refused. Standard library only.

`inputs.json` holds what they are asked with; each kind is a function of one input, named as its list.
"""

import json
from collections.abc import Callable, Iterable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from ulsek.core.advice import corrections, juice_treatment
from ulsek.core.advice.batch_scaling import BatchSize, scaled
from ulsek.core.advice.sub_recipes import material_of, read_materials, specs_embedded
from ulsek.core.advice.what_if import knobs
from ulsek.core.base.answer import encode
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.register import scale_of
from ulsek.core.base.units import parse_quantity
from ulsek.core.citrus import plan_answer, stretched_juice, yields
from ulsek.core.citrus.cut_plan import KINDS, Fruit, Want, check, naive_plan, objective
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.oleo_saccharum import PeelJar, draw_plateau, oil_sugar
from ulsek.core.citrus.wanted import demand_of_spec, taken
from ulsek.core.evaluation.evaluate import Evaluation, evaluate
from ulsek.core.materials.blend import blended
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.properties import energy
from ulsek.core.properties.measure import DEEP, NAMES
from ulsek.core.recipe_text.capture import captured
from ulsek.core.release.allergen_carryover import carry_overs, left_on_gear
from ulsek.core.release.allergens import allergen_answer
from ulsek.core.release.release_check import release_check
from ulsek.core.results.spec_card import card
from ulsek.core.results.version_diff import compared
from ulsek.core.results.working import working
from ulsek.core.run import rehearsal
from ulsek.core.run.events.catalogue import read_event
from ulsek.core.run.fold import fold
from ulsek.core.run.run_result import run_result
from ulsek.core.run.start_times import expiry_before_ready
from ulsek.core.run.waiting import waiting_of
from ulsek.core.safety.barriers import Evidence, HotFill
from ulsek.core.safety.house_rules import read_rules, tables
from ulsek.core.safety.longer_shelf_life import ways_to_keep_longer
from ulsek.core.safety.rules_edition import edition_words
from ulsek.core.safety.shelf_life import HouseDate
from ulsek.core.spec import variants
from ulsek.core.spec.json_form import read_spec
from ulsek.core.sums.catalogue import SUMS, work_out

HERE = Path(__file__).parent
SPECS = HERE.parents[1] / "demo" / "specs"
BEGAN = datetime(2026, 3, 2, 10, 0, tzinfo=UTC)


def form(name: str) -> Any:
    return json.loads((SPECS / f"{name}.json").read_text(encoding="utf-8"))


def bench(case: dict[str, Any]) -> dict[str, Any]:
    """A spec file: one of the demo's, or one of these steps."""
    if "spec" in case:
        return dict(form(case["spec"]))
    whole = {"format": "ulsek.spec", "version": 1, "name": "Bench", "vessels": [{"id": "pot"}, {"id": "jug"}], **case.get("fields", {})}
    return {**whole, "steps": [{"id": f"s{n}", "vessel": "pot", **step} for n, step in enumerate(case["steps"])]}


def read(data: dict[str, Any], rules: Any = None) -> tuple[Any, dict[str, Any]]:
    spec = read_spec(data, strict=False)
    return spec, read_materials(typical_materials() | specs_embedded(data.get("materials") or {}, form), spec.material_keys, rules)


def evaluated(case: dict[str, Any]) -> Evaluation:
    return evaluate(*read(bench(case)))


def tried(*asked: Callable[[], Any]) -> Iterator[Any]:
    """What each gives, or the text of what it refuses."""
    for ask in asked:
        try:
            yield ask()
        except Refusal as refusal:
            yield f"{refusal.code} at {refusal.where}: {refusal.text}"


def of_bench(case: dict[str, Any]) -> Any:
    """What is said of a spec, and of the figures after its last step."""
    made = evaluated(case)
    flow, last = made.flow, made.last
    names = [f"line:{key}" for key in flow.masses] + ([*NAMES, *DEEP] if "spec" in case else [])
    steps = [] if last is None else [flow.steps[last].step.id]
    return {
        "said": release_check(made, dict.fromkeys(made.doses_g_l, (1.0, 2.0))),
        "figures": [] if last is None else made.figures[last],
        "left": made.leftovers,
        "keeping": made.keeping,
        "ends": made.end_remarks,
        "cost": made.cost,
        "knobs": knobs(made),
        "narrowing": [made.narrowing(name) for name in NAMES],
        "longer": [] if made.final is None else [*tried(lambda: ways_to_keep_longer(made.final))],
        "expiry": expiry_before_ready(made, BEGAN),
        "flag": [*tried(lambda: corrections.to_the_flag(made, 30.0, 1.2).words)],
        "working": [*tried(*(lambda step=step, name=name: working(made, step, name) for step in steps for name in names))],
    }


def of_run(case: dict[str, Any]) -> Any:
    """What a batch says after each of its events."""
    spec, materials = read(bench(case))
    materials |= read_materials(typical_materials(), ("water", "white_sugar", "honey"))
    events: list[Any] = []
    found: list[Any] = []
    for n, (minute, kind, body, *who) in enumerate(case["events"]):
        device, by = who or ("tablet", "Jonas")
        at = (BEGAN + timedelta(minutes=minute)).isoformat()
        shape = {"id": f"e{n}", "kind": kind, "at": at, "lamport": n, "device": device, "sequence": n, "by": by, "body": body}
        events.append(next(tried(lambda shape=shape: read_event(shape))))
        if isinstance(events[-1], str):
            return [*found, events[-1]]
        found += tried(lambda: _state(spec, materials, events))
    return found


def _state(spec: Any, materials: Any, events: list[Any]) -> Any:
    state = fold(spec, materials, events)
    whole = run_result(state)
    names = (
        "current",
        "deviations",
        "readings",
        "repairs",
        "repair_at_hand",
        "sample_due",
        "notes",
        "watch",
        "tastes",
        "lessons",
        "off_spec",
    )
    said = {name: getattr(whole, name) for name in (*names, "expected_ml", "asked_at_finish", "passed_over", "conflicts", "settled")}
    steps = [(step.state, step.title, [(line.planned_g, line.dose, line.so_far_g) for line in step.lines]) for step in whole.steps]
    return {**said, "steps": steps, "waiting": waiting_of(state), "score": rehearsal.score(state), "shown": rehearsal.shown(state, "seed")}


def of_rules(data: Any) -> Any:
    """What a house's rules change, and which edition that is."""
    rules, ours = read_rules(data), tables(read_rules({}))
    own = {
        f"{table}/{key}": entry
        for table, entries in tables(rules).items()
        for key, entry in entries.items()
        if ours[table].get(key) != entry
    }
    juice = {
        "steps": [{"verb": "combine", "lines": [{"id": "l", "material": "bergamot_juice", "amount": {"kind": "fixed", "mass_g": 500}}]}]
    }
    spec, materials = read(bench(juice), rules)
    return [
        own,
        rules.pressure_kpa,
        rules.leftovers["binned_takes_share"],
        edition_words(None, data),
        evaluate(spec, materials, rules=rules).keeping.reason,
    ]


def of_size(case: dict[str, Any]) -> Any:
    return scaled(*read(bench({"spec": "sea-buckthorn-cordial"})), BatchSize(**case))


def of_material(data: Any) -> Any:
    found = read_material("own", data)
    honey = read_material("honey", typical_materials()["honey"])
    both = blended("both", [(found, 300.0), (honey, 100.0), (found, 50.0)])
    return [found.measured_ranges(), found.per_gram(1.0, -1.0).grams, both.per_gram().grams, both.price_per_kg, both.allergens, found.pours]


def of_plan(case: dict[str, Any]) -> Any:
    fruits = [
        Fruit(key, key.upper(), "lime_persian", count, grams, juice, zest, peel, 1.03, price, pack, {"zest": (0.6, 1.5)})
        for key, count, grams, juice, zest, peel, price, pack in case["fruits"]
    ]
    wants = [Want(key, f"For {key}", takes, tuple(of), by, old) for key, takes, of, by, old in case["wants"]]
    check(fruits, wants)
    plan = naive_plan(fruits, wants)
    asked = plan_answer.PlanProblem(plan, plan, wants, fruits, BEGAN)
    answer = plan_answer.plan_answer(asked, kept=(), row_id=lambda: "row", offers=lambda material: (material,))
    return [answer, objective(plan, fruits)]


def of_citrus(key: str) -> Any:
    """What a citrus gives by the tables, by a record and by a sample; stretched, on sugar, cleared and concentrated."""
    fruit = variety(key)
    juice = fruit.juice
    sample = yields.FruitMeasurement(8, fruit.piece_g.value * 7, 160.0, zest_g=30.0)
    record = [0.3, 0.34, 0.31, 0.36]
    return [
        *tried(
            lambda: [yields.expected_share(fruit, record[:n], [sample][:k]).share for n in (0, 1, 4) for k in (0, 1)],
            lambda: [yields.expected_skin(w, shares, 9.0, 140.0) for w in (None, 8.0) for shares in ((), (0.1, 0.12))],
            lambda: [yields.against_record(fruit, [share] * 4, [sample]) for share in (0.1, 0.3, 0.6)],
            *(
                lambda bad=bad: yields.FruitMeasurement(**bad).checked(fruit).of_case(20)
                for bad in (
                    {"count": 0},
                    {"count": 30, "juice_ml": 900},
                    {"count": 5},
                    {"count": 5, "juice_ml": 9000},
                    {"count": 5, "weight_g": 600, "juice_ml": 590},
                    {"count": 5, "weight_g": 600, "brix": 90},
                )
            ),
            *(lambda cut=cut: yields.check_cut(*cut, 140.0) for cut in ((0, 1, 1, 1), (5, 900, 1, 1), (5, 90, 900, 1), (5, 90, 9, 10))),
            *(
                lambda times=times, school=school, peel=peel, target=target: stretched_juice.stretch(
                    fruit,
                    stretched_juice.StretchInputs(900, times, school, target, peel, 60),
                    stretched_juice.OwnFruit(None, 0.3, 4.2, 9.0),
                )
                for times, school, peel, target in (
                    (3, "rest", None, None),
                    (5, "blend", 400, 3.0),
                    (1, "rest", 1, 1),
                    (6, "rest", -1, 1),
                    (2, "rest", 1, 0.1),
                )
            ),
            *(
                lambda jar=jar: oil_sugar(fruit, jar)
                for jar in (PeelJar(120), PeelJar(90, "volume", 1.0, 30, 28, pressed=False), PeelJar(0))
            ),
            *(
                lambda draw=draw: draw_plateau(*draw)
                for draw in ((100, 72, 18, 22), (101.3, 20, 18, 22), (100, 72, 0.1, 22), (100, 72, 18, 60))
            ),
            lambda: juice_treatment.clear_ways(juice, 1400, missing=("agar",), scale_g=1),
            lambda: juice_treatment.clear_ways(juice, 0),
            lambda: juice_treatment.clear_ways(read_material("honey", typical_materials()["honey"]), 100),
            *(lambda want=want: juice_treatment.stronger_ways(juice, 1400, want) for want in (5, 24, 44, 70)),
            *(
                lambda what=what: taken(what, (key,) * (what != "wheels"), 300, None, "wants/0")
                for what in (*KINDS, "stretched", "oil_sugar", "soup")
            ),
            lambda: demand_of_spec(evaluated({"spec": "stretched-bergamot"}).flow, "Stretched", 2, "wants/0"),
            lambda: demand_of_spec(evaluated({"spec": "house-syrup"}).flow, "Syrup", 2, "wants/0"),
            *(lambda mm=mm, t=t: energy.hours_to_freeze(juice.per_gram(), mm, t) for mm, t in ((40, -18), (90, -30), (90, -5), (9, 5))),
            *(lambda mm=mm, t=t: energy.hours_to_thaw(juice.per_gram(), mm, t) for mm, t in ((40, 4), (90, 20), (90, 40))),
            lambda: [energy.learned(Range(400, 200, 800), seen) for seen in ([], [500], [500, 520, 610, 90])],
        )
    ]


EVIDENCE = (
    {"read": {"ph": 3.1}, "meter_checked": True},
    {"read": {"ph": 3.1}},
    {"read": {"brix_reading": 66.0, "water_activity": 0.8}},
    {"read": {"abv": 22.0}},
    {"read": {"ph": 44.0}},
    {"read": {"colour": 1.0}},
    {"frozen_c": -18.0},
    {"strength_by_label": True},
    {"hot_fill": HotFill("hot syrup", 90.0, 3.0), "read": {"ph": 3.2}, "meter_checked": True},
)
"""What may be shown of a product, and what may not."""
DATES = (
    ("safety", 30, "", ""),
    ("safety", 30, "Ada", "we tried"),
    ("safety", 2, "", ""),
    ("quality", 90, "Ada", "we tried"),
    ("colour", 3, "", ""),
)
"""Dates that a house sets: of what, days, by whom and why."""


def of_spec(name: str) -> Any:
    """What is said of a spec of the demo besides its figures: checked, shown, kept by evidence, compared, as a material and as a variant."""
    made, data = evaluated({"spec": name}), bench({"spec": name})
    other = bench({"spec": "sea-buckthorn-cordial"})
    changed = {**data, "steps": [{**step, "note": "x"} if n == 1 else step for n, step in enumerate(data["steps"]) if n != 2]}
    return [
        of_bench({"spec": name}),
        *tried(
            *(lambda shown=shown: made.kept(Evidence(**shown)) for shown in EVIDENCE),
            *(lambda date=date: made.kept(Evidence(), HouseDate(*date)) for date in DATES),
            lambda: material_of(made),
            *(lambda stream=stream: material_of(made, stream) for stream in [*made.flow.streams, "none"]),
            lambda: allergen_answer(made, {}, [left_on_gear(evaluated({"spec": "hazelnut-milk"}))]),
            lambda: carry_overs([evaluated({"spec": "hazelnut-milk"}), made, evaluated({"spec": "gooseberry-raft"})]),
            lambda: compared(made, evaluated({"spec": "sea-buckthorn-cordial"})),
            lambda: compared(made, evaluate(*read(changed))),
            lambda: variants.changes_of(data, changed),
            lambda: variants.inherited(other, variants.changes_of(data, changed), {"name": "Variant", "id": "v"}),
            *(lambda scale=scale: card(made, at=scale_of(scale), beside="volume") for scale in (0.1, 1.0)),
            lambda: corrections.ways(
                made,
                [{"property": "brix", "value": 40}, {"property": "acid_g_100ml", "bound": "keep"}],
                corrections.repair_materials(made.inputs.spec, dict(made.inputs.materials)),
            ),
            *(
                lambda aim=aim: corrections.ways(made, aim, [])
                for aim in ([], [3], [{"property": "ph", "value": "x"}], [{"property": "ph", "value": 99}])
            ),
            *(lambda key=key: corrections.take_addition(data, made, key, 12.5)["steps"] for key in [*made.went_in_g][:3]),
            lambda: corrections.take_addition(data, made, "water", -1),
        ),
    ]


KINDS_OF_ANSWERS: dict[str, Callable[[Any], Any]] = {
    "benches": of_bench,
    "runs": of_run,
    "house rules": of_rules,
    "captures": lambda case: captured(*case),
    "batch sizes": of_size,
    "materials": of_material,
    "amounts": lambda text: [parse_quantity(text, locale) for locale in ("metric", "us", "imperial")],
    "sums": lambda case: work_out(*case),
    "sheets": lambda name: SUMS[name],
    "plans": of_plan,
    "citrus": of_citrus,
    "specs": of_spec,
}
CITRUS = ("lime_persian", "bergamot", "kumquat")
TWELVE = (
    "birch-kumquat-sour",
    "damson-allspice-spirited",
    "gooseberry-raft",
    "hazelnut-milk",
    "kumquat-fennel-soda",
    "mallow-syrup",
    "quince-allspice-syrup",
    "saline-twenty",
    "sea-buckthorn-cordial",
    "stretched-bergamot",
    "tartaric-malic-stock",
    "white-grape-drip",
)
"""Specs of the demo, of every family once."""


def answer_cases() -> Iterable[dict[str, Any]]:
    """Every case without its result, in order."""
    inputs = json.loads((HERE / "inputs.json").read_text(encoding="utf-8"))
    inputs |= {"citrus": CITRUS, "specs": TWELVE, "sheets": tuple(SUMS)}
    return [{"kind": "answer", "name": kind, "asked": asked} for kind in KINDS_OF_ANSWERS for asked in inputs[kind]]


def answer(case: dict[str, Any]) -> Any:
    """What a case gives. Raises Refusal if it is refused."""
    return encode(KINDS_OF_ANSWERS[case["name"]](case["asked"]))
