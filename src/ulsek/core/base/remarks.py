"""Remarks: findings about a spec, as data."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from .answer import OpenForm, json_member
from .messages import NOTHING, Message

Severity = Literal["note", "check", "stop"]


@dataclass(frozen=True, slots=True)
class Remark:
    """A finding about a spec or batch.

    `text` is the finding in a sentence, `remedy` what to do, `where` the path of the step, line or figure that it concerns, such as ``steps/s2``.

    `entry` is the entry of the spec file that is removed when the remark is settled, as the file holds it; None for most.
    """

    code: str
    severity: Severity
    where: str
    text: Message
    remedy: Message = NOTHING
    entry: OpenForm | None = field(default=None, metadata=json_member(left_out=True))
