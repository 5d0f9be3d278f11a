"""Drafts that can be worked out to their end: what the flow refuses is done another way, and asked about."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from ..base.refusals import Refusal
from ..evaluation.evaluate import with_own
from ..evaluation.flow import flow
from ..evaluation.flow_values import Inputs
from ..materials.material import Material
from ..operations.catalogue import VERBS
from ..spec.json_form import read_spec
from .doubts import Form

_MOST_ROUNDS = 12
"""Steps of one draft that are done another way, at most [count]."""
_LOOSE_G_ML = {"value": 0.6, "low": 0.3, "high": 1.0}
"""What a mL of a thing of unknown bulk density is taken to weigh [g]; house experience."""
_ALIKE = ("steep", "rest")
_TRACE_G = {"value": 1.0, "low": 0.1, "high": 1000.0}
"""What is taken of a liquid that should cover or fill up where enough stands there already [g]; it is asked about."""
_CUTS = ("crush", "cut", "muddle")
"""Ways that come to the same for whoever waits: nothing is asked."""
_LITTLE = 0.9
"""Share that is left by a reduction which cannot go as far as was read."""
_TIGHT_HOLD = 0.05
"""Liquid that solids hold [g per g] where the usual hold would leave nothing to run through."""


@dataclass(frozen=True, slots=True)
class Mended:
    """A step that could not be done as it was read: its position, and the refusal in words."""

    position: int
    why: str


def made_workable(draft: Form, known: Mapping[str, Any], material: Callable[[str], Material]) -> Iterator[Mended]:
    """Yields the steps that could not be computed as they were read, after each was replaced in `draft` by the nearest one that can be: a strain that holds back less, a
    simpler verb, grams for a volume without bulk density. Ends when the mass flow reaches the last step, or when no other way is left; the draft is then
    still refused by the flow, which the workbench says. Raises Refusal for a draft that is no spec file.
    """
    done: set[tuple[int, str]] = set()
    for _ in range(_MOST_ROUNDS):
        spec = read_spec(draft, strict=False)
        materials = with_own(spec, {key: material(key) for key in spec.mentioned if key in known})
        found = flow(Inputs(spec, materials), resumable=False)
        position = len(found.steps)
        if found.refusal is None or position >= len(draft["steps"]):
            return
        step = draft["steps"][position]
        cut = step["verb"] in _CUTS and found.refusal.code == "no_pieces"
        way = _another_way(step, found.refusal, done, position, lambda key: _is_loose(material(key)))
        if way is None:
            return
        done.add((position, way))
        if way in _ALIKE or cut:
            # A pulp that is to be mashed is soft already.
            continue
        yield Mended(position, found.refusal.text)


def _is_loose(material: Material) -> bool:
    """Returns True for a material whose volume says nothing of its mass."""
    try:
        material.density_g_ml()
    except Refusal:
        return True
    return False


def _uncovered(step: Form, refusal: Refusal) -> bool:
    """Sets the line that should cover or fill up, where the vessel already holds more, to an assumed amount. Returns False if the refusal is of no such line."""
    places = refusal.where.split("/")
    meant = [line for line in step.get("lines", ()) if line["id"] in places and line["amount"]["kind"] in ("state", "target")]
    for line in meant:
        line["amount"] = {"kind": "fixed", "mass_g": dict(_TRACE_G), "assumed": True}
    return bool(meant)


def _another_way(step: Form, refusal: Refusal, done: set[tuple[int, str]], position: int, loose: Callable[[str], bool]) -> str | None:
    """Changes one step; returns the name of the way, None if every way was tried."""
    if refusal.code == "no_bulk_density" and (position, "density") not in done:
        places = refusal.where.split("/")
        for line in step.get("lines", ()):
            volume = line["amount"].get("volume_ml")
            if volume is not None and (line["id"] in places or ("lines" not in places and loose(line["material"]))):
                millilitres = volume["value"] if isinstance(volume, dict) else volume
                line["amount"] = {
                    "kind": "fixed",
                    "mass_g": {key: each * millilitres for key, each in _LOOSE_G_ML.items()},
                    "assumed": True,
                }
        return "density"
    if refusal.code == "unreachable" and (position, "covered") not in done and _uncovered(step, refusal):
        return "covered"
    if step["verb"] in ("strain", "press", "filter") and (position, "hold") not in done:
        for name in ("pressed", "through"):
            step.pop(name, None)
        step["verb"] = "strain"
        step["hold_g_g"] = _TIGHT_HOLD
        return "hold"
    if "lid" in VERBS[step["verb"]].params() and step.get("lid") != "on" and step["verb"] != "reduce" and (position, "lid") not in done:
        # More steam than there is water: nothing is lost under a lid.
        step["lid"] = "on"
        return "lid"
    if step["verb"] == "reduce" and (position, "fraction") not in done:
        for name in ("to_mass_g", "to_volume_ml", "to_brix"):
            step.pop(name, None)
        step["to_fraction"] = _LITTLE
        return "fraction"
    softer = {"macerate": "steep", "infuse": "steep", "steep": "rest"}.get(step["verb"])
    if softer is not None and (softer == "steep" or not step.get("lines")) and (position, softer) not in done:
        step["verb"] = softer
        return softer
    other = "combine" if VERBS[step["verb"]].takes_lines else "rest"
    if (position, "verb") in done or step["verb"] == other:
        return None
    for name in set(step) - {"id", "vessel", "note", "lines"}:
        del step[name]
    step["verb"] = other
    return "verb"
