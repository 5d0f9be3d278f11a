"""The screen that CONTRIBUTING.md adds: it compiles, and the linter takes it."""

import shutil
import subprocess

from tests.contributing import ROOT, examples, make


def test_the_screen_of_the_guide_compiles_in_a_copy_of_the_front_end(tmp_path):
    web = tmp_path / "web"
    shutil.copytree(ROOT / "web", web, ignore=shutil.ignore_patterns("node_modules", "dist", "tests"))
    for name in ("web/node_modules", "web/tests", ".gitignore"):
        (tmp_path / name).symlink_to(ROOT / name)
    (screen,) = (example for example in examples() if not example.holds)
    make(screen, tmp_path)
    changed = " ".join(path.removeprefix("web/") for path, _kind, _text in screen.changes)
    command = f'. {ROOT}/bin/lib.sh; find_node; cd "{web}"; npx --no-install tsc --noEmit && npx --no-install biome check --vcs-enabled=false {changed}'
    told = subprocess.run(["bash", "-c", command], capture_output=True, text=True, check=False)
    assert told.returncode == 0, told.stdout + told.stderr
