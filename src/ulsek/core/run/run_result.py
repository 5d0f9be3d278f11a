"""The state of a run, as screens, files and the command line get it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from ..base.answer import json_member
from ..base.messages import Message
from ..base.ranges import Range
from ..results.evaluation_result import EvaluationResult, evaluation_result
from ..results.told import ToldClaim, told_and_worked_out
from ..spec import spec as s
from ..spec.sentences import material_name, step_title
from .batch_record import Taste
from .deviations import Deviation
from .end_point_watch import is_watched
from .finish import LeftoverAsked, leftovers_asked, suggested_ml, volume_expected_ml
from .learned_priors import Lesson, lessons
from .reading_check import ReadingCheck
from .repair import Repair
from .state import RunState
from .taste import SettledAmount, taste_advice
from .waiting import LABELLED_MIN
from .watch import Watch
from .weighing import tolerance_g


@dataclass(frozen=True, slots=True)
class PouredPart:
    """Mass in of a line out of one supply [g], by the key under which that stands in the run."""

    material: str
    mass_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RunLine:
    """A line of a run: its supply, its planned and actual mass [g], how far from the planned one a weight may lie [g], the mass in so far while it is not weighed [g],
    and the dose that it came to.

    `parts` is empty unless a supply ran empty and another went on; `ahead` is True if the line can be weighed before its step.
    """

    id: str
    material: str
    supply: str | None
    name: Message
    planned_g: Range | None
    tolerance_g: float | None = field(metadata=json_member(stored=None))
    actual_g: float | None
    parts: tuple[PouredPart, ...]
    so_far_g: float
    ahead: bool
    dose: Message = field(metadata=json_member(stored=""))


@dataclass(frozen=True, slots=True)
class Sample:
    """Whether a sample is wanted after a step, and how much was set aside [g]."""

    wanted: bool
    mass_g: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class RunStep:
    """A step of a run. Moments are ISO 8601 with offset; `minutes` is its wait [min], None if it has none."""

    id: str
    verb: str
    title: Message
    note: str
    check: str
    vessel: str
    state: Literal["skipped", "done", "now", "later"]
    begun_at: str | None
    done_at: str | None
    minutes: float | None
    watched: bool
    wants_label: bool
    extra: bool
    sample: Sample
    lines: tuple[RunLine, ...]


@dataclass(frozen=True, slots=True)
class Position:
    """The step at hand and its next line, and the step after which the vessel at hand stands as it is; None if there is none."""

    step: str | None
    line: str | None
    touched: str | None = field(default=None, metadata=json_member(stored=None))


@dataclass(frozen=True, slots=True)
class TasteResult(Taste):
    """A taste verdict on a step, with a sentence that says what to change; the sentence is empty if nothing needs to change."""

    advice: Message


@dataclass(frozen=True, slots=True, kw_only=True)
class RunResult:
    """A run after its events: its steps and lines, its evaluation with the weights so far, its readings and repairs, and its notes."""

    status: Literal["open", "finished"]
    factor: float
    current: Position
    steps: tuple[RunStep, ...]
    place: int | None
    evaluation: EvaluationResult
    deviations: tuple[Deviation, ...]
    readings: tuple[ReadingCheck, ...]
    repairs: tuple[Repair, ...]
    repair_at_hand: str | None = field(metadata=json_member(stored=None))
    sample_due: str | None = field(metadata=json_member(stored=None))
    notes: tuple[Message, ...]
    watch: Watch | None
    hands: tuple[str, ...]
    tastes: tuple[TasteResult, ...]
    lessons: tuple[Lesson, ...]
    off_spec: Message
    expected_ml: Range | None = field(metadata=json_member(stored=None))
    suggested_ml: float | None = field(metadata=json_member(stored=None))
    asked_at_finish: tuple[LeftoverAsked, ...] = field(metadata=json_member(stored=[]))
    passed_over: tuple[str, ...] = field(metadata=json_member(stored=[]))
    conflicts: tuple[Message, ...]
    settled: tuple[SettledAmount, ...]
    told: tuple[ToldClaim, ...] = field(metadata=json_member(stored=[]))


def _taste(state: RunState, taste: Taste) -> TasteResult:
    done = next((item for item in state.evaluation.flow.steps if item.step.id == taste.step), None)
    advice = taste_advice(taste.verdict, taste.share, done)
    return TasteResult(taste.step, taste.sense, taste.verdict, taste.share, taste.text, advice)


def _known_ahead(state: RunState, line: s.Line) -> bool:
    """Returns True if the line's mass follows from masses alone, so that it can be weighed before its step; False for percents of a vessel, targets and by-products."""
    seen: set[str] = set()
    while isinstance(line.amount, s.Ratio) and line.amount.line in state.spec.lines and line.id not in seen:
        seen.add(line.id)
        line = state.spec.lines[line.amount.line]
    return isinstance(line.amount, s.Fixed) and not line.own


def _line(state: RunState, line: s.Line, planned: Mapping[str, Range]) -> RunLine:
    parts = state.record.parts_g(line) if line.id in state.record.poured else []
    return RunLine(
        id=line.id,
        material=line.material,
        supply=state.supplies.get(line.id),
        name=material_name(line.material, state.materials, spec=state.spec),
        planned_g=planned.get(line.id),
        tolerance_g=tolerance_g(planned[line.id].value) if line.id in planned else None,
        actual_g=state.actual_g.get(line.id),
        parts=tuple(PouredPart(key, mass) for key, mass in parts),
        so_far_g=state.record.so_far_g(line),
        ahead=_known_ahead(state, line),
        dose=state.weights.dose(line),
    )


def _step(state: RunState, step: s.Step, position: int, planned: Mapping[str, Range]) -> RunStep:
    return RunStep(
        id=step.id,
        verb=step.verb,
        title=step_title(step, state.materials, first=position == 0, spec=state.spec),
        note=step.note,
        check=step.check,
        vessel=step.vessel,
        state="skipped" if step.id in state.skipped else "done" if step.id in state.done else "now" if step is state.current else "later",
        begun_at=state.begun.get(step.id),
        done_at=state.done.get(step.id),
        minutes=step.waiting_min or None,
        watched=is_watched(step),
        wants_label=step.waiting_min >= LABELLED_MIN,
        extra=step.id in state.record.added_steps,
        sample=Sample(step.keep_sample, state.record.sampled.get(step.id)),
        lines=tuple(_line(state, line, planned) for line in step.lines),
    )


def run_result(state: RunState) -> RunResult:
    """Returns the state of a run with its steps and lines, planned and weighed [g], its evaluation, readings and repairs."""
    step, line = state.current, state.next_line
    result = evaluation_result(state.evaluation)
    planned = {added.line: added.mass_g for flow_step in result.steps for added in flow_step.added}
    return RunResult(
        status=state.status,
        factor=state.factor,
        current=Position(step.id if step else None, line.id if line else None, state.touched.id if state.touched else None),
        steps=tuple(_step(state, item, i, planned) for i, item in enumerate(state.spec.steps)),
        place=state.place,
        evaluation=result,
        deviations=tuple(state.deviations),
        readings=state.readings,
        repairs=state.repairs,
        repair_at_hand=state.repair_at_hand.id if state.repair_at_hand else None,
        sample_due=state.sample_due.id if state.sample_due else None,
        notes=tuple(state.notes),
        watch=state.watch,
        hands=tuple(state.handed_to),
        tastes=tuple(_taste(state, taste) for taste in state.record.tastes),
        lessons=lessons(state.evaluation, state.priors),
        off_spec=state.off_spec,
        expected_ml=volume_expected_ml(state.evaluation),
        suggested_ml=suggested_ml(state.evaluation),
        asked_at_finish=leftovers_asked(state.evaluation),
        passed_over=state.passed_over,
        conflicts=(*state.record.conflicts, *(words for _, words in state.record.past_use_by.values())),
        settled=state.settled,
        told=told_and_worked_out(state.evaluation, state.factor, state.bottled_ml),
    )
