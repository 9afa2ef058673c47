"""Names are compared by what they look like; a link for a forgotten password is asked for in the store, and mailed from there."""

import unicodedata
from typing import Any

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def keyed(apps: Any, _: Any) -> None:
    """Give everybody the key of his name; of twins that are here already the later ones keep theirs apart."""
    taken: set[str] = set()
    for user in apps.get_model("accounts", "User").objects.order_by("pk"):
        key = unicodedata.normalize("NFKC", unicodedata.normalize("NFKC", user.username).casefold())
        user.name_key = key if key not in taken else f"{key} #{user.pk}"
        taken.add(user.name_key)
        user.save(update_fields=["name_key"])


class Migration(migrations.Migration):
    dependencies = [("accounts", "0004_signed_in_and_tokens")]

    operations = [
        migrations.AddField(
            "user",
            "name_key",
            models.CharField(default="", editable=False, help_text="the name as names are compared", max_length=400),
            preserve_default=False,
        ),
        migrations.RunPython(keyed, migrations.RunPython.noop),
        migrations.AlterField(
            "user",
            "name_key",
            models.CharField(editable=False, help_text="the name as names are compared", max_length=400, unique=True),
        ),
        migrations.CreateModel(
            name="ResetAsked",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("asked_at", models.DateTimeField(auto_now_add=True)),
                ("sent_at", models.DateTimeField(null=True)),
                (
                    "user",
                    models.ForeignKey(
                        help_text="none: nobody is called so",
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={"ordering": ["asked_at", "id"]},
        ),
    ]
