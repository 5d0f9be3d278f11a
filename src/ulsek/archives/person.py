"""What the site stores about one person."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import reduce
from operator import or_

from django.apps import apps
from django.core import serializers
from django.db.models import Q
from django.utils import timezone

from ulsek.team.models import Person

from .form import SECRETS, people_in

Told = Mapping[str, object]
_NO_ROW = ("team.OneTimeCode", "team.Receipt")
"""Tables of which nothing is told: a code's hash, and answers that are kept for a request that may be sent again."""


def stored_about(person: Person, told: Callable[[int, int], None]) -> Mapping[str, object]:
    """Returns the person, and every row of every table that names them, in every house that they were in, without what lets anybody in.

    `told` is called before each table with how many are done, and how many there are.
    """
    tables = [
        model
        for config in apps.get_app_configs()
        if config.name.startswith("ulsek.")
        for model in config.get_models()
        if people_in(model) and model._meta.label not in _NO_ROW
    ]
    rows: dict[str, list[Told]] = {}
    for done, model in enumerate(tables):
        told(done, len(tables))
        mine = reduce(or_, (Q((column, person.pk)) for column in people_in(model)))
        found = serializers.serialize("python", model._base_manager.filter(mine).order_by().iterator())
        hidden = SECRETS.get(model._meta.label, ())
        if found:
            rows[model._meta.label] = [
                {"id": row["pk"], **{name: value for name, value in row["fields"].items() if name not in hidden}} for row in found
            ]
    told(len(tables), len(tables))
    return {
        "format": "ulsek.person",
        "at": timezone.now().isoformat(timespec="seconds"),
        "sign_in": person.username,
        "name": person.display_name,
        "has_password": person.has_usable_password(),
        "has_pin": bool(person.pin),
        "last_sign_in": person.last_login,
        "rows": rows,
    }
