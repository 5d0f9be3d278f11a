"""The front end's tables of figures and rules, and its list of languages, written from the core's own by `bin/types`."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterable, Mapping
from pathlib import Path
from typing import get_args

from .core.advice import batch_scaling, juice_treatment
from .core.base.catalogue import languages
from .core.base.figures import BENCH_READINGS, FIGURES, SCORE, Figure
from .core.base.number_format import figure
from .core.base.units import CUP_WORDS, DROP_ML, KITCHEN_ML
from .core.citrus import cut_plan, oleo_saccharum, stretched_juice, wanted, yields
from .core.operations.amounts import TargetProperty
from .core.operations.catalogue import VERBS
from .core.operations.finish import EMPTY_G, Bottle
from .core.properties import acidity
from .core.run import weighing
from .core.run.taste import USUAL_SHARE
from .core.safety.on_the_shelf import FOUND_ML
from .core.safety.shelf_life_rules import FOREVER
from .core.safety.shipped_rules import starting_names
from .core.tasting import design, methods
from .core.tasting.serving import Serving

_API = Path(__file__).parents[2] / "web/src/api"
TARGET, LANGUAGES, RULES = _API / "figures.ts", _API / "languages.ts", _API / "rules.ts"
_NOTE = "// Written by bin/types from src/ulsek/core/base/figures.py; change that.\n"


def _object(values: Mapping[str, object]) -> str:
    """Returns a TypeScript object on one line. None becomes `undefined`: the figure then prints by its size."""
    parts = (f"{key}: {'undefined' if value is None else json.dumps(value, ensure_ascii=False)}" for key, value in values.items())
    return f"{{ {', '.join(parts)} }}"


def _list(name: str, about: str, rows: Iterable[Mapping[str, object]]) -> str:
    lines = "".join(f"  {_object(row)},\n" for row in rows)
    return f"\n/** {about} */\nexport const {name} = [\n{lines}] as const;\n"


def _figure(item: Figure) -> Mapping[str, object]:
    return {
        "name": item.name,
        "short": item.short or item.name,
        "unit": item.unit,
        "decimals": item.decimals,
        "shownFrom": item.shown_from,
    }


def figures_ts() -> str:
    """Returns the text of `web/src/api/figures.ts`: units, decimals and names of every figure, what may be a target, a goal, a reading at the bench."""
    rows = "".join(f"  {key}: {_object(_figure(item))},\n" for key, item in FIGURES.items())
    targets = ({"value": key, "label": FIGURES[key].target_label} for key in get_args(TargetProperty))
    goals = (
        {"property": key, "label": f"Goal {item.sought or item.short}", "tolerance": item.goal_tolerance}
        for key, item in FIGURES.items()
        if item.goal_tolerance is not None
    )
    readings = (
        {"property": key, "label": instrument.name, "unit": FIGURES[key].unit, "about": instrument.use}
        for key in BENCH_READINGS
        if (instrument := FIGURES[key].instrument)
    )
    return "".join(
        (
            _NOTE,
            "\n/** Every figure by its key: its name in a sentence, its short name in a table, its unit, its decimals (undefined: by size), from where it is shown. */\n",
            f"export const FIGURES = {{\n{rows}}} as const;\n\nexport type FigureKey = keyof typeof FIGURES;\n",
            _list("TARGETS", "What an amount may bring a vessel to.", targets),
            _list("GOALS", "The goals that a spec is asked for, with the tolerance of one for which none is given.", goals),
            _list("READINGS", "What may be read at the bench, in the order in which it is offered.", readings),
        )
    )


def languages_ts() -> str:
    """Returns the text of `web/src/api/languages.ts`: the codes of the languages that the core can speak."""
    return (
        "// Written by bin/types from the catalogues in src/ulsek/core/data/messages; add one there.\n\n"
        "/** Languages that the core can speak (ISO 639-1): cards are offered in these. */\n"
        f"export const LANGUAGES = {json.dumps(languages())} as const;\n"
    )


def _constants(name: str, about: str, values: Mapping[str, object]) -> str:
    lines = "".join(f"  {key}: {json.dumps(value, ensure_ascii=False)},\n" for key, value in values.items())
    return f"\n/** {about} */\nexport const {name} = {{\n{lines}}} as const;\n"


def _panels() -> tuple[str, ...]:
    """Returns what the screens of a panel need: what it begins with, what it may be asked for, what may be just about right."""
    tasting = {
        "tasters": design.USUAL_TASTERS,
        "rounds": design.USUAL_ROUNDS,
        "glass_ml": design.USUAL_GLASS_ML,
        "most_samples": max(item.most_samples for item in methods.METHODS.values()),
        "least_mark": methods.LEAST_MARK,
        "most_mark": methods.MOST_MARK,
        "pour_ml": Serving().pour_ml,
    }
    aims = (
        {"aim": aim, "question": words.question.text(), "about": words.about.text(), "line": design.LINES[aim].usual}
        for aim, words in methods.AIMS.items()
    )
    attributes = (
        {"key": item.key, "name": item.name.text(), "little": item.little.text(), "much": item.much.text()}
        for item in methods.ATTRIBUTES.values()
    )
    return (
        _constants("TASTING", "What a panel begins with, and its bounds.", tasting),
        _list("AIMS", "What a panel is asked for.", aims),
        _list("ATTRIBUTES", "What may be just about right, with its two ends.", attributes),
    )


def rules_ts() -> str:
    """Returns the text of `web/src/api/rules.ts`: what the screens need of the core's rules before an answer of it is there."""
    usual = {
        "drop_ml": DROP_ML,
        "sample_ml": acidity.USUAL_SAMPLE_ML,
        "normality": acidity.USUAL_NORMALITY,
        "taste_percent": 100.0 * USUAL_SHARE,
        "oil_sugar_peel_g": oleo_saccharum.USUAL_PEEL_G,
        "oil_sugar_ratio": oleo_saccharum.USUAL_RATIO,
        "oil_sugar_hours": oleo_saccharum.USUAL_HOURS,
        "oil_sugar_c": oleo_saccharum.USUAL_C,
        "stretched_ml": stretched_juice.USUAL_ML,
        "stretched_times": stretched_juice.USUAL_TIMES,
        "stretched_oil_mg_l": stretched_juice.MOST_OIL_MG_L,
        "enzyme_c": juice_treatment.WARM_C,
        "fine_scale_g": juice_treatment.FINE_SCALE_G,
        "stronger_brix": juice_treatment.STRONGER_BRIX,
        "desk_g": juice_treatment.USUAL_G,
        "fruits_measured": yields.USUAL_COUNT,
        "want_hours": cut_plan.USUAL_H,
        "have_g": batch_scaling.USUAL_HAVE_G,
    }
    scale = {"still_g": weighing.STILL_G, "lifted_g": weighing.LIFTED_G, "empty_g": EMPTY_G}
    cups = ({"value": locale, "label": f"{words}, {figure(KITCHEN_ML[locale]['cup'], 0)} mL"} for locale, words in CUP_WORDS.items())
    wants = ({"what": item.what, "word": item.word, "unit": item.unit, "mayBeDayOld": item.may_be_day_old} for item in wanted.WANTED)
    titration = [step.text() for step in acidity.TITRATION_STEPS]
    bottling = [verb for verb, kind in VERBS.items() if issubclass(kind, Bottle)]
    return "".join(
        (
            "// Written by bin/types from src/ulsek/core by src/ulsek/typescript.py; change the rules there.\n",
            _constants("USUAL", "What a form begins with: usual figures of the core, in the unit of their names.", usual),
            _constants("SCALE", "What a scale at the bench shows [g]: nothing, something lifted off, an empty vessel.", scale),
            _constants("STRIDES", "How far a hand moves a batch at a time, by how it is asked for.", batch_scaling.STRIDES),
            _constants("SCORE", "A taster's score.", {"least": SCORE.low, "most": SCORE.high}),
            *_panels(),
            _list("CUPS", "Whose cups a house means, with what one holds.", cups),
            _list("WANTS", "What a cut plan may be asked for, with the unit of its amount.", wants),
            "\n/** Verbs that put the product in its bottles: what is added to a spec goes in before them. */\n",
            f"export const BOTTLING: readonly string[] = {json.dumps(bottling)};\n",
            "\n/** Grams of sugar to one of acid that the plate draws a ray of. */\n",
            f"export const RAYS: readonly number[] = {json.dumps(acidity.RAYS)};\n",
            "\n/** A titration at a bar, step by step. */\n",
            f"export const TITRATION_STEPS: readonly string[] = {json.dumps(titration, ensure_ascii=False, indent=2)};\n",
            "\n/** Days that stand for no limit from one side. */\n",
            f"export const FOREVER_DAYS = {FOREVER};\n",
            "\n/** Places whose law the names of a house may be judged by. */\n",
            f"export const LAW_PLACES: readonly string[] = {json.dumps(starting_names()['places'])};\n",
            "\n/** What a bottle whose making was not recorded is taken to hold [mL]. */\n",
            f"export const FOUND_ML = {FOUND_ML:.0f};\n",
        )
    )


def main() -> int:
    RULES.write_text(rules_ts(), encoding="utf-8")
    TARGET.write_text(figures_ts(), encoding="utf-8")
    LANGUAGES.write_text(languages_ts(), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
