from common.kept_json import rewrite
from common.speeds import in_mps, in_ms
from django.db import migrations


def forwards(apps, schema_editor):
    for model, columns in KEPT.items():
        rewrite(apps.get_model("days", model), columns, in_mps)


def backwards(apps, schema_editor):
    for model, columns in KEPT.items():
        rewrite(apps.get_model("days", model), columns, in_ms)


KEPT = {"day": ["conditions"], "presentation": ["conditions", "action", "told", "advice"], "change": ["before", "after"]}


class Migration(migrations.Migration):
    dependencies = [("days", "0010_kept_by_uid")]

    operations = [
        migrations.RenameField("dayfacts", "wind_ms", "wind_mps"),
        migrations.RenameField("stretch", "wind_ms", "wind_mps"),
        migrations.RunPython(forwards, backwards)]
