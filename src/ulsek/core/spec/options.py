"""Option groups: alternatives for one part of a spec, each with its own steps and lines; one of each group is chosen.

A step or line of an alternative has ``"only": "group/choice"``. Choosing removes those of the others, and leaves a spec without options.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..base.free_text import free_text
from ..base.messages import listed, message
from ..base.refusals import Refusal

_MOST_NOTE = 2000
"""Letters of a note on one alternative."""
MOST_GROUPS, MOST_CHOICES = 8, 8


@dataclass(frozen=True, slots=True)
class Choice:
    """One alternative: its name, and what it costs and gains in its author's words."""

    id: str
    name: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class OptionGroup:
    """Alternatives for one part of a spec; `chosen` is the one that counts."""

    id: str
    name: str
    choices: tuple[Choice, ...]
    chosen: str


def _named(item: Any, where: str) -> tuple[str, str]:
    key = item.get("id") if isinstance(item, dict) else None
    if not isinstance(key, str) or not key or "/" in key:
        raise Refusal(message("This needs an id"), f"{where}/id", message("a short text without a slash"), code="missing")
    name = item.get("name", key)
    return key, name if isinstance(name, str) else key


def _id(item: Any, position: int) -> Any:
    return item.get("id", position) if isinstance(item, dict) else position


def _group(item: Any, where: str) -> OptionGroup:
    key, name = _named(item, where)
    raw = item.get("choices")
    if not isinstance(raw, list) or not 2 <= len(raw) <= MOST_CHOICES:
        raise Refusal(
            message("“{name}” offers nothing to choose from", name=name),
            f"{where}/choices",
            message("2 to {most} alternatives", most=MOST_CHOICES),
            code="missing",
        )
    choices = tuple(
        Choice(*_named(choice, f"{where}/choices/{n}"), free_text(choice.get("note"), f"{where}/choices/{n}/note", _MOST_NOTE))
        for n, choice in enumerate(raw, 1)
    )
    known = [choice.id for choice in choices]
    if len(set(known)) < len(known):
        raise Refusal(message("An alternative stands twice"), f"{where}/choices", message("every id stands once"), code="twice")
    chosen = item.get("chosen", known[0])
    if chosen not in known:
        raise Refusal(
            message("“{chosen}” is no alternative of “{name}”", chosen=chosen, name=name),
            f"{where}/chosen",
            message("there are {known}", known=listed(known, "comma")),
            message("Choose one"),
            "unknown_reference",
        )
    return OptionGroup(key, name, choices, chosen)


def groups_of(data: Mapping[str, Any], chosen: Mapping[str, str] | None = None) -> tuple[OptionGroup, ...]:
    """Returns the option groups of a spec file, with `chosen` alternatives by group over its own. Raises Refusal, at its place, for what cannot be read or
    chosen.
    """
    raw = data.get("options", [])
    if not isinstance(raw, list) or len(raw) > MOST_GROUPS:
        raise Refusal(
            message("Options must be a list"),
            "options",
            message("of at most {most} groups", most=MOST_GROUPS),
            code="unreadable",
        )
    wanted = chosen or {}
    groups = tuple(
        _group({**item, "chosen": wanted[item["id"]]} if isinstance(item, dict) and item.get("id") in wanted else item, f"options/{n}")
        for n, item in enumerate(raw, 1)
    )
    known = [group.id for group in groups]
    if len(set(known)) < len(known):
        raise Refusal(message("A group of options stands twice"), "options", message("every id stands once"), code="twice")
    for name in wanted:
        if name not in known:
            raise Refusal(
                message("There is no option “{name}”", name=name),
                f"options/{name}",
                message("there are {names}", names=listed(known, "comma")) if known else message("there are none"),
                message("Choose one"),
                "unknown_reference",
            )
    return groups


def settled(
    data: Mapping[str, Any], chosen: Mapping[str, str] | None = None
) -> tuple[dict[str, Any], tuple[OptionGroup, ...], list[Refusal]]:
    """Returns (a spec file with only the chosen alternatives in it, its groups, its faults). A file without options is returned as it is."""
    try:
        groups = groups_of(data, chosen)
    except Refusal as refusal:
        return dict(data), (), [refusal]
    if not groups:
        return dict(data), (), []
    faults: list[Refusal] = []
    choices = {f"{group.id}/{choice.id}": choice.id == group.chosen for group in groups for choice in group.choices}

    def holds(item: Any, where: str) -> bool:
        tag = item.get("only") if isinstance(item, dict) else None
        if tag is not None and tag not in choices:
            faults.append(
                Refusal(
                    message("“{tag}” is no alternative", tag=tag),
                    f"{where}/only",
                    message("there are {choices}", choices=listed(choices, "comma")),
                    message("Choose one of them"),
                    "unknown_reference",
                )
            )
        return tag is None or choices.get(tag, True)

    def without(step: Any, where: str) -> Any:
        lines = step.get("lines") if isinstance(step, dict) else None
        if not isinstance(lines, list):
            return step
        return {**step, "lines": [line for n, line in enumerate(lines, 1) if holds(line, f"{where}/lines/{_id(line, n)}")]}

    # The choice is stored in the file too, so that choosing again changes nothing.
    options = [{**item, "chosen": group.chosen} for item, group in zip(data["options"], groups, strict=True)]
    steps: Any = data.get("steps")
    corrected_time = [(step, f"steps/{_id(step, n)}") for n, step in enumerate(steps if isinstance(steps, list) else [], 1)]
    return (
        {**data, "options": options, "steps": [without(step, where) for step, where in corrected_time if holds(step, where)]},
        groups,
        faults,
    )
