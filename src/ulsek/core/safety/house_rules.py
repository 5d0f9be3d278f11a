"""House rules: limits, keeping rules, legal names and imprecise words that a house keeps in its own file, over those that ship.

Anything may be made stricter. A looser limit or safety date needs the word of the house's authority, a longer quality date a name and a reason; each states its
source and date.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from copy import deepcopy
from dataclasses import dataclass, field
from functools import cache, lru_cache
from typing import Any

from ..base.messages import Given, listed, message
from ..base.refusals import Refusal
from ..properties.water import pressure_at_kpa
from .hazards import starting_limits
from .rule_entries import check_provenance, entries_of, figure_of, words_of
from .shelf_choices import read_shelf
from .shelf_life import HouseDate
from .shelf_life_rules import starting_rules
from .shipped_rules import kitchen_words, read_place, starting_names, starting_offers
from .spec_quality import TABLE as SPEC_QUALITY
from .spec_quality import read_spec_quality

FORMAT, VERSION = "ulsek.rules", 1


@dataclass(frozen=True, slots=True)
class Rules:
    """The rules of a house, each in the form of the data file that ships: `limits`, `keeping`, `names`, `words`, `leftovers`; `altitude_m`, its height
    above the sea [m]; `shelf`, the material that it means by a name which two have; `place`, whose law its names are judged by (empty: every place's); and `spec_quality`, how long
    it finds a spec good, by the spec's id.
    """

    limits: Mapping[str, Any]
    keeping: Mapping[str, Any]
    names: Mapping[str, Any]
    words: Mapping[str, Any]
    leftovers: Mapping[str, Any]
    altitude_m: float = 0.0
    shelf: Mapping[str, str] = field(default_factory=dict)
    place: str = ""
    spec_quality: Mapping[str, HouseDate] = field(default_factory=dict)

    @property
    def pressure_kpa(self) -> float:
        """Air pressure at the house's height [kPa]."""
        return pressure_at_kpa(self.altitude_m)


@cache
def shipped() -> Rules:
    """Returns the rules of a house that has written none."""
    return Rules(starting_limits(), starting_rules(), starting_names(), kitchen_words(), starting_offers())


@dataclass(frozen=True, slots=True)
class _Table:
    """One table of rules: where it stands, which figures a house may set (True if more is looser), and what loosening one takes."""

    of: str
    within: str
    looser_up: Mapping[str, bool]
    takes: tuple[str, ...]


_AUTHORITY, _NAMED = ("authority",), ("by", "why")
TABLES = {
    "limits": _Table(
        "limits",
        "substances",
        {"per_serve_mg": True, "per_litre_mg": True, "alcoholic_per_litre_mg": True, "alcohol_free_per_litre_mg": True},
        _AUTHORITY,
    ),
    "classes": _Table("keeping", "classes", {"days": True, "at_most_c": True}, _AUTHORITY),
    "made_classes": _Table("keeping", "made_classes", {"days": True, "at_most_c": True}, _AUTHORITY),
    "barriers": _Table(
        "keeping",
        "barriers",
        {"most": True, "least": False, "at_most_c": True, "aw_below": True, "aw_most": True, "ph_below": True, "ph_most": True},
        _AUTHORITY,
    ),
    "quality": _Table("keeping", "quality", {"days": True}, _NAMED),
    "names": _Table("names", "rules", {"most": True, "least": False}, _AUTHORITY),
}
"""The tables of a house's file whose figures it may set one by one."""
DATED_TABLES = (*TABLES, "procedures", SPEC_QUALITY)
"""Tables of a house's file whose entries each say the day from which they hold."""
_WORD_UNITS = ("g", "ml")
_BEFORE_TABLES = {"water_activity": ("aw_below", ("aw_most",)), "ph": ("ph_below", ("ph_most",))}
"""Barriers that a rules file of before the combined tables bounds by `most`: the bound that stands for it now, and those of the combined rows."""
_PROCEDURE = {"fill_c": (80.0, 100.0), "hold_min": (0.5, 60.0), "most_ph": (2.0, 4.6), "days": (1.0, 365.0)}
"""Least and most of each figure of an approved procedure of hot filling: temperature [°C], minutes held, pH, days."""
_PROCEDURE_WORDS = ("cap", "glass", "authority")
_KEYS: Mapping[str, Callable[[Mapping[str, Any]], str]] = {
    "quality": lambda rule: str(rule["words"]),
    "names": lambda rule: f"{rule['word']} in {rule['place']}",
}
"""The key of a rule in a table that is a list."""


def _changed(table: _Table, rule: Mapping[str, Any], entry: Mapping[str, Any], where: str) -> dict[str, Any]:
    """Returns a rule with the house's entry over it. Raises Refusal for figures that the rule does not have, and for loosening without what it takes."""
    check_provenance(entry, where)
    known = {*table.looser_up, *_AUTHORITY, *_NAMED, "source", "dated", "words"}
    for name in entry:
        if name not in known or (name in table.looser_up and name not in rule):
            allowed = ", ".join(name for name in table.looser_up if name in rule)
            raise Refusal(
                message("This rule has no “{name}”", name=name),
                f"{where}/{name}",
                message("a house may set {allowed}", allowed=allowed),
                code="unknown_field",
            )
    changed = dict(rule)
    for name, up in table.looser_up.items():
        if name not in entry:
            continue
        # Tightening is always allowed; loosening takes the word of whoever answers for it.
        value = figure_of(entry[name], f"{where}/{name}")
        # “Looser” is up for days and limits, and down for a least strength.
        looser = value > rule[name] if up else value < rule[name]
        for needed in table.takes if looser else ():
            rule_now = Given(rule[name])
            attached = message("It stands at {rule}; to loosen it takes your authority's word attached", rule=rule_now)
            told = message("It stands at {rule}; to loosen it takes who decided it, and why", rule=rule_now)
            words_of(entry, needed, where, attached if needed == "authority" else told)
        # Whole days stay whole, so that a date never falls between two of them.
        changed[name] = int(value) if isinstance(rule[name], int) and value.is_integer() else value
    return {**changed, **{name: entry[name] for name in ("source", "words", "dated") if name in entry}}


def _before_tables(rules: Any, data: Mapping[str, Any]) -> dict[str, Any]:
    """Returns entries for barriers with a bound `most` of an older file under today's names. What they tighten, they tighten in the combined rows too."""
    found = dict(data)
    for key, (bound, combined) in _BEFORE_TABLES.items():
        entry = data.get(key)
        if not isinstance(entry, dict) or "most" not in entry:
            continue
        rest = {name: value for name, value in entry.items() if name != "most"}
        found[key] = {**rest, bound: entry["most"]}
        # The older file knew one bound for each barrier; its author meant every row that uses the figure.
        most = figure_of(entry["most"], f"barriers/{key}/most")
        for rule in rules["barriers"].values():
            rule.update({name: most for name in combined if name in rule and most < rule[name]})
    return found


_OF_ANY_DRINK = ("alcoholic_per_litre_mg", "alcohol_free_per_litre_mg")


def _before_drinks(rules: Any, data: Mapping[str, Any]) -> dict[str, Any]:
    """Returns entries for limits of an older file that bound a drink alike with and without alcohol, as the two bounds of today; a bound that was stricter
    already stays.
    """
    found = dict(data)
    for key, entry in data.items():
        rule = rules["substances"].get(key, {})
        if not isinstance(entry, dict) or "per_litre_mg" not in entry or not set(_OF_ANY_DRINK) & set(rule):
            continue
        most = figure_of(entry["per_litre_mg"], f"limits/{key}/per_litre_mg")
        rest = {name: value for name, value in entry.items() if name != "per_litre_mg"}
        # Only an authority's word may put a bound above one that ships today.
        found[key] = rest | {name: most if entry.get("authority") else min(most, rule[name]) for name in _OF_ANY_DRINK if name in rule}
    return found


def _hold_made_classes(rules: Any, data: Mapping[str, Any]) -> None:
    """Limits the classes of made things to the class of their raw thing that a house tightened, until the house sets them too. Changes them in place."""
    for key, rule in data.get("classes", {}).items():
        # A house that distrusts the raw thing distrusts what is made of it, until it says otherwise.
        if rules["classes"][key]["days"] >= shipped().keeping["classes"][key]["days"] or "days" not in rule:
            continue
        for name, made in rules["made_classes"].items():
            if name not in data.get("made_classes", {}):
                made["replaces"] = [replaced for replaced in made["replaces"] if replaced != key]


def _procedures(rules: Any, data: Any) -> None:
    """Sets a house's approved procedures of hot filling, each with what it asks for and its authority's word. None ships."""
    for key, entry in entries_of(data, "procedures").items():
        where = f"procedures/{key}"
        check_provenance(entry, where)
        for name in _PROCEDURE_WORDS:
            words_of(entry, name, where, message("A procedure names its cap, glass made for heat, and who approved it"))
        unknown = sorted(set(entry) - {*_PROCEDURE, *_PROCEDURE_WORDS, "source", "dated"})
        if unknown:
            raise Refusal(
                message("A procedure has no “{unknown}”", unknown=unknown[0]),
                f"{where}/{unknown[0]}",
                message("it has {procedure}", procedure=listed(_PROCEDURE, "comma")),
                code="unknown_field",
            )
        for name, (low, high) in _PROCEDURE.items():
            # Even an authority's procedure has bounds: outside them a figure is a slip of the pen.
            value = figure_of(entry.get(name), f"{where}/{name}")
            if not low <= value <= high:
                raise Refusal(
                    message("{value} cannot be", value=Given(value)),
                    f"{where}/{name}",
                    message("from {low} to {high}", low=Given(low), high=Given(high)),
                    code="out_of_bounds",
                )
        rules["procedures"][key] = {**entry, "days": int(entry["days"])}


_BEFORE: Mapping[str, Callable[[Any, Mapping[str, Any]], dict[str, Any]]] = {"barriers": _before_tables, "limits": _before_drinks}


def _with_table(rules: Any, name: str, data: Any) -> None:
    """Writes a house's entries for one table over `rules`, in place."""
    table = TABLES[name]
    standing = rules[table.within]
    in_rows = isinstance(standing, list)
    places = {_KEYS[name](rule): n for n, rule in enumerate(standing)} if in_rows else {key: key for key in standing}
    entries = entries_of(data, name)
    if name in _BEFORE:
        entries = _BEFORE[name](rules, entries)
    for key, entry in entries.items():
        where = f"{name}/{key}"
        if key not in places:
            raise Refusal(
                message("There is no rule “{key}”", key=key),
                where,
                message("there are {places}", places=listed(places, "comma")),
                message("Choose one of them"),
                "unknown_reference",
            )
        standing[places[key]] = _changed(table, standing[places[key]], entry, where)


def _words(rules: Any, data: Any) -> None:
    """Sets a house's own handful and others: `unit` g or ml, `value` with `low` and `high`, as weighed there."""
    for key, entry in entries_of(data, "words").items():
        where = f"words/{key}"
        if entry.get("unit") not in _WORD_UNITS:
            raise Refusal(
                message("A {key} of what?", key=key),
                f"{where}/unit",
                message("g or ml"),
                message("Weigh it, or measure it"),
                "out_of_bounds",
            )
        value, low, high = (figure_of(entry.get(name), f"{where}/{name}") for name in ("value", "low", "high"))
        if not 0 < low <= value <= high:
            raise Refusal(
                message(
                    "A {key} from {low} to {high} does not hold {value}", key=key, low=Given(low), high=Given(high), value=Given(value)
                ),
                where,
                message("0 < low ≤ value ≤ high"),
                code="out_of_bounds",
            )
        rules["words"][key] = {"unit": entry["unit"], "value": value, "low": low, "high": high}


def _leftovers(rules: Any, data: Any) -> None:
    """Sets whether waste takes its share of the cost, by mass; it does not unless the house says so."""
    for key, value in (data if isinstance(data, dict) else {"": None}).items():
        if key != "binned_takes_share" or not isinstance(value, bool):
            raise Refusal(
                message("A house says whether what is binned takes its share"),
                f"leftovers/{key}",
                message("binned_takes_share: true or false"),
                code="unreadable",
            )
        rules[key] = value


def _altitude(value: Any) -> float:
    """Returns a height above the sea [m]. Raises Refusal outside its bounds."""
    height = figure_of(value, "altitude_m") if value is not None else 0.0
    try:
        pressure_at_kpa(height)
    except Refusal as refusal:
        raise refusal.at("altitude_m") from None
    return height


def read_rules(data: Any) -> Rules:
    """Returns the rules of a house's file over the rules that ship; an empty file changes nothing. Raises Refusal, at its place, for what a house may not set.

    ``{"format": "ulsek.rules", "version": 1, "classes": {"fresh_juice": {"days": 2, "source": "house, after two warm summers", "dated": "2026-11-25"}}}``
    """
    if not data:
        return shipped()
    try:
        return _read_once(json.dumps(data, sort_keys=True, allow_nan=False))
    except (TypeError, ValueError):
        # No JSON: it is read as it is, and refused at its place.
        return _read(data)


@lru_cache(maxsize=64)
def _read_once(text: str) -> Rules:
    """Returns the rules of a file, cached, because every evaluation asks for them."""
    return _read(json.loads(text))


def _read(data: Any) -> Rules:
    if not isinstance(data, dict) or data.get("format") != FORMAT or data.get("version") != VERSION:
        raise Refusal(
            message("This is no Ulsek rules file"),
            "format",
            message("format must be “{format}”, version {version}", format=FORMAT, version=VERSION),
            code="not_ours",
        )
    known = (*DATED_TABLES, "words", "leftovers", "altitude_m", "shelf", "place")
    unknown = sorted(set(data) - {"format", "version", *known})
    if unknown:
        raise Refusal(
            message("There is no table “{unknown}”", unknown=unknown[0]),
            unknown[0],
            message("there are {known}", known=listed(known, "comma")),
            code="unknown_field",
        )
    base = shipped()
    # The rules that ship are cached and shared: a house's entries go over a copy.
    parts = {of: deepcopy(dict(getattr(base, of))) for of in Rules.__slots__ if of in ("limits", "keeping", "names", "words", "leftovers")}
    for name, table in TABLES.items():
        _with_table(parts[table.of], name, data.get(name, {}))
    _hold_made_classes(parts["keeping"], data)
    _procedures(parts["keeping"], data.get("procedures", {}))
    _words(parts["words"], data.get("words", {}))
    _leftovers(parts["leftovers"], data.get("leftovers", {}))
    shelf, place = read_shelf(data.get("shelf", {})), read_place(data.get("place", ""))
    tasted = read_spec_quality(data.get(SPEC_QUALITY, {}))
    return Rules(**parts, altitude_m=_altitude(data.get("altitude_m", 0.0)), shelf=shelf, place=place, spec_quality=tasted)


def tables(rules: Rules) -> dict[str, dict[str, Any]]:
    """Returns every rule by table and key, as the file names them."""
    found: dict[str, dict[str, Any]] = {}
    for name, table in TABLES.items():
        standing = getattr(rules, table.of)[table.within]
        found[name] = {_KEYS[name](rule): rule for rule in standing} if isinstance(standing, list) else dict(standing)
    return {**found, "procedures": dict(rules.keeping["procedures"]), "words": dict(rules.words["words"])}
