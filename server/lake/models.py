"""A water's weather by the day, and the lake that was carried on by it."""

from __future__ import annotations

from django.db import models

from waters.models import Water


class WeatherDay(models.Model):
    """A day (UTC) of weather over a water, from one source: `hours` holds a list of 24 for each quantity, null where untold."""

    SERVICE, STATION = "service", "station"

    water = models.ForeignKey(Water, on_delete=models.CASCADE, related_name="weather_days")
    on = models.DateField()
    source = models.CharField(max_length=8)
    hours = models.JSONField()

    class Meta:
        ordering = ["on", "source"]
        constraints = [models.UniqueConstraint(fields=["water", "on", "source"], name="weather_day_once_per_source")]

    def __str__(self) -> str:
        return f"{self.on} by {self.source}"


class LakeDay(models.Model):
    """The lake at the end of a day (UTC): what is shown of it, and on some days the ensemble to carry on from.

    `made_of` tells what weather and readings went in, so that the days after a change are made anew.
    """

    water = models.ForeignKey(Water, on_delete=models.CASCADE, related_name="lake_days")
    on = models.DateField()
    made_of = models.CharField(max_length=32)
    shown = models.JSONField()
    state = models.BinaryField(null=True)

    class Meta:
        ordering = ["on"]
        constraints = [models.UniqueConstraint(fields=["water", "on"], name="lake_day_once")]

    def __str__(self) -> str:
        return f"the lake on {self.on}"


class Asked(models.Model):
    """When the weather service was last asked for a water, and why it gave nothing, where it did not."""

    water = models.OneToOneField(Water, on_delete=models.CASCADE, related_name="weather_asked")
    at = models.DateTimeField()
    why = models.CharField(max_length=200, blank=True)

    def __str__(self) -> str:
        return f"asked {self.at:%Y-%m-%d %H:%M}"
