"""A subscription without its keys cannot be encrypted for: those of before are let go, and each device subscribes anew."""

from django.db import migrations, models


def let_go(apps, _schema_editor):
    apps.get_model("devices", "AlertAddress").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [("devices", "0004_alerts_end")]

    operations = [
        migrations.RunPython(let_go, migrations.RunPython.noop),
        migrations.AddField(model_name="alertaddress", name="auth", field=models.CharField(default="", max_length=24)),
        migrations.AddField(model_name="alertaddress", name="p256dh", field=models.CharField(default="", max_length=90)),
    ]
