"""The examples of CONTRIBUTING.md: their changes, made in a copy of the project, and what holds then."""

import re
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
_FENCE = re.compile(r"^```(\w*)\n(.*?)^```$", re.MULTILINE | re.DOTALL)
_PATH = re.compile(r"`([\w./-]+\.\w+)`:\n*$")


@dataclass(frozen=True)
class Example:
    """One section: (path, kind, text) of every change in its order, and the lines of Python that hold afterwards."""

    name: str
    changes: tuple[tuple[str, str, str], ...]
    holds: str


def examples():
    text = (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8")
    return [_example(section) for section in re.split(r"^### ", text, flags=re.MULTILINE)[1:]]


def _example(section):
    changes, holds, path = [], "", ""
    for fence in _FENCE.finditer(section):
        before = section[: fence.start()].rstrip()
        if found := _PATH.search(before):
            path = found[1]
        if before.endswith("This then holds:"):
            holds = fence[2]
        else:
            changes.append((path, fence[1], fence[2]))
    return Example(section.partition("\n")[0], tuple(changes), holds)


def make(example, copy):
    """Makes the changes of an example in a copy of the project. A change whose place is not there, or twice, fails."""
    for path, kind, text in example.changes:
        target = copy / path
        if kind != "diff":
            assert not target.exists(), f"{path} stands already"
            target.write_text(text, encoding="utf-8")
            continue
        lines = text.splitlines(keepends=True)
        before = "".join(line[1:] for line in lines if line[0] != "+")
        after = "".join(line[1:] for line in lines if line[0] != "-")
        found = target.read_text(encoding="utf-8")
        assert found.count(before) == 1, f"CONTRIBUTING.md changes in {path} what stands there {found.count(before)} times:\n{before}"
        target.write_text(found.replace(before, after), encoding="utf-8")
