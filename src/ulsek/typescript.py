"""The front end's tables of figures, and its list of languages, written from the core's own by `bin/types`."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterable, Mapping
from pathlib import Path
from typing import get_args

from .core.base.catalogue import languages
from .core.base.figures import BENCH_READINGS, FIGURES
from .core.operations.amounts import TargetProperty

_API = Path(__file__).parents[2] / "web/src/api"
TARGET, LANGUAGES = _API / "figures.ts", _API / "languages.ts"
_NOTE = "// Written by bin/types from src/ulsek/core/base/figures.py; change that.\n"


def _object(values: Mapping[str, object]) -> str:
    """Returns a TypeScript object on one line. None becomes `undefined`: the figure then prints by its size."""
    parts = (f"{key}: {'undefined' if value is None else json.dumps(value, ensure_ascii=False)}" for key, value in values.items())
    return f"{{ {', '.join(parts)} }}"


def _list(name: str, about: str, rows: Iterable[Mapping[str, object]]) -> str:
    lines = "".join(f"  {_object(row)},\n" for row in rows)
    return f"\n/** {about} */\nexport const {name} = [\n{lines}] as const;\n"


def figures_ts() -> str:
    """Returns the text of `web/src/api/figures.ts`: units, decimals and names of every figure, what may be a target, a goal, a reading at the bench."""
    rows = "".join(
        f"  {key}: {_object({'name': item.name, 'short': item.short or item.name, 'unit': item.unit, 'decimals': item.decimals})},\n"
        for key, item in FIGURES.items()
    )
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
            "\n/** Every figure by its key: its name in a sentence, its short name in a table, its unit, its decimals (undefined: by size). */\n",
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


def main() -> int:
    TARGET.write_text(figures_ts(), encoding="utf-8")
    LANGUAGES.write_text(languages_ts(), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
