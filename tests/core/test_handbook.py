"""The pages of `docs/core`, the events of a run and the schemas of the files are what the code says today."""

from __future__ import annotations

from ulsek.handbook import ROOT, pages


def test_every_generated_page_on_disk_is_what_the_code_says_today():
    on_disk = {str(path.relative_to(ROOT)): path.read_text(encoding="utf-8") for path in (ROOT / "docs/core").rglob("*.md")}
    written = pages()
    assert on_disk == {path: text for path, text in written.items() if path.startswith("docs/core/")}, "run bin/docs"
    for page in (path for path in written if path.startswith("docs/formats/")):
        assert (ROOT / page).read_text(encoding="utf-8") == written[page], "run bin/docs"
