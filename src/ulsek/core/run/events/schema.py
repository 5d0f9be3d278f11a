"""The JSON Schema of an event, made from the parts that each kind declares: what can be read is what is described."""

from __future__ import annotations

import inspect

from ...base.answer_schema import Schema
from .catalogue import EVENTS
from .event import MOST_COUNTED, MOST_ID, Event


def _text(description: str) -> Schema:
    return {"type": "string", "minLength": 1, "maxLength": MOST_ID, "description": description}


def _counter(description: str) -> Schema:
    return {"type": "integer", "minimum": 0, "maximum": MOST_COUNTED, "description": description}


_MADE: dict[str, Schema] = {
    "id": _text("made by the client, unique"),
    "at": _text("when it happened: ISO 8601 with the device's offset"),
    "lamport": _counter("above that of every event that the device had seen of the run"),
    "device": _text("the device that it was made on"),
    "sequence": _counter("counts the events of the device"),
}
_FOUND: dict[str, Schema] = {
    "by": {"type": "string", "description": "who did it"},
    "said_at": {"type": "string", "description": "what the device said, if `at` was corrected or estimated"},
    "clock": {"enum": ["", "corrected", "estimated"], "description": "what was done to its time"},
    "proof": {
        "enum": ["", "key", "lead"],
        "description": "what shows who did it: the key of their session, a lead who accepted it, or nothing",
    },
}


def effect(event: type[Event]) -> str:
    """Returns what an event of this kind does, on one line."""
    return " ".join((inspect.getdoc(event) or "").split())


def _kind(event: type[Event]) -> Schema:
    needs_body = any(part.required for part in event.parts().values())
    return {
        "type": "object",
        "description": effect(event),
        "required": ["kind", "body"] if needs_body else ["kind"],
        "properties": {"kind": {"const": event.kind}, "body": event.schema()},
    }


def kinds_schema() -> Schema:
    """Returns the JSON Schema of the kind of an event with its body."""
    return {"oneOf": [_kind(event) for event in EVENTS.values()]}


def event_schema(*, received: bool = False) -> Schema:
    """Returns the JSON Schema of an event as a device makes it; of one that was `received`, with who made it and what was found of its time."""
    common = {**_MADE, **_FOUND} if received else _MADE
    return {"allOf": [{"type": "object", "required": list(common), "properties": common}, kinds_schema()]}
