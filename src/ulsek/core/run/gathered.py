"""What the events of a run come to before anything is worked out: weights, clocks, deeds, and what two people wrote against each other."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from functools import cached_property
from typing import Any, Literal

from ..base import number_format as say
from ..base.figures import MOST_G
from ..base.refusals import Refusal
from ..evaluation.flow import Inputs, flow
from ..materials.blend import blended
from ..materials.material import Material
from ..materials.supply import key_of_blend
from ..spec import spec as s
from ..spec.sentences import listed, material_name, short_name, step_title
from .events import Event, drop_ml
from .spec_as_made import (
    brought_forward,
    changed_step,
    from_supply,
    from_wrong_jar,
    in_its_place,
    with_extra_step,
    with_repair,
    without_skipped,
)

RepairState = Literal["offered", "put off", "refused", "taken"]
SAME_G = 0.05
"""Two weights of one thing within so many grams don't contradict each other."""


@dataclass(frozen=True, slots=True)
class Repair:
    """Additions that bring the batch back to its goals, and what they lead to."""

    id: str
    state: RepairState
    additions: tuple[dict[str, Any], ...]
    text: str
    effect: str

    def as_data(self) -> dict[str, Any]:
        return {"id": self.id, "state": self.state, "additions": list(self.additions), "text": self.text, "effect": self.effect}


@dataclass(frozen=True, slots=True)
class Taste:
    """What somebody found at a step: `verdict` is right, weak, strong or odd; `share` by how much where it was said."""

    step: str
    sense: str
    verdict: str
    share: float
    text: str

    def as_data(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in self.__slots__}


@dataclass(frozen=True, slots=True)
class Poured:
    """A supply of a line that ran empty: the key of what came out of it, and what was in of the line by then [g]."""

    material: str
    so_far_g: float


@dataclass
class Gathered:
    """The spec as it was really made so far, and everything that was written down about it. Built event by event, in their order."""

    spec: s.Spec
    materials: Mapping[str, Material]
    actual_g: dict[str, float] = field(default_factory=dict)
    spilled_g: dict[str, float] = field(default_factory=dict)
    done: dict[str, str] = field(default_factory=dict)
    begun: dict[str, str] = field(default_factory=dict)
    skipped: set[str] = field(default_factory=set)
    sampled: dict[str, float] = field(default_factory=dict)
    repairs: dict[str, RepairState] = field(default_factory=dict)
    taken: list[Repair] = field(default_factory=list)
    reads: list[Event] = field(default_factory=list)
    read_after: dict[str, tuple[dict[str, float], dict[str, str]]] = field(default_factory=dict)
    watched: dict[str, tuple[Event, ...]] = field(default_factory=dict)
    notes: list[str] = field(default_factory=list)
    tastes: list[Taste] = field(default_factory=list)
    hands: list[str] = field(default_factory=list)
    conflicts: list[str] = field(default_factory=list)
    extra: set[str] = field(default_factory=set)
    supplies: dict[str, str] = field(default_factory=dict)
    poured: dict[str, list[Poured]] = field(default_factory=dict)
    past_use_by: dict[str, tuple[str, str]] = field(default_factory=dict)
    """By line: the last day [ISO date] of what went in after it, and a sentence."""
    keys: dict[str, str] = field(default_factory=dict)
    """The key of the last supply of a line that counts with several of them together."""
    status: Literal["open", "finished"] = "open"
    _weighed_by: dict[str, Event] = field(default_factory=dict)

    @classmethod
    def of(cls, spec: s.Spec, materials: Mapping[str, Material], ordered: Iterable[Event]) -> Gathered:
        """Everything that `ordered` events say. Refuses an event that names a step or a line that is not there."""
        found = cls(spec, materials)
        for event in ordered:
            found._take(event)
        found._pour_together()
        return found

    def _take(self, event: Event) -> None:
        step = str(event.body.get("step", "")) if event.kind != "step_added" else ""
        if step and step not in {item.id for item in self.spec.steps}:
            raise Refusal(f"There is no step “{step}” in this run", "body/step", code="unknown_reference")
        deed = self._deeds.get(event.kind)
        if deed is not None:
            deed(event, step)

    @cached_property
    def _deeds(self) -> Mapping[str, Callable[[Event, str], None]]:
        return {
            "weighed": self._weighed,
            "counted": self._weighed,
            "measured": self._weighed,
            "dosed": self._weighed,
            "taken_from": self._taken_from,
            "went_on": self._went_on,
            "read": self._read,
            "step_begun": lambda event, step: _first(self.begun, step, event.at),
            "step_done": self._step_done,
            "step_skipped": self._step_skipped,
            "step_changed": self._step_changed,
            "step_first": self._step_first,
            "step_added": self._step_added,
            "spilled": lambda event, step: _more(self.spilled_g, step, float(event.body["mass_g"])),
            "sampled": self._sampled,
            "repair_put_off": lambda event, _: self.repairs.update({str(event.body["repair"]): "put off"}),
            "repair_refused": lambda event, _: self.repairs.update({str(event.body["repair"]): "refused"}),
            "repair_taken": self._repair_taken,
            "wrong_jar": self._wrong_jar,
            "tasted": self._tasted,
            "handed_over": lambda event, _: self.hands.append(str(event.body["to"])),
            "noted": lambda event, _: self.notes.append(str(event.body["text"])),
            "finished": self._finished,
        }

    def _grams(self, event: Event, line: s.Line) -> float:
        """What went in [g]: weighed, or counted by what one weighs, or measured or dropped in by its density. Refuses what nobody has described so far."""
        if event.kind == "weighed":
            return float(event.body["mass_g"])
        material = self.materials.get(line.material)
        if material is None:
            raise Refusal(f"“{line.material}” can only be weighed", "body/line", remedy="Weigh it", code="unknown_reference")
        if event.kind == "measured":
            return float(event.body["volume_ml"]) * material.density_g_ml()
        if event.kind == "dosed":
            return float(event.body["drops"]) * drop_ml(event.body) * material.density_g_ml()
        if material.piece_g is None:
            raise Refusal(
                f"Nobody has said what one {material.name.lower()} weighs", "body/line", remedy="Weigh it", code="no_piece_weight"
            )
        grams = float(event.body["count"]) * material.piece_g.value
        if grams > MOST_G:
            raise Refusal(
                f"{say.given(event.body['count'])} pieces are too many",
                "body/count",
                "at most a tonne of them",
                "Count again",
                "out_of_bounds",
            )
        return grams

    def _weighed(self, event: Event, _step: str) -> None:
        key = str(event.body["line"])
        line = self.spec.lines.get(key)
        if line is None:
            raise Refusal(f"There is no line “{key}” in this run", "body/line", code="unknown_reference")
        grams, before = self._grams(event, line), self._weighed_by.get(key)
        if (
            before is not None
            and before.device != event.device
            and event.body.get("replaces") != before.id
            and abs(grams - self.actual_g[key]) > SAME_G
        ):
            name = material_name(line.material, self.materials)
            self.conflicts.append(
                f"{name} was weighed twice: {say.grams(self.actual_g[key])} by {before.by}, then {say.grams(grams)} by {event.by}. "
                "The later one counts; take it back if it is the same pour."
            )
        self.actual_g[key] = grams
        self._weighed_by[key] = event
        self._must_be_in_date(line, event)

    def _must_be_in_date(self, line: s.Line, event: Event) -> None:
        """What goes in must be in date on the day it is used; the day is that of the device that saw it."""
        material = self.materials.get(line.material)
        self.past_use_by.pop(line.id, None)
        if material is not None and material.use_by and event.at[:10] > material.use_by:
            last = date.fromisoformat(material.use_by)
            words = f"{material.name} was to be used by {last:%d %b}, and went in on {date.fromisoformat(event.at[:10]):%d %b}. Throw the batch away, or ask your lead."
            self.past_use_by[line.id] = (material.use_by, words)

    def _read(self, event: Event, step: str) -> None:
        if step and step not in self.done:
            # Read while the step goes on: it belongs to the watch, and says nothing yet of the finished vessel.
            self.watched[step] = (*self.watched.get(step, ()), event)
            return
        self.reads.append(event)
        self.read_after[event.id] = (dict(self.actual_g), dict(self.done))

    def _step_done(self, event: Event, step: str) -> None:
        _first(self.begun, step, event.at)
        self.done[step] = event.at

    def _step_skipped(self, event: Event, step: str) -> None:
        if step in self.done and step not in self.skipped:
            title = self._title(step)
            self.conflicts.append(
                f"“{title}” was done, and then skipped by {event.by}. It counts as skipped; take that back if it was done."
            )
        self._step_done(event, step)
        self.skipped.add(step)
        for line in next(item for item in self.spec.steps if item.id == step).lines:
            # What had been poured of it before it was skipped is in the vessel.
            if so_far := self.so_far_g(line):
                self.actual_g[line.id] = so_far
        self.spec = without_skipped(self.spec, step, self.actual_g)

    def _step_changed(self, event: Event, step: str) -> None:
        changed = (changed_step(item, event.body["changes"]) if item.id == step else item for item in self.spec.steps)
        self.spec = replace(self.spec, steps=tuple(changed))

    def _step_first(self, event: Event, step: str) -> None:
        """Another order, where the steps allow it: one that needs what the others leave stays where it is, and that is said."""
        if step in self.done:
            return
        moved, title = brought_forward(self.spec, step, self.done), self._title(step)
        trouble = flow(Inputs(moved, self.materials, actual_g=self.actual_g)).refusal
        if trouble and flow(Inputs(self.spec, self.materials, actual_g=self.actual_g)).refusal is None:
            self.conflicts.append(f"“{title}” cannot come first: {trouble.text}")
            return
        self.spec = moved
        self.notes.append(f"“{title}” was brought forward by {event.by or 'somebody'}.")

    def _step_added(self, event: Event, _step: str) -> None:
        self.spec, step = with_extra_step(event, self.spec, self.done, self.materials)
        self.extra.add(step)

    def _sampled(self, event: Event, step: str) -> None:
        grams = float(event.body["mass_g"])
        _more(self.sampled, step, grams)
        _more(self.spilled_g, step, grams)
        self.notes.append(f"A sample of {say.grams(grams)} was set aside after “{self._title(step)}”.")

    def _repair_taken(self, event: Event, _step: str) -> None:
        self.spec = with_repair(self.spec, event, self.done, self.materials)
        additions = tuple(dict(item) for item in event.body["additions"])
        words = [
            f"+{say.GAP}{say.grams(float(item['mass_g']))} {short_name(self.materials[str(item['material'])].name)}" for item in additions
        ]
        self.taken.append(Repair(str(event.body["repair"]), "taken", additions, listed(words), ""))

    def _wrong_jar(self, event: Event, _step: str) -> None:
        self.poured.pop(str(event.body["line"]), None)
        self.spec, words = from_wrong_jar(event, self.spec, self.materials)
        self.notes.append(words)

    def _taken_from(self, event: Event, _step: str) -> None:
        self.spec = from_supply(event, self.spec, self.materials)
        self.supplies[str(event.body["line"])] = str(event.body["supply"])

    @property
    def by_volume(self) -> frozenset[str]:
        """Lines whose last amount was counted, measured or dropped in, and not weighed."""
        return frozenset(line for line, event in self._weighed_by.items() if event.kind != "weighed")

    @property
    def weighed_at(self) -> dict[str, str]:
        """When each line went in [ISO 8601]."""
        return {line: event.at for line, event in self._weighed_by.items()}

    def _went_on(self, event: Event, step: str) -> None:
        """A supply ran empty in mid-pour: what is in so far came out of it, the rest comes out of the one that is named."""
        key, so_far = str(event.body["line"]), float(event.body["mass_g"])
        before = self.spec.lines.get(key)
        self._taken_from(event, step)
        if before is None:
            return
        poured = self.poured.setdefault(key, [])
        if poured and so_far < poured[-1].so_far_g:
            name = material_name(before.material, self.materials)
            self.conflicts.append(
                f"{name}: {say.grams(so_far)} were in after {say.grams(poured[-1].so_far_g)}. The greater one counts; take the other back."
            )
            so_far = poured[-1].so_far_g
        poured.append(Poured(before.material, so_far))

    def parts_g(self, line: s.Line) -> list[tuple[str, float]]:
        """What is in of a line so far [g], by the keys of what it came out of, in the order in which they were poured."""
        actual = self.actual_g.get(line.id)
        parts, before = [], 0.0
        for item in self.poured.get(line.id, ()):
            upto = item.so_far_g if actual is None else min(item.so_far_g, actual)
            parts.append((item.material, upto - before))
            before = upto
        if actual is not None:
            parts.append((self.keys.get(line.id, line.material), actual - before))
        return parts

    def so_far_g(self, line: s.Line) -> float:
        """What is in of a line that is not weighed yet [g], out of the supplies that ran empty."""
        poured = self.poured.get(line.id, [])
        return poured[-1].so_far_g if poured and line.id not in self.actual_g else 0.0

    def _pour_together(self) -> None:
        """A line that several supplies went into counts, once it is weighed, with what they are together."""
        for key, poured in self.poured.items():
            line = self.spec.lines.get(key)
            if line is None or key not in self.actual_g:
                continue
            if self.actual_g[key] < poured[-1].so_far_g - SAME_G:
                self.conflicts.append(
                    f"{material_name(line.material, self.materials)}: {say.grams(self.actual_g[key])} were weighed, and {say.grams(poured[-1].so_far_g)} were in "
                    "before the other supply. Weigh it again."
                )
            self.keys[key] = line.material
            together = key_of_blend(line.material, key)
            parts = [(self.materials[part], grams) for part, grams in self.parts_g(line) if grams > 0 and part in self.materials]
            self.materials = {**self.materials, together: blended(together, parts)}
            self.spec = in_its_place(self.spec, key, together)

    @property
    def spec_to_add_from(self) -> s.Spec:
        """The spec with every line out of the one supply that is at hand for it: what is added later comes out of that, and not out of a blend."""
        spec = self.spec
        for line, key in self.keys.items():
            spec = in_its_place(spec, line, key)
        return spec

    def _tasted(self, event: Event, step: str) -> None:
        body = event.body
        found = Taste(
            self._stands_at(step), str(body["sense"]), str(body["verdict"]), float(body.get("share") or 0.0), str(body.get("text") or "")
        )
        self.tastes.append(found)

    def _stands_at(self, step: str) -> str:
        """The step after which the vessel is what was tasted: this one when everything of it is in, else the last one done in its vessel."""
        item = next(item for item in self.spec.steps if item.id == step)
        if step in self.done or all(line.id in self.actual_g for line in item.lines):
            return step
        before = [other.id for other in self.spec.steps if other.vessel == item.vessel and other.id in self.done]
        return before[-1] if before else step

    def _finished(self, _event: Event, _step: str) -> None:
        self.status = "finished"

    def _title(self, step: str) -> str:
        return step_title(next(item for item in self.spec.steps if item.id == step), self.materials, spec=self.spec)


def _first(kept: dict[str, str], step: str, at: str) -> None:
    kept.setdefault(step, at)


def _more(kept: dict[str, float], step: str, grams: float) -> None:
    kept[step] = kept.get(step, 0.0) + grams
