"""The shape of the source: what is longer than a screen is cut where its steps are."""

import ast
from pathlib import Path

import pytest

SOURCES = sorted(path for path in (Path(__file__).parents[2] / "src").rglob("*.py") if "migrations" not in path.parts)


@pytest.mark.parametrize("path", SOURCES, ids=lambda path: "/".join(path.parts[-3:]))
def test_no_file_has_more_than_400_lines_and_no_function_more_than_60(path):
    text = path.read_text(encoding="utf-8")
    functions = (node for node in ast.walk(ast.parse(text)) if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef))
    assert [node.name for node in functions if node.end_lineno - node.lineno >= 60] == []
    assert text.count("\n") <= 400


def test_few_values_have_no_type_of_their_own():
    untyped = [
        f"{path.name}: {line.strip()}"
        for path in SOURCES
        for line in path.read_text(encoding="utf-8").splitlines()
        if "dict[str, Any]" in line
    ]
    assert len(untyped) <= 100, "\n".join(untyped)
