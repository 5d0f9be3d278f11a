"""What people write in their own words: kept whole, or refused; never cut."""

import pytest

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import Message, message
from ulsek.core.base.refusals import Refusal


def test_a_text_is_kept_whole_without_the_blanks_around_it():
    assert free_text("  behind the\nbar ", "place", 60) == "behind the\nbar"
    assert free_text("x" * 60, "place", 60) == "x" * 60
    assert free_text(None, "place", 60) == ""


@pytest.mark.parametrize(
    ("value", "needed", "text"),
    [
        ("x" * 61, "", "That is 61 letters: at most 60. Say it shorter; nothing is cut off."),
        (" ", "A recall needs its reason", "A recall needs its reason. Say what is wrong."),
        (None, "A recall needs its reason", "A recall needs its reason. Say what is wrong."),
        (["a"], "", "This is no text. Write it in words."),
        (7, "", "This is no text. Write it in words."),
    ],
)
def test_what_cannot_be_kept_whole_is_refused_at_its_place(value, needed, text):
    with pytest.raises(Refusal) as refused:
        free_text(value, "why", 60, Message(needed), message("Say what is wrong"))
    assert (refused.value.text, refused.value.where) == (text, "why")
