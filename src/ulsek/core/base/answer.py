"""Answers: frozen dataclasses whose declaration is their JSON. What encodes them, and what reads stored JSON of them, is made once per class.

What is sent holds every message as its text; what is stored holds it as template and values (`messages.stored`).
"""

from __future__ import annotations

import dataclasses
import types
import typing
from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import date, datetime
from decimal import Decimal
from functools import cache
from typing import Annotated, Any, Literal, NamedTuple, TypeVar
from uuid import UUID

from .messages import Message, read_stored, stored

OpenForm = Mapping[str, object]
"""An object of JSON that is described elsewhere, such as a spec file."""
Encoder = Callable[[Any], Any]
Method = TypeVar("Method", bound=Callable[..., object])
NEVER_MISSING: Any = object()


@dataclasses.dataclass(frozen=True, slots=True)
class DescribedAs:
    """Marks a form, as in ``Annotated[OpenForm, DescribedAs("SpecFile")]``, whose schema is named so and is written elsewhere."""

    name: str


@dataclasses.dataclass(frozen=True, slots=True)
class StoredAs:
    """Marks a form, as in ``Annotated[OpenForm, StoredAs(Result)]``, that was stored as the JSON of this dataclass, perhaps by an
    earlier version of it. An instance may stand in its place.
    """

    kind: type


@dataclasses.dataclass(frozen=True, slots=True)
class Member:
    """One member of the JSON object of a class.

    `name` is its name in JSON, `attribute` that of the field or property. If `left_out` is True, None is left out of the JSON. `stored` is the JSON that
    stands for the member in results that were stored before it existed.
    """

    name: str
    attribute: str
    type: Any
    left_out: bool = False
    stored: Any = NEVER_MISSING


def json_member(*, name: str = "", left_out: bool = False, stored: Any = NEVER_MISSING) -> Mapping[str, object]:
    """Returns the metadata of a field whose JSON is not simply its value under its own name. For the arguments see `Member`."""
    return {"answer": {"name": name, "left_out": left_out, "stored": stored}}


HIDDEN: Mapping[str, object] = {"answer": None}
"""The metadata of a field that is no part of the JSON."""


def in_answer(*, name: str = "", stored: Any = NEVER_MISSING) -> Callable[[Method], Method]:
    """Makes a property part of the JSON of its class. Stands below `@property`. For the arguments see `Member`."""

    def marked(method: Method) -> Method:
        method.__dict__["in_answer"] = {"name": name, "stored": stored}
        return method

    return marked


@cache
def members(kind: Any) -> tuple[Member, ...]:
    """Returns the members of the JSON object of a dataclass: its fields in their order, then its properties marked by `in_answer`.

    In a generic class with its types given, as in ``Slice[Row]``, those stand in the place of its type variables.
    """
    cls = typing.get_origin(kind) or kind
    given = dict(zip(getattr(cls, "__parameters__", ()), typing.get_args(kind), strict=False))
    hints = {name: _filled(hint, given) for name, hint in typing.get_type_hints(cls, include_extras=True).items()}
    found = []
    for field in dataclasses.fields(cls):
        told = field.metadata.get("answer", json_member()["answer"])
        if told is not None:
            kind = _as_stored(hints[field.name], told["stored"])
            found.append(Member(told["name"] or field.name, field.name, kind, told["left_out"], told["stored"]))
    marked: dict[str, property] = {}
    for base in reversed(cls.__mro__):
        marked |= {name: item for name, item in vars(base).items() if isinstance(item, property)}
    for name, item in marked.items():
        if item.fget is not None and (told := getattr(item.fget, "in_answer", None)):
            kind = _as_stored(typing.get_type_hints(item.fget, include_extras=True)["return"], told["stored"])
            found.append(Member(told["name"] or name, name, kind, stored=told["stored"]))
    return tuple(found)


def _filled(hint: Any, given: Mapping[Any, Any]) -> Any:
    """Returns a declared type with the given types in the place of its type variables."""
    if isinstance(hint, TypeVar):
        return given.get(hint, hint)
    own = getattr(hint, "__parameters__", ())
    return hint[tuple(given.get(item, item) for item in own)] if own else hint


def _as_stored(kind: Any, stored: Any) -> Any:
    """Returns the type with None added, if None is the stored form of a missing value."""
    return kind | None if stored is None and not is_optional(kind) else kind


def is_optional(kind: Any) -> bool:
    """Returns True for a union with None."""
    return is_union(kind) and types.NoneType in typing.get_args(kind)


def is_union(kind: Any) -> bool:
    """Returns True for a union of types."""
    return typing.get_origin(kind) in (typing.Union, types.UnionType)


def is_answer(kind: Any) -> bool:
    """Returns True for a dataclass that is written as a JSON object: every one but a message, which is written as a text."""
    kind = typing.get_origin(kind) or kind
    return isinstance(kind, type) and dataclasses.is_dataclass(kind) and kind is not Message


def fields_of(value: Any) -> dict[str, Any]:
    """Returns the fields of a dataclass by name, for the constructor of a class that extends it."""
    return {item.name: getattr(value, item.name) for item in dataclasses.fields(value)}


def _time(value: datetime) -> str:
    """ISO 8601 to the millisecond, with Z for UTC."""
    text = value.isoformat(timespec="milliseconds" if value.microsecond else "auto")
    return text.removesuffix("+00:00") + "Z" if text.endswith("+00:00") else text


class Scalar(NamedTuple):
    """A type of a single value: what encodes it (None if it is JSON already), and its JSON Schema."""

    encode: Encoder | None
    schema: Mapping[str, str]


SCALARS: Mapping[type, Scalar] = {
    str: Scalar(None, {"type": "string"}),
    bool: Scalar(None, {"type": "boolean"}),
    int: Scalar(None, {"type": "integer"}),
    float: Scalar(None, {"type": "number"}),
    Decimal: Scalar(str, {"type": "string", "format": "decimal"}),
    datetime: Scalar(_time, {"type": "string", "format": "date-time"}),
    date: Scalar(date.isoformat, {"type": "string", "format": "date"}),
    UUID: Scalar(str, {"type": "string", "format": "uuid"}),
    types.NoneType: Scalar(None, {"type": "null"}),
}
"""Every type of a single value that an answer may hold."""


def tag_of(kind: type) -> tuple[str, str]:
    """Returns (name, value) of the member that tells a class of a union from the others. Raises TypeError if it has none."""
    for member in members(kind):
        if typing.get_origin(member.type) is Literal and len(typing.get_args(member.type)) == 1:
            return member.name, typing.get_args(member.type)[0]
    raise TypeError(f"{kind.__name__} stands in a union and has no literal tag")


def alternatives(kind: Any) -> tuple[Any, ...]:
    """Returns the types of a union without None. Raises TypeError for a union whose values JSON could not tell apart."""
    found = tuple(item for item in typing.get_args(kind) if item is not types.NoneType)
    if len(found) > 1 and not _told_apart(found):
        raise TypeError(f"{kind} is no union of dataclasses with one literal tag")
    return found


def _told_apart(kinds: tuple[Any, ...]) -> bool:
    """Returns True if JSON tells values of these types apart."""
    return set(kinds) <= {str, bool, float} or (all(map(is_answer, kinds)) and len({tag_of(item)[0] for item in kinds}) == 1)


class Writer:
    """Encodes answers as JSON, with each message written by `message`. It caches the encoder of each class."""

    def __init__(self, message: Callable[[Message], Any]) -> None:
        self._message = message
        self._objects: dict[type, Encoder] = {}

    def encode(self, value: object) -> Any:
        """Returns the JSON of an answer, of a collection of answers, or of plain JSON values. Decimals are texts, moments ISO 8601. Raises TypeError for a
        value that an answer may not hold.
        """
        kind: Any = type(value)
        made = self._objects.get(kind)
        if made is not None:
            return made(value)
        if kind is Message:
            return self._message(value)  # type: ignore[arg-type] # its type has just been compared
        if is_answer(kind):
            self._objects[kind] = self._object_encoder(kind)
            return self._objects[kind](value)
        if kind in SCALARS:
            made = SCALARS[kind].encode
            return value if made is None else made(value)
        if isinstance(value, Mapping):
            return {key: self.encode(item) for key, item in value.items()}
        if isinstance(value, Iterable) and not isinstance(value, str):
            return [self.encode(item) for item in value]
        raise TypeError(f"{kind.__name__} cannot be part of an answer")

    def _encoder(self, kind: Any) -> Encoder | None:
        """Returns the encoder of a declared type; None if its values are JSON already. Raises TypeError for a type that an answer may not hold."""
        origin, given = typing.get_origin(kind), typing.get_args(kind)
        if kind is Message:
            return self._message
        if kind in SCALARS:
            return SCALARS[kind].encode
        if is_answer(kind) or isinstance(kind, TypeVar):
            return self.encode
        if origin is Literal:
            return None
        if origin is Annotated:
            return self._stored_encoder(given[1].kind) if isinstance(given[1], StoredAs) else self._encoder(given[0])
        if is_union(kind):
            inner = [self._encoder(item) for item in alternatives(kind)]
            made = inner[0] if len(inner) == 1 else self.encode if any(inner) else None
            return made and _unless_none(made)
        if is_fixed(kind):
            return _one_by_one([self._encoder(item) for item in given])
        if origin in (tuple, list, Sequence):
            return _each(self._encoder(given[0]))
        if origin in (dict, Mapping):
            return _values(None if given[1] is object else self._encoder(given[1]))
        raise TypeError(f"{kind} cannot be part of an answer")

    def _stored_encoder(self, cls: type) -> Encoder:
        """Returns the encoder of what may be an instance of the class or its stored JSON."""
        read = _reader_of(cls)
        return lambda value: self.encode(value) if isinstance(value, cls) else read(value)

    def _object_encoder(self, cls: type) -> Encoder:
        """Returns the encoder of a dataclass.

        Its source text is generated, as that of a dataclass's own methods is: a loop over the members takes twice as long, and this runs at every edit.
        """
        own, names = members(cls), {}
        parts = []
        for n, member in enumerate(own):
            made = self._encoder(member.type)
            names[f"made_{n}"] = made
            parts.append(f"{member.name!r}: " + (f"value.{member.attribute}" if made is None else f"made_{n}(value.{member.attribute})"))
        whole: Encoder = eval(f"lambda value: {{{', '.join(parts)}}}", names)  # noqa: S307 # the text is made of the names of a class alone
        left_out = [member.name for member in own if member.left_out]
        return _without_nones(whole, left_out) if left_out else whole


def is_fixed(kind: Any) -> bool:
    """Returns True for a tuple of a fixed length. Raises TypeError for one of several types: its places would have no names."""
    given = typing.get_args(kind)
    if typing.get_origin(kind) is not tuple or given[-1] is Ellipsis or len(given) < 2:
        return False
    if len(set(given)) > 1:
        raise TypeError(f"{kind} cannot be part of an answer: give its parts names in a dataclass")
    return True


def _unless_none(made: Encoder) -> Encoder:
    return lambda value: None if value is None else made(value)


def _each(made: Encoder | None) -> Encoder:
    return list if made is None else lambda value: [made(item) for item in value]


def _values(made: Encoder | None) -> Encoder:
    return dict if made is None else lambda value: {key: made(item) for key, item in value.items()}


def _one_by_one(made: Sequence[Encoder | None]) -> Encoder:
    return lambda value: [item if one is None else one(item) for one, item in zip(made, value, strict=True)]


def _without_nones(made: Encoder, names: Sequence[str]) -> Encoder:
    def to_object(value: object) -> dict[str, object]:
        found: dict[str, object] = made(value)
        for name in names:
            if found[name] is None:
                del found[name]
        return found

    return to_object


encode = Writer(Message.text).encode
"""Returns the JSON of an answer as it is sent: see `Writer.encode`. Messages are in the source language."""
stored_json = Writer(stored).encode
"""Returns the JSON of an answer as it is stored: see `Writer.encode`. Messages keep their templates and values."""


@cache
def _reader(kind: Any) -> Encoder | None:
    """Returns the function that converts stored JSON of a declared type to its JSON of today; None if both are the same."""
    origin, given = typing.get_origin(kind), typing.get_args(kind)
    if kind is Message:
        return lambda stored: read_stored(stored).text()
    if is_answer(kind):
        return _reader_of(kind)
    if is_union(kind):
        inner = alternatives(kind)
        made = _tagged_reader(inner) if len(inner) > 1 and is_answer(inner[0]) else _reader(inner[0])
        return made and _unless_none(made)
    if origin in (tuple, list, Sequence) and not is_fixed(kind):
        each = _reader(given[0])
        return each and _each(each)
    if origin in (dict, Mapping):
        each = _reader(given[1])
        return each and _values(each)
    return None


def _reader_of(cls: type) -> Encoder:
    """Returns the function that converts stored JSON of a dataclass to its members of today. It is made at its first use, because a class may hold itself.

    A member that was not stored has the value of its `stored`; one that is no longer declared is omitted; a message is rendered. Nothing else is changed. The
    function raises KeyError for a member that is missing and has no `stored`.
    """

    def read(stored: Any) -> Any:
        return _object_reader(cls)(stored)

    return read


def _tagged_reader(kinds: tuple[type, ...]) -> Encoder:
    name = tag_of(kinds[0])[0]
    by_tag = {tag_of(kind)[1]: _object_reader(kind) for kind in kinds}
    return lambda stored: by_tag[stored[name]](stored)


@cache
def _object_reader(cls: type) -> Encoder:
    own = [(member, _reader(member.type), _missing_json(member)) for member in members(cls)]

    def read(stored: Mapping[str, Any]) -> dict[str, Any]:
        found: dict[str, Any] = {}
        for member, made, missing in own:
            if member.name in stored:
                value = stored[member.name]
                found[member.name] = value if made is None else made(value)
            elif missing is not NEVER_MISSING:
                found[member.name] = missing
            elif not member.left_out:
                raise KeyError(f"{cls.__name__}.{member.name}")
        return found

    return read


def _missing_json(member: Member) -> Any:
    """Returns the JSON that stands for a member that was not stored; NEVER_MISSING if there is none."""
    return member.stored if member.stored is NEVER_MISSING else encode(member.stored)
