"""What was fished is told by each fly of a team, not by its point alone: every day is worked out anew when it is next asked for."""

from typing import Any

from django.db import migrations, models


def worked_out_anew(apps: Any, _: Any) -> None:
    apps.get_model("days", "Day").objects.filter(tallied=True).update(tallied=False)


class Migration(migrations.Migration):
    dependencies = [("days", "0012_what_came_to_which_fly")]

    operations = [
        migrations.RemoveField("stretch", "fly"),
        migrations.AddField(
            "stretch",
            "by_fly",
            models.JSONField(default=list, help_text="name, takes and landed of each fly of the team, the point first"),
        ),
        migrations.RunPython(worked_out_anew, migrations.RunPython.noop),
    ]
