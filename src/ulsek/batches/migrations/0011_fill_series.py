"""Every house goes on numbering where it stood: batches and rehearsals by the highest code, parts of a lot by how many there are."""

from __future__ import annotations

import re
from collections import Counter
from typing import Any

from django.db import migrations

_CODE = re.compile(r"([BR])(\d+)")


def fill(apps: Any, _schema: Any) -> None:
    run, lot, series = apps.get_model("batches", "Run"), apps.get_model("batches", "Lot"), apps.get_model("team", "Series")
    last: Counter[tuple[int, str]] = Counter()
    for house, code in run.objects.values_list("house", "code"):
        found = _CODE.fullmatch(code)
        if found:
            key = (house, found[1])
            last[key] = max(last[key], int(found[2]))
    lots = {item.pk: item for item in lot.objects.only("house", "code", "split_of")}
    for item in lots.values():
        whole = item
        while whole.split_of_id is not None:
            whole = lots[whole.split_of_id]
        if whole is not item:
            last[item.house_id, f"parts of {whole.code}"] += 1
    series.objects.bulk_create(series(house_id=house, name=name, last=number) for (house, name), number in last.items())


class Migration(migrations.Migration):
    dependencies = [("batches", "0010_exact_ids"), ("team", "0004_action")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
