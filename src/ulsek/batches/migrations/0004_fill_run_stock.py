"""Runs of earlier houses get the deliveries that their snapshots name, for tracing."""

from django.db import migrations


def fill(apps, schema_editor):
    del schema_editor
    run_model, stock_model, link = (apps.get_model(*name) for name in (("batches", "Run"), ("stores", "StockItem"), ("batches", "RunStock")))
    known = {str(key) for key in stock_model.objects.values_list("pk", flat=True)}
    for run in run_model.objects.iterator(chunk_size=50):
        # The snapshot holds what a repair might take too; only what the spec names went in for sure.
        named = {line.get("material") for step in run.snapshot["spec"].get("steps", []) for line in step.get("lines", [])}
        ids = {str(key) for material, key in (run.snapshot.get("stock") or {}).items() if material in named} & known
        link.objects.bulk_create(link(run=run, stock_id=key) for key in ids)


class Migration(migrations.Migration):
    dependencies = [("batches", "0003_lots_traced"), ("stores", "0003_longer_keys")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
