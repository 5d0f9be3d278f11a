"""A bench in code for the core's tests: specs of a few steps, worked out, their mass checked."""

import pytest

from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.flow_values import AsMade
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.operations.amounts import BY_PRODUCT, VESSEL
from ulsek.core.spec.json_form import read_spec

KNOWN = typical_materials()


def known(spec):
    """A spec's materials as they ship, nobody's readings on them."""
    return read_materials(KNOWN, spec.material_keys)


def line(material, grams=None, **amount):
    given_amount = {"kind": "fixed", "mass_g": grams} if grams is not None else amount
    return {"id": material.replace(":", "-"), "material": material, "amount": given_amount}


def pour(*lines, vessel="pot"):
    return {"verb": "combine", "vessel": vessel, "lines": list(lines)}


def spec_of(*steps, capacity=None):
    """A spec of these steps; every step gets an id of its own."""
    data = {
        "format": "ulsek.spec",
        "version": 1,
        "name": "bench",
        "vessels": [{"id": "pot", **({"capacity_ml": capacity} if capacity else {})}, {"id": "jug"}],
        "steps": [{"vessel": "pot", "id": f"s{n}", **step} for n, step in enumerate(steps)],
    }
    return read_spec(data)


def worked(*steps, factor=1.0, capacity=None, **materials):
    """A spec of these steps worked out; mass is checked."""
    spec = spec_of(*steps, capacity=capacity)
    done = evaluate(spec, read_materials({**KNOWN, **materials}, spec.material_keys), AsMade(factor))
    if done.flow.refusal:
        raise done.flow.refusal
    went_in, came_out = balance_g(done.flow)
    assert came_out == pytest.approx(went_in, rel=1e-9), "mass is kept"
    return done


def after(done, step=-1):
    return done.flow.steps[step].state


def left(done, step=-1):
    return done.flow.steps[step].outgoing


def codes(done):
    return {remark.code for remark in done.remarks}


SYRUP = pour(line("water", 1000.0), line("white_sugar", 1000.0))
JUICE = pour(line("gooseberry_juice", 1000.0))
FRUIT = pour(line("bergamot", 1000.0))


def answered(answer, name):
    """One figure of a sum's answer by the name that stands beside it."""
    return next(figure.value for figure in answer.figures if figure.name.text() == name)


def balance_g(flow):
    """What came from Stores, air and ice [g], and what is in vessels, unused by-products and losses [g]: equal to 1e-9."""
    went_in = sum(added.mass_g for step in flow.steps for added in step.added if not added.material.startswith((BY_PRODUCT, VESSEL)))
    held = sum(state.mass_g for state in (*flow.vessels.values(), *flow.streams.values()))
    lost = sum(stream.contents.mass_g for step in flow.steps for stream in step.outgoing if not stream.kept)
    return went_in, held + lost
