"""The spec file: the open form of a spec, read and written.

The form is documented in ``docs/formats/spec.md`` with a JSON Schema. Reading does not stop at the first fault: every fault is collected with its place, so
that an unfinished draft can still be shown.
"""

from __future__ import annotations

import dataclasses
import json
import math
from collections.abc import Collection, Iterator, Mapping
from typing import Any, get_args

from ..base import budgets
from ..base.figures import FIGURES, MOST_G, TARE_G, VESSEL_ML
from ..base.messages import NOTHING, Given, Message, listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.units import LOCALES, Dimension, Locale, Quantity, parse_quantity
from ..operations.amounts import (
    BY_PRODUCT,
    VESSEL,
    All,
    Amount,
    Basis,
    DosedBy,
    Fixed,
    Line,
    Percent,
    PercentBasis,
    Ratio,
    Reaching,
    State,
    Target,
    TargetProperty,
)
from ..operations.catalogue import VERBS
from ..operations.step import ChoiceParam, FlagParam, NumberParam, Param, RangeParam, Step
from .object_reader import ObjectReader
from .of_a_text import claims_in, doubts_in
from .options import settled
from .reference_checks import reference_faults, stream_faults
from .served_in import ServedIn
from .spec import Goal, Spec, Vessel

FORMAT = "ulsek.spec"
FORMAT_VERSION = 1
MOST_NOTE = 20000
"""Letters of a spec's note, which may hold a whole pasted recipe."""


def _fixed(read: ObjectReader, locale: Locale) -> Amount | None:
    given = [key for key in ("mass_g", "volume_ml", "count", "written") if read.data.get(key) is not None]
    spread: Range | None = None
    if len(given) != 1:
        read.fault(
            message("The amount is empty") if not given else message("The amount is given twice"),
            "",
            remedy=message("Give one of mass_g, volume_ml, count or written"),
            code="missing",
        )
        return None
    if given[0] == "written":
        try:
            quantity = parse_quantity(read.text("written"), locale)
        except Refusal as refusal:
            read.faults.append(refusal.at(f"{read.where}/written"))
            return None
    else:
        dimension: Dimension = {"mass_g": "mass", "volume_ml": "volume", "count": "count"}[given[0]]  # type: ignore[assignment]
        before = len(read.faults)
        given_range = read.range(given[0], MOST_G) if isinstance(read.data[given[0]], dict) else None
        value = given_range.value if given_range else read.number(given[0], None, -math.inf, math.inf, message("a number above zero"))
        if len(read.faults) > before:
            return None
        quantity = Quantity(value, dimension, "")
        spread = given_range if given_range and not given_range.is_exact else None
    if not 0 < quantity.value <= MOST_G:
        read.fault(
            message("{quantity} is not an amount to add", quantity=Given(quantity.value)),
            given[0],
            message("it must be more than nothing and at most a tonne"),
            message("Write a number above zero"),
            "not_positive",
        )
        return None
    scales = read.data.get("scales", True) is not False
    flags = {name: read.data.get(name) is True for name in ("to_taste", "assumed")}
    return Fixed(quantity.value, quantity.dimension, quantity.written, scales, spread, **flags)


def _amount(data: Any, where: str, locale: Locale, faults: list[Refusal]) -> Amount | None:
    read = ObjectReader(data, where, faults)
    before = len(faults)
    kind = read.data.get("kind")
    found: Amount | None = None
    if kind == "fixed":
        found = _fixed(read, locale)
    elif kind == "ratio":
        to = read.data.get("to") or {}
        named = (to.get("line"), to.get("vessel")) if isinstance(to, dict) else (None, None)
        line, vessel = (name if isinstance(name, str) else None for name in named)
        if (line is None) == (vessel is None):
            read.fault(
                message("A ratio needs what it is measured against"), "to", remedy=message("Name one line or one vessel"), code="missing"
            )
        ratio = read.number("ratio", None, _TRACE, _MOST_RATIO, message("a ratio lies between 0.000001 and 1 000"))
        found = Ratio(ratio, read.choice("basis", get_args(Basis), "weight"), line, vessel)
    elif kind == "percent":
        found = Percent(
            read.number("percent", None, _TRACE, _MOST_RATIO, message("above 0 and at most 1 000 %")),
            read.choice("basis", get_args(PercentBasis), "w/w"),
        )
    elif kind == "target":
        prop = read.choice("property", get_args(TargetProperty), "brix")
        low, high, words = FIGURES[prop].bounds
        found = Target(prop, read.number("value", None, low, high, words), read.choice("dosed", get_args(DosedBy), "sum"))
    elif kind == "state":
        line_ml = read.number("line_ml", None, *VESSEL_ML) if read.data.get("line_ml") is not None else None
        found = State(read.choice("state", get_args(Reaching), "cover"), line_ml)
    elif kind == "all":
        found = All(read.number("share", 1.0, _TRACE, 1.0, message("above 0 and at most all of it")))
    else:
        read.fault(
            message("The amount is empty") if kind is None else message("“{kind}” is no kind of amount", kind=kind),
            "kind",
            message("it is fixed, ratio, percent, target, state or all"),
            code="missing",
        )
    return found if len(faults) == before else None


def _parameter(read: ObjectReader, name: str, param: Param, default: Any) -> Any:
    """Returns one of a verb's own parameters, as its class declares it."""
    if isinstance(param, NumberParam):
        if param.optional and read.data.get(name) in (None, ""):
            return None
        return read.number(name, default, param.low, param.high, param.words)
    if isinstance(param, RangeParam):
        found = read.range(name, param.ceiling)
        return default if found is None else found
    if isinstance(param, ChoiceParam):
        return read.choice(name, param.allowed, default)
    return bool(read.data.get(name, default)) if isinstance(param, FlagParam) else read.text(name, default)


_TRACE, _MOST_RATIO = 1e-6, 1000.0
"""Least and largest ratio or percent: beyond them a spec is a slip of the pen."""
_SHARED = {"id", "verb", "vessel", "lines", "note", "check", "into", "by_product", "gear", "people", "hands_on_min", "only", "keep_sample"}


def _step_values(verb: str, read: ObjectReader, vessels: dict[str, Vessel]) -> dict[str, Any]:
    """Returns what a step of this verb holds besides its lines: its own parameters, and those of every step. Collects a fault for an unknown member."""
    kind = VERBS[verb]
    params = kind.params()
    for name in sorted(set(read.data) - _SHARED - set(params)):
        if name not in _EVERY_PARAM:
            read.fault(
                message("“{name}” is nothing that a step says", name=name),
                name,
                message("{verb} knows {names}", verb=verb, names=listed(params, "comma"))
                if params
                else message("{verb} knows nothing of its own", verb=verb),
                code="unknown_word",
            )
    defaults = {f.name: f.default for f in dataclasses.fields(kind)}
    values = {name: _parameter(read, name, param, defaults[name]) for name, param in params.items()}
    into = read.text("into")
    if into and into not in vessels:
        read.fault(
            message("There is no vessel “{into}”", into=into),
            "into",
            remedy=message("Name one of the spec's vessels"),
            code="unknown_reference",
        )
        into = ""
    hands = (
        read.number("hands_on_min", None, 0.0, 1440.0, message("from 0 minutes to a day"))
        if read.data.get("hands_on_min") is not None
        else None
    )
    people = round(read.number("people", 1.0, 1.0, 20.0, message("from 1 to 20")))
    gear = tuple(item for item in read.items("gear") if isinstance(item, str))
    own = {"into": into, "by_product": read.text("by_product"), "gear": gear, "people": people, "hands_on_min": hands}
    return {**values, **own, "keep_sample": read.data.get("keep_sample") is True}


_EVERY_PARAM = {name for kind in VERBS.values() for name in kind.params()}
"""A draft that changed its verb may still hold another verb's figures: they wait, unread."""


def _served_in(read: ObjectReader, faults: list[Refusal]) -> ServedIn | None:
    """Returns the drink that a prep is for; None if it is unknown. A dose larger than its drink is a fault."""
    if read.data.get("served_in") is None:
        return None
    before, at = len(faults), ObjectReader(read.data["served_in"], "served_in", faults)
    dose = at.number("dose_ml", None, 0.01, 5000.0, message("from 0.01 mL to 5 L"))
    size = at.number("drink_ml", None, 1.0, 5000.0, message("from 1 mL to 5 L"))
    alcoholic = at.data.get("alcoholic")
    if alcoholic is not None and not isinstance(alcoholic, bool):
        at.fault(message("This is yes, no, or left out"), "alcoholic")
    if len(faults) > before:
        return None
    if dose > size:
        at.fault(
            message("{dose} mL do not go into a drink of {size} mL", dose=Given(dose), size=Given(size)),
            "dose_ml",
            message("at most {size} mL", size=Given(size)),
            code="out_of_bounds",
        )
        return None
    return ServedIn(dose, size, alcoholic)


_PART = message("Make a spec of its own out of a part")
_BUDGETS: tuple[tuple[str, int, Message, Message], ...] = (
    ("vessels", budgets.VESSELS, message("vessels"), NOTHING),
    ("doubts", budgets.DOUBTS, message("open questions"), NOTHING),
    ("claims", budgets.DOUBTS, message("claims"), NOTHING),
    ("goals", budgets.GOALS, message("goals"), NOTHING),
    ("steps", budgets.STEPS, message("steps"), _PART),
)
"""Lists of a spec file: most entries, their name, and what to do about more."""


def _check_format(data: Any) -> None:
    """Raises Refusal for what is not a spec file, and for a version that is not known here."""
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise Refusal(
            message("This is no Ulsek spec file"),
            "format",
            message("format must be “{format}”", format=FORMAT),
            message("Open a spec file"),
            "not_ours",
        )
    if not isinstance(data.get("version"), int) or data["version"] > FORMAT_VERSION or data["version"] < 1:
        raise Refusal(
            message("Version {version} of the spec file is not known here", version=str(data.get("version"))),
            "version",
            message("this Ulsek reads 1 to {format_version}", format_version=FORMAT_VERSION),
            message("Update Ulsek, or export again"),
            "newer",
        )


def _vessels(read: ObjectReader) -> dict[str, Vessel]:
    """Returns the vessels of a spec by id; one named "vessel" if the file has none."""
    found: dict[str, Vessel] = {}
    taken: set[str] = set()
    for position, item in enumerate(read.items("vessels"), 1):
        at = ObjectReader(item, f"vessels/{position}", read.faults)
        identity = at.identity(taken, "vessel", position)
        capacity = at.number("capacity_ml", None, *VESSEL_ML) if at.data.get("capacity_ml") is not None else None
        tare = at.number("tare_g", None, *TARE_G) if at.data.get("tare_g") is not None else None
        line = at.number("fill_line_ml", None, *VESSEL_ML) if at.data.get("fill_line_ml") is not None else None
        found[identity] = Vessel(identity, at.text("name") or identity, capacity, tare, line)
    return found or {"vessel": Vessel("vessel", "vessel")}


def _goals(read: ObjectReader) -> Iterator[Goal]:
    for position, item in enumerate(read.items("goals")):
        at = ObjectReader(item, f"goals/{position}", read.faults)
        prop = at.choice("property", get_args(TargetProperty), "brix")
        low, high, words = FIGURES[prop].bounds
        value = at.number("value", None, low, high, words)
        yield Goal(prop, value, at.number("tolerance", None, 0.0, high, message("zero or more")))


class _StepReader:
    """Reads the steps of a spec file. Ids of steps and lines are unique in the file; `mentioned` are the materials of all lines, readable or not."""

    def __init__(self, read: ObjectReader, locale: Locale, vessels: dict[str, Vessel]) -> None:
        self._items, self._faults, self._locale, self._vessels = read.items("steps"), read.faults, locale, vessels
        self._step_ids: set[str] = set()
        self.line_ids: set[str] = set()
        self.mentioned: list[str] = []

    def steps(self) -> Iterator[Step]:
        """Yields the steps in their order, each with those of its lines that can be read."""
        for position, item in enumerate(self._items, 1):
            at = ObjectReader(item, f"steps/{item.get('id', position) if isinstance(item, dict) else position}", self._faults)
            identity = at.identity(self._step_ids, "s", position)
            verb = at.choice("verb", tuple(VERBS), "combine")
            vessel = at.choice("vessel", tuple(self._vessels), next(iter(self._vessels)))
            lines = tuple(self._lines(at, identity))
            if lines and not VERBS[verb].takes_lines:
                at.fault(
                    message("Nothing goes in while you {replace}", replace=verb.replace("_", " ")),
                    "lines",
                    remedy=message("Put it in an earlier step"),
                )
            yield VERBS[verb](identity, vessel, lines, at.text("note"), at.text("check"), **_step_values(verb, at, self._vessels))

    def _lines(self, at: ObjectReader, step_id: str) -> Iterator[Line]:
        for place, entry in enumerate(at.items("lines"), 1):
            read = ObjectReader(entry, f"{at.where}/lines/{entry.get('id', place) if isinstance(entry, dict) else place}", self._faults)
            line_id = read.identity(self.line_ids, f"{step_id}.", place)
            material = read.text("material")
            own = material.startswith((BY_PRODUCT, VESSEL))
            if not own:
                self.mentioned.append(material)
            if not material:
                read.fault(message("The line names no material"), "material", remedy=message("Choose one from Stores"), code="missing")
            amount = _amount(read.data.get("amount"), f"{read.where}/amount", self._locale, self._faults)
            if isinstance(amount, All) and not own:
                read.fault(
                    message("“All” is measured of a by-product or a vessel"),
                    "amount",
                    remedy=message("Give an amount of its own"),
                    code="unknown_reference",
                )
            elif material and amount is not None:
                yield Line(line_id, material, amount, read.text("note"))


def read_spec(data: Any, *, strict: bool = True, chosen: Mapping[str, str] | None = None) -> Spec:
    """Returns a spec from its open file form, with the alternatives `chosen` by option group instead of the file's own.

    If not `strict`, lines that cannot be read are omitted and every fault is listed in `Spec.faults`. Raises Refusal for another format, a later version of
    this one and a file beyond its budgets; if `strict`, also for the first fault.
    """
    _check_format(data)
    data, groups, faults = settled(data, chosen)
    read = ObjectReader(data, "", list(faults))
    read.where = "spec"
    locale: Locale = read.choice("locale", LOCALES, "metric")
    for key, most, what, remedy in _BUDGETS:
        budgets.within(read.items(key), most, what, key, remedy)
    vessels = _vessels(read)
    reader = _StepReader(read, locale, vessels)
    steps = tuple(reader.steps())
    budgets.within(reader.line_ids, budgets.LINES, message("lines"), "steps", _PART)
    driver = data.get("driver")
    spec = Spec(
        id=read.text("id") or "spec",
        name=read.text("name"),
        family=read.text("family") or "other",
        steps=steps,
        vessels=vessels,
        driver=driver if isinstance(driver, str) and driver else None,
        goals=tuple(_goals(read)),
        serve_ml=read.number("serve_ml", 30.0, 0.1, 5000.0, message("from 0.1 mL to 5 L")),
        locale=locale,
        note=read.text("note", most=MOST_NOTE),
        source=read.text("source"),
        permission=read.text("permission"),
        options=groups,
        doubts=tuple(doubts_in(read)),
        claims=tuple(claims_in(read)),
        served_in=_served_in(read, read.faults),
        mentioned=tuple(dict.fromkeys(reader.mentioned)),
        own_materials=data["materials"] if isinstance(data.get("materials"), dict) else {},
    )
    found = [*read.faults, *_reference_faults(spec, reader.line_ids)]
    if strict and found:
        raise found[0]
    return dataclasses.replace(spec, faults=tuple(found))


def _reference_faults(spec: Spec, line_ids: Collection[str]) -> Iterator[Refusal]:
    yield from reference_faults(spec)
    yield from stream_faults(spec)
    if spec.driver is not None and spec.driver not in line_ids:
        yield Refusal(
            message("The batch is set by “{driver}”, which is no line", driver=spec.driver),
            "driver",
            remedy=message("Name a line of this spec"),
            code="unknown_reference",
        )


def canonical(data: Any) -> str:
    """Returns the one text of a file: keys sorted, shortest numbers, whole floats as integers, two spaces, a newline at the end.

    The same spec gives the same bytes, whoever wrote it. Raises Refusal for numbers that are not finite.
    """

    def plain(value: Any) -> Any:
        if isinstance(value, float):
            if not math.isfinite(value):
                raise Refusal(message("A file cannot hold a number that is not finite"), code="not_finite")
            return int(value) if value.is_integer() and abs(value) < 1e15 else value
        if isinstance(value, dict):
            return {key: plain(item) for key, item in value.items()}
        if isinstance(value, list | tuple):
            return [plain(item) for item in value]
        return value

    return json.dumps(plain(data), ensure_ascii=False, indent=2, sort_keys=True) + "\n"
