"""Questions before a person's first batch of a spec: three, from the spec itself, each with one right answer and its reason."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field

from ..base.answer import HIDDEN
from ..base.messages import Computed, Message, days, listed, message, term, verbatim
from ..evaluation.evaluate import Evaluation
from ..spec.sentences import inside_name, material_name, step_title

HOW_MANY = 3


_OTHER_DAYS = ((2, 1), (4, 0))
"""Wrong answers about a date: so many times the days, and so many more."""
_WARM_C, _HOTTEST_C, _OTHER_HEATS_K = 40.0, 120.0, (-25.0, 20.0)
"""Temperature [°C] from which a step is worth a question, the hottest that is offered, and how far wrong answers are off [K]."""
_OFF_TIMES = 10.0
"""A misplaced decimal point: the error that a wrong answer stands for."""


@dataclass(frozen=True, slots=True)
class Question:
    """A question, its possible answers, the place of the right one, and the reason."""

    id: str
    text: Message
    answers: tuple[Message, ...]
    right: int = field(metadata=HIDDEN)
    because: Message = field(metadata=HIDDEN)


def _placed(key: str, right: Message, wrong: tuple[Message, ...], text: Message, because: Message) -> Question:
    """Returns the right answer among the wrong ones, at a place that follows from its text: not random, and not always the first."""
    # Compared as printed: two answers that print alike are one.
    answers = [item for text, item in {item.text(): item for item in wrong}.items() if text != right.text()]
    at = sum(map(ord, right.text())) % (len(answers) + 1)
    return Question(key, text, (*answers[:at], right, *answers[at:]), at, because)


def _weighed_first(evaluation: Evaluation) -> Iterator[Question]:
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    names = list(dict.fromkeys(material_name(line.material, materials, spec=spec) for line in spec.lines.values()))
    if spec.driver is None or spec.driver not in spec.lines or len(names) < 2:
        return
    right = material_name(spec.lines[spec.driver].material, materials)
    others = tuple(name for name in names if name != right)[:2]
    yield _placed(
        "driver",
        right,
        others,
        message("What is weighed first, because everything else follows from it?"),
        message("{material} sets the batch.", material=right),
    )


def _allergens(evaluation: Evaluation) -> Iterator[Question]:
    held, none = evaluation.hazards.allergens, message("none of those listed")
    right = verbatim(listed(map(term, held), "comma")) if held else none
    others = [term(item) for item in ("egg", "milk", "nuts") if item not in held]
    wrong = tuple(item for item in (*others, none, term("sulphites")) if item != right and item.template not in held)[:2]
    because = message("What goes in holds: {allergens}.", allergens=right)
    yield _placed("allergens", right, wrong, message("Which allergens stand on its label?"), because)


def _keeps(evaluation: Evaluation) -> Iterator[Question]:
    kept = evaluation.keeping.days
    yield _placed(
        "keeps",
        days(kept),
        tuple(days(times * kept + more) for times, more in _OTHER_DAYS),
        message("How long does it keep, counted from {start}?", start=term(evaluation.keeping.counts_from)),
        evaluation.keeping.reason,
    )


def _hottest(evaluation: Evaluation) -> Iterator[Question]:
    hot = [
        (done.step, float(getattr(done.step, "temperature_c", 0.0)))
        for done in evaluation.flow.steps
        if done.step.family in ("heat", "extract")
    ]
    step, heat = max(hot, key=lambda item: item[1], default=(None, 0.0))
    if step is None or heat < _WARM_C:
        return
    title = step_title(step, evaluation.inputs.materials, spec=evaluation.inputs.spec)
    right, *wrong = (verbatim(Computed(c, "°C", 0)) for c in (heat, *(min(_HOTTEST_C, heat + off) for off in _OTHER_HEATS_K)))
    yield _placed("heat", right, tuple(wrong), message("How hot does it get at most?"), message("Step: {step}.", step=title))


def _biggest(evaluation: Evaluation) -> Iterator[Question]:
    """Yields the question about the line with the smallest dose, where an error is tasted most."""
    masses = {key: mass for key, mass in evaluation.flow.masses.items() if key in evaluation.inputs.spec.lines and mass > 0}
    if len(masses) < 2 or evaluation.last is None:
        return
    key = min(masses, key=lambda item: masses[item])
    litres = evaluation.figures[evaluation.last]["volume_ml"] / 1000.0
    dose = masses[key] / litres if litres > 0 else math.inf
    material, materials = evaluation.inputs.spec.lines[key].material, evaluation.inputs.materials
    right, *wrong = (verbatim(Computed(part, "g a litre")) for part in (dose, dose * _OFF_TIMES, dose / _OFF_TIMES))
    asked = message("About how much {material} is in a litre of it?", material=inside_name(material, materials))
    yield _placed(
        "dose", right, tuple(wrong), asked, message("{material}: {dose}.", material=material_name(material, materials), dose=right)
    )


def questions(evaluation: Evaluation) -> tuple[Question, ...]:
    """Returns three questions on a spec: what sets the batch, how hot, how long it keeps; its allergens and its smallest dose if one of those has no answer."""
    if evaluation.last is None:
        return ()
    found = [question for ask in (_weighed_first, _allergens, _hottest, _keeps, _biggest) for question in ask(evaluation)]
    return tuple(found[:HOW_MANY])


@dataclass(frozen=True, slots=True)
class WrongAnswer:
    """A question that was answered wrong, and the reason."""

    id: str
    text: Message
    because: Message


def wrong_answers(evaluation: Evaluation, given: dict[str, int]) -> tuple[WrongAnswer, ...]:
    """Returns the questions that were answered wrong, each with the reason."""
    return tuple(WrongAnswer(item.id, item.text, item.because) for item in questions(evaluation) if given.get(item.id) != item.right)
