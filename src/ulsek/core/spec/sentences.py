"""Steps and amounts as sentences, generated from the typed values."""

from __future__ import annotations

from collections.abc import Mapping
from string import Formatter

from ..base import messages as m
from ..base.figures import FIGURES, quantity
from ..base.messages import Computed, Given, Message, Value, Word, listed, message, percent, term
from ..materials.material import Material
from ..materials.supply import material_of_key
from ..materials.vessel_state import GAS, MELT, SURPLUS
from ..operations.amounts import VESSEL
from ..operations.step import NumberParam
from . import spec as s

TOOLS = ("fine scale", "scale", "refractometer", "thermometer", "pot", "heavy pot", "jar", "siphon")
"""Tools and vessels of specs that no verb has among its own."""
OPEN = "…"
"""Stands for a figure that a step leaves open."""
_FEW = 2
_STREAMS: Mapping[str, Message] = {
    GAS: message("gas"),
    MELT: message("melted ice"),
    SURPLUS: message("more than was worked out"),
}


def _held_when_drawn(spec: s.Spec, vessel: str) -> tuple[str, ...]:
    """Returns the keys of what a vessel holds when another step first draws on it."""
    now: dict[str, dict[str, None]] = {}
    for step in spec.steps:
        here = now.setdefault(step.vessel, {})
        for line in step.lines:
            if line.material == f"{VESSEL}{vessel}":
                return tuple(now.get(vessel, {}))
            drawn = now.get(line.material.removeprefix(VESSEL), {}) if line.material.startswith(VESSEL) else {line.material: None}
            here.update(drawn)
        if step.into:
            now.setdefault(step.into, {}).update(here)
            if step.verb != "split":
                now[step.vessel] = {}
    return ()


def _drawn(vessel: str, materials: Mapping[str, Material], spec: s.Spec | None) -> Value:
    """Returns what comes out of another vessel, by what that holds: "bergamot", "the mix" for more than two things, "all" if that is not known."""
    held = _held_when_drawn(spec, vessel) if spec is not None else ()
    names = list(dict.fromkeys(inside_name(key, materials, spec) for key in held))
    return listed(names) if 0 < len(names) <= _FEW else message("the mix") if names else message("all")


def vessel_name(spec: s.Spec | None, vessel: str) -> Message:
    """Returns the name of the vessel with the key `vessel`: as `spec` has it, else the key itself with spaces for underscores."""
    return term(spec.vessels[vessel].name) if spec is not None and vessel in spec.vessels else term(vessel.replace("_", " "))


def material_name(key: str, materials: Mapping[str, Material], spec: s.Spec | None = None) -> Message:
    """Returns a material's name as in a list: the house's own, in another language the vocabulary's where it is listed; a by-product's own; for another vessel
    what that holds in `spec`: "bergamot, from the bowl".
    """
    if key.startswith(VESSEL):
        vessel = key.removeprefix(VESSEL)
        return message("{what}, from the {vessel}", what=_drawn(vessel, materials, spec), vessel=vessel_name(spec, vessel))
    return _STREAMS.get(key) or m.verbatim(_word(key, materials))


def inside_name(key: str, materials: Mapping[str, Material], spec: s.Spec | None = None) -> Message:
    """Returns a material's name as inside a sentence: "malic acid" of "Malic acid, dry"; "bergamot from the bowl"."""
    if key.startswith(VESSEL):
        vessel = key.removeprefix(VESSEL)
        return message("{what} from the {vessel}", what=_drawn(vessel, materials, spec), vessel=vessel_name(spec, vessel))
    return _STREAMS.get(key) or m.verbatim(_word(key, materials, inside=True))


def _word(key: str, materials: Mapping[str, Material], *, inside: bool = False) -> Value:
    if ":" in key:
        return key.partition(":")[2].replace("_", " ")
    return Word(
        "materials",
        material_of_key(key),
        materials[key].name if key in materials else key.replace("_", " "),
        "inside" if inside else "word",
    )


def _given_param(param: NumberParam, value: float) -> Value:
    if param.unit.startswith("of its"):
        return percent(value)
    return Computed(value, param.unit, 0 if param.unit in ("°C", "mL", "g") and float(value).is_integer() else None)


def _values(step: s.Step, materials: Mapping[str, Material], spec: s.Spec | None) -> dict[str, Value]:
    """Returns what the sentence of a verb may ask for, by name."""
    found: dict[str, Value] = {"names": listed(inside_name(line.material, materials, spec) for line in step.lines)}
    found["gear"] = listed(term(item) for item in step.gear) if step.gear else message("the gear")
    found["goal"] = listed(_goal(line.amount) for line in step.lines if isinstance(line.amount, s.Target))
    for name, param in step.params().items():
        value = getattr(step, name)
        if name == "minutes":
            found[name] = m.minutes(value)
        elif isinstance(param, NumberParam) and value is not None:
            found[name] = _given_param(param, value)
        elif isinstance(value, str):
            found[name] = value
    return found


def step_title(step: s.Step, materials: Mapping[str, Material], *, first: bool = False, spec: s.Spec | None = None) -> Message:
    """Returns what to do, in one short line: the sentence of the verb. `first` is True for the first step. What comes out of another vessel has the name of its
    content in `spec`.
    """
    said = step.sentence(first=first)
    values = _values(step, materials, spec)
    has = {name for name, _ in said.values}
    wanted = dict.fromkeys(name for _, name, _, _ in Formatter().parse(said.template) if name and name not in has)
    return said.with_values(**{name: values.get(name, OPEN) for name in wanted})


def _goal(target: s.Target) -> Message:
    if target.property == "acid_g_100ml":
        return message("acid to {figure}", figure=Computed(target.value, decimals=FIGURES[target.property].decimals))
    return message("{property} to {figure}", property=term(FIGURES[target.property].name), figure=quantity(target.property, target.value))


def amount_words(line: s.Line, spec: s.Spec, materials: Mapping[str, Material]) -> Message:
    """Returns how an amount is determined: "0.62 per g of juice", "0.7 % of what the pot holds", "to 2.60 g/100 mL titratable"."""
    amount = line.amount
    if isinstance(amount, s.Fixed):
        return _fixed_words(amount, drives=line.id == spec.driver)
    if isinstance(amount, s.Ratio):
        return _ratio_words(amount, spec, materials)
    if isinstance(amount, s.State):
        return message("to cover it") if amount.state == "cover" else message("up to the line")
    if isinstance(amount, s.All):
        return message("all of it") if amount.share >= 1.0 else message("{share} of it", share=percent(amount.share))
    if isinstance(amount, s.Percent):
        home = next((step.vessel for step in spec.steps if line in step.lines), "")
        held = vessel_name(spec, home)
        return message("{percent} % {basis} of what the {vessel} holds", percent=Given(amount.percent), basis=amount.basis, vessel=held)
    goal = quantity(amount.property, amount.value)
    return message("to {goal} titratable", goal=goal) if amount.property == "acid_g_100ml" else message("to {goal}", goal=goal)


def _fixed_words(amount: s.Fixed, *, drives: bool) -> Message:
    if drives:
        return message("sets the batch")
    if amount.to_taste:
        return message("to taste")
    return message("written {text}", text=amount.written) if amount.written else message("fixed")


def _ratio_words(amount: s.Ratio, spec: s.Spec, materials: Mapping[str, Material]) -> Message:
    ratio, unit = Given(amount.ratio), "g" if amount.basis == "weight" else "mL"
    if amount.line is None:
        held = vessel_name(spec, amount.vessel or "")
        return message("{ratio} per {unit} of what the {vessel} holds", ratio=ratio, unit=unit, vessel=held)
    other = spec.lines.get(amount.line)
    if other is None:
        return message("{ratio} per {unit} of {name}", ratio=ratio, unit=unit, name=amount.line)
    called = inside_name(other.material, materials, spec)
    # English puts the thing last: "sea buckthorn juice" is juice.
    thing = called.text().rsplit(maxsplit=1)[-1]
    return message("{ratio} per {unit} of {thing}", ratio=ratio, unit=unit, thing=thing, name=called)
