"""Reference tables with their sources in their heads, and a reader for them."""

import csv
from pathlib import Path


def rows(name: str) -> list[dict[str, str]]:
    """The rows of one table, comments left out."""
    lines = (Path(__file__).parent / f"{name}.csv").read_text(encoding="utf-8").splitlines()
    return list(csv.DictReader(line for line in lines if line and not line.startswith("#")))
