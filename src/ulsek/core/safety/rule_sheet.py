"""The rules of a house as a sheet to read and to change one by one: every figure that a house may set, beside the one that ships."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..base.messages import Message, message
from .house_rules import DATED_TABLES, FORMAT, TABLES, VERSION, read_rules, shipped, tables
from .spec_quality import TABLE as SPEC_QUALITY

_LABELS: Mapping[str, tuple[Message, str]] = {
    "per_serve_mg": (message("in a serve at most"), "mg"),
    "per_litre_mg": (message("in a litre at most"), "mg"),
    "alcoholic_per_litre_mg": (message("in a litre with alcohol at most"), "mg"),
    "alcohol_free_per_litre_mg": (message("in a litre without alcohol at most"), "mg"),
    "days": (message("keeps"), "d"),
    "at_most_c": (message("kept at most at"), "°C"),
    "most": (message("at most"), ""),
    "least": (message("at least"), ""),
    "aw_below": (message("water activity below"), ""),
    "aw_most": (message("water activity at most"), ""),
    "ph_below": (message("pH below"), ""),
    "ph_most": (message("pH at most"), ""),
}
_TITLES: Mapping[str, tuple[Message, Message]] = {
    "limits": (
        message("Limits"),
        message("How much of a restricted substance a drink may hold. What goes over is stopped at the release check."),
    ),
    "classes": (message("What goes in"), message("How long it keeps where nothing else is shown to keep it: the last day on every label.")),
    "made_classes": (message("What is made"), message("How long it keeps by what was done to it.")),
    "barriers": (message("What keeps it"), message("What must be so before it counts as kept: strength, sugar, acid.")),
    "quality": (message("How long it is good"), message("When its taste goes, before it is unsafe.")),
    "names": (message("Names with a legal meaning"), message("What a drink must be to be called so.")),
}


@dataclass(frozen=True, slots=True)
class RuleFigure:
    """A figure that a house may set: what it is, its unit, its value now, and the one that ships."""

    name: str
    label: Message
    unit: str
    value: float
    ships: float


@dataclass(frozen=True, slots=True)
class RuleRow:
    """A rule: its key in the file, its words, its figures, where it comes from and since when, and whether it is the house's own."""

    key: str
    words: str
    figures: tuple[RuleFigure, ...]
    source: str
    dated: str
    own: bool


@dataclass(frozen=True, slots=True)
class RuleTable:
    """A table of rules, what it does, and what loosening one of them takes: `authority`, or `by` and `why`."""

    key: str
    title: Message
    about: Message
    takes: tuple[str, ...]
    rows: tuple[RuleRow, ...]


@dataclass(frozen=True, slots=True)
class ProcedureRow:
    """A procedure of hot filling that the house's authority has approved: filled at [°C], held for [min], at a pH of at most, kept for so many days."""

    name: str
    fill_c: float
    hold_min: float
    most_ph: float
    days: int
    cap: str
    glass: str
    authority: str
    source: str
    dated: str


@dataclass(frozen=True, slots=True)
class WordRow:
    """What an imprecise word of a recipe holds, in g or ml, and whether it was weighed in this house."""

    key: str
    unit: str
    value: float
    low: float
    high: float
    own: bool


@dataclass(frozen=True, slots=True)
class SpecQualityRow:
    """For how many days [days] the house finds a spec good, by its id (`key`): who decided it, why, whence and since when."""

    key: str
    name: str
    days: int
    by: str
    why: str
    source: str
    dated: str


@dataclass(frozen=True, slots=True)
class RuleSheet:
    """Every rule that a house may set: figures table by table, its procedures of hot filling (none ships), what imprecise words hold, and how long it finds its specs
    good (none ships).
    """

    tables: tuple[RuleTable, ...]
    procedures: tuple[ProcedureRow, ...]
    words: tuple[WordRow, ...]
    spec_quality: tuple[SpecQualityRow, ...]


SHEET_TABLES = (*DATED_TABLES, "words")
"""Tables whose entries a lead sets one by one."""


def rule_sheet(data: Mapping[str, Any]) -> RuleSheet:
    """Returns the rules of a house's file over those that ship. Raises Refusal as `read_rules` does."""
    standing = tables(read_rules(data))
    own = data.get("words", {})
    return RuleSheet(
        _tables(data),
        tuple(
            ProcedureRow(name, **{part: rule[part] for part in ProcedureRow.__dataclass_fields__ if part != "name"})
            for name, rule in standing["procedures"].items()
        ),
        tuple(WordRow(key, word["unit"], word["value"], word["low"], word["high"], key in own) for key, word in standing["words"].items()),
        tuple(
            SpecQualityRow(key, **entry) for key, entry in sorted(data.get(SPEC_QUALITY, {}).items(), key=lambda item: str(item[1]["name"]))
        ),
    )


def _tables(data: Mapping[str, Any]) -> tuple[RuleTable, ...]:
    now, ships = tables(read_rules(data)), tables(shipped())
    found = []
    for key, table in TABLES.items():
        own = data.get(key, {})
        rows = []
        for name, rule in now[key].items():
            figures = tuple(
                RuleFigure(figure, *_LABELS[figure], float(rule[figure]), float(ships[key][name][figure]))
                for figure in table.looser_up
                if figure in rule and isinstance(rule[figure], int | float)
            )
            if figures:
                words = str(rule.get("name") or (name if key == "names" else rule.get("words", name)))
                rows.append(RuleRow(name, words, figures, str(rule.get("source", "")), str(rule.get("dated", "")), name in own))
        title, about = _TITLES[key]
        found.append(RuleTable(key, title, about, table.takes, tuple(rows)))
    return tuple(found)


def with_rule(data: Mapping[str, Any], table: str, key: str, entry: Mapping[str, Any] | None) -> dict[str, Any]:
    """Returns a house's file with its entry for one rule; with None that rule is as it ships. What the entry may be is for `read_rules` to say."""
    own = {name: rule for name, rule in dict(data.get(table, {})).items() if name != key}
    if entry is not None:
        own[key] = dict(entry)
    changed = {**data, "format": FORMAT, "version": VERSION, table: own}
    if not own:
        del changed[table]
    return changed
