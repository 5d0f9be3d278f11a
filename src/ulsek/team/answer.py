"""Answers of endpoints: the `response=` of a dataclass, whose JSON and schema are the core's."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

from ulsek.core.base.answer import encode
from ulsek.core.base.answer_schema import schema, schemas

REFS = "#/components/schemas/"
"""Where the API's description names its schemas."""
REFERENCE = "x-ref"
"""Stands for ``$ref`` until the description is whole: pydantic follows only references of its own."""
_published: list[Any] = []


class _Published:
    """Leaves checking and JSON to the core, and describes the answer by the core's schema."""

    def __init__(self, kind: Any) -> None:
        self.schema: JsonSchemaValue = schema(kind, REFS)

    def __get_pydantic_core_schema__(self, _source: Any, _handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.any_schema(serialization=core_schema.plain_serializer_function_ser_schema(encode))

    def __get_pydantic_json_schema__(self, _core: CoreSchema, _handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return _renamed(self.schema)  # type: ignore[no-any-return]


def _renamed(value: Any) -> Any:
    if isinstance(value, dict):
        return {REFERENCE if key == "$ref" else key: _renamed(item) for key, item in value.items()}
    return [_renamed(item) for item in value] if isinstance(value, list) else value


def answers(kind: Any) -> Any:
    """Returns the type for `response=` of an endpoint that answers with a dataclass, or with a list of them as ``tuple[Kind, ...]``.

    Raises TypeError for a type that no answer may hold.
    """
    _published.append(kind)
    return Annotated[Any, _Published(kind)]


def published() -> dict[str, dict[str, object]]:
    """Returns the schemas of every answer of the API and of what they hold, by name."""
    return schemas(_published, REFS)
