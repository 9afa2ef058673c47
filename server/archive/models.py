"""An archive that came back and waits: looked at, and not yet taken in."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone


class Restore(models.Model):
    """What came of an archive so far; its bytes lie in a file beside the store until it is done. A person has one at most."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="restore")
    begun_at = models.DateTimeField(default=timezone.now)
    came = models.PositiveBigIntegerField(default=0, help_text="bytes so far")
    size = models.PositiveBigIntegerField(help_text="bytes in all, as announced")
    found = models.JSONField(null=True, help_text="what taking it in would do, once it was looked at")

    def __str__(self) -> str:
        return f"archive of {self.owner}, {self.came} of {self.size} bytes"
