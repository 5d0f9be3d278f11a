"""The pages of `docs/core`, the events of a run and the schemas of the files are what the code says today."""

from __future__ import annotations

import pytest

from ulsek.handbook import ROOT, pages
from ulsek.rooms import PICTURE, from_the_top, imports_of, picture, without_detours


def test_every_generated_page_on_disk_is_what_the_code_says_today():
    on_disk = {str(path.relative_to(ROOT)): path.read_text(encoding="utf-8") for path in (ROOT / "docs/core").rglob("*.md")}
    written = pages()
    assert on_disk == {path: text for path, text in written.items() if path.startswith("docs/core/")}, "run bin/docs"
    for page in (path for path in written if path.startswith("docs/formats/")):
        assert (ROOT / page).read_text(encoding="utf-8") == written[page], "run bin/docs"


def test_the_picture_of_the_rooms_is_what_the_imports_say_today():
    assert PICTURE.read_text(encoding="utf-8") == picture(), "run bin/docs"
    core = imports_of("core")
    assert set(core) == {path.parent.name for path in (ROOT / "src/ulsek/core").glob("*/__init__.py")}
    assert "properties" in core["evaluation"]
    assert core["base"] == frozenset()


def test_rooms_stand_above_what_they_import_and_a_detour_is_left_out():
    imports = {"a": frozenset("bc"), "b": frozenset("c"), "c": frozenset(), "d": frozenset("a")}
    assert from_the_top(imports) == ["d", "a", "b", "c"]
    assert without_detours(imports) == {"a": frozenset("b"), "b": frozenset("c"), "c": frozenset(), "d": frozenset("a")}
    with pytest.raises(ValueError, match="a circle of imports: a → b → a"):
        from_the_top({"a": frozenset("b"), "b": frozenset("a")})
