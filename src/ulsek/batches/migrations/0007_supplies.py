"""A run pins the lots that it takes from beside the deliveries; the key of a material may name its supply."""

from typing import ClassVar

from django.db import migrations, models


def pin_lots(apps, schema_editor):
    """What runs drew on so far stands in their snapshots too."""
    lots = {}
    for drawn in apps.get_model("batches", "Drawn").objects.select_related("lot"):
        lots.setdefault(drawn.run_id, {})[drawn.material] = drawn.lot.code
    for run in apps.get_model("batches", "Run").objects.only("snapshot").iterator(chunk_size=50):
        run.snapshot["lots"] = lots.get(run.pk, {})
        run.save(update_fields=["snapshot"])


class Migration(migrations.Migration):
    dependencies: ClassVar = [("batches", "0006_final_of_by_products")]

    operations: ClassVar = [
        migrations.AlterField("drawn", "material", models.CharField(max_length=160)),
        migrations.RunPython(pin_lots, migrations.RunPython.noop),
    ]
