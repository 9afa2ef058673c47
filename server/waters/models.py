"""Lakes and reservoirs, each its owner's own, with their charts."""

from __future__ import annotations

from common.kept import Kept
from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone


class Water(Kept):
    """A still water: where it lies, how open it is to the wind, which trout swim in it, what its rules are."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="waters")
    name = models.CharField(max_length=80)
    latitude_deg = models.FloatField()
    longitude_deg = models.FloatField()
    altitude_m = models.FloatField(default=0.0)
    fetch_km = models.FloatField(default=1.0, help_text="longest open stretch")
    usual_bottom_depth_m = models.FloatField(default=6.0, help_text="where the angler mostly fishes")
    usual_secchi_m = models.FloatField(default=3.0)
    usual_fish_kg = models.FloatField(default=1.0, help_text="it sets the tippet")
    time_zone = models.CharField(max_length=64, default="UTC")
    species = models.CharField(max_length=20, default="rainbow")
    stocked = models.JSONField(default=list, blank=True, help_text="keys of further trout that swim here")
    rules = models.JSONField(default=dict, blank=True)
    notes = models.TextField(max_length=2000, blank=True)
    takes_factor = models.FloatField(null=True, help_text="by what the angler lets the log correct promised takes")
    outline = models.JSONField(null=True, blank=True, help_text="GeoJSON geometry, degrees")

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "name"], name="water_name_once_per_owner"),
            models.CheckConstraint(condition=Q(latitude_deg__range=(-90, 90)), name="water_latitude_in_range"),
            models.CheckConstraint(condition=Q(longitude_deg__range=(-180, 180)), name="water_longitude_in_range"),
            models.CheckConstraint(condition=Q(fetch_km__range=(0.05, 100)), name="water_fetch_in_range"),
        ]

    def __str__(self) -> str:
        return self.name


class Mark(Kept):
    """A place worth a name."""

    water = models.ForeignKey(Water, on_delete=models.CASCADE, related_name="marks")
    name = models.CharField(max_length=80)
    kind_key = models.CharField(max_length=16, default="peg")
    latitude_deg = models.FloatField()
    longitude_deg = models.FloatField()
    depth_m = models.FloatField(null=True, blank=True)
    notes = models.TextField(max_length=2000, blank=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(fields=["water", "name"], name="mark_name_once_per_water")]

    def __str__(self) -> str:
        return self.name


class Survey(Kept):
    """Soundings as they came, kept whole: `points` holds longitude, latitude and depth, three float64 each, compressed."""

    water = models.ForeignKey(Water, on_delete=models.CASCADE, related_name="surveys")
    name = models.CharField(max_length=80)
    made_at = models.DateTimeField(default=timezone.now)
    count = models.PositiveIntegerField()
    points = models.BinaryField()

    class Meta:
        ordering = ["-made_at", "-id"]

    def __str__(self) -> str:
        return f"{self.name}, {self.count} soundings"


class DepthMap(models.Model):
    """The bottom drawn from all surveys of a water: derived, and made anew when they or the outline change."""

    water = models.OneToOneField(Water, on_delete=models.CASCADE, related_name="depth_map")
    grid = models.BinaryField()
    spikes = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return f"depth map of {self.water}"
