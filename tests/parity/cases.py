"""Cases that every Python must agree on: what is computed, made the same way in CPython and in the browser. Standard library only.

`python -m tests.parity.cases` writes `cases.json` anew from CPython; `differences` computes every case again and compares: 1e-9 relative, and every
digit that a screen would show.
"""

import json
import math
import random
import sys
from pathlib import Path
from typing import Any

from tests.parity.answers import answer, answer_cases
from ulsek.core.advice.aims import Aim
from ulsek.core.advice.solver import solve
from ulsek.core.advice.sub_recipes import read_materials, specs_embedded
from ulsek.core.base import number_format
from ulsek.core.base.answer import encode
from ulsek.core.base.figures import FIGURES, quantity
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.properties import alcohol, carbonation, density, energy, solubility, sugar, water
from ulsek.core.properties.measure import NAMES, PROPERTY, measure
from ulsek.core.properties.ph import ph_of
from ulsek.core.recipe_text.open_forms import as_recipe
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.results.quiz import questions
from ulsek.core.results.spec_card import card
from ulsek.core.run.events.catalogue import read_event
from ulsek.core.run.fold import fold
from ulsek.core.run.run_result import run_result
from ulsek.core.spec.json_form import read_spec
from ulsek.core.sums.catalogue import work_out

HERE = Path(__file__).parent
SPECS = HERE.parents[1] / "demo" / "specs"
SUBSTANCES = (
    "sucrose",
    "glucose",
    "fructose",
    "citric_acid",
    "malic_acid",
    "tartaric_acid",
    "potassium",
    "ethanol",
    "sodium_chloride",
    "pectin",
    "glycerol",
    "erythritol",
    "xylitol",
    "allulose",
    "glucose_syrup_solids",
    "phosphoric_acid",
    "lactic_acid",
)
FUNCTIONS = {
    "sucrose_density": density.sucrose_density,
    "ethanol_water_density": alcohol.ethanol_water_density,
    "mass_fraction_from_abv": alcohol.mass_fraction_from_abv,
    "corrected_to_20": sugar.corrected_to_20,
    "saturation_pressure_kpa": water.saturation_pressure_kpa,
    "bitartrate_solubility_g_100g": solubility.bitartrate_solubility_g_100g,
    "henry_mpa": carbonation.henry_mpa,
    "latent_heat_j_g": energy.latent_heat_j_g,
}

SUM_FIGURES = (
    *(("acid_solution", {"strength": s, "volume": v, "malic": m}) for s in (3, 6, 28) for v in (100, 750) for m in (0, 1)),
    *(("acid_dose", {"volume": v, "have": h, "want": h + 0.7, "solution": 22}) for v in (60, 1000) for h in (0, 0.5, 2.5)),
    *(("acid_dose", {"volume": v, "want": 1.3, "solution": 30, "mode": "grams", "rule": 3.1}) for v in (75, 640)),
    *(
        ("balance", {"volume": 870, "sugar": 41, "acid": 1.7, "strength": k, "by": 18, "wrong": w})
        for k in (0, 19)
        for w in ("too sweet", "too sharp", "too strong", "too weak")
    ),
    *(
        ("drink", {"spirit": 45, "strength": 42, "syrup": 20, "brix": 61, "juice": 22, "of": "yuzu_juice", "ice": k, "want_sugar": 15})
        for k in ("none", "built", "stirred", "shaken", "blended")
    ),
    ("serve_cost", {"cost": 17.35, "volume": 1420, "serve": 22.5}),
    *(("drip", {"mass": 1340, "have": h, "want": 28, "steep": k}) for h in (9.5, 14) for k in (3.2, 4.4)),
    *(("enzyme_dose", {"mass": 730, "temperature": t, "ph": h}) for t in (8, 22, 47) for h in (2.4, 3.3)),
    ("ascorbic_dose", {"mass": 1510, "per_litre": 0.8, "temperature": 7}),
    ("ph_reading", {"shown": 2.87, "low": 3.95, "high": 6.88, "sugar": 44}),
    *(("carbonate", {"pressure": p, "temperature": 3, "brix": 8, "strength": k}) for p in (120, 310) for k in (0, 11)),
    (
        "blend",
        {"first": "yuzu_juice", "second": "water", "total": 820, "want": 2.1, "figure": "acid_g_100ml", "third": "demerara", "third_g": 90},
    ),
    *(
        ("same_as_citrus", {"citrus": c, "serve": 22.5, "solution": 28, "mode": m})
        for c in ("lemon_juice", "bergamot_juice")
        for m in ("grams", "concentration")
    ),
    *(("mimic", {"citrus": c, "volume": 500}) for c in ("yuzu_juice", "kumquat_juice", "verjus_juice")),
    *(("swap_acid", {"grams": 12.5, "have": "citric_acid", "want": w}) for w in ("malic_acid", "lactic_acid", "phosphoric_acid")),
    ("titration", {"burette": 31.7, "acid": "tartaric_acid"}),
    *(("sugar_to_target", {"mass": 840, "have": 9.3, "want": w}) for w in (22, 50, 66)),
    *(("dilute", {"mass": 840, "have": 66.4, "want": w}) for w in (12, 50)),
    *(("blend", {"first": "honey", "second": "quince_juice", "total": 700, "want": w}) for w in (30, 55)),
    *(
        ("swap_sugar", {"grams": 130, "have": "demerara", "want": w, "match": m})
        for w in ("honey", "fructose")
        for m in ("sweetness", "solids")
    ),
    *(("swap_syrup", {"dose": 20, "have": 50, "want": w}) for w in (40, 66)),
    ("cut_infusion", {"mass": 1340, "too_strong": 18, "brix": 48.5}),
    *(("spirit_strength", {"volume": 700, "have": h, "want": 22}) for h in (40, 57.5, 96)),
    ("swap_vinegar", {"amount": 130, "have": 6, "want": 5}),
    *(
        ("cups_to_grams", {"amount": 1.5, "unit": u, "locale": k, "material": "icing_sugar"})
        for u in ("cup", "tsp")
        for k in ("us", "metric")
    ),
    ("grams_by_drop", {"salt": 0.07}),
    *(("reading", {"shown": b, "at": t, "acid": 2.4}) for b in (8.2, 50) for t in (12, 31)),
    ("concentrate_chain", {"oil": 5, "concentrate": 110, "into_syrup": 7, "syrup": 1290, "dose": 36, "drink": 221}),
    ("siphon", {"fill": 870, "brix": 11}),
    ("reduction", {"mass": 2000, "have": 15.5, "want": 40}),
    *(
        ("acid_to_target", {"liquid": of, "volume": 870, "want": 5.3, "citric": 2, "malic": m})
        for of in ("pear_juice", "water")
        for m in (0, 1)
    ),
    *(("rule_of_thumb", {"rule": r, "volume": 60, "want": 0.7, "solution": 26}) for r in ("1 mL per fl oz and point", "4 drops per 30 ml")),
    *(("syrup_for_sugar", {"sugar": s, "syrup": b}) for s in (12.5, 40) for b in (50, 66.7)),
    *(("specific_gravity", {"gravity": g}) for g in (1.004, 1.0525, 1.29, 1.6)),
    ("thaw_recovery", {"juice": 12.4, "drip": 23.1, "mass": 1340, "caught": 510}),
    *(("cups_to_grams", {"amount": 2, "unit": "cup", "locale": "us", "material": m}) for m in ("blueberry", "mint", "cream_of_tartar")),
)


def _line(key: str, grams: float | None = None, **amount: Any) -> dict[str, Any]:
    return {"id": f"l.{key}", "material": key, "amount": {"kind": "fixed", "mass_g": grams} if grams is not None else amount}


def _stewed(fruit: str, minutes: float, **strain: Any) -> list[dict[str, Any]]:
    pot = [_line(fruit, 740), _line("water", 390), _line("white_sugar", 310)]
    return [{"verb": "combine", "lines": pot}, {"verb": "simmer", "minutes": minutes}, {"verb": "strain", **strain}]


BENCHES: tuple[list[dict[str, Any]], ...] = (
    *(_stewed(fruit, m, through=t) for fruit in ("gooseberries", "quince", "damson") for m in (7, 35) for t in ("sieve", "cloth")),
    [
        {"verb": "macerate", "minutes": 700, "lines": [_line("bergamot_peel", 130), _line("white_sugar", 190)]},
        {"verb": "strain", "pressed": True},
    ],
    [
        {"verb": "combine", "lines": [_line("water", 410), _line("white_sugar", 640), _line("citric_acid", 2.3)]},
        {"verb": "invert", "minutes": 40},
    ],
    [
        {"verb": "combine", "lines": [_line("neutral_spirit_40", 2900), _line("dry_vermouth", 700)]},
        {"verb": "dilute_ahead", "lines": [_line("water", kind="percent", percent=31, basis="w/w")]},
        {"verb": "bottle_ahead"},
        {"verb": "pour_ahead"},
    ],
    [
        {"verb": "combine", "lines": [_line("pear_juice", 1100)]},
        {
            "verb": "combine",
            "lines": [
                _line("citric_acid", kind="target", property="acid_g_100ml", value=4.7),
                _line("malic_acid", kind="ratio", to={"line": "l.citric_acid"}, ratio=0.5),
            ],
        },
    ],
    [
        {"verb": "combine", "lines": [_line("blueberry", kind="fixed", volume_ml=473), _line("water", 300)]},
        {"verb": "hold", "temperature_c": 99},
    ],
)

RUN = "sea-buckthorn-cordial"
PASTED = """Quince syrup
2 1/2 cups quince juice (600 g)
32 oz white sugar
a pinch of salt or two
Simmer quince juice and white sugar 20 min on low heat.
Leave overnight. Bottle."""


def _mixtures(chance: random.Random) -> list[dict[str, float]]:
    mixes = []
    for _ in range(36):
        grams = {"water": round(chance.uniform(40, 95), 3)}
        for key in chance.sample(SUBSTANCES, 4):
            most = {"potassium": 0.4, "sodium_chloride": 2.0, "pectin": 0.8}.get(key, 6.0 if key.endswith("acid") else 30.0)
            grams[key] = round(chance.uniform(0.05, 1.0) * most, 3)
        mixes.append(grams)
    return mixes


def cases() -> list[dict[str, Any]]:
    """Every case without its result; the same list each time."""
    chance = random.Random(1713)
    found: list[dict[str, Any]] = []
    for grams in _mixtures(chance):
        found += [{"kind": "figure", "name": name, "grams": grams} for name in (*NAMES, *PROPERTY) if name in PROPERTY or name in NAMES]
    for _ in range(40):
        acids = {
            key: round(chance.uniform(0.002, 0.3), 5)
            for key in chance.sample(("citric_acid", "malic_acid", "tartaric_acid", "acetic_acid"), 2)
        }
        found.append({"kind": "ph", "acids": acids, "cation": round(chance.uniform(0, 0.1), 4)})
    grids = {
        "sucrose_density": [(b / 100, t) for b in (0, 12.5, 33, 50, 66.7) for t in (5, 20, 61)],
        "ethanol_water_density": [(p, t) for p in (0.05, 0.333, 0.8) for t in (0, 20, 37)],
        "mass_fraction_from_abv": [(abv,) for abv in (0.5, 12, 40, 57.5, 96)],
        "corrected_to_20": [(b, t) for b in (2, 12, 50, 65) for t in (11, 25.5, 38)],
        "saturation_pressure_kpa": [(t,) for t in (0.5, 37, 99, 121)],
        "bitartrate_solubility_g_100g": [(t, a) for t in (1, 12, 33) for a in (0, 12)],
        "henry_mpa": [(t,) for t in (0, 4, 22)],
        "latent_heat_j_g": [(t,) for t in (0, 60, 100)],
    }
    found += [{"kind": "function", "name": name, "args": list(args)} for name, grid in grids.items() for args in grid]
    found += [{"kind": "sum", "name": name, "figures": figures} for name, figures in SUM_FIGURES]
    found += [{"kind": "bench", "steps": steps} for steps in BENCHES]
    found += [*_solves(chance), *_runs(chance), {"kind": "parse", "text": PASTED}]
    found += [{"kind": kind, "spec": path.stem} for kind in ("evaluate", "card") for path in sorted(SPECS.glob("*.json"))]
    return [*found, *answer_cases()]


def _solves(chance: random.Random) -> list[dict[str, Any]]:
    """Juice, sugar, acid and spirit of some strength, and where they are to come: some can be reached, some cannot."""
    found = []
    for _ in range(24):
        grams = {"water": 800, "sucrose": chance.randint(20, 300), "citric_acid": chance.randint(2, 40), "ethanol": chance.choice((0, 60))}
        aims = {"brix": chance.randint(20, 60), "acid_g_100ml": round(chance.uniform(0.5, 4.0), 2)}
        if chance.random() < 0.3:
            aims["volume_ml"] = chance.randint(900, 2500)
        found.append({"kind": "solve", "grams": grams, "aims": aims})
    return found


def _runs(chance: random.Random) -> list[dict[str, Any]]:
    """Batches of the demo's sea buckthorn cordial, half made, with slips."""
    lines = list(read_spec(_load(RUN)).lines)
    found = []
    for _ in range(12):
        weighed = [
            ("weighed", {"line": line, "mass_g": round(chance.uniform(5, 1500), 1)}) for line in lines[: chance.randint(1, len(lines))]
        ]
        read = [("read", {"property": "brix_reading", "value": round(chance.uniform(20, 55), 1)})]
        found.append({"kind": "run", "events": [("started", {"factor": 1.0}), *weighed, *read]})
    return found


def _state(case: dict[str, Any]) -> Any:
    data = _load(RUN)
    spec = read_spec(data)
    known = typical_materials() | specs_embedded(data.get("materials") or {}, _load)
    events = [
        read_event(
            {"id": f"e{n}", "kind": kind, "at": "2026-03-02T10:00:00+01:00", "lamport": n, "device": "tablet", "sequence": n, "body": body}
        )
        for n, (kind, body) in enumerate(case["events"])
    ]
    state = run_result(fold(spec, read_materials(known, (*spec.material_keys, "water")), events))
    return {name: getattr(state, name) for name in ("factor", "current", "deviations", "readings", "repairs", "notes")}


def _load(name: str) -> Any:
    return json.loads((SPECS / f"{name}.json").read_text(encoding="utf-8"))


def _flat(data: Any, at: str = "") -> dict[str, Any]:
    """Every number and text of a result by its path."""
    if isinstance(data, dict):
        return {path: value for key, item in data.items() for path, value in _flat(item, f"{at}/{key}").items()}
    if isinstance(data, list | tuple):
        return {path: value for n, item in enumerate(data) for path, value in _flat(item, f"{at}/{n}").items()}
    return {at: data}


def result(case: dict[str, Any]) -> Any:
    """What a case gives: a number, a flat result, or the refusal's text."""
    try:
        if case["kind"] == "answer":
            return _flat(answer(case))
        if case["kind"] == "figure":
            contents = Contents(case["grams"])
            return measure(contents)[case["name"]] if case["name"] in NAMES else PROPERTY[case["name"]](contents)
        if case["kind"] == "ph":
            return ph_of(case["acids"], case["cation"])
        if case["kind"] == "function":
            return FUNCTIONS[case["name"]](*case["args"])
        if case["kind"] == "sum":
            return _flat(encode(work_out(case["name"], case["figures"])))
        if case["kind"] == "bench":
            steps = [{"id": f"s{n}", "vessel": "pot", **step} for n, step in enumerate(case["steps"])]
            bench = read_spec({"format": "ulsek.spec", "version": 1, "name": "bench", "vessels": [{"id": "pot"}], "steps": steps})
            return _flat(encode(evaluation_result(evaluate(bench, read_materials(typical_materials(), bench.material_keys)), deep=True)))
        if case["kind"] == "solve":
            offered = read_materials(typical_materials(), ("water", "white_sugar", "citric_acid"))
            aims = [Aim(name, value) for name, value in case["aims"].items()]
            solved = solve(Contents(case["grams"]), aims, list(offered.values()))
            return _flat(encode({"words": solved.words, "grams": {item.material: item.mass_g for item in solved.additions}}))
        if case["kind"] == "run":
            return _flat(encode(_state(case)))
        if case["kind"] == "parse":
            return _flat(encode(parse_recipe(case["text"])))
        data = _load(case["spec"])
        spec = read_spec(data)
        known = typical_materials() | specs_embedded(data.get("materials") or {}, _load)
        evaluation = evaluate(spec, read_materials(known, spec.material_keys))
        if case["kind"] == "card":
            shown = questions(evaluation)
            return _flat(encode({"card": card(evaluation, "es", beside="cups"), "questions": shown, "recipe": as_recipe(evaluation)}))
        return _flat(encode(evaluation_result(evaluation, deep=True)))
    except Refusal as refusal:
        return refusal.text


def _decimals(path: str) -> int | None:
    """Decimals of the figure that a path ends in; None if it ends in none."""
    name = next((part for part in reversed(path.split("/")) if part in FIGURES), None)
    return FIGURES[name].decimals if name else None


def _shown(path: str, value: float) -> str:
    """The digits that a screen would show of a number."""
    return number_format.figure(value, _decimals(path))


def _differs(path: str, was: Any, now: Any) -> bool:
    if isinstance(was, float) and isinstance(now, float) and not isinstance(was, bool):
        return not math.isclose(was, now, rel_tol=1e-9, abs_tol=1e-12) or _shown(path, was) != _shown(path, now)
    return was != now


def differences() -> tuple[int, list[str]]:
    """(how many cases were computed, what differs from the written results, in words)."""
    written = json.loads((HERE / "cases.json").read_text(encoding="utf-8"))
    wrong = []
    for case in written:
        was, now = _flat(case["result"]), _flat(json.loads(json.dumps(result(case["case"]))))
        name = case["case"].get("name") or case["case"].get("spec") or case["case"]["kind"]
        wrong += [
            f"{name}{path}: {was.get(path)} became {now.get(path)}"
            for path in sorted(set(was) | set(now))
            if _differs(f"{name}{path}", was.get(path), now.get(path))
        ]
    return len(written), wrong


TIES = (
    0.5,
    1.5,
    2.5,
    112.5,
    -112.5,
    0.125,
    -0.125,
    0.375,
    12.25,
    9.995,
    99.95,
    1234567.5,
    2.675,
    0.004,
    0.005,
    -0.001,
    0.0,
    1e15,
    math.inf,
    -math.inf,
    math.nan,
)
"""Where formats of numbers differ: exact halves, the limits between decimals, thousands, what prints as nothing, what is not finite."""


def printed() -> list[tuple[str, float, str]]:
    """(figure's key or "", value, its text) of every number in the corpus and of `TIES`, as the core prints it, with the unit where it has one."""
    written = json.loads((HERE / "cases.json").read_text(encoding="utf-8"))
    found = {("", value) for value in TIES} | {(key, value) for key in FIGURES for value in TIES}
    for case in written:
        for path, value in _flat(case["result"]).items():
            if isinstance(value, float):
                name = case["case"].get("name", "")
                key = next((part for part in (*reversed(path.split("/")), name) if part in FIGURES), "")
                found.add((key, value))
    return [(key, value, quantity(key, value).text() if key else number_format.figure(value)) for key, value in found]


def main() -> None:
    rows = [json.dumps({"case": case, "result": result(case)}, ensure_ascii=False) for case in cases()]
    (HERE / "cases.json").write_text("[\n" + ",\n".join(rows) + "\n]\n", encoding="utf-8")
    print(f"Wrote {len(rows)} cases.")


if __name__ == "__main__":
    sys.exit(main())
