"""A weather service's hours as JSON: read, checked, and nothing taken on trust."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from stillthread.errors import BadFile, StillthreadError
from stillthread.ranges import AIR_C, FORECAST_WIND_MPS, PRESSURE_HPA, SHARE, WIND_FROM_DEG

MOST_BYTES = 1_000_000  # ours: a bound
MOST_HOURS = 240  # ours: ten days


@dataclass(kw_only=True, frozen=True, slots=True)
class ForecastHour:
    """What is expected at `at` (with its time zone): wind [m/s, deg], cloud 0 to 1, and air [C] and pressure [hPa] if told."""

    at: datetime
    wind_speed_mps: float
    wind_from_deg: float
    cloud_fraction: float
    air_c: float | None = None
    pressure_hpa: float | None = None

    def __post_init__(self) -> None:
        if self.at.tzinfo is None:
            raise BadFile(f"The hour {self.at:%Y-%m-%d %H:%M} has no time zone.", field="forecast")
        FORECAST_WIND_MPS.check("wind_speed_mps", self.wind_speed_mps)
        WIND_FROM_DEG.check("wind_from_deg", self.wind_from_deg)
        SHARE.check("cloud_fraction", self.cloud_fraction)
        if self.air_c is not None:
            AIR_C.check("air_c", self.air_c)
        if self.pressure_hpa is not None:
            PRESSURE_HPA.check("pressure_hpa", self.pressure_hpa)


def read_forecast_json(data: bytes) -> tuple[ForecastHour, ...]:
    """Return the hours of a forecast, in order of time.

    The text is an object with a list `hours`; each has `at` (ISO 8601 with its zone), `wind_speed_mps`, `wind_from_deg`,
    `cloud_fraction`, and may have `air_c` and `pressure_hpa`.

    Raises
    ------
    BadFile
        Not such an object, no hour in it, or an hour with a value that is missing or can't be; the message names it.
    """
    if len(data) > MOST_BYTES:
        raise BadFile("The forecast is larger than 1 MB.", field="forecast")
    try:
        found = json.loads(data)
        hours = found["hours"]
        if not isinstance(hours, list) or not hours:
            raise ValueError
    except (ValueError, KeyError, TypeError, RecursionError):
        raise BadFile("The weather service's answer is no forecast: a list of hours is needed.", field="forecast") from None
    if len(hours) > MOST_HOURS:
        raise BadFile(f"The forecast holds more than {MOST_HOURS} hours.", field="forecast")
    return tuple(sorted((_hour(hour, i) for i, hour in enumerate(hours, 1)), key=lambda hour: hour.at))


def _hour(hour: Mapping[str, Any], number: int) -> ForecastHour:
    def optional(name: str) -> float | None:
        return None if hour.get(name) is None else float(hour[name])

    try:
        return ForecastHour(
            at=datetime.fromisoformat(hour["at"]),
            wind_speed_mps=float(hour["wind_speed_mps"]),
            wind_from_deg=float(hour["wind_from_deg"]),
            cloud_fraction=float(hour["cloud_fraction"]),
            air_c=optional("air_c"),
            pressure_hpa=optional("pressure_hpa"),
        )
    except StillthreadError as error:
        raise BadFile(f"Hour {number} of the forecast: {error.message}", field="forecast") from None
    except (KeyError, TypeError, ValueError, AttributeError):
        raise BadFile(f"Hour {number} of the forecast lacks a value or has one that is no number.", field="forecast") from None
