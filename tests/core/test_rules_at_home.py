"""No number of the job stands outside the core: not in an app, not in a screen. What a screen needs before an answer is there is written from the core."""

import ast
import re
from pathlib import Path

import pytest

from ulsek.typescript import RULES, rules_ts

ROOT = Path(__file__).parents[2]
APPS = ("batches", "citrus", "specs", "stores", "sums")
SOURCES = sorted(
    path
    for app in APPS
    for path in (ROOT / "src/ulsek" / app).rglob("*.py")
    if "migrations" not in path.parts and path.name != "card_pdf.py"
)  # a printed page is laid out in points
DRAWN = {
    "sums/Strip.tsx": "room beside a bar",
    "stores/shelf/Makeup.tsx": "thinnest band that is drawn",
    "make/bench/bell.ts": "a sound",
    "make/bench/watchLayout.ts": "room at the end of a drawing",
    "citrus/cases/recordLayout.ts": "room around a drawing",
    "citrus/trials/TrialsPart.tsx": "room beside a bar",
    "make/sheets/MoreSheet.tsx": "how hard a picture is pressed",
    "specs/workbench/InTheBottle.tsx": "half of the last decimal that is printed",
}
"""Screens with a number that has a decimal point, and what it is."""


def test_what_the_screens_need_beforehand_is_what_the_core_says_today():
    assert RULES.read_text(encoding="utf-8") == rules_ts(), "run bin/types"


@pytest.mark.parametrize("path", SOURCES, ids=lambda path: str(path.relative_to(ROOT / "src/ulsek")))
def test_an_app_has_no_number_of_the_job(path):
    found = [
        f"line {node.lineno}: {node.value}"
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.Constant) and isinstance(node.value, float) and node.value not in (0.0, 1.0)
    ]
    assert not found, "its place is the core"


def _numbers(text):
    """Numbers with a decimal point outside of texts, styles, comments and drawings."""
    text = re.sub(r'/\*.*?\*/|//[^\n]*|"(?:[^"\\\n]|\\.)*"|<(?:rect|path|circle|line|text)\b[^>]*>', "", text, flags=re.DOTALL)
    text = re.sub(r"`(?:[^`\\]|\\.)*`", lambda found: " ".join(re.findall(r"\$\{([^}]*)\}", found[0])), text, flags=re.DOTALL)
    text = re.sub(r">[^<>{}()=;]*<", "><", text)
    return re.findall(r"(?<![\w.])\d+\.\d+(?![\w.])", text)


def test_a_screen_has_no_number_of_the_job():
    views = ROOT / "web/src/views"
    found = {path.relative_to(views).as_posix(): _numbers(path.read_text(encoding="utf-8")) for path in sorted(views.rglob("*.ts*"))}
    assert {name: numbers for name, numbers in found.items() if numbers and name not in DRAWN} == {}, "its place is the core"
    assert all(found[name] for name in DRAWN), "an exception that hides nothing goes"


def test_such_a_number_would_be_found():
    assert _numbers("const most = Math.max(0.5, planned * 0.01); // 0.7") == ["0.5", "0.01"]
    assert _numbers('<p className="pt-0.5">about 2.5 g</p>; say(`${0.25 * x} g of 1.5`)') == ["0.25"]
