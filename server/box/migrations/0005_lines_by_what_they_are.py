"""Lines are named by what they are; a line that somebody named keeps its name."""

from __future__ import annotations

from typing import Any

from django.db import migrations

KEYS = {"hover": "very-slow", "midge-tip": "short-slow-tip", "sweep-3": "fast-belly-3", "sweep-5": "fast-belly-5"}
NAMES = {
    "Hover": "Very slow sinker",
    "Clear tip, 5 ft": "Short clear tip, 5 ft",
    "Midge tip, 6 ft": "Short slow tip, 6 ft",
    "Sweep, type 3 belly": "Fast-bellied sinker, type 3",
    "Sweep, type 5 belly": "Fast-bellied sinker, type 5",
}


def rename(apps: Any, schema_editor: Any) -> None:
    lines = apps.get_model("box", "Line")
    for old, new in KEYS.items():
        lines.objects.filter(class_key=old).update(class_key=new)
    for old, new in NAMES.items():
        for line in lines.objects.filter(name=old):
            if not lines.objects.filter(owner_id=line.owner_id, name=new).exists():
                lines.objects.filter(pk=line.pk).update(name=new)


class Migration(migrations.Migration):
    dependencies = [("box", "0004_foods_of_old_flies")]
    operations = [migrations.RunPython(rename, migrations.RunPython.noop)]
