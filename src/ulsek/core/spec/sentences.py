"""Steps and amounts said in words, generated from the typed values."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from ..base import number_format as say
from ..base.figures import FIGURES, with_unit
from ..base.refusals import Refusal
from ..base.vocabulary import listed_word, phrase, sentence, title_pattern
from ..materials.material import Material
from ..materials.supply import material_of_key
from ..materials.vessel_state import GAS, MELT, SURPLUS
from ..operations.amounts import VESSEL
from ..operations.finish import Discard
from ..operations.heat import BringTo, Reduce
from ..operations.step import NumberParam
from . import spec as s


def listed(names: Sequence[str], language: str = "en") -> str:
    """ "a", "a and b", "a, b and c"."""
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} {sentence('and', language)} {names[-1]}" if names else ""


def short_name(name: str) -> str:
    """A material's name inside a sentence: without its form, in small letters. "Malic acid, dry" is "malic acid"."""
    return name.split(",", maxsplit=1)[0].lower()


def minutes_words(minutes: float, language: str = "en") -> str:
    """ "20 min", "3 h", "1 h 30 min", "2 days"."""
    whole = round(minutes)
    if whole >= 2880 and whole % 1440 == 0:
        return sentence("days", language).format(n=whole // 1440)
    hours, rest = divmod(whole, 60)
    if not hours:
        return say.amount(rest, "min", 0)
    return say.amount(hours, "h", 0) + (f" {say.amount(rest, 'min', 0)}" if rest else "")


def _held_when_drawn(spec: s.Spec, vessel: str) -> tuple[str, ...]:
    """What a vessel holds, by the keys of its lines, when another step first draws on it."""
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


def _from_vessel(vessel: str, materials: Mapping[str, Material], language: str, spec: s.Spec | None) -> str:
    """What comes out of another vessel, by what is in it: “bergamot, from the bowl”; “the mix, from the pot” for more than two things."""
    named = spec.vessels.get(vessel) if spec is not None else None
    place = phrase(named.name, language) if named is not None else vessel.replace("_", " ")
    held = _held_when_drawn(spec, vessel) if spec is not None else ()
    names = list(dict.fromkeys(short_name(material_name(key, materials, language)) for key in held))
    what = listed(names, language) if 0 < len(names) <= _FEW else sentence("the_mix" if names else "all", language)
    return sentence("from_vessel", language).format(what=what, name=place)


_FEW = 2


def material_name(key: str, materials: Mapping[str, Material], language: str = "en", spec: s.Spec | None = None) -> str:
    """A material's name: the house's own in English, the vocabulary's in another language where it is listed; a by-product by its own, another vessel by what
    it holds in `spec`."""
    if key.startswith(VESSEL):
        return _from_vessel(key.removeprefix(VESSEL), materials, language, spec)
    if key in (GAS, MELT, SURPLUS):
        return phrase({GAS: "gas", MELT: "melted ice", SURPLUS: "more than was worked out"}[key], language)
    if ":" in key:
        return key.partition(":")[2].replace("_", " ")
    if language != "en" and (translated := listed_word("materials", material_of_key(key), language)):
        return translated
    return materials[key].name if key in materials else key.replace("_", " ")


def _names(step: s.Step, materials: Mapping[str, Material], language: str, spec: s.Spec | None) -> str:
    names = (material_name(line.material, materials, language, spec) for line in step.lines)
    return listed(
        [name.replace(", ", " ", 1) if line.own else short_name(name) for line, name in zip(step.lines, names, strict=True)], language
    )


def _blanks(step: s.Step, materials: Mapping[str, Material], language: str, spec: s.Spec | None) -> dict[str, str]:
    """What a verb's sentence may ask for, in words."""
    found = {
        "names": _names(step, materials, language, spec),
        "gear": listed([phrase(item, language) for item in step.gear], language) or sentence("the_gear", language),
    }
    for name, param in step.params().items():
        value = getattr(step, name)
        if name == "minutes":
            found[name] = minutes_words(value, language)
        elif isinstance(param, NumberParam) and value is not None:
            places = 0 if param.unit in ("°C", "mL", "g") and float(value).is_integer() else None
            share = param.unit.startswith("of its")
            found[name] = f"{say.figure(100 * value, 0)}{say.GAP}%" if share else f"{say.figure(value, places)}{say.GAP}{param.unit}"
        elif isinstance(value, str):
            found[name] = value
    if isinstance(step, Reduce):
        found["goal"] = _reduced_to(step, language)
    return found


def _reduced_to(step: Reduce, language: str) -> str:
    try:
        name, value = step.goal
    except Refusal:
        return "…"
    if name == "to_fraction":
        return f"{sentence('to', language)} {say.figure(100 * value, 0)}{say.GAP}% {sentence('of_weight', language)}"
    return f"{sentence('to', language)} {say.amount(value, FIGURES[name.removeprefix('to_')].unit)}"


class _Blanks(dict[str, str]):
    """A sentence asks for a figure that the step leaves open: an ellipsis stands for it."""

    def __missing__(self, key: str) -> str:
        return "…"


def _pattern(step: s.Step, language: str, *, first: bool) -> str:
    """The sentence for a step: its verb's own, or a turn of it."""
    targets = [line for line in step.lines if isinstance(line.amount, s.Target)]
    if step.verb == "combine":
        turn = "stir" if not step.lines else "bring" if len(targets) == len(step.lines) else "pour" if first else "stir_in"
        return sentence(turn, language)
    if step.verb == "steep" and not step.lines:
        return sentence("leave", language)
    if isinstance(step, s.Strain) and step.through != "sieve":
        return sentence(f"strain_{step.through}", language) + (sentence("and_press", language) if step.pressed else "")
    if isinstance(step, s.Strain) and step.pressed:
        return sentence("strain_pressed", language)
    if isinstance(step, BringTo) and step.to_the_boil:
        return sentence("bring_to_the_boil", language)
    if isinstance(step, Discard) and step.empties_vessel:
        return sentence("empty_the_vessel", language)
    pattern = title_pattern(step.verb, language)
    if not step.lines:
        # Without anything going in, the sentence starts at the verb's own figures.
        pattern = re.sub(
            rf"{sentence('stir_in', language).replace('{names}', '')}\{{names\}}, (\w)", lambda found: found[1].upper(), pattern
        )
        pattern = re.sub(r" ?(of|with|from|de|con)? ?\{names\},?", "", pattern)
    return pattern


def step_title(
    step: s.Step, materials: Mapping[str, Material], *, first: bool = False, language: str = "en", spec: s.Spec | None = None
) -> str:
    """What to do, in one short line, out of the vocabulary's sentence for the verb; what comes out of another vessel is named by what that holds in `spec`."""
    blanks = _blanks(step, materials, language, spec)
    if step.verb == "combine":
        blanks["goal"] = listed([_goal(line.amount, language) for line in step.lines if isinstance(line.amount, s.Target)], language)
    return re.sub(r" +", " ", _pattern(step, language, first=first).format_map(_Blanks(blanks))).strip()


def _goal(target: s.Target, language: str) -> str:
    name = sentence("acid", language) if target.property == "acid_g_100ml" else phrase(FIGURES[target.property].name, language)
    return f"{name} {sentence('to', language)} {_figure(target)}"


def _figure(target: s.Target) -> str:
    if target.property == "acid_g_100ml":
        return say.figure(target.value, FIGURES[target.property].decimals)
    return with_unit(target.property, target.value)


def amount_words(line: s.Line, spec: s.Spec, materials: Mapping[str, Material], language: str = "en") -> str:
    """Where an amount comes from: "0.62 per g of juice", "0.7 % of the pot", "to 2.60 g/100 mL acid"."""
    amount = line.amount
    if isinstance(amount, s.Fixed):
        if line.id == spec.driver:
            return sentence("sets_batch", language)
        if amount.to_taste:
            return sentence("to_taste", language)
        return sentence("written", language).format(text=amount.written) if amount.written else sentence("fixed", language)
    if isinstance(amount, s.Ratio):
        return _ratio_words(amount, spec, materials, language)
    if isinstance(amount, s.State):
        return sentence("to_cover" if amount.state == "cover" else "to_the_line", language)
    if isinstance(amount, s.All):
        share = f"{say.figure(100 * amount.share, 0)}{say.GAP}%"
        return sentence("all_of_it", language) if amount.share >= 1.0 else sentence("share_of_it", language).format(share=share)
    if isinstance(amount, s.Percent):
        home = next((step.vessel for step in spec.steps if line in step.lines), "")
        return sentence("percent_of", language).format(
            percent=say.given(amount.percent), basis=amount.basis, name=_vessel_name(spec, home, language)
        )
    goal = with_unit(amount.property, amount.value)
    titratable = f" {sentence('titratable', language)}" if amount.property == "acid_g_100ml" else ""
    return sentence("up_to", language).format(goal=goal) + titratable


def _vessel_name(spec: s.Spec, vessel: str, language: str) -> str:
    return phrase(spec.vessels[vessel].name, language) if vessel in spec.vessels else vessel.replace("_", " ")


def _ratio_words(amount: s.Ratio, spec: s.Spec, materials: Mapping[str, Material], language: str) -> str:
    if amount.line is not None:
        other = spec.lines.get(amount.line)
        called = short_name(material_name(other.material, materials, language)) if other else amount.line
        # English puts the thing last: "sea buckthorn juice" is juice.
        name = called.rsplit(maxsplit=1)[-1] if other and language == "en" else called
    else:
        name = sentence("in_the", language).format(name=_vessel_name(spec, amount.vessel or "", language))
    return sentence("per_of", language).format(ratio=say.given(amount.ratio), unit="g" if amount.basis == "weight" else "mL", name=name)
