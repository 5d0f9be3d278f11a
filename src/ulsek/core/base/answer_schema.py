"""The JSON Schema of answers, made from their declarations as their JSON is."""

from __future__ import annotations

import typing
from collections.abc import Iterable, Mapping, Sequence
from typing import Annotated, Any, Literal

from .answer import SCALARS, Member, StoredAs, alternatives, is_answer, is_fixed, is_optional, is_union, members, tag_of
from .messages import Message

Schema = dict[str, object]
"""A JSON Schema, draft 2020-12."""


def schema(kind: Any, refs: str, found: dict[str, object] | None = None) -> Schema:
    """Returns the JSON Schema of a declared type.

    Dataclasses are named by reference below `refs`, such as ``#/$defs/``; those met are noted in `found` by name (see `name_of`). Raises TypeError for a type
    that no answer may hold, and for two classes of one name.
    """
    origin, given = typing.get_origin(kind), typing.get_args(kind)
    if kind is Message:
        return {"type": "string"}
    if kind in SCALARS:
        return dict(SCALARS[kind].schema)
    if is_answer(kind):
        name = name_of(kind)
        if found is not None and found.setdefault(name, kind) != kind:
            raise TypeError(f"two answers are named {name}: {kind.__module__} and {found[name].__module__}")
        return {"$ref": f"{refs}{name}"}
    if origin is Annotated:
        return schema(given[1].kind, refs, found) if isinstance(given[1], StoredAs) else {"$ref": f"{refs}{given[1].name}"}
    if origin is Literal:
        return {"type": "string", "const": given[0]} if len(given) == 1 else {"type": "string", "enum": list(given)}
    if is_union(kind):
        return _union_schema(kind, refs, found)
    if is_fixed(kind):
        return {"type": "array", "items": schema(given[0], refs, found), "minItems": len(given), "maxItems": len(given)}
    if origin in (tuple, list, Sequence):
        return {"type": "array", "items": schema(given[0], refs, found)}
    if origin in (dict, Mapping):
        return {"type": "object", "additionalProperties": True if given[1] is object else schema(given[1], refs, found)}
    raise TypeError(f"{kind} cannot be part of an answer")


def _union_schema(kind: Any, refs: str, found: dict[str, object] | None) -> Schema:
    inner = alternatives(kind)
    one = schema(inner[0], refs, found) if len(inner) == 1 else {}
    if len(inner) > 1 and not is_answer(inner[0]):
        one = {"anyOf": [schema(item, refs, found) for item in inner]}
    elif len(inner) > 1:
        tags = {tag_of(item)[1]: str(schema(item, refs, found)["$ref"]) for item in inner}
        one = {"oneOf": [{"$ref": ref} for ref in tags.values()], "discriminator": {"propertyName": tag_of(inner[0])[0], "mapping": tags}}
    return {"anyOf": [one, {"type": "null"}]} if is_optional(kind) else one


def name_of(kind: Any) -> str:
    """Returns the name of the schema of a dataclass: the class's; of a generic one with its types, as of ``Slice[Row]``, both: SliceOfRow."""
    given = typing.get_args(kind)
    cls: type = typing.get_origin(kind) or kind
    return f"{cls.__name__}Of{''.join(map(name_of, given))}" if given else cls.__name__


def object_schema(kind: Any, refs: str, found: dict[str, object] | None = None) -> Schema:
    """Returns the JSON Schema of the object that a dataclass is encoded to. See `schema`."""
    cls: type = typing.get_origin(kind) or kind
    about = (cls.__doc__ or "").strip()
    own = members(kind)
    return {
        "type": "object",
        **({"description": " ".join(about.split())} if about and not about.startswith(f"{cls.__name__}(") else {}),
        "properties": {member.name: _member_schema(member, refs, found) for member in own},
        "required": [member.name for member in own if not member.left_out],
        "additionalProperties": False,
    }


def _member_schema(member: Member, refs: str, found: dict[str, object] | None) -> Schema:
    kind = member.type
    if member.left_out:
        (kind,) = alternatives(kind)
    return schema(kind, refs, found)


def schemas(kinds: Iterable[Any], refs: str) -> dict[str, Schema]:
    """Returns the JSON Schemas of all dataclasses that the declared types hold, at any depth, by name. Raises TypeError as `schema` does."""
    found: dict[str, object] = {}
    for kind in kinds:
        schema(kind, refs, found)
    made: dict[str, Schema] = {}
    while missing := [name for name in found if name not in made]:
        for name in missing:
            made[name] = object_schema(found[name], refs, found)
    return dict(sorted(made.items()))
