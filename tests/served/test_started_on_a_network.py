"""A house's network: its own authority vouches for its own address, and nobody keeps a published password. The last of these tests: they end what the
others share.
"""

import json
import re
import ssl
import subprocess
import urllib.error
import urllib.request
from http.cookiejar import CookieJar

from tests.served.conftest import PASSWORDS, PORT, ROOT, STATE, Served


class Tablet:
    """A tablet that trusts the house's authority, and nothing else."""

    def __init__(self, state=STATE, host="127.0.0.1"):
        trust = ssl.create_default_context(cafile=state / "lan" / "house.crt")
        self.jar, self.base = CookieJar(), f"https://{host}:{PORT}"
        self.opener = urllib.request.build_opener(urllib.request.HTTPSHandler(context=trust), urllib.request.HTTPCookieProcessor(self.jar))
        with self.opener.open(f"{self.base}/api/session") as first:
            assert "max-age=31536000" in first.headers["Strict-Transport-Security"]
            self.session = json.load(first)
        assert all(cookie.secure for cookie in self.jar)

    def post(self, path, body):
        """The status of an answer, and what it holds."""
        token = next(cookie.value for cookie in self.jar if cookie.name == "csrftoken")
        headers = {"Content-Type": "application/json", "X-CSRFToken": token, "Referer": self.base}
        try:
            with self.opener.open(urllib.request.Request(f"{self.base}/api{path}", json.dumps(body).encode(), headers)) as answer:
                return answer.status, json.load(answer)
        except urllib.error.HTTPError as refused:
            with refused:
                return refused.code, json.load(refused)


def signs_in(name, password):
    """Whether somebody can sign in on such a tablet."""
    status, _ = Tablet().post("/session", {"name": name, "password": password})
    assert status in (200, 401)
    return status == 200


def test_on_a_network_nobody_keeps_a_published_password_and_the_authority_is_this_house_s_alone(served):
    served.stop()
    house = Served(ULSEK_LAN_ADDRESS="127.0.0.1")
    said = house.start("--lan")
    try:
        made = dict(re.findall(r"^    (\w+) +(\S{5}-\S{5}-\S{5})$", said, re.MULTILINE))
        assert set(made) == set(PASSWORDS), "made for everybody, and shown"
        assert not any(signs_in(name, password) for name, password in PASSWORDS.items())
        assert signs_in("ilse", made["ilse"])
        certificate = subprocess.run(
            ["openssl", "x509", "-in", STATE / "lan" / "house.crt", "-noout", "-text"], capture_output=True, text=True, check=True
        ).stdout
        assert re.search(r"Name Constraints: critical\s+Permitted:\s+IP:127.0.0.1/255.255.255.255", certificate)
        assert {path.name: path.stat().st_mode & 0o077 for path in (STATE / "lan").iterdir()}["house.key"] == 0
        # What the authority could be made to sign for another address is believed by nobody.
        forged = f"""
          set -e; cd "$(mktemp -d)"; lan={STATE}/lan
          openssl req -newkey rsa:2048 -nodes -subj /CN=other -keyout k -out r 2>/dev/null
          openssl x509 -req -in r -CA $lan/house.crt -CAkey $lan/house.key -CAcreateserial -out c -extfile <(printf 'subjectAltName=IP:10.1.2.3') 2>/dev/null
          openssl verify -CAfile $lan/house.crt c
        """
        verified = subprocess.run(["bash", "-c", forged], capture_output=True, text=True, check=False)
        assert "permitted subtree violation" in verified.stdout + verified.stderr
    finally:
        house.stop()


def test_without_the_demo_a_network_s_first_visit_takes_the_code_that_was_printed_and_no_instrument_is_simulated(served, tmp_path):
    served.stop()
    state = tmp_path / "state"
    house = Served(ULSEK_LAN_ADDRESS="127.0.0.2", ULSEK_STATE=str(state))
    said = house.start("--own", "--lan")
    try:
        code = re.search(r"Open your house: the address above, with the code (\w{12})\.", said)[1]
        assert "Demo sign-ins" not in said
        assert "shown this once" not in said, "no password of the demo is made"
        tablet = Tablet(state, "127.0.0.2")
        assert tablet.session["may_open"] == "by code"
        asked = {
            "house": {"name": "Plover Room", "zone": "UTC", "currency": "EUR"},
            "lead": {"sign_in": "maren", "password": "grey-plover-11"},
        }
        assert tablet.post("/session/opening", {**asked, "opening_code": "000000000000"})[0] == 422
        status, session = tablet.post("/session/opening", {**asked, "opening_code": code})
        assert (status, session["house"], session["is_demo"]) == (201, "Plover Room", False)
        command = [str(ROOT / ".venv" / "bin" / "supervisorctl"), "-s", f"unix://{state}/supervisor.sock", "status"]
        told = subprocess.run(command, capture_output=True, text=True, check=False).stdout
        running = {line.split()[0] for line in told.splitlines() if "RUNNING" in line}
        assert {"site", "hub", "nginx", "database"} <= running
        assert not any(name.startswith("simulators") for name in running)
    finally:
        house.stop()
