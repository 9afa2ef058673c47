"""Routes: a place as it was written, and the clock that is kept there."""

from __future__ import annotations

from typing import Annotated, Any

import tzfpy
from common.problems import Problem
from django.http import HttpRequest
from ninja import Query, Router, Schema

from stillthread.api import MOST_LETTERS, read_place, written

router = Router(tags=["waters"])


class PlaceOut(Schema):
    """Degrees, south and west negative; `altitude_m` [m] where the writing gave it; `written` in degrees and minutes."""

    latitude_deg: float
    longitude_deg: float
    altitude_m: float | None
    time_zone: str
    written: str


@router.get("/place", operation_id="read_place", response={200: PlaceOut, 422: Problem})
def get_place(request: HttpRequest, text: Annotated[str, Query(max_length=MOST_LETTERS)]) -> dict[str, Any]:
    """Read a place from any usual writing of coordinates, and find its time zone."""
    place = read_place(text)
    return {
        "latitude_deg": place.latitude_deg,
        "longitude_deg": place.longitude_deg,
        "altitude_m": place.altitude_m,
        "time_zone": time_zone_at(place.latitude_deg, place.longitude_deg),
        "written": written(place),
    }


def time_zone_at(latitude_deg: float, longitude_deg: float) -> str:
    """Return the name of the time zone kept at a place, out at sea that of its meridian."""
    return tzfpy.get_tz(longitude_deg, latitude_deg) or "UTC"
