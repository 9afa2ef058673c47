"""Practice: days against a hidden lake, and drills. Kept apart from the log: nothing here counts in rates, bags or priors, and
none of it leaves with the archive."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class PracticeDay(models.Model):
    """A day that was dealt: the seed says all that is hidden, on a water made up or the angler's `own` as it was then, or on
    the water that another seed and level were dealt, as on the day it is `like`. `log` is
    what was done, in its order; `taken` the readings and the hour with which a device took the day along; `told` what came of
    it, once the day has ended."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="practice_days")
    seed = models.CharField(max_length=6)
    level = models.CharField(max_length=8)
    created_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True, blank=True)
    own = models.JSONField(null=True, blank=True)
    like = models.JSONField(null=True, blank=True)
    taken = models.JSONField(null=True, blank=True)
    log = models.JSONField(default=list, blank=True)
    told = models.JSONField(null=True, blank=True)

    class Meta:
        ordering = ("-created_at", "-id")

    def __str__(self) -> str:
        return f"{self.level} {self.seed}"


class Drill(models.Model):
    """A drill: its seed is the question. `answer` in metres or seconds, or the place of a choice; `points` 0 to 100."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="drills")
    kind = models.CharField(max_length=8)
    seed = models.CharField(max_length=36)
    created_at = models.DateTimeField(auto_now_add=True)
    answer = models.FloatField(null=True, blank=True)
    points = models.PositiveSmallIntegerField(null=True, blank=True)

    class Meta:
        ordering = ("-created_at", "-id")

    def __str__(self) -> str:
        return f"{self.kind} {self.points}"
