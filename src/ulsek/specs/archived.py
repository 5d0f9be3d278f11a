"""The specs in an archive that another house gave: of its library, or of the house whole."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterator, Mapping
from typing import Any

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.open_forms import ReadPart, read_any

MOST_SPECS = 300
"""Specs that are read from one archive [count]."""
_MOST_SPEC, _MOST_ROWS = 1_000_000, 60_000_000
"""Bytes of one spec, and of one table of a house, once they are unpacked."""
_SPECS, _ROWS = "specs/", "rows/specs."


def specs_in(data: bytes) -> list[str]:
    """Returns the spec files in an archive, by name: the newest version of each, or its draft, with the materials that it needs. Trials are left out.

    Raises Refusal for what is no archive of specs, for one that is cut off, and for one that is too large.
    """
    try:
        archive = zipfile.ZipFile(io.BytesIO(data))
        names = archive.namelist()
        files = sorted(name for name in names if name.startswith(_SPECS) and name.endswith(".json"))
        if len(files) > MOST_SPECS:
            raise _too_large()
        if files:
            found = [_unpacked(archive, name, _MOST_SPEC).decode() for name in files]
        elif f"{_ROWS}spec.jsonl" in names:
            found = [json.dumps(body, ensure_ascii=False) for body in _of_house(archive)]
        else:
            found = []
    except (zipfile.BadZipFile, EOFError, KeyError, TypeError, ValueError, NotImplementedError, RuntimeError, OSError):
        raise Refusal(
            message("The archive cannot be unpacked"), "file", remedy=message("Take another copy of it"), code="unreadable"
        ) from None
    if not found:
        raise Refusal(
            message("There is no spec in this archive"),
            "file",
            remedy=message("Take a library's archive from Specs, or a house's from The house"),
            code="no_archive",
        )
    if len(found) > MOST_SPECS:
        raise _too_large()
    return found


def _too_large() -> Refusal:
    return Refusal(
        message("The archive is too large"),
        "file",
        message("at most {most} specs", most=MOST_SPECS),
        message("Take the library's alone"),
        "too_long",
    )


def _unpacked(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    """Returns a file of an archive. Raises Refusal for one of more than `most` [bytes], of which no more than that is unpacked."""
    with archive.open(name) as file:
        data = file.read(most + 1)
    if len(data) > most:
        raise _too_large()
    return data


def _rows(archive: zipfile.ZipFile, table: str) -> Iterator[Mapping[str, Any]]:
    for line in _unpacked(archive, f"{_ROWS}{table}.jsonl", _MOST_ROWS).splitlines():
        row: Mapping[str, Any] = json.loads(line)
        yield {"pk": row["pk"], **row["fields"]}


def _of_house(archive: zipfile.ZipFile) -> list[Mapping[str, Any]]:
    """Returns the bodies of a house's specs, by name, each with its materials."""
    newest: dict[Any, Mapping[str, Any]] = {}
    for row in _rows(archive, "version"):
        if row["spec"] not in newest or row["number"] > newest[row["spec"]]["number"]:
            newest[row["spec"]] = row
    drafts = {row["spec"]: row["body"] for row in _rows(archive, "draft")}
    found = []
    for spec in sorted(_rows(archive, "spec"), key=lambda row: str(row["name"])):
        if spec["trial_of"] is not None or spec["state"] == "withdrawn":
            continue
        version = newest.get(spec["pk"])
        found.append({**version["body"], "materials": version["materials"]} if version else drafts[spec["pk"]])
    return found


def read_specs(texts: list[str], known: Mapping[str, Any]) -> list[ReadPart]:
    """Returns what is understood of each spec file, or why it was refused. Nothing is stored."""
    parts = []
    for text in texts:
        try:
            parts.append(ReadPart(text, read_any(text, known)))
        except Refusal as refusal:
            parts.append(ReadPart(text, None, refusal.message))
    return parts
