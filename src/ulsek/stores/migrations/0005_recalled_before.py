"""Until deliveries could be counted, one was gone only because it was recalled: such a one is not to be counted back in."""

from typing import ClassVar

from django.db import migrations


def mark(apps, schema_editor):
    """Its reason stands in the history alone."""
    gone = apps.get_model("stores", "StockItem").objects.filter(gone_at__isnull=False, recalled="", events=None)
    gone.update(recalled="recalled earlier; the history says why")


class Migration(migrations.Migration):
    dependencies: ClassVar = [("stores", "0004_counted_and_recalled")]

    operations: ClassVar = [migrations.RunPython(mark, migrations.RunPython.noop)]
