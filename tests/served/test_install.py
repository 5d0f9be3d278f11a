"""Ulsek laid out as it is installed: under a folder, since no systemd runs here. Upgraded with a way back, and taken away with its data left."""

import os
import re
import shutil
import subprocess
from pathlib import Path

import pytest

from ulsek.site.environment import read_settings

ROOT = Path(__file__).parents[2]
HERE = ROOT / ".run" / "install-test"
UNDER = HERE / "machine"
PORT = "3746"
WORST = 20
"""Tenths of the exposure level that `systemd-analyze security` may find at most: “OK” ends at 4.9."""


def plain_environment():
    return {name: value for name, value in os.environ.items() if not name.startswith(("ULSEK_", "DJANGO_", "PYTHON"))}


def install(*words, tree=ROOT):
    env = {**plain_environment(), "ULSEK_LOCK": "requirements-dev.lock"}
    done = subprocess.run(
        ["bash", tree / "bin" / "install", *words, "--root", UNDER], cwd=HERE, env=env, capture_output=True, text=True, check=False
    )
    return done.returncode, re.sub(r"\x1b\[[0-9;]*m", "", done.stdout + done.stderr)


def admin(*words, given=None):
    """What the operator runs there, with the settings as they were written and the paths of this trial."""
    data = UNDER / "var/lib/ulsek"
    script = f"""set -a; . {UNDER}/etc/ulsek/settings
DJANGO_SETTINGS_MODULE=ulsek.site.settings PYTHONPATH={UNDER}/opt/ulsek/current/src
ULSEK_STATE={data} ULSEK_SECRET_KEY_FILE={data}/key ULSEK_DB_PASSWORD_FILE={data}/db-password ULSEK_CERTIFICATE={data}/lan/site.crt
exec "$@" """
    command = [str(UNDER / "opt/ulsek/current" / words[0]), *words[1:]]
    done = subprocess.run(
        ["bash", "-c", script, "-", *command], env=plain_environment(), input=given, capture_output=True, text=True, check=False
    )
    return done.returncode, done.stdout + done.stderr


def houses():
    return admin("bin/house", "list")[1].strip().splitlines()[-1]


def current():
    return (UNDER / "opt/ulsek/current").readlink()


@pytest.fixture(scope="module")
def installed():
    shutil.rmtree(HERE, ignore_errors=True)
    HERE.mkdir(parents=True)
    code, said = install("--host", "bar.lan", "--database-port", PORT)
    assert code == 0, said
    assert "Open your house there with the code of: ulsek-admin house code" in said
    code, said = admin(
        "bin/house", "--name", "Plover Room", "--zone", "Europe/Lisbon", "--currency", "EUR", "--lead", "maren", given="grey-plover-11\n"
    )
    assert code == 0, said
    yield
    shutil.rmtree(HERE, ignore_errors=True)


@pytest.fixture
def broken():
    """A newer tree: it migrates the data, and then does not answer."""
    tree = HERE / "newer"
    names = subprocess.run(["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, capture_output=True, text=True, check=True).stdout
    for name in names.splitlines():
        if not name.startswith("tests/") and (ROOT / name).exists():
            (tree / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, tree / name)
    shutil.copytree(ROOT / "web/dist", tree / "web/dist")
    last = max(path.stem for path in (tree / "src/ulsek/team/migrations").glob("0*.py"))
    (tree / "src/ulsek/team/migrations/9000_later.py").write_text(
        "from django.db import migrations\n\n\nclass Migration(migrations.Migration):\n"
        f"    dependencies = [('team', '{last}')]\n    operations = [migrations.RunSQL(\"UPDATE team_house SET currency = 'XXX'\")]\n"
    )
    (tree / "src/ulsek/site/serving.py").write_text("raise SystemExit('it does not start')\n")
    return tree


@pytest.mark.parametrize(
    ("words", "said"),
    [
        ((), "nobody said by which name tablets reach it"),
        (("--host", "https://bar.lan"), "is no host name"),
        (("--host", "bar.lan", "--port", "99999"), "“99999” is no port"),
        (("--host", "bar.lan", "--certificate", "/etc/hosts"), "--certificate comes without --key"),
        (("--host", "bar.lan", "--certificate", "/etc/hosts", "--key", "/etc/hosts"), "do not belong together"),
    ],
)
def test_what_cannot_be_installed_is_said_before_anything_is_written(words, said, tmp_path, monkeypatch):
    monkeypatch.setattr("tests.served.test_install.UNDER", tmp_path)
    HERE.mkdir(parents=True, exist_ok=True)
    code, told = install(*words)
    assert (code, said in told) == (1, True), told
    assert list(tmp_path.iterdir()) == []


def test_it_is_laid_out_with_its_secrets_shut_and_its_units_hardened(installed, tmp_path):
    data = UNDER / "var/lib/ulsek"
    for name in ("key", "db-password"):
        assert (data / name).stat().st_mode & 0o077 == 0
    assert (UNDER / "etc/ulsek/settings").stat().st_mode & 0o007 == 0
    assert not (UNDER / "opt/ulsek/current/web/node_modules").exists()
    assert not (UNDER / "opt/ulsek/current/tests").exists()
    assert admin("bin/health")[0] == 1, "nothing runs yet, and it says so"
    # systemd checks the units with the paths of this trial.
    units = tmp_path / "units"
    shutil.copytree(UNDER / "etc/systemd/system", units)
    for file in [path for path in units.rglob("*") if path.is_file()]:
        text = file.read_text()
        file.write_text(re.sub(r"/(opt|var/lib|etc)/ulsek", lambda found: f"{UNDER}{found[0]}", text))
    names = sorted(path.name for path in units.iterdir() if path.is_file())
    assert {"ulsek.target", "ulsek-site.service", "ulsek-backup.timer"} <= set(names)
    env = {**os.environ, "SYSTEMD_UNIT_PATH": f"{units}:"}
    checked = subprocess.run(["systemd-analyze", "verify", "--man=no", *names], env=env, capture_output=True, text=True, check=False)
    assert (checked.returncode, checked.stdout + checked.stderr) == (0, "")
    for name in names:
        if name.endswith(".service"):
            judged = subprocess.run(
                ["systemd-analyze", "security", "--offline=true", f"--threshold={WORST}", "--no-pager", f"--root={UNDER}", name],
                capture_output=True,
                text=True,
                check=False,
            )
            assert judged.returncode == 0, judged.stdout[-300:]


def test_a_newer_release_that_fails_leaves_the_former_one_with_its_data(installed, broken):
    before = current()
    code, said = install(tree=broken)
    assert (code, "a trial … failed" in said, "The former release stands as it was." in said) == (1, True, True), said
    assert current() == before
    assert len(list((UNDER / "opt/ulsek/releases").iterdir())) == 1
    assert houses() == "Plover Room, Europe/Lisbon; leads: maren"
    shown = admin(".venv/bin/python", "-c", "import sys; sys.exit(0)")
    assert shown[0] == 0, shown
    dumped = HERE / "after.sql.gz"
    assert admin("deploy/release", "dump", str(dumped))[0] == 0
    text = subprocess.run(["zcat", dumped], capture_output=True, text=True, check=True).stdout
    assert "'EUR'" in text
    assert "'XXX'" not in text, "the data are those of before"
    assert "9000_later" not in text


def test_settings_that_cannot_be_used_stop_an_upgrade(installed):
    settings = UNDER / "etc/ulsek/settings"
    good = settings.read_text()
    settings.write_text(good.replace('ULSEK_LOG="json"', 'ULSEK_LOG="loud"'))
    before = current()
    code, said = install()
    settings.write_text(good)
    assert (code, "ULSEK_LOG is “loud”: write lines or json" in said) == (1, True), said
    assert current() == before


def test_an_upgrade_keeps_data_and_settings_and_the_former_release_for_a_while(installed):
    before, settings = current(), (UNDER / "etc/ulsek/settings").read_text()
    code, said = install()
    assert (code, "Ulsek is upgraded: https://bar.lan" in said) == (0, True), said
    assert current() != before
    assert (UNDER / "etc/ulsek/settings").read_text() == settings
    assert houses() == "Plover Room, Europe/Lisbon; leads: maren"
    assert len(list((UNDER / "var/lib/ulsek/backups").glob("before-upgrade-*.sql.gz"))) >= 1
    code, said = install("--remove")
    assert (code, "nothing of them was touched" in said) == (0, True), said
    assert not (UNDER / "opt/ulsek").exists()
    assert not list((UNDER / "etc/systemd/system").iterdir())
    assert (UNDER / "var/lib/ulsek/db/data/mysql").exists()
    assert (UNDER / "etc/ulsek/settings").exists()


def test_the_code_alone_is_laid_out_for_an_image_without_a_secret_in_it(tmp_path, monkeypatch):
    monkeypatch.setattr("tests.served.test_install.UNDER", tmp_path)
    HERE.mkdir(parents=True, exist_ok=True)
    code, said = install("--code")
    assert code == 0, said
    assert (tmp_path / "opt/ulsek/current/bin/start").exists()
    assert (tmp_path / "usr/local/sbin/ulsek-admin").stat().st_mode & 0o111
    assert not (tmp_path / "etc/ulsek/settings").exists()
    assert [path for path in (tmp_path / "var/lib/ulsek").rglob("*") if path.is_file()] == []
    # What the container's settings say, the site can read.
    script = f"set -a; . {ROOT}/deploy/container-settings; exec env"
    told = subprocess.run(
        ["sh", "-c", script], env={"ULSEK_HOST": "bar.lan", "PATH": os.environ["PATH"]}, capture_output=True, text=True, check=True
    )
    said = dict(line.split("=", 1) for line in told.stdout.splitlines())
    (tmp_path / "secret").write_text("x" * 40)
    said |= {"ULSEK_SECRET_KEY_FILE": str(tmp_path / "secret"), "ULSEK_DB_PASSWORD_FILE": str(tmp_path / "secret")}
    assert read_settings(said)["ULSEK_ADDRESS"] == "https://bar.lan"
