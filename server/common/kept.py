"""What is kept under an id of its own, the same wherever it is taken to."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any

from django.db import migrations, models


class Kept(models.Model):
    """A row that an archive tells by its `uid`, on whichever server it came to be."""

    uid = models.UUIDField(default=uuid.uuid4, editable=False, db_index=True)

    class Meta:
        abstract = True


def told_apart(app: str, *kinds: str) -> migrations.RunPython:
    """Return the step of a migration that gives each row of before a `uid` of its own: a default is worked out once for all."""

    def give(apps: Any, editor: Any) -> None:
        for kind in kinds:
            model = apps.get_model(app, kind)
            rows = list(model.objects.only("pk", "uid"))
            for row in rows:
                row.uid = uuid.uuid4()
            model.objects.bulk_update(rows, ["uid"], batch_size=500)

    back: Callable[[Any, Any], None] = migrations.RunPython.noop
    return migrations.RunPython(give, back)
