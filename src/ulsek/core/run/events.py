"""Events of a run: what each kind must hold, and the order in which they count.

The kinds are documented in ``docs/formats/run-events.md``. An event is made on the device that saw it happen and is never changed;
sending it again changes nothing.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from ..base import number_format as say
from ..base.figures import FIGURES, MOST_G, RUN_READINGS
from ..base.refusals import Refusal
from ..base.units import DROP_ML
from ..materials.supply import read_supply
from ..properties.acidity import acid_from_burette

EVENT_FORMAT_VERSION = 1

SENSES = ("taste", "look", "smell")
VERDICTS = ("right", "weak", "strong", "odd")

_NAMES = {"line", "supply", "property", "step", "sense", "verdict", "repair", "material", "of", "text", "to"}
"""Parts of an event that name something, or say it in words."""
KINDS: Mapping[str, tuple[str, ...]] = {
    "started": (),
    "weighed": ("line", "mass_g"),
    "counted": ("line", "count"),
    "measured": ("line", "volume_ml"),
    "dosed": ("line", "drops"),
    "taken_from": ("line", "supply"),
    "went_on": ("line", "mass_g", "supply"),
    "read": ("property",),
    "step_begun": ("step",),
    "step_done": ("step",),
    "step_changed": ("step", "changes"),
    "step_skipped": ("step",),
    "step_first": ("step",),
    "step_added": ("step",),
    "sampled": ("step", "mass_g"),
    "tasted": ("step", "sense", "verdict"),
    "repair_put_off": ("repair",),
    "repair_refused": ("repair",),
    "repair_taken": ("repair", "additions"),
    "spilled": ("step", "mass_g"),
    "wrong_jar": ("line", "material"),
    "undone": ("of",),
    "noted": ("text",),
    "handed_over": ("to",),
    "finished": (),
}
"""Each kind with what its body must hold."""


@dataclass(frozen=True, slots=True)
class Event:
    """One thing that happened: `id` made by the client; ordered by (`lamport`, `device`, `sequence`); `at` is ISO 8601 with offset.

    Where the device's `clock` was "corrected", or the time "estimated", `said_at` is what the device said. `proof` says what shows that it was `by` that
    person: the "key" of their session, a "lead" who accepted it, or nothing.
    """

    id: str
    kind: str
    at: str
    lamport: int
    device: str
    sequence: int
    by: str
    body: Mapping[str, Any]
    said_at: str = ""
    clock: str = ""
    proof: str = ""

    @property
    def order(self) -> tuple[int, str, int]:
        return (self.lamport, self.device, self.sequence)


def read_event(data: Any) -> Event:
    """An event from its open form. Refuses unknown kinds, missing parts and figures out of bounds, each at its place."""
    if not isinstance(data, dict):
        raise Refusal("An event must be an object", "event", code="unreadable")
    kind = data.get("kind")
    if not isinstance(kind, str) or kind not in KINDS:
        raise Refusal(f"“{kind}” is no kind of event", "kind", f"the kinds are {', '.join(KINDS)}", code="unknown_kind")
    body = data.get("body") or {}
    if not isinstance(body, dict):
        raise Refusal("The body must be an object", "body", code="unreadable")
    for part in KINDS[kind]:
        if body.get(part) in (None, ""):
            raise Refusal(f"“{kind}” needs {part}", f"body/{part}", code="missing")
        if part in _NAMES and kind != "step_added" and not isinstance(body[part], str):
            raise Refusal(f"{part} must be a name or words", f"body/{part}", code="unreadable")
    for name in ("id", "device", "at"):
        if not isinstance(data.get(name), str) or not 0 < len(data[name]) <= 64:
            raise Refusal(f"An event needs its {name}", name, code="missing")
    counters = [data.get("lamport"), data.get("sequence")]
    if not all(isinstance(count, int) and not isinstance(count, bool) and 0 <= count < 2**53 for count in counters):
        raise Refusal("An event needs its counters lamport and sequence", "lamport", "whole numbers from 0", code="missing")
    _check_figures(kind, body)
    counted = int(data["lamport"]), data["device"], int(data["sequence"])
    said = (str(data.get(name) or "") for name in ("said_at", "clock", "proof"))
    return Event(data["id"], kind, data["at"], *counted, str(data.get("by") or ""), body, *said)


def _figure(value: Any, where: str, low: float, high: float, words: str, code: str, remedy: str) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        raise Refusal("A number is missing", where, words, remedy, "not_finite")
    if not low <= value <= high:
        raise Refusal(f"{say.given(value)} cannot be", where, words, remedy, code)
    return float(value)


def value_read(body: Mapping[str, Any]) -> Any:
    """The figure of a reading, in its property's unit. A titration may bring its burette (`naoh_ml`, `sample_ml`, `normality`) instead: the acid is
    worked out from it. Refuses a burette without its three figures.
    """
    burette = body.get("burette")
    if burette is None:
        return body.get("value")
    if body.get("property") != "acid_g_100ml" or not isinstance(burette, dict):
        raise Refusal("Only a titration has a burette", "body/burette", code="unreadable")
    naoh, sample, normality = (
        _figure(burette.get(name), f"body/burette/{name}", low, high, words, "out_of_bounds", "Read the burette again")
        for name, low, high, words in (
            ("naoh_ml", *FIGURES["naoh_ml"].readable),
            ("sample_ml", 0.1, 1000.0, "from 0.1 mL to 1 L"),
            ("normality", 0.001, 10.0, "from 0.001 to 10 mol/L"),
        )
    )
    return acid_from_burette(naoh, sample, normality)


def drop_ml(body: Mapping[str, Any]) -> float:
    """What one drop of a dose holds [mL]: as the dropper was calibrated, else as droppers usually give. Refuses what no dropper gives."""
    given = body.get("drop_ml")
    words = "a dropper gives from 0.005 to 1 mL"
    return DROP_ML if given is None else _figure(given, "body/drop_ml", 0.005, 1.0, words, "out_of_bounds", "Weigh twenty drops and divide")


def _check_figures(kind: str, body: Mapping[str, Any]) -> None:
    if kind in ("weighed", "spilled", "sampled", "went_on"):
        _figure(
            body["mass_g"],
            "body/mass_g",
            1e-6,
            MOST_G,
            "a weight is above 0 g and at most a tonne",
            "not_positive",
            "Weigh again, or skip the line",
        )
        if kind == "went_on":
            read_supply(body["supply"])
    elif kind == "read":
        if body["property"] not in RUN_READINGS:
            raise Refusal(
                f"“{body['property']}” cannot be read", "body/property", f"choose one of {', '.join(RUN_READINGS)}", code="unreadable"
            )
        low, high, words = FIGURES[body["property"]].readable
        _figure(value_read(body), "body/value", low, high, words, "reading_out_of_range", "Read again, or check the unit")
    elif kind in ("counted", "measured"):
        part, most, words = (
            ("count", 1e5, "above 0 and at most 100 000") if kind == "counted" else ("volume_ml", MOST_G, "above 0 mL and at most 1 000 L")
        )
        _figure(body[part], f"body/{part}", 1e-6, most, words, "not_positive", "Measure it again, or weigh it")
    elif kind == "dosed":
        _figure(body["drops"], "body/drops", 1e-6, 1e5, "above 0 and at most 100 000", "not_positive", "Count them again, or weigh it")
        drop_ml(body)
    elif kind == "taken_from":
        read_supply(body["supply"])
    elif kind == "tasted":
        for part, allowed in (("sense", SENSES), ("verdict", VERDICTS)):
            if body[part] not in allowed:
                raise Refusal(f"“{body[part]}” is not known here", f"body/{part}", f"choose one of {', '.join(allowed)}", code="unreadable")
        if body.get("share") is not None:
            _figure(body["share"], "body/share", 0.0, 3.0, "from none to three times too much", "out_of_bounds", "Say it in tenths")
    elif kind == "step_added" and not isinstance(body["step"], dict):
        raise Refusal("An added step must be a step", "body/step", code="unreadable")
    elif kind == "repair_taken":
        additions = body["additions"]
        if not isinstance(additions, list) or not all(
            isinstance(item, dict) and item.get("material") and item.get("line") for item in additions
        ):
            raise Refusal("A repair needs its additions", "body/additions", code="missing")
        for item in additions:
            _figure(item.get("mass_g"), "body/additions", 1e-6, MOST_G, "an addition is above 0 g", "not_positive", "")
    elif kind == "started" and body.get("factor") is not None:
        _figure(
            body["factor"],
            "body/factor",
            1e-6,
            10000.0,
            "above 0 and at most 10 000 times the spec",
            "out_of_bounds",
            "Start a smaller batch",
        )
    elif kind == "step_changed" and not isinstance(body["changes"], dict):
        raise Refusal("A changed step needs its changes", "body/changes", code="unreadable")


def in_order(events: Iterable[Event]) -> list[Event]:
    """Each event once, in the order that counts, without those taken back by a later “undone” (which can itself be undone)."""
    once = {event.id: event for event in events}
    ordered = sorted(once.values(), key=lambda event: event.order)
    gone: set[str] = set()
    for event in reversed(ordered):
        if event.kind == "undone" and event.id not in gone:
            gone.add(str(event.body["of"]))
    return [event for event in ordered if event.id not in gone and event.kind != "undone"]
