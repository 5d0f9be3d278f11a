"""The draft that is being edited: every edit is evaluated from the first step that it touched, in pieces between which the caller may stop."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from ..evaluation.evaluate import Evaluation
from ..results.evaluation_result import StepResult
from ..workbench.answer import PlainFlow, Workbench, edit_evaluated, plain_flow, workbench
from ..workbench.house import House


class DraftSession:
    """Evaluates a draft after each edit. It keeps the last complete evaluation, so that the next one computes only the steps from the edit on."""

    def __init__(self, house: House) -> None:
        self._house = house
        self._base: Evaluation | None = None
        self._steps: Sequence[StepResult] = ()

    def answers(self, body: Mapping[str, Any], made_with_it: Sequence[str]) -> Iterator[PlainFlow | Workbench | None]:
        """Yields the plain flow of a draft, then None after each group of uncertain inputs, then everything that the workbench shows.

        For `made_with_it` see `circles`. An edit that is abandoned in between leaves the session as it was. Raises Refusal for what is no spec file.
        """
        evaluation = edit_evaluated(self._house, body, made_with_it, self._base)
        yield plain_flow(evaluation, self._house.measures)
        for _ in evaluation.moving():
            yield None
        whole = workbench(evaluation, self._house.measures, before=self._steps)
        self._base, self._steps = evaluation, whole.steps
        yield whole
