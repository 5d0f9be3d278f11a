"""Ends the sessions from before there were rows of them: each new one has a key that signs what its person does."""

from django.db import migrations


def end_all(apps, schema_editor):
    apps.get_model("sessions", "Session").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [("team", "0006_sessions"), ("sessions", "0001_initial")]
    operations = [migrations.RunPython(end_all, migrations.RunPython.noop)]
