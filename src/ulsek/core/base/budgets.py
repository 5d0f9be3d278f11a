"""Budgets: the largest input of one computation. The core has no clock, so each is a count, checked by `within`.

Letters of a text are in `recipe_text.parser` and `spec.json_form`, groups of uncertain inputs in `evaluation.estimate.MOST_GROUPS`, iterations in the module of
each solver.
"""

from __future__ import annotations

from collections.abc import Sized

from .messages import Message, message
from .refusals import Refusal

STEPS, LINES, VESSELS, GOALS = 200, 400, 40, 12
"""Steps, lines in all, vessels and goals of a spec."""
EVENTS = 20_000
"""Events of one run that are folded."""
WEIGHINGS = 2_000
"""Rows of one captured batch."""
PARTS = 60
"""Substances or parts of one material's composition."""
DOUBTS = 1_000
"""Open questions of one draft."""


_TAKE_APART = message("Take it apart")


def within(things: Sized, most: int, what: Message, where: str, remedy: Message = _TAKE_APART) -> None:
    """Raises Refusal if there are more than `most` [count] of them; `what` names them. 201 steps are refused, 200 are not. Source: definition."""
    if len(things) > most:
        raise Refusal(
            message("{n} {what} are too many to work out", n=len(things), what=what),
            where,
            message("at most {most}", most=most),
            remedy,
            "too_many",
        )
