"""The day strip: hour by hour how bright it is, what is likely eaten, and how deep they likely feed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from stillthread.depth.picture import Conditions, WaterPicture, read_water
from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.weather.sun import SunTimes, sun_times

MOST_HOURS = 24
_LOW_LIGHT = 0.12  # ours: about the light of the last hour before a clear sunset
_CHANGE_M = 0.8  # ours: a layer has changed when the likeliest depth moves by this much


@dataclass(frozen=True, slots=True)
class Hour:
    """One hour: `band` (top, bottom) [m] is the likeliest, `mean_m` the mean feeding depth, `food_name` the likeliest food."""

    at: datetime
    brightness: float
    band: tuple[float, float]
    mean_m: float
    food_key: str
    food_name: str
    food_probability: float


@dataclass(frozen=True, slots=True)
class Forecast:
    """What is expected at one hour: `cloud_fraction` 0 to 1, `wind_speed_ms` [m/s]."""

    at: datetime
    cloud_fraction: float
    wind_speed_ms: float


@dataclass(frozen=True, slots=True)
class DayStrip:
    """The hours from first to last light, the times of the sun (None where it does not rise or set), and what to watch."""

    hours: tuple[Hour, ...]
    sun: SunTimes
    low_light: tuple[tuple[datetime, datetime], ...]
    notes: tuple[Phrase, ...]


def day_strip(conditions: Conditions, forecast: Sequence[Forecast] = ()) -> DayStrip:
    """Return the day of `conditions`, hour by hour.

    Sky and wind are those of the nearest forecast hour, or stay as given; temperature stays as read. It is blind to
    hatches that start by the clock and to fronts.

    Raises
    ------
    BadInput
        More than 48 hours of forecast, or one without its time zone.
    """
    if len(forecast) > 48 or any(one.at.tzinfo is None for one in forecast):
        raise BadInput("A forecast holds at most 48 hours, each with its time zone.", field="forecast")
    midnight = conditions.at.replace(hour=0, minute=0, second=0, microsecond=0)
    sun = sun_times(conditions.place, conditions.at)
    first = sun.dawn or midnight + timedelta(hours=6)
    last = sun.dusk or midnight + timedelta(hours=22)
    if sun.always_up:
        first, last = midnight, midnight + timedelta(hours=23)
    hours: list[Hour] = []
    at = first.replace(minute=0, second=0, microsecond=0)
    while at <= last + timedelta(minutes=59) and len(hours) < MOST_HOURS:
        hours.append(_hour(read_water(_at(conditions, forecast, at))))
        at += timedelta(hours=1)
    return DayStrip(tuple(hours), sun, _low_light(hours), _notes(hours))


def _at(conditions: Conditions, forecast: Sequence[Forecast], at: datetime) -> Conditions:
    moved = replace(conditions, at=at)
    if not forecast:
        return moved
    near = min(forecast, key=lambda one: abs((one.at - at).total_seconds()))
    if abs((near.at - at).total_seconds()) > 5400.0:
        return moved
    return replace(moved, cloud_fraction=near.cloud_fraction, wind=replace(conditions.wind, speed_ms=near.wind_speed_ms))


def _hour(picture: WaterPicture) -> Hour:
    best = picture.foods.chances[0]
    return Hour(
        picture.conditions.at, picture.brightness, picture.belief.main_band, picture.belief.mean_m,
        best.food.key, best.food.name, best.probability,
    )  # fmt: skip


def _low_light(hours: Sequence[Hour]) -> tuple[tuple[datetime, datetime], ...]:
    """Return the runs of hours in which the light is low but there is some."""
    runs: list[tuple[datetime, datetime]] = []
    for hour in hours:
        if hour.brightness > _LOW_LIGHT:
            continue
        end = hour.at + timedelta(hours=1)
        if runs and runs[-1][1] == hour.at:
            runs[-1] = (runs[-1][0], end)
        else:
            runs.append((hour.at, end))
    return tuple(runs)


def _notes(hours: Sequence[Hour]) -> tuple[Phrase, ...]:
    """Return when to change layer: where the mean depth has moved far since the last change."""
    notes: list[Phrase] = []
    last = hours[0]
    for hour in hours[1:]:
        if abs(hour.mean_m - last.mean_m) < _CHANGE_M:
            continue
        way = "deeper" if hour.mean_m > last.mean_m else "higher"
        notes.append(
            Phrase(
                f"From about {hour.at:%H:%M} {way}: round {{mean_m}} instead of {{last_m}}.",
                {"mean_m": hour.mean_m, "last_m": last.mean_m},
            )
        )
        last = hour
    return tuple(notes[:4])
