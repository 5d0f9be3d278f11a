"""Comparison of two bodies of a spec: steps matched, amounts and results side by side, and the effect of the change."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Any

from ..base.figures import FIGURES, quantity
from ..base.messages import NOTHING, Message, grams, message, term
from ..evaluation.evaluate import Evaluation
from ..spec.sentences import OPEN, amount_words, inside_name, step_title

_SHOWN = ("volume_ml", "brix", "acid_g_100ml", "sugar_g_100ml", "abv")
_WORDS: Mapping[str, tuple[Message, Message]] = {
    "volume_ml": (message("less of it"), message("more of it")),
    "brix": (message("thinner"), message("richer")),
    "acid_g_100ml": (message("softer"), message("sharper")),
    "sugar_g_100ml": (message("less sweet"), message("sweeter")),
    "abv": (message("weaker"), message("stronger")),
}
_TEXTS = frozenset({"note", "check", "name", "source", "permission", "gear", "doubts"})
"""Fields of a spec file that hold wording: changing them changes no number."""


@dataclass(frozen=True, slots=True)
class ComparedAmount:
    """The amount of one material in a step, as text, on both sides; empty on a side without it."""

    name: Message
    left: Message
    right: Message


@dataclass(frozen=True, slots=True)
class ComparedFigure:
    """One figure of the product on both sides; None on a side without it."""

    name: str
    left: float | None
    right: float | None


@dataclass(frozen=True, slots=True)
class ComparedStep:
    """One step on both sides; `same` is True if nothing in it changed, its text is empty on a side without it."""

    left: str
    right: str
    left_words: Message
    right_words: Message
    amounts: tuple[ComparedAmount, ...]
    same: bool


def without_words(value: Any) -> Any:
    """Returns the content of a file without its wording: what decides its numbers."""
    if isinstance(value, dict):
        return {key: without_words(item) for key, item in value.items() if key not in _TEXTS}
    return [without_words(item) for item in value] if isinstance(value, list) else value


def same_numbers(before: Mapping[str, Any], after: Mapping[str, Any]) -> bool:
    """Returns True if two bodies differ in wording only, so that a correction is no new version."""
    return bool(without_words(before) == without_words(after))


def _matched(left: Evaluation, right: Evaluation) -> Iterator[tuple[int | None, int | None]]:
    """Yields the steps of both sides in pairs: by id first, then by what is done, in their order."""
    ours, theirs = left.inputs.spec.steps, right.inputs.spec.steps
    # Steps of another spec have other ids: they are matched by what is done.
    shared = {step.id for step in ours} & {step.id for step in theirs}
    keys = [[step.id if step.id in shared else f"{step.verb}?" for step in steps] for steps in (ours, theirs)]
    for tag, a, b, c, d in SequenceMatcher(None, keys[0], keys[1], autojunk=False).get_opcodes():
        if tag == "equal":
            yield from zip(range(a, b), range(c, d), strict=True)
        else:
            yield from ((i, None) for i in range(a, b))
            yield from ((None, j) for j in range(c, d))


def _amounts(evaluation: Evaluation, at: int | None) -> dict[str, tuple[Message, Message]]:
    """Returns the lines of a step by id, with their amount as text."""
    if at is None:
        return {}
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    masses = evaluation.flow.masses
    return {
        line.id: (
            inside_name(line.material, materials, spec),
            message(
                "{mass}, {amount}",
                mass=grams(masses[line.id]) if line.id in masses else OPEN,
                amount=amount_words(line, spec, materials),
            ),
        )
        for line in spec.steps[at].lines
    }


def _reads_alike(one: Message, other: Message) -> bool:
    """Returns True if both are shown alike: 12.198 and 12.201 g are both "12.2 g"."""
    return one.text() == other.text()


def _row(left: Evaluation, right: Evaluation, i: int | None, j: int | None) -> ComparedStep:
    words = [NOTHING, NOTHING]
    ids = ["", ""]
    for side, (evaluation, at) in enumerate(((left, i), (right, j))):
        if at is not None:
            step = evaluation.inputs.spec.steps[at]
            words[side], ids[side] = step_title(step, evaluation.inputs.materials, first=at == 0, spec=evaluation.inputs.spec), step.id
    ours, theirs = _amounts(left, i), _amounts(right, j)
    amounts = tuple(
        ComparedAmount((theirs.get(key) or ours[key])[0], ours.get(key, (NOTHING, NOTHING))[1], theirs.get(key, (NOTHING, NOTHING))[1])
        for key in dict.fromkeys([*ours, *theirs])
    )
    same = _reads_alike(words[0], words[1]) and all(_reads_alike(item.left, item.right) for item in amounts)
    return ComparedStep(ids[0], ids[1], words[0], words[1], amounts, same)


def _figures(evaluation: Evaluation) -> dict[str, float]:
    return {} if evaluation.last is None else dict(evaluation.figures[evaluation.last])


def _did(before: Mapping[str, float], after: Mapping[str, float]) -> Iterator[Message]:
    """Yields the effect of the change on each figure, as sentences."""
    for name in _SHOWN:
        if name not in before or name not in after:
            continue
        # Relative where a figure has a share, so that a tenth of a large one is not told as a change.
        least = FIGURES[name].least_share * before[name] or FIGURES[name].least_change
        change = after[name] - before[name]
        if abs(change) >= least:
            yield message(
                "{what}: {before} → {after}",
                what=_WORDS[name][change > 0],
                before=quantity(name, before[name]),
                after=quantity(name, after[name]),
            )


def _changed(rows: Sequence[ComparedStep]) -> Iterator[Message]:
    """Yields what changed, as sentences."""
    for row in rows:
        if row.same:
            continue
        if not row.left_words:
            yield message("new: {step}", step=row.right_words)
        elif not row.right_words:
            yield message("gone: {step}", step=row.left_words)
        elif not _reads_alike(row.left_words, row.right_words):
            yield message("{before} → {after}", before=row.left_words, after=row.right_words)
        for item in row.amounts:
            if not _reads_alike(item.left, item.right) and row.left_words and row.right_words:
                none = message("none")
                yield message("{what}: {before} → {after}", what=item.name, before=item.left or none, after=item.right or none)


@dataclass(frozen=True, slots=True)
class Comparison:
    """Two specs side by side: matched steps, figures of both, what changed and its effect, as sentences."""

    rows: tuple[ComparedStep, ...]
    figures: tuple[ComparedFigure, ...]
    changed: tuple[Message, ...]
    did: tuple[Message, ...]


def compared(left: Evaluation, right: Evaluation) -> Comparison:
    """Returns two specs side by side."""
    rows = [_row(left, right, i, j) for i, j in _matched(left, right)]
    before, after = _figures(left), _figures(right)
    did = list(_did(before, after))
    if left.keeping.days != right.keeping.days and before and after:
        was, now = left.keeping.days, right.keeping.days
        longer = message("keeps longer: {was} → {now} days", was=was, now=now)
        did.append(longer if now > was else message("keeps less long: {was} → {now} days", was=was, now=now))
    ours, theirs = set(left.hazards.allergens), set(right.hazards.allergens)
    did += [message("new allergen: {allergen}", allergen=term(name)) for name in sorted(theirs - ours)]
    did += [message("allergen gone: {allergen}", allergen=term(name)) for name in sorted(ours - theirs)]
    figures = (ComparedFigure(name, before.get(name), after.get(name)) for name in _SHOWN if name in before or name in after)
    return Comparison(tuple(rows), tuple(figures), tuple(_changed(rows)), tuple(did))
