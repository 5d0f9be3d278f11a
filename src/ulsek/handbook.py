"""The handbook of the core: pages in docs/core and the schema of the spec file, written from the code's own docstrings by `bin/docs`."""

from __future__ import annotations

import ast
import importlib
import inspect
import json
import math
import pkgutil
import sys
from collections.abc import Iterator
from itertools import groupby, zip_longest
from pathlib import Path
from types import ModuleType

from ulsek.core import citrus, operations, properties, sums
from ulsek.core.advice import juice_treatment
from ulsek.core.base import vocabulary
from ulsek.core.base.figures import FIGURES, Figure
from ulsek.core.base.number_format import given
from ulsek.core.base.ranges import Range
from ulsek.core.materials import softening
from ulsek.core.operations.step import ChoiceParam, NumberParam, Param, RangeParam, Step
from ulsek.core.run import events
from ulsek.core.run.event_parts import Choice, ListOf, Nested, Part
from ulsek.core.run.events.catalogue import EVENTS
from ulsek.core.run.events.schema import effect, event_schema
from ulsek.core.spec.json_schema import spec_schema

from .core.evaluation import line_mass
from .core.operations import amounts, catalogue, step
from .core.operations.catalogue import VERBS
from .core.sums.catalogue import SUMS
from .core.sums.sheet import Ask
from .planners import cut_plan, trial

ROOT = Path(__file__).parents[2]
CORE = ROOT / "src" / "ulsek" / "core"
_NOTE = "<!-- Written by bin/docs from the docstrings; change those. -->\n"


def _modules(package: ModuleType) -> Iterator[ModuleType]:
    for found in sorted(pkgutil.iter_modules(package.__path__), key=lambda item: item.name):
        yield importlib.import_module(f"{package.__name__}.{found.name}")


def _name(module: ModuleType) -> str:
    return module.__name__.rpartition(".")[2]


def _functions(module: ModuleType) -> Iterator[tuple[str, str, str]]:
    """(name, signature, docstring) of the module's own public functions, in the order they stand."""
    for name, member in inspect.getmembers(module, inspect.isfunction):
        if member.__module__ == module.__name__ and not name.startswith("_"):
            yield name, str(inspect.signature(member)).replace("'", ""), inspect.getdoc(member) or ""


def _paragraphs(text: str) -> str:
    return "\n\n".join(" ".join(part.split()) for part in text.split("\n\n"))


def _function_part(module: ModuleType) -> list[str]:
    ordered = sorted(_functions(module), key=lambda item: inspect.getsourcelines(getattr(module, item[0]))[1])
    return [f"### `{name}{signature}`\n\n{_paragraphs(text)}\n" for name, signature, text in ordered]


def _param_words(name: str, param: Param, default: object) -> str:
    usual = f"; usually {given(default)}" if isinstance(default, int | float) and not isinstance(default, bool) else ""
    if isinstance(param, NumberParam):
        return f"| `{name}` | {param.unit} | {param.words}{usual} |"
    if isinstance(param, RangeParam):
        prior = "only when it is known better"
        if isinstance(default, Range):
            prior = f"prior {given(default.value)} ({given(default.low)} to {given(default.high)}): house experience, not a standard"
        return f"| `{name}` | {param.unit} | {prior} |"
    if isinstance(param, ChoiceParam):
        return f"| `{name}` | word | {', '.join(param.allowed)} |"
    return f"| `{name}` | {'yes or no' if type(param).__name__ == 'FlagParam' else 'text'} | |"


def _verb_part(kind: type[Step]) -> str:
    defaults = {name: getattr(field, "default", None) for name, field in kind.__dataclass_fields__.items()}
    rows = [_param_words(name, param, defaults[name]) for name, param in kind.params().items()]
    table = "\n".join(["| parameter | unit | |", "|---|---|---|", *rows]) + "\n\n" if rows else ""
    gear = f" Gear: {', '.join(kind.usual_gear)}." if kind.usual_gear else ""
    check = f" Done when: {kind.usual_check}." if kind.usual_check else ""
    return (
        f"### {vocabulary.word('verbs', kind.verb)} (`{kind.verb}`)\n\n{_paragraphs(inspect.getdoc(kind) or '')} "
        f"Hands on {given(kind.usual_hands_on_min)} min.{gear}{check}\n\n{table}{_paragraphs(inspect.getdoc(kind.act) or '')}\n"
    )


def _operation_page(module: ModuleType) -> str:
    kinds = [kind for kind in VERBS.values() if kind.__module__ == module.__name__]
    head = f"# {_paragraphs((module.__doc__ or '').strip())}\n"
    verbs = ["## Verbs\n", *(_verb_part(kind) for kind in kinds)] if kinds else []
    functions = _function_part(module)
    return "\n".join([_NOTE, head, *verbs, *(["## Functions\n", *functions] if functions else [])])


def _property_page(module: ModuleType) -> str:
    return "\n".join([_NOTE, f"# {_paragraphs((module.__doc__ or '').strip())}\n", *_function_part(module)])


def _asked(ask: Ask) -> str:
    """What may be given for one figure of a sum."""
    return "words" if ask.text else "a material" if ask.material else ", ".join(ask.allowed) or ask.words.text()


def _sum_part(name: str) -> str:
    item = SUMS[name]
    rows = [
        f"| `{key}` | {ask.label} | {_asked(ask)}{f'; usually {ask.usual}' if ask.usual is not None else ''} |"
        for key, ask in item.asks.items()
    ]
    table = "\n".join(["| figure | asks for | |", "|---|---|---|", *rows])
    return f"### {item.about} (`{name}`)\n\n{_paragraphs(inspect.getdoc(item.work) or '')}\n\nHow exact: {item.error}.\n\n{table}\n"


def _sums_page() -> str:
    return "\n".join([_NOTE, f"# {_paragraphs((sums.__doc__ or '').strip())}\n", *(_sum_part(name) for name in SUMS)])


def _figure_row(item: Figure) -> str:
    reads = item.readable.words.text() if item.instrument else ""
    within = "" if item.instrument is None or item.instrument.half_range is None else f" ± {given(item.instrument.half_range)}"
    aims = item.bounds.words.text() if item.limits else ""
    decimals = "by size" if item.decimals is None else str(item.decimals)
    cells = (f"`{item.key}`", item.name, item.unit, decimals, aims, reads + within, item.formula, item.source)
    return f"| {' | '.join(cells)} |"


def _figures_page() -> str:
    head = [
        "| key | name | unit | decimals | as a target | read, with its half-range | formula | source |",
        "|---|---|---|---|---|---|---|---|",
    ]
    return "\n".join([_NOTE, "# Figures\n", *head, *(_figure_row(item) for item in FIGURES.values())])


def _part_words(name: str, part: Part) -> str:
    """One part of an event's body: its name, what it is, and the parts in it."""
    inner = part.item.of if isinstance(part, ListOf) else part.of if isinstance(part, Nested) else None
    allowed = [", ".join(part.allowed)] if isinstance(part, Choice) else []
    parts = [] if inner is None else ["; ".join(_part_words(*item) for item in inner.parts().items())]
    said = ": ".join([text for text in (part.about, *allowed, *parts) if text])
    return f"`{name}`{'' if part.required else ' (optional)'}{' ' if said else ''}{said}"


_LONGEST_VALUE = 240


def _numbers(value: ast.expr) -> list[float]:
    constants = (item.value for item in ast.walk(value) if isinstance(item, ast.Constant))
    return [float(item) for item in constants if isinstance(item, int | float) and not isinstance(item, bool)]


def _cell(value: ast.expr) -> str:
    return ast.unparse(value).replace("|", "\\|")


def _constants(path: Path) -> Iterator[tuple[str, str, str]]:
    """(name, value, docstring) of the named numbers of a module, and of its tables of numbers, in the order they stand."""
    body = ast.parse(path.read_text(encoding="utf-8")).body
    for item, after in zip_longest(body, body[1:]):
        names = item.targets if isinstance(item, ast.Assign) else [item.target] if isinstance(item, ast.AnnAssign) else []
        if not names or not (value := getattr(item, "value", None)) or not (found := _numbers(value)):
            continue
        name = ast.unparse(names[0]).strip("()")
        if name != name.upper():
            continue
        text = ast.unparse(value)
        if len(text) > _LONGEST_VALUE:
            text = f"{len(found)} numbers from {given(min(found))} to {given(max(found))}, in all {given(round(math.fsum(found), 9))}"
        said = after.value.value if isinstance(after, ast.Expr) and isinstance(after.value, ast.Constant) else ""
        yield name, text.replace("|", "\\|"), _paragraphs(str(said))


def _constants_page() -> str:
    """Returns the page of every number that is named in the core, so that no change of one goes unseen; long tables by their count, ends and sum."""
    parts = [_NOTE, "# The named numbers of the core\n"]
    for path in sorted(CORE.rglob("*.py")):
        rows = [f"| `{name}` | `{text}` | {said} |".replace("\n", " ") for name, text, said in _constants(path)]
        if rows:
            parts.append("\n".join([f"## {path.relative_to(CORE)}\n", "| name | value | |", "|---|---|---|", *rows]) + "\n")
    return "\n".join(parts)


def _defaults(path: Path) -> Iterator[tuple[str, str]]:
    """(name, value) of what stands where nothing is given, in the order it stands: members of classes, and parameters of functions and methods."""
    for item in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(item, ast.ClassDef):
            members = [member for member in item.body if isinstance(member, ast.AnnAssign) and member.value is not None]
            yield from ((f"{item.name}.{ast.unparse(member.target)}", _cell(member.value)) for member in members if member.value)
        elif isinstance(item, ast.FunctionDef):
            asked = [*item.args.posonlyargs, *item.args.args]
            given_last = zip(asked[len(asked) - len(item.args.defaults) :], item.args.defaults, strict=True)
            by_name = zip(item.args.kwonlyargs, item.args.kw_defaults, strict=True)
            yield from ((f"{item.name}({arg.arg})", _cell(value)) for arg, value in (*given_last, *by_name) if value is not None)


def _defaults_page() -> str:
    """Returns the page of every default of the core, so that no change of one goes unseen; long ones by their beginning."""
    parts = [
        _NOTE,
        "# What stands where nothing is given\n",
        "Members of classes as `Class.member`, parameters of functions as `function(parameter)`.\n",
    ]
    for path in sorted(CORE.rglob("*.py")):
        rows = [f"| `{name}` | `{value[:_LONGEST_VALUE]}` |".replace("\n", " ") for name, value in _defaults(path)]
        if rows:
            parts.append("\n".join([f"## {path.relative_to(CORE)}\n", "| name | default |", "|---|---|", *rows]) + "\n")
    return "\n".join(parts)


def _events_page() -> str:
    found = [_NOTE, f"# The events of a run\n\n{_paragraphs(inspect.getdoc(events) or '')}\n"]
    for module, kinds in groupby(EVENTS.values(), key=inspect.getmodule):
        found.append(f"## {(inspect.getdoc(module) or '').splitlines()[0].rstrip('.')}\n\n| kind | body | effect |\n|---|---|---|")
        for kind in kinds:
            body = "<br>".join(_part_words(*item) for item in kind.parts().items())
            found.append(f"| `{kind.kind}` | {body} | {effect(kind)} |")
        found.append("")
    return "\n".join(found)


def _rooms() -> Iterator[tuple[str, str, str, ModuleType]]:
    """(heading, folder, name, module) of every module that has a page, in the order of the index."""
    for module in _modules(properties):
        yield "Properties", "properties/", _name(module), module
    for module in _modules(operations):
        if module not in (amounts, catalogue, step):
            yield "Operations", "operations/", _name(module), module
    yield "Amounts of lines", "", _name(line_mass), line_mass
    yield "Fruit that cooks", "", _name(softening), softening
    yield "Sums", "", _name(sums), sums
    for module in _modules(citrus):
        yield "Citrus", "citrus/", _name(module), module
    yield "Citrus", "", _name(juice_treatment), juice_treatment
    for module in (cut_plan, trial):
        yield "Planners", "planners/", _name(module), module


def _page(heading: str, module: ModuleType) -> str:
    if heading == "Operations":
        return _operation_page(module)
    return _sums_page() if heading == "Sums" else _property_page(module)


def pages() -> dict[str, str]:
    """Every generated file by its path from the project's folder."""
    found: dict[str, str] = {}
    index = [_NOTE, "# The core and the planners\n", "What each of them computes, its range, its error and its source."]
    for heading, rooms in groupby(_rooms(), key=lambda room: room[0]):
        index.append(f"\n## {heading}\n")
        for _heading, folder, name, module in rooms:
            found[f"docs/core/{folder}{name}.md"] = _page(heading, module)
            index.append(f"- [{name}]({folder}{name}.md): {(module.__doc__ or '').strip().splitlines()[0]}")
    index += ["\n## Figures\n", "- [figures](figures.md): every figure with its unit, decimals, bounds, instrument, formula and source."]
    index.append("- [constants](constants.md): every number that is named in the core, with what it is.")
    index.append("- [defaults](defaults.md): what stands where nothing is given, of every class and function of the core.")
    found["docs/core/figures.md"] = _figures_page()
    found["docs/core/constants.md"] = _constants_page()
    found["docs/core/defaults.md"] = _defaults_page()
    found["docs/core/README.md"] = "\n".join(index) + "\n"
    found["docs/formats/run-events.md"] = _events_page()
    for name, schema in (("spec", spec_schema()), ("run-events", event_schema(received=True))):
        found[f"docs/formats/{name}.schema.json"] = json.dumps(schema, ensure_ascii=False, indent=2) + "\n"
    return {path: text.rstrip("\n") + "\n" for path, text in found.items()}


def main() -> int:
    for path, text in pages().items():
        target = ROOT / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(text, encoding="utf-8")
    print(f"Wrote {len(pages())} files.")
    return 0


if __name__ == "__main__":
    sys.exit(main())
