"""Trials of lines: what they really sink at."""

from __future__ import annotations

import uuid

from django.db import models

from box.models import Line


class Trial(models.Model):
    """A line that sank level on slack to a known depth, timed. A trial taken back is kept."""

    class KnownBy(models.TextChoices):
        SOUNDER = "sounder"
        MARK = "mark"
        WEIGHTED_LINE = "weighted-line"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    line = models.ForeignKey(Line, on_delete=models.CASCADE, related_name="trials")
    at = models.DateTimeField()
    depth_m = models.FloatField()
    elapsed_s = models.FloatField()
    water_c = models.FloatField()
    known_by = models.CharField(max_length=16, choices=KnownBy.choices)
    undone_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.line}: {self.depth_m:g} m in {self.elapsed_s:g} s"
