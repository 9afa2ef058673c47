"""Weather over a water: fetched from the service, taken from a station's file, and given as one."""

from __future__ import annotations

import http.client
import math
from datetime import date, datetime, timedelta, timezone
from typing import Any
from urllib.error import URLError
from urllib.parse import urlencode
from urllib.request import urlopen
from zoneinfo import ZoneInfo

import numpy as np
from django.conf import settings
from django.db import transaction
from django.utils import timezone as clock

from lake.models import Asked, WeatherDay
from stillthread.api import (
    STANDING,
    WEATHER_NAMES,
    BadFile,
    StillthreadError,
    Weather,
    read_weather_csv,
    read_weather_json,
    standing,
)
from waters.models import Water

FRESH = timedelta(hours=1)
AHEAD = timedelta(days=10)
TIMEOUT_S = 4.0
MOST_BYTES = 4_000_001
KEPT_D = 800  # days of the service's weather: it can be asked for again. What a station told is its owner's, and stays
MOST_STATION_DAYS = 3650
TELLS_AHEAD = timedelta(days=1)  # a station's clock may be of another zone; what lies further ahead was not measured


def ask_service(water: Water, since: datetime, now: datetime) -> str:
    """Fetch what the service knows of a water from `since` to days ahead, unless that was just done; return why not, or ""."""
    asked = Asked.objects.filter(water=water).first()
    if asked is not None and now - asked.at < FRESH:
        return asked.why
    newest = WeatherDay.objects.filter(water=water, source=WeatherDay.SERVICE, on__lt=now.date()).order_by("-on").first()
    oldest = WeatherDay.objects.filter(water=water, source=WeatherDay.SERVICE).order_by("on").first()
    # What was told of days that have passed is not asked for again, but for the last, which was half to come.
    whole = newest is not None and oldest is not None and oldest.on <= since.date()
    begin = datetime.combine(newest.on, datetime.min.time(), timezone.utc) if whole and newest else since
    why = ""
    try:
        weather = _fetched(water, begin, now + AHEAD)
    except StillthreadError as error:
        why = error.message
    except (URLError, OSError, http.client.HTTPException):
        why = "The weather service does not answer."
    else:
        keep(water, WeatherDay.SERVICE, weather)
    Asked.objects.update_or_create(water=water, defaults={"at": now, "why": why[:200]})
    return why


def _fetched(water: Water, begin: datetime, end: datetime) -> Weather:
    told = {
        "lat": round(water.latitude_deg, 2), "lon": round(water.longitude_deg, 2), "altitude_m": round(water.altitude_m),
        "from": f"{begin:%Y-%m-%d}", "to": f"{end:%Y-%m-%d}",
    }  # fmt: skip
    # The address is the keeper's own setting, never a person's input.
    with urlopen(f"{settings.WEATHER_URL}?{urlencode(told)}", timeout=TIMEOUT_S) as answer:  # noqa: S310
        return read_weather_json(answer.read(MOST_BYTES))


def keep(water: Water, source: str, weather: Weather) -> int:
    """Store weather by the day; return of how many. An hour that was told before stays where it is not told anew."""
    first = weather.start.astimezone(timezone.utc).date()
    last = (weather.start + timedelta(hours=max(len(weather) - 1, 0))).date()
    days = [first + timedelta(days=k) for k in range((last - first).days + 1)]
    with transaction.atomic():
        rows = []
        there = {row.on: row for row in WeatherDay.objects.filter(water=water, source=source, on__range=(first, last))}
        for on in days:
            midnight = datetime.combine(on, datetime.min.time(), timezone.utc)
            cut = weather.between(midnight, midnight + timedelta(days=1))
            hours = {name: [_rounded(v) for v in column] for name, column in cut.columns.items()}
            hours = {name: column for name, column in hours.items() if any(v is not None for v in column)}
            row = there.get(on)
            both = hours if row is None else _over(row.hours, hours)
            rows.append(WeatherDay(water=water, on=on, source=source, hours=both))
        WeatherDay.objects.bulk_create(
            rows, batch_size=100, update_conflicts=True, unique_fields=["water", "on", "source"], update_fields=["hours"]
        )
        old = clock.now().date() - timedelta(days=KEPT_D)
        WeatherDay.objects.filter(water=water, source=WeatherDay.SERVICE, on__lt=old).delete()
    return len(days)


def take_file(water: Water, data: bytes) -> dict[str, Any]:
    """Store what a weather station's log tells, and return what that was."""
    found = read_weather_csv(data, ZoneInfo(water.time_zone), clock.now() + TELLS_AHEAD)
    stored = WeatherDay.objects.filter(water=water, source=WeatherDay.STATION).count()
    if stored + len(found.weather) // 24 > MOST_STATION_DAYS:
        text = f"A water keeps {MOST_STATION_DAYS} days of a station, and has {stored}. Bring the newest alone."
        raise BadFile(text, field="weather")
    days = keep(water, WeatherDay.STATION, found.weather)
    told = [name for name in WEATHER_NAMES if name in found.weather.columns and not np.isnan(found.weather.columns[name]).all()]
    return {
        "days": days,
        "first": found.weather.start.astimezone(ZoneInfo(water.time_zone)).date(),
        "quantities": told,
        "notes": list(found.notes),
    }


def weather_over(water: Water, begin: date, end: date) -> tuple[Weather, dict[date, str]]:
    """Return the weather of whole days, what a station measured before what the service told, and a mark of each day's."""
    rows = WeatherDay.objects.filter(water=water, on__gte=begin, on__lt=end).order_by("source")
    by_day: dict[date, dict[str, list[float | None]]] = {}
    for row in rows:  # "service" comes before "station"
        by_day[row.on] = _over(by_day.get(row.on, {}), row.hours)
    hours = 24 * (end - begin).days
    columns = {name: np.full(hours, np.nan) for name in WEATHER_NAMES}
    for on, told in by_day.items():
        at = 24 * (on - begin).days
        for name, column in told.items():
            columns[name][at : at + 24] = [math.nan if v is None else v for v in column]
    for name, value in _stood(water, begin).items():
        if hours and math.isnan(columns[name][0]):
            columns[name][0] = value
    start = datetime.combine(begin, datetime.min.time(), timezone.utc)
    marks = {on: repr(sorted(told.items())) for on, told in by_day.items()}
    return standing(Weather(start=start, columns=columns)), marks


def _stood(water: Water, begin: date) -> dict[str, float]:
    """Return the level and the flow that were told last before a day, and stand still."""
    told = WeatherDay.objects.filter(water=water, source=WeatherDay.STATION, on__lt=begin, hours__has_any_keys=list(STANDING))
    found: dict[str, float] = {}
    for hours in told.order_by("-on").values_list("hours", flat=True)[: len(STANDING)]:
        for name in STANDING:
            values = [value for value in hours.get(name) or () if value is not None]
            if values:
                found.setdefault(name, values[-1])
    return found


def _over(below: dict[str, Any], above: dict[str, Any]) -> dict[str, Any]:
    both = {name: list(column) for name, column in below.items()}
    for name, column in above.items():
        under = both.get(name, [None] * 24)
        both[name] = [old if new is None else new for old, new in zip(under, column, strict=True)]
    return both


def _rounded(value: float) -> float | None:
    return None if math.isnan(value) else round(float(value), 3)
