"""The demo house's history as recorded rows: written by a program that plays it, read at every load and moved to the day of the load."""

from __future__ import annotations

import gzip
import re
from collections import defaultdict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, datetime, timedelta
from typing import Any
from uuid import uuid4
from zoneinfo import ZoneInfo

from django.apps import apps
from django.core import serializers
from django.db import connection, models
from django.db.models.signals import pre_save

from ulsek.sync.models import Epoch
from ulsek.team.models import Receipt

from .setting import DEMO, Setting, demo_id

RECORD = DEMO / "history.jsonl.gz"
RECORDED_AT = datetime.fromisoformat("2090-05-20T17:00:00+00:00")
"""The moment that counted as now when the history was played. It lies so far ahead that no date of a source can be taken for one of the history."""
_BATCH = 500
_NOT_RECORDED = (Receipt, Epoch)
"""Receipts serve requests that are sent again; the epoch is a database's own."""
_DATE = re.compile(r"\b(?:209\d-\d\d-\d\d(?:T\d\d:\d\d(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d:\d\d)?)?|\d\d [A-Z][a-z]+ 209\d)(?!\w)")
_IN_WORDS = "%d %B %Y"


def recorded_models() -> list[type[models.Model]]:
    """Returns the models of a house's rows, those that others refer to first."""
    own = [
        (app, [model for model in app.get_models() if model not in _NOT_RECORDED])
        for app in apps.get_app_configs()
        if app.name.startswith("ulsek.")
    ]
    ordered: list[type[models.Model]] = serializers.sort_dependencies(own)
    return ordered


def as_lines() -> Iterator[str]:
    """Yields every recorded row of the database as one line of JSON, in the order of models and primary keys."""
    for model in recorded_models():
        for row in model._base_manager.order_by("pk").iterator():
            yield serializers.serialize("jsonl", [row])


@contextmanager
def same_ids() -> Iterator[None]:
    """Gives each row whose id would be drawn by chance an id that follows from its model and its number, so that a history played twice has the same ids."""
    count: defaultdict[str, int] = defaultdict(int)

    def named(sender: type[models.Model], instance: models.Model, **_more: Any) -> None:
        if instance._state.adding and sender._meta.pk is not None and sender._meta.pk.default is uuid4:
            label = sender._meta.label_lower
            count[label] += 1
            instance.pk = demo_id(f"{label} {count[label]}")

    pre_save.connect(named)
    try:
        yield
    finally:
        pre_save.disconnect(named)


def write_record() -> int:
    """Writes the rows of the database as the recorded history, and returns their number. Two records of the same rows are the same bytes."""
    lines = list(as_lines())
    RECORD.write_bytes(gzip.compress("".join(lines).encode(), mtime=0))
    return len(lines)


def load_record(setting: Setting) -> None:
    """Loads the recorded rows, moved by whole days of the house's calendar to the setting's now. The tables must be empty."""
    moved = moved_by(setting.day - Setting(RECORDED_AT).day, setting.zone)
    text = moved(gzip.decompress(RECORD.read_bytes()).decode())
    rows: defaultdict[type[models.Model], list[models.Model]] = defaultdict(list)
    for item in serializers.deserialize("jsonl", text):
        rows[type(item.object)].append(item.object)
    # Rows of one model may refer to later ones, as a spec does to its newest version.
    with connection.constraint_checks_disabled():
        for model, objects in rows.items():
            model._base_manager.bulk_create(objects, batch_size=_BATCH)


def moved_by(by: timedelta, zone: ZoneInfo) -> Callable[[str], str]:
    """Returns a function that moves every date and moment of the history in a text by whole days, on the clock of `zone`.

    What was at three in the afternoon stays at three in the afternoon.
    """

    def moved(found: re.Match[str]) -> str:
        text = found[0]
        if " " in text:
            return f"{datetime.strptime(text, _IN_WORDS).replace(tzinfo=zone) + by:{_IN_WORDS}}"
        if len(text) == len("2090-05-20"):
            return (date.fromisoformat(text) + by).isoformat()
        then = datetime.fromisoformat(text)
        if then.tzinfo is None:
            return (then + by).isoformat()
        local = then.astimezone(zone) + by
        written = (local if then.utcoffset() else local.astimezone(then.tzinfo)).isoformat()
        return written.replace("+00:00", "Z") if text.endswith("Z") else written

    return lambda text: _DATE.sub(moved, text)
