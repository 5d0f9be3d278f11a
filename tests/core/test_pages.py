"""The pages that people write: the glossary, the decisions and the ten next lines name what stands in the tree."""

import re

from tests.contributing import ROOT

DOCS = ROOT / "docs"


def read(name):
    return (DOCS / name).read_text(encoding="utf-8")


def test_every_name_of_the_glossary_stands_in_the_code():
    code = "\n".join(path.read_text(encoding="utf-8") for path in sorted((ROOT / "src").rglob("*.py")))
    rows = [line.split(" | ") for line in read("glossary.md").splitlines() if line.startswith("| ") and line.count(" | ") == 2]
    names = [name for row in rows for name in re.findall(r"`(\w+)`", row[2])]
    assert len(names) > 50
    words = set(re.findall(r"\w+", code)) | {path.stem for path in (ROOT / "src").rglob("*.py")}
    assert [name for name in names if name not in words] == []


def test_every_decision_is_listed_with_its_reasons_and_costs():
    told = re.findall(r"^\d+\. \[(.+)\]\((.+\.md)\)$", read("decisions/README.md"), re.MULTILINE)
    assert len(told) >= 11
    assert {name for _title, name in told} == {path.name for path in (DOCS / "decisions").glob("[0-9]*.md")}
    for n, (title, name) in enumerate(told, 1):
        text = read(f"decisions/{name}")
        assert text.startswith(f"# {n}. {title}\n")
        assert re.findall(r"^\*\*([\w ]+)\.\*\*", text, re.MULTILINE) == ["Decided", "Why", "Looked at", "Costs"], name


def test_the_rooms_of_the_ten_next_lines_stand_and_say_what_they_hold():
    rows = re.findall(r"^\| (\d+) \| (.+) \| `(.+)` \|$", read("ten-next-lines.md"), re.MULTILINE)
    assert [int(n) for n, _line, _room in rows] == list(range(1, 11))
    for _n, line, room in rows:
        assert (ROOT / room).is_dir(), f"{line}: {room}"
        if room.startswith("src/"):
            assert (ROOT / room / "__init__.py").read_text(encoding="utf-8").startswith('"""'), f"{room} does not say what it holds"


def test_every_file_that_a_page_points_to_is_there():
    for page in [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *DOCS.rglob("*.md")]:
        for target in re.findall(r"\]\(([^)#:]+)(?:#[\w-]+)?\)", page.read_text(encoding="utf-8")):
            assert (page.parent / target).exists(), f"{page.name} points to {target}"
    for path in re.findall(r"`((?:src|web)/[^`]+)`", read("one-amount.md")):
        assert (ROOT / path).exists(), path
