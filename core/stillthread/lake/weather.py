"""Hours of weather as a lake needs them: what was told, and in its place what such a place usually has, with its doubt."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta, timezone

import numpy as np

from stillthread.errors import BadInput, FloatArray
from stillthread.lake.model import AIR_C, CLOUD, INFLOW, INFLOW_C, LONG, OUTLET, PRESSURE, SHORT, VAPOUR, WEATHER_N, WIND
from stillthread.sourced import Sourced
from stillthread.water.oxygen import standard_pressure_atm
from stillthread.water.seasonal import Lake, northern_day
from stillthread.weather.sun import Place

MOST_HOURS = 24 * 800  # ours: a bound, two seasons and a winter
BRIDGED_H = 6  # ours: over so short a gap a value runs straight

CLEAR_WM2, CLEAR_LOST = Sourced(1098.0, "W/m2", "haurwitz-1945", "a clear sky with the sun overhead"), 0.057
CLOUD_TAKES, CLOUD_POWER = Sourced(0.75, "1", "kasten-czeplak-1980", "share of it that a whole cover of cloud takes"), 3.4

MEAN_AIR_C, MEAN_CPDEG2 = Sourced(26.0, "C", "ours", "mean of the year on the equator by the sea"), 0.0066
YEAR_C_PER_DEG = 0.20  # ours: how far summer and winter are from that mean, for each degree from the equator
COOLER_CPM = Sourced(0.0065, "C/m", "us-standard-atmosphere-1976", "air, with height")
WARMEST_DAY, DAY_SWING_C, WARMEST_H = 200.0, 4.0, 15.0  # ours: late July; half of a day's range; mid-afternoon
# These are ours, in effect: of changing wind its cube counts, of changing cloud a high power.
USUAL_HUMIDITY, USUAL_WIND_MPS, USUAL_CLOUD = 0.75, 4.2, 0.73
TOLD_DOUBT_C, USUAL_DOUBT_C = 0.6, 3.5  # ours: how far the air over the water is from what a service tells, and from usual

STREAM_LEAST_C, STREAM_MOST_C = 0.8, 26.0  # mohseni-1998: a stream by the air over it, an S between these,
STREAM_MIDDLE_C, STREAM_STEEP = 13.3, 0.18  # mohseni-1998: middle of it and how steep it is there

WEATHER_NAMES = (
    "air_c", "humidity", "wind_mps", "cloud", "short_wm2", "long_wm2", "pressure_hpa", "inflow_m3s", "inflow_c", "outlet_m",
    "drawn_down_m",
)  # fmt: skip
STANDING = ("inflow_m3s", "outlet_m", "drawn_down_m")
"""What stays as it was told until it is told anew: somebody reads a gauge now and then."""


@dataclass(kw_only=True, frozen=True, slots=True)
class Weather:
    """Weather at each whole hour from `start` on, a column (h,) of each of `WEATHER_NAMES`; nan where it was not told.

    Air [C], humidity and cloud 0 to 1, wind [m/s], sunlight and long wave that come down [W/m2], pressure [hPa]. Of a water
    that something flows through: what comes in [m3/s] and how warm it is [C], how deep the outlet lies [m], else it runs over,
    and how far the level stands below full [m].
    """

    start: datetime
    columns: dict[str, FloatArray] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if self.start.tzinfo is None:
            raise BadInput("A time needs its time zone.", field="start")
        if len(self) > MOST_HOURS:
            raise BadInput(f"Weather of more than {MOST_HOURS} hours is not carried at once.", field="hours")

    def __len__(self) -> int:
        return max((len(column) for column in self.columns.values()), default=0)

    def between(self, begin: datetime, end: datetime) -> Weather:
        """Return the hours from `begin` to before `end`, nan where there are none here."""
        hours = max(round((end - begin) / timedelta(hours=1)), 0)
        offset = round((begin - self.start) / timedelta(hours=1))
        cut = {}
        for name, column in self.columns.items():
            values = np.full(hours, np.nan)
            first, last = max(offset, 0), min(offset + hours, len(column))
            if last > first:
                values[first - offset : last - offset] = column[first:last]
            cut[name] = values
        return Weather(start=begin, columns=cut or {"air_c": np.full(hours, np.nan)})


def standing(weather: Weather) -> Weather:
    """Return weather in which a level or a flow stays as it was told until it is told anew."""
    columns = dict(weather.columns)
    for name in STANDING:
        column = columns.get(name)
        if column is not None and not np.isnan(column).all():
            last = np.maximum.accumulate(np.where(np.isnan(column), -1, np.arange(len(column))))
            columns[name] = np.where(last < 0, np.nan, column[np.maximum(last, 0)])
    return Weather(start=weather.start, columns=columns)


def drawn_down_m(weather: Weather) -> float:
    """Return how far below full the level stands over these hours [m]: full where nobody told."""
    told = weather.columns.get("drawn_down_m", np.full(1, np.nan))
    return 0.0 if np.isnan(told).all() else float(np.nanmean(told))


def stream_c(air_c: FloatArray) -> FloatArray:
    """Return how warm a stream is by the air over it [C] (mohseni-1998)."""
    rise = 1.0 / (1.0 + np.exp(STREAM_STEEP * (STREAM_MIDDLE_C - air_c)))
    return np.asarray(STREAM_LEAST_C + (STREAM_MOST_C - STREAM_LEAST_C) * rise)


def weather_of(rows: Sequence[tuple[datetime, dict[str, float | None]]]) -> Weather:
    """Return weather from rows in any order, each an hour with what was told of it; a later row of an hour wins."""
    if not rows:
        raise BadInput("There is no hour of weather.", field="hours")
    start = min(at for at, _ in rows).astimezone(timezone.utc).replace(minute=0, second=0, microsecond=0)
    hours = [round((at - start) / timedelta(hours=1)) for at, _ in rows]
    columns = {name: np.full(max(hours) + 1, np.nan) for name in WEATHER_NAMES}
    for hour, (_, values) in zip(hours, rows, strict=True):
        for name, value in values.items():
            if value is not None:
                columns[name][hour] = value
    return Weather(start=start, columns=columns)


def hour_angles(place: Place, start: datetime, hours: int) -> tuple[FloatArray, FloatArray]:
    """Return the sine of the sun's height in the middle of each hour, and the sun's time of day [h], (h,) each.

    References
    ----------
    spencer-1971, within half a degree of an almanac: for heat, not for the light that fish see.
    """
    at = start.astimezone(timezone.utc)
    first = at.timetuple().tm_yday - 1 + (at.hour + at.minute / 60.0) / 24.0
    day = first + (np.arange(hours) + 0.5) / 24.0
    g = 2.0 * math.pi * day / 365.25
    declination = (
        0.006918 - 0.399912 * np.cos(g) + 0.070257 * np.sin(g) - 0.006758 * np.cos(2 * g) + 0.000907 * np.sin(2 * g)
        - 0.002697 * np.cos(3 * g) + 0.00148 * np.sin(3 * g)
    )  # fmt: skip
    late_min = 229.18 * (
        0.000075 + 0.001868 * np.cos(g) - 0.032077 * np.sin(g) - 0.014615 * np.cos(2 * g) - 0.04089 * np.sin(2 * g)
    )
    sun_h = (24.0 * day + place.longitude_deg / 15.0 + late_min / 60.0) % 24.0
    latitude = math.radians(place.latitude_deg)
    turn = np.pi * (sun_h - 12.0) / 12.0
    height = math.sin(latitude) * np.sin(declination) + math.cos(latitude) * np.cos(declination) * np.cos(turn)
    return np.asarray(height), np.asarray(sun_h)


def sunlight_wm2(height: FloatArray, cloud: FloatArray) -> FloatArray:
    """Return the sunlight that comes down [W/m2] by the sine of the sun's height and the share of cloud (haurwitz-1945,
    kasten-czeplak-1980)."""
    up = np.maximum(height, 1e-3)
    clear = float(CLEAR_WM2) * up * np.exp(-CLEAR_LOST / up)
    return np.where(height > 0.0, clear * (1.0 - float(CLOUD_TAKES) * np.power(cloud, CLOUD_POWER)), 0.0)


def usual_air_c(lake: Lake, start: datetime, sun_h: FloatArray) -> FloatArray:
    """Return what the air usually is at such a place at each hour [C]; ours, a rule of thumb with `USUAL_DOUBT_C`."""
    degrees = abs(lake.latitude_deg)
    mean = float(MEAN_AIR_C) - MEAN_CPDEG2 * degrees**2 - float(COOLER_CPM) * max(lake.altitude_m, 0.0)
    day = northern_day(lake.latitude_deg, start.date()) + np.arange(len(sun_h)) / 24.0
    season = YEAR_C_PER_DEG * degrees * np.cos(2.0 * math.pi * (day - WARMEST_DAY) / 365.25)
    return np.asarray(mean + season + DAY_SWING_C * np.cos(2.0 * math.pi * (sun_h - WARMEST_H) / 24.0))


def filled_hours(weather: Weather, lake: Lake, place: Place) -> tuple[FloatArray, FloatArray]:
    """Return the hours as the lake is carried on by them, (h, WEATHER_N), and the doubt of each hour's air [C], (h,).

    A gap of a few hours is bridged; over longer ones stands what is usual, and its doubt. Sunlight that nobody measured is the
    sky's; the sky's long wave is left to the lake where nobody measured it.
    """
    hours = len(weather)
    told = {name: _bridged(weather.columns.get(name, np.full(hours, np.nan)), hours) for name in WEATHER_NAMES}
    height, sun_h = hour_angles(place, weather.start, hours)
    usual = usual_air_c(lake, weather.start, sun_h)
    air = told["air_c"]
    doubt = np.where(np.isnan(air), USUAL_DOUBT_C, TOLD_DOUBT_C)
    air = np.where(np.isnan(air), usual, air)
    cloud = np.clip(_or(told["cloud"], USUAL_CLOUD), 0.0, 1.0)
    found = np.empty((hours, WEATHER_N))
    found[:, SHORT] = np.where(np.isnan(told["short_wm2"]), sunlight_wm2(height, cloud), told["short_wm2"])
    found[:, LONG] = told["long_wm2"]
    found[:, AIR_C] = air
    found[:, VAPOUR] = np.clip(_or(told["humidity"], USUAL_HUMIDITY), 0.05, 1.0) * 6.112 * np.exp(17.67 * air / (air + 243.5))
    found[:, WIND] = _or(told["wind_mps"], USUAL_WIND_MPS)
    found[:, CLOUD] = cloud
    found[:, PRESSURE] = _or(told["pressure_hpa"], 1013.25 * standard_pressure_atm(lake.altitude_m))
    found[:, INFLOW] = _or(told["inflow_m3s"], 0.0)
    # Of the air of these hours together: a stream is slower than the air.
    found[:, INFLOW_C] = np.where(np.isnan(told["inflow_c"]), stream_c(np.full(hours, air.mean())), told["inflow_c"])
    found[:, OUTLET] = _or(told["outlet_m"], 0.0)
    return found, doubt


def _or(values: FloatArray, usual: float) -> FloatArray:
    return np.where(np.isnan(values), usual, values)


def _bridged(values: FloatArray, hours: int) -> FloatArray:
    """Return a column of this length with its short gaps bridged by a straight run."""
    whole = np.full(hours, np.nan)
    whole[: len(values)] = values
    known = np.flatnonzero(~np.isnan(whole))
    if len(known) < 2:
        return whole
    at = np.arange(hours)
    straight = np.interp(at, known, whole[known])
    after = np.searchsorted(known, at)
    inside = (after > 0) & (after < len(known))
    gap = known[np.minimum(after, len(known) - 1)] - known[np.maximum(after - 1, 0)]
    return np.where(np.isnan(whole) & inside & (gap <= BRIDGED_H), straight, whole)
