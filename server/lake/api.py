"""The lake behind a water: brought up to date, shown over the year, and told of by a weather station."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any, Literal

from common.job_limiter import jobs
from common.problems import Problem
from common.throttles import AtMost
from django.http import HttpRequest
from ninja import File, Router, Schema, UploadedFile

from accounts.people import person
from lake import services
from stillthread.api import WEATHER_CSV_MOST_BYTES, BadFile
from waters.services import water_of

router = Router(tags=["lake"])
OFTEN = AtMost("120/h", group="lake")


class LakeStateOut(Schema):
    """Whether the water's lake is worked out, and why its weather did not come, where it did not."""

    state: Literal["fresh", "absent"]
    why: str


class LakeDayOut(Schema):
    """The lake at the end of a day (UTC): temperatures, with one standard deviation, at `depth_m` of the year; the depths
    of the thermocline and where oxygen falls below what trout live in; ice. `ahead` for days that are forecast."""

    on: date
    ahead: bool
    water_c: list[float]
    spread_c: list[float]
    thermocline_m: float | None
    oxygen_limit_m: float | None
    ice_m: float
    ice_share: float
    wind_mps: float | None


class LakeReadingOut(Schema):
    at: datetime
    depth_m: float
    water_c: float


class LakeChangeOut(Schema):
    text: str
    values: dict[str, float]


class LakeYearOut(Schema):
    """The season since the lake was last mixed, and the days ahead; `changed` says what happened of late."""

    depth_m: list[float]
    days: list[LakeDayOut]
    readings: list[LakeReadingOut]
    changed: LakeChangeOut | None


class WeatherFileOut(Schema):
    """Of how many days a station's log told, from which day on, what of the weather, and what was left out of it."""

    days: int
    first: date
    quantities: list[str]
    notes: list[str]


@router.post(
    "/waters/{water_id}/lake", operation_id="bring_up_lake", throttle=OFTEN, response={200: LakeStateOut, 404: Problem}
)
def bring_up_lake(request: HttpRequest, water_id: int) -> dict[str, Any]:
    """Fetch what is new of the weather over a water, and carry its lake on by it."""
    owner = person(request)
    water = water_of(owner, water_id)
    return jobs.do(owner.pk, ("lake", water_id), lambda: services.bring_up(water))


@router.get("/waters/{water_id}/lake-year", operation_id="get_lake_year", response={200: LakeYearOut, 404: Problem})
def get_lake_year(request: HttpRequest, water_id: int) -> dict[str, Any]:
    """Show the lake through the season so far and some days ahead."""
    return services.year_of(water_of(person(request), water_id))


@router.post(
    "/waters/{water_id}/weather-files",
    operation_id="create_weather_file",
    throttle=OFTEN,
    response={200: WeatherFileOut, 404: Problem, 422: Problem},
)
def create_weather_file(request: HttpRequest, water_id: int, file: File[UploadedFile]) -> dict[str, Any]:
    """Take over a weather station's log (CSV, at most 20 MB): a column of time, and columns with their units in their names."""
    owner = person(request)
    water = water_of(owner, water_id)
    if (file.size or 0) > WEATHER_CSV_MOST_BYTES:
        raise BadFile(f"The file is larger than {WEATHER_CSV_MOST_BYTES // 1_000_000} MB. Split it by years.", field="weather")
    return jobs.do(owner.pk, object(), lambda: services.take_weather(water, file.read()))
