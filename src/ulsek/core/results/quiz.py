"""Questions before somebody's first make of a spec: three, out of the spec itself, each with one right answer and the reason."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field

from ..base import number_format as say
from ..base.answer import HIDDEN
from ..base.vocabulary import sentence
from ..evaluation.evaluate import Evaluation
from ..spec.sentences import material_name, step_title

HOW_MANY = 3


@dataclass(frozen=True, slots=True)
class Question:
    """What is asked, what may be answered, which answer is right (its place), and why."""

    id: str
    text: str
    answers: tuple[str, ...]
    right: int = field(metadata=HIDDEN)
    because: str = field(metadata=HIDDEN)


def _placed(key: str, right: str, wrong: tuple[str, ...], text: str, because: str) -> Question:
    """The right answer among the wrong ones, at a place that follows from its text: no chance, and not always the first."""
    answers = [item for item in dict.fromkeys(wrong) if item != right]
    at = sum(map(ord, right)) % (len(answers) + 1)
    return Question(key, text, (*answers[:at], right, *answers[at:]), at, because)


def _weighed_first(evaluation: Evaluation) -> Iterator[Question]:
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    names = list(dict.fromkeys(material_name(line.material, materials, spec=spec) for line in spec.lines.values()))
    if spec.driver is None or spec.driver not in spec.lines or len(names) < 2:
        return
    right = material_name(spec.lines[spec.driver].material, materials)
    others = tuple(name for name in names if name != right)[:2]
    yield _placed("driver", right, others, "What is weighed first, because everything else follows from it?", f"{right} sets the batch.")


def _allergens(evaluation: Evaluation) -> Iterator[Question]:
    held = evaluation.hazards.allergens
    right = ", ".join(held) or "none of those listed"
    others = tuple(item for item in ("egg", "milk", "nuts", "none of those listed", "sulphites") if item != right and item not in held)[:2]
    yield _placed("allergens", right, others, "Which allergens stand on its label?", f"What goes in holds: {right}.")


def _keeps(evaluation: Evaluation) -> Iterator[Question]:
    days = evaluation.keeping.days

    def words(n: int) -> str:
        return sentence("day" if n == 1 else "days").format(n=n)

    yield _placed(
        "keeps",
        words(days),
        (words(2 * days + 1), words(4 * days)),
        f"How long does it keep, counted from {evaluation.keeping.counts_from}?",
        evaluation.keeping.reason,
    )


def _hottest(evaluation: Evaluation) -> Iterator[Question]:
    hot = [
        (done.step, float(getattr(done.step, "temperature_c", 0.0)))
        for done in evaluation.plain.steps
        if done.step.family in ("heat", "extract")
    ]
    step, heat = max(hot, key=lambda item: item[1], default=(None, 0.0))
    if step is None or heat < 40:
        return
    title = step_title(step, evaluation.inputs.materials, spec=evaluation.inputs.spec)
    wrong = (say.amount(heat - 25, "°C", 0), say.amount(min(120.0, heat + 20), "°C", 0))
    yield _placed("heat", say.amount(heat, "°C", 0), wrong, "How hot does it get at most?", f"Step: {title}.")


def _biggest(evaluation: Evaluation) -> Iterator[Question]:
    """The line that is dosed smallest: the one where a slip is tasted."""
    masses = {key: mass for key, mass in evaluation.plain.masses.items() if key in evaluation.inputs.spec.lines and mass > 0}
    if len(masses) < 2 or evaluation.last is None:
        return
    key = min(masses, key=lambda item: masses[item])
    litres = evaluation.figures[evaluation.last]["volume_ml"] / 1000.0
    dose = masses[key] / litres if litres > 0 else math.inf
    name = material_name(evaluation.inputs.spec.lines[key].material, evaluation.inputs.materials)
    right = say.amount(dose, "g a litre")
    wrong = (say.amount(dose * 10, "g a litre"), say.amount(dose / 10, "g a litre"))
    yield _placed("dose", right, wrong, f"About how much {name.lower()} is in a litre of it?", f"{name}: {right}.")


def questions(evaluation: Evaluation) -> tuple[Question, ...]:
    """Three questions out of a spec: what sets the batch, how hot, how long it keeps; its allergens and its smallest dose where one of those has no answer."""
    if evaluation.last is None:
        return ()
    found = [question for ask in (_weighed_first, _allergens, _hottest, _keeps, _biggest) for question in ask(evaluation)]
    return tuple(found[:HOW_MANY])


@dataclass(frozen=True, slots=True)
class WrongAnswer:
    """A question that was not answered right, and the reason."""

    id: str
    text: str
    because: str


def wrong_answers(evaluation: Evaluation, given: dict[str, int]) -> tuple[WrongAnswer, ...]:
    """The questions that were not answered right, each with the reason; none when all were."""
    return tuple(WrongAnswer(item.id, item.text, item.because) for item in questions(evaluation) if given.get(item.id) != item.right)
