"""Answers for doubts that come without answers. Each answer changes the draft."""

from __future__ import annotations

import copy
import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace

from ..base import number_format
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.vocabulary import plain
from ..operations.catalogue import VERBS
from .doubts import Answer, Change, Doubt, Form, amount_form, to_amount, to_values
from .ingredient import Amount, Ingredient
from .text_reading import TextReading
from .usual import usual

_MOST_PLACES = 4
"""Largest number of steps or lines that are offered [count]."""
_MOST_WORDS = 28
"""Largest length of the text of a step in an answer [letters]."""
_BATCHES = (10, 20, 50)
"""Batch sizes for which an amount per drink is multiplied [drinks]. House judgement."""


def with_repairs(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Doubt:
    """Returns a doubt with the answers of its code, if it has none yet. `at` is the id of the line or step that it is about, "" for the whole draft.

    Doubts about amounts of materials that can hurt get no answers: those are weighed.
    """
    offered = _BY_CODE.get(doubt.code)
    return doubt if doubt.answers or offered is None or not at else replace(doubt, answers=tuple(offered(at, doubt, draft, reading)))


def _item(at: str, reading: TextReading) -> Ingredient | None:
    return next((item for item in reading.listed if item.id == at), None)


def _where(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Iterator[Answer]:
    """Yields answers that move a line to another step that takes ingredients: “at ‘Simmer for 20 min’”."""
    del doubt, reading
    there = next((step["id"] for step in draft["steps"] for line in step.get("lines", ()) if line["id"] == at), None)
    takes = [step for step in draft["steps"] if VERBS[step["verb"]].takes_lines and step["id"] != there and step.get("note")]
    for step in takes[:_MOST_PLACES]:
        words = str(step["note"])
        # It ends at a word.
        shown = words if len(words) <= _MOST_WORDS else f"{words[:_MOST_WORDS].rsplit(' ', 1)[0]} …"
        yield Answer(f"at “{shown}”", (Change({"move": step["id"]}),))


def _another_thing(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Iterator[Answer]:
    """Yields the answer that makes a material of its own with the composition of the one it was read as: raspberry vinegar like wine vinegar."""
    del doubt, draft
    item = _item(at, reading)
    body = reading.names.known.get(item.key) if item is not None else None
    if item is None or body is None:
        return
    said = " ".join([*item.named.beside, item.named.said])
    key = "_".join(re.findall(r"\w+", plain(said)))[:40]
    if key and key not in reading.names.known:
        own = {**copy.deepcopy(dict(body)), "name": said.capitalize(), "allergens_unknown": True}
        yield Answer(
            f"{said}, made up like {reading.called(item)}", (Change({"own": {"key": key, "body": own}}), Change({"material": key}))
        )


def _leave_out(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Iterator[Answer]:
    """Yields the answer that removes a line, or a step without lines."""
    del doubt, reading
    step = next((step for step in draft["steps"] if step["id"] == at), None)
    if step is None:
        yield Answer("leave it out", (Change({"drop": True}),))
    elif not step.get("lines"):
        yield Answer("leave this step out", (Change({"remove": True}),))


def _verbs(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Iterator[Answer]:
    """Yields the verbs that a step with an unknown verb may have, and its removal."""
    yield Answer("heat it to a simmer", (Change({"values": {"verb": "bring_to", "temperature_c": 100.0}}),))
    yield Answer("leave it 20 min", (Change({"values": {"verb": "steep", "minutes": 20.0}}),))
    yield to_values("blend it", verb="blend")
    yield from _leave_out(at, doubt, draft, reading)


def _how_much(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Iterator[Answer]:
    """Yields answers that add a material named only in the method, one for each usual amount [g]. None for materials that can hurt."""
    named = next((item for item in reading.names.mentions(reading.tokens_at(doubt.start, doubt.end)) if item.key), None)
    if named is None or named.key is None or reading.may_hurt(named.key):
        return
    missing = usual()["missing_g"]
    amounts = missing.get(named.key) or missing.get(reading.material(named.key).kind, missing["other"])
    lines = {line["id"] for step in draft["steps"] for line in step.get("lines", ())}
    identity = next(f"l{n}" for n in range(len(lines) + 1, 2 * len(lines) + 2) if f"l{n}" not in lines)
    for grams in sorted(map(float, amounts)):
        line = {"id": identity, "material": named.key, "amount": amount_form(Amount("mass", Range.exact(grams))), "note": doubt.text}
        yield Answer(f"{number_format.given(grams)} g", (Change({"add": line}),))
    del at


def _for_so_many(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Iterator[Answer]:
    """Yields answers that multiply an amount per drink or day by a batch size, and the removal of the line."""
    item = _item(at, reading)
    if item is None or item.amount.kind not in ("mass", "volume", "count"):
        return
    for many in _BATCHES:
        whole = replace(item.amount, amount=item.amount.amount.times(float(many)))
        yield to_amount(f"{many} times as much", whole)
    yield from _leave_out(at, doubt, draft, reading)


def _to_which(at: str, doubt: Doubt, draft: Form, reading: TextReading) -> Iterator[Answer]:
    """Yields answers that read an amount as one for each litre of another line, the heaviest line first."""
    del doubt, draft
    item = _item(at, reading)
    grams = reading.grams(item) if item is not None else None
    others = [other for other in reading.listed if other is not item and (reading.grams(other) or 0.0) > 0]
    for other in sorted(others, key=lambda one: -(reading.grams(one) or 0.0))[:_MOST_PLACES]:
        if item is None or grams is None:
            return
        try:
            litres = (reading.grams(other) or 0.0) / reading.material(other.key).density_g_ml() / 1000.0
        except Refusal:
            # Of what has no bulk density there are no litres.
            continue
        yield to_amount(f"for each litre of {reading.called(other)}", Amount("mass", Range.exact(float(f"{grams * litres:.4g}"))))


_BY_CODE: Mapping[str, Callable[[str, Doubt, Form, TextReading], Iterator[Answer]]] = {
    "never_used": _where,
    "partly_read": _another_thing,
    "confusable_name": _leave_out,
    "cannot_be_done": _leave_out,
    "which_step": _verbs,
    "not_in_list": _how_much,
    "not_taken": _how_much,
    "per_serving": _for_so_many,
    "ratio_to_what": _to_which,
}
