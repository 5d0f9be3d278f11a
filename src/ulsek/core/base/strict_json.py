"""A strict reader of JSON from outside: RFC 8259, without the choices that it leaves to implementations."""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from typing import Any, NoReturn

from .messages import Message, message
from .refusals import Refusal

NESTING = 20
"""Levels of arrays and objects within each other [count]; the database holds 32, and keeps what comes inside its own."""
_MOST_DIGITS = 17
"""Letters of `WHOLE` with its sign: more are not even converted, which takes time in proportion to their square."""
WHOLE = 2**53 - 1
"""The largest whole number that every reader of JSON takes exactly (RFC 8259, section 6)."""


def read_json(data: bytes | str, where: str = "") -> Any:
    """Returns the value of a JSON text: objects as dicts, numbers as finite floats or as ints of at most `WHOLE` in size.

    Raises Refusal (`unreadable`) for bytes that are not UTF-8, text that is not JSON, NaN and infinite numbers, numbers that are too large, half of a surrogate
    pair, a name that stands twice in one object, and more than `NESTING` levels. Source: RFC 8259, RFC 7493 (I-JSON).
    """
    try:
        text = data if isinstance(data, str) else data.decode("utf-8")
        found = json.loads(text, parse_constant=_no_number, parse_float=_float, parse_int=_int, object_pairs_hook=_object)
    except UnicodeDecodeError:
        raise _unreadable(message("it is not UTF-8"), where) from None
    except json.JSONDecodeError as trouble:
        raise _unreadable(
            message("{msg} at line {lineno}, column {colno}", msg=trouble.msg.lower(), lineno=trouble.lineno, colno=trouble.colno), where
        ) from None
    except RecursionError:
        raise _unreadable(message("it goes more than {nesting} levels deep", nesting=NESTING), where) from None
    except _Unfit as trouble:
        raise _unreadable(trouble.why, where) from None
    _check(found, where, surrogates="\\ud" in text.lower() or any("\ud800" <= letter <= "\udfff" for letter in text if letter > "\ud7ff"))
    return found


class _Unfit(ValueError):
    """JSON that is well formed but not accepted."""

    def __init__(self, why: Message) -> None:
        super().__init__(why.text())
        self.why = why


def _unreadable(why: Message, where: str) -> Refusal:
    return Refusal(message("This cannot be read as JSON"), where, why, message("Send it as it was written"), "unreadable")


def _no_number(text: str) -> NoReturn:
    raise _Unfit(message("{text} is no number", text=text))


def _float(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise _Unfit(message("{text} is too large a number", text=text[:20]))
    return value


def _int(text: str) -> int:
    if len(text) > _MOST_DIGITS or abs(int(text)) > WHOLE:
        raise _Unfit(message("{number}{more} is too large a number", number=text[:20], more="…" if len(text) > 20 else ""))
    return int(text)


def _object(pairs: Sequence[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) != len(pairs):
        names = [name for name, _ in pairs]
        twice = next(name for name in names if names.count(name) > 1)
        raise _Unfit(message("“{twice}” stands twice", twice=twice[:40]))
    return found


def _check(value: Any, where: str, *, surrogates: bool) -> None:
    """Raises _Unfit for too many levels and for half of a surrogate pair. It does not recurse."""
    level, depth = [value], 0
    while level:
        below: list[Any] = []
        for item in level:
            if isinstance(item, dict):
                below += item.values()
                if surrogates:
                    below += item
            elif isinstance(item, list):
                below += item
            elif surrogates and isinstance(item, str) and any("\ud800" <= letter <= "\udfff" for letter in item):
                raise _unreadable(message("a letter is only half there (a lone surrogate)"), where)
        depth += any(isinstance(item, dict | list) for item in level)
        if depth > NESTING:
            raise _unreadable(message("it goes more than {nesting} levels deep", nesting=NESTING), where)
        level = below
