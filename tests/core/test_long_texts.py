"""Texts that somebody made to be slow: whatever is repeated, reading it takes no longer than its length allows."""

import contextlib
import time

import pytest

from ulsek.core.base.refusals import Refusal
from ulsek.core.base.units import MOST_WRITTEN, parse_quantity, read_number
from ulsek.core.base.vocabulary import plain
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.recipe_text.open_forms import MOST_BYTES, materials_from_csv, read_any, recipe_text
from ulsek.core.recipe_text.parser import MOST_LETTERS
from ulsek.core.sums.dosing import MOST_RULE, read_rule

KNOWN = typical_materials()
FRAGMENTS = [
    *("1", "1 ", "1/", "1 / ", "½ ", "1\u00a0000", "100,", "1.000 ", "1. ", "1 to ", "10 minutes ", "1 °", "90 C ", "1 g of ", "1 kg per ", "1 per kg of a", "pH "),
    *("a ", "abc ", "abc/1 ", "a or ", "and 1 ", ", ", ", and ", "stir, ", "stir and ", "then ", "until clear ", "half of the ", "enough x to ", "top up "),
    *("(", "a(1", " ", "\t", "- ", "juice and zest of ", "all but sugar ", "strain through ", "fresh ", "x" * 50 + " ", "ß", "İ"),
]  # fmt: skip
TAGS = [
    "<",
    "<script ",
    "<script>",
    '<script type="application/ld+json">',
    "type = ",
    '<script type="application/ld+json">{}</script>',
    "</script>",
]


def took(read, text):
    """Seconds [s] of this process in one reading, however busy the machine is beside it; a refusal is an answer."""
    begun = time.process_time()
    with contextlib.suppress(Refusal):
        read(text)
    return time.process_time() - begun


def filled(fragment, letters, line):
    """So many letters of one fragment repeated, in lines of at most `line`."""
    row = (fragment * (line // len(fragment) + 1))[:line]
    return "\n".join([row] * max(1, letters // (line + 1)))


def grows(read, short, long):
    """How many times as long the long text takes as the short one; both are read twice, and what is under a millisecond counts as one."""
    return min(took(read, long) for _ in range(2)) / max(1e-3, min(took(read, short) for _ in range(2)))


@pytest.mark.parametrize("line", [MOST_LETTERS - 50, 299])
def test_a_pasted_recipe_takes_no_longer_than_its_lines_allow(line):
    slow = {f: round(took(lambda text: read_any(text, KNOWN), filled(f, MOST_LETTERS - 50, line)), 2) for f in FRAGMENTS}
    assert max(slow.values()) < 5, f"the slowest: {sorted(slow, key=slow.get)[-3:]}, {max(slow.values())} s"


@pytest.mark.parametrize("fragment", [*TAGS, "1 1 1 ", "a,", '"'])
def test_what_is_read_whole_is_read_in_linear_time(fragment):
    for read in (
        lambda text: read_any(text, KNOWN),
        materials_from_csv,
        lambda text: materials_from_csv("key,name\n" + text),
        lambda text: recipe_text({"name": text, "recipeInstructions": text}),
        plain,
    ):
        short, long = ("<html>" * fragment.startswith("<") + fragment * (size // len(fragment)) for size in (25_000, 100_000))
        assert grows(read, short, long) < 12, "four times the text, about four times as long"


def test_what_is_longer_than_its_place_is_refused_in_words():
    for read, text, words in (
        (lambda text: read_any(text, KNOWN), "x" * (MOST_BYTES + 1), "The text is too long: at most 1 MB. Paste one recipe at a time."),
        (read_rule, "1" * (MOST_RULE + 1), "This is too long for a rule: at most 200 letters. Say a dose and its measure."),
    ):
        with pytest.raises(Refusal) as refused:
            read(text)
        assert refused.value.text == words


@pytest.mark.parametrize("fragment", ["1", "1 ", "½", " ", "1/", "a "])
def test_a_typed_amount_is_read_at_once_however_long_it_is(fragment):
    for letters in (MOST_WRITTEN, 2000):
        assert took(parse_quantity, fragment * (letters // len(fragment))) < 0.5
        assert took(read_number, fragment * (letters // len(fragment))) < 0.5
