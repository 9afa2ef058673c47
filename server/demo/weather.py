"""The weather over the demo's waters, as the stand-in service would tell of it."""

from __future__ import annotations

from datetime import datetime, timedelta, timezone

import numpy as np
from django.utils import timezone as clock
from lake.models import Asked, WeatherDay
from lake.weather import AHEAD, keep

from standins.sea import Weather as Invented
from stillthread.api import WEATHER_NAMES, Weather
from waters.models import Water

TOLD_D = 420  # a season, and the one before


def keep_weather(water: Water, *, now: datetime | None = None) -> None:
    """Store a year and some days to come, so that the lake is there without a service."""
    now = now or clock.now()
    start = (now - timedelta(days=TOLD_D)).astimezone(timezone.utc).replace(hour=0, minute=0, second=0, microsecond=0)
    invented = Invented(water.latitude_deg, water.altitude_m).between(start, now + AHEAD)
    columns = {name: np.array(invented[name], dtype=np.float64) for name in WEATHER_NAMES if name in invented}
    keep(water, WeatherDay.SERVICE, Weather(start=start, columns=columns))
    Asked.objects.update_or_create(water=water, defaults={"at": now, "why": ""})
