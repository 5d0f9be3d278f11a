"""Evaluation of a draft that is being edited, from the first changed step on, in parts between which the caller may stop."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from ..base.remarks import Remark
from ..evaluation.evaluate import Evaluation
from ..results.evaluation_result import StepResult
from .answer import PlainFlow, Workbench, edit_evaluated, plain_flow, workbench
from .house import House, Measures


class DraftSession:
    """The evaluations of one draft during its editing: each is computed from the first step that differs from the last complete one.

    It serves one thread at a time. A house may give other materials than it gave the last time: what depends on them is computed anew.
    """

    def __init__(self) -> None:
        self._base: Evaluation | None = None
        self._steps: Sequence[StepResult] = ()

    def evaluated(self, house: House, body: Mapping[str, Any], made_with_it: Sequence[str]) -> Evaluation:
        """Returns the evaluation of a draft, whose ranges are computed when they are asked for.

        For `made_with_it` see `circles`. Raises Refusal for what is no spec file.
        """
        return edit_evaluated(house, body, made_with_it, self._base)

    def completed(self, evaluation: Evaluation, measures: Measures, by_others: tuple[Remark, ...] = ()) -> Workbench:
        """Returns everything that the workbench shows of an evaluation of this session, which becomes the base of the next one."""
        whole = workbench(evaluation, measures, by_others, before=self._steps)
        self._base, self._steps = evaluation, whole.steps
        return whole

    def answers(self, house: House, body: Mapping[str, Any], made_with_it: Sequence[str]) -> Iterator[PlainFlow | Workbench | None]:
        """Yields the plain flow of a draft, then None after each group of uncertain inputs, then everything that the workbench shows.

        An edit that is abandoned in between leaves the session as it was. Raises Refusal for what is no spec file.
        """
        evaluation = self.evaluated(house, body, made_with_it)
        yield plain_flow(evaluation, house.measures)
        for _ in evaluation.moving():
            yield None
        yield self.completed(evaluation, house.measures)
