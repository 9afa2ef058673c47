"""Routes: the chart of a water - outline, soundings, marks - and what it says of a place under a wind."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

import numpy as np
from common.fields import Name, Notes, within
from common.job_limiter import jobs
from common.paging import Limit, Offset, page
from common.problems import Problem
from common.throttles import AtMost
from django.http import HttpRequest, HttpResponse
from ninja import Field, File, Form, Router, Schema, Status, UploadedFile

from accounts.people import person
from stillthread.api import (
    CAST_M,
    LATITUDE_DEG,
    LONGITUDE_DEG,
    MARK_DEPTH_M,
    USUAL_CAST_M,
    WIND_FROM_DEG,
    WIND_MPS,
    BadFile,
    Wind,
)
from waters.chart_files import MOST_BYTES, geojson_of, gpx_of, take_chart_file
from waters.chart_serializers import shores, show_chart, show_section, show_standing
from waters.marks import mark_of, marks_of, save_mark
from waters.models import Mark, Survey
from waters.services import water_of
from waters.soundings import remove_survey, set_outline

router = Router(tags=["charts"])
DRAWINGS = AtMost("60/m", group="drawings")

Metres = Annotated[float, Field(ge=-200_000, le=200_000, allow_inf_nan=False)]


class WindIn(Schema):
    wind_speed_mps: Annotated[float, within(WIND_MPS)] = 4.0
    wind_from_deg: Annotated[float, within(WIND_FROM_DEG)] = 225.0


class OutlineIn(Schema):
    """Either a GeoJSON `geometry` in degrees, or a ring drawn on the chart, metres east and north; both null takes it away."""

    geometry: dict[str, Any] | None = None
    ring_m: Annotated[list[tuple[Metres, Metres]] | None, Field(min_length=3, max_length=2000)] = None


class MarkIn(Schema):
    name: Name
    kind_key: Annotated[str, Field(max_length=16)] = "peg"
    latitude_deg: Annotated[float, within(LATITUDE_DEG)]
    longitude_deg: Annotated[float, within(LONGITUDE_DEG)]
    depth_m: Annotated[float | None, within(MARK_DEPTH_M)] = None
    notes: Notes = ""


class MarkOut(MarkIn):
    id: int


class MarkPage(Schema):
    items: list[MarkOut]
    count: int


class PlacedMarkOut(MarkOut):
    x_m: float
    y_m: float


class GridOut(Schema):
    """Depth in decimetres on an even grid, row by row from the south-west, -1 where it is not known."""

    x_m: float
    y_m: float
    step_m: float
    columns: int
    depth_dm: list[int]
    deepest_m: float


class ChartOut(Schema):
    """All places are metres east and north of the water's own place."""

    rings: list[list[list[float]]]
    area_m2: float | None
    longest_fetch_km: float | None
    grid: GridOut | None
    drop_offs: list[list[list[float]]]
    soundings: int
    spikes: int
    marks: list[PlacedMarkOut]


class ChartFileOut(Schema):
    """What was taken over from a file."""

    outline: bool
    marks_added: int
    marks_changed: int
    soundings: int
    spikes: int
    notes: list[str]


class SurveyOut(Schema):
    id: int
    name: str
    made_at: datetime
    count: int


class SurveyPage(Schema):
    items: list[SurveyOut]
    count: int


class ShoreOut(Schema):
    """A stretch of shore: the wind blows "onto" it, "along" it or "off" it."""

    x_m: float
    y_m: float
    kind: Literal["onto", "along", "off"]
    fetch_m: float
    wave_high_m: float


class ShoresOut(Schema):
    shores: list[ShoreOut]


class StandingIn(WindIn):
    """A place on the chart, metres east and north."""

    x_m: Metres
    y_m: Metres
    cast_m: Annotated[float, within(CAST_M)] = float(USUAL_CAST_M)


class ExposureOut(Schema):
    from_deg: float
    fetch_m: float
    wave_low_m: float
    wave_high_m: float
    word: str


class CastWayOut(Schema):
    bearing_deg: float
    far_depth_m: float | None


class StandingOut(Schema):
    """What the chart says of a place; `turned` is the same place after the wind has turned."""

    x_m: float
    y_m: float
    latitude_deg: float
    longitude_deg: float
    depth_m: float | None
    now: ExposureOut
    turned: list[ExposureOut]
    rose_deg: list[float]
    rose_m: list[float]
    casts: list[CastWayOut]
    drift_m: float
    drift_s: float | None
    drogue_s: float | None


class SectionIn(WindIn):
    """A line over the chart, from one end to the other [m]."""

    start: tuple[Metres, Metres]
    end: tuple[Metres, Metres]


class SectionOut(Schema):
    """Depth along the line, null where not known; how long a boat drifts along it, null when the wind does not carry it so."""

    distance_m: list[float]
    depth_m: list[float | None]
    drift_s: float | None
    drogue_s: float | None


REFUSALS = {404: Problem, 409: Problem, 422: Problem}


@router.get("/waters/{water_id}/chart", operation_id="get_chart", response={200: ChartOut, 404: Problem})
def get_chart(request: HttpRequest, water_id: int) -> dict[str, Any]:
    """Show a water's chart."""
    return show_chart(water_of(person(request), water_id))


@router.put("/waters/{water_id}/outline", operation_id="put_outline", throttle=DRAWINGS, response={200: ChartOut, **REFUSALS})
def put_outline(request: HttpRequest, water_id: int, payload: OutlineIn) -> dict[str, Any]:
    """Set, replace or take away the outline."""
    owner = person(request)
    water = water_of(owner, water_id)
    jobs.do(owner.pk, object(), lambda: set_outline(water, payload.geometry, payload.ring_m))
    return show_chart(water)


@router.post(
    "/waters/{water_id}/chart-files",
    operation_id="create_chart_file",
    throttle=DRAWINGS,
    response={200: ChartFileOut, **REFUSALS},
)
def create_chart_file(
    request: HttpRequest,
    water_id: int,
    file: File[UploadedFile],
    depth_unit: Form[Literal["m", "ft"] | None] = None,
    epsg: Form[int | None] = None,
) -> dict[str, Any]:
    """Take over outline, marks or soundings from GeoJSON, GPX, an NMEA log or CSV, at most 25 MB: all of it or nothing."""
    owner = person(request)
    water = water_of(owner, water_id)
    if (file.size or 0) > MOST_BYTES:
        raise BadFile(f"The file is larger than {MOST_BYTES // 1_000_000} MB. Thin it first.", field="chart")
    return jobs.do(
        owner.pk,
        object(),
        lambda: take_chart_file(water, file.name or "file", file.read(), depth_unit=depth_unit, epsg=epsg),
    )


@router.get("/waters/{water_id}/chart.geojson", operation_id="export_chart", response={200: None, 404: Problem})
def export_chart(request: HttpRequest, water_id: int) -> HttpResponse:
    """Save the chart as GeoJSON: outline, marks and every sounding."""
    owner = person(request)
    water = water_of(owner, water_id)
    data = jobs.do(owner.pk, ("chart.geojson", water_id), lambda: geojson_of(water))
    return _download(data, "application/geo+json", "chart.geojson")


@router.get("/waters/{water_id}/marks.gpx", operation_id="export_marks", response={200: None, 404: Problem})
def export_marks(request: HttpRequest, water_id: int) -> HttpResponse:
    """Save the marks as GPX waypoints."""
    water = water_of(person(request), water_id)
    return _download(gpx_of(water), "application/gpx+xml", "marks.gpx")


def _download(data: bytes, kind: str, name: str) -> HttpResponse:
    return HttpResponse(data, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@router.get("/waters/{water_id}/surveys", operation_id="list_surveys", response={200: SurveyPage, 404: Problem})
def list_surveys(request: HttpRequest, water_id: int, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List the surveys a chart is drawn from, newest first."""
    return page(Survey.objects.filter(water=water_of(person(request), water_id)).defer("points"), limit, offset)


@router.delete(
    "/waters/{water_id}/surveys/{survey_id}",
    operation_id="delete_survey",
    throttle=DRAWINGS,
    response={204: None, 404: Problem},
)
def delete_survey(request: HttpRequest, water_id: int, survey_id: int) -> Status[None]:
    """Take a survey away; the bottom is drawn anew from the others."""
    owner = person(request)
    water = water_of(owner, water_id)
    jobs.do(owner.pk, object(), lambda: remove_survey(water, survey_id))
    return Status(204, None)


@router.get("/waters/{water_id}/marks", operation_id="list_marks", response={200: MarkPage, 404: Problem})
def list_marks(request: HttpRequest, water_id: int, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List a water's marks by name."""
    return page(marks_of(water_of(person(request), water_id)), limit, offset)


@router.post("/waters/{water_id}/marks", operation_id="create_mark", response={201: MarkOut, **REFUSALS})
def create_mark(request: HttpRequest, water_id: int, payload: MarkIn) -> Status[Mark]:
    """Add a mark."""
    water = water_of(person(request), water_id)
    return Status(201, save_mark(mark=Mark(water=water), changes=payload.dict()))


@router.put("/waters/{water_id}/marks/{mark_id}", operation_id="update_mark", response={200: MarkOut, **REFUSALS})
def update_mark(request: HttpRequest, water_id: int, mark_id: int, payload: MarkIn) -> Mark:
    """Change a mark."""
    return save_mark(mark=mark_of(water_of(person(request), water_id), mark_id), changes=payload.dict())


@router.delete("/waters/{water_id}/marks/{mark_id}", operation_id="delete_mark", response={204: None, 404: Problem})
def delete_mark(request: HttpRequest, water_id: int, mark_id: int) -> Status[None]:
    """Take a mark away."""
    mark_of(water_of(person(request), water_id), mark_id).delete()
    return Status(204, None)


@router.post("/waters/{water_id}/shores", operation_id="create_shores", response={200: ShoresOut, **REFUSALS})
def create_shores(request: HttpRequest, water_id: int, payload: WindIn) -> dict[str, Any]:
    """Show how a wind meets the shore all round."""
    owner = person(request)
    water, wind = water_of(owner, water_id), Wind(payload.wind_speed_mps, payload.wind_from_deg)
    return {"shores": jobs.do(owner.pk, ("shores", water_id, wind), lambda: shores(water, wind))}


@router.post("/waters/{water_id}/standings", operation_id="create_standing", response={200: StandingOut, **REFUSALS})
def create_standing(request: HttpRequest, water_id: int, payload: StandingIn) -> dict[str, Any]:
    """Say what the chart knows of a place: depth, fetch, waves, casts, drift, and the same when the wind turns."""
    wind = Wind(payload.wind_speed_mps, payload.wind_from_deg)
    water = water_of(person(request), water_id)
    return show_standing(water, np.array([payload.x_m, payload.y_m]), wind, payload.cast_m)


@router.post("/waters/{water_id}/sections", operation_id="create_section", response={200: SectionOut, **REFUSALS})
def create_section(request: HttpRequest, water_id: int, payload: SectionIn) -> dict[str, Any]:
    """Cut through the bottom along a line, and say how long a boat drifts along it."""
    wind = Wind(payload.wind_speed_mps, payload.wind_from_deg)
    water = water_of(person(request), water_id)
    return show_section(water, np.array(payload.start), np.array(payload.end), wind)
