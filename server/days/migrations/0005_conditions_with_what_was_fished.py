"""Every presentation keeps the conditions it was fished under; those that have none get their day's."""

from __future__ import annotations

from typing import Any

from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor

PLAIN = (
    "wind_speed_ms", "wind_from_deg", "cloud_fraction", "secchi_m", "bottom_depth_m", "far_bottom_depth_m", "weed_m", "species",
    "signs", "sample", "oxygen", "place", "earlier",
)  # fmt: skip


def conditions_of(day: Any) -> dict[str, Any]:
    """Return the conditions of a day as they would be sent."""
    readings = [{"depth_m": r.depth_m, "water_c": r.water_c, "trusted": r.trusted} for r in day.readings.all()]
    return {
        "water_id": day.water_id,
        "at_local": day.at.isoformat(),
        "readings": readings,
        "read_at_local": day.read_at_local or None,
        **{name: getattr(day, name) for name in PLAIN},
    }


def forward(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
    for day in apps.get_model("days", "Day").objects.prefetch_related("readings").iterator(chunk_size=200):
        day.presentations.update(conditions=conditions_of(day))


class Migration(migrations.Migration):
    dependencies = [("days", "0004_one_action")]
    operations = [
        migrations.AddField("presentation", "conditions", models.JSONField(null=True)),
        migrations.RunPython(forward, migrations.RunPython.noop),
        migrations.AlterField(
            "presentation", "conditions", models.JSONField(help_text="as sent, when this was begun")
        ),
    ]
