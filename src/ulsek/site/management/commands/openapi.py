"""Writes the description of the API, from which the front end's types are made."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand

from ulsek.site.api import api


def description() -> str:
    """The OpenAPI document as it stands in ``docs/formats/openapi.json``."""
    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


class Command(BaseCommand):
    help = "Prints the OpenAPI document."

    def handle(self, *_args: Any, **_options: Any) -> None:
        self.stdout.write(description(), ending="")
