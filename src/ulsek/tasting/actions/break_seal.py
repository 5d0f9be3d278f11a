"""Break the seal of a panel: the verdict is computed once, and the key is told."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.answer import stored_json
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.tasting.answers import Answered, is_right
from ulsek.core.tasting.methods import METHODS
from ulsek.core.tasting.sequential import decided
from ulsek.planners.tasting.telling import Told, told, without_key
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..ages import aged
from ..models import Panel, PanelAnswer, PanelSample, PanelState, Standard
from ..needed import portions_needed
from ..panels import locked_panel, must_be_open
from ..trials import alike

MOST_WHY = 300


@action
def break_seal(member: Member, panel_id: UUID, why: str, at: datetime | None = None) -> Panel:
    """Breaks the seal before the last answer. Raises Refusal without a reason, which stands in the history, and for a panel that is not open."""
    panel = locked_panel(member, panel_id)
    must_be_open(panel)
    reason = free_text(why, "why", MOST_WHY, message("A seal is broken for a reason"), message("Say why nobody waits for the rest"))
    panel.unsealed_by, panel.unsealed_why = member.person, reason
    _tell(panel, at or timezone.now())
    member.wrote("break_seal", str(panel), at=at, why=reason)
    return panel


def answered(panel: Panel) -> list[Answered]:
    """Returns the answers that count, each with its page, in the order in which they were given."""
    pages = {(page.seat, page.turn): page for page in panel.pages}
    rows = PanelAnswer.objects.filter(seat__panel=panel, late=False).select_related("seat").order_by("at", "seat__number", "turn")
    return [Answered(pages[row.seat.number, row.turn], row.answer) for row in rows]


def end_if_complete(panel: Panel, now: datetime) -> None:
    """Breaks the seal of an open panel if nothing is waited for any more: everybody has answered or stepped out, or its rule has decided."""
    if panel.state != PanelState.OPEN:
        return
    pages = panel.pages
    turns = max(page.turn for page in pages)
    seats = list(panel.seats.all())
    out = sum(seat.out_at is not None for seat in seats)
    given = PanelAnswer.objects.filter(seat__panel=panel, seat__out_at=None, late=False).count()
    complete = len(seats) == panel.planned.tasters and given == (len(seats) - out) * turns
    if complete or _decided(panel):
        _tell(panel, now)


def _decided(panel: Panel) -> bool:
    design = panel.planned
    guess = METHODS[design.method].guess
    if not design.is_sequential or guess is None:
        return False
    given = answered(panel)
    right = sum(is_right(item.page, item.answer) for item in given)
    return bool(given) and bool(decided(right, len(given), guess, design.line))


def _tell(panel: Panel, now: datetime) -> None:
    samples = list(
        panel.samples.select_related("version__spec__trial_of", "lot__run__version__spec__trial_of", "spec__trial_of", "standard__lot")
    )
    names = [sample.name for sample in samples]
    if panel.seed:
        said, results = told(
            Told(
                panel.planned,
                names,
                panel.pages,
                answered(panel),
                alike(samples),
                panel.stopped(now),
                aged(panel.house, samples, panel.opened_at or now),
            )
        )
    else:
        said, results = without_key()
    panel.verdict, panel.results = stored_json(said), stored_json(results)
    panel.state, panel.told_at = PanelState.TOLD, now
    if panel.seed:
        _count_off(panel, samples)
    # Nobody comes in any more.
    panel.link_digest = panel.letters_digest = ""
    panel.save()


def _count_off(panel: Panel, samples: Sequence[PanelSample]) -> None:
    """Counts off the portions of the frozen standards that were thawed for the panel."""
    for place, thawed in portions_needed(panel, samples).items():
        (standard,) = locked(Standard.objects.filter(samples=samples[place]))
        standard.portions = max(0, (standard.portions or 0) - thawed)
        standard.save(update_fields=["portions"])
