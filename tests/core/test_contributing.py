"""The examples of CONTRIBUTING.md that concern the core do what they say."""

import os
import shutil
import subprocess
import sys

import pytest

from tests.contributing import ROOT, examples, make

_OF_THE_CORE = [example for example in examples() if example.holds]


def test_the_guide_has_an_example_of_each_thing_that_is_added_often():
    assert [example.name for example in examples()] == ["A property", "A verb", "A quick sum", "A material", "A screen"]
    assert len(_OF_THE_CORE) == 4


@pytest.mark.parametrize("example", _OF_THE_CORE, ids=lambda example: example.name)
def test_an_example_holds_in_a_copy_of_the_project(example, tmp_path):
    shutil.copytree(ROOT / "src", tmp_path / "src", ignore=shutil.ignore_patterns("__pycache__"))
    for name in ("pyproject.toml", "docs"):
        (tmp_path / name).symlink_to(ROOT / name)
    make(example, tmp_path)
    environment = {**os.environ, "PYTHONPATH": str(tmp_path / "src"), "PYTHONPYCACHEPREFIX": str(tmp_path / "pycache")}

    def run(*arguments, **more):
        return subprocess.run(
            [sys.executable, *arguments], cwd=tmp_path, env=environment, capture_output=True, text=True, check=False, **more
        )

    held = run("-c", example.holds)
    assert held.returncode == 0, held.stderr
    changed = sorted({path for path, _kind, _text in example.changes if path.endswith(".py")})
    for check in (["check", *changed], ["format", "--check", *changed]):
        linted = run("-m", "ruff", *check, "--no-cache") if changed else None
        assert linted is None or linted.returncode == 0, linted.stdout + linted.stderr
