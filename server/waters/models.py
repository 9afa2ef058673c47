"""Lakes and reservoirs, each its owner's own."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q


class Water(models.Model):
    """A still water: where it lies, how open it is to the wind, which trout swim in it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="waters")
    name = models.CharField(max_length=80)
    latitude_deg = models.FloatField()
    longitude_deg = models.FloatField()
    altitude_m = models.FloatField(default=0.0)
    fetch_km = models.FloatField(default=1.0, help_text="longest open stretch")
    usual_bottom_depth_m = models.FloatField(default=6.0, help_text="where the angler mostly fishes")
    usual_secchi_m = models.FloatField(default=3.0)
    time_zone = models.CharField(max_length=64, default="UTC")
    species = models.CharField(max_length=20, default="rainbow")
    notes = models.TextField(max_length=2000, blank=True)

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
