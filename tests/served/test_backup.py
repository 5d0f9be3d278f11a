"""Backups of the whole site: read back before they are encrypted, put in place in another folder, and refused in words when they cannot be."""

import json
import os
import re
import shutil
import subprocess
import tarfile
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
HERE = ROOT / ".run" / "backups-test"
SIGNS = "what-the-site-elsewhere-signs-with"
PORTS = {"old": "3741", "new": "3742", "apart": "3743", "third": "3744"}


def run(*words, state, given=None, limit_kb=None, **more):
    """Runs one of the scripts for the site in a folder, and returns its exit code and all that it said."""
    folder = HERE / state
    folder.mkdir(parents=True, exist_ok=True)
    env = {name: value for name, value in os.environ.items() if not name.startswith("ULSEK_")}
    env |= {"ULSEK_STATE": str(folder), "ULSEK_DB_PORT": PORTS[state], "ULSEK_LOCK": "requirements-dev.lock", **more}
    limit = f"ulimit -f {limit_kb}; " if limit_kb else ""
    done = subprocess.run(
        ["bash", "-c", limit + 'exec "$@"', "-", *map(str, words)],
        cwd=ROOT,
        env=env,
        input=given,
        capture_output=True,
        text=True,
        check=False,
    )
    return done.returncode, re.sub(r"\x1b\[[0-9;]*m", "", done.stdout + done.stderr)


def sql(state, text):
    socket = HERE / state / "db" / "run" / "m.sock"
    query = f'. bin/lib.sh; start_database db {PORTS[state]} >/dev/null; mariadb --no-defaults -N --socket={socket} ulsek -e "$1"; stop_database db'
    done = subprocess.run(
        ["bash", "-c", query, "-", text],
        cwd=ROOT,
        env={**os.environ, "ULSEK_STATE": str(HERE / state)},
        capture_output=True,
        text=True,
        check=True,
    )
    return done.stdout.split()


@pytest.fixture(scope="module")
def keys():
    """A private key with its public half, and another one."""
    shutil.rmtree(HERE, ignore_errors=True)
    HERE.mkdir(parents=True)
    made = {}
    for name in ("ours", "other"):
        subprocess.run(["age-keygen", "-o", HERE / f"{name}.txt"], check=True, capture_output=True)
        made[name] = re.search(r"age1\S+", (HERE / f"{name}.txt").read_text())[0]
    yield made
    shutil.rmtree(HERE, ignore_errors=True)


@pytest.fixture(scope="module")
def backed_up(keys):
    """A house of somebody's own with an open session, and a backup of it."""
    code, said = run(
        "bin/house", "--name", "Plover Room", "--zone", "Europe/Lisbon", "--lead", "maren", state="old", given="grey-plover-11\n"
    )
    assert code == 0, said
    sql("old", "insert into django_session values ('abc','x','2090-01-01')")
    code, said = run("bin/backup", state="old", ULSEK_BACKUP_KEY=keys["ours"], ULSEK_BACKUP_TO=HERE / "kept")
    assert code == 0, said
    (file,) = (HERE / "kept").iterdir()
    return file


def test_without_a_key_or_with_one_that_is_none_nothing_is_written(keys):
    code, said = run("bin/backup", state="old")
    assert (code, "nobody said to whom it is encrypted" in said) == (1, True)
    code, said = run("bin/backup", state="new", ULSEK_BACKUP_KEY="age1nonsense")
    assert (code, "there is no database in" in said) == (1, True)


def test_a_backup_holds_the_data_the_keys_and_what_it_is_told_by_and_nobody_reads_it_without_the_private_key(backed_up, tmp_path):
    assert backed_up.read_bytes().startswith(b"age-encryption.org/v1"), "encrypted"
    plain = subprocess.run(["age", "-d", "-i", HERE / "ours.txt", backed_up], check=True, capture_output=True).stdout
    (tmp_path / "all.tar.gz").write_bytes(plain)
    with tarfile.open(tmp_path / "all.tar.gz") as archive:
        names = {Path(name).name for name in archive.getnames()}
        told = json.load(archive.extractfile("./manifest.json"))
    assert {"ulsek.sql", "manifest.json", "key", "db-password"} <= names
    assert (told["format"], told["version"], told["tables"]["team_house"]) == ("ulsek.backup", 1, 1)
    assert told["tables"]["team_historyrow"] == 1, "counted in what was read back"
    assert not list((HERE / "old").glob("backup.*")), "nothing plain is left"
    assert not (HERE / "old" / "check").exists()
    assert sql("old", "select name from team_backupmade") == [backed_up.name]


def test_a_database_elsewhere_is_backed_up_by_the_settings_of_its_site(backed_up, keys):
    """Another site's database stands for it: reached over TCP by the name and password of the settings, from a folder that has none of its own."""
    there = {"ULSEK_DB_HOST": "127.0.0.1", "ULSEK_DB_PORT": PORTS["old"], "ULSEK_DB_PASSWORD_FILE": str(HERE / "old" / "db-password")}
    how = {"ULSEK_BACKUP_KEY": keys["ours"], "ULSEK_BACKUP_TO": str(HERE / "elsewhere"), **there}
    code, said = run("bin/backup", state="apart", **how)
    assert (code, "nobody said what the site signs with" in said) == (1, True), said
    code, said = run("bin/backup", state="apart", ULSEK_SECRET_KEY=SIGNS, **how)
    assert (code, "see last-step.log" in said or "the database there" in said) == (1, True), "it does not run"
    start = f". bin/lib.sh; start_database db {PORTS['old']} >/dev/null"
    env = {**os.environ, "ULSEK_STATE": str(HERE / "old")}
    subprocess.run(["bash", "-c", start], cwd=ROOT, env=env, check=True)
    try:
        code, said = run("bin/backup", state="apart", ULSEK_SECRET_KEY=SIGNS, **how)
        assert code == 0, said
    finally:
        subprocess.run(["bash", "-c", ". bin/lib.sh; stop_database db"], cwd=ROOT, env=env, check=True)
    (file,) = (HERE / "elsewhere").iterdir()
    assert not (HERE / "apart" / "db" / "data").exists()
    assert sql("old", f"select count(*) from team_backupmade where name = '{file.name}'") == ["1"], "noted where it was taken from"
    code, said = run("bin/restore", file, "--key", HERE / "ours.txt", state="third")
    assert code == 0, said
    assert "Plover Room" in run("bin/house", "list", state="third")[1]
    assert (HERE / "third" / "key").read_text() == SIGNS


def test_it_is_restored_in_another_folder_with_everybody_signed_out_and_the_same_keys(backed_up):
    code, said = run("bin/restore", backed_up, "--key", HERE / "ours.txt", state="new")
    assert code == 0, said
    assert run("bin/house", "list", state="new")[1].strip().splitlines()[-1] == "Plover Room, Europe/Lisbon; leads: maren"
    assert sql("new", "select count(*) from django_session") == ["0"]
    assert len(sql("new", "select value from sync_epoch")) == 1, "a new epoch: tablets send again what the backup lacks"
    assert (HERE / "new" / "key").read_text() == (HERE / "old" / "key").read_text()
    assert (HERE / "new" / "key").stat().st_mode & 0o077 == 0


def test_one_house_is_restored_and_the_others_stay_as_they_are(backed_up):
    opened = run("bin/house", "--name", "Curlew", "--zone", "Europe/Paris", "--lead", "anouk", state="old", given="grey-plover-11\n")
    assert opened[0] == 0, opened[1]
    sql("old", "update team_house set currency='XXX'")
    code, said = run("bin/restore", backed_up, "--key", HERE / "ours.txt", "--house", "Curlew", state="old")
    assert (code, "There is no house “Curlew” here. There are: Plover Room." in said) == (1, True), said
    code, said = run("bin/restore", backed_up, "--key", HERE / "ours.txt", "--house", "Plover Room", state="old")
    assert code == 0, said
    assert sql("old", "select currency from team_house order by name") == ["XXX", "EUR"]
    assert len(sql("old", "select value from sync_epoch")) == 1, "a new epoch"
    assert not list((HERE / "old").glob("restore.*"))
    assert not (HERE / "old" / "check").exists()
    packed = HERE / "plover.ulsek.zip"
    assert run("bin/house", "export", "Plover Room", packed, state="old")[0] == 0
    code, said = run("bin/house", "import", packed, "--lead", "maren", state="new", given="grey-plover-11\n")
    assert (code, "Nothing was changed. This house, or a copy of it, is here already" in said or "There is a house called" in said) == (
        1,
        True,
    ), said


def test_what_cannot_be_restored_is_refused_in_words_and_changes_nothing(backed_up, tmp_path):
    before = run("bin/house", "list", state="old")[1]
    cut = tmp_path / "cut.tar.gz.age"
    cut.write_bytes(backed_up.read_bytes()[:4000])
    altered = tmp_path / "altered.age"
    altered.write_bytes(backed_up.read_bytes()[:-40] + b"x" * 40)
    newer = tmp_path / "newer"
    newer.mkdir()
    told = {"format": "ulsek.backup", "version": 1, "migrations": {"team": "9999_later"}, "tables": {}}
    (newer / "manifest.json").write_text(json.dumps(told))
    (newer / "ulsek.sql").write_text("select 1;")
    public = re.search(r"age1\S+", (HERE / "ours.txt").read_text())[0]
    subprocess.run(["bash", "-c", f"tar -C {newer} -cz . | age -r {public} > {tmp_path}/newer.age"], check=True)
    for file, key, words in (
        (backed_up, "other.txt", "it is encrypted to another key"),
        (cut, "ours.txt", "the file is cut off, or was changed"),
        (altered, "ours.txt", "the file is cut off, or was changed"),
        (tmp_path / "newer.age", "ours.txt", "A newer Ulsek made it: this one does not know its tables of team."),
        (tmp_path / "none.age", "ours.txt", "there is no file"),
    ):
        code, said = run("bin/restore", file, "--key", HERE / key, state="old")
        assert (code, words in said) == (1, True), said
    assert run("bin/house", "list", state="old")[1].splitlines()[-1] == before.splitlines()[-1]
    assert not list((HERE / "old").glob("restore.*"))


def test_a_full_disk_leaves_no_half_backup(backed_up, keys):
    code, said = run("bin/backup", state="old", limit_kb=8, ULSEK_BACKUP_KEY=keys["ours"], ULSEK_BACKUP_TO=HERE / "kept")
    assert code != 0, said
    assert [path.name for path in (HERE / "kept").iterdir()] == [backed_up.name]
    assert not list((HERE / "old").glob("backup.*"))
    # The last step fails too: the folder is full when the finished file is written.
    full = HERE / "full"
    code, said = run(
        "bin/backup", state="old", ULSEK_BACKUP_KEY=keys["ours"], ULSEK_BACKUP_TO=full, PATH=f"{stand_in('gzip')}:{os.environ['PATH']}"
    )
    assert (code, "encrypted into" in said) == (1, True), said
    assert list(full.iterdir()) == [], "no half of a backup"
    assert not list((HERE / "old").glob("backup.*"))


def stand_in(name):
    """A folder with a program of this name that fails as it does on a full disk."""
    folder = HERE / f"failing-{name}"
    folder.mkdir(exist_ok=True)
    (folder / name).write_text("#!/bin/sh\necho 'No space left on device' >&2\nexit 1\n")
    (folder / name).chmod(0o755)
    return folder


def test_only_so_many_are_kept(backed_up, keys):
    for n in range(3):
        (HERE / "kept" / f"ulsek-2020010{n}-000000.tar.gz.age").write_bytes(b"old")
    (HERE / "kept" / "letter.txt").write_text("not ours")
    code, said = run("bin/backup", state="old", ULSEK_BACKUP_KEY=keys["ours"], ULSEK_BACKUP_TO=HERE / "kept", ULSEK_BACKUP_KEEP="2")
    assert code == 0, said
    left = sorted(path.name for path in (HERE / "kept").iterdir())
    assert "letter.txt" in left
    assert len([name for name in left if name.startswith("ulsek-")]) == 2
    assert backed_up.name in left
