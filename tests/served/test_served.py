"""What nginx and the supervisor do around the site: floods are taken off it, whoever ends comes back, and nothing is lost by it."""

import http.client
import json
import re
import socket
import subprocess
import threading
import time
from collections import Counter
from uuid import uuid4

import pytest

from tests.served.conftest import BACK_WITHIN_S, PORT, PROGRAMS, ROOT, STATE, Caller, raw
from ulsek.site import serving
from ulsek.site.headers import static_headers

PROBLEM = "application/problem+json"
SERVERS_OWN_KEEPALIVE_S = 2
"""After which gunicorn closes an idle connection when nobody tells it otherwise."""
NOTICED_WITHIN_S = 3
"""A program that looks for work every second has asked the database again by then."""


def test_every_page_file_and_stream_comes_through_one_address(served):
    assert "Ulsek is ready" in served.said
    lead = Caller("ilse")
    status, headers, page = lead.send("GET", "/shift")
    assert (status, b"<script" in page) == (200, True)
    script = re.search(r'src="(/static/[^"]+\.js)"', page.decode())[1]
    status, headers, _ = lead.send("GET", script, **{"Accept-Encoding": "gzip"})
    expected: dict = {}
    static_headers(expected, "", script)
    assert (status, headers["Content-Encoding"], headers["Content-Security-Policy"]) == (200, "gzip", expected["Content-Security-Policy"])
    told = lead.call("GET", "/instruments")[1]
    assert told["stream"] == f"http://127.0.0.1:{PORT}/hub"
    # What an instrument shows goes out when it changes: a scale that trembles says something new ten times a second, and none of it is held back.
    scale = next(item["id"] for item in told["items"] if item["kind"] == "scale")
    assert lead.call("POST", f"/instruments/{scale}/hand", {"words": "noise 50"})[0] == 200
    said = raw(f"GET /hub/stream?ticket={told['ticket']} HTTP/1.1\r\nHost: 127.0.0.1:{PORT}\r\n\r\n".encode(), 2.0)
    assert (b"text/event-stream" in said, said.count(b"data: ") > 10) == (True, True)
    lead.call("POST", f"/instruments/{scale}/hand", {"words": "noise 0"})
    assert b" 401 " in raw(f"GET /hub/stream?ticket=no HTTP/1.1\r\nHost: 127.0.0.1:{PORT}\r\nConnection: close\r\n\r\n".encode())


def test_the_site_leaves_it_to_the_proxy_to_close_an_idle_connection(served):
    kept_by_proxy_s = int(re.search(r"site\.sock;.* keepalive_timeout (\d+)s", (ROOT / "deploy" / "nginx.conf").read_text())[1])
    assert serving.keepalive > kept_by_proxy_s
    site = http.client.HTTPConnection("127.0.0.1")
    site.sock = socket.socket(socket.AF_UNIX)
    site.sock.connect(str(STATE / "sockets" / "site.sock"))
    same = site.sock
    for idle_s in (SERVERS_OWN_KEEPALIVE_S + 1, 0):
        site.request("GET", "/api/health")
        answer = site.getresponse()
        assert (answer.status, answer.read() != b"", site.sock is same) == (200, True, True)
        time.sleep(idle_s)
    site.close()


def test_half_sent_bodies_hold_no_place_of_the_site(served):
    lead = Caller("ilse")
    held = []
    for _ in range(60):
        line = socket.create_connection(("127.0.0.1", PORT))
        line.sendall(b"POST /api/read HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 100000\r\n\r\n{")
        held.append(line)
    begun = time.monotonic()
    assert [lead.call("GET", "/shift")[0] for _ in range(5)] == [200] * 5
    assert time.monotonic() - begun < 5
    for line in held:
        line.close()


def test_what_is_too_much_is_refused_by_the_proxy_in_our_one_shape(served):
    lead, nobody = Caller("ilse"), Caller()
    spec = lead.call("GET", "/specs")[1]["items"][0]["id"]
    form = "multipart/form-data; boundary=x"
    part = b'--x\r\nContent-Disposition: form-data; name="file"; filename="a.txt"\r\nContent-Type: text/plain\r\n\r\n'

    def file(size):
        return part + b"y" * size + b"\r\n--x--\r\n"

    sent = [
        (nobody, f"/api/specs/{spec}/attachments", file(1_500_000), form, 401, "signed_out"),
        (Caller("pim"), f"/api/specs/{spec}/attachments", file(1_500_000), form, 403, "not_allowed"),
        (lead, f"/api/specs/{spec}/attachments", file(1_900_000), form, 201, None),
        (lead, f"/api/specs/{spec}/attachments", file(2_500_000), form, 422, "too_long"),
        (lead, f"/api/specs/{spec}/attachments", file(5_000_000), form, 413, "too_long"),
        (lead, "/api/read", b" " * 3_000_000, "application/json", 413, "too_long"),
        (lead, f"/api/runs/{uuid4()}/photos", b" " * 3_000_000, "application/json", 413, "too_long"),
    ]
    for caller, path, data, kind, status, code in sent:
        answered, headers, body = caller.send("POST", path, data, kind)
        assert answered == status, (path, len(data), body)
        if status != 201:
            assert (headers["Content-Type"], json.loads(body)["code"]) == (PROBLEM, code)
    assert not list((STATE / "nginx" / "body").rglob("*")), "no body was written to disk"
    headers = {b"400": b"GET / HTTP/1.1\r\nHost: a\r\nHost: b\r\n\r\n", b"414": b"GET /" + b"x" * 20_000 + b" HTTP/1.1\r\nHost: a\r\n\r\n"}
    for status, text in headers.items():
        assert b" " + status + b" " in raw(text).split(b"\r\n")[0]
    who = lead.send("GET", "/api/session", **{"X-Real-IP": "10.9.9.9", "X-Forwarded-For": "10.9.9.9", "X-Request-ID": "forged"})[1]
    assert served.logs(who["X-Request-ID"]), "the proxy's own id, found in its log"


def test_many_sign_ins_at_once_take_little_memory_and_are_held_back(served):
    def memory_kb():
        rows = subprocess.run(["ps", "-eo", "rss,args"], capture_output=True, text=True, check=True).stdout.splitlines()
        return sum(int(row.split()[0]) for row in rows if "served/sockets/site.sock" in row)

    most, done, statuses = [memory_kb()], threading.Event(), []

    def watch():
        while not done.wait(0.02):
            most.append(memory_kb())

    def tries(n):
        caller = Caller()
        caller.call("GET", "/session")
        statuses.append(caller.call("POST", "/session", {"name": f"guest-{n}", "password": "guessed"})[0])

    watching = threading.Thread(target=watch)
    watching.start()
    threads = [threading.Thread(target=tries, args=(n,)) for n in range(40)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    done.set()
    watching.join()
    found = Counter(statuses)
    assert found[401] >= 10, found
    assert found[429] >= 1, "beyond so many a minute they are held back"
    assert set(found) <= {401, 429, 503}, found
    assert max(most) - most[0] < 200_000, "kB more than before: sixteen took 1.6 GB once"
    time.sleep(2)


@pytest.mark.parametrize("program", PROGRAMS)
def test_a_program_that_is_killed_comes_back_and_ends_no_other(served, program):
    before = served.status()
    took = served.kill(program)
    assert took is not None, "not back"
    assert took < BACK_WITHIN_S, f"back after {took:.1f} s"
    if program == "database":
        time.sleep(NOTICED_WITHIN_S)
    after = served.status()
    others = [name for name in before if name != program and before[name] != after[name]]
    assert others == [], "the others went on"


def test_what_was_answered_is_there_after_every_program_was_killed(served):
    maker = Caller("jonas")
    material = maker.call("GET", "/stock")[1]["items"][0]["material"]
    delivery = {"material": material, "product": f"kept {uuid4().hex[:6]}", "supplier": "Hagedorn", "price": "3", "pack_g": "1000"}
    key = {"Idempotency-Key": uuid4().hex}
    status, made = maker.call("POST", "/stock", delivery, **key)
    assert status == 201
    for program in ("site", "database", "nginx"):
        assert served.kill(program) is not None
    status, again = maker.call("POST", "/stock", delivery, **key)
    assert (status, again["id"]) == (201, made["id"]), "sent again it is the same one"
    log = (STATE / "site.log").read_text()
    assert "password" not in log.lower() and "guessed" not in log


def test_a_migration_that_fails_goes_back_by_itself_and_its_backup_is_kept(served):
    sql = f"mariadb --no-defaults --socket={STATE}/db/run/m.sock"
    script = f"""
      set -u; . bin/lib.sh; db_base="$state/db"
      {sql} -e 'CREATE TABLE ulsek.before_it (a INT); INSERT INTO ulsek.before_it VALUES (7)'
      breaks() {{ {sql} -e 'DROP TABLE ulsek.before_it; CREATE TABLE ulsek.half_done (a INT)'; return 1; }}
      migrate_or_go_back breaks; echo "status $?"
      {sql} -N -e 'SELECT a FROM ulsek.before_it; SHOW TABLES IN ulsek LIKE "half_done"; DROP TABLE ulsek.before_it'
    """
    done = subprocess.run(["bash", "-c", script], cwd=ROOT, env=served.environment, capture_output=True, text=True, check=False)
    lines = done.stdout.splitlines()
    assert [line for line in lines if line.startswith("status") or line in ("7", "half_done")] == ["status 1", "7"], (
        done.stdout + done.stderr
    )
    assert "It is as it was before." in lines
    assert len(list((STATE / "backups").glob("before-migrating-*.sql.gz"))) >= 1
    assert served.answers()


def test_fresh_keeps_what_was_there_and_logs_are_added_to(served):
    maker = Caller("jonas")
    maker.call("POST", "/containers", {"name": "only here", "tare_g": 100})
    lines = (STATE / "site.log").read_text()
    served.stop()
    assert "backup of what was there" in served.start("--fresh")
    assert (STATE / "site.log").read_text().startswith(lines), "appended, not begun again"
    assert "only here" not in str(Caller("jonas").call("GET", "/containers")[1]["items"])
    kept = sorted((STATE / "backups").glob("before-fresh-*.sql.gz"))
    assert b"only here" in subprocess.run(["gunzip", "-c", str(kept[-1])], capture_output=True, check=True).stdout
