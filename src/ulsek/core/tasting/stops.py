"""What keeps a sample out of a panel, and what ends the tasting of one that is open."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date

from ..base.messages import NOTHING, Computed, Day, Message, listed, message, sentences, term
from ..base.refusals import Refusal


def stop_words(*, recalled: bool, past: bool) -> Message:
    """Returns why nobody may taste on; empty if they may. It names no sample, since the seal may be on."""
    if recalled:
        return message("Stop: do not taste any more. Something here was recalled. What you answered is kept, and not counted.")
    if past:
        return message("Stop: do not taste any more. The last day of something here is over. What you answered is kept, and not counted.")
    return NOTHING


def check_servable(name: str, *, recalled: bool, past: date | None, gone: bool, where: str) -> None:
    """Raises Refusal for a bottle that nobody may taste: recalled or withdrawn, gone, or past its last day (`past`; None if it is not)."""
    if recalled:
        raise Refusal(
            message("{name} was recalled or withdrawn: nobody tastes it", name=name),
            where,
            remedy=message("Take another bottle"),
            code="recalled",
        )
    if gone:
        raise Refusal(message("{name} is gone", name=name), where, remedy=message("Take another bottle"), code="gone")
    if past is not None:
        raise Refusal(
            message("{name} is past its last day, {day}: nobody tastes it", name=name, day=Day(past.isoformat())),
            where,
            remedy=message("Take a younger bottle"),
            code="past",
        )


def before_the_first_glass(allergens: Iterable[str], *, some_unknown: bool, alcohol_ml: float) -> Message:
    """Returns what a taster reads before the first glass: the allergens of all samples together, whether those of one are unknown, and the pure alcohol [mL]. It names no sample."""
    known = tuple(dict.fromkeys(allergens))
    held = (
        message("What you will taste holds: {allergens}.", allergens=listed(map(term, known), "comma"))
        if known
        else message("No allergens are listed. That is no promise: ask if it matters to you.")
    )
    unknown = message("Of one of them nobody has said what it holds.") if some_unknown else NOTHING
    spirit = message("There is alcohol in it, {ml} in all: spit as you like.", ml=Computed(alcohol_ml, "mL", 1)) if alcohol_ml else NOTHING
    return sentences(held, unknown, spirit)
