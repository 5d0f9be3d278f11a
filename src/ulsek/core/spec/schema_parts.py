"""Parts of a JSON Schema that the schemas of the spec file share."""

from __future__ import annotations

from ..base.answer_schema import Schema

STRINGS: Schema = {"type": "array", "items": {"type": "string"}}
"""The JSON Schema of a list of texts."""


def ref(name: str) -> Schema:
    """Returns the JSON Schema that refers to the definition `name` under `$defs`."""
    return {"$ref": f"#/$defs/{name}"}


def object_of(description: str, required: list[str], properties: Schema) -> Schema:
    """Returns the JSON Schema of an object with these properties, of which the `required` must be there."""
    return {"description": description, "type": "object", "required": required, "properties": properties}


def text_of(description: str = "") -> Schema:
    """Returns the JSON Schema of a text, with its description if there is one."""
    return {"type": "string", **({"description": description} if description else {})}
