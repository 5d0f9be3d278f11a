"""Medians, printed and not judged: `bin/test bench`. Aims: evaluate of 12 steps 2 ms plain, 30 ms with ranges; the endpoint 4 × a bare one; solve of
4 targets with 6 additions 20 ms, beside SLSQP on the same problem."""

import itertools
import json

import pytest

from tests.core.cordial import FORM, Batch, materials_of
from tests.core.recipes import CLEAN
from tests.core.test_solve import GOOSEBERRY, SHELF
from tests.site.conftest import Place
from ulsek.core.advice.aims import Aim
from ulsek.core.advice.solver import solve
from ulsek.core.base.answer import encode
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.properties.measure import measure
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.release.release_check import release_check
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.run.fold import fold
from ulsek.core.spec.json_form import read_spec

MATERIALS = [
    "sea_buckthorn_juice",
    "quince_juice",
    "bergamot_juice",
    "honey",
    "white_sugar",
    "demerara",
    "birch_tips",
    "allspice",
    "fennel_fronds",
    "maple_syrup",
]


def twelve_steps():
    """Twelve steps, twenty lines of ten doubtful materials, three losses."""
    steps = [
        {"id": "s0", "verb": "combine", "lines": [{"id": "juice", "material": MATERIALS[0], "amount": {"kind": "fixed", "mass_g": 1000}}]}
    ]
    for n in range(1, 9):
        lines = [
            {"id": f"a{n}", "material": MATERIALS[n], "amount": {"kind": "ratio", "to": {"line": "juice"}, "ratio": 0.02 * n}},
            {"id": f"b{n}", "material": MATERIALS[9 - n], "amount": {"kind": "percent", "percent": 0.8}},
        ]
        steps.append(
            {"id": f"s{n}", "verb": ["combine", "dissolve", "steep", "combine"][n % 4], "temperature_c": 60, "minutes": 10, "lines": lines}
        )
    acid = {"id": "acid", "material": "malic_acid", "amount": {"kind": "target", "property": "acid_g_100ml", "value": 4}}
    steps += [{"id": "s9", "verb": "strain"}, {"id": "s10", "verb": "combine", "lines": [acid]}, {"id": "s11", "verb": "bottle"}]
    return {**FORM, "goals": [], "steps": steps}


@pytest.fixture(scope="module")
def spec():
    return read_spec(twelve_steps())


def test_evaluate_plain(benchmark, spec):
    materials = materials_of(spec, read=False)
    done = benchmark(lambda: evaluate(spec, materials).figures)
    assert len(done) == 12


def test_evaluate_with_ranges(benchmark, spec):
    materials = materials_of(spec, read=False)
    data = benchmark(lambda: encode(evaluation_result(evaluate(spec, materials))))
    assert data["refusals"] == []


def test_fold_of_two_hundred_events(benchmark):
    """Aim 10 ms for where the batch stands."""
    spec = read_spec(FORM)
    materials = materials_of(spec)
    batch = Batch()
    batch.does("started", factor=1.0)
    for n in range(95):
        line, grams = (("juice", 1340), ("sugar", 737), ("malic", 5.6))[n % 3]
        batch.does("weighed", line=line, mass_g=grams + n / 100)
        batch.does("noted", text="stirred")
    for n in range(9):
        batch.does("read", property="brix_reading", value=41.0 + n / 50)
    assert len(batch.events) == 200
    found = benchmark(lambda: fold(spec, materials, batch.events))
    assert len(found.readings) == 9


SOLVE_AIMS = {"brix": 30.0, "acid_g_100ml": 2.6, "abv": 6.0, "volume_ml": 1800.0}


def test_solve_four_targets_six_additions(benchmark):
    aims = [Aim(name, value) for name, value in SOLVE_AIMS.items()]
    found = benchmark(lambda: solve(GOOSEBERRY, aims, SHELF))
    assert len(found.additions) == 4


def test_solve_by_slsqp(benchmark):
    """The same problem, all six additions at once, by scipy: least mass with the aims as equations."""
    from scipy.optimize import minimize

    ours = solve(GOOSEBERRY, [Aim(name, value) for name, value in SOLVE_AIMS.items()], SHELF)

    def mixed(grams):
        contents = GOOSEBERRY
        for material, mass in zip(SHELF, grams, strict=True):
            contents = contents + material.per_gram().scaled(max(0.0, float(mass)))
        return contents

    def off(grams):
        figures = measure(mixed(grams))
        return [figures[name] / value - 1.0 for name, value in SOLVE_AIMS.items()]

    found = benchmark(
        lambda: minimize(
            lambda grams: sum(grams) / 1000.0,
            [100.0] * len(SHELF),
            bounds=[(0.0, None)] * len(SHELF),
            constraints={"type": "eq", "fun": off},
            method="SLSQP",
            options={"maxiter": 200},
        )
    )
    assert found.success
    chosen = {item.material for item in ours.additions}
    only = minimize(
        lambda grams: sum(grams) / 1000.0,
        [100.0] * len(SHELF),
        bounds=[(0.0, None if material.key in chosen else 0.0) for material in SHELF],
        constraints={"type": "eq", "fun": off},
        method="SLSQP",
        options={"maxiter": 200},
    )
    assert ours.mass_g <= sum(only.x) * (1 + 1e-4), "with the same additions never more than it"
    print(f"ours {ours.mass_g:.1f} g in {len(ours.additions)}, SLSQP {sum(found.x):.1f} g in {sum(found.x > 0.01)}")


@pytest.fixture
def house(db):
    return Place()


def test_endpoint_bare(benchmark, house):
    api = house.apis["lead"]
    assert benchmark(lambda: api.get("/runs")).status_code == 200


def test_endpoint_evaluate(benchmark, house):
    """The first answer to a draft, of which the process has seen nothing before."""
    api, ids = house.apis["lead"], itertools.count()
    answer = benchmark(lambda: api.post("/evaluate", {"spec": {**twelve_steps(), "id": f"draft-{next(ids)}"}}))
    assert answer.status_code == 200


def test_endpoint_evaluate_after_an_edit(benchmark, house):
    """The same draft again with one amount of its seventh step changed: what the endpoint is asked while somebody types. Aim: three times a bare answer."""
    api, edits = house.apis["lead"], itertools.count(1)

    def edited():
        spec = twelve_steps()
        spec["steps"][6]["lines"][0]["amount"]["ratio"] += next(edits) / 10_000
        return api.post("/evaluate", {"spec": spec})

    assert benchmark(edited).status_code == 200


def test_endpoint_evaluate_seven_steps(benchmark, house):
    api, body = house.apis["lead"], json.dumps({"spec": FORM})
    answer = benchmark(lambda: api.client.post("/api/evaluate", body, content_type="application/json"))
    assert answer.status_code == 200


def test_hazards_keeping_and_release_check(benchmark, spec):
    """The three together on a spec that is already worked out. Aim 3 ms."""
    done = evaluate(spec, materials_of(spec, read=False))
    assert done.figures, "worked out before the clock starts"

    def judge():
        for name in ("hazards", "keeping"):
            done.__dict__.pop(name, None)
        return done.hazards, done.keeping, release_check(done)

    hazards, keeping, remarks = benchmark(judge)
    assert keeping and hazards and isinstance(remarks, tuple)


def test_parse_of_sixty_lines(benchmark):
    """Aim 20 ms."""
    text = "\n".join(CLEAN[name] for name in ("quince", "cordial", "shrub", "honey", "spirit", "clear"))
    assert len(text.splitlines()) >= 50
    known = typical_materials()
    found = benchmark(lambda: parse_recipe("\n".join([text, *["5 g allspice"] * (60 - len(text.splitlines()))]), known=known))
    assert len(found.draft["steps"]) > 20
