"""Model field that stores a message: its template and values, rendered when it is shown."""

from __future__ import annotations

import json
from typing import Any

from django.db import models

from ulsek.core.base.messages import NOTHING, Message, read_stored, stored, verbatim

_BEGINS = '{"template"'
"""How the JSON of a message begins. Every other text was stored before messages were kept, and is shown as it was."""


class MessageField(models.TextField[Message, Message]):
    """Stores a message as JSON; an empty one as an empty text. Source of the form: `ulsek.core.base.messages.stored`."""

    description = "A message"

    def from_db_value(self, value: str | None, *_: object) -> Message:
        return self.to_python(value)

    def to_python(self, value: object) -> Message:
        """Returns the message of a stored text, or the message itself."""
        if isinstance(value, Message):
            return value
        text = str(value or "")
        return read_stored(json.loads(text)) if text.startswith(_BEGINS) else verbatim(text)

    def get_prep_value(self, value: Any) -> str:
        """Returns the text that is stored. Raises TypeError for what is not a message: a text would be stored rendered."""
        if not isinstance(value, Message):
            raise TypeError(f"{self.name} keeps a message, not {type(value).__name__}")
        return json.dumps(stored(value), ensure_ascii=False, separators=(",", ":")) if value else ""

    def value_to_string(self, obj: models.Model) -> str:
        return self.get_prep_value(self.value_from_object(obj))


def said_nothing() -> Message:
    """Returns the default of a field that stores a message: the empty message."""
    return NOTHING
