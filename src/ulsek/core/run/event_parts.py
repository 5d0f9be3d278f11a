"""Parts of an event's body, each declared once: how it is read, how it is written, and its JSON Schema."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar

from ..base.answer_schema import Schema
from ..base.free_text import free_text
from ..base.messages import NOTHING, Given, Message, listed, message, template
from ..base.refusals import Refusal
from ..materials.supply import SUPPLY_PATTERN, read_supply

OpenForm = dict[str, Any]
"""An object as JSON has it: values by name."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One part of a body. `about` says what it is, for the documentation; `missing` is the refusal where a required part is missing."""

    about: str = ""
    required: bool = True
    missing: Message = NOTHING

    def read(self, value: Any, where: str) -> Any:
        """Returns the value from its open form. Raises Refusal, placed at `where`, if it cannot be."""
        raise NotImplementedError

    def write(self, value: Any) -> Any:
        """Returns the open form of a value that was read."""
        return value

    def json_type(self) -> Schema:
        """Returns the JSON Schema of the open form, without `about` and without the null of an optional part. Raises NotImplementedError in the base."""
        raise NotImplementedError

    def schema(self) -> Schema:
        """Returns the JSON Schema of the open form."""
        own = self.json_type()
        if not self.required:
            kind = own.get("type")
            own = {**own, "type": [kind, "null"]} if isinstance(kind, str) and "enum" not in own else {"anyOf": [own, {"type": "null"}]}
        return {**own, "description": self.about} if self.about else own


@dataclass(frozen=True, slots=True, kw_only=True)
class Text(Part):
    """A name, an id, or a text; `most` [letters] is the longest one that is taken, None for any length."""

    most: int | None = None

    def read(self, value: Any, where: str) -> str:
        if not isinstance(value, str):
            raise Refusal(message("{name} must be a name or words", name=where.rpartition("/")[2]), where, code="unreadable")
        return value if self.most is None else free_text(value, where, self.most)

    def json_type(self) -> Schema:
        return {"type": "string", **({"minLength": 1} if self.required else {}), **({} if self.most is None else {"maxLength": self.most})}


@dataclass(frozen=True, slots=True, kw_only=True)
class Number(Part):
    """A finite number from `low` to `high` [`unit`]. A Refusal says the bounds in `words`, and the `remedy`."""

    low: float = -math.inf
    high: float = math.inf
    unit: str = ""
    words: Message = message("any number")
    remedy: Message = NOTHING
    code: str = "not_positive"

    def read(self, value: Any, where: str) -> float:
        if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
            raise Refusal(message("A number is missing"), where, self.words, self.remedy, "not_finite")
        if not self.low <= value <= self.high:
            raise Refusal(message("{value} cannot be", value=Given(value)), where, self.words, self.remedy, self.code)
        return float(value)

    def json_type(self) -> Schema:
        bounds = {name: bound for name, bound in (("minimum", self.low), ("maximum", self.high)) if math.isfinite(bound)}
        return {"type": "number", **bounds}


@dataclass(frozen=True, slots=True, kw_only=True)
class Flag(Part):
    """Yes or no."""

    def read(self, value: Any, where: str) -> bool:
        if not isinstance(value, bool):
            raise Refusal(message("“{value}” is neither yes nor no", value=value), where, code="unreadable")
        return value

    def json_type(self) -> Schema:
        return {"type": "boolean"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice(Part):
    """One of a few words. `unknown` is the Refusal for another {value}."""

    allowed: tuple[str, ...]
    unknown: Message = template("“{value}” is not known here")

    def read(self, value: Any, where: str) -> str:
        if value not in self.allowed:
            raise Refusal(
                self.unknown.with_values(value=str(value)),
                where,
                message("choose one of {allowed}", allowed=listed(self.allowed, "comma")),
                code="unreadable",
            )
        return str(value)

    def json_type(self) -> Schema:
        return {"enum": list(self.allowed)}


@dataclass(frozen=True, slots=True, kw_only=True)
class Supply(Part):
    """A delivery or a lot, as `materials.supply` names it."""

    def read(self, value: Any, where: str) -> str:
        return read_supply(value, where)

    def json_type(self) -> Schema:
        return {"type": "string", "pattern": f"^{SUPPLY_PATTERN}$"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Form(Part):
    """An object that another reader understands, such as a step in the form of the spec file. `wrong` is the Refusal for what is no object."""

    wrong: Message

    def read(self, value: Any, where: str) -> Mapping[str, Any]:
        if not isinstance(value, dict):
            raise Refusal(self.wrong, where, code="unreadable")
        return value

    def json_type(self) -> Schema:
        return {"type": "object", "additionalProperties": True}


@dataclass(frozen=True, slots=True, kw_only=True)
class Ids(Part):
    """Whole numbers, each once. `wrong` is the Refusal for anything else."""

    wrong: Message

    def read(self, value: Any, where: str) -> tuple[int, ...]:
        if not isinstance(value, list) or any(type(item) is not int for item in value) or len(set(value)) != len(value):
            raise Refusal(self.wrong, where, code="unreadable")
        return tuple(value)

    def write(self, value: tuple[int, ...]) -> list[int]:
        return list(value)

    def json_type(self) -> Schema:
        return {"type": "array", "items": {"type": "integer"}, "uniqueItems": True}


_PARTS: dict[type, Mapping[str, Part]] = {}
"""The declared parts by class, looked up once: a long batch is read again at every event."""


@dataclass(frozen=True, slots=True)
class Parts:
    """Base of the values that are read from JSON part by part: the body of an event, or an object in one. Each field declares its part."""

    kind: ClassVar[str] = ""
    """The tag of an event; what a Refusal for a missing part calls any of them."""

    @classmethod
    def parts(cls) -> Mapping[str, Part]:
        """Returns the declared parts by name, in their order."""
        if cls not in _PARTS:
            _PARTS[cls] = {item.name: item.metadata["part"] for item in dataclasses.fields(cls) if "part" in item.metadata}
        return _PARTS[cls]

    @classmethod
    def read_parts(cls, body: Mapping[str, Any], where: str, *, stored: bool = False) -> OpenForm:
        """Returns the values of the parts that `body` holds, for the constructor. Parts that are not declared are passed over.

        A `stored` body was taken in by the rules of its day: an optional part that cannot be read today is left out. Raises Refusal for every other part
        that is missing or cannot be.
        """
        found: OpenForm = {}
        for name, part in cls.parts().items():
            value, at = body.get(name), f"{where}/{name}"
            if part.required and value in (None, ""):
                raise Refusal(part.missing or message("“{kind}” needs {name}", kind=cls.kind, name=name), at, code="missing")
            if value is None:
                continue
            try:
                found[name] = part.read(value, at)
            except Refusal:
                if part.required or not stored:
                    raise
        return found

    def written_parts(self) -> OpenForm:
        """Returns the parts in their open form. Those that stand at their default are left out."""
        values = ((item, getattr(self, item.name)) for item in dataclasses.fields(self) if "part" in item.metadata)
        return {item.name: item.metadata["part"].write(value) for item, value in values if value != item.default}

    @classmethod
    def schema(cls) -> Schema:
        """Returns the JSON Schema of the body."""
        parts = cls.parts()
        return {
            "type": "object",
            "properties": {name: part.schema() for name, part in parts.items()},
            **({"required": needed} if (needed := [name for name, part in parts.items() if part.required]) else {}),
        }

    def check(self, where: str) -> None:
        """Raises Refusal, placed under `where`, for parts that cannot stand together."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Nested(Part):
    """An object with parts of its own, of the class `of`. `wrong` is the Refusal for what is no object."""

    of: type[Parts]
    wrong: Message

    def read(self, value: Any, where: str) -> Parts:
        if not isinstance(value, dict):
            raise Refusal(self.wrong, where, code="unreadable")
        made = self.of(**self.of.read_parts(value, where))
        made.check(where)
        return made

    def write(self, value: Parts) -> OpenForm:
        return value.written_parts()

    def json_type(self) -> Schema:
        return self.of.schema()


@dataclass(frozen=True, slots=True, kw_only=True)
class ListOf(Part):
    """A list of objects; the first is placed at `where`/1. `wrong` is the Refusal for what is no list."""

    item: Nested
    wrong: Message

    def read(self, value: Any, where: str) -> tuple[Parts, ...]:
        if not isinstance(value, list):
            raise Refusal(self.wrong, where, code="unreadable")
        return tuple(self.item.read(item, f"{where}/{n}") for n, item in enumerate(value, 1))

    def write(self, value: tuple[Parts, ...]) -> list[OpenForm]:
        return [self.item.write(item) for item in value]

    def json_type(self) -> Schema:
        return {"type": "array", "items": self.item.json_type()}


def required(part: Part) -> Any:
    """A field that every body of its kind holds."""
    return field(metadata={"part": part})


def optional(part: Part, default: object = None) -> Any:
    """A field that a body may leave out; it is `default` then."""
    return field(default=default, metadata={"part": dataclasses.replace(part, required=False)})
