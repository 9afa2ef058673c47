"""What was done becomes one tagged action: a cast, a float that hangs or a tow. Every row is kept, both ways."""

from __future__ import annotations

from typing import Any

from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor

USUAL = {"slack": 0.0, "loose": False, "tip_ms": 0.0}


def action_of(row: Any) -> dict[str, Any]:
    """Return the action of a presentation as it was stored before."""
    if row.hang:
        usual = {"indicator": "fixed", "diameter_m": 0.019, "drift_s": 120.0, "twitch_every_s": None}
        return {"kind": "hang", **usual, **row.hang, "distance_m": row.cast_m}
    if row.tow:
        return {"kind": "tow", "out_m": row.tow["out_m"], "tow_ms": row.tow["speed_ms"], "for_s": 180.0}
    cast = {name: getattr(row, name) for name in ("cast_m", "count_s", "retrieve_key", "retrieve_mps")}
    return {"kind": "cast", **cast, **USUAL, **row.handling}


def forward(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
    presentation = apps.get_model("days", "Presentation")
    for row in presentation.objects.all().iterator():
        row.action = action_of(row)
        row.save(update_fields=["action"])


def back(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
    presentation = apps.get_model("days", "Presentation")
    for row in presentation.objects.all().iterator():
        action = row.action
        row.cast_m, row.count_s, row.retrieve_key, row.retrieve_mps = 18.0, 0.0, "static", 0.0
        if action["kind"] == "hang":
            row.cast_m = action["distance_m"]
            row.hang = {name: action[name] for name in ("set_depth_m", "indicator", "drift_s", "twitch_every_s")}
        elif action["kind"] == "tow":
            row.tow = {"out_m": action["out_m"], "speed_ms": action["tow_ms"]}
        else:
            for name in ("cast_m", "count_s", "retrieve_key", "retrieve_mps"):
                setattr(row, name, action[name])
            row.handling = {name: action[name] for name in USUAL}
        row.save()


class Migration(migrations.Migration):
    dependencies = [("days", "0003_other_ways")]
    operations = [
        migrations.AddField("presentation", "action", models.JSONField(null=True)),
        migrations.RemoveConstraint("presentation", "hung_or_towed"),
        # On the way back these columns must be there before they are filled: each has a default.
        migrations.AlterField("presentation", "cast_m", models.FloatField(default=18.0)),
        migrations.AlterField("presentation", "count_s", models.FloatField(default=0.0)),
        migrations.AlterField("presentation", "retrieve_key", models.CharField(max_length=24, default="static")),
        migrations.AlterField("presentation", "retrieve_mps", models.FloatField(default=0.0)),
        migrations.RunPython(forward, back),
        *(
            migrations.RemoveField("presentation", name)
            for name in ("cast_m", "count_s", "retrieve_key", "retrieve_mps", "handling", "hang", "tow")
        ),
        migrations.AlterField(
            "presentation",
            "action",
            models.JSONField(help_text="what was done: a cast, a float that hangs or a tow, by its `kind`"),
        ),
        migrations.AddConstraint(
            "presentation",
            models.CheckConstraint(
                condition=models.Q(("action__kind__in", ["cast", "hang", "tow"])), name="cast_hung_or_towed"
            ),
        ),
    ]
