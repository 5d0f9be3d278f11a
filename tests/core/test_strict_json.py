"""The strict reader of JSON: what it takes as any reader does, and what it refuses, in words."""

import json
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulsek.core.base.refusals import Refusal
from ulsek.core.base.strict_json import NESTING, WHOLE, read_json

VALUES = st.recursive(
    st.none() | st.booleans() | st.integers(-WHOLE, WHOLE) | st.floats(allow_nan=False, allow_infinity=False) | st.text(),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(), inner, max_size=4),
    max_leaves=12,
)


@given(VALUES)
def test_what_was_written_is_read(value):
    assert read_json(json.dumps(value)) == value
    assert read_json(json.dumps(value, ensure_ascii=False).encode()) == value


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("NaN", "NaN is no number"),
        ('{"a": -Infinity}', "-Infinity is no number"),
        ("1e999", "1e999 is too large a number"),
        ("1" + "0" * 400, "10000000000000000000… is too large a number"),
        (str(WHOLE + 1), "9007199254740992 is too large a number"),
        (r'{"a": "\ud800"}', "a letter is only half there (a lone surrogate)"),
        (r'{"\udfff": 1}', "a letter is only half there (a lone surrogate)"),
        ('"\ud83c"', "a letter is only half there (a lone surrogate)"),
        ('{"a": 1, "b": 2, "a": 3}', "“a” stands twice"),
        ("[" * (NESTING + 1) + "]" * (NESTING + 1), f"it goes more than {NESTING} levels deep"),
        ("[" * 200_000, f"it goes more than {NESTING} levels deep"),
        (b'"\xff"', "it is not UTF-8"),
        ('{"a": }', "expecting value at line 1, column 7"),
        ("", "expecting value at line 1, column 1"),
    ],
)
def test_what_cannot_be_taken_is_refused_in_words(text, why):
    with pytest.raises(Refusal) as refused:
        read_json(text, "body")
    assert refused.value.text == f"This cannot be read as JSON: {why}. Send it as it was written."
    assert (refused.value.where, refused.value.code) == ("body", "unreadable")


def test_what_is_just_within_the_bounds_is_taken():
    deepest = "[" * NESTING + "]" * NESTING
    assert json.dumps(read_json(deepest)) == deepest
    assert read_json(f"[{WHOLE}, {-WHOLE}, 1e308]") == [WHOLE, -WHOLE, 1e308]
    assert read_json(r'"\ud83c\udf4b"') == "🍋", "a whole pair is one letter"


def test_a_long_text_is_read_in_linear_time():
    def took(length):
        text = json.dumps([{"a" * 5: "\\ud83c" * 3, "b": [n]} for n in range(length)])
        begun = time.perf_counter()
        read_json(text)
        return time.perf_counter() - begun

    took(100)
    assert min(took(8_000) for _ in range(3)) < 30 * min(took(1_000) for _ in range(3)), "eight times the text, about eight times as long"
