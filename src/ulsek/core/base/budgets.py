"""Budgets: how much one computation takes on. The core has no clock, so each is a count, stated here and refused in words.

Letters of a text are in `recipe_text.parser` and `spec.json_form`, groups of uncertain inputs in `evaluation.estimate.MOST_GROUPS`, iterations beside each solver.
"""

from __future__ import annotations

from collections.abc import Sized

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


def within(things: Sized, most: int, what: str, where: str, remedy: str = "Take it apart") -> None:
    """Raises Refusal if there are more than `most` [count] of them; `what` names them. 201 steps are refused, 200 are not. Source: definition."""
    if len(things) > most:
        raise Refusal(f"{len(things)} {what} are too many to work out", where, f"at most {most}", remedy, "too_many")
