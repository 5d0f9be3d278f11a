"""What staff do with a version: acknowledge it, answer its questions, take a copy, score it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal

from django.utils import timezone

from ulsek.core.base.answer import OpenForm, stored_json
from ulsek.core.base.figures import SCORE, SCORE_DECIMALS
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import Given, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.results.quiz import wrong_answers
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Acknowledgement, HandedOut, Score, Version
from ..queries import version_evaluated


@action
def acknowledge(member: Member, version: Version, at: datetime | None = None) -> Acknowledgement:
    """Records that this person has read a version. A second call changes nothing."""
    found, _ = Acknowledgement.objects.get_or_create(version=version, person=member.person)
    if found.read_at is None:
        found.read_at = at or timezone.now()
        found.save(update_fields=["read_at"])
        member.wrote("acknowledge", str(version), at=at)
    return found


@action
def answer_questions(member: Member, version: Version, answers: dict[str, int], at: datetime | None = None) -> list[OpenForm]:
    """Returns the questions that were answered wrong, each as the JSON of a `WrongAnswer`; if there are none, the person has passed."""
    wrong = wrong_answers(version_evaluated(version), answers)
    if not wrong:
        found, _ = Acknowledgement.objects.get_or_create(version=version, person=member.person)
        found.passed_at = found.passed_at or at or timezone.now()
        found.save(update_fields=["passed_at"])
        member.wrote("answer_questions", str(version), at=at)
    return list(stored_json(wrong))


@action
def hand_out(member: Member, version: Version, to: str, at: datetime | None = None) -> HandedOut:
    """Records that a copy of the card went to somebody. Raises Refusal if the name is empty or longer than 60 letters."""
    if not to.strip() or len(to) > 60:
        raise Refusal(
            message("A copy goes to somebody"), "to", message("a name of at most 60 letters"), message("Write who carries it"), "missing"
        )
    found = HandedOut.objects.create(version=version, to=to.strip(), by=member.person, at=at or timezone.now())
    member.wrote("hand_out", str(version), at=at, to=found.to)
    return found


@dataclass(frozen=True, slots=True)
class Verdict:
    """A score from 1 to 10, the name of the taster if it is not the member's own, what it was tasted against, and a note."""

    score: float
    taster: str = ""
    reference: str = ""
    note: str = ""


@action
def score_version(member: Member, version: Version, verdict: Verdict, at: datetime | None = None) -> Score:
    """Stores a taster's score of a version. Raises Refusal for a score outside 1 to 10 or with more than two decimals."""
    score = verdict.score
    if not SCORE.low <= score <= SCORE.high:
        raise Refusal(message("{score} is no score", score=Given(score)), "score", SCORE.words, code="out_of_bounds")
    exact = Decimal(str(score))
    if exact != round(exact, SCORE_DECIMALS):
        raise Refusal(
            message("{score} is finer than a tongue", score=Given(score)),
            "score",
            message("two decimals at most"),
            message("Round it"),
            "out_of_bounds",
        )
    found = Score.objects.create(
        version=version,
        taster=free_text(verdict.taster, "taster", 60) or member.person.display_name,
        score=exact,
        reference=free_text(verdict.reference, "reference", 120),
        note=free_text(verdict.note, "note", 500),
        at=at or timezone.now(),
    )
    member.wrote("score_version", str(version), at=at, score=score)
    return found
