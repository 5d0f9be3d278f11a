"""Versions of earlier houses get what lists show of them."""

from django.db import migrations


def fill(apps, schema_editor):
    del schema_editor
    version_model = apps.get_model("specs", "Version")
    for version in version_model.objects.exclude(final=None).iterator(chunk_size=50):
        final = version.final
        brief = {name: final[name]["value"] for name in ("brix", "acid_g_100ml", "sugar_g_100ml", "volume_ml")}
        kept = ("keeps_days", "cost_per_litre", "unpriced", "doses_g_l", "takes_min")
        version_model.objects.filter(pk=version.pk).update(brief=brief | {name: final[name] for name in kept if name in final})


class Migration(migrations.Migration):
    dependencies = [("specs", "0007_brief")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
