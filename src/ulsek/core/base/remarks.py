"""Remarks: what Ulsek notices about a spec, as data."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from .messages import NOTHING, Message

Severity = Literal["note", "check", "stop"]


@dataclass(frozen=True, slots=True)
class Remark:
    """`where` is a path such as ``steps/s2``; `text` holds the numbers, `remedy` what to do."""

    code: str
    severity: Severity
    where: str
    text: Message
    remedy: Message = NOTHING
