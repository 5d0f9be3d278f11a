"""The cordial that the core's tests work with, built in code so that each test can bend it."""

from copy import deepcopy
from typing import Any

from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.evaluation.evaluate import Evaluation, evaluate
from ulsek.core.materials.composition import with_readings
from ulsek.core.materials.material import Material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.run.events.catalogue import read_event
from ulsek.core.run.events.event import Event
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.spec import Spec

JUICE = "sea_buckthorn_juice"
FORM: dict[str, Any] = {
    "format": "ulsek.spec",
    "version": 1,
    "id": "cordial",
    "name": "Sea buckthorn cordial",
    "family": "cordial",
    "driver": "juice",
    "vessels": [{"id": "pot", "name": "heavy pot", "capacity_ml": 5000}],
    "goals": [{"property": "brix", "value": 40, "tolerance": 0.5}, {"property": "acid_g_100ml", "value": 2.1, "tolerance": 0.05}],
    "steps": [
        {"id": "s1", "verb": "combine", "lines": [{"id": "juice", "material": JUICE, "amount": {"kind": "fixed", "written": "1 kg"}}]},
        {
            "id": "s2",
            "verb": "combine",
            "lines": [
                {
                    "id": "sugar",
                    "material": "white_sugar",
                    "amount": {"kind": "ratio", "to": {"line": "juice"}, "basis": "weight", "ratio": 0.519},
                }
            ],
        },
        {
            "id": "s3",
            "verb": "combine",
            "lines": [{"id": "malic", "material": "malic_acid", "amount": {"kind": "target", "property": "acid_g_100ml", "value": 2.1}}],
        },
        {"id": "s4", "verb": "cool", "to_c": 4, "minutes": 45},
        {"id": "s5", "verb": "bottle", "bottle_ml": 500},
    ],
}


def form(**steps: Any) -> dict[str, Any]:
    """The file form, with whole steps replaced by id."""
    data = deepcopy(FORM)
    data["steps"] = [steps.get(step["id"], step) for step in data["steps"]]
    return data


def materials_of(spec: Spec, read: bool = True) -> dict[str, Material]:
    known = typical_materials()
    if read:
        known[JUICE]["makeup"] = with_readings(known[JUICE]["makeup"], {"brix_reading": 8.2, "acid_g_100ml": 2.4}, "read")
    return read_materials(known, (*dict.fromkeys((*spec.material_keys, "water", "white_sugar")),))


def evaluated(data: dict[str, Any] | None = None, *, read: bool = True) -> Evaluation:
    spec = read_spec(data or FORM)
    return evaluate(spec, materials_of(spec, read))


def open_form(kind: str, body: dict[str, Any], n: int = 1, device: str = "tablet", by: str = "Jonas") -> dict[str, Any]:
    """The open form of the event number `n` of a device."""
    at = f"2026-03-02T10:{n % 60:02d}:00+01:00"
    return {"id": f"e{n}", "kind": kind, "at": at, "lamport": n, "device": device, "sequence": n, "by": by, "body": body}


class Batch:
    """A run in the making: `does` adds an event and returns it."""

    def __init__(self) -> None:
        self.events: list[Event] = []

    def does(self, kind: str, **body: Any) -> Event:
        return self.adds(open_form(kind, body, len(self.events)))

    def by(self, device: str, name: str, kind: str, **body: Any) -> Event:
        """The same on another tablet, by another hand."""
        return self.adds(open_form(kind, body, len(self.events), device, name))

    def adds(self, form: dict[str, Any]) -> Event:
        event = read_event(form)
        self.events.append(event)
        return event
