from common.kept_json import rewrite
from common.speeds import in_mps, in_ms
from django.db import migrations


def forwards(apps, schema_editor):
    for model, columns in KEPT.items():
        rewrite(apps.get_model("instruments", model), columns, in_mps)


def backwards(apps, schema_editor):
    for model, columns in KEPT.items():
        rewrite(apps.get_model("instruments", model), columns, in_ms)


KEPT = {"forecast": ["hours"]}


class Migration(migrations.Migration):
    dependencies = [("instruments", "0002_kept_by_uid")]

    operations = [migrations.RunPython(forwards, backwards)]
