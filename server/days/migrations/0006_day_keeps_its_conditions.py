"""A day keeps its conditions as they were sent, not a column for each."""

from __future__ import annotations

from datetime import datetime, timedelta, timezone
from typing import Any

from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor

PLAIN = (
    "wind_speed_ms", "wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m", "far_bottom_depth_m", "weed_m", "species",
    "signs", "sample", "oxygen", "place", "earlier",
)  # fmt: skip


def forward(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
    for day in apps.get_model("days", "Day").objects.prefetch_related("readings").iterator(chunk_size=200):
        there = timezone(timedelta(minutes=day.utc_offset_min))
        day.conditions = {
            "water_id": day.water_id,
            "at_local": day.at.astimezone(there).replace(tzinfo=None).isoformat(),
            "readings": [{"depth_m": r.depth_m, "water_c": r.water_c, "trusted": r.trusted} for r in day.readings.all()],
            "read_at_local": day.read_at_local or None,
            **{name: getattr(day, name) for name in PLAIN},
        }
        day.save(update_fields=["conditions"])


def back(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
    model, reading = apps.get_model("days", "Day"), apps.get_model("days", "DayReading")
    for day in model.objects.iterator(chunk_size=200):
        kept: dict[str, Any] = day.conditions
        for name in PLAIN:
            if name in kept:
                setattr(day, name, kept[name])
        day.read_at_local = (kept.get("read_at_local") or "")[:16]
        clock = datetime.fromisoformat(kept["at_local"]).replace(tzinfo=timezone.utc)
        day.utc_offset_min = round((clock - day.at).total_seconds() / 60.0)
        day.save()
        reading.objects.bulk_create(reading(day=day, **one) for one in kept["readings"])



class Migration(migrations.Migration):
    dependencies = [("days", "0005_conditions_with_what_was_fished")]
    operations = [
        migrations.AddField("day", "conditions", models.JSONField(null=True)),
        # On the way back the columns are there again, empty, before they are filled.
        *(
            migrations.AlterField("day", name, models.FloatField(default=0.0))
            for name in ("wind_speed_ms", "wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m")
        ),
        migrations.AlterField("day", "species", models.CharField(max_length=20, default="rainbow")),
        migrations.RunPython(forward, back),
        migrations.AlterField("day", "conditions", models.JSONField(help_text="as sent, with the species named")),
        migrations.DeleteModel("DayReading"),
        *(migrations.RemoveField("day", name) for name in (*PLAIN, "utc_offset_min", "read_at_local")),
    ]
