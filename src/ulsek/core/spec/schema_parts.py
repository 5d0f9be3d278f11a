"""Parts of a JSON Schema that the schemas of the spec file share."""

from __future__ import annotations

from ..base.answer_schema import Schema

STRINGS: Schema = {"type": "array", "items": {"type": "string"}}
"""A list of texts."""


def ref(name: str) -> Schema:
    """Returns a reference to a definition of the schema."""
    return {"$ref": f"#/$defs/{name}"}


def object_of(description: str, required: list[str], properties: Schema) -> Schema:
    """Returns an object with its properties, some of them required."""
    return {"description": description, "type": "object", "required": required, "properties": properties}


def text_of(description: str = "") -> Schema:
    """Returns a text."""
    return {"type": "string", **({"description": description} if description else {})}
