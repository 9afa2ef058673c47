"""The day hour by hour, and the forecast that it follows."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from common.fields import within
from ninja import Field, Schema
from pydantic import AwareDatetime

from advice.condition_schemas import ConditionsIn
from advice.picture_schemas import PhraseOut
from stillthread.api import AIR_C, SHARE, WIND_FROM_DEG, WIND_MPS


class ForecastHourIn(Schema):
    at: AwareDatetime
    cloud_fraction: Annotated[float, within(SHARE)]
    wind_speed_mps: Annotated[float, within(WIND_MPS)]
    wind_from_deg: Annotated[float | None, within(WIND_FROM_DEG)] = None
    air_c: Annotated[float | None, within(AIR_C)] = None


class DayStripIn(Schema):
    """Sky and wind stay as given, or follow the nearest forecast hour."""

    conditions: ConditionsIn
    forecast: Annotated[list[ForecastHourIn], Field(max_length=48)] = []


class HourOut(Schema):
    """One hour; `top_m` to `bottom_m` is the likeliest band, `surface_c` a guess from what was read."""

    at: datetime
    clock: str
    brightness: float
    top_m: float
    bottom_m: float
    mean_m: float
    food_name: str
    food_probability: float
    wind_speed_mps: float
    wind_from_deg: float
    cloud_fraction: float
    surface_c: float
    air_c: float | None


class SpanOut(Schema):
    begins: str
    ends: str


class DayStripOut(Schema):
    """The day from first to last light; clock times at the water, null where the sun does not rise or set."""

    hours: list[HourOut]
    dawn: str | None
    sunrise: str | None
    sunset: str | None
    dusk: str | None
    low_light: list[SpanOut]
    notes: list[PhraseOut]
