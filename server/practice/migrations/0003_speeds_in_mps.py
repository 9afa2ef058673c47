from common.kept_json import rewrite
from common.speeds import in_mps, in_ms
from django.db import migrations


def forwards(apps, schema_editor):
    for model, columns in KEPT.items():
        rewrite(apps.get_model("practice", model), columns, in_mps)


def backwards(apps, schema_editor):
    for model, columns in KEPT.items():
        rewrite(apps.get_model("practice", model), columns, in_ms)


KEPT = {"practiceday": ["own", "like", "taken", "log", "told"]}


class Migration(migrations.Migration):
    dependencies = [("practice", "0002_own_like_taken")]

    operations = [migrations.RunPython(forwards, backwards)]
