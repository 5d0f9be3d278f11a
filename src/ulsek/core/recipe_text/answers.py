"""Answers to doubts: what each sets in the draft, in the form of the spec file, and the draft with one of them taken."""

from __future__ import annotations

import copy
from collections.abc import Iterator, Mapping
from typing import Any

from ..base.messages import message
from ..base.refusals import Refusal
from .doubts import Form

SAME_CAUSE = ("which_ounce", "which_pint", "parts_basis", "percent_of_what", "thousands", "no_unit", "on_the_shelf")
"""Codes of doubts that have one cause in the whole text: the answer to one, by its position, is the answer to every other doubt of that code in the draft."""


def answered(body: Mapping[str, Any], doubt: int, answer: int) -> Form:
    """Returns a draft with an answer taken [positions from 0]: its changes made, its doubt gone, and every doubt of the same cause answered alike.

    Raises Refusal for a doubt or an answer that the draft does not have.
    """
    made = copy.deepcopy(dict(body))
    doubts = made.get("doubts") or []
    if not 0 <= doubt < len(doubts) or not 0 <= answer < len(doubts[doubt].get("answers") or ()):
        raise Refusal(
            message("This question is not open any more"), f"doubts/{doubt}", remedy=message("Look at the draft as it is now"), code="unknown_reference"
        )  # fmt: skip
    asked = doubts[doubt]
    alike = [item for item in doubts if item is asked or (_same_cause(item, asked) and len(item.get("answers") or ()) > answer)]
    for item in alike:
        for change in item["answers"][answer].get("changes") or ():
            _make(made, change)
    left = [item for item in doubts if item not in alike]
    if left:
        made["doubts"] = left
    else:
        made.pop("doubts", None)
    return made


def _same_cause(one: Mapping[str, Any], other: Mapping[str, Any]) -> bool:
    """Returns True for two doubts with one answer for both: ounces of all liquids, parts of all lines."""
    return one.get("code") == other.get("code") and other.get("code") in SAME_CAUSE


def _lines(body: Mapping[str, Any]) -> Iterator[tuple[Form, Form]]:
    for step in body.get("steps") or ():
        for line in step.get("lines") or ():
            yield step, line


def _make(body: Form, change: Mapping[str, Any]) -> None:
    """Makes one change: of a line's amount or material, of a step's figures, a line moved, added or dropped, an alternative chosen, a material of the draft
    told.
    """
    if "choose" in change:
        _choose(body, str(change["choose"]))
        return
    if "own" in change:
        body["materials"] = {**(body.get("materials") or {}), str(change["own"]["key"]): copy.deepcopy(change["own"]["body"])}
        return
    for step, line in list(_lines(body)):
        if line.get("id") == change.get("line"):
            _make_in_line(body, step, line, change)
            return
    if "step" in change:
        step = _step(body, change["step"])
        step.update(change.get("values") or {})
        if "add" in change:
            step.setdefault("lines", []).append(copy.deepcopy(change["add"]))
        if change.get("remove") and not step.get("lines"):
            body["steps"] = [other for other in body["steps"] if other is not step]


def _make_in_line(body: Form, step: Form, line: Form, change: Mapping[str, Any]) -> None:
    """Makes one change of a line of a step."""
    if change.get("drop"):
        step["lines"].remove(line)
    if "amount" in change:
        line["amount"] = copy.deepcopy(change["amount"])
    if "material" in change:
        line["material"] = change["material"]
    if "to_taste" in change:
        # Weighed at the bench, within its range: then nobody assumes it any more.
        line["amount"] = {**{name: value for name, value in line["amount"].items() if name != "assumed"}, "to_taste": True}
    if "by_volume" in change:
        line["amount"] = _by_volume(line["amount"])
    if "move" in change:
        step["lines"].remove(line)
        _step(body, change["move"]).setdefault("lines", []).append(line)


def _choose(body: Form, option: str) -> None:
    """Chooses an alternative, as “group/choice”."""
    group, _, choice = option.partition("/")
    for options in body.get("options") or ():
        if options.get("id") == group:
            options["chosen"] = choice


def _by_volume(amount: Mapping[str, Any]) -> Form:
    """Returns an amount in parts by volume: the first part's grams as mL, a ratio by volume."""
    if amount.get("kind") == "ratio":
        return {**amount, "basis": "volume"}
    return {"kind": "fixed", "volume_ml": amount["mass_g"]} if "mass_g" in amount else dict(amount)


def _step(body: Mapping[str, Any], identity: Any) -> Form:
    found = next((step for step in body.get("steps") or () if step.get("id") == identity), None)
    # A step that was taken out meanwhile takes its change with it.
    return found if found is not None else {}
