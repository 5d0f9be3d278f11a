"""Settings that differ between machines: read from the environment, or from the file that `ULSEK_SETTINGS` names, and checked together before the site starts.

A line of the file is `NAME=value`; what stands in the environment goes before it. A secret may stand in a file of its own: `ULSEK_DB_PASSWORD_FILE=/etc/ulsek/db`.
"""

from __future__ import annotations

import os
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

from django.core.exceptions import ImproperlyConfigured

FILE = "ULSEK_SETTINGS"
_LINE = re.compile(r"(ULSEK_[A-Z_]+)\s*=\s*(.*)")
_LEAST_SECRET = 32


def _port(value: str) -> str:
    return "" if value.isdecimal() and 1 <= int(value) <= 65535 else "a port is a number from 1 to 65535"


def _address(value: str) -> str:
    said = urlsplit(value)
    fits = said.scheme in ("http", "https") and said.hostname and not said.query and not said.fragment
    return "" if fits else "write it as http://127.0.0.1:8713 or https://ulsek.example"


def _perhaps_address(value: str) -> str:
    return _address(value) if value else ""


def _mail(value: str) -> str:
    return "" if re.fullmatch(r"(\S+@\S+\.\S+)?", value) else "write a mail address, such as lead@bar.example"


def _perhaps_secret(value: str) -> str:
    return _secret(value) if value else ""


def _mail_tls(value: str) -> str:
    return "" if value in ("starttls", "tls", "none") else "write starttls, tls or none"


def _yes(value: str) -> str:
    return "" if value in ("", "yes", "no") else "write yes or no"


def _secret(value: str) -> str:
    return (
        ""
        if len(value) >= _LEAST_SECRET
        else f"a secret has at least {_LEAST_SECRET} letters: head -c 32 /dev/urandom | od -An -tx1 | tr -d ' \\n'"
    )


def _file(value: str) -> str:
    return "" if not value or Path(value).is_file() else "there is no such file"


def _hosts(value: str) -> str:
    return "" if all(part and " " not in part for part in value.split(",")) else "write hosts with commas between, without blanks"


def _log(value: str) -> str:
    return "" if value in ("lines", "json") else "write lines or json"


def _any(_value: str) -> str:
    return ""


@dataclass(frozen=True, slots=True)
class Setting:
    """A setting: what it is for, the value without one, and what is wrong with a value in words (empty: nothing). `secret` may stand in a file of its own, and is
    never shown. One without a default (None) must be said.
    """

    about: str
    default: str | None = ""
    wrong: Callable[[str], str] = _any
    secret: bool = False


SETTINGS: Mapping[str, Setting] = {
    "ULSEK_SECRET_KEY": Setting("what sessions and links are signed with", None, _secret, secret=True),
    "ULSEK_ADDRESS": Setting("the address that people and codes on labels use", "http://127.0.0.1:8713", _address),
    "ULSEK_HOSTS": Setting("host names that the site answers to", "127.0.0.1,localhost,testserver", _hosts),
    "ULSEK_BEHIND_PROXY": Setting("whether our own nginx stands before the site", "no", _yes),
    "ULSEK_CERTIFICATE": Setting("the site's certificate, beside which its authority's stands for tablets to trust", "", _file),
    "ULSEK_STATE": Setting("where what can be made again lies: static files, sockets"),
    "ULSEK_DB_HOST": Setting("where the database answers", "127.0.0.1"),
    "ULSEK_DB_PORT": Setting("at which port", "3713", _port),
    "ULSEK_DB_SOCKET": Setting("its socket, in place of host and port"),
    "ULSEK_DB_NAME": Setting("the name of the schema", "ulsek"),
    "ULSEK_DB_USER": Setting("who signs in there", "ulsek"),
    "ULSEK_DB_PASSWORD": Setting("with which password", "", secret=True),
    "ULSEK_DB_TLS_CA": Setting("the authority of the database's certificate; with it every connection is encrypted and checked", "", _file),
    "ULSEK_INSTRUMENTS": Setting("the address of the hub of instruments", "http://127.0.0.1:8714", _address),
    "ULSEK_INSTRUMENTS_SOCKET": Setting("its socket, behind the proxy"),
    "ULSEK_INSTRUMENT_ADDRESSES": Setting("serial ports and addresses that a lead may connect, blanks between, * for any"),
    "ULSEK_PUSH_SERVICE": Setting("a push service to which alerts may go besides those of the public network", "", _perhaps_address),
    "ULSEK_CONTACT": Setting("the mail address of whoever runs the site, told to push services", "", _mail),
    "ULSEK_ADMIN": Setting("whether operators may look at /operator/: Django's admin, for reading", "no", _yes),
    "ULSEK_METRICS_TOKEN": Setting(
        "what a monitoring program sends as Bearer to read /metrics; nobody reads them without", "", _perhaps_secret, secret=True
    ),
    "ULSEK_SMTP_HOST": Setting("the server that mail goes out by; without one nothing is mailed"),
    "ULSEK_SMTP_PORT": Setting("its port", "587", _port),
    "ULSEK_SMTP_USER": Setting("who signs in there"),
    "ULSEK_SMTP_PASSWORD": Setting("with which password", "", secret=True),
    "ULSEK_SMTP_TLS": Setting("how it is encrypted: starttls, tls, or none", "starttls", _mail_tls),
    "ULSEK_MAIL_FROM": Setting("from whom mail comes", "", _mail),
    "ULSEK_LOG": Setting("how the log is written: lines for people, json for programs", "lines", _log),
}
"""Every setting of the site by its name in the environment."""


def read_settings(environment: Mapping[str, str]) -> dict[str, str]:
    """Returns the value of every setting. Raises ImproperlyConfigured that names all that is wrong: where, with what, and what to do."""
    wrong: list[str] = []
    said = {
        **_from_file(environment.get(FILE, ""), wrong),
        **{name: value for name, value in environment.items() if name.startswith("ULSEK_")},
    }
    found: dict[str, str] = {}
    for name, setting in SETTINGS.items():
        value = _value(name, setting, said, wrong)
        if value is None:
            wrong.append(f"{name} is not set: {setting.about}; bin/start and bin/test make one")
            continue
        if (name in said or f"{name}_FILE" in said or setting.default is None) and (why := setting.wrong(value)):
            wrong.append(f"{name}{'' if setting.secret else f' is “{value}”'}: {why}")
        found[name] = value
    if found.get("ULSEK_SMTP_HOST") and not found.get("ULSEK_MAIL_FROM"):
        wrong.append("ULSEK_MAIL_FROM is not set: mail that goes out by ULSEK_SMTP_HOST comes from somebody")
    if wrong:
        raise ImproperlyConfigured("The settings cannot be used.\n  " + "\n  ".join(wrong))
    return found


def _value(name: str, setting: Setting, said: Mapping[str, str], wrong: list[str]) -> str | None:
    """Returns the value of a setting as said, from its secret's file, or by default; None if it must be said and is not."""
    if said.get(name):
        return said[name]
    path = said.get(f"{name}_FILE", "") if setting.secret else ""
    if path:
        try:
            return Path(path).read_text(encoding="utf-8").strip()
        except OSError as trouble:
            wrong.append(f"{name}_FILE is “{path}”: it cannot be read ({trouble.strerror})")
            return ""
    return said.get(name, setting.default) or setting.default


def _from_file(path: str, wrong: list[str]) -> dict[str, str]:
    """Returns what a file of settings says; what is wrong in it is added to `wrong` by its line."""
    if not path:
        return {}
    try:
        lines = Path(path).read_text(encoding="utf-8").splitlines()
    except (OSError, UnicodeDecodeError) as trouble:
        wrong.append(f"{FILE} is “{path}”: it cannot be read ({trouble})")
        return {}
    known = {*SETTINGS, *(f"{name}_FILE" for name, setting in SETTINGS.items() if setting.secret)}
    found: dict[str, str] = {}
    for number, line in enumerate(lines, 1):
        text = line.strip()
        if not text or text.startswith("#"):
            continue
        said = _LINE.fullmatch(text)
        if said is None:
            wrong.append(f"{path}, line {number}: “{text[:60]}” is no setting; write NAME=value")
        elif said[1] not in known:
            wrong.append(f"{path}, line {number}: there is no setting {said[1]}")
        else:
            found[said[1]] = said[2].strip().strip('"')
    return found


def from_here() -> dict[str, str]:
    """Returns the settings of this process."""
    return read_settings(os.environ)
