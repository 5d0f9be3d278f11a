"""Questions of a browser to the core in its worker, each with its answer as JSON."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping
from functools import partial
from typing import Any

from ..base.answer import encode
from ..base.refusals import Refusal
from ..run.events.catalogue import read_stored_event
from ..run.fold import fold_pinned
from ..run.run_result import RunResult, run_result
from ..sums.catalogue import sums_at, work_out
from ..sums.sheet import Sum, SumAnswer
from ..workbench.answer import PlainFlow, Workbench, draft_evaluated, workbench
from ..workbench.doubts import draft_answered, draft_questions, read_draft
from ..workbench.draft_session import DraftSession
from ..workbench.questions import draft_to_flag, draft_with_addition, draft_working, materials_called, read_step_line
from .bundle import BundledHouse

_NO_BUNDLE = {"materials": {}, "rules": {}, "beside": "nothing", "locale": "metric"}


class Requests:
    """The questions, by name. It keeps the house of the last bundle, and the draft that was asked for last."""

    def __init__(self) -> None:
        self._use(_NO_BUNDLE)

    def _use(self, bundle: Mapping[str, Any]) -> None:
        self._house = BundledHouse(bundle)
        self._session = DraftSession()
        self._draft: Iterator[PlainFlow | Workbench | None] = iter(())

    def _fold(self, pinned: Any, events: list[Any]) -> RunResult:
        return run_result(fold_pinned(pinned, [read_stored_event(item) for item in events]))

    def _sums(self) -> list[Sum]:
        return sums_at(self._house.equipment)

    def _sum_up(self, name: str, figures: Mapping[str, Any]) -> SumAnswer:
        return work_out(name, figures, self._house.own, self._house.rules.limits, self._house.equipment)

    def _begin_draft(self, body: Mapping[str, Any], made_with_it: list[str]) -> PlainFlow | Workbench | None:
        # The session goes on from the last draft that was evaluated to its end, whichever was begun since.
        self._draft = self._session.answers(self._house, body, made_with_it)
        return next(self._draft)

    def _go_on_with_draft(self) -> PlainFlow | Workbench | None:
        try:
            return next(self._draft)
        except StopIteration:
            # It was answered, or another bundle came in between: whoever waits for it must not wait for ever.
            raise KeyError("no draft was begun") from None

    def _evaluate(self, body: Mapping[str, Any]) -> Workbench:
        return workbench(draft_evaluated(self._house, body), self._house.measures)

    def ask(self, name: str, given: str) -> str:
        """Returns the answer to a question as JSON: {"ok": answer}, or {"refused": …} with the words, place and code of a refusal.

        `given` is a JSON array of the question's arguments. Raises KeyError for an unknown question, and if no draft was begun that could be gone on with.
        """
        asked: Mapping[str, Callable[..., Any]] = {
            "use_bundle": self._use,
            "fold": self._fold,
            "sums": self._sums,
            "sum_up": self._sum_up,
            "begin_draft": self._begin_draft,
            "go_on_with_draft": self._go_on_with_draft,
            "evaluate": self._evaluate,
            "working": partial(draft_working, self._house),
            "flag": partial(draft_to_flag, self._house),
            "take": partial(draft_with_addition, self._house),
            "materials": partial(materials_called, self._house),
            "questions": partial(draft_questions, self._house),
            "read_draft": partial(read_draft, self._house),
            "answered": draft_answered,
            "step_line": partial(read_step_line, self._house),
        }
        try:
            return json.dumps({"ok": encode(asked[name](*json.loads(given)))})
        except Refusal as refusal:
            return json.dumps({"refused": {"detail": refusal.text, "where": refusal.where, "code": refusal.code}})
