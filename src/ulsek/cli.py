"""`bin/ulsek`: the core on the command line, reading and writing open files. Exit code 2 and one clear line on bad input."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Callable, Mapping
from decimal import Decimal
from pathlib import Path
from typing import Any

from ulsek.core.advice.batch_scaling import HEAD_ROOM_PERCENT, BatchSize, scaled
from ulsek.core.advice.corrections import Ways, repair_materials, ways
from ulsek.core.advice.sub_recipes import read_materials, specs_embedded
from ulsek.core.base.answer import encode
from ulsek.core.base.catalogue import languages
from ulsek.core.base.messages import listed, message, verbatim
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.register import scale_of
from ulsek.core.base.strict_json import read_json
from ulsek.core.base.units import LOCALES
from ulsek.core.base.weighing import SCALE_G
from ulsek.core.evaluation.cost import WAYS
from ulsek.core.evaluation.evaluate import Evaluation, evaluate
from ulsek.core.materials.material import Material, read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.recipe_text.capture import captured, materials_in
from ulsek.core.recipe_text.open_forms import read_any
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.release.allergen_carryover import carried
from ulsek.core.release.release_check import release_check
from ulsek.core.results.evaluation_result import evaluation_result, keeping_result
from ulsek.core.results.spec_card import SECOND_MEASURES, card
from ulsek.core.results.version_diff import compared
from ulsek.core.run.events.catalogue import read_event
from ulsek.core.run.fold import fold
from ulsek.core.run.run_result import run_result
from ulsek.core.safety.barriers import Evidence, HotFill
from ulsek.core.safety.house_rules import Rules, read_rules
from ulsek.core.safety.shelf_life import HouseDate
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.spec import Spec

from .core.sums.catalogue import SUMS, work_out


def _text(path: str) -> str:
    try:
        return sys.stdin.read() if path == "-" else Path(path).read_text(encoding="utf-8")
    except OSError as error:
        raise Refusal(message("{path} cannot be opened", path=path), bound=verbatim(error.strerror or "")) from None
    except UnicodeDecodeError:
        raise Refusal(message("{path} is no text in UTF-8", path=path)) from None


def _load(path: str) -> Any:
    text = _text(path)
    try:
        return read_json(text)
    except Refusal as refusal:
        raise Refusal(message("{path} is no JSON", path=path), bound=refusal.bound) from None


def _captured(name: str, rows: list[Any]) -> dict[str, Any]:
    """Returns the draft of these rows, with typical materials."""
    typical = typical_materials()
    return captured(name, rows, read_materials(typical, tuple(key for key in sorted(materials_in(rows)) if key in typical)))


def _lines(path: str) -> list[Any]:
    """Returns the objects of a file with one JSON object per line. Raises Refusal for the first line that is not one."""
    found = []
    for number, line in enumerate(_text(path).splitlines(), 1):
        try:
            found += [read_json(line)] if line.strip() else []
        except Refusal as refusal:
            raise Refusal(message("{path} line {number} is no JSON", path=path, number=number), bound=refusal.bound) from None
    return found


def _materials(path: str, data: Any) -> Any:
    """Returns a file's own materials, with the specs that they name by id taken from the files beside it."""
    return specs_embedded(data.get("materials"), lambda name: _load(str(Path(path).with_name(f"{name}.json"))))


def _spec(path: str) -> tuple[Spec, dict[str, Any]]:
    data = _load(path)
    if isinstance(data, dict):
        data = {**data, "materials": _materials(path, data)}
    spec = read_spec(data)
    described = typical_materials() | (data.get("materials") or {})
    return spec, described


def _evaluated(path: str, rules: Rules) -> Evaluation:
    spec, described = _spec(path)
    done = evaluate(spec, read_materials(described, spec.material_keys, rules), rules=rules)
    if done.flow.refusal:
        raise done.flow.refusal
    return done


_SIGNS = (("<=", "most"), (">=", "least"), ("=", "is"))


def _aim(written: str) -> dict[str, Any]:
    """Returns the open form of an aim as typed: "brix=45", "acid_g_100ml>=3", "abv=keep". Raises Refusal for any other text."""
    sign, bound = next(((sign, bound) for sign, bound in _SIGNS if sign in written), ("=", "is"))
    name, _, value = written.partition(sign)
    if value == "keep" and bound == "is":
        return {"property": name, "bound": "keep"}
    try:
        return {"property": name, "value": float(value), "bound": bound}
    except ValueError:
        raise Refusal(
            message("“{written}” is no target", written=written),
            remedy=message("Write it as brix=45, acid_g_100ml>=3, cost<=12 or abv=keep"),
        ) from None


def _pairs(written: list[str]) -> dict[str, float]:
    """Returns the mapping of texts such as "honey=600". Raises Refusal for what is not a figure."""
    try:
        return {name: float(value) for name, _, value in (item.partition("=") for item in written)}
    except ValueError:
        raise Refusal(
            message("“{written}” cannot be read", written=listed(written, "space")), remedy=message("Write it as honey=600")
        ) from None


def _offered(keys: list[str], spec: Spec, described: Mapping[str, Any]) -> list[Material]:
    """Returns the materials that may be added: those named, else the spec's own water, sugars and acids."""
    if keys:
        return [read_material(key, described.get(key)) for key in keys]
    return repair_materials(spec, read_materials(described, (*spec.material_keys, "water")))


def _solve(given: argparse.Namespace) -> Any:
    spec, described = _spec(given.spec)
    found = ways(_evaluated(given.spec, given.rules), [_aim(item) for item in given.target], _offered(given.add, spec, described))
    return Ways(tuple(found))


def _scale(given: argparse.Namespace) -> Any:
    spec, described = _spec(given.spec)
    ((vessel, capacity),) = _pairs([given.vessel]).items() if given.vessel else ((None, None),)
    asked = BatchSize(
        given.volume_ml,
        given.serves,
        _pairs(given.have),
        vessel,
        capacity,
        given.head_room,
        given.resolution_g,
        given.jigger_ml,
        given.factor,
    )
    return scaled(spec, read_materials(described, (*spec.material_keys, "water")), asked)


def _check(given: argparse.Namespace) -> Any:
    data = _load(given.spec)
    spec = read_spec(data, strict=False)
    own = _materials(given.spec, data)
    materials = read_materials(typical_materials() | (own or {}), spec.material_keys, given.rules)
    beside: dict[str, list[float]] = {}
    for other in given.beside:
        for key, dose in _evaluated(other, given.rules).doses_g_l.items():
            beside.setdefault(key, []).append(dose)
    return release_check(evaluate(spec, materials, rules=given.rules), beside)


def _keep(given: argparse.Namespace) -> Any:
    filled = HotFill(given.hot_fill, given.fill_c or 0.0, given.hold_min or 0.0) if given.hot_fill else None
    evidence = Evidence(_pairs(given.read), given.meter_checked, given.by_label, given.frozen_c, filled)
    said = None
    if given.house:
        ((of, days),) = _pairs([given.house]).items()
        said = HouseDate(of, int(days), given.by, given.why, given.authority)
    return keeping_result(_evaluated(given.spec, given.rules), evidence, said)


def _cost(given: argparse.Namespace) -> Any:
    worth = {name: Decimal(repr(price)) for name, price in _pairs(given.worth).items()}
    return _evaluated(given.spec, given.rules).full_cost(Decimal(repr(given.labour_per_hour)), worth, given.split)


def _card(given: argparse.Namespace) -> Any:
    return card(_evaluated(given.spec, given.rules), given.language, at=scale_of(given.resolution_g), beside=given.beside)


def _compare(given: argparse.Namespace) -> Any:
    return compared(_evaluated(given.spec, given.rules), _evaluated(given.other, given.rules))


def _read(given: argparse.Namespace) -> Any:
    return read_any(_text(given.file), typical_materials(), given.locale, given.rules.words["words"])


def _run(given: argparse.Namespace) -> Any:
    spec, described = _spec(given.spec)
    materials = read_materials(described, (*spec.material_keys, "water"))
    return run_result(fold(spec, materials, [read_event(item) for item in _lines(given.events)], given.rules))


def _sum(given: argparse.Namespace) -> Any:
    if given.name is None:
        return {"sums": list(SUMS.values())}
    pairs = [figure.partition("=") for figure in given.figures]
    return work_out(given.name, {name: value for name, _, value in pairs}, limits=given.rules.limits)


_Option = tuple[str, dict[str, Any]]


def _one(name: str, **how: Any) -> _Option:
    return name, how


def _many(name: str, metavar: str, words: str = "") -> _Option:
    return name, {"action": "append", "default": [], "metavar": metavar, "help": words}


_SPEC = _one("spec")
_COMMANDS: dict[str, tuple[str, Callable[[argparse.Namespace], Any], tuple[_Option, ...]]] = {
    "evaluate": ("the flow of a spec", lambda given: evaluation_result(_evaluated(given.spec, given.rules), deep=True), (_SPEC,)),
    "check": ("may it be published", _check, (_SPEC, _many("--beside", "SPEC", "another spec of the house, for its usual doses"))),
    "solve": (
        "additions that reach targets",
        _solve,
        (
            _SPEC,
            _many("--target", "brix=45", "also acid_g_100ml>=3, cost<=12, abv=keep"),
            _many("--add", "MATERIAL", "what may be added; else the spec's own water, sugars and acids"),
        ),
    ),
    "scale": (
        "the factor for a yield",
        _scale,
        (
            _SPEC,
            _one("--volume-ml", type=float),
            _one("--serves", type=float),
            _one("--factor", type=float, help="so many times the spec"),
            _many("--have", "MATERIAL=GRAMS", "the largest batch from what is there"),
            _one("--vessel", metavar="ID=ML", help="the largest batch that this vessel holds, with --head-room"),
            _one("--head-room", type=float, default=HEAD_ROOM_PERCENT, metavar="PERCENT"),
            _one("--resolution-g", type=float, help="also round every line to this scale"),
            _one("--jigger-ml", type=float, help="and what pours to this jigger"),
        ),
    ),
    "keep": (
        "how long it keeps, from what is shown, and what would make it longer",
        _keep,
        (
            _SPEC,
            _many("--read", "ph=3.1", "a reading of the product: ph, water_activity, brix_reading, abv"),
            _one("--meter-checked", action="store_true", help="the pH meter was checked in its buffers"),
            _one("--by-label", action="store_true", help="its strength is by the label and by weight"),
            _one("--frozen-c", type=float),
            _one("--hot-fill", metavar="PROCEDURE", help="filled hot by this procedure of the house's rules, with --fill-c and --hold-min"),
            _one("--fill-c", type=float),
            _one("--hold-min", type=float),
            _one("--house", metavar="safety=10", help="the house's own days for safety or quality"),
            _one("--by", default=""),
            _one("--why", default=""),
            _one("--authority", default="", help="its word on a longer safety date"),
        ),
    ),
    "capture": (
        "a draft spec grown from a file of weighings, one in JSON per line",
        lambda given: _captured(given.name, _lines(given.weighings)),
        (_one("weighings"), _one("--name", required=True)),
    ),
    "gear": (
        "allergens that gear brings from one spec to the next, made in this order",
        lambda given: carried([_evaluated(path, given.rules) for path in given.specs]),
        (_one("specs", nargs="+"),),
    ),
    "cost": (
        "materials and hands, split over what comes out",
        _cost,
        (
            _SPEC,
            _one("--labour-per-hour", type=float, default=0.0),
            _many("--worth", "BY-PRODUCT=PER-KG"),
            _one("--split", default="credit", choices=WAYS),
        ),
    ),
    "card": (
        "the card that staff make it from",
        _card,
        (
            _SPEC,
            _one("--language", default="en", choices=languages()),
            _one("--resolution-g", type=float, default=SCALE_G),
            _one("--beside", default="nothing", choices=SECOND_MEASURES),
        ),
    ),
    "compare": ("two specs side by side: what changed and what it did", _compare, (_SPEC, _one("other"))),
    "read": (
        "what is understood of a spec file, a recipe file or a recipe in words",
        _read,
        (_one("file", help="- for what is typed in"), _one("--locale", default="metric", choices=LOCALES)),
    ),
    "run": ("where a batch stands after its events", _run, (_SPEC, _one("events", help="one event in JSON per line"))),
    "sum": (
        "a quick sum; without a name, which there are",
        _sum,
        (_one("name", nargs="?"), _one("figures", nargs="*", metavar="key=value")),
    ),
    "parse": (
        "a draft out of a recipe in a text file, each doubtful reading marked",
        lambda given: parse_recipe(_text(given.recipe), given.locale, words=given.rules.words["words"]),
        (_one("recipe", help="- for what is typed in"), _one("--locale", default="metric", choices=LOCALES)),
    ),
}


def run(arguments: list[str]) -> Any:
    """Returns the result of one command."""
    parser = argparse.ArgumentParser(prog="ulsek", description="The computation of Ulsek on open files.")
    parser.add_argument("--rules", metavar="FILE", help="the house's own limits, keeping rules, names and words")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, (words, _, options) in _COMMANDS.items():
        command = commands.add_parser(name, help=words)
        for option, how in options:
            command.add_argument(option, **how)
    given = parser.parse_args(arguments)
    given.rules = read_rules(_load(given.rules) if given.rules else None)
    return _COMMANDS[given.command][1](given)


def main() -> int:
    try:
        result = run(sys.argv[1:])
    except Refusal as refusal:
        place = f"{refusal.where}: " if refusal.where else ""
        print(f"ulsek: {place}{refusal.text}", file=sys.stderr)
        return 2
    try:
        json.dump(encode(result), sys.stdout, ensure_ascii=False, indent=2)
        print(flush=True)
    except BrokenPipeError:
        # The reader of the pipe has closed it; nothing more can be written.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    remarks = result if isinstance(result, tuple) else ()
    return 1 if any(remark.severity == "stop" for remark in remarks) else 0


if __name__ == "__main__":
    sys.exit(main())
