"""Instruments that speak over the network, and what they measured."""

from __future__ import annotations

from common.kept import Kept
from django.conf import settings
from django.db import models

from waters.models import Water


class Instrument(Kept):
    """A sounder, thermometer or weather station that sends NMEA 0183 over TCP."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="instruments")
    name = models.CharField(max_length=80)
    host = models.CharField(max_length=80, default="127.0.0.1")
    port = models.PositiveIntegerField()
    on = models.BooleanField(default=False)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="instrument_name_once_per_owner")]

    def __str__(self) -> str:
        return self.name


class Measurement(models.Model):
    """One value with its time: depth [m], water [C], wind [m/s] from [deg], position [deg]."""

    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="measurements")
    at = models.DateTimeField()
    kind = models.CharField(max_length=8)
    a = models.FloatField()
    b = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]
        indexes = [models.Index(fields=["instrument", "kind", "-id"])]

    def __str__(self) -> str:
        return f"{self.kind} {self.a:g}"


class Forecast(models.Model):
    """The last forecast that came for a water, kept for when the service is silent."""

    water = models.OneToOneField(Water, on_delete=models.CASCADE, related_name="forecast")
    fetched_at = models.DateTimeField()
    hours = models.JSONField()

    def __str__(self) -> str:
        return f"forecast of {self.fetched_at:%Y-%m-%d %H:%M}"
