"""Working: how a number came about. Formula in words, the numbers put in, the source, and where its doubt comes from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..base import number_format as say
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, CATIONS, SUBSTANCES, SUGARS
from ..evaluation.evaluate import Evaluation
from ..properties.acidity import titratable_g
from ..properties.measure import DEEP, MODEL_DOUBT
from ..spec import spec as s
from ..spec.sentences import amount_words, material_name

_DENSITY = "volumes at 20 °C: ICUMSA SPS-4 (1998) for sugar and water, OIML R 22 for alcohol, apparent volumes for acids"


@dataclass(frozen=True, slots=True)
class Working:
    """The sheet behind one number. `inputs` are (name, value, unit) in the order of the formula."""

    name: str
    value: str
    spread: str
    formula: str
    inputs: tuple[tuple[str, str, str], ...]
    source: str
    doubt: str = ""

    def as_data(self) -> dict[str, Any]:
        inputs = [{"name": name, "value": value, "unit": unit} for name, value, unit in self.inputs]
        return {
            "name": self.name,
            "value": self.value,
            "spread": self.spread,
            "formula": self.formula,
            "inputs": inputs,
            "source": self.source,
            "doubt": self.doubt,
        }


_FORMULA = {
    "mass_g": ("everything that went in, less everything that left", "mass balance"),
    "volume_ml": ("water with the sugars by their density, plus grams of each acid and salt times the room it takes", _DENSITY),
    "density_g_ml": ("weight of the liquid divided by its volume", _DENSITY),
    "brix": ("dissolved solids other than alcohol, divided by the weight of the liquid, times 100", "definition of °Bx, mass balance"),
    "brix_reading": (
        "true °Bx less what acid makes the refractometer miss (0.012 + 0.193 A − 0.0004 A², A in % acid)",
        "correction of the citrus juice trade",
    ),
    "sugar_g_100ml": ("grams of all sugars divided by the volume, times 100", f"definition; {_DENSITY}"),
    "acid_g_100ml": (
        "protons of every acid up to pH 8.2, less those potassium has taken, as citric acid (64.041 g each), divided by the volume, times 100",
        f"definition; {_DENSITY}",
    ),
    "ph": (
        "the acidity at which all charges come out even: what each acid gives off against what potassium and sodium have taken, activities after Davies",
        "electroneutrality; Davies 1962; constants at 25 °C. A meter shows less in thick syrup. Never a measure of sourness",
    ),
    "water_activity": (
        "the product of what each dissolved thing would leave alone in all the water",
        "Ross 1975; Norrish 1966; Starzak and Peacock 1997; Pitzer and Mayorga 1973 for salt",
    ),
    "freezing_c": ("where the liquid holds its water as hard as ice does", "Murphy and Koop 2005; water activity at that temperature"),
    "boiling_c": ("where the vapour pressures of water and alcohol add up to the air's", "Wagner and Pruss 2002; van Laar for alcohol"),
    "viscosity_mpa_s": ("taken as sucrose of equal °Bx at 20 °C; gum, pectin and pulp thicken more", "Génotelle 1978; Swindells 1958"),
    "sweetness_g_100ml": ("grams of each sugar times how sweet it is against white sugar, by volume", "compiled relative sweetness"),
    "acid_g_100g": ("titratable acid, as citric, divided by the weight of the liquid, times 100", "definition"),
    "abw": ("grams of ethanol divided by the weight of the liquid, times 100", "definition"),
    "carbonation_g_l": ("grams of carbon dioxide divided by the volume in litres", "definition"),
    "abv": ("millilitres of ethanol divided by the volume, times 100", "definition; OIML R 22, contraction counted"),
}


def working(evaluation: Evaluation, step: str, name: str) -> Working:
    """The working of a figure after a step, or of a line's amount (``line:ID``). Refuses names that are not there."""
    index = next((i for i, done in enumerate(evaluation.plain.steps) if done.step.id == step), None)
    if index is None:
        raise Refusal(f"There is no step “{step}” that could be worked out", "step")
    if name.startswith("line:"):
        return _line(evaluation, index, name.removeprefix("line:"))
    if name in DEEP and evaluation.figures[index].get("volume_ml"):
        return _deep(evaluation, index, name)
    if name not in evaluation.figures[index] or name not in _FORMULA:
        raise Refusal(f"“{name}” is no figure of this vessel", "name", f"choose one of {', '.join(_FORMULA)}")
    contents, figures = evaluation.plain.steps[index].matter.liquor, evaluation.figures[index]
    grams = [(SUBSTANCES[key].name, say.figure(mass), "g") for key, mass in contents.grams.items() if mass > 0.005]
    volume = ("volume", say.figure(figures["volume_ml"], 1), "mL")
    inputs = {
        "mass_g": grams,
        "volume_ml": grams,
        "density_g_ml": [("weight", say.figure(contents.liquid.mass_g, 1), "g"), volume],
        "brix": [
            ("dissolved solids", say.figure(figures["brix"] / 100 * contents.liquid.mass_g, 1), "g"),
            ("weight of the liquid", say.figure(contents.liquid.mass_g, 1), "g"),
        ],
        "brix_reading": [
            ("true solids", say.figure(figures["brix"], 2), "°Bx"),
            ("acid, A", say.figure(100 * titratable_g(contents) / contents.liquid.mass_g, 2), "% w/w"),
        ],
        "sugar_g_100ml": [(SUBSTANCES[key].name, say.figure(contents.of(key)), "g") for key in SUGARS if contents.of(key)] + [volume],
        "acid_g_100ml": [(SUBSTANCES[key].name, say.figure(contents.of(key)), "g") for key in (*ACIDS, *CATIONS) if contents.of(key)]
        + [("titratable, as citric", say.figure(titratable_g(contents)), "g"), volume],
        "abv": [("ethanol", say.figure(contents.of("ethanol")), "g"), volume],
    }[name]
    spread = evaluation.range(index, name)
    formula, source = _FORMULA[name]
    doubt = _doubt(evaluation, index, name) if spread.half_width else ""
    decimals = say.DECIMALS_OF.get(name)
    around = (
        f"{say.figure(spread.low, decimals)} to {say.figure(spread.high, decimals)}"
        if not spread.is_exact and spread.half_width > 1e-9
        else ""
    )
    return Working(say.NAME_OF[name].capitalize(), say.of(name, figures[name]), around, formula, tuple(inputs), source, doubt)


def _moles_per_litre(contents: Contents, volume: float) -> list[tuple[str, str, str]]:
    acids = [key for key in (*ACIDS, *CATIONS) if contents.of(key)]
    return [(SUBSTANCES[key].name, say.figure(1e6 * contents.of(key) / SUBSTANCES[key].molar_mass / volume, 1), "mmol/L") for key in acids]


def _deep(evaluation: Evaluation, index: int, name: str) -> Working:
    """The sheet of a figure that is worked out only when it is asked for. Refuses what cannot be worked out for this vessel."""
    contents = evaluation.plain.steps[index].matter.liquor
    spread = evaluation.range(index, name)
    volume = evaluation.figures[index]["volume_ml"]
    inputs = (
        _moles_per_litre(contents, volume)
        if name == "ph"
        else [
            (SUBSTANCES[key].name, say.figure(100 * mass / contents.mass_g, 2), "g/100 g")
            for key, mass in contents.grams.items()
            if mass > 0.005
        ]
    )
    formula, source = _FORMULA[name]
    places = say.DECIMALS_OF.get(name)
    around = f"{say.figure(spread.low, places)} to {say.figure(spread.high, places)}" if spread.half_width > 1e-9 else ""
    below, above = MODEL_DOUBT[name](contents, spread.value) if name in MODEL_DOUBT else (0.0, 0.0)
    model = max(below, above) > 0.5 * spread.half_width
    doubt = "Most of the doubt is the model's own." if model else _doubt(evaluation, index, name)
    return Working(
        say.NAME_OF[name][:1].upper() + say.NAME_OF[name][1:] if name != "ph" else "pH",
        say.of(name, spread.value),
        around,
        formula,
        tuple(inputs),
        source,
        doubt,
    )


def _doubt(evaluation: Evaluation, index: int, name: str) -> str:
    group, share = next(iter(evaluation.slopes(index, name).shares(evaluation.belief).items()), ("", 0.0))
    return f"{round(100 * share)} % of the doubt: {evaluation.group_name(group)}." if share else ""


def _line(evaluation: Evaluation, index: int, line_id: str) -> Working:
    done, spec, materials = evaluation.plain.steps[index], evaluation.inputs.spec, evaluation.inputs.materials
    added = next((item for item in done.added if item.line == line_id), None)
    if added is None:
        raise Refusal(f"There is no line “{line_id}” in this step", "name")
    line = spec.lines[line_id]
    name = material_name(added.material, materials)
    inputs: list[tuple[str, str, str]] = []
    formula, source = amount_words(line, spec, materials), "the spec"
    if line_id in evaluation.inputs.actual_g:
        formula, source = "weighed", "the scale, in this run"
    elif isinstance(line.amount, s.Ratio) and line.amount.line:
        other = spec.lines[line.amount.line]
        unit = "g" if line.amount.basis == "weight" else "mL"
        grams = evaluation.plain.masses[other.id]
        inputs = [
            (materials[other.material].name, say.figure(grams if unit == "g" else grams / materials[other.material].density_g_ml()), unit),
            ("times", f"{line.amount.ratio:g}", ""),
        ]
    elif isinstance(line.amount, s.Fixed):
        if evaluation.inputs.factor != 1.0:
            inputs = [
                ("the spec's amount", say.figure(added.mass_g / evaluation.inputs.factor), "g"),
                ("times", say.figure(evaluation.inputs.factor, 3), ""),
            ]
        if line.amount.dimension != "mass":
            inputs.append(
                (
                    "one mL weighs" if line.amount.dimension == "volume" else "one weighs",
                    f"{added.mass_g / evaluation.inputs.factor / line.amount.quantity:.4g}",
                    "g",
                )
            )
    elif isinstance(line.amount, s.Target):
        formula += f": grams of {name.lower()} until the vessel stands there, found by mass balance (Newton's method)"
        source = "mass balance"
    return Working(name, say.grams(added.mass_g), "", formula, tuple(inputs), source)
