"""Past and coming weather of a place as JSON, a list for each quantity: read, checked, and nothing taken on trust."""

from __future__ import annotations

import json
import math
from datetime import datetime, timezone
from typing import Any

import numpy as np

from stillthread.errors import BadFile, FloatArray
from stillthread.lake.weather import MOST_HOURS, WEATHER_NAMES, Weather
from stillthread.ranges import AIR_C, FORECAST_WIND_MPS, PRESSURE_HPA, SHARE, Range

MOST_BYTES = 4_000_000  # ours: a bound
RADIATION_WM2 = Range(0.0, 1500.0, "W/m2")  # ours: no sky lets down more
FLOW_M3S, INFLOW_C, OUTLET_M = Range(0.0, 500.0, "m3/s"), Range(0.0, 35.0, "C"), Range(0.0, 100.0, "m")  # ours: bounds
WEATHER_LIMITS = {
    "air_c": AIR_C, "humidity": SHARE, "wind_mps": FORECAST_WIND_MPS, "cloud": SHARE, "short_wm2": RADIATION_WM2,
    "long_wm2": RADIATION_WM2, "pressure_hpa": PRESSURE_HPA, "inflow_m3s": FLOW_M3S, "inflow_c": INFLOW_C,
    "outlet_m": OUTLET_M, "drawn_down_m": OUTLET_M,
}  # fmt: skip


def read_weather_json(data: bytes) -> Weather:
    """Return the weather that a service tells of: `start` (ISO 8601 with its zone), and lists by the hour of `WEATHER_NAMES`.

    Raises
    ------
    BadFile
        Not such an object, or a value that can't be: the message names it. A null is an hour that was not told.
    """
    if len(data) > MOST_BYTES:
        raise BadFile(f"The weather is larger than {MOST_BYTES // 1_000_000} MB.", field="weather")
    try:
        found = json.loads(data)
        start = datetime.fromisoformat(found["start"])
        columns = {name: list(found[name]) for name in WEATHER_NAMES if found.get(name) is not None}
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        raise BadFile(
            "The weather service's answer is no weather: a start and lists by the hour are needed.", field="weather"
        ) from None
    if start.tzinfo is None:
        raise BadFile("The weather's start has no time zone.", field="weather")
    if not columns or max(len(column) for column in columns.values()) > MOST_HOURS:
        raise BadFile(f"The weather holds no hour, or more than {MOST_HOURS}.", field="weather")
    start = start.astimezone(timezone.utc)
    if start.minute or start.second:
        raise BadFile("The weather does not begin at a whole hour.", field="weather")
    return Weather(start=start, columns={name: _checked(name, column) for name, column in columns.items()})


def _checked(name: str, column: list[Any]) -> FloatArray:
    values = np.full(len(column), np.nan)
    for hour, value in enumerate(column):
        if value is None:
            continue
        if (
            isinstance(value, bool)
            or not isinstance(value, int | float)
            or not math.isfinite(value)
            or not WEATHER_LIMITS[name].holds(value)
        ):
            raise BadFile(f"Hour {hour + 1} of {name} is {str(value)[:20]}, which can't be.", field="weather")
        values[hour] = value
    return values
