"""The day strip: hour by hour how bright it is, what is likely eaten, and how deep they likely feed."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from stillthread.depth.picture import Conditions, WaterPicture, read_water
from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.ranges import WATER_C
from stillthread.sourced import Sourced
from stillthread.water.expected import ExpectedColumn
from stillthread.water.reading import Reading
from stillthread.weather.effects import compass_word
from stillthread.weather.sun import SunTimes, sun_times
from stillthread.weather.wind import Wind

MOST_HOURS = 24  # ours: a day
_LOW_LIGHT = 0.12  # ours: about the light of the last hour before a clear sunset
TOP_M = 1.0  # ours: so deep the day's sun is felt by evening
MOST_FORECAST_H = 48  # ours: two days
NEAR_S = 5400.0  # ours: an hour of a forecast speaks for this long before and after
NO_DAWN_H, NO_DUSK_H = 6, 22  # ours: the day where the sun does not tell
CLOUD_FLATTENS, WIND_HALVES_MPS = 0.65, 5.0  # ours: of the day's swing
TURN_MPS, MOST_NOTES = 1.5, 4  # ours: a lighter wind's turn is not worth a word
TURN_DEG = 50.0  # ours: two compass points and more
WARMEST_HOUR = 16.0  # ours: when still water is usually warmest at the top
DAY_SWING_C = Sourced(2.4, "C", "common-practice", "the top gains a degree or two by mid-morning; calm and clear")
_CHANGE_M = 0.8  # ours: a layer has changed when the likeliest depth moves by this much


@dataclass(kw_only=True, frozen=True, slots=True)
class Hour:
    """One hour: `band` (top, bottom) [m] is the likeliest, `mean_m` the mean feeding depth, `food_name` the likeliest food;
    `surface_c` [C] is a guess at how the sun warms the top through the day, starting from what was read."""

    at: datetime
    brightness: float
    band: tuple[float, float]
    mean_m: float
    food_key: str
    food_name: str
    food_probability: float
    wind: Wind
    cloud_fraction: float
    surface_c: float
    air_c: float | None


@dataclass(frozen=True, slots=True)
class Forecast:
    """What is expected at one hour: `cloud_fraction` 0 to 1, `wind_speed_mps` [m/s], where from [deg] and air [C] if told."""

    at: datetime
    cloud_fraction: float
    wind_speed_mps: float
    wind_from_deg: float | None = None
    air_c: float | None = None


@dataclass(frozen=True, slots=True)
class DayStrip:
    """The hours from first to last light, the times of the sun (None where it does not rise or set), and what to watch."""

    hours: tuple[Hour, ...]
    sun: SunTimes
    low_light: tuple[tuple[datetime, datetime], ...]
    notes: tuple[Phrase, ...]


def day_strip(
    conditions: Conditions,
    forecast: Sequence[Forecast] = (),
    column_at: Callable[[datetime], ExpectedColumn | None] | None = None,
) -> DayStrip:
    """Return the day of `conditions`, hour by hour.

    Sky and wind are those of the nearest forecast hour, or stay as given. Where a lake stands behind the water, `column_at` an
    hour says what its weather makes of it by then, and what was read at the top goes with that; else the temperature stays as
    read. It is blind to hatches that start by the clock and to fronts.

    Raises
    ------
    BadInput
        More than 48 hours of forecast, or one without its time zone.
    """
    if len(forecast) > MOST_FORECAST_H or any(one.at.tzinfo is None for one in forecast):
        raise BadInput("A forecast holds at most 48 hours, each with its time zone.", field="forecast")
    midnight = conditions.at.replace(hour=0, minute=0, second=0, microsecond=0)
    sun = sun_times(conditions.place, conditions.at)
    first = sun.dawn or midnight + timedelta(hours=NO_DAWN_H)
    last = sun.dusk or midnight + timedelta(hours=NO_DUSK_H)
    if sun.always_up:
        first, last = midnight, midnight + timedelta(hours=23)
    hours: list[Hour] = []
    at = first.replace(minute=0, second=0, microsecond=0)
    while at <= last + timedelta(minutes=59) and len(hours) < MOST_HOURS:
        moved = _at(conditions, forecast, at)
        carried = _carried(moved, column_at(at)) if column_at is not None else None
        near = _near(forecast, at)
        surface_c = _surface_c(conditions, moved) if carried is None else min(carried.readings, key=lambda r: r.depth_m).water_c
        hours.append(_hour(read_water(carried or moved), surface_c, near.air_c if near else None))
        at += timedelta(hours=1)
    return DayStrip(tuple(hours), sun, _low_light(hours), _notes(hours))


def _near(forecast: Sequence[Forecast], at: datetime) -> Forecast | None:
    """Return the hour of a forecast that speaks for a time, or None when none is near enough."""
    near = min(forecast, key=lambda one: abs((one.at - at).total_seconds()), default=None)
    return near if near is not None and abs((near.at - at).total_seconds()) <= NEAR_S else None


def _at(conditions: Conditions, forecast: Sequence[Forecast], at: datetime) -> Conditions:
    moved = replace(conditions, at=at)
    near = _near(forecast, at)
    if near is None:
        return moved
    turned = conditions.wind.from_deg if near.wind_from_deg is None else near.wind_from_deg
    return replace(moved, cloud_fraction=near.cloud_fraction, wind=Wind(near.wind_speed_mps, turned))


def _carried(moved: Conditions, then: ExpectedColumn | None) -> Conditions | None:
    """Return the conditions as the lake's weather has them by then: what was read near the top warms and cools with it."""
    now = moved.expected
    if now is None or then is None:
        return None

    def by_then(one: Reading) -> Reading:
        if one.depth_m > TOP_M:
            return one
        by_c = then.band_c(one.depth_m)[0] - now.band_c(one.depth_m)[0]
        return replace(one, water_c=min(max(one.water_c + by_c, WATER_C.low), WATER_C.high))

    return replace(moved, expected=then, readings=tuple(by_then(one) for one in moved.readings))


def _surface_c(conditions: Conditions, moved: Conditions) -> float:
    """Return a guess at the surface temperature [C] at another hour: the sun warms it, cloud and wind flatten the swing."""
    read_c = min(conditions.readings, key=lambda r: r.depth_m).water_c
    swing = float(DAY_SWING_C) * (1.0 - CLOUD_FLATTENS * moved.cloud_fraction) / (1.0 + moved.wind.speed_mps / WIND_HALVES_MPS)
    return max(read_c + 0.5 * swing * (_warmth(moved.at) - _warmth(conditions.at)), 0.0)


def _warmth(at: datetime) -> float:
    return math.cos(2.0 * math.pi * (at.hour + at.minute / 60.0 - WARMEST_HOUR) / 24.0)


def _hour(picture: WaterPicture, surface_c: float, air_c: float | None) -> Hour:
    best, given = picture.foods.chances[0], picture.conditions
    return Hour(
        at=given.at,
        brightness=picture.brightness,
        band=picture.belief.main_band,
        mean_m=picture.belief.mean_m,
        food_key=best.food.key,
        food_name=best.food.name,
        food_probability=best.probability,
        wind=given.wind,
        cloud_fraction=given.cloud_fraction,
        surface_c=surface_c,
        air_c=air_c,
    )


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
    return (*notes[:MOST_NOTES], *_turns(hours))


def _turns(hours: Sequence[Hour]) -> tuple[Phrase, ...]:
    """Return when a wind worth the name has turned far enough to change which shore it blows onto."""
    notes: list[Phrase] = []
    last = hours[0]
    for hour in hours[1:]:
        off = abs((hour.wind.from_deg - last.wind.from_deg + 180.0) % 360.0 - 180.0)
        if off < TURN_DEG or hour.wind.speed_mps < TURN_MPS:
            continue
        text = (
            f"About {hour.at:%H:%M} the wind has turned to {compass_word(hour.wind.from_deg)}: food gathers on another shore."
        )
        notes.append(Phrase(text))
        last = hour
    return tuple(notes[:2])
